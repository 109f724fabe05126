"""How much is tried: what is easy is decided beside what is hard, and time that is up ends it."""

import time
from random import Random

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof import Budget, prove
from tests.documents import TODAY, is_, item, options, page, questionnaire, skip, to_finish, to_page


def test_what_is_easy_is_decided_beside_what_is_hard() -> None:
    """Rules under conditions that take a solver long (a pigeonhole each) come last, and would
    be tried first: they leave enough for all the others."""
    holes = [f"o{n}" for n in range(8)]
    keys = [f"h{n}" for n in range(9)]
    apart = [
        {"op": "not", "part": {"op": "all", "parts": [is_(a, code), is_(b, code)]}}
        for n, a in enumerate(keys)
        for b in keys[n + 1 :]
        for code in holes
    ]
    parts = [{"op": "all", "parts": apart[n : n + 40]} for n in range(0, len(apart), 40)]
    first = page(
        "first", *(item("pick_one", k, required=True, options=options(*holes)) for k in keys)
    )
    codes = [f"c{n}" for n in range(40)]
    easy = [
        page(
            f"p{n}",
            item("pick_one", f"q{n}", required=True, options=options(*codes)),
            skips=[skip(is_(f"q{n}", code), to_page(f"p{n + 1}")) for code in codes[1:]],
        )
        for n in range(12)
    ]
    hard = [
        skip({"op": "all", "parts": [*parts, is_("z", f"z{n}")]}, to_finish("no")) for n in range(6)
    ]
    last = item("pick_one", "z", required=True, options=options(*(f"z{n}" for n in range(6))))
    made = questionnaire(first, *easy, page("p12", last, skips=hard), finishes=("done", "no"))
    proof = prove(made, TODAY, Budget(each=2_000, whole=3_000))
    assert {at.split("/")[1] for at in proof.open} <= {"p12", "no"}


def many_ways(pages: int, rules: int) -> Questionnaire:
    """Pages with a rule for each of `rules` answers, some with an answer before it as well."""
    dice = Random(1)
    codes = [f"c{n}" for n in range(rules + 2)]
    made = []
    for number in range(pages):
        skips = []
        for code in codes[1:-1]:
            parts = [is_(f"q{number}", code)]
            if number and dice.random() < 0.4:
                parts.append(is_(f"q{dice.randrange(number)}", dice.choice(codes)))
            further = dice.randrange(number + 1, min(pages + 1, number + 20))
            to = to_page(f"p{further}") if further < pages else to_finish("done")
            skips.append(skip({"op": "all", "parts": parts}, to))
        asked = item("pick_one", f"q{number}", required=True, options=options(*codes))
        made.append(page(f"p{number}", asked, skips=skips))
    return questionnaire(*made, finishes=("done",))


def test_time_that_is_up_leaves_the_rest_open() -> None:
    """What was found until then is told, and nothing is said of what was not looked for."""
    made = many_ways(40, 10)
    late = prove(made, TODAY, Budget(until=time.monotonic()))
    assert {one.level for one in late.findings} <= {"advice"}
    assert len(late.open) > 400
    some = prove(made, TODAY, Budget(until=time.monotonic() + 0.4))
    whole = prove(made, TODAY)
    assert len(whole.open) < len(late.open)
    never = {one.at for one in whole.findings}
    assert all(one.at in never for one in some.findings)
