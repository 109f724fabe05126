"""Delivery reports as mail servers write them. Every form here was written for these tests, by
RFC 3464 (reports), RFC 3463 and RFC 7505 (codes), RFC 3461 (xtext), RFC 6533 (other alphabets),
RFC 5965 (complaints) and RFC 5321 (replies)."""

from email.message import EmailMessage

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.formats.delivery_reports import (
    LONGEST,
    MOST_RECIPIENTS,
    Delivery,
    Report,
    Verdict,
    read_report,
)

ORIGINAL = """\
Message-ID: <7f1c@mail.example.org>
From: Thornmere Well Watch <wells@example.org>
To: a@example.com
Subject: Your well
"""


def report(
    *recipients: str,
    head: str = "Reporting-MTA: dns; mx.example.com\n",
    status: str = "message/delivery-status",
    back: str = f"Content-Type: text/rfc822-headers\n\n{ORIGINAL}",
    ends: str = "\n",
) -> bytes:
    blocks = "\n".join(recipients)
    text = (
        "From: MAILER-DAEMON@mx.example.com\nTo: wells@example.org\n"
        "Subject: Undelivered\nMIME-Version: 1.0\n"
        'Content-Type: multipart/report; report-type=delivery-status; boundary="=_b"\n\n'
        "--=_b\nContent-Type: text/plain\n\nIt could not be delivered.\n"
        f"--=_b\nContent-Type: {status}\n\n{head}\n{blocks}\n"
        f"--=_b\n{back}\n--=_b--\n"
    )
    return text.replace("\n", ends).encode()


def recipient(action: str = "failed", status: str = "5.1.1", said: str = "", **more: str) -> str:
    fields = {"Final-Recipient": "rfc822; a@example.com", "Action": action, "Status": status}
    fields |= {"Diagnostic-Code": said} if said else {}
    fields |= {name.replace("_", "-"): value for name, value in more.items()}
    return "".join(f"{name}: {value}\n" for name, value in fields.items() if value)


FORMS: dict[str, tuple[str, Verdict, str]] = {
    "no such mailbox": (recipient(), "no_address", "5.1.1"),
    "no such system": (recipient(status="5.1.2"), "no_address", "5.1.2"),
    "bad syntax": (recipient(status="5.1.3"), "no_address", "5.1.3"),
    "moved": (recipient(status="5.1.6"), "no_address", "5.1.6"),
    "takes no mail": (recipient(status="5.1.10"), "no_address", "5.1.10"),
    "mailbox disabled": (recipient(status="5.2.1"), "no_address", "5.2.1"),
    "mailbox full, given up": (recipient(status="5.2.2"), "given_up", "5.2.2"),
    "mailbox full, tried again": (recipient("delayed", "4.2.2"), "later", "4.2.2"),
    "too long": (recipient(status="5.2.3"), "refused", "5.2.3"),
    "system full": (recipient(status="5.3.1"), "given_up", "5.3.1"),
    "not answering": (recipient("delayed", "4.4.1"), "later", "4.4.1"),
    "no route in time": (recipient(status="5.4.4"), "given_up", "5.4.4"),
    "expired": (recipient(status="4.4.7"), "given_up", "4.4.7"),
    "loop": (recipient(status="5.4.6"), "refused", "5.4.6"),
    "policy": (recipient(status="5.7.1"), "refused", "5.7.1"),
    "not authorised": (recipient(status="5.7.26"), "refused", "5.7.26"),
    "other media": (recipient(status="5.6.1"), "refused", "5.6.1"),
    "undefined, but failed": (recipient(status="5.0.0"), "refused", "5.0.0"),
    "delivered": (recipient("delivered", "2.0.0"), "arrived", "2.0.0"),
    "handed on": (recipient("relayed", "2.1.9"), "arrived", "2.1.9"),
    "a list": (recipient("expanded", "2.1.5"), "arrived", "2.1.5"),
    "words behind the code": (recipient(status="5.1.1 (no such user)"), "no_address", "5.1.1"),
    "zeros in the code": (recipient(status="5.01.001"), "no_address", "5.1.1"),
    "code in what was said": (
        recipient(status="", said="smtp; 550 5.1.1 <a@example.com>: unknown"),
        "no_address",
        "5.1.1",
    ),
    "reply alone": (recipient(status="", said="smtp; 552 over quota"), "refused", ""),
    "reply that passes": (recipient(status="", said="smtp; 451 try later"), "given_up", ""),
    "action in capitals": (recipient("FAILED"), "no_address", "5.1.1"),
    "action with a comment": (recipient("failed (hop count)"), "no_address", "5.1.1"),
    "no action": (recipient(action=""), "no_address", "5.1.1"),
    "no action, but fine": (recipient("", "2.0.0"), "arrived", "2.0.0"),
    "action of their own": (recipient("vanished", ""), "unknown", ""),
    "no code at all": (recipient(status=""), "refused", ""),
    "folded": (recipient(status="5.1.1", said="smtp; 550\n no\n such user"), "no_address", "5.1.1"),
}


@pytest.mark.parametrize("name", FORMS)
@pytest.mark.parametrize("ends", ["\n", "\r\n"])
def test_forms(name: str, ends: str) -> None:
    block, verdict, status = FORMS[name]
    found = read_report(report(block, ends=ends))
    assert found is not None
    (one,) = found.deliveries
    assert (one.email, one.verdict, one.status) == ("a@example.com", verdict, status)
    assert found.about == ("7f1c@mail.example.org",)
    assert "\n" not in one.said


def test_there_are_enough_forms() -> None:
    assert len(FORMS) >= 25
    assert {verdict for _, verdict, _ in FORMS.values()} == {
        "arrived",
        "later",
        "given_up",
        "no_address",
        "refused",
        "unknown",
    }


