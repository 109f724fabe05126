"""The web process: `uvicorn --factory jotgate.main:web`."""

import gc

from fastapi import FastAPI

from jotgate import logs
from jotgate.api.app import create_app
from jotgate.settings import Settings
from jotgate.wiring import open_house


def web() -> FastAPI:
    settings = Settings()
    logs.set_up(settings.log_level)
    app = create_app(settings, open_house)
    _let_be()
    return app


def _let_be() -> None:
    """Keep the collector of cyclic garbage away from all that was imported: it stays, and looking
    through it again and again costs every request a little."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 50)
