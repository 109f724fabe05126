"""Acts that set something, written and rehearsed on screen, and what came of them."""

import time
from uuid import UUID

import pytest

from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.accounts import people
from jotgate.services.staff.contacts import lists
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
    browser.reads(f"whose turn it is in team {team}", f"on the list {listed}")
    browser.press("button", "Apply the changes")
    browser.reads("Applied")
    sent = wells.send("second", name="ada@example.org")
    browser.open(f"{browser.base}/desk/q/{wells.id}/entries?entry={sent.id}")
    browser.reads("Taken care of by", "Rowan Oake", "added to a contact list (ada@example.org)")
    browser.accessible()
    browser.pick("Taken care of by", team)
    browser.reads(team)
    browser.open(f"{browser.base}/desk/trail?questionnaire={wells.id}")
    browser.reads(f"had {team} take care of entry 2", "had Rowan Oake take care of entry 2")