def _one(raw: bytes) -> Delivery:
    found = read_report(raw)
    assert found is not None
    (one,) = found.deliveries
    return one


def test_several_recipients_and_the_envelope() -> None:
    head = "Reporting-MTA: dns; mx.example.com\nOriginal-Envelope-Id: round-7\n"
    second = recipient(status="4.2.2", Final_Recipient="rfc822; <b@example.com>")
    found = read_report(report(recipient(), second, head=head))
    assert found is not None
    assert found.envelope == "round-7"
    assert [(one.email, one.verdict) for one in found.deliveries] == [
        ("a@example.com", "no_address"),
        ("b@example.com", "given_up"),
    ]


def test_whom_we_wrote_to_counts_where_it_was_handed_on() -> None:
    block = recipient(
        Original_Recipient="rfc822;a+2Bwell@example.com", Final_Recipient="rfc822;x@other.example"
    )
    assert _one(report(block)).email == "a+well@example.com"


def test_a_plus_of_their_own_stays() -> None:
    for field in ("Original_Recipient", "Final_Recipient"):
        block = recipient(**{field: "rfc822; jo+42@example.com"})
        assert _one(report(block)).email == "jo+42@example.com"


def test_without_fields_of_the_letter() -> None:
    assert _one(report(recipient(), head="")).verdict == "no_address"


def test_in_another_alphabet() -> None:
    block = recipient(Final_Recipient="utf-8; josé@example.com")
    one = _one(report(block, status="message/global-delivery-status"))
    assert (one.email, one.verdict) == ("josé@example.com", "no_address")


@pytest.mark.parametrize(
    "back",
    [
        f"Content-Type: message/rfc822\n\n{ORIGINAL}\nDear Pilar\n",
        f"Content-Type: text/rfc822-headers; charset=us-ascii\n\n{ORIGINAL}",
        f"Content-Type: message/global-headers\n\n{ORIGINAL}",
    ],
)
def test_which_letter_it_was(back: str) -> None:
    found = read_report(report(recipient(), back=back))
    assert found is not None
    assert found.about == ("7f1c@mail.example.org",)


def test_nothing_came_back() -> None:
    found = read_report(report(recipient(), back="Content-Type: text/plain\n\nnothing\n"))
    assert found is not None
    assert found.about == ()


def complaint(fields: str, kind: str = "abuse") -> bytes:
    return (
        "From: feedback@example.com\nMIME-Version: 1.0\n"
        'Content-Type: multipart/report; report-type=feedback-report; boundary="=_c"\n\n'
        "--=_c\nContent-Type: text/plain\n\nA complaint.\n"
        "--=_c\nContent-Type: message/feedback-report\n\n"
        f"Feedback-Type: {kind}\nUser-Agent: Some/1\nVersion: 1\n{fields}\n"
        f"--=_c\nContent-Type: message/rfc822\n\n{ORIGINAL}\nDear Pilar\n--=_c--\n"
    ).encode()


def test_complaints() -> None:
    found = read_report(complaint("Original-Rcpt-To: <a@example.com>\n"))
    assert found == Report(
        (Delivery("a@example.com", "complained", said="abuse"),), ("7f1c@mail.example.org",)
    )
    assert _one(complaint("")).email == ""
    assert _one(complaint("", kind="not-spam")).verdict == "unknown"


def test_other_letters_are_no_reports() -> None:
    letter = EmailMessage()
    letter["Subject"] = "Re: Your well"
    letter.set_content("550 5.1.1 I moved. a@example.com")
    assert read_report(letter.as_bytes()) is None
    assert read_report(b"") is None
    assert read_report(b"\x00\xff\n\n") is None


def test_a_report_that_is_cut_off() -> None:
    whole = report(recipient())
    found = read_report(whole[: whole.index(b"Action")])
    assert found is not None
    assert [one.verdict for one in found.deliveries] in ([], ["unknown"])


@pytest.mark.parametrize(
    "wrong",
    [
        report(recipient(Final_Recipient="rfc822;")),
        report(recipient(Final_Recipient="x" * 5000)),
        report("Final-Recipient: rfc822; a@example.com\nStatus: 9.9.9\n"),
        report("nothing that is a field"),
        report(recipient(said="smtp; " + "5.1.1 " * 4000)),
        report(recipient(Final_Recipient="rfc822; =?utf-8?q?a=40example.com?=")),
        report("\x00: \x01\n"),
    ],
)
def test_what_is_wrong_is_read_as_far_as_it_goes(wrong: bytes) -> None:
    found = read_report(wrong)
    assert found is not None
    for one in found.deliveries:
        assert len(one.said) <= 500
        assert one.email in ("", "a@example.com")


def test_hostile_ones() -> None:
    """Deep ones are no reports; of many recipients so many are read."""
    deep = b"".join(
        b"Content-Type: multipart/report; boundary=b%d\n\n--b%d\n" % (at, at) for at in range(4000)
    )
    inner = b"Content-Type: message/rfc822\n\n" * 5000
    assert read_report(deep) is None
    assert read_report(inner) is None
    found = read_report(report(*[recipient()] * 3000))
    assert found is not None
    assert len(found.deliveries) == MOST_RECIPIENTS
    long = report(recipient(said="smtp; " + "a" * (2 * LONGEST)))
    assert read_report(long) is not None


@given(st.binary(max_size=400))
def test_any_bytes_in_a_status(raw: bytes) -> None:
    start, end = report("\x02").split(b"\x02")
    found = read_report(start + raw + end)
    assert found is None or all(len(one.email) < 350 for one in found.deliveries)
