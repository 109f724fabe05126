"""The secrets that a questionnaire shares with another program."""

from hmac import digest
from uuid import UUID

from jotgate.services.arrivals import open_link_key
from jotgate.services.context import Context
from jotgate.store.base import Connection
from jotgate.store.links import link_keys


def calls_secret(secret: bytes) -> bytes:
    """What calls are signed with, made from the secret of a link key: 32 bytes."""
    return digest(secret, b"signed calls", "sha256")


async def opened(
    context: Context, conn: Connection, questionnaire_id: UUID
) -> list[tuple[str, bytes]]:
    """The keys of a questionnaire by id, with their secrets, the newest first. Raises Sealed."""
    found = await link_keys.with_sealed(conn, questionnaire_id)
    return [(id, open_link_key(context, questionnaire_id, sealed)) for id, sealed in found]
