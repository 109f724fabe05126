"""Named links: made with values that they stand for, shut one by one."""

from collections.abc import Iterable
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.common.today import today_in
from jotgate.core.records.accounts import Account
from jotgate.core.records.links import Batch, NamedLink
from jotgate.core.walking.arrival import Pairs
from jotgate.core.walking.given import Giving
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.links import named_links, passes

MOST = 1_000
"""Named links of one questionnaire."""


@dataclass(frozen=True)
class Ways:
    """The ways into a questionnaire. `plain` counts the entries that came by its plain address."""

    address: str
    plain: int
    named: tuple[NamedLink, ...]
    batches: tuple[Batch, ...]


async def ways(context: Context, account: Account, id: UUID) -> Ways:
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        found = there(await questionnaires.summary(conn, id))
        named = await named_links.every(conn, id)
        batches = await passes.every_batch(conn, id)
    others = sum(one.entries for one in named) + sum(one.used for one in batches)
    return Ways(found.address, found.entries - others, tuple(named), tuple(batches))


async def newest_plan(context: Context, conn: Connection, id: UUID) -> tuple[int, Plan]:
    """The newest edition and its number. Raises Invalid before the first publishing."""
    edition = there(await questionnaires.summary(conn, id)).edition
    if edition is None:
        raise Invalid("Publish the questionnaire first: links lead to an edition of it.")
    return edition, await context.plan(conn, id, edition)


def suit(context: Context, plan: Plan, values: Pairs) -> None:
    """Raise Invalid where values that a way in stands for are unknown, or do not fit."""
    today = today_in(plan.questionnaire.time_zone, context.clock.now())
    giving = Giving(plan, today, stored=True)
    faults = list(giving.faults(values))
    faults += [
        Fault(
            code="required", at=key, message="Nothing else brings this value, and it is required."
        )
        for key in giving.missing(values)
    ]
    if faults:
        raise Invalid("Some values do not fit.", faults)


def _named(name: str) -> str:
    found = " ".join(name.split())
    if not found:
        message = "Give it a name: what people come by, such as the poster in the hall."
        raise Invalid(message, [Fault(code="no_text", at="name", message=message)])
    return found


def _taken(name: str) -> Invalid:
    message = f"There is a link named {name}. Give this one another name."
    return Invalid(message, [Fault(code="taken", at="name", message=message)])


async def add(
    context: Context, account: Account, id: UUID, name: str, values: Iterable[tuple[str, str]]
) -> NamedLink:
    """Make a named link. Its code is short, or as hard to guess as a pass where it carries
    anything. Raises Invalid."""
    found = tuple((key, text.strip()) for key, text in values if text.strip())
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        name = _named(name)
        _, plan = await newest_plan(context, conn, id)
        suit(context, plan, found)
        if len(await named_links.every(conn, id)) >= MOST:
            raise Invalid(f"There can be at most {MOST:,} named links.")
        code = context.ids.secret() if found else context.ids.address()
        now = context.clock.now()
        made = NamedLink(context.ids.id(), id, name, code, found, now, None, 0, None)
        try:
            async with conn.begin_nested():
                await named_links.add(conn, made)
        except AlreadyThere:
            raise _taken(name) from None
        await note(context, conn, account.id, "link_made", id, name=name)
    return made


async def put(
    context: Context, account: Account, id: UUID, link_id: UUID, name: str, shut: bool
) -> None:
    """Name it anew, and shut or open it. Raises Invalid, NotFound."""
    name = _named(name)
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        known = await named_links.find(conn, id, link_id)
        if known is None:
            raise NotFound("There is no such link.")
        moment = (known.shut or context.clock.now()) if shut else None
        try:
            async with conn.begin_nested():
                await named_links.put(conn, id, link_id, name, moment)
        except AlreadyThere:
            raise _taken(name) from None
        state = "shut" if shut else "open"
        await note(context, conn, account.id, "link_changed", id, name=name, state=state)


async def remove(context: Context, account: Account, id: UUID, link_id: UUID) -> None:
    """Remove one that nothing has come by. Raises Invalid, NotFound."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        known = await named_links.find(conn, id, link_id)
        if known is None:
            raise NotFound("There is no such link.")
        if not await named_links.remove_unused(conn, id, link_id):
            raise Invalid("Entries have come by this link. Shut it instead.")
        await note(context, conn, account.id, "link_changed", id, name=known.name, state="removed")
