"""What is stored encrypted."""

from typing import NamedTuple
from uuid import UUID


class Ciphertext(NamedTuple):
    """`key_id` names the data key that opens it; without one it is the installation's own."""

    content: bytes
    key_id: UUID | None
