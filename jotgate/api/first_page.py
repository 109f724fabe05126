"""What the answering page starts with, and the HTML that it stands in."""

import json
import secrets
from collections.abc import Mapping, Sequence
from functools import cache
from html import escape
from typing import Any
from uuid import UUID

from babel import Locale, UnknownLocaleError
from fastapi import Request
from fastapi.responses import HTMLResponse
from pydantic import BaseModel

from jotgate.api.problems import Problem
from jotgate.api.public.answering import PageOut, page_out
from jotgate.api.public.look import LookOut, look_out, page_words, plain_look
from jotgate.api.public.questions import QuestionOut
from jotgate.api.shell import PageShell, shell
from jotgate.core.common.errors import Unavailable
from jotgate.core.common.formatting import moment
from jotgate.core.entries.facts import ENTERED_AS
from jotgate.core.gate.people import Robots
from jotgate.core.gate.robots import is_known
from jotgate.core.office import Office
from jotgate.core.walking.next_page import first_page
from jotgate.core.words import failures, page
from jotgate.ports.rendering import Rendered
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.public.entering import Visit, with_filled
from jotgate.services.public.rendering import rendered
from jotgate.services.public.signing_in import Offered

NO_SLOTS: Mapping[str, str] = {}


def _stand_in(name: str) -> str:
    """Stands in what is drawn for what is different at each visit, so that one drawing does for
    all of them."""
    return f"{name}-{secrets.token_hex(16)}"


LINK, PATH, ARRIVAL, KNOWN, WHO = map(_stand_in, ("link", "path", "arrival", "known", "who"))
"""For the query string, the path of the page, what is known of the visitor, sealed, what tells one
who was handed on here from others, and as whom they signed in."""


class LanguageOut(BaseModel):
    """A language that the questionnaire can be read in, under its own name; `href` leads there."""

    code: str
    name: str
    href: str


class WayToSignIn(BaseModel):
    """A provider that visitors may sign in at, where `href` begins; or as whom they are signed in,
    where it ends that."""

    name: str
    href: str


class AskedOut(BaseModel):
    """What is asked of a browser: work in leading zero bits, a field that nobody sees, a name of
    its own."""

    proof: int = 0
    trap: bool = False
    device: bool = False


class TrialOut(BaseModel):
    """The draft of this questionnaire is tried by somebody of staff."""

    id: UUID
    csrf: str


class OwnOut(BaseModel):
    """What a visitor sent before and may change: they do now, or where they do at `href`."""

    says: str
    href: str = ""


class StaffOut(BaseModel):
    """Somebody of the office enters an entry for somebody, or corrects one: what the page says of
    that, in the language of the desk, where the entries are there, and where the next one is
    entered."""

    says: str
    desk: str
    again: str = ""


class FirstOut(BaseModel):
    """What the answering page starts with: its own words, and what it shows.

    `shown` is a page of questions, or why there is none. `submission` names what will be sent,
    where options are shuffled by it. `arrival` is what is known of the visitor, sealed, to be sent
    along with everything; `known` tells one who was handed on here, or signed in, from others.
    `sign_in` are the providers that one may sign in at, `signed_in` says as whom one is, `own` is
    what they sent before.
    """

    language: str
    words: Mapping[str, str]
    failures: Mapping[str, str]
    languages: list[LanguageOut] = []
    submission: str = ""
    arrival: str = ""
    known: str = ""
    sign_in: list[WayToSignIn] = []
    signed_in: WayToSignIn | None = None
    shown: PageOut | Problem
    look: LookOut = LookOut()
    trial: TrialOut | None = None
    asked: AskedOut | None = None
    own: OwnOut | None = None
    staff: StaffOut | None = None


def ways_to_sign_in(offered: list[Offered]) -> list[WayToSignIn]:
    return [WayToSignIn(name=one.name, href=f"{PATH}/sign-in/{one.id}{LINK}") for one in offered]


def first_of(visitor: Visit, kept: Office, offered: list[Offered]) -> FirstOut:
    given = visitor.filled
    following = first_page(visitor.plan, with_filled(given, {}), given.carried, visitor.today)
    shown = page_out(visitor, following)
    languages = [
        LanguageOut(code=one, name=autonym(one), href=f"{PATH}/{one}{LINK}")
        for one in visitor.plan.questionnaire.languages
    ]
    submission = secrets.token_hex(16) if _shuffles(shown.items) else ""
    signed_in = None
    if visitor.is_known:
        name = WHO if visitor.called else ""
        signed_in = WayToSignIn(name=name, href=f"{PATH}/sign-out")
    return FirstOut(
        **_standing(visitor, kept),
        languages=languages,
        shown=shown,
        submission=submission,
        arrival=ARRIVAL if visitor.arrival else "",
        known=KNOWN if visitor.arrival else "",
        sign_in=ways_to_sign_in(offered),
        signed_in=signed_in,
        asked=_asked(visitor),
        own=_own(visitor),
        staff=_staff(visitor),
    )


