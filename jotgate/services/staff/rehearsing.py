"""Rehearsal: what rules would do with a past entry, and nothing done."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.dispatch.effects import Effect, Planned, RowPlanned
from jotgate.core.dispatch.planning import planned
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.entries.clearance import opened
from jotgate.core.entries.entry import Entry
from jotgate.core.records.accounts import Account
from jotgate.core.records.dispatch import Row
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.edits import differences
from jotgate.core.rights import IN_THING, reaches
from jotgate.services.context import Context
from jotgate.services.dispatch.known import known_to, subject
from jotgate.services.dispatch.rows import NotFiled, alike, meant
from jotgate.services.resealing import newest_plan
from jotgate.services.staff.dispatch_rules import refuse_unusable
from jotgate.services.staff.rights import needs, roles
from jotgate.store import entries
from jotgate.store.base import Connection


@dataclass(frozen=True)
class RowMoved:
    """A row that is there, or would be by an act before (with an id under zero): the cells that
    change, as they are and as they become."""

    id: int
    before: Mapping[str, Cell]
    after: Mapping[str, Cell]


@dataclass(frozen=True)
class Rehearsed:
    """What would come of an effect: of a row that is brought up to date what changes, and why it
    would not be done."""

    effect: Effect
    rows: tuple[RowMoved, ...] = ()
    why_not: str = ""


@dataclass(frozen=True)
class Rehearsal:
    """`beside` are the numbers of the entries before and after it."""

    entry: Entry
    beside: tuple[int | None, int | None]
    planned: Planned
    effects: tuple[Rehearsed, ...]


async def rehearse(
    context: Context,
    account: Account,
    questionnaire_id: UUID,
    rules: Dispatch,
    number: int | None,
) -> Rehearsal:
    """What `rules` would do with a past entry, the newest up to `number`; nothing is done.

    Rows of a register that `account` may not read are not shown. Raises NotFound, Invalid.
    """
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", questionnaire_id)
        before = None if number is None else number + 1
        found = await entries.newest(conn, questionnaire_id, before, 1)
        if not found:
            raise NotFound("There is no entry to rehearse with.")
        plan = await context.plan(conn, questionnaire_id, found[0].edition)
        newest = await newest_plan(context, conn, questionnaire_id)
        known = await known_to(conn, questionnaire_id, context.clock.now())
        await refuse_unusable(rules, plan, known)
        entry, _ = opened(found[0], plan, newest)
        result = planned(rules, await subject(context, conn, entry, known))
        own = await roles(conn, account, "register")
        readable = frozenset(id for id in known.registers if reaches(own.of(id), IN_THING["read"]))
        beside = await entries.beside(conn, questionnaire_id, entry.number)
        so_far = _SoFar()
        shown = [await _rehearsed(conn, entry, one, readable, so_far) for one in result.effects]
    return Rehearsal(entry, beside, result, tuple(shown))


@dataclass
class _SoFar:
    """What the effects before would have made of the rows of registers: a later one finds that.
    Rows that would be new have ids under zero."""

    rows: dict[UUID, dict[int, Row]] = field(default_factory=dict)

    def alike(self, effect: RowPlanned, found: Sequence[Row]) -> list[Row]:
        """The rows that are alike by then, the oldest first."""
        known = self.rows.get(effect.register_id, {})
        cells = (effect.alike or {}).items()
        others = [one for one in found if one.id not in known]
        here = [one for one in known.values() if all(one.values.get(k) == v for k, v in cells)]
        return sorted((*others, *here), key=lambda one: (one.id < 0, abs(one.id)))

    def put(self, effect: RowPlanned, changed: Sequence[Row], entry: Entry) -> None:
        known = self.rows.setdefault(effect.register_id, {})
        new = Row(-len(known) - 1, {}, entry.number, entry.arrived)
        for row in changed or (new,):
            known[row.id] = replace(row, values=effect.brought(row.values))


async def _rehearsed(
    conn: Connection, entry: Entry, effect: Effect, readable: frozenset[UUID], so_far: _SoFar
) -> Rehearsed:
    if not isinstance(effect, RowPlanned) or effect.register_id not in readable:
        return Rehearsed(effect)
    found = so_far.alike(effect, await alike(conn, effect)) if effect.matching else []
    try:
        rows = meant(effect, found)
    except NotFiled as why:
        return Rehearsed(effect, why_not=str(why))
    so_far.put(effect, rows, entry)
    moved = [(row.id, *differences(row.values, effect.brought(row.values))) for row in rows]
    return Rehearsed(effect, tuple(RowMoved(*one) for one in moved))
