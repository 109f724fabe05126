"""What a finish says, where it leads on, and what it leaves in the entry."""

from typing import Any
from urllib.parse import parse_qs, urlsplit

import pytest

from jotgate.core.entries.finishing import Link, ending, to_keep
from jotgate.core.publishing.faults import faults
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan
from tests.documents import TODAY, finish, item, options, page, plan, questionnaire, words

ITEMS = (
    item("short_text", "name"),
    item("pick_one", "source", options=options("own", "mains")),
    item("yes_no", "ill", restricted=True),
    item("carried", "route", options=options("sampled", "advised")),
)


def ends(**more: Any) -> Plan:
    return plan(page("p", *ITEMS), finishes=(finish("done", **more),))


def test_the_words_have_the_answers_in_their_slots() -> None:
    compiled = ends(message=words("{name}, entry {entry_number}: {source} {nothing}."))
    whole = walk(compiled, {"name": "Ada", "source": "own"}, {}, TODAY)
    said = ending(compiled, whole.finish, to_keep(compiled, whole), 42, "en")
    assert (said.heading, said.message) == ("Done", "Ada, entry 0042: Own .")
    assert said.onward is None


def test_answers_in_an_address_are_percent_encoded() -> None:
    """RFC 3986, 2.1 and 3.4: read back by the standard library, they are what was answered."""
    onward = {
        "label": words("Book a visit"),
        "address": "https://example.org/b?n={name}&e={entry_number}",
    }
    compiled = ends(link=onward)
    whole = walk(compiled, {"name": "Ada & Bran=1/2 ñ"}, {}, TODAY)
    link = ending(compiled, whole.finish, whole.kept, 7, "es").onward
    assert isinstance(link, Link)
    assert link.label == "Book a visit"
    assert parse_qs(urlsplit(link.address).query) == {"n": ["Ada & Bran=1/2 ñ"], "e": ["0007"]}


def test_a_finish_sets_carried_values_over_what_a_link_brought() -> None:
    compiled = ends(sets={"route": "advised"})
    whole = walk(compiled, {"name": "Ada"}, {"route": "sampled", "contact.name": "A"}, TODAY)
    assert whole.kept["route"] == "sampled"
    assert to_keep(compiled, whole) == {"name": "Ada", "route": "advised"}


@pytest.mark.parametrize(
    ("more", "code"),
    [
        ({"title": words(" ")}, "no_text"),
        ({"message": words("Dear {gone}")}, "no_item"),
        ({"message": words("You said {ill}")}, "restricted"),
        ({"link": {"label": words("On"), "address": "example.org"}}, "bad_address"),
        (
            {"link": {"label": words("On"), "address": "https://{name}.example.org"}},
            "bad_address",
        ),
        ({"link": {"label": words("On"), "address": "javascript:alert(1)"}}, "bad_address"),
        ({"link": {"address": "https://example.org"}}, "no_label"),
        ({"sets": {"name": "x"}}, "no_item"),
        ({"sets": {"route": "elsewhere"}}, "no_such_answer"),
    ],
)
def test_faults_of_a_finish(more: dict[str, Any], code: str) -> None:
    document = questionnaire(page("p", *ITEMS), finishes=(finish("done", **{**more}),))
    assert [one.code for one in faults(document)] == [code]


def test_a_sound_finish_has_none() -> None:
    more = {
        "message": words("{name} {entry_number}"),
        "link": {"label": words("On"), "address": "https://example.org/a?b={source}"},
        "sets": {"route": "sampled"},
    }
    document = questionnaire(page("p", *ITEMS), finishes=(finish("done", **more),))
    assert faults(document) == ()
