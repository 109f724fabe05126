"""A letter to contacts: its words, and what each of them reads."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from pydantic import Field

from jotgate.core.common.errors import Fault
from jotgate.core.common.part import Part
from jotgate.core.common.wording import Text, closest, fill, say, slots
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.words import letter

LINK = "link"
LONGEST_SUBJECT, LONGEST_BODY = 200, 20_000


class MailingText(Part):
    """The words in each language; slots are `{link}`, and `{contact.name}` for what is known of the
    contact. `per_minute` is how many letters go out in a minute at most."""

    subject: Text
    body: Text
    per_minute: int = Field(60, ge=1, le=600)


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
            for slot in slots(said):
                kind, _, field = slot.partition(".")
                if slot != LINK and not (kind == "contact" and field in known):
                    message = f"There is nothing known of contacts that is called {slot}."
                    yield Fault(code="slot", at=at, message=message)


@dataclass(frozen=True)
class Composed:
    """A letter as one contact reads it, in plain text."""

    subject: str
    body: str


def composed(text: MailingText, contact: Contact, first: str, link: str, out: str) -> Composed:
    """The letter to `contact`, with its own `link` and the address `out` where it opts out."""
    offered = [first, *(tag for tag, words in text.body.items() if words.strip())]
    language = closest(offered, [contact.language])
    facts: Mapping[str, str] = {f"contact.{k}": v for k, v in facts_of(contact).items()}
    own = letter(language)
    body = say(text.body, language, first)
    if LINK not in slots(body):
        body = f"{body.rstrip()}\n\n{own['letter_link']} {{link}}"
    whole = fill(body, {**facts, LINK: link}).rstrip()
    foot = f"{own['letter_out']}\n{out}"
    subject = fill(say(text.subject, language, first), {**facts, LINK: link})
    return Composed(" ".join(subject.split()), f"{whole}\n\n-- \n{foot}\n")
