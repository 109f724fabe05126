"""What goes along from one questionnaire to another, and what fits where."""

from datetime import UTC, date, datetime, time
from decimal import Decimal
from typing import Any
from zoneinfo import ZoneInfo

import pytest

from jotgate.core.answers.checks import check
from jotgate.core.common.values import Else
from jotgate.core.entries.stored import as_json
from jotgate.core.hand_off import (
    End,
    HandedValue,
    HandOff,
    hand_off_faults,
    handed,
    proposed,
    sources_of,
    targets_of,
    unfit,
)
from jotgate.core.items.kinds import BY_LINK, KINDS, kinds_that_hold
from jotgate.core.walking.arrival import Arrival
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import read_arrival
from tests.documents import TODAY, item, options, page, plan, words

AB = options("a", "b")
EVERY = [
    item("short_text", "text"),
    item("email", "email"),
    item("phone", "phone", countries=["GB"]),
    item("web_address", "web"),
    item("number", "number", decimals=2),
    item("date", "day"),
    item("time", "clock"),
    item("date_time", "moment"),
    item("yes_no", "truth"),
    item("pick_one", "pick", options=AB, else_label=words("Else")),
    item("pick_many", "picks", options=AB),
    item("rank", "order", options=AB),
    item("scale", "scale"),
    item("name", "who"),
    item("address", "home"),
    item("location", "place"),
    item("carried", "carried", sources=[{"kind": "hand_off"}]),
    item("carried", "chosen", options=AB, sources=[{"kind": "hand_off"}]),
]
VALUES: dict[str, Any] = {
    "text": "Zoë & co",
    "email": "i@example.org",
    "phone": "+442079460000",
    "web": "https://example.org/a",
    "number": Decimal("12.50"),
    "day": date(2026, 11, 25),
    "clock": time(9, 30),
    "moment": datetime(2026, 11, 25, 8, 30, tzinfo=UTC),
    "truth": True,
    "pick": Else("Clay"),
    "picks": ("a", "b"),
    "order": ("b", "a"),
    "scale": Decimal(3),
    "who": {"given": "Ines", "family": "Carvalho"},
    "home": {"street": "1 Weir St", "city": "Saltings", "postcode": "X1"},
    "place": {"latitude": Decimal("54.12340"), "longitude": Decimal("-2.56780")},
    "carried": "x",
    "chosen": "b",
}
SAME = plan(page("p", *EVERY))
ELSEWHERE = plan(page("p", *EVERY), time_zone="Asia/Amman")


def along(source: str, target: str, **more: Any) -> HandOff:
    value = HandedValue(source=source, target=target, **more)
    return HandOff(finish="done", to="x", label=words("On"), values=(value,))


@pytest.mark.parametrize("key", sorted(VALUES))
def test_every_kind_arrives_as_it_was(key: str) -> None:
    """In a questionnaire that is at home in another time zone too."""
    for target in (SAME, ELSEWHERE):
        pairs, _ = handed(along(key, key), SAME, target, VALUES)
        found = read_arrival(target, [], TODAY, Arrival(handed=pairs))
        if key in found.carried:
            assert found.carried[key] == VALUES[key]
        else:
            zoned = TODAY if target is SAME else TODAY.__class__(TODAY.now.astimezone(zone(target)))
            value = check(target.items[key], found.answers[key], zoned)
            assert value is not None
            assert as_json(value) == as_json(VALUES[key])


def zone(made: Plan) -> Any:
    return ZoneInfo(made.questionnaire.time_zone)


def test_every_kind_that_a_link_fills_in_is_tried() -> None:
    tried = {one["kind"] for one in EVERY} | {"long_text"}
    assert tried == BY_LINK


def test_parts_go_into_texts_and_into_parts() -> None:
    pairs, locked = handed(along("who.given", "text", locked=True), SAME, SAME, VALUES)
    assert (pairs, locked) == ((("text", "Ines"),), frozenset({"text"}))
    assert handed(along("who", "who"), SAME, SAME, VALUES)[0] == (
        ("who.given", "Ines"),
        ("who.family", "Carvalho"),
    )


