"""Figures of a questionnaire: each question with what was answered, and all of them as a table."""

import asyncio
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Query, Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.table_views import BesideInAddress, InAddress
from jotgate.core.common.errors import Unavailable
from jotgate.core.entries.facts import NAMES
from jotgate.core.figures.arrivals import Arrivals
from jotgate.core.figures.crossing import Crossing
from jotgate.core.figures.pictures import Base, Picture
from jotgate.core.figures.table import HEAD, lines_of, lines_when
from jotgate.core.figures.traffic import Traffic
from jotgate.core.formats import table
from jotgate.core.shared_pages.drawing import standalone
from jotgate.ports.isolated import TookTooLong
from jotgate.services.staff import crossing, figures, some_figures, traffic
from jotgate.services.staff.entries.entry_table import Asked

ARRIVED = "entry.arrived"

CSV = "text/csv; charset=utf-8"

router = routes("/api/questionnaires/{id}", "entries")


class QuestionFigure(BaseModel):
    """A question, how many were `asked` (null where that is not known), how many `answered`, and
    what is drawn of it: null where nobody answered, or where there are too many different answers.
    Of a restricted one nothing is told. One that is `crossable` can be counted by another."""

    key: str
    label: str
    words: str
    kind: str
    asked: int | None
    answered: int
    restricted: bool
    crossable: bool
    other: list[int]
    picture: Annotated[Picture | None, Field(discriminator="kind")]


class PageFigures(BaseModel):
    """`number` is 0 for what the newest edition does not ask any more."""

    number: int
    title: str
    questions: list[QuestionFigure]


class FiguresOut(BaseModel):
    """`entries` of `total` are counted; `lag` are not found by a filter yet. `arrivals` is null
    where none are counted. `beside` are those of a second view, on the same scales."""

    entries: int
    total: int
    lag: int
    pages: list[PageFigures]
    arrivals: Arrivals | None
    beside: "FiguresOut | None" = None


def _question(one: figures.Question) -> QuestionFigure:
    return QuestionFigure(
        key=one.column.key,
        label=one.column.label,
        words=one.words,
        kind=one.column.item.kind,
        asked=one.asked,
        answered=one.answered,
        restricted=one.restricted,
        crossable=one.crossable,
        other=sorted(one.column.other),
        picture=one.picture,
    )


@router.get("/figures")
async def all_figures(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    archived: bool = False,
    of: Base = "answered",
    beside: BesideInAddress = None,
) -> FiguresOut:
    """What the entries of a view answered, page by page, with what stands `beside` it."""
    first = Asked(view, None, archived)
    if beside is None:
        return _out(await figures.figures(context, account, id, first, of))
    both = first, Asked(beside, None, archived)
    one, other = await figures.side_by_side(context, account, id, both, of)
    return _out(one).model_copy(update={"beside": _out(other)})


def _out(found: figures.Figures) -> FiguresOut:
    return FiguresOut(
        entries=found.entries,
        total=found.total,
        lag=found.lag,
        pages=[
            PageFigures(
                number=page.number,
                title=page.title,
                questions=[_question(one) for one in page.questions],
            )
            for page in found.pages
        ],
        arrivals=found.arrivals,
    )


@router.get("/figures-crossing")
async def figures_crossing(
    id: UUID,
    rows: Annotated[str, Query(max_length=40)],
    columns: Annotated[str, Query(max_length=40)],
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    archived: bool = False,
) -> Crossing:
    """One question by another, of the entries of a view that answered both."""
    asked = Asked(view, None, archived)
    return await crossing.crossed(context, account, id, asked, rows, columns)


@router.get("/traffic")
async def traffic_of(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    archived: bool = False,
    edition: Annotated[int | None, Query(ge=1, le=1_000_000)] = None,
) -> Traffic:
    """How many entries of an edition, the newest where none is named, went which way through it."""
    return await traffic.traffic(context, account, id, Asked(view, None, archived), edition)


@router.get("/figure-picture", response_class=Response)
async def figure_picture(
    id: UUID,
    key: Annotated[str, Query(max_length=40)],
    language: Annotated[str, Query(max_length=40)],
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    archived: bool = False,
    of: Base = "answered",
    format: Literal["svg", "png", "csv"] = "svg",
) -> Response:
    """The figure of one question as a drawing (SVG, PNG) or its numbers (CSV)."""
    asked = Asked(view, None, archived)
    one = await some_figures.one_figure(context, account, id, asked, of, key, language)
    told = {"Content-Disposition": f'attachment; filename="{one.key}.{format}"'}
    if format == "csv":
        lines = [[key, one.title, *line] for line in lines_of(one.asked, one.answered, one.picture)]
        return Response(table.write(HEAD, lines), media_type=CSV, headers=told)
    svg = await asyncio.to_thread(standalone, one, language)
    if format == "svg":
        return Response(svg, media_type="image/svg+xml", headers=told)
    try:
        png = await context.printing.picture(svg)
    except TookTooLong:
        raise Unavailable("That takes too long to draw. Try again in a moment.") from None
    return Response(png, media_type="image/png", headers=told)


@router.get("/figures-export", response_class=Response)
async def figures_export(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    archived: bool = False,
    of: Base = "answered",
) -> Response:
    """The same as CSV (RFC 4180), a line for each number."""
    found = await figures.figures(context, account, id, Asked(view, None, archived), of)
    lines = [
        [one.column.key, one.words or one.column.label, *line]
        for page in found.pages
        for one in page.questions
        if not one.restricted
        for line in lines_of(one.asked, one.answered, one.picture)
    ]
    if found.arrivals is not None:
        lines += [[ARRIVED, NAMES[ARRIVED], *line] for line in lines_when(found.arrivals)]
    told = {"Content-Disposition": 'attachment; filename="figures.csv"'}
    return Response(table.write(HEAD, lines), media_type=CSV, headers=told)
