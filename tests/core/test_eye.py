"""What is found in responses, and what is not."""

from typing import Any

from jotgate.core.eye import Received, report
from jotgate.core.walking.prefill import Filled
from tests.documents import item, options, page, plan, words

DISTRICTS = [
    {"code": "saltings", "label": words("Saltings <east>")},
    {"code": "millbeck", "label": words("Millbeck")},
]
PLAN = plan(
    page(
        "a",
        item("carried", "d", options=DISTRICTS, sources=[{"kind": "pass"}], sealed=True),
        item("carried", "told", sources=[{"kind": "pass"}], sealed=True, told=True),
        item("carried", "open"),
        item("carried", "short"),
        item("short_text", "name"),
        item("pick_one", "way", options=options("left", "right")),
    ),
    page("b", item("yes_no", "far")),
)
CARRIED = {"d": "saltings", "told": "told-1", "open": "open-1", "short": "x"}
FILLED = Filled(CARRIED, {"name": "Ines Carvalho"}, ())


def found(body: str, *headers: tuple[str, str], given: tuple[tuple[str, str], ...] = ()) -> Any:
    got = report(PLAN, FILLED, given, [Received("the first page", headers, body)])
    return {"report": got, **{one.key: one for one in got.learned}}


def test_nothing_is_found_in_nothing() -> None:
    seen = found("")
    assert not seen["report"].leaks
    assert {key: seen[key].read for key in CARRIED} == dict.fromkeys(CARRIED, "")
    assert [key for key in CARRIED if seen[key].unsure] == ["short"]
    assert seen["report"].hidden_pages == ("A", "B")
    assert seen["report"].hidden_options == {"D": ("Saltings <east>", "Millbeck")}


def test_a_sealed_value_is_found_in_every_form() -> None:
    """As its code, as its label, in HTML, in a header, in capitals."""
    for body in ("x saltings y", "SALTINGS", "Saltings &lt;east>", '"Saltings <east>"'):
        seen = found(body)
        assert seen["report"].leaks, body
        assert seen["d"].read == "the first page"
    assert found("", ("set-cookie", "d=saltings"))["report"].leaks
    assert not found("told-1")["report"].leaks


def test_what_can_be_read_and_changed() -> None:
    seen = found('open-1 {"key":"name"} Ines Carvalho')
    assert (seen["open"].read, seen["open"].changes) == ("the first page", False)
    assert (seen["name"].read, seen["name"].changes) == ("the first page", True)
    assert seen["report"].hidden_pages == ("B",)
    linked = found("", given=(("open", "open-1"), ("d", "millbeck")))
    assert (linked["open"].read, linked["open"].changes) == ("the address", True)
    assert (linked["d"].read, linked["d"].changes) == ("", False)
    assert linked["report"].address == ("open", "d")


def test_what_goes_out() -> None:
    quiet = found("", ("referrer-policy", "no-referrer"))["report"]
    assert (quiet.referrer, quiet.cookies) == (False, ())
    assert found("", ("referrer-policy", "origin"))["report"].referrer
