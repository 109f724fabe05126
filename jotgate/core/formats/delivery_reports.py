"""What mail servers and mailboxes send back about a letter: delivery reports (RFC 3464, in other
alphabets RFC 6533), and complaints of those who got it (RFC 5965).

Anybody can send such a letter: it says what became of one of ours only where it names it, and what
it cannot be understood to say is said to be so.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from email import policy
from email.message import Message
from email.parser import BytesParser, Parser
from typing import Literal

LONGEST = 1_000_000
"""Bytes of a letter that are read at most: reports bring no more than the head of what they are
about, or a part of it."""

MOST_RECIPIENTS = 100
MOST_PARTS = 50
"""Parts of a letter that are looked at, and parts with parts of their own that it may have at all:
reading what stands in each other takes time by how deep that goes."""

Verdict = Literal["arrived", "later", "given_up", "no_address", "refused", "complained", "unknown"]
"""It was delivered or handed on; it is tried again by whoever reports; it was given up for a reason
that passes, such as a full mailbox; there is nobody at the address; it was refused for good for
another reason, which says nothing of the address; somebody complained of it; or none of these can
be told."""

NO_ADDRESS = frozenset({"5.1.0", "5.1.1", "5.1.2", "5.1.3", "5.1.6", "5.1.10", "5.2.1"})
"""Codes of RFC 3463 (5.1.10: RFC 7505) by which there is nobody at an address."""

PASSING = frozenset({"5.2.2", "5.3.1", "5.4.1", "5.4.4", "5.4.5", "5.4.7", "5.7.14"})
"""Codes of what may be otherwise tomorrow, though a server has given up: a full mailbox (5.2.2), a
full or busy system (5.3.1, 5.4.5), and what could not be reached in time."""

_STATUS = re.compile(r"\b([245])\.(\d{1,3})\.(\d{1,3})\b")
_REPLY = re.compile(r"(?<![\d.])([245])\d\d(?![\d.])")
"""A reply of SMTP (RFC 5321), where no enhanced code stands beside it."""

_ADDRESS = re.compile(r"[^\s<>;,]{1,64}@[^\s<>;,]{1,255}")
_MESSAGE_ID = re.compile(r"<([^<>\s]{1,250})>")


@dataclass(frozen=True)
class Delivery:
    """What became of a letter to one address, as far as a report tells. `status` is a code of RFC
    3463, empty where there is none; `said` what the server said, on one line."""

    email: str
    verdict: Verdict
    status: str = ""
    said: str = ""


@dataclass(frozen=True)
class Report:
    """`about` are the Message-IDs of the letters that it names, without brackets; `envelope` is the
    envelope's id (RFC 3461) where one came back."""

    deliveries: tuple[Delivery, ...]
    about: tuple[str, ...] = ()
    envelope: str = ""


def read_report(raw: bytes) -> Report | None:
    """What a letter reports; None where it is no report at all."""
    raw = raw[:LONGEST]
    if sum(raw.lower().count(one) for one in (b"boundary", b"message/")) > MOST_PARTS:
        return None
    letter = BytesParser(policy=policy.compat32).parsebytes(raw)
    parts = list(_parts(letter))
    told: list[Delivery] = []
    envelope = ""
    is_report = letter.get_content_type() == "multipart/report"
    for part in parts:
        match part.get_content_type():
            case "message/delivery-status" | "message/global-delivery-status":
                is_report = True
                first, *blocks = _blocks(part) or [Message()]
                envelope = envelope or _field(first, "Original-Envelope-Id")
                told += (_delivery(one) for one in blocks[:MOST_RECIPIENTS])
            case "message/feedback-report":
                is_report = True
                told += _complaints(part)
    if not is_report:
        return None
    return Report(tuple(told), tuple(dict.fromkeys(_about(parts))), envelope)


def _parts(letter: Message) -> Iterator[Message]:
    """All parts, however they stand in each other; at most so many."""
    waiting = [letter]
    count = 0
    while waiting and count < MOST_PARTS:
        part = waiting.pop(0)
        count += 1
        yield part
        inner = part.get_payload()
        if part.is_multipart() and isinstance(inner, list):
            waiting += [one for one in inner if isinstance(one, Message)]


