"""The ASGI application: routes, doors and static files."""

import asyncio
from collections.abc import AsyncIterator, Callable
from contextlib import AbstractAsyncContextManager, asynccontextmanager, suppress

import structlog
from fastapi import FastAPI

from jotgate.api import (
    answer_pages,
    joining_pages,
    opt_out_pages,
    pages,
    problems,
    shared_pages,
    typed_code_pages,
    visitor_sign_in,
)
from jotgate.api.assets import Assets
from jotgate.api.middleware import Middleware
from jotgate.api.public import answering, confirming, files, media, own_entry, started, waiting
from jotgate.api.public import standing as public_standing
from jotgate.api.staff import (
    bank,
    described,
    desk,
    exchange,
    eye,
    figures,
    gate,
    office,
    outlines,
    proof,
    questionnaires,
    sharing,
    statistics,
    trail,
    trial,
)
from jotgate.api.staff import media as staff_media
from jotgate.api.staff import shared_pages as staff_shared_pages
from jotgate.api.staff.accounts import accounts, own_account, people
from jotgate.api.staff.dispatch import dispatch, hooks, rehearsals, replays, routing_proof, runs
from jotgate.api.staff.entries import (
    entries,
    entry_acts,
    entry_export,
    entry_notes,
    entry_table,
    entry_versions,
    handling,
    one_person,
    standing,
)
from jotgate.api.staff.links import (
    contact_tables,
    contacts,
    hand_offs,
    identity_providers,
    links,
    mailings,
    no_letters,
    passes,
)
from jotgate.api.staff.registers import register_grid, register_rows, register_tables, registers
from jotgate.api.staff.rounds import dispositions, following, paper, rounds, worklist
from jotgate.core.common.errors import Unavailable
from jotgate.services.context import Context
from jotgate.services.public import starts
from jotgate.services.public.rate_limit import RateLimiter, share
from jotgate.settings import Settings

log = structlog.get_logger("request")

OpenContext = Callable[[Settings], AbstractAsyncContextManager[Context]]

ROUTERS = (
    answering.router,
    files.router,
    started.router,
    waiting.router,
    confirming.router,
    own_entry.router,
    media.router,
    public_standing.router,
    answer_pages.router,
    visitor_sign_in.router,
    opt_out_pages.router,
    joining_pages.router,
    shared_pages.router,
    typed_code_pages.router,
    pages.router,
    accounts.router,
    own_account.router,
    people.router,
    sharing.router,
    contact_tables.router,
    contacts.router,
    bank.router,
    described.router,
    desk.router,
    exchange.router,
    questionnaires.router,
    gate.router,
    gate.many,
    outlines.router,
    staff_media.router,
    proof.router,
    trial.router,
    dispatch.router,
    entry_table.router,
    entry_table.kept,
    figures.router,
    staff_shared_pages.router,
    statistics.router,
    entry_acts.router,
    entry_export.router,
    one_person.router,
    entry_export.schema,
    entry_notes.router,
    entries.router,
    entry_versions.router,
    entry_versions.by_people,
    handling.router,
    runs.router,
    hooks.router,
    hand_offs.router,
    eye.router,
    links.router,
    passes.router,
    mailings.router,
    no_letters.router,
    rounds.router,
    following.router,
    worklist.router,
    paper.router,
    dispositions.router,
    standing.router,
    office.router,
    identity_providers.router,
    registers.router,
    rehearsals.router,
    replays.router,
    routing_proof.router,
    register_grid.router,
    register_rows.router,
    register_tables.router,
    trail.router,
)
"""The public ones first: routes are tried in order, and theirs are asked for most. They are taken
over as they are: a router inside a router is looked through twice at each request."""


SHARED_EVERY = 0.5
"""Seconds between two exchanges of what each process has gathered."""


async def _share(context: Context, limiter: RateLimiter) -> None:
    """Share the pace of clients with the other processes, and which visitors have started; while
    the database is away, each has its own."""
    while True:
        await asyncio.sleep(SHARED_EVERY)
        try:
            await share(context, limiter)
            await starts.keep(context)
        except Unavailable:
            continue
        except Exception as error:
            log.exception("failed", route="sharing", kind=type(error).__name__)


def create_app(settings: Settings, open_context: OpenContext) -> FastAPI:
    """The application; `open_context` opens what the use cases work on for its lifetime."""

    limiter = RateLimiter(settings.public_per_minute, burst=max(settings.public_per_minute // 4, 1))

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        async with open_context(settings) as context:
            app.state.context = context
            sharing = asyncio.ensure_future(_share(context, limiter))
            yield
            sharing.cancel()
            with suppress(Unavailable):
                await starts.keep(context)

    app = FastAPI(
        title="Jot Gate",
        version="1",
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        separate_input_output_schemas=False,
    )
    app.state.settings = settings
    problems.install(app)
    for router in ROUTERS:
        app.router.routes += router.routes
    if settings.web.is_dir():
        app.mount(
            "/assets", Assets(directory=settings.web / "assets", check_dir=False), name="assets"
        )
    over_https = settings.public_url.startswith("https:")
    app.add_middleware(
        Middleware, limiter=limiter, proxies=settings.trusted_proxies, over_https=over_https
    )
    return app
