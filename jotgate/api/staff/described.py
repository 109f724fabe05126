"""The description of the API, for who is signed in."""

from typing import Any

from fastapi import APIRouter, Request

from jotgate.api.dependencies import CurrentAccount

router = APIRouter(prefix="/api", tags=["desk"], include_in_schema=False)


@router.get("/openapi.json")
async def openapi(request: Request, account: CurrentAccount) -> dict[str, Any]:
    """What can be asked for (OpenAPI 3.1); tokens open it as well."""
    found: dict[str, Any] = request.app.openapi()
    return found
