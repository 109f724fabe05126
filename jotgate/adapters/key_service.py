"""Wrapped data keys at a key service, over HTTPS in JSON: docs/operations.md tells how."""

from base64 import b64decode, b64encode
from collections.abc import Collection
from typing import Any
from uuid import UUID

import httpx
from pydantic import BaseModel, ConfigDict, ValidationError

from jotgate.adapters.data_keys import AWAY, WrappedKey
from jotgate.core.common.errors import Unavailable

SECONDS = 5.0
"""How long the service may take to answer."""

AT_ONCE = 500
"""Keys that one request names."""


class KeyPart(BaseModel):
    """A wrapped key as it is sent: what is wrapped, and the mark of what wrapped it, in base64
    (RFC 4648)."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    wrapped: str
    wrapped_by: str


class Keys(BaseModel):
    keys: list[KeyPart]


class Ids(BaseModel):
    ids: list[UUID]


class Unlike(BaseModel):
    """Asks for keys that another key than the one with this mark has wrapped."""

    wrapped_by: str
    limit: int


class KeyService:
    """The service below `url`, which knows us by `token` (RFC 6750)."""

    def __init__(
        self, url: str, token: str, transport: httpx.AsyncBaseTransport | None = None
    ) -> None:
        self._client = httpx.AsyncClient(
            base_url=url.rstrip("/"),
            headers={"Authorization": f"Bearer {token}"},
            timeout=SECONDS,
            transport=transport,
            trust_env=False,
        )

    async def add(self, keys: Collection[WrappedKey]) -> None:
        for some in _parted(list(keys)):
            await self._ask("POST", "/keys", Keys(keys=[_part(one) for one in some]))

    async def find(self, ids: Collection[UUID]) -> list[WrappedKey]:
        found: list[WrappedKey] = []
        for some in _parted(list(ids)):
            wanted = set(some)
            answer = await self._keys("/keys/find", Ids(ids=some))
            found += (one for one in answer if one.id in wanted)
        return found

    async def destroy(self, ids: Collection[UUID]) -> None:
        for some in _parted(list(ids)):
            await self._ask("POST", "/keys/destroy", Ids(ids=some))

    async def not_wrapped_by(self, mark: bytes, limit: int) -> list[WrappedKey]:
        asked = Unlike(wrapped_by=_written(mark), limit=min(limit, AT_ONCE))
        found = await self._keys("/keys/unlike", asked)
        return [one for one in found if one.wrapped_by != mark]

    async def replace(self, keys: Collection[WrappedKey]) -> None:
        for some in _parted(list(keys)):
            await self._ask("PUT", "/keys", Keys(keys=[_part(one) for one in some]))

    async def _keys(self, path: str, asked: BaseModel) -> list[WrappedKey]:
        answer = await self._ask("POST", path, asked)
        try:
            return [_read(one) for one in Keys.model_validate_json(answer).keys]
        except (ValidationError, ValueError):
            raise Unavailable(AWAY) from None

    async def _ask(self, method: str, path: str, asked: BaseModel) -> bytes:
        content = asked.model_dump_json()
        headers = {"Content-Type": "application/json"}
        try:
            answer = await self._client.request(method, path, content=content, headers=headers)
        except httpx.HTTPError:
            raise Unavailable(AWAY) from None
        if not answer.is_success:
            raise Unavailable(AWAY)
        return answer.content

    async def close(self) -> None:
        await self._client.aclose()


def _parted(every: list[Any]) -> list[list[Any]]:
    return [every[at : at + AT_ONCE] for at in range(0, len(every), AT_ONCE)]


def _written(some: bytes) -> str:
    return b64encode(some).decode()


def _part(key: WrappedKey) -> KeyPart:
    return KeyPart(id=key.id, wrapped=_written(key.wrapped), wrapped_by=_written(key.wrapped_by))


def _read(part: KeyPart) -> WrappedKey:
    """Raises ValueError for what is no base64."""
    wrapped, by = (b64decode(one, validate=True) for one in (part.wrapped, part.wrapped_by))
    return WrappedKey(part.id, wrapped, by)
