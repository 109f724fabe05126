"""Entries as people read them: what stands in tables and in the reading pane."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from uuid import UUID

from pydantic import BaseModel

from jotgate.core.answers.file_kinds import kind_of
from jotgate.core.common.values import Value
from jotgate.core.common.wording import say
from jotgate.core.entries.about import Thing, about_item, thing
from jotgate.core.entries.clearance import needs_clearance
from jotgate.core.entries.display import Reader, files_in
from jotgate.core.entries.entry import Entry, Stored
from jotgate.core.entries.stored import values_of
from jotgate.core.items import Item, is_valued
from jotgate.core.items.staff_names import staff_name
from jotgate.core.walking.plan import Plan
from jotgate.services.staff.links.came_by import CameBy, Linked


class ColumnOut(BaseModel):
    """`section` is the heading of the page that it stands on, empty where that has none."""

    key: str
    label: str
    kind: str
    restricted: bool
    section: str = ""


class ThingOut(BaseModel):
    """What an entry is about, in another system; `address` is empty where that shows nothing."""

    id: str
    name: str
    address: str


class LinkedOut(BaseModel):
    """An entry, perhaps of another questionnaire, that this one goes on from or goes on in."""

    questionnaire_id: UUID
    entry_id: UUID
    title: str
    number: int


class CalledOut(BaseModel):
    id: UUID
    name: str


class CameByOut(BaseModel):
    """`name` is that of a named link, or of passes with the `number` of their row; `contact` is who
    came."""

    name: str
    number: int | None
    contact: CalledOut | None
    before: LinkedOut | None
    after: list[LinkedOut]
    others: list[LinkedOut] = []
    staff: str = ""


class CareOut(BaseModel):
    """Who takes care: a person or a team, by name."""

    person_id: UUID | None
    team_id: UUID | None
    name: str


class EntryOut(BaseModel):
    """An entry. `answers` read as a person reads them, by key.

    `withheld` are the restricted questions that were answered, None without clearance; `finish`
    is empty where it is restricted, `status` the key of where it stands, empty for the first one,
    `since` when it does. `language` is the one it was answered in, `link_id` the link it came by,
    `entered` how it came to somebody of the office who entered it, empty where nobody did.
    """

    id: UUID
    number: int
    edition: int
    arrived: datetime
    finish: str
    answers: dict[str, str]
    withheld: list[str] | None
    flags: list[str]
    since: datetime
    status: str = ""
    archived: datetime | None = None
    care: CareOut | None = None
    about: ThingOut | None = None
    language: str = ""
    link_id: UUID | None = None
    corrected: bool = False
    anonymised: datetime | None = None
    entered: str = ""


class LineOut(BaseModel):
    heading: str
    cells: list[str]


class EntryFileOut(BaseModel):
    """A file that came with the entry. `size` is in bytes; pictures and PDFs have a preview."""

    id: UUID
    name: str
    size: int
    type: str
    preview: bool


class DetailOut(BaseModel):
    """What an answer has besides its words: a table, files, a drawn line (SVG path data)."""

    columns: list[str] = []
    lines: list[LineOut] = []
    files: list[EntryFileOut] = []
    drawn: str = ""


def columns_of(plan: Plan | None, newest: Plan | None, language: str = "") -> list[ColumnOut]:
    """The questions of an edition by the names that staff give them, or as they are asked in a
    `language`."""
    if plan is None:
        return []
    reader = Reader(plan, language)
    found = []
    for page in plan.questionnaire.pages:
        section = reader.say(page.title)
        for item in page.items:
            if is_valued(item):
                label = reader.say(getattr(item, "text", None)) if language else ""
                found.append(
                    ColumnOut(
                        key=item.key,
                        label=label or staff_name(item, plan.questionnaire.first_language),
                        kind=item.kind,
                        restricted=needs_clearance(plan, newest, item.key),
                        section=section,
                    )
                )
    return found


def in_full(
    plan: Plan, answers: Stored, language: str = ""
) -> tuple[dict[str, str], dict[str, DetailOut]]:
    """Answers as a person reads them, in the first language or another, and what some have besides
    their words."""
    reader, values = Reader(plan, language), values_of(plan.items, answers)
    found = {key: _detail(reader, plan.items[key], value) for key, value in values.items()}
    return reader.all(values), {key: one for key, one in found.items() if one is not None}


def _detail(reader: Reader, item: Item, value: Value) -> DetailOut | None:
    table = reader.table(item, value)
    files = [
        EntryFileOut(
            id=UUID(one.id),
            name=one.name,
            size=one.size,
            type=one.type,
            preview=kind_of(one.type) in ("picture", "pdf"),
        )
        for one in files_in(value)
    ]
    drawn = value.get("drawn", "") if item.kind == "signature" and isinstance(value, dict) else ""
    if table is None and not files and not drawn:
        return None
    out = DetailOut(files=files, drawn=str(drawn))
    if table is not None:
        out.columns = list(table.columns)
        out.lines = [LineOut(heading=one.heading, cells=list(one.cells)) for one in table.lines]
    return out


def entry_out(
    entry: Entry,
    plan: Plan,
    words: dict[str, str],
    withheld: Sequence[str] | None,
    carers: Mapping[UUID, str],
) -> EntryOut:
    return EntryOut(
        id=entry.id,
        number=entry.number,
        edition=entry.edition,
        arrived=entry.arrived,
        finish=finish_name(plan, entry.finish),
        answers=words,
        withheld=None if withheld is None else list(withheld),
        flags=list(entry.flags),
        status=entry.status,
        since=entry.since,
        archived=entry.archived,
        care=_care(entry, carers),
        language=entry.language,
        link_id=entry.link_id,
        corrected=entry.corrected,
        entered=entry.entered,
        anonymised=entry.anonymised,
        about=_about(entry, plan),
    )


def _about(entry: Entry, plan: Plan) -> ThingOut | None:
    if about_item(plan) is None:
        return None
    return thing_out(thing(plan, values_of(plan.items, entry.answers)))


def _care(entry: Entry, carers: Mapping[UUID, str]) -> CareOut | None:
    id = entry.carer_id or entry.care_team_id
    if id is None:
        return None
    name = carers.get(id, "")
    return CareOut(person_id=entry.carer_id, team_id=entry.care_team_id, name=name)


def thing_out(found: Thing | None) -> ThingOut | None:
    return ThingOut(**vars(found)) if found else None


def linked_out(one: Linked) -> LinkedOut:
    return LinkedOut(**vars(one))


def came_out(came: CameBy) -> CameByOut:
    return CameByOut(
        name=came.name,
        number=came.number,
        contact=came.contact and CalledOut(id=came.contact[0], name=came.contact[1]),
        before=came.before and linked_out(came.before),
        after=[linked_out(one) for one in came.after],
        others=[linked_out(one) for one in came.others],
        staff=came.staff,
    )


def finish_name(plan: Plan, key: str) -> str:
    first = plan.questionnaire.first_language
    return say(plan.finishes[key].title, first, first) if key else ""


def entry_row(
    entry: Entry, reader: Reader, withheld: Sequence[str] | None, carers: Mapping[UUID, str]
) -> EntryOut:
    """An entry as a table shows it; `reader` is of its edition."""
    return entry_out(entry, reader.plan, reader.stored(entry.answers), withheld, carers)
