"""The process that takes delivery reports about letters to contacts."""

import asyncio
import signal
from functools import partial

from jotgate import logs
from jotgate.adapters.report_server import Reports, open_reports
from jotgate.services.mailings import bounces
from jotgate.settings import Settings
from jotgate.wiring import open_context


async def serve(settings: Settings) -> None:
    """Take reports until told to stop by SIGINT or SIGTERM."""
    if not settings.bounces or not settings.reports_port:
        raise SystemExit("Set JOTGATE_BOUNCES and JOTGATE_REPORTS_PORT first.")
    logs.set_up(settings.log_level)
    stop = asyncio.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        asyncio.get_running_loop().add_signal_handler(number, stop.set)
    async with open_context(settings) as context:
        reports = Reports(partial(bounces.letter_of, context), partial(bounces.take, context))
        server = await open_reports(reports, settings.reports_host, settings.reports_port)
        async with server:
            await stop.wait()
