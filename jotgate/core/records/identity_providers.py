"""An identity provider as it is kept."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.sign_in import IdentityProvider


@dataclass(frozen=True)
class KeptProvider:
    """`sealed` is its secret."""

    id: UUID
    settings: IdentityProvider
    sealed: bytes
    revision: int
