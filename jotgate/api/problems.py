"""The one table from our errors to HTTP, as problem details (RFC 9457)."""

from typing import Any

from fastapi import FastAPI, Request
from fastapi.encoders import jsonable_encoder
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from jotgate.core.common import errors
from jotgate.core.common.errors import Fault, Invalid, JotGateError

STATUS: dict[type[JotGateError], int] = {
    errors.NotSignedIn: 401,
    errors.WrongSignIn: 401,
    errors.NotAllowed: 403,
    errors.Shut: 403,
    errors.NotFound: 404,
    errors.NoPlace: 409,
    errors.NotProved: 422,
    errors.TooQuick: 429,
    errors.Trapped: 422,
    errors.Replaced: 409,
    errors.Stale: 409,
    errors.Invalid: 422,
    errors.LinkRefused: 422,
    errors.PassRefused: 404,
    errors.SignInNeeded: 403,
    errors.SignInFailed: 403,
    errors.Sealed: 409,
    errors.Erased: 410,
    errors.TooHeavy: 422,
    errors.TooLarge: 413,
    errors.TooManyTries: 429,
    errors.AlreadyThere: 409,
    errors.OutOfRange: 422,
    errors.Unavailable: 503,
}


class Problem(BaseModel):
    """What a failed request is answered with, as application/problem+json."""

    type: str = "about:blank"
    status: int
    code: str
    detail: str
    params: dict[str, Any] = {}
    faults: list[Fault] = []


PROBLEMS: dict[int | str, dict[str, Any]] = {"default": {"model": Problem}}


def answer(problem: Problem, headers: dict[str, str] | None = None) -> JSONResponse:
    return JSONResponse(
        problem.model_dump(mode="json"),
        problem.status,
        headers,
        media_type="application/problem+json",
    )


def status_of(error: JotGateError) -> int:
    return next(STATUS[kind] for kind in type(error).__mro__ if kind in STATUS)


def problem_of(error: JotGateError) -> Problem:
    return Problem(
        status=status_of(error),
        code=error.code,
        detail=error.message,
        params=jsonable_encoder(error.params),
        faults=list(error.faults) if isinstance(error, Invalid) else [],
    )


async def _ours(request: Request, error: JotGateError) -> JSONResponse:
    wait = error.params.get("retry_after")
    return answer(problem_of(error), {"Retry-After": str(wait)} if wait else None)


async def _unreadable(request: Request, error: RequestValidationError) -> JSONResponse:
    """A request of the wrong shape. What was sent is never repeated in the answer."""
    faults = [
        Fault(
            code=fault["type"],
            at="/".join(str(part) for part in fault["loc"][1:]),
            message=fault["msg"].removeprefix("Value error, "),
        )
        for fault in error.errors()[:50]
    ]
    detail = "The request does not have the expected shape."
    return answer(Problem(status=422, code="unreadable", detail=detail, faults=faults))


async def _plain(request: Request, error: HTTPException) -> JSONResponse:
    code = {404: "not_found", 405: "method_not_allowed", 413: "too_large", 422: "unreadable"}.get(
        error.status_code, "http"
    )
    return answer(Problem(status=error.status_code, code=code, detail=str(error.detail)))


def install(app: FastAPI) -> None:
    app.add_exception_handler(JotGateError, _ours)  # type: ignore[arg-type]
    app.add_exception_handler(RequestValidationError, _unreadable)  # type: ignore[arg-type]
    app.add_exception_handler(HTTPException, _plain)  # type: ignore[arg-type]
