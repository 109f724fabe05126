"""What keeps a round, or a step of one, from going; and what may not change any more."""

from typing import Any

import pytest
from pydantic import ValidationError

from jotgate.core.contacts.fields import ContactField
from jotgate.core.rounds.faults import (
    LONGEST_SCRIPT,
    Around,
    changed_faults,
    drawn_faults,
    faulty_steps,
    people_faults,
    step_faults,
)
from jotgate.core.rounds.round import MOST_STEPS, Round

LIST = "7d0c5a2e-0000-4000-8000-000000000001"
AROUND = Around((ContactField(key="district", label="District"),), ("en", "es"), frozenset({LIST}))
TEXT = {"subject": {"en": "Your well"}, "body": {"en": "Dear {contact.district|neighbour}"}}


def round_of(*steps: dict[str, Any], **more: Any) -> Round:
    return Round.model_validate({"name": "R", "people": {"list_id": LIST}, "steps": steps, **more})


def step(key: str = "a", way: str = "mail", **more: Any) -> dict[str, Any]:
    text = {"text": TEXT} if way == "mail" else {}
    return {"key": key, "name": key.upper(), "way": way, **text, **more}


def test_a_sound_round_has_no_faults() -> None:
    only = {"op": "is", "item": "district", "value": "Fell"}
    script = {"en": "Is this {contact.name}?"}
    sound = round_of(
        step(only=only),
        step("b", "call", script=script),
        people={"list_id": LIST, "only": only},
        draw={"by": "district", "sizes": {"Fell": 3}},
        zone_field="district",
    )
    assert list(people_faults(sound, AROUND)) == []
    assert list(step_faults(sound, AROUND)) == []


@pytest.mark.parametrize(
    ("more", "at"),
    [
        ({"people": {}}, "people/list_id"),
        ({"people": {"list_id": LIST.replace("1", "2")}}, "people/list_id"),
        (
            {"people": {"list_id": LIST, "only": {"op": "answered", "item": "shoe"}}},
            "people/only",
        ),
        (
            {
                "people": {
                    "list_id": LIST,
                    "only": {"op": "at_least", "item": "before.asked", "value": "often"},
                }
            },
            "people/only",
        ),
        ({"draw": {"by": "shoe"}}, "draw/by"),
        ({"draw": {"sizes": {"Fell": 1}}}, "draw/by"),
        ({"draw": {"by": "district", "sizes": {"Fell": -1}}}, "draw/sizes"),
        ({"zone_field": "shoe"}, "zone_field"),
    ],
)
def test_what_keeps_people_from_being_drawn(more: dict[str, Any], at: str) -> None:
    faults = list(people_faults(round_of(**more), AROUND))
    assert [one.at for one in faults] == [at]
    assert all(one.message.endswith(".") for one in faults)


@pytest.mark.parametrize(
    ("wrong", "at"),
    [
        (step(text=None), "steps/a/text/body/en"),
        (step(text={"subject": {}, "body": {"en": "x"}}), "steps/a/text/subject/en"),
        (step(text={**TEXT, "body": {"en": "{contact.shoe}"}}), "steps/a/text/body/en"),
        (step(only={"op": "answered", "item": "shoe"}), "steps/a/only"),
        (step(way="call", script={"en": "{contact.shoe}"}), "steps/a/script/en"),
        (step(way="visit", script={"en": "{link}"}), "steps/a/script/en"),
        (step(way="call", script={"es": "x" * (LONGEST_SCRIPT)}), ""),
    ],
)
def test_what_keeps_a_step_from_going(wrong: dict[str, Any], at: str) -> None:
    faults = list(step_faults(round_of(wrong, step("b")), AROUND))
    assert [one.at for one in faults] == ([at] if at else [])
    assert faulty_steps(iter(faults)) == ({"a"} if at else frozenset())


def test_two_steps_have_two_keys() -> None:
    (fault,) = step_faults(round_of(step(), step()), AROUND)
    assert (fault.code, fault.at) == ("twice", "steps/a")


def test_what_has_gone_stays_first() -> None:
    before = round_of(step("a"), step("b"), step("c"))
    begun = frozenset({"a", "b"})
    for after in ([step("a"), step("b", name="Other")], [step("a"), step("b"), step("d")]):
        assert list(changed_faults(before, round_of(*after), begun)) == []
    for after in ([step("a"), step("c"), step("b")], [step("a")], [step("a"), step("b", "call")]):
        (fault,) = changed_faults(before, round_of(*after), begun)
        assert fault.at == "steps/b"


def test_who_was_drawn_stays() -> None:
    before = round_of(portions=[3])
    assert list(drawn_faults(before, round_of(step(), portions=[3]))) == []
    for more in ({"portions": [4]}, {"draw": {"size": 3}, "portions": [3]}):
        assert [one.at for one in drawn_faults(before, round_of(**more))] == ["people"]


@pytest.mark.parametrize(
    "more",
    [
        {"name": " "},
        {"steps": [step(str(n)) for n in range(3)]},
        {"steps": [step(f"s{n}") for n in range(MOST_STEPS + 1)]},
        {"portions": [0]},
        {"draw": {"size": 0}},
        {"steps": [step(after=-1)]},
        {"steps": [step(at="tomorrow")]},
        {"steps": [step(way="pigeon")]},
        {"seed": "x"},
    ],
)
def test_what_is_no_round_at_all(more: dict[str, Any]) -> None:
    with pytest.raises(ValidationError):
        Round.model_validate({"name": "R", **more})
