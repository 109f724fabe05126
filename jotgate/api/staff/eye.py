"""The visitor's eye: what a link lets its visitor learn, from the responses themselves."""

import json
import re
from typing import Any
from uuid import UUID

import httpx
from fastapi import Request
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.common.errors import Unavailable
from jotgate.core.eye import Received, Report, report
from jotgate.services.staff.links import eye
from jotgate.services.staff.links.eye import Looked

router = routes("/api/questionnaires/{id}/links/eye", "links")

_FIRST = re.compile(r'id="first"[^>]*>(.*?)</script>', re.S)


class EyeIn(BaseModel):
    """`link` is a whole address of this questionnaire."""

    link: str = Field(max_length=8000)


class LearnedOut(BaseModel):
    """`read` says in what the visitor reads it, empty where they cannot; `unsure` that it is too
    short to be looked for; `leaks` that it is sealed and was found all the same."""

    key: str
    name: str
    words: str
    sealed: bool
    read: str
    changes: bool
    unsure: bool
    leaks: bool


class HiddenOptions(BaseModel):
    name: str
    labels: list[str]


class EyeOut(BaseModel):
    """`heading` and `items` are what the visitor sees first; the rest as in core/eye.py."""

    heading: str
    items: list[str]
    learned: list[LearnedOut]
    hidden_options: list[HiddenOptions]
    hidden_pages: list[str]
    seen_pages: list[str]
    address: list[str]
    cookies: list[str]
    referrer: bool
    responses: int
    leaks: bool


@router.post("")
async def visitors_eye(
    id: UUID, body: EyeIn, request: Request, context: CurrentContext, account: CurrentAccount
) -> EyeOut:
    """Nothing is stored, and no pass is used up: what a finish says is what it would say."""
    looked = await eye.look(context, account, id, body.link)
    received, first = await _receive(request, looked)
    found = report(looked.plan, looked.filled, looked.given, received)
    return _out(found, first)


async def _receive(request: Request, looked: Looked) -> tuple[list[Received], dict[str, Any]]:
    """What a browser is sent that comes by the link and answers, walk by walk."""
    transport = httpx.ASGITransport(request.app)
    base = request.app.state.settings.public_url
    async with httpx.AsyncClient(transport=transport, base_url=base) as client:
        page = await client.get(looked.path)
        received = [_received("the first page", page)]
        first = _first(page.text)
        address = looked.path.split("/")[2].partition("?")[0]
        for answers, pages, says in looked.walks:
            body = {
                "edition": looked.visitor.edition,
                "link": looked.path.partition("?")[2],
                "arrival": first.get("arrival", ""),
                "answers": answers,
                "language": looked.visitor.language,
            }
            for key in pages:
                turn = {**body, "move": "stay", "at": key}
                reply = await client.post(f"/api/public/{address}/page", json=turn)
                received.append(_received(f"the page {key}", reply))
            received.append(Received("the finish", [], says))
    return received, first


def _received(what: str, reply: httpx.Response) -> Received:
    """Raises Unavailable where it did not come: nothing is said of what was not looked at."""
    if reply.status_code != 200:
        raise Unavailable("Not every page could be asked for. Try again shortly.")
    return Received(what, list(reply.headers.multi_items()), reply.text)


def _first(html: str) -> dict[str, Any]:
    found = _FIRST.search(html)
    whole: dict[str, Any] = json.loads(found[1]) if found else {}
    return whole


def _out(found: Report, first: dict[str, Any]) -> EyeOut:
    shown = first.get("shown", {})
    return EyeOut(
        heading=shown.get("heading", ""),
        items=[one.get("text") or _words(one.get("html", "")) for one in shown.get("items", [])],
        learned=[LearnedOut(**vars(one)) for one in found.learned],
        hidden_options=[
            HiddenOptions(name=name, labels=list(labels))
            for name, labels in found.hidden_options.items()
        ],
        hidden_pages=list(found.hidden_pages),
        seen_pages=list(found.seen_pages),
        address=list(found.address),
        cookies=list(found.cookies),
        referrer=found.referrer,
        responses=found.responses,
        leaks=found.leaks,
    )


def _words(html: str) -> str:
    return " ".join(re.sub(r"<[^>]*>", " ", html).split())
