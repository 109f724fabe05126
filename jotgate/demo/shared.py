"""Pages of figures that the office shares with whoever asks: one that is live, one as it was."""

from uuid import UUID

from jotgate.core.records.accounts import Account
from jotgate.core.shared_pages.page import (
    ArrivalsPart,
    FigurePart,
    PageContent,
    PagePart,
    WordsPart,
)
from jotgate.services.context import Context
from jotgate.services.staff import shared_pages
from jotgate.services.staff.shared_pages import PageGiven

LIVE: tuple[PagePart, ...] = (
    WordsPart(
        words="Since spring, households with a well of their own have told us how they use it. "
        "This page follows what they say, **day by day**. Laboratory results are not in it."
    ),
    FigurePart(key="source"),
    FigurePart(key="uses"),
    WordsPart(
        words="# Taste\n\nOne is *as bad as it gets*, five is *very good*. Whoever tastes iron "
        "is usually right: have it tested."
    ),
    FigurePart(key="taste"),
    FigurePart(key="drinkers"),
    FigurePart(key="taps"),
    FigurePart(key="matters"),
    ArrivalsPart(),
)
THEN: tuple[PagePart, ...] = (
    WordsPart(words="Así respondieron los hogares **antes de la reunión** del distrito."),
    FigurePart(key="source"),
    FigurePart(key="tested"),
    FigurePart(key="taste"),
)


async def share_pages(context: Context, account: Account, id: UUID) -> None:
    live = PageContent(title="What the wells of Thornmere tell us", language="en", parts=LIVE)
    then = PageContent(title="Antes de la reunión de Saltings", language="es", parts=THEN)
    await shared_pages.add(context, account, id, PageGiven(then, False))
    await shared_pages.add(context, account, id, PageGiven(live, True))