def test_what_was_not_answered_does_not_go_along() -> None:
    assert handed(along("text", "text"), SAME, SAME, {}) == ((), frozenset())


FITS = {
    ("text", "email"): True,
    ("number", "email"): False,
    ("email", "text"): True,
    ("picks", "text"): False,
    ("number", "scale"): True,
    ("pick", "chosen"): True,
    ("picks", "pick"): False,
    ("who", "home"): False,
    ("who", "text"): False,
    ("who.given", "text"): True,
    ("truth", "text"): True,
    ("day", "moment"): False,
    ("place", "place"): True,
    ("carried", "phone"): True,
}


@pytest.mark.parametrize(("source", "target"), sorted(FITS))
def test_what_fits(source: str, target: str) -> None:
    reason = unfit(sources_of(SAME)[source], targets_of(SAME)[target])
    assert (reason == "") is FITS[source, target]


def test_of_every_two_kinds_it_is_known_whether_they_fit() -> None:
    """Nothing fits that several values would be lost of, and each kind fits into itself."""
    ends = sources_of(SAME)
    several = kinds_that_hold("picks", "order", "parts", "place")
    for source in ends.values():
        for target in targets_of(SAME).values():
            reason = unfit(source, target)
            assert isinstance(reason, str)
            whole = not source.part and source.item.kind in several
            if whole and KINDS[target.item.kind].holds == "text":
                assert reason
    assert all(not unfit(one, End(one.item, one.part)) for one in ends.values())


def fault_codes(one: HandOff, made: Plan, **targets: Plan) -> list[str]:
    return [fault.code for fault in hand_off_faults((one,), made, targets)]


def test_what_does_not_fit_is_refused() -> None:
    secret = plan(page("p", item("yes_no", "ill", restricted=True), item("yes_no", "x")))
    sealed = item("carried", "d", sources=[{"kind": "pass"}], sealed=True)
    made = plan(page("p", *EVERY, sealed))
    few = plan(page("p", item("pick_one", "pick", options=options("a")), item("yes_no", "ill")))
    assert fault_codes(along("picks", "text"), made, x=SAME) == ["unfit"]
    assert fault_codes(along("pick", "pick"), made, x=few) == ["unfit"]
    assert fault_codes(along("ill", "ill"), secret, x=few) == ["restricted"]
    assert fault_codes(along("ill", "ill"), secret, x=secret) == []
    assert fault_codes(along("d", "text"), made, x=SAME) == ["sealed"]
    assert fault_codes(along("gone", "text"), made, x=SAME) == ["no_item"]
    assert fault_codes(along("text", "gone"), made, x=SAME) == ["no_item"]
    assert fault_codes(along("text", "text"), made) == ["no_target"]
    unnamed = HandOff(finish="gone", to="x")
    assert fault_codes(unnamed, made, x=SAME) == ["no_finish", "no_label"]
    twice = along("text", "text")
    both = twice.model_copy(update={"values": twice.values * 2})
    assert set(fault_codes(both, made, x=SAME)) == {"twice"}
    assert [one.code for one in hand_off_faults((twice, twice), made, {"x": SAME})] == [
        "twice",
        "twice",
    ]


def test_what_fits_no_more_is_left_out() -> None:
    """The other questionnaire has changed since the way on was set up."""
    few = plan(page("p", item("pick_one", "pick", options=options("z")), item("yes_no", "x")))
    assert handed(along("pick", "pick"), SAME, few, {"pick": "a"}) == ((), frozenset())


def test_what_is_proposed() -> None:
    source = plan(
        page(
            "p",
            item("short_text", "name"),
            item("number", "n", text=words("People")),
            item("yes_no", "x"),
        )
    )
    target = plan(
        page(
            "p",
            item("long_text", "name"),
            item("number", "people"),
            item("pick_one", "x", options=AB),
            item("carried", "n"),
        )
    )
    found = {(one.source, one.target) for one in proposed(source, target)}
    assert found == {("name", "name"), ("n", "people")}
