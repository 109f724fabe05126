"""What a change of rules means for an entry."""

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.dispatch.differences import difference
from jotgate.core.dispatch.effects import NoticePlanned, RowPlanned
from tests.core.dispatch.rules import OWN, A, B, file, notice, rule, rules, run
from tests.documents import is_

ANSWERS = {"source": "own", "name": "Ines"}


def test_where_it_goes_and_what_is_said_differs() -> None:
    before = run(rules(rule("a", OWN, file(A, name="name"), notice("one"))), ANSWERS)
    after = run(rules(rule("b", OWN, file(B, name="name"), notice("two"))), ANSWERS)
    found = difference(before, after)
    assert found is not None
    assert (found.caught_before, found.caught_after) == ("a", "b")
    assert [type(one) for one in found.gone] == [RowPlanned, NoticePlanned]
    assert [type(one) for one in found.new] == [RowPlanned, NoticePlanned]


def test_the_same_by_another_rule_in_another_order_is_no_difference() -> None:
    before = run(rules(rule("a", OWN, file(A, name="name"), notice("one"))), ANSWERS)
    split = rules(
        rule("c", OWN, notice("one"), catches=False), rule("d", None, file(A, name="name"))
    )
    assert difference(before, run(split, ANSWERS)) is None


def test_what_is_done_twice_differs_from_once() -> None:
    once = run(rules(otherwise=(notice("one"),)), ANSWERS)
    twice = run(rules(otherwise=(notice("one"), notice("one"))), ANSWERS)
    found = difference(once, twice)
    assert found is not None
    assert (len(found.gone), len(found.new)) == (0, 1)


_ACTS: st.SearchStrategy[Any] = st.sampled_from(
    [file(A, name="name"), file(B, name="name"), notice("one"), notice("two"), file(A, n="gone")]
)
_RULES = st.lists(st.tuples(st.booleans(), st.lists(_ACTS, max_size=3)), max_size=4)


@given(_RULES, _RULES)
def test_what_is_gone_and_new_makes_the_one_the_other(one: Any, two: Any) -> None:
    def made(given: Any) -> Any:
        return run(
            rules(
                *(
                    rule(f"r{n}", OWN if holds else is_("source", "mains"), *acts, catches=False)
                    for n, (holds, acts) in enumerate(given)
                )
            ),
            ANSWERS,
        )

    before, after = made(one), made(two)
    assert difference(before, before) is None
    found = difference(before, after)
    gone, new = (found.gone, found.new) if found else ((), ())
    assert len(before.effects) - len(gone) == len(after.effects) - len(new)
    assert all(effect in before.effects for effect in gone)
    assert all(effect in after.effects for effect in new)
