"""Rehearsal is the truth: what it shows of any rules and entry is what the run then does."""

from dataclasses import dataclass, replace
from random import Random
from typing import Any
from uuid import UUID

import orjson
from sqlalchemy import insert, text

from jotgate.core.contacts.contact import Origin
from jotgate.core.dispatch.effects import (
    CallPlanned,
    NoticePlanned,
    NotPlanned,
    RowPlanned,
)
from jotgate.core.dispatch.replaying import detail_of, kind_of
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.handling import Handling
from jotgate.core.records.accounts import Team
from jotgate.core.records.dispatch import Run
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.dispatch.sending import call_due, send_due
from jotgate.services.staff.dispatch import dispatch_rules, hooks, rehearsing
from jotgate.services.staff.dispatch.rehearsing import Rehearsed
from jotgate.services.staff.entries import entries, handling
from jotgate.services.staff.registers import registers
from jotgate.store.accounts import parts
from jotgate.store.contacts import contacts, lists, opt_outs
from jotgate.store.entries.entry_tables import entry_ways
from tests.conftest import Post
from tests.core.dispatch.rules import composed, file, notice, rule
from tests.documents import is_
from tests.scenes import Scene
from tests.services.dispatching import OtherSystem

CASES = 80

SAID = (
    *("Ines", "ada@example.org", "out@example.org", "<b>Ada</b> & co", "نور", "a\u202eb"),
    *("[x](https://y.example)", "=1+1", "x" * 40),
)
TEXTS = ("{name}", "{name|nobody} in {district}", "{source:code}{entry_number}", "no slot")


@dataclass(frozen=True)
class Named:
    """What rules name: a system to call, a team, and a contact list."""

    hook: UUID
    team: UUID
    list: UUID


def acts(random: Random, scene: Scene, known: Named) -> list[dict[str, Any]]:
    """Any kind of act, that goes well or not."""
    register = random.choice([scene.saltings.id, scene.rest.id])
    name: Any = random.choice(
        ["name", composed(random.choice(TEXTS)), {"kind": "fixed", "text": "F"}]
    )
    drinkers: Any = random.choice(["drinkers", composed("{drinkers}"), composed("{name}")])
    matching = {
        "columns": random.choice([["name"], ["name", "drinkers"]]),
        "none": random.choice(["add", "leave", "ask"]),
        "several": random.choice(["first", "last", "all", "add", "leave", "ask"]),
    }
    filed = file(register, name=name, drinkers=drinkers)
    whom = random.choice(["a@example.org", {"kind": "answer", "name": "name"}])
    found = [
        random.choice([filed, {**filed, "matching": matching}]),
        notice(
            random.choice(TEXTS),
            random.choice(TEXTS),
            whom,
            whole=random.random() < 0.5,
            printed=random.random() < 0.2,
            gathered=random.choice(["at_once", "hourly", "daily"]),
        ),
        {"kind": "call", "hook_id": str(known.hook)},
        {"kind": "status", "status": "in"},
        care(random, scene, known.team),
        {"kind": "contact", "field": random.choice(["name", "phone"]), "source": entry("name")},
        {"kind": "value", "key": "district", "source": random.choice([entry("name"), FIXED])},
        {**consent(random), "list_id": str(known.list), "email": "name", "name": "name"},
    ]
    return random.sample(found, random.randint(1, 5))


FIXED = {"kind": "fixed", "text": "saltings"}


def entry(name: str) -> dict[str, str]:
    return {"kind": "entry", "name": name}


def care(random: Random, scene: Scene, team: UUID) -> dict[str, Any]:
    person = {"kind": "person", "person_id": str(scene.reviewer.id)}
    whole = {"kind": "team", "team_id": str(team)}
    return {"kind": "care", "who": random.choice([person, whole, {**whole, "in_turn": True}])}


def consent(random: Random) -> dict[str, str]:
    option = random.choice(["own", "own", "mains"])
    return {"kind": "list", "consent": "source", "option": option}


def rules_of(random: Random, scene: Scene, known: Named) -> Dispatch:
    conditions = [
        None,
        is_("source", "own"),
        is_("entry.weekday", "wed"),
        {"op": "at_least", "item": "drinkers", "value": "3"},
        {"op": "unanswered", "item": "contact.name"},
    ]
    made = [
        rule(
            f"r{n}",
            random.choice(conditions),
            *acts(random, scene, known),
            catches=random.random() < 0.5,
            off=random.random() < 0.1,
        )
        for n in range(random.randint(0, 4))
    ]
    return Dispatch.model_validate({"rules": made, "otherwise": acts(random, scene, known)[:2]})


