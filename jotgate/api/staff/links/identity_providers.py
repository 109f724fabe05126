"""Where visitors can sign in."""

from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries.entry_words import CalledOut
from jotgate.core.records.identity_providers import KeptProvider
from jotgate.core.sign_in import IdentityProvider
from jotgate.ports.identity import Step
from jotgate.services.staff import identity_providers

router = routes("/api/identity-providers", "office")


class ProviderOut(BaseModel):
    """Its secret is never shown."""

    id: UUID
    revision: int
    provider: IdentityProvider


class SetupOut(BaseModel):
    """`back` is the address that each provider has to know, to send visitors back to."""

    back: str
    providers: list[ProviderOut]


def _out(kept: KeptProvider) -> ProviderOut:
    return ProviderOut(id=kept.id, revision=kept.revision, provider=kept.settings)


class ProviderIn(BaseModel):
    """An empty `secret` leaves the one that there is."""

    provider: IdentityProvider
    secret: str = Field("", max_length=1000)


class ProviderPut(ProviderIn):
    revision: int


class ExamineIn(ProviderIn):
    """`id` is the provider whose secret counts where none is given."""

    id: UUID | None = None


class StepOut(BaseModel):
    step: Step
    good: bool
    message: str


class ExaminedOut(BaseModel):
    """What was found step by step, and the `claims` that the provider says it has."""

    steps: list[StepOut]
    claims: list[str]


@router.get("")
async def identity_provider_setup(context: CurrentContext, account: CurrentAccount) -> SetupOut:
    found = await identity_providers.every(context, account)
    return SetupOut(back=found.back, providers=[_out(one) for one in found.providers])


@router.get("/names")
async def identity_provider_names(
    context: CurrentContext, account: CurrentAccount
) -> list[CalledOut]:
    """The providers by name, for whoever makes questionnaires."""
    found = await identity_providers.names(context, account)
    return [CalledOut(id=id, name=name) for id, name in found]


@router.post("", status_code=201)
async def add_identity_provider(
    body: ProviderIn, context: CurrentContext, account: CurrentAccount
) -> UUID:
    return await identity_providers.add(context, account, body.provider, body.secret)


@router.put("/{id}")
async def put_identity_provider(
    id: UUID, body: ProviderPut, context: CurrentContext, account: CurrentAccount
) -> ProviderOut:
    return _out(
        await identity_providers.put(
            context, account, id, body.revision, body.provider, body.secret
        )
    )


@router.delete("/{id}", status_code=204)
async def remove_identity_provider(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await identity_providers.remove(context, account, id)


@router.post("/look")
async def look_at_identity_provider(
    body: ExamineIn, context: CurrentContext, account: CurrentAccount
) -> ExaminedOut:
    """Whether it is set up right, before it is saved."""
    steps, claims = await identity_providers.look(
        context, account, body.provider, body.secret, body.id
    )
    return ExaminedOut(steps=[StepOut(**vars(one)) for one in steps], claims=claims)
