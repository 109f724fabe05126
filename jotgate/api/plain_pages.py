"""Pages that belong to no questionnaire: what one does with a letter."""

from collections.abc import Mapping

from fastapi import Request
from fastapi.responses import HTMLResponse

from jotgate.api.first_page import FirstOut, data_of, preferred, sent
from jotgate.api.problems import Problem
from jotgate.api.public.look import plain_look
from jotgate.core.common.wording import closest
from jotgate.core.words import LANGUAGES, letter, page
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.public.rendering import rendered


def language_of(request: Request) -> str:
    """The language of ours that a browser asks for."""
    return closest(LANGUAGES, preferred(request.headers.get("accept-language", "")))


async def plain_page(
    request: Request, context: Context, code: str, params: Mapping[str, str], status: int
) -> HTMLResponse:
    """The page of the front end that is called `code`; it is told the office's name too."""
    kept = await office.current(context)
    language = language_of(request)
    told = {**params, "office": kept.name}
    shown = Problem(status=status, code=code, detail="", params=told)
    first = FirstOut(
        language=language,
        words={**page(language), **letter(language)},
        failures={},
        shown=shown,
        look=plain_look(kept, language),
    )
    data = data_of(first)
    return sent(request, first, data, await rendered(context, data, shared=False), {})
