"""What is set for the ways in and on: where people go on, which sites may frame the page."""

from collections.abc import Iterable
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.hand_off import (
    HandedValue,
    hand_off_faults,
    proposed,
    sources_of,
    targets_of,
    unfit,
)
from jotgate.core.items.staff_names import staff_name
from jotgate.core.links import Links
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import Saved
from jotgate.core.sign_in import VisitorSignIn
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.staff.links.named_links import newest_plan
from jotgate.services.staff.questionnaires import save_part, there
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import identity_providers, questionnaires
from jotgate.store.base import Connection


async def find(context: Context, account: Account, id: UUID) -> Saved[Links]:
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        return there(await questionnaires.links(conn, id))


async def _targets(
    context: Context, conn: Connection, account: Account, addresses: Iterable[str]
) -> dict[str, Plan]:
    """The newest editions of questionnaires that `account` may see how they are made."""
    known = await questionnaires.by_addresses(conn, set(addresses))
    found = {}
    for address, (id, edition) in known.items():
        try:
            await needs(conn, account, "review", id)
        except NotFound:
            continue
        found[address] = await context.plan(conn, id, edition)
    return found


async def save(
    context: Context, account: Account, id: UUID, links: Links, revision: int
) -> Saved[Links]:
    """Raises Invalid where something does not fit, Stale."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        if links.hand_offs:
            _, plan = await newest_plan(context, conn, id)
            to = [one.to for one in links.hand_offs]
            targets = await _targets(context, conn, account, to)
            faults = list(hand_off_faults(links.hand_offs, plan, targets))
            if faults:
                raise Invalid(faults[0].message, faults)
        await _sign_in_suits(conn, links.sign_in)
        saved = await save_part(conn, id, "links", links, revision, questionnaires.links)
        await note(context, conn, account.id, "links_changed", id)
    return saved


async def _sign_in_suits(conn: Connection, sign_in: VisitorSignIn) -> None:
    """Raise Invalid where there is nowhere to sign in, though it is asked for."""
    known = await identity_providers.of_ids(conn, sign_in.providers)
    message = ""
    if len(known) < len(set(sign_in.providers)):
        message = "One of the providers is no longer there. Choose again."
    elif sign_in.needed and not sign_in.providers:
        message = "Choose where visitors sign in."
    if message:
        raise Invalid(message, [Fault(code="sign_in", at="sign_in", message=message)])


@dataclass(frozen=True)
class Slot:
    """One thing that can take what is handed on; `fits` are the names of what fits into it."""

    name: str
    label: str
    fits: tuple[str, ...]
    lockable: bool


@dataclass(frozen=True)
class Offer:
    """What of a questionnaire can go along to another one, by its names, where it fits, and what
    probably goes where."""

    sources: tuple[tuple[str, str], ...]
    targets: tuple[Slot, ...]
    proposed: tuple[HandedValue, ...]


async def offer(context: Context, account: Account, id: UUID, to: str) -> Offer:
    """Raises NotFound, Invalid."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        _, plan = await newest_plan(context, conn, id)
        target = (await _targets(context, conn, account, [to])).get(to)
    if target is None:
        raise NotFound("There is no such questionnaire, or it is not published.")
    sources, ends = sources_of(plan), targets_of(target)
    return Offer(
        tuple((name, _label(plan, name)) for name in sources),
        tuple(
            Slot(
                name,
                _label(target, name),
                tuple(known for known, source in sources.items() if not unfit(source, end)),
                end.item.kind != "carried",
            )
            for name, end in ends.items()
        ),
        proposed(plan, target),
    )


def _label(plan: Plan, name: str) -> str:
    key, _, part = name.partition(".")
    words = staff_name(plan.items[key], plan.questionnaire.first_language)
    return f"{words}, {part}" if part else words
