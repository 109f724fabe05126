"""What the routers of the API share: bodies read strictly, failures told in one form."""

from fastapi import APIRouter
from fastapi.routing import APIRoute

from jotgate.api.body import StrictRoute
from jotgate.api.problems import PROBLEMS


def operation_id(route: APIRoute) -> str:
    return route.name


def routes(prefix: str, tag: str) -> APIRouter:
    return APIRouter(
        route_class=StrictRoute,
        prefix=prefix,
        tags=[tag],
        responses=PROBLEMS,
        generate_unique_id_function=operation_id,
    )
