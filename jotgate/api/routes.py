"""What the routers of the API share: bodies read strictly, failures told in one form."""

from fastapi import APIRouter

from jotgate.api.body import StrictRoute
from jotgate.api.problems import PROBLEMS


def routes(prefix: str, tag: str) -> APIRouter:
    return APIRouter(route_class=StrictRoute, prefix=prefix, tags=[tag], responses=PROBLEMS)
