"""A letter to contacts: its words, and what each of them reads."""

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import timedelta
from html import escape
from typing import Annotated

from pydantic import Field, StringConstraints

from jotgate.core.common.errors import Fault
from jotgate.core.common.part import Part
from jotgate.core.common.wording import SLOT, Text, closest, fill, say, slots
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.formats.common_mark import formatted_around
from jotgate.core.formats.letter_page import letter_page
from jotgate.core.words import letter

LINK = "link"
Kind = Annotated[
    str, StringConstraints(strip_whitespace=True, max_length=60, pattern=r"^[^\r\n]*$")
]
"""What kind of letters one is of, as those who get it read."""

LONGEST_SUBJECT, LONGEST_BODY = 200, 20_000

FASTEST = 60_000
"""Letters a minute; more than that no server takes from one worker."""


class MailingText(Part):
    """The words in each language; slots are `{link}`, and `{contact.name}` for what is known of the
    contact. `per_minute` is how many letters go out in a minute at most, `per_domain` how many of
    these to one receiving domain, None for no bound of its own."""

    subject: Text
    body: Text
    per_minute: int = Field(60, ge=1, le=FASTEST)
    per_domain: int | None = Field(None, ge=1, le=FASTEST)


def pace(per_minute: int, most: int) -> tuple[int, timedelta]:
    """How many letters go in one go, a second's worth but `most` of them, and the time between two
    goes: no 60 seconds have more than `per_minute` letters, whenever they begin."""
    count = max(1, min(most, per_minute // 60))
    return count, timedelta(microseconds=-(-60_000_000 // (per_minute // count)))


def mailing_faults(text: MailingText, first: str, known: set[str]) -> Iterator[Fault]:
    """What is wrong with the words of a letter; `known` are the fields of contacts."""
    for name, longest in (("subject", LONGEST_SUBJECT), ("body", LONGEST_BODY)):
        words: Text = getattr(text, name)
        if not words.get(first, "").strip():
            message = "Write the subject." if name == "subject" else "Write the letter."
            yield Fault(code="no_text", at=f"{name}/{first}", message=message)
        for language, said in words.items():
            at = f"{name}/{language}"
            if len(said) > longest:
                message = f"This has more than {longest:,} characters."
                yield Fault(code="too_long", at=at, message=message)
            if name == "subject" and len(said.splitlines()) > 1:
                yield Fault(code="lines", at=at, message="Write the subject in one line.")
            yield from contact_slot_faults(said, known, at, LINK)


def contact_slot_faults(words: str, known: set[str], at: str, *others: str) -> Iterator[Fault]:
    """Slots of `words` that name nothing `known` of contacts, and none of the `others`."""
    for slot in slots(words):
        kind, _, field = slot.partition(".")
        if slot not in others and not (kind == "contact" and field in known):
            message = f"There is nothing known of contacts that is called {slot}."
            yield Fault(code="slot", at=at, message=message)


@dataclass(frozen=True)
class Composed:
    """A letter as one contact reads it, in a language: in plain text, and formatted."""

    subject: str
    body: str
    html: str
    language: str

    @property
    def page(self) -> str:
        """The formatted one as a page of its own, with the styles that mail programs need."""
        html = self.html
        for name, style in _STYLES.items():
            html = html.replace(f' class="{name}"', f' style="{style}"')
        return letter_page(html, self.language)


def composed(text: MailingText, contact: Contact, first: str, link: str, out: str) -> Composed:
    """The letter to `contact`, with its own `link` and the address `out` where it opts out. Its
    words are CommonMark; a link that stands in a line by itself is a button."""
    offered = [first, *(tag for tag, words in text.body.items() if words.strip())]
    language = closest(offered, [contact.language])
    facts: Mapping[str, str] = {f"contact.{k}": v for k, v in facts_of(contact).items()}
    own = letter(language)
    body = say(text.body, language, first).rstrip()
    there = escape(link)
    button = f'<p><a href="{there}" class="button">{escape(own["letter_button"])}</a></p>'
    whole_body = body if LINK in slots(body) else f"{body}\n\n{{link}}"
    html = formatted_letter(whole_body, facts, button, f'<a href="{there}">{there}</a>')
    if LINK not in slots(body):
        body = f"{body}\n\n{own['letter_link']} {{link}}"
    whole = fill(body, {**facts, LINK: link}).rstrip()
    foot = f"{own['letter_out']}\n{out}"
    subject = fill(say(text.subject, language, first), {**facts, LINK: link})
    stop = f'<a href="{escape(out)}">{escape(own["letter_stop"])}</a>'
    small = f'<p class="small">{stop}</p>'
    return Composed(
        " ".join(subject.split()),
        f"{whole}\n\n-- \n{foot}\n",
        f"{html}<hr>{small}",
        language,
    )


_STYLES = {
    "button": "display:inline-block;padding:10px 18px;border-radius:4px;background:#3d5229;"
    "color:#ffffff;text-decoration:none;font-weight:bold",
    "small": "font-size:13px",
}
"""By class; formatted words have none."""

_ALONE = "<p>\ue002</p>"


def formatted_letter(body: str, facts: Mapping[str, str], alone: str, within: str) -> str:
    """The body as HTML: what is known of the contact is text, its link the HTML `alone` where it
    stands in a line by itself, else `within`."""

    def said(found: re.Match[str]) -> str:
        if found[1] == LINK:
            return "\ue002"
        return escape(facts.get(found[1]) or found[2] or "")

    html = formatted_around(body.replace("\ue002", ""), SLOT, said)
    return html.replace(_ALONE, alone).replace("\ue002", within)
