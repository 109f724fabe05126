"""Pictures, videos and captions that a questionnaire shows, uploaded by staff."""

from uuid import UUID

from jotgate.core.answers.file_kinds import MEGABYTE, file_name, kind_of
from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.records.files import Medium
from jotgate.ports.files import Inspected
from jotgate.services.context import Context
from jotgate.services.staff.rights import needs
from jotgate.store import files, questionnaires

LARGEST = 30
"""Megabytes of one picture, video or captions file at most."""

CAPTIONS = "text/vtt"

PAGE_SIDE = 1600
"""Pixels of the longer side of a picture as a page shows it."""


async def add(
    context: Context, account: Account, questionnaire_id: UUID, name: str, data: bytes
) -> tuple[Medium, Inspected]:
    """Keep what a questionnaire shows. Raises Invalid, NotFound, NotAllowed."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", questionnaire_id)
        if await questionnaires.summary(conn, questionnaire_id) is None:
            raise NotFound("There is no such questionnaire.")
    return await keep(context, questionnaire_id, name, data)


async def keep(
    context: Context, questionnaire_id: UUID | None, name: str, data: bytes
) -> tuple[Medium, Inspected]:
    """Keep a picture, a video or WebVTT captions, of the office where no questionnaire is given.
    Raises Invalid where it is none of them.

    Everybody who opens the page gets the picture: one that is larger than a page shows, or carries
    more than its pixels, such as where it was taken, is drawn anew.
    """
    if not 0 < len(data) <= LARGEST * MEGABYTE:
        raise Invalid(f"Choose a file that is not empty, of at most {LARGEST} MB.")
    seen = await context.inspector.look(data, PAGE_SIDE)
    if _is_drawn_anew(seen) and seen.drawn is not None:
        data = seen.drawn
        seen = await context.inspector.look(data, PAGE_SIDE)
    captions = data.removeprefix(b"\xef\xbb\xbf").startswith(b"WEBVTT")
    if kind_of(seen.type) not in ("picture", "video") and not captions:
        raise Invalid("Choose a picture (JPEG, PNG, GIF, WebP), a video (MP4, WebM) or WebVTT.")
    medium = Medium(
        id=context.ids.id(),
        questionnaire_id=questionnaire_id,
        name=file_name(name),
        type=CAPTIONS if captions else seen.type,
        size=len(data),
        added=context.clock.now(),
    )
    async with context.engine.begin() as conn:
        await context.files.put(f"media/{medium.id}", data)
        await files.add_medium(conn, medium)
    return medium, seen


def _is_drawn_anew(seen: Inspected) -> bool:
    """One that moves stays as it is: drawn anew it would stand still."""
    large = max(seen.width or 0, seen.height or 0) > PAGE_SIDE
    return (large or seen.carries) and not seen.moves
