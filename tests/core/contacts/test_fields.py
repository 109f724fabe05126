"""What is typed for a contact is kept in one form for each kind of field, or refused in words."""

from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.contacts.bringing import Rows, proposed
from jotgate.core.contacts.contact import read_contact
from jotgate.core.contacts.fields import ContactField, NotFit, readings

FIELDS = (
    ContactField(key="town", label="Town"),
    ContactField(key="wells", label="Wells", kind="number"),
    ContactField(key="moved_in", label="Moved in", kind="date"),
    ContactField(key="owner", label="Owns it", kind="yes_no"),
    ContactField(key="district", label="District", kind="pick", options=("Upper Fell", "Millbeck")),
)
KNOWN = readings(FIELDS)


@pytest.mark.parametrize(
    ("key", "given", "kept"),
    [
        ("email", "Ines.Moor@Example.ORG", "ines.moor@example.org"),
        ("wells", "2.50", "2.5"),
        ("moved_in", "2026-03-01", "2026-03-01"),
        ("owner", "TRUE", "yes"),
        ("owner", "n", "no"),
        ("district", " upper  fell", "Upper Fell"),
        ("language", "ES_mx", "es-mx"),
        ("town", "Søllerup", "Søllerup"),
    ],
)
def test_a_value_is_kept_in_one_form(key: str, given: str, kept: str) -> None:
    assert KNOWN[key](given) == kept


@pytest.mark.parametrize(
    ("key", "given"),
    [
        ("email", "ines at example.org"),
        ("wells", "two"),
        ("wells", "1,5"),
        ("wells", "NaN"),
        ("wells", "1e400"),
        ("moved_in", "01.03.2026"),
        ("owner", "perhaps"),
        ("district", "Atlantis"),
        ("language", "English language"),
        ("phone", "call me"),
        ("town", "a\nb"),
        ("name", "x" * 501),
    ],
)
def test_what_does_not_fit_is_refused_in_words(key: str, given: str) -> None:
    with pytest.raises(NotFit) as refused:
        KNOWN[key](given)
    assert str(refused.value).endswith(".")


@given(st.sampled_from(sorted(KNOWN)), st.text(max_size=60))
def test_what_is_kept_is_kept_again_as_it_is(key: str, given: str) -> None:
    try:
        kept = KNOWN[key](given.strip())
    except NotFit:
        return
    assert KNOWN[key](kept) == kept


@given(st.decimals(allow_nan=False, allow_infinity=False, places=3, min_value=-1e9, max_value=1e9))
def test_numbers_stay_what_they_are(number: Decimal) -> None:
    assert Decimal(KNOWN["wells"](str(number))) == number


@given(st.dates())
def test_dates_stay_what_they_are(day: date) -> None:
    assert date.fromisoformat(KNOWN["moved_in"](day.isoformat())) == day


def test_a_contact_has_to_be_told_from_others() -> None:
    _, faults = read_contact(KNOWN, {"town": "Millbeck"})
    assert [one.code for one in faults] == ["nobody"]
    assert read_contact(KNOWN, {"phone": "0123 456"})[1] == []
    _, wrong = read_contact(KNOWN, {"email": "x", "none": "1", "name": "A"})
    assert {(one.at, one.code) for one in wrong} == {
        ("none", "no_field"),
        ("email", "does_not_fit"),
    }


def test_empty_values_are_left_out() -> None:
    given = {"name": " ", "key": "K", "town": "Millbeck "}
    assert read_contact(KNOWN, given) == ({"key": "K", "town": "Millbeck"}, [])


def test_columns_are_known_by_their_names() -> None:
    columns = ("Customer number", "E-Mail", "Household", "DISTRICT", "Notes", "Mail address")
    assert proposed(columns, FIELDS) == {0: "key", 1: "email", 2: "name", 3: "district"}


def test_a_row_that_cannot_be_a_contact_says_why() -> None:
    rows = Rows({0: "email", 1: "wells"}, FIELDS)
    assert rows.read(1, ["a@example.org", ""]).values == {"email": "a@example.org"}
    assert rows.read(2, ["a(at)example.org", ""]).wrong.startswith("Mail address: ")
    assert rows.read(3, ["a@example.org", "many"]).wrong.startswith("Wells: ")
    assert rows.read(4, ["", "2"]).wrong.startswith("Give a name")
