"""The HTML pages that are no questionnaire: the desk for staff, and the licences."""

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse, HTMLResponse, RedirectResponse

from jotgate.api.body import StrictRoute
from jotgate.api.shell import PageShell, shell

router = APIRouter(route_class=StrictRoute, include_in_schema=False)


@router.get("/")
async def root() -> RedirectResponse:
    return RedirectResponse("/desk")


@router.get("/desk")
@router.get("/desk/{path:path}")
async def desk(request: Request, path: str = "") -> HTMLResponse:
    return shell(request, "desk", PageShell("Jot Gate", "en", "null"))


@router.get("/licences", include_in_schema=False)
async def licences(request: Request) -> FileResponse:
    """Under which licences everything stands that ships; the page has its own policy."""
    headers = {"Content-Security-Policy": "frame-ancestors 'none'"}
    return FileResponse(request.app.state.settings.web / "licences.html", headers=headers)
