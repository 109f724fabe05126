"""Whom a round asks: counted beforehand, drawn by chance, released in portions."""

import asyncio
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from uuid import UUID

from jotgate.core.common.errors import Invalid
from jotgate.core.common.today import Today, today_in
from jotgate.core.conditions.condition import named
from jotgate.core.records.accounts import Account
from jotgate.core.records.rounds import Drawn, KeptRound
from jotgate.core.records.work import Work
from jotgate.core.rounds.drawing import by_chance, drawn_by_strata, portions, proportional
from jotgate.core.rounds.faults import Around, people_faults
from jotgate.core.rounds.round import Draw, Round
from jotgate.core.rounds.schedule import sound_zone
from jotgate.services.context import Context
from jotgate.services.rounds.state import RoundState, around, kept_round, look_again
from jotgate.services.rounds.whom import fitting
from jotgate.services.staff.rights import needs
from jotgate.services.staff.rounds.rounds import may_change
from jotgate.services.trail import note
from jotgate.store import work
from jotgate.store.base import Connection
from jotgate.store.rounds import people, rounds

NOBODY = "Nobody on this list can be asked."
Strata = Mapping[str, Sequence[UUID]]


@dataclass(frozen=True)
class Sample:
    """By stratum, how many there are to draw from, and how many would be drawn."""

    of: Mapping[str, int]
    drawn: Mapping[str, int]


async def seen(context: Context, account: Account, id: UUID, round: Round) -> Sample:
    """How many would be drawn of how many, as things are. Raises Invalid."""
    async with context.engine.connect() as conn:
        await may_change(conn, account, id)
        about, zone = await around(conn, id)
        found = await _frame(conn, round, about, today_in(zone, context.clock.now()))
    sizes = _sizes(round.draw, found)
    return Sample({name: len(ids) for name, ids in found.items()}, sizes)


async def _frame(
    conn: Connection, round: Round, about: Around, today: Today
) -> dict[str, list[UUID]]:
    """Who can be drawn, by stratum. Raises Invalid."""
    wrong = list(people_faults(round, about))
    if wrong:
        raise Invalid(wrong[0].message, wrong)
    assert round.people.list_id is not None
    only, by = round.people.only, round.draw.by
    names = sorted({*(named(only) if only else ()), *([by] if by else ())})
    alike = await people.alike_on_list(conn, round.people.list_id, names)
    fits = set(fitting(only, about.fields, alike, today)) if only else None
    found: dict[str, list[UUID]] = {}
    for said, ids in alike:
        stratum = (said[by] or "") if by else ""
        found.setdefault(stratum, []).extend(one for one in ids if fits is None or one in fits)
    return {name: ids for name, ids in sorted(found.items()) if ids}


def _sizes(draw: Draw, found: Strata) -> dict[str, int]:
    counts = {name: len(ids) for name, ids in found.items()}
    if draw.sizes:
        return {name: min(draw.sizes.get(name, 0), count) for name, count in counts.items()}
    return counts if draw.size is None else proportional(counts, draw.size)


async def draw(
    context: Context, account: Account, id: UUID, round_id: UUID, seed: str
) -> RoundState:
    """Draw who is asked, which stays as it is from then on. Without a seed one is made, and kept.
    Raises Invalid."""
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        one = await kept_round(conn, id, round_id, lock=True)
        if one.drawn is not None:
            raise Invalid("Who is asked was drawn already.")
        about, zone = await around(conn, id)
        now = context.clock.now()
        frame = await _frame(conn, one.round, about, today_in(zone, now))
        if not frame:
            raise Invalid(NOBODY)
        kept_seed = seed.strip() or one.round.draw.seed or str(context.ids.id())
        asked = replace(
            one,
            round=one.round.model_copy(
                update={"draw": one.round.draw.model_copy(update={"seed": kept_seed})}
            ),
            revision=one.revision + 1,
            state="running",
            drawn=now,
            drawn_from=sum(map(len, frame.values())),
        )
        sizes = _sizes(asked.round.draw, frame)
        chosen = await asyncio.to_thread(_drawn, asked.round, frame, sizes)
        if not chosen:
            raise Invalid("With these sizes nobody is drawn.")
        zones = await _zones(conn, asked, zone, [id for id, _, _ in chosen])
        each = (
            Drawn(id, number, stratum, zones.get(id, zone), portion)
            for number, (id, stratum, portion) in enumerate(chosen, 1)
        )
        await rounds.put_drawn(conn, asked)
        count = await people.draw(conn, asked, each)
        name = asked.round.name
        await note(context, conn, account.id, "round_drawn", id, name=name, count=count)
        return await look_again(conn, asked, now)


def _drawn(round: Round, frame: Strata, sizes: Mapping[str, int]) -> list[tuple[UUID, str, int]]:
    """Who is drawn, in an order by chance over all strata, each with stratum and portion."""
    seed = round.draw.seed
    by_stratum = drawn_by_strata(frame, sizes, seed)
    stratum = {id: name for name, ids in by_stratum.items() for id in ids}
    order = by_chance(stratum, seed)
    return [
        (id, stratum[id], number)
        for number, some in enumerate(portions(order, round.portions), 1)
        for id in some
    ]


async def _zones(
    conn: Connection, one: KeptRound, zone: str, ids: Sequence[UUID]
) -> dict[UUID, str]:
    field = one.round.zone_field
    if not field:
        return {}
    said = await people.zones_of(conn, ids, field)
    return {id: sound_zone(text, zone) for id, text in said.items()}


async def ask_release(context: Context, account: Account, id: UUID, round_id: UUID) -> Work:
    """Have the next portion released by the worker, which makes its passes first. Raises
    Invalid."""
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        one = await kept_round(conn, id, round_id, lock=True)
        if one.drawn is None:
            raise Invalid("Draw who is asked first.")
        sizes, released = await rounds.sizes(conn, one), await rounds.released(conn, one)
        number = next((number for number in sizes if number not in released), None)
        if number is None:
            raise Invalid("Everybody who was drawn is released.")
        now = context.clock.now()
        said = {"round_id": str(round_id), "portion": number}
        asked = Work(
            context.ids.id(), account.id, id, "release", "waiting", 0, sizes[number], said, {}, now
        )
        await work.ask(conn, asked, context.queue)
    return asked


async def sizes(context: Context, account: Account, id: UUID, one: KeptRound) -> dict[int, int]:
    """How many people each portion has."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        return await rounds.sizes(conn, one)
