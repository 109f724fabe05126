"""Restricted answers of an entry, encrypted and bound to that entry."""

from collections.abc import Mapping
from uuid import UUID

import orjson

from jotgate.core.entry import Stored
from jotgate.core.stored import as_json
from jotgate.core.values import Value
from jotgate.services.house import House


def _purpose(entry_id: UUID) -> str:
    return f"entry {entry_id}"


def seal(house: House, entry_id: UUID, restricted: Mapping[str, Value]) -> bytes:
    plain = orjson.dumps({key: as_json(value) for key, value in restricted.items()})
    return house.cipher.seal(plain, _purpose(entry_id))


def unseal(house: House, entry_id: UUID, sealed: bytes) -> Stored:
    """What `seal` was given for this entry, as it is stored. Raises Sealed."""
    answers: Stored = orjson.loads(house.cipher.open(sealed, _purpose(entry_id)))
    return answers
