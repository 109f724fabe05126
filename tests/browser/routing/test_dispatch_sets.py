"""Acts that set something, written and rehearsed on screen, and what came of them."""

import re
import time
from email import message_from_bytes, policy
from uuid import UUID

import pytest

from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.accounts import people
from jotgate.services.staff.contacts import lists
from jotgate.store.contacts import contacts
from tests.browser.reading import Browser
from tests.browser.routing.test_dispatch import open_dispatch
from tests.browser.wells import Wells


def named(wells: Wells) -> tuple[str, str]:
    """A team of the owner alone, and a contact list, under names of their own."""
    team, listed = f"Crew {time.time_ns()}", f"Letters {time.time_ns()}"

    async def make(context: Context, owner: Account) -> UUID:
        await people.save_team(context, owner, None, team, "", [owner.id])
        return await lists.add(context, owner, listed)

    wells.do(make)
    return team, listed


@pytest.mark.usefixtures("processes")
def test_what_rules_set_is_written_rehearsed_and_done(browser: Browser, wells: Wells) -> None:
    """A new act is empty and says what is missing. Whose turn it is stands with the entry, and the
    consent with the contact."""
    team, listed = named(wells)
    wells.send("first", name="ada@example.org")
    open_dispatch(browser, wells)
    browser.press("button", "Otherwise")
    browser.pick("Set something", "who takes care")
    browser.reads("Choose who takes care.")
    browser.pick("Who takes care", f"one of team {team}, in turn")
    browser.pick("Set something", "who is on a contact list")
    browser.reads("Choose a contact list.", "Choose the question that asks")
    browser.pick("Contact list", listed)
    browser.pick("Question that asks for consent", "district")
    browser.reads("Choose the option that says yes to the list.")
    browser.pick("Option that says yes", "Saltings")
    browser.pick("Mail address", "name")
    browser.accessible()
    browser.reads(f"whose turn it is in team {team}", f"whether to be on the list {listed}")
    browser.press("button", "Apply the changes")
    browser.reads("Applied")
    sent = wells.send("second", name="ada@example.org")
    browser.open(f"{browser.base}/desk/q/{wells.id}/entries?entry={sent.id}")
    browser.reads("Taken care of by", "Rowan Oake")
    browser.reads("asked by letter whether to be on a contact list (ada@example.org)")
    browser.accessible()
    browser.pick("Taken care of by", team)
    browser.reads(team)
    browser.open(f"{browser.base}/desk/trail?questionnaire={wells.id}")
    browser.reads(f"had {team} take care of entry 2", "had Rowan Oake take care of entry 2")
    browser.open(asked(browser, wells, "ada@example.org"))
    browser.reads("Do you want letters from Thornmere Well Watch?", "ada@example.org", "Saltings")
    browser.accessible()
    browser.press("button", "Yes, write to me")
    browser.reads("Thank you")
    browser.accessible()
    browser.open(f"/desk/contacts?contact={contact(wells, 'ada@example.org')}")
    browser.reads(listed, "District Saltings", "confirmed by letter")
    browser.accessible()


def asked(browser: Browser, wells: Wells, email: str) -> str:
    """The link of the letter that asks somebody whether they want to be on a list."""
    folder = wells.installation.settings.mail_room
    assert folder is not None

    def link() -> str:
        for path in folder.glob("*.eml"):
            message = message_from_bytes(path.read_bytes(), policy=policy.default)
            body = message.get_body(preferencelist=("plain",))
            found = re.search(r"http\S+/in/\S+", str(body.get_content())) if body else None
            if message["To"] == email and found:
                return found[0]
        return ""

    return browser.soon(link)


def contact(wells: Wells, email: str) -> UUID:
    async def find(context: Context, _: Account) -> UUID:
        async with context.engine.connect() as conn:
            return (await contacts.by_email(conn, email))[0].id

    return wells.do(find)