def _staff(visitor: Visit) -> StaffOut | None:
    came = visitor.came
    if came.staff_id is None:
        return None
    desk = f"/desk/q/{visitor.id}/entries"
    if came.own is None or visitor.sent is None:
        said = ENTERED_AS.get(came.entered, "To you")
        says = f"You enter what somebody said {said[0].lower()}{said[1:]}."
        return StaffOut(says=says, desk=desk, again=PATH)
    says = f"You correct entry {visitor.sent.entry.number:04}. What it says now is kept."
    return StaffOut(says=says, desk=f"{desk}?entry={came.own}")


def _own(visitor: Visit) -> OwnOut | None:
    if visitor.sent is None:
        return None
    words, changing = page(visitor.language), visitor.came.own is not None
    sent = moment(visitor.sent.entry.arrived, visitor.language, visitor.today.zone)
    if not changing:
        return OwnOut(says=words["own_sent"].format(time=sent), href=f"{PATH}/own")
    says = words["own_changing"].format(time=sent)
    if visitor.sent.until is not None:
        until = moment(visitor.sent.until, visitor.language, visitor.today.zone)
        says = f"{says} {words['own_until'].format(time=until)}"
    return OwnOut(says=says)


def _asked(visitor: Visit) -> AskedOut | None:
    """Nothing is asked of those who are known by more than their browser."""
    if visitor.state is None:
        return None
    gate = visitor.state.gate
    limit = gate.per_person
    robots = Robots() if is_known(visitor.came) else gate.robots
    device = limit is not None and "device" in limit.known_by
    asked = AskedOut(proof=robots.proof, trap=robots.trap, device=device)
    return asked if asked != AskedOut() else None


def _shuffles(items: list[QuestionOut]) -> bool:
    return any(item.shuffled or _shuffles(item.items) for item in items)


def _standing(visitor: Visit, kept: Office) -> dict[str, Any]:
    """What is the same for everybody who reads an edition in one language, made once, and again
    when the office has changed."""
    made, name = visitor.plan.made, ("page", visitor.language)
    if name not in made or made[name][0] != kept:
        document, language = visitor.plan.questionnaire, visitor.language
        told = {
            "language": language,
            "words": page_words(document.look, language),
            "failures": failures(language),
            "look": look_out(document.look, kept, language, document.first_language),
        }
        made[name] = (kept, told)
    found: dict[str, Any] = made[name][1]
    return found


async def refused(
    request: Request,
    context: Context,
    problem: Problem,
    language: str,
    framed: str = "'none'",
    offered: Sequence[Offered] = (),
    slots: Mapping[str, str] = NO_SLOTS,
) -> HTMLResponse:
    """A page that says why there is nothing to answer, and where one can sign in."""
    try:
        look = plain_look(await office.current(context), language)
    except Unavailable:
        look = LookOut()
    first = FirstOut(
        language=language,
        words=page(language),
        failures={},
        shown=problem,
        look=look,
        sign_in=ways_to_sign_in(list(offered)),
    )
    data = data_of(first)
    drawn = await rendered(context, data, shared=True)
    return sent(request, first, data, drawn, slots, framed)


def sent(
    request: Request,
    first: FirstOut,
    data: str,
    drawn: Rendered,
    slots: Mapping[str, str],
    framed: str = "'none'",
) -> HTMLResponse:
    """The page, with what is different at each visit put in for what stands for it (`slots`);
    `framed` says which sites may show it in a frame."""
    html = drawn.html
    for name, text in slots.items():
        data = data.replace(name, json.dumps(text)[1:-1])
        html = html.replace(name, escape(text))
    shown = first.shown
    title, status = (
        (first.words["questionnaire"], shown.status)
        if isinstance(shown, Problem)
        else (shown.title, 200)
    )
    return shell(
        request,
        "answer",
        PageShell(
            title=title,
            language=first.language,
            first=data,
            drawn=Rendered(html, drawn.styles),
            status=status,
            framed=framed,
        ),
    )


def data_of(first: FirstOut) -> str:
    return first.model_dump_json(exclude_defaults=True)


def preferred(header: str) -> list[str]:
    """The languages of an Accept-Language header (RFC 9110, 12.5.4), the best liked first."""
    ranked: list[tuple[float, str]] = []
    for part in header[:500].split(","):
        language, _, weight = part.strip().partition(";q=")
        try:
            ranked.append((float(weight or 1), language.strip()))
        except ValueError:
            continue
    ranked.sort(key=lambda one: -one[0])
    return [language for liked, language in ranked if liked > 0 and language]


@cache
def autonym(code: str) -> str:
    """What a language calls itself; its code where that is not known."""
    try:
        return Locale.parse(code, sep="-").get_display_name(code.replace("-", "_")) or code
    except (ValueError, UnknownLocaleError):
        return code
