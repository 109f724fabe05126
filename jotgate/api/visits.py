"""Cookies for one questionnaire: of somebody who is known beforehand, or waits for a place."""

from datetime import timedelta
from urllib.parse import quote

from fastapi import Request
from fastapi.responses import Response

from jotgate.api.dependencies import cookie_name
from jotgate.services.public.handing import VISIT_LASTS

VISIT, WAITING = "jotgate_visit", "jotgate_waiting"


WAITS = timedelta(days=90)
"""For how long somebody on the waiting list is known again."""


def visit_cookie(request: Request, address: str) -> str:
    return cookie_name(request.app.state.settings, f"{VISIT}_{address}", "__Secure-")


def waiting_cookie(request: Request, address: str) -> str:
    return cookie_name(request.app.state.settings, f"{WAITING}_{address}", "__Secure-")


def set_visit(reply: Response, request: Request, address: str, visit: str) -> None:
    _set(reply, request, address, visit_cookie(request, address), visit, VISIT_LASTS)


def set_waiting(reply: Response, request: Request, address: str, secret: str) -> None:
    _set(reply, request, address, waiting_cookie(request, address), secret, WAITS)


def _set(
    reply: Response, request: Request, address: str, name: str, value: str, lasts: timedelta
) -> None:
    reply.set_cookie(
        name,
        value,
        max_age=int(lasts.total_seconds()),
        path=f"/q/{quote(address)}",
        httponly=True,
        samesite="lax",
        secure=request.app.state.settings.secure_cookies,
    )


def drop_visit(reply: Response, request: Request, address: str) -> None:
    """The next one at this browser is somebody else."""
    reply.delete_cookie(visit_cookie(request, address), path=f"/q/{quote(address)}")
