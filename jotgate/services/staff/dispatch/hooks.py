"""Other systems that rules may call: named, changed, given new secrets, and removed."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import timedelta
from uuid import UUID

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotAllowed, NotFound
from jotgate.core.dispatch.acts import Call
from jotgate.core.dispatch.known import Hook
from jotgate.core.records.accounts import Account
from jotgate.core.rights import IN_THING, reaches
from jotgate.core.signed_calls import written
from jotgate.services.context import Context
from jotgate.services.keys.hook_secrets import seal_secret
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import NO_CLEARANCE, clearance, needs, role_in
from jotgate.services.trail import note
from jotgate.store import hooks, questionnaires
from jotgate.store.base import Connection

BOTH_GOOD = timedelta(hours=24)
"""How long calls are signed with the secret before as well, once there is a new one."""

MOST = 20


@dataclass(frozen=True)
class NewSecret:
    """`secret` is shown once, as it is written down."""

    hook: Hook
    secret: str


async def every(context: Context, account: Account, id: UUID) -> Mapping[UUID, Hook]:
    """By id; without their addresses, which can hold a secret, for those who only read."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        found = await hooks.every(conn, id)
        role = await role_in(conn, account, "questionnaire", id)
    if reaches(role, IN_THING["write"]):
        return found
    return {key: replace(one, address="") for key, one in found.items()}


def _sound(context: Context, name: str, address: str) -> tuple[str, str]:
    """Name and address as they are kept. Raises Invalid."""
    named, trimmed = " ".join(name.split()), address.strip()
    fault = context.calls.fault_of(trimmed)
    if fault:
        raise Invalid(fault, [Fault(code="no_address", at="address", message=fault)])
    return named, trimmed


def _taken(name: str) -> Invalid:
    message = f"There is one named {name} already. Give this one another name."
    return Invalid(message, [Fault(code="taken", at="name", message=message)])


async def _needs_clearance(
    context: Context, conn: Connection, account: Account, id: UUID, *found: Hook
) -> None:
    """Raise NotAllowed without clearance, where one of these is told restricted answers."""
    if (
        any(one.cleared for one in found)
        and await clearance(conn, account, id, context.clock.now()) is None
    ):
        raise NotAllowed(NO_CLEARANCE)


async def add(
    context: Context, account: Account, id: UUID, name: str, address: str, cleared: bool = False
) -> NewSecret:
    """Raises Invalid, NotAllowed."""
    named, trimmed = _sound(context, name, address)
    hook, secret = Hook(context.ids.id(), named, trimmed, cleared), context.sealed_links.secret()
    try:
        async with context.engine.begin() as conn:
            await needs(conn, account, "write", id)
            await _needs_clearance(context, conn, account, id, hook)
            if len(await hooks.every(conn, id)) >= MOST:
                raise Invalid(f"There are {MOST} already. Remove one that is not called any more.")
            sealed = seal_secret(context, hook.id, secret)
            await hooks.add(conn, id, hook, sealed, context.clock.now())
            await note(context, conn, account.id, "hook_added", id, name=named, cleared=cleared)
    except AlreadyThere:
        raise _taken(named) from None
    return NewSecret(hook, written(secret))


async def change(
    context: Context,
    account: Account,
    id: UUID,
    hook_id: UUID,
    name: str,
    address: str,
    cleared: bool = False,
) -> Hook:
    """Raises Invalid, NotAllowed, NotFound."""
    named, trimmed = _sound(context, name, address)
    hook = Hook(hook_id, named, trimmed, cleared)
    try:
        async with context.engine.begin() as conn:
            await needs(conn, account, "write", id)
            before = await _there(conn, id, hook_id)
            await _needs_clearance(context, conn, account, id, before, hook)
            await hooks.put(conn, id, hook_id, name=named, address=trimmed, cleared=cleared)
            await note(context, conn, account.id, "hook_changed", id, name=named, cleared=cleared)
    except AlreadyThere:
        raise _taken(named) from None
    return hook


async def _there(conn: Connection, id: UUID, hook_id: UUID) -> Hook:
    hook = (await hooks.every(conn, id)).get(hook_id)
    if hook is None:
        raise NotFound("There is no such system.")
    return hook


async def rotate(context: Context, account: Account, id: UUID, hook_id: UUID) -> NewSecret:
    """A new secret; calls are signed with the one before as well for a while."""
    secret = context.sealed_links.secret()
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        hook = await _there(conn, id, hook_id)
        await _needs_clearance(context, conn, account, id, hook)
        before = await hooks.find(conn, hook_id, now)
        assert before is not None
        await hooks.put(
            conn,
            id,
            hook_id,
            sealed=seal_secret(context, hook_id, secret),
            before=before.secrets[0],
            before_until=now + BOTH_GOOD,
        )
        await note(context, conn, account.id, "hook_secret_made", id, name=hook.name)
    return NewSecret(hook, written(secret))


async def remove(context: Context, account: Account, id: UUID, hook_id: UUID) -> None:
    """Raises Invalid where a rule calls it, NotFound."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        hook = await _there(conn, id, hook_id)
        acts = there(await questionnaires.dispatch(conn, id)).value.acts()
        if any(isinstance(act, Call) and act.hook_id == hook_id for act in acts):
            raise Invalid("A rule calls it. Take that out of the rule first.")
        await hooks.remove(conn, id, hook_id)
        await note(context, conn, account.id, "hook_removed", id, name=hook.name)
