"""Where visitors can sign in: identity providers set up, looked at, and what claims fill in."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound, Stale
from jotgate.core.items import IN_PARTS
from jotgate.core.records.accounts import Account
from jotgate.core.records.identity_providers import KeptProvider
from jotgate.core.sign_in import IdentityProvider
from jotgate.ports.identity import Known, Looked
from jotgate.services.context import Context
from jotgate.services.identity import FLOW, opened, seal_secret
from jotgate.services.staff.rights import in_office
from jotgate.services.trail import note
from jotgate.store import bank, identity_providers
from jotgate.store.base import Connection

MOST = 20


@dataclass(frozen=True)
class Setup:
    """The providers, and the address that each of them has to send visitors back to."""

    back: str
    providers: tuple[KeptProvider, ...]


async def every(context: Context, account: Account) -> Setup:
    in_office(account, "run")
    async with context.engine.connect() as conn:
        return Setup(FLOW.back(context), tuple(await identity_providers.every(conn)))


async def names(context: Context, account: Account) -> list[tuple[UUID, str]]:
    """The providers by name, for whoever makes questionnaires."""
    async with context.engine.connect() as conn:
        return [(one.id, one.settings.name) for one in await identity_providers.every(conn)]


async def _sound(conn: Connection, settings: IdentityProvider) -> None:
    """Raise Invalid where a mapping leads nowhere."""
    questions = {one.id: one.item for one in await bank.every(conn)}
    faults = []
    for number, one in enumerate(settings.mappings):
        at = f"mappings/{number}"
        item = questions.get(one.question)
        parts = getattr(item, "parts", ()) if item and item.kind in IN_PARTS else ()
        if item is None:
            message = "This question is no longer in the bank."
        elif parts and one.part not in parts:
            message = "Say which part of it the claim fills in."
        elif not parts and one.part:
            message = "This question has no parts."
        else:
            continue
        faults.append(Fault(code="mapping", at=at, message=message))
    if faults:
        raise Invalid(faults[0].message, faults)


def _secret_missing() -> Invalid:
    message = "Write the secret that the provider gave."
    return Invalid(message, [Fault(code="no_text", at="secret", message=message)])


async def add(context: Context, account: Account, settings: IdentityProvider, secret: str) -> UUID:
    """Raises Invalid."""
    in_office(account, "run")
    if not secret:
        raise _secret_missing()
    id = context.ids.id()
    async with context.engine.begin() as conn:
        await _sound(conn, settings)
        if len(await identity_providers.every(conn)) >= MOST:
            raise Invalid(f"There can be at most {MOST} providers.")
        await identity_providers.add(conn, id, settings, seal_secret(context, id, secret))
        await note(context, conn, account.id, "sign_in_changed", name=settings.name, state="added")
    return id


async def put(
    context: Context,
    account: Account,
    id: UUID,
    revision: int,
    settings: IdentityProvider,
    secret: str,
) -> KeptProvider:
    """Save it over `revision`; an empty secret leaves the one it has. Raises Invalid, Stale."""
    in_office(account, "run")
    async with context.engine.begin() as conn:
        await _sound(conn, settings)
        sealed = seal_secret(context, id, secret) if secret else None
        if not await identity_providers.put(conn, id, revision, settings, sealed):
            current = await _find(conn, id)
            raise Stale("Somebody changed this provider in the meantime.", current=current.settings)
        await note(
            context, conn, account.id, "sign_in_changed", name=settings.name, state="changed"
        )
        return await _find(conn, id)


async def _find(conn: Connection, id: UUID) -> KeptProvider:
    found = (await identity_providers.of_ids(conn, [id])).get(id)
    if found is None:
        raise NotFound("There is no such provider.")
    return found


async def remove(context: Context, account: Account, id: UUID) -> None:
    """Remove a provider: nobody can sign in there any more. Raises NotFound."""
    in_office(account, "run")
    async with context.engine.begin() as conn:
        found = await _find(conn, id)
        await identity_providers.remove(conn, id)
        name = found.settings.name
        await note(context, conn, account.id, "sign_in_changed", name=name, state="removed")


async def look(
    context: Context,
    account: Account,
    settings: IdentityProvider,
    secret: str,
    id: UUID | None,
) -> tuple[list[Looked], list[str]]:
    """Whether a provider is set up right, as it is written and before it is saved; and the claims
    that it says it has. An empty secret stands for that of the provider `id`. Raises Invalid."""
    in_office(account, "run")
    now = context.clock.now()
    if not secret and id is None:
        raise _secret_missing()
    if secret:
        known = Known(settings.name, settings.issuer, settings.client_id, secret, settings.scopes)
        return await context.providers.provider(known).looked_at(FLOW.back(context), now)
    async with context.engine.connect() as conn:
        kept = await _find(conn, id) if id else None
    assert kept is not None
    one = KeptProvider(kept.id, settings, kept.sealed, kept.revision)
    return await opened(context, one).looked_at(FLOW.back(context), now)
