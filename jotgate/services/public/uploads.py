"""Files of respondents: sent in pieces, looked at, kept sealed, and given to an entry."""

from dataclasses import dataclass, replace
from datetime import timedelta
from uuid import UUID

from jotgate.core.answers.failure_messages import fault_of
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.file_kinds import file_name
from jotgate.core.answers.files import size_suits, suits
from jotgate.core.common.errors import Fault, InvalidAnswers, NotFound, TooManyTries
from jotgate.core.common.values import FileFacts
from jotgate.core.common.wording import closest
from jotgate.core.items import File
from jotgate.core.records.files import SentFile
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.plan import Plan
from jotgate.ports.files import Missing
from jotgate.services import gate
from jotgate.services.arrivals import opened
from jotgate.services.context import Context
from jotgate.services.keys.sealing import Opens, keys_for, name_of_file, seal_name
from jotgate.services.public.allowances import allow, name_of
from jotgate.services.public.entering import edition_at, public_state
from jotgate.store import files
from jotgate.store.base import Connection

PDF = "application/pdf"

PREVIEW = 480
"""Pixels of the longer side of a preview."""

PIECE = 1_500_000
"""Bytes of one piece at most."""

MOST_UNSENT = 4_000_000_000
"""Bytes that can wait for their entries at one questionnaire, so that nobody fills the disk."""

FILES_A_DAY, BYTES_A_DAY = 500, 1_000_000_000
"""What one client can announce and send in a day."""

UNSENT_DAYS = 31
"""Days after which a file that belongs to no entry is removed: a started entry has gone by then."""

CUT_OFF_DAYS = 1
"""Days after which a file that never arrived whole is removed."""


@dataclass(frozen=True)
class AnnouncedFile:
    """What a browser says of a file that it is about to send. `size` is in bytes, `arrival` what is
    known of the visitor, sealed."""

    edition: int
    item: str
    name: str
    size: int
    language: str
    arrival: str = ""


async def begin(context: Context, address: str, about: AnnouncedFile, client: str) -> SentFile:
    """Make room for a file of the client at a network address.

    Only what has arrived takes room, not what is announced. Raises InvalidAnswers where it
    will not do, Shut, NotFound, and TooManyTries where too much waits for its entries already.
    """
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        edition, plan = await edition_at(context, conn, found, about.edition)
        language = closest(plan.questionnaire.languages, [about.language])
        arrival = opened(context, found.id, about.arrival)
        await gate.let_in(context, conn, found, plan, language, arrival, going_on=True)
        item = _file_item(plan, about.item)
        name = file_name(about.name)
        try:
            size_suits(item, name, about.size)
        except CheckFailed as failed:
            raise _refused(plan, item, failed, language) from None
        says = "Too many files were sent from here today. Try again tomorrow."
        await allow(context, conn, {name_of("files", client): FILES_A_DAY}, says)
        if await files.unclaimed_bytes(conn, found.id) + about.size > MOST_UNSENT:
            raise TooManyTries("Too many files are on their way here. Try again later.", 3600)
        id, key = context.ids.id(), await context.data_keys.take()
        kept = seal_name(key, id, name) if plan.is_restricted(item.key) else name
        file = SentFile(
            id=id,
            questionnaire_id=found.id,
            edition=edition,
            item=item.key,
            name=kept,
            size=about.size,
            received=0,
            type=None,
            entry_id=None,
            begun=context.clock.now(),
            key_id=key.id,
        )
        await files.add(conn, file)
    return file


def _file_item(plan: Plan, key: str) -> File:
    item = plan.items.get(key)
    if not isinstance(item, File):
        raise NotFound("There is no question for files of this name.")
    return item


def _refused(plan: Plan, item: File, failed: CheckFailed, language: str) -> InvalidAnswers:
    first = plan.questionnaire.first_language
    fault: Fault = fault_of(plan.items, item.key, failed, language, first)
    return InvalidAnswers(fault.message, [fault], "")


async def so_far(context: Context, address: str, id: UUID) -> SentFile:
    """A file with how much of it has arrived. Raises NotFound."""
    async with context.engine.connect() as conn:
        return await _there(conn, await public_state(conn, address), id)


async def _there(conn: Connection, found: PublicState, id: UUID, lock: bool = False) -> SentFile:
    file = await files.find(conn, id, lock)
    if file is None or file.questionnaire_id != found.id:
        raise NotFound("There is no such file. Send it again.")
    return file


