"""The HTML pages that are no questionnaire: the desk for staff, and the licences."""

from pathlib import Path

from fastapi import APIRouter, Request, Response
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


EMBED = (Path(__file__).parent / "embed.js").read_bytes()


@router.get("/embed.js")
async def embed() -> Response:
    """The script by which a frame on another site follows the height of its page."""
    headers = {
        "Cross-Origin-Resource-Policy": "cross-origin",
        "Cache-Control": "public, max-age=3600",
    }
    return Response(EMBED, media_type="text/javascript", headers=headers)


@router.get("/licences", include_in_schema=False)
async def licences(request: Request) -> FileResponse:
    """Under which licences everything stands that ships; the page has its own policy."""
    headers = {"Content-Security-Policy": "frame-ancestors 'none'"}
    return FileResponse(request.app.state.settings.web / "licences.html", headers=headers)
