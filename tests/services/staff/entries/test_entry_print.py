"""Entries on paper: what was asked and answered, page by page, tagged, with nothing restricted."""

from io import BytesIO
from typing import Any

import pytest
from pypdf import PdfReader

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.services.context import Context
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.staff.entries import entry_print
from tests.documents import item, page, questionnaire
from tests.scenes import SECRET, Scene, published


def read(made: bytes) -> tuple[PdfReader, str]:
    found = PdfReader(BytesIO(made))
    return found, "\n".join(one.extract_text() for one in found.pages)


async def test_several_each_on_pages_of_its_own(scene: Scene, context: Context) -> None:
    for name in ("Ines", "Oskar", "Ada"):
        await scene.submit(name, name=name, ill=True, illness=SECRET)
    made = await entry_print.pdf(context, scene.reviewer, scene.id, [1, 3])
    found, words = read(made)
    assert len(found.pages) == 2
    assert words.index("0003") < words.index("Ada") < words.index("0001") < words.index("Ines")
    assert "Oskar" not in words
    assert SECRET not in words
    root: Any = found.trailer["/Root"]
    assert root["/MarkInfo"]["/Marked"]
    assert "/StructTreeRoot" in root


async def test_with_what_was_left_empty_or_without(scene: Scene, context: Context) -> None:
    await scene.submit("a")
    bare = read(await entry_print.pdf(context, scene.coordinator, scene.id, [1]))[1]
    whole = read(await entry_print.pdf(context, scene.coordinator, scene.id, [1], empty=True))[1]
    assert "Drinkers" not in bare
    assert "Drinkers" in whole
    assert "Illness" not in whole


async def test_in_the_language_it_was_answered_in(scene: Scene, context: Context) -> None:
    asked = item("short_text", "name", text={"en": "Your name", "ar": "ما اسمك"})
    document = questionnaire(page("p", asked), languages=["en", "ar"])
    id, address = await published(context, scene.coordinator, document)
    own = Scene(context, scene.coordinator, scene.reviewer, id, address, scene.saltings, scene.rest)
    answers = Answers("", 1, {"name": "نور"}, language="ar")
    await submitting.submit(context, own.address, answers, "k".rjust(20, "0"))
    first = read(await entry_print.pdf(context, scene.coordinator, id, [1]))[1]
    theirs = read(await entry_print.pdf(context, scene.coordinator, id, [1], own=True))[1]
    assert "Your name" in first
    assert "Your name" not in theirs


async def test_not_too_many_and_only_those_that_are_there(scene: Scene, context: Context) -> None:
    with pytest.raises(NotFound):
        await entry_print.pdf(context, scene.coordinator, scene.id, [7])
    with pytest.raises(Invalid):
        await entry_print.pdf(context, scene.coordinator, scene.id, list(range(1, 102)))
