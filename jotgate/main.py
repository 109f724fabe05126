"""The web process: `uvicorn --factory jotgate.main:web`."""

from fastapi import FastAPI

from jotgate import logs
from jotgate.api.app import create_app
from jotgate.collecting import leave_what_is_there
from jotgate.settings import Settings
from jotgate.wiring import open_context


def web() -> FastAPI:
    settings = Settings()
    logs.set_up(settings.log_level)
    app = create_app(settings, open_context)
    leave_what_is_there()
    return app
