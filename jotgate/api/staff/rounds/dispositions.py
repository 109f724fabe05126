"""The codes that people can be given."""

from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount
from jotgate.api.routes import routes
from jotgate.core.rounds.dispositions import DISPOSITIONS

router = routes("/api/dispositions", "rounds")


class DispositionOut(BaseModel):
    """A code of AAPOR's Standard Definitions, with its name."""

    code: str
    name: str


@router.get("")
async def dispositions(account: CurrentAccount) -> list[DispositionOut]:
    return [DispositionOut(code=one.code, name=one.name) for one in DISPOSITIONS.values()]
