"""What keeps acts that set something from being used, as it is told beside them."""

from dataclasses import replace
from typing import Any
from uuid import UUID

import pytest

from jotgate.core.contacts.fields import ContactField
from jotgate.core.dispatch.faults import problems
from jotgate.core.dispatch.reading import read_rules
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.scope import scope_of
from jotgate.core.dispatch.set_faults import settable
from tests.core.dispatch.rules import CREW, KNOWN, composed, item
from tests.documents import item as question
from tests.documents import options, page, questionnaire

WHO, LIST = UUID(int=20), UUID(int=21)
DOCUMENT = questionnaire(
    page(
        "start",
        question("yes_no", "letters"),
        question("pick_many", "topics", options=options("news", "none")),
        question("short_text", "mail"),
        question("number", "age"),
        question("yes_no", "ill", restricted=True),
        question("carried", "route", options=options("north", "south")),
        question("carried", "well", about={}),
        question("carried", "parish"),
    )
)
FIELDS = (ContactField(key="visits", label="Visits", kind="number"),)
SCOPE = scope_of(
    DOCUMENT,
    replace(
        KNOWN,
        carers={WHO: "Ada"},
        turns={CREW: (WHO,)},
        contact_fields=FIELDS,
        lists={LIST: "Letters"},
        counted=frozenset({"parish"}),
    ),
)


def fixed(text: str) -> dict[str, str]:
    return {"kind": "fixed", "text": text}


def care(**who: Any) -> dict[str, Any]:
    return {"kind": "care", "who": who}


def contact(field: str, source: Any) -> dict[str, Any]:
    return {"kind": "contact", "field": field, "source": source}


def value(key: str, source: Any) -> dict[str, Any]:
    return {"kind": "value", "key": key, "source": source}


def listed(**more: Any) -> dict[str, Any]:
    return {"kind": "list", "list_id": str(LIST), "consent": "letters", "email": "mail", **more}


SOUND = [
    care(kind="person", person_id=str(WHO)),
    care(kind="team", team_id=str(CREW)),
    care(kind="team", team_id=str(CREW), in_turn=True),
    contact("phone", item("mail")),
    contact("visits", fixed("12")),
    contact("name", composed("{mail} {age}")),
    value("route", fixed("south")),
    value("route", item("topics")),
    listed(),
    listed(consent="topics", option="news", email="claim.email", name="mail"),
]
FAULTY = [
    (care(kind="person", person_id=str(CREW)), "no_person"),
    (care(kind="team", team_id=str(WHO)), "no_team"),
    (contact("email", item("mail")), "no_field"),
    (contact("key", item("mail")), "no_field"),
    (contact("shoe", item("mail")), "no_field"),
    (contact("visits", fixed("many")), "wrong_type"),
    (contact("phone", item("ill")), "restricted"),
    (contact("phone", composed("{nothing}")), "no_item"),
    (value("mail", item("age")), "no_item"),
    (value("well", item("age")), "about"),
    (value("parish", item("age")), "counted"),
    (value("route", fixed("west")), "wrong_type"),
    (value("route", item("ill")), "restricted"),
    (listed(list_id=str(WHO)), "no_list"),
    (listed(consent="mail"), "no_consent"),
    (listed(consent="nothing"), "no_consent"),
    (listed(consent="topics", option="both"), "no_consent"),
    (listed(option="news"), "no_consent"),
    (listed(consent="ill"), "restricted"),
    (listed(email="age"), "no_address"),
    (listed(name="nothing"), "no_item"),
]


def told(act: dict[str, Any], scope: Any = SCOPE) -> list[str]:
    rules = Dispatch.model_validate({"otherwise": [act]})
    return [fault.code for fault in problems(rules, scope)]


@pytest.mark.parametrize("act", SOUND)
def test_acts_that_can_be_used(act: dict[str, Any]) -> None:
    assert told(act) == []


@pytest.mark.parametrize(("act", "code"), FAULTY)
def test_what_keeps_an_act_from_being_used(act: dict[str, Any], code: str) -> None:
    assert told(act) == [code]


def test_a_team_in_which_nobody_may_see_the_entries_has_no_turns() -> None:
    empty = replace(SCOPE, known=replace(SCOPE.known, turns={CREW: ()}))
    act = care(kind="team", team_id=str(CREW), in_turn=True)
    assert told(act, empty) == ["no_person"]


def test_the_fields_by_which_people_are_found_cannot_be_set() -> None:
    assert list(settable(FIELDS)) == ["name", "phone", "language", "visits"]


@pytest.mark.parametrize(
    ("act", "says"),
    [
        ({"kind": "status", "status": ""}, "Choose a status."),
        (care(kind="person", person_id=""), "Choose who takes care."),
        (contact("", item("mail")), "Choose a field of contacts."),
        (contact("phone", item("")), "Choose what is taken from the entry."),
        (value("", fixed("a")), "Choose a carried value."),
        (listed(list_id=""), "Choose a contact list."),
        (
            listed(consent=""),
            "Choose the question that asks whether they want to be on the list.",
        ),
    ],
)
def test_what_is_not_chosen_yet_is_asked_for(act: dict[str, Any], says: str) -> None:
    """An act that was just added is no act yet, and its faults are no riddles."""
    _, faults = read_rules({"otherwise": [act]})
    assert [fault.message for fault in faults] == [says]