def same(shown: Rehearsed, run: Run) -> str:
    """Hold a run against what was shown of it; which kind of thing it was."""
    effect = shown.effect
    match effect:
        case NotPlanned():
            state = "left_out" if effect.left_out else "failed"
            assert (run.kind, run.state, run.last_error) == (effect.kind, state, effect.why)
            return "not planned"
        case NoticePlanned():
            detail = [getattr(effect, name) for name in ("to", "subject", "plain", "html")]
            assert [run.detail[name] for name in ("to", "subject", "plain", "html")] == detail
            return "notice"
        case CallPlanned():
            assert run.detail == {"hook_id": str(effect.hook_id), "body": effect.body}
            return "call"
        case _ if not isinstance(effect, RowPlanned):
            assert run.kind == kind_of(effect)
            if shown.why_not:
                assert (run.state, run.last_error) == ("left_out", shown.why_not)
                return f"no {run.kind}"
            assert (run.state, run.detail) == ("done", detail_of(effect))
            return run.kind
        case RowPlanned():
            if shown.why_not:
                assert run.state in ("failed", "left_out")
                assert run.last_error == shown.why_not
                return "no row"
            assert run.detail["added"] is not bool(shown.rows)
            assert not shown.rows or shown.rows[0].id in (run.detail["row"], -1, -2, -3, -4)
            return "changed" if shown.rows else "added"


async def things_to_name(scene: Scene, context: Context) -> Named:
    address = "https://lab.example.org/"
    hook = (await hooks.add(context, scene.coordinator, scene.id, "Lab", address)).hook.id
    people = (scene.coordinator.id, scene.reviewer.id)
    known = Named(hook, context.ids.id(), context.ids.id())
    async with context.engine.begin() as conn:
        await parts.add_team(conn, Team(known.team, "Crew", "", people))
        await lists.add(conn, known.list, "Letters", context.clock.now())
        await opt_outs.add(conn, "out@example.org", context.clock.now())
    return known


async def came_by(context: Context, scene: Scene, entry_id: UUID, contact: UUID) -> None:
    """Have an entry come by a contact, which is made where it is not there yet."""
    async with context.engine.begin() as conn:
        if await contacts.find(conn, contact) is None:
            await contacts.add(
                conn, contact, {"name": "Cyd"}, None, Origin(context.clock.now(), "a test")
            )
        way = {"questionnaire_id": scene.id, "entry_id": entry_id, "contact_id": contact}
        await conn.execute(insert(entry_ways).values(**way))


async def test_what_is_shown_is_what_is_done(scene: Scene, context: Context, post: Post) -> None:
    """One entry after the other, each under rules of its own. Every kind of effect comes about."""
    random = Random(1)
    statuses = Handling.model_validate({"statuses": [{"key": "in", "name": "In"}]})
    await handling.save(context, scene.coordinator, scene.id, statuses, 1)
    known = await things_to_name(scene, context)
    seen: dict[str, int] = {}
    for number in range(CASES):
        saved = await dispatch_rules.find(context, scene.coordinator, scene.id)
        rules = rules_of(random, scene, known)
        await dispatch_rules.save(context, scene.coordinator, scene.id, rules, saved.revision)
        given = {"drinkers": str(random.randint(1, 5))} if random.random() < 0.7 else {}
        taken = await scene.submit(f"k{number}", name=random.choice(SAID), **given)
        if random.random() < 0.4:
            await came_by(context, scene, taken.id, known.list)
        shown = await rehearsing.rehearse(context, scene.coordinator, scene.id, rules, taken.number)
        await dispatch_entry(context, scene.id, taken.id)
        read = await entries.read(context, scene.coordinator, scene.id, taken.id)
        runs = {(run.rule, run.position, run.part): run for run in read.runs}
        places = [vars(one.effect.at) for one in shown.effects]
        assert set(runs) == {tuple(place.values()) for place in places}
        for one in shown.effects:
            at = one.effect.at
            kind = same(one, runs[at.rule, at.position, at.part])
            seen[kind] = seen.get(kind, 0) + 1
    wanted = {"not planned", "notice", "call", "status", "no row", "changed", "added"}
    wanted |= {"care", "contact", "value", "list", "no list"}
    assert set(seen) == wanted, seen
    assert (await registers.every(context, scene.coordinator))[0].rows
    await all_is_sent_as_shown(scene, context, post)


async def all_is_sent_as_shown(scene: Scene, context: Context, post: Post) -> None:
    """Byte for byte: letters and calls as they stand in their runs."""
    other = OtherSystem()
    told = replace(context, calls=other)
    async with context.engine.connect() as conn:
        query = "select id, kind, detail from runs where state = 'waiting' and batch is null"
        waiting = {str(one.id): one for one in await conn.execute(text(query))}
    while await send_due(told) or await call_due(told):
        pass
    for letter in post.letters:
        detail = waiting[letter.id].detail
        assert (letter.to, letter.subject, letter.body) == (
            detail["to"],
            detail["subject"],
            detail["plain"],
        )
        assert detail["html"] in letter.html
        assert len(letter.attached) == ("printed" in detail)
    for call in other.calls:
        assert orjson.loads(call.body) == waiting[call.id].detail["body"]
    assert post.letters
    assert other.calls