async def take(
    context: Context,
    address: str,
    id: UUID,
    offset: int,
    piece: bytes,
    language: str,
    client: str,
) -> SentFile:
    """Take the piece that begins at `offset`; one that is there already changes nothing.

    With the last piece the whole is looked at. Raises InvalidAnswers where it is not what
    is asked for; then it is gone.
    """
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        file = await _there(conn, found, id, lock=True)
        if offset != file.received or file.type is not None or not piece:
            return file
        received = file.received + len(piece)
        if len(piece) > PIECE or received > file.size:
            raise NotFound("More arrived than was announced. Send the file again.")
        says = "Too much was sent from here today. Try again tomorrow."
        await allow(context, conn, {name_of("bytes", client): BYTES_A_DAY}, says, len(piece))
        key = (await keys_for(context, [file.key_id]))[file.key_id]
        await context.files.put(_piece(id, offset), key.seal(piece, _purpose(id, offset)))
        taken: SentFile | InvalidAnswers = replace(file, received=received)
        if received == file.size:
            plan = await context.plan(conn, found.id, file.edition)
            taken = await _looked(context, plan, replace(file, received=received), key, language)
        if isinstance(taken, SentFile):
            await files.advance(conn, id, received, taken.type)
        else:
            await files.remove(conn, id)
    if isinstance(taken, SentFile):
        return taken
    await context.files.remove(f"files/{id}")
    raise taken


async def _looked(
    context: Context, plan: Plan, file: SentFile, key: Opens, language: str
) -> SentFile | InvalidAnswers:
    """A file that has arrived whole with its type, or why it will not do."""
    item = _file_item(plan, file.item)
    whole = await _whole(context, key, file.id, file.received)
    seen = await context.inspector.look(whole, PREVIEW)
    name = await name_of_file(context, file)
    known = closest(plan.questionnaire.languages, [language])
    try:
        suits(item, FileFacts(str(file.id), name, file.size, seen.type))
    except CheckFailed as failed:
        return _refused(plan, item, failed, known)
    if seen.drawn is not None:
        small = key.seal(seen.drawn, _purpose(file.id, "small"))
        await context.files.put(f"files/{file.id}/small", small)
    return replace(file, type=seen.type)


def _piece(id: UUID, offset: int) -> str:
    return f"files/{id}/{offset:010}"


def _purpose(id: UUID, part: int | str) -> str:
    return f"file {id} {part}"


async def read(context: Context, id: UUID, size: int) -> bytes:
    """The whole of a file of so many bytes. Raises Missing, Sealed, Erased."""
    return await _whole(context, await _key_of(context, id), id, size)


async def _key_of(context: Context, id: UUID) -> Opens:
    async with context.engine.connect() as conn:
        key_id = await files.key_of(conn, id)
    return (await keys_for(context, [key_id]))[key_id]


async def _whole(context: Context, key: Opens, id: UUID, size: int) -> bytes:
    found = bytearray()
    while len(found) < size:
        sealed = await context.files.get(_piece(id, len(found)))
        found += key.open(sealed, _purpose(id, len(found)))
    return bytes(found)


async def preview(context: Context, file: FileFacts) -> bytes:
    """A small picture of it, WebP; of a PDF, which is drawn when somebody looks first, its first
    page. Raises Missing where there is none, Sealed, Erased."""
    id = UUID(file.id)
    key, name = await _key_of(context, id), f"files/{id}/small"
    try:
        return key.open(await context.files.get(name), _purpose(id, "small"))
    except Missing:
        if file.type != PDF:
            raise
    whole = await _whole(context, key, id, file.size)
    drawn = await context.inspector.first_page(whole, PREVIEW)
    if drawn is None:
        raise Missing(name)
    await context.files.put(name, key.seal(drawn, _purpose(id, "small")))
    return drawn


async def remove_unsent(context: Context, limit: int = 500) -> int:
    """Remove files that were begun long ago and belong to no entry; how many."""
    now = context.clock.now()
    unsent, cut_off = (now - timedelta(days=days) for days in (UNSENT_DAYS, CUT_OFF_DAYS))
    async with context.engine.begin() as conn:
        gone = await files.unclaimed(conn, unsent, cut_off, limit)
        for id in gone:
            await files.remove(conn, id)
    for id in gone:
        await context.files.remove(f"files/{id}")
    return len(gone)
