"""The entries of a questionnaire as one table, those of all its editions by key: which columns it
has, what each can be asked, and what an entry says in them."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import say
from jotgate.core.conditions.condition import named
from jotgate.core.conditions.formulas import First
from jotgate.core.entries.about import about_item
from jotgate.core.entries.clearance import needs_clearance
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.facts import Around, fact_items
from jotgate.core.handling import Terms
from jotgate.core.items import (
    Computed,
    DateTime,
    Item,
    Number,
    Option,
    PickOne,
    ShortText,
    YesNo,
    holding,
    inside,
    is_valued,
    options_of,
)
from jotgate.core.items.kinds import KINDS, Holds
from jotgate.core.items.staff_names import staff_name
from jotgate.core.publishing.condition_faults import VISITOR, condition_faults
from jotgate.core.table_views import TableView, order_faults
from jotgate.core.walking.plan import Plan

NUMBER, CARE, ARCHIVED, ABOUT, FINISH, SINCE, LATE, KEPT = (
    "entry.number",
    "entry.care",
    "entry.archived",
    "entry.about",
    "entry.finish",
    "entry.since",
    "entry.late",
    "entry.kept_until",
)

FACTS: Mapping[str, str] = {
    NUMBER: "Number",
    CARE: "Taken care of by",
    SINCE: "Since when it has its status",
    LATE: "Late",
    KEPT: "Kept until",
    ARCHIVED: "In the archive",
    ABOUT: "About",
}
"""What only tables say of an entry, beside `facts.NAMES`."""

FIRST_FACTS = ("entry.arrived", "entry.status", CARE, ABOUT)
"""Those that stand before the answers; the others stand after them."""

Held = Holds | Literal["first"]
"""What is held under a key; "first" is what another question holds, in the form of that one."""


@dataclass(frozen=True)
class Meaning:
    """How it was asked in some editions: `since` one `until` another, both included."""

    since: int
    until: int
    words: str
    kind: str


@dataclass(frozen=True)
class TableColumn:
    """A question, or a fact where `fact` is true. `item` is from the newest edition that has it;
    `other` are editions that hold something of another form under its key, which count as if they
    held nothing. `meanings` are how it was asked where that changed, else there are none."""

    key: str
    label: str
    item: Item
    restricted: bool = False
    fact: bool = False
    other: frozenset[int] = frozenset()
    meanings: tuple[Meaning, ...] = ()

    @property
    def holds(self) -> Held:
        return held_by(self.item)

    @property
    def is_stored_as_text(self) -> bool:
        """Whether answers to it are text where they are stored, in all editions that have it."""
        return not self.other and self.holds in ("text", "number", "day", "time", "moment")


def held_by(item: Item) -> Held:
    if isinstance(item, Computed) and isinstance(item.formula, First):
        return "first"
    return holding(item)


@dataclass(frozen=True)
class EntryTable:
    """`columns` by key, in their order; `language` is the newest edition's first, in which they are
    named; `languages` are all that they can be answered in."""

    columns: Mapping[str, TableColumn]
    language: str
    languages: tuple[str, ...]
    terms: Terms

    @property
    def open(self) -> Mapping[str, TableColumn]:
        return {key: one for key, one in self.columns.items() if not one.restricted}


def table_of(
    plans: Mapping[int, Plan],
    around: Around,
    carers: Mapping[str, str],
    terms: Terms,
) -> EntryTable:
    """The table of entries of these editions, by number, of which there is one at least; `carers`
    are names by what `care_of` gives. The newest edition keeps it, for the next who asks."""
    newest = plans[max(plans)]
    named = (around.links, around.statuses, carers)
    asked = (tuple(plans.items()), [tuple(one.items()) for one in named], terms)
    kept = newest.made.get("table")
    if kept is None or kept[0] != asked:
        kept = newest.made["table"] = (asked, _made(plans, newest, around, carers, terms))
    found: EntryTable = kept[1]
    return found


def _made(
    plans: Mapping[int, Plan],
    newest: Plan,
    around: Around,
    carers: Mapping[str, str],
    terms: Terms,
) -> EntryTable:
    first = newest.questionnaire.first_language
    facts = {one.key: one for one in _facts(newest, around, carers)}
    if not terms.kept:
        facts.pop(KEPT)
    answers = {one.key: one for one in _answers(plans, newest)}
    before = {key: facts[key] for key in FIRST_FACTS if key in facts}
    languages = sorted({one for plan in plans.values() for one in plan.questionnaire.languages})
    return EntryTable({**before, **answers, **facts}, first, tuple(languages), terms)


def _facts(newest: Plan, around: Around, carers: Mapping[str, str]) -> Iterator[TableColumn]:
    document = newest.questionnaire
    first = document.first_language
    found = fact_items(document, around)
    if newest.restrictions.finish:
        found.pop(FINISH, None)

    def called(name: str) -> dict[str, object]:
        return {"key": name.replace(".", "_"), "text": {first: FACTS[name]}}

    found[NUMBER] = Number.model_validate({"kind": "number", **called(NUMBER)})
    found[ARCHIVED] = YesNo.model_validate({"kind": "yes_no", **called(ARCHIVED)})
    found[SINCE] = DateTime.model_validate({"kind": "date_time", **called(SINCE)})
    found[KEPT] = DateTime.model_validate({"kind": "date_time", **called(KEPT)})
    found[LATE] = YesNo.model_validate({"kind": "yes_no", **called(LATE)})
    about = about_item(newest)
    if about is not None and not newest.is_restricted(about.key):
        found[ABOUT] = ShortText.model_validate({"kind": "short_text", **called(ABOUT)})
    if carers:
        options = [Option(code=code, label={first: name}) for code, name in carers.items()]
        found[CARE] = PickOne.model_validate(
            {"kind": "pick_one", "options": options, **called(CARE)}
        )
    for name, item in found.items():
        yield TableColumn(name, staff_name(item, first), item, fact=True)


def _answers(plans: Mapping[int, Plan], newest: Plan) -> Iterator[TableColumn]:
    """The questions of the newest edition in their order, then those that it has no more."""
    seen: set[str] = set()
    for number in sorted(plans, reverse=True):
        for item in plans[number].questionnaire.items():
            if is_valued(item) and item.key not in seen:
                seen.add(item.key)
                yield _answer(item, plans, number, newest)


def _answer(item: Item, plans: Mapping[int, Plan], number: int, newest: Plan) -> TableColumn:
    plan = plans[number]
    asked = {n: one.items[item.key] for n, one in sorted(plans.items()) if item.key in one.items}
    other = frozenset(n for n, one in asked.items() if _form(one) != _form(item))
    meanings = tuple(_meanings(asked, plans))
    return TableColumn(
        item.key,
        staff_name(item, plan.questionnaire.first_language),
        item,
        restricted=needs_clearance(plan, newest, item.key),
        other=other,
        meanings=meanings if len(meanings) > 1 else (),
    )


def _form(item: Item) -> tuple[object, ...]:
    return (held_by(item), tuple((one.key, held_by(one)) for one in inside(item)))


def _meanings(asked: Mapping[int, Item], plans: Mapping[int, Plan]) -> Iterator[Meaning]:
    """How it was asked, one for each stretch of editions in which that was the same."""
    last: Meaning | None = None
    before: object = None
    for number, item in asked.items():
        first = plans[number].questionnaire.first_language
        words = say(getattr(item, "text", {}), first, first)
        options = [(one.code, say(one.label, first, first)) for one in options_of(item)]
        now = (words, _form(item), options)
        if last is not None and now == before:
            last = Meaning(last.since, number, words, last.kind)
            continue
        if last is not None:
            yield last
        last, before = Meaning(number, number, words, KINDS[item.kind].name), now
    if last is not None:
        yield last


TEAM = "t-"
"""Before the id of a team, where who takes care is one code."""


def team_code(id: UUID | str) -> str:
    return f"{TEAM}{id}"


def care_of(entry: Entry) -> str:
    """Who takes care, as conditions name them: a person by id, a team by its code; empty for
    nobody."""
    if entry.care_team_id:
        return team_code(entry.care_team_id)
    return str(entry.carer_id or "")


def view_faults(view: TableView, table: EntryTable) -> Iterator[Fault]:
    """What of a view cannot be looked at."""
    items = {key: one.item for key, one in table.open.items()}
    lead = "The filter asks for"
    missing = ("no_column", "which is no column that can be asked for")
    yield from condition_faults(view.filter, items, table.language, "filter", lead, missing)
    for name in sorted(named(view.filter)):
        if VISITOR.fullmatch(name) and name not in items:
            message = f"{lead} {name}, {missing[1]}."
            yield Fault(code=missing[0], at="filter", message=message)
    yield from order_faults(view, items, "what can be sorted")
