"""A questionnaire that gives out kits, and what others do with it while somebody looks on."""

import asyncio
import re
from collections.abc import Callable, Coroutine
from email import message_from_bytes, policy
from pathlib import Path
from typing import Any, TypeVar

from selenium.webdriver.common.by import By
from sqlalchemy import text

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.settings import Gate
from jotgate.core.records.accounts import Account
from jotgate.local.installation import Installation
from jotgate.services.context import Context
from jotgate.services.gate import Seen
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.public.submitted import Submitted
from jotgate.services.staff import desk
from jotgate.services.staff.entries import removing
from jotgate.services.staff.gate import gate
from jotgate.store.accounts import accounts as account_store
from jotgate.wiring import open_context
from tests.browser.published import public
from tests.browser.reading import Browser
from tests.documents import item, options, page, questionnaire

T = TypeVar("T")

TITLES = iter(range(1000))


def kits() -> Questionnaire:
    """Three pages, in English and Arabic, under a name of its own."""
    found = questionnaire(
        page("start", item("short_text", "name", required=True)),
        page(
            "kit",
            item("pick_one", "district", required=True, options=options("saltings", "millbeck")),
        ),
        page("last", item("short_text", "more")),
        languages=["en", "ar"],
    )
    return found.model_copy(update={"title": {"en": f"Kits {next(TITLES)}"}})


class Wells:
    """A questionnaire, and what others do with it while somebody looks at it in the browser."""

    def __init__(self, installation: Installation, document: Questionnaire | None = None) -> None:
        self.installation = installation
        document = document or kits()
        self.title = document.title["en"]
        self.link = public(installation, document)
        self.address = self.link.rsplit("/", 1)[-1]
        self.id = self.do(self._id)

    def do(self, what: Callable[[Context, Account], Coroutine[Any, Any, T]]) -> T:
        async def done() -> T:
            async with open_context(self.installation.settings) as context:
                async with context.engine.connect() as conn:
                    now = context.clock.now()
                    found = await account_store.by_email(conn, "rowan@example.org", now)
                assert found is not None
                return await what(context, found[0])

        return asyncio.run(done())

    async def _id(self, context: Context, owner: Account) -> Any:
        lines = await desk.desk(context, owner)
        return next(one.summary.id for one in lines if one.summary.address == self.address)

    def set(self, **more: Any) -> None:
        async def save(context: Context, owner: Account) -> None:
            saved = await gate.find(context, owner, self.id)
            value = Gate.model_validate({"state": "open", **more})
            await gate.save(context, owner, self.id, value, saved.revision)

        self.do(save)

    def send(
        self, key: str, district: str = "saltings", name: str = "Ines", link: str = "", **more: Any
    ) -> Submitted:
        async def sent(context: Context, owner: Account) -> Submitted:
            whole = key.rjust(20, "0")
            given = {"name": name, "district": district, **more}
            answers = Answers(link, 1, given, seen=Seen(whole))
            return await submitting.submit(context, self.address, answers, whole)

        return self.do(sent)

    def delete(self, sent: Submitted) -> None:
        self.do(lambda context, owner: removing.remove(context, owner, self.id, sent.id))

    def run(self, query: str, **given: Any) -> None:
        async def ran(context: Context, owner: Account) -> None:
            async with context.engine.begin() as conn:
                await conn.execute(text(query), given)

        self.do(ran)


ALL = {"key": "all", "name": "Kits"}
BY = {"key": "district", "name": "By district", "by": ["district"]}


def take(browser: Browser, option: str) -> None:
    """Pick an option of the page, once it is there."""
    path = f"//label[.//text()='{option}']"
    browser.soon(lambda: browser.driver.find_element(By.XPATH, path)).click()


def first_pages(browser: Browser, wells: Wells) -> None:
    """Answer up to the second page, with Saltings picked."""
    browser.open(wells.link)
    browser.write("Name", "Ada")
    browser.press("button", "Continue")
    browser.reads("District")
    take(browser, "Saltings")


def letter_to(room: Path, email: str, way: str) -> str | None:
    """The newest link of a way, such as `p` for a pass, in the letters to an address."""
    for path in sorted(room.glob("*.eml"), key=lambda one: -one.stat().st_mtime):
        letter = message_from_bytes(path.read_bytes(), policy=policy.default)
        if email in str(letter["To"]):
            part = letter.get_body(("plain",))
            body = str(part.get_content()) if part else ""
            found = re.search(rf"https?://\S+/{way}/\S+", body)
            if found:
                return found[0]
    return None
