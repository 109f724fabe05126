"""Statuses: which may follow which, who may set them, and which entries are late."""

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from jotgate.core.handling import FIRST, Handling, Status, is_late, named, stored
from jotgate.core.rights import ROLES, Role, reaches

TEAM, OTHER = UUID(int=1), UUID(int=2)
KEYS = ("a", "b", "c")


@st.composite
def handlings(draw: st.DrawFn) -> Handling:
    following = st.none() | st.lists(st.sampled_from([FIRST, *KEYS]), unique=True)

    def one() -> dict[str, Any]:
        return {
            "next": draw(following),
            "role": draw(st.sampled_from(["coordinator", "reviewer", "reader"])),
            "teams": draw(st.sampled_from([[], [TEAM], [TEAM, OTHER]])),
            "days": draw(st.none() | st.integers(1, 9)),
        }

    each = [
        {**one(), "key": key, "name": key.upper(), "final": draw(st.booleans())} for key in KEYS
    ]
    return Handling.model_validate({"first": {**one(), "name": "New"}, "statuses": each})


@given(handlings(), st.sampled_from(["", *KEYS, "gone"]), st.sampled_from(["", *KEYS, "gone"]))
def test_which_may_follow_which(handling: Handling, before: str, after: str) -> None:
    why = handling.why_not(before, after)
    if after == "gone":
        assert why == "There is no such status."
        return
    if before in ("gone", after):
        assert why == ""
        return
    following = handling.every[named(before)].next
    assert (why == "") is (following is None or named(after) in following)


@given(
    handlings(),
    st.sampled_from(["", *KEYS, "gone"]),
    st.sampled_from([None, *ROLES]),
    st.sets(st.sampled_from([TEAM, OTHER])),
)
def test_who_may_set_which(
    handling: Handling, key: str, role: Role | None, teams: set[UUID]
) -> None:
    may = handling.may_set(key, role, teams)
    if key == "gone" or role is None:
        assert not may
    elif role == "owner":
        assert may
    else:
        one = handling.every[named(key)]
        assert may is (bool(teams & {*one.teams}) if one.teams else reaches(role, one.role))


@given(handlings(), st.sampled_from(["", *KEYS]), st.integers(0, 10), st.booleans())
def test_late_is_what_stays_too_long(
    handling: Handling, status: str, ago: int, archived: bool
) -> None:
    now = datetime(2026, 11, 25, 12, tzinfo=UTC)
    since = now - timedelta(days=ago, seconds=1)
    one = handling.every[named(status)]
    final = isinstance(one, Status) and one.final
    wanted = not archived and not final and one.days is not None and ago >= one.days
    assert is_late(status, since, archived, handling.terms.limits, now) is wanted


@pytest.mark.parametrize(
    "said",
    [
        {"statuses": [{"key": "a", "name": "A"}, {"key": "a", "name": "B"}]},
        {"statuses": [{"key": "a", "name": "A"}, {"key": "b", "name": "A"}]},
        {"statuses": [{"key": "first", "name": "A"}]},
        {"statuses": [{"key": "a", "name": "A", "next": ["b"]}]},
        {"first": {"next": ["b"]}},
        {"statuses": [{"key": "a", "name": "A", "days": 0}]},
        {"statuses": [{"key": "a", "name": "A", "glyph": "skull"}]},
    ],
)
def test_what_cannot_be(said: Any) -> None:
    with pytest.raises(ValidationError):
        Handling.model_validate(said)


def test_the_first_one_is_stored_as_nothing() -> None:
    assert (named(""), stored(FIRST), named("a"), stored("a")) == (FIRST, "", "a", "a")