def _blocks(part: Message) -> list[Message]:
    """The groups of fields of a status: of the letter, then of each recipient. Where a server left
    the first out, it is taken as empty."""
    inner = part.get_payload()
    if isinstance(inner, list):
        raw = b"\n\n".join(one.as_bytes() for one in inner if isinstance(one, Message))
    else:
        text = part.get_payload(decode=True)
        raw = text if isinstance(text, bytes) else b""
    groups = re.split(r"\r?\n(?:\r?\n)+", raw.decode("utf-8", "replace"))[: MOST_RECIPIENTS + 1]
    found = [one for one in (Parser().parsestr(group.lstrip()) for group in groups) if one.keys()]
    if found and (found[0]["Final-Recipient"] or found[0]["Action"]):
        found.insert(0, Message())
    return found


def _field(block: Message, name: str) -> str:
    """A field on one line, without what is no text."""
    found = " ".join(str(block.get(name, "")).split())
    return "".join(one for one in found if one.isprintable())[:500]


def _typed(value: str) -> str:
    """What stands behind the type of a field, such as `rfc822; a@example.org`."""
    _, behind, rest = value.partition(";")
    return (rest if behind else value).strip()


def _delivery(block: Message) -> Delivery:
    final, original = (_field(block, f"{one}-Recipient") for one in ("Final", "Original"))
    email = _address(_unquoted(original)) or _address(final)
    said = _typed(_field(block, "Diagnostic-Code"))
    status = _code(_field(block, "Status")) or _code(said)
    action = _field(block, "Action").split(" ")[0].strip(";").lower()
    return Delivery(email, _verdict(action, status, said), status, said)


def _address(value: str) -> str:
    found = _ADDRESS.search(_typed(value))
    return found[0] if found else ""


def _unquoted(value: str) -> str:
    """What xtext (RFC 3461) stands for, where a server left it in: of what addresses have it writes
    plus and equals signs so, and nothing else. An address with a plus of its own stays as it is."""
    return value.replace("+2B", "+").replace("+3D", "=")


def _code(value: str) -> str:
    found = _STATUS.search(value)
    return ".".join(str(int(one)) for one in found.groups()) if found else ""


def _verdict(action: str, status: str, said: str) -> Verdict:
    if action in ("delivered", "relayed", "expanded"):
        return "arrived"
    if action == "delayed":
        return "later"
    kind = status[:1] or next((one[1] for one in _REPLY.finditer(said)), "")
    if action != "failed" and kind in ("", "2"):
        return "arrived" if kind else "unknown"
    if status in NO_ADDRESS:
        return "no_address"
    if kind == "4" or status in PASSING:
        return "given_up"
    return "refused"


def _complaints(part: Message) -> Iterator[Delivery]:
    """The fields of such a report are read as a letter's are."""
    inner = part.get_payload()
    first = inner[0] if isinstance(inner, list) and inner else None
    fields = first if isinstance(first, Message) else Message()
    kind = _field(fields, "Feedback-Type").lower()
    verdict: Verdict = "unknown" if kind in ("", "not-spam") else "complained"
    to = [str(one) for one in fields.get_all("Original-Rcpt-To", [])] or [""]
    for one in to[:MOST_RECIPIENTS]:
        yield Delivery(_address(one), verdict, said=kind)


def _about(parts: list[Message]) -> Iterator[str]:
    """The Message-IDs of letters that came back, whole, in part, or as their head alone."""
    for part in parts[1:]:
        if part.get_content_type() in ("text/rfc822-headers", "message/global-headers"):
            text = part.get_payload(decode=True)
            raw = text if isinstance(text, bytes) else b""
            part = BytesParser(policy=policy.compat32).parsebytes(raw, headersonly=True)
        if found := _MESSAGE_ID.search(_field(part, "Message-ID")):
            yield found[1]


def is_no_address(said: str) -> bool:
    """Whether a server says by an enhanced code that there is nobody at an address."""
    return _code(said) in NO_ADDRESS
