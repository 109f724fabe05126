"""Random questionnaires that can be published, and random answers to them."""

from typing import Any

from hypothesis import strategies as st

from jotgate.core.document.questionnaire import Questionnaire
from tests.documents import item, options, page, questionnaire

CODES = ("a", "b", "c")
DAYS = ("2026-01-31", "2026-02-28", "2026-11-25")
KINDS = ("yes_no", "pick_one", "pick_many", "number", "scale", "date")
ORDERED = ("number", "scale", "date")


@st.composite
def conditions(draw: st.DrawFn, keys: list[tuple[str, str]], depth: int = 2) -> dict[str, Any]:
    """A condition over `keys`, pairs of key and kind."""
    if depth and draw(st.integers(0, 3)) == 0:
        op = draw(st.sampled_from(["all", "any", "not"]))
        inner = conditions(keys, depth - 1)
        if op == "not":
            return {"op": op, "part": draw(inner)}
        return {"op": op, "parts": draw(st.lists(inner, min_size=1, max_size=3))}
    key, kind = draw(st.sampled_from(keys))
    op = draw(st.sampled_from(["is", "is_not", "answered", "unanswered", "one_of", "at_least"]))
    if op in ("answered", "unanswered"):
        return {"op": op, "item": key}
    values = {
        "yes_no": st.booleans(),
        "pick_one": st.sampled_from(CODES),
        "pick_many": st.sampled_from(CODES),
        "number": st.integers(0, 5).map(str),
        "scale": st.integers(0, 5).map(str),
        "date": st.sampled_from(DAYS),
    }[kind]
    if kind == "pick_many":
        return {"op": "includes", "item": key, "value": draw(values)}
    if op == "one_of":
        return {"op": op, "item": key, "values": draw(st.lists(values, min_size=1, max_size=2))}
    if op == "at_least" and kind not in ORDERED:
        op = "is"
    return {"op": op, "item": key, "value": draw(values)}


@st.composite
def questionnaires(draw: st.DrawFn) -> Questionnaire:
    page_count = draw(st.integers(1, 5))
    finishes = ("end", "early")
    known: list[tuple[str, str]] = []
    pages = []

    def maybe() -> Any:
        return draw(st.none() | conditions(known)) if known else None

    for number in range(page_count):
        shown_when = maybe() if number else None
        items = []
        for position in range(draw(st.integers(1, 3))):
            kind = draw(st.sampled_from(KINDS))
            key = f"q{number}_{position}"
            more: dict[str, Any] = (
                {"options": options(*CODES)} if kind in ("pick_one", "pick_many") else {}
            )
            required = draw(st.booleans())
            items.append(item(kind, key, required=required, shown_when=maybe(), **more))
            known.append((key, kind))
        targets = [{"kind": "finish", "finish": key} for key in finishes]
        targets += [{"kind": "page", "page": f"p{n}"} for n in range(number + 1, page_count)]
        skips = [
            {"when": draw(conditions(known)), "to": draw(st.sampled_from(targets))}
            for _ in range(draw(st.integers(0, 2)))
        ]
        pages.append(page(f"p{number}", *items, shown_when=shown_when, skips=skips))
    return questionnaire(*pages, finishes=finishes)


@st.composite
def answers(draw: st.DrawFn, of: Questionnaire) -> dict[str, Any]:
    """Answers to some of the items, on the path or not; a few of them wrong."""
    kinds: dict[str, st.SearchStrategy[Any]] = {
        "yes_no": st.booleans(),
        "pick_one": st.sampled_from([*CODES, "nowhere"]),
        "pick_many": st.lists(st.sampled_from([*CODES, "nowhere"]), max_size=3),
        "number": st.sampled_from(["0", "1", "2", "3", "5", "1.5", "x", 4]),
        "scale": st.sampled_from(["1", "2", "5", "6", 4]),
        "date": st.sampled_from([*DAYS, "2026-02-30", "soon"]),
    }
    return {one.key: draw(kinds[one.kind]) for one in of.items() if draw(st.integers(0, 4)) > 0}
