"""A letter on paper as one contact reads it, and the pages of many."""

from collections.abc import Sequence
from dataclasses import dataclass
from html import escape

from jotgate.core.common.typed_code import shown
from jotgate.core.common.wording import closest, fill, say
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.formats.qr import PrintedQr, printed_qr
from jotgate.core.mailing import MailingText, formatted_letter
from jotgate.core.rounds.paper import (
    INSET,
    LEADING,
    SHEETS,
    AddressLines,
    Box,
    PaperWindow,
    Post,
    fitted,
)
from jotgate.core.words import direction, letter


@dataclass(frozen=True)
class Addressed:
    """Where answers go: the whole `link`, the `short` address without its scheme where a code is
    typed, and the `code`."""

    link: str
    short: str
    code: str


@dataclass(frozen=True)
class PaperLetter:
    """A letter on paper. `html` is clean."""

    address: AddressLines
    sender: str
    subject: str
    html: str
    foot: str
    link: str
    language: str


def address_of(post: Post, contact: Contact, window: PaperWindow) -> AddressLines | None:
    """The address of a contact as it shows in a window; None where it has none, or it does not
    fit."""
    facts = {f"contact.{key}": value for key, value in facts_of(contact).items()}
    found = fitted(fill(post.lines, facts).splitlines(), SHEETS[window].address)
    return found if found and found.lines else None


def on_paper(
    text: MailingText, post: Post, contact: Contact, first: str, there: Addressed, to: AddressLines
) -> PaperLetter:
    """The letter to `contact`; the slot `{link}` becomes where the code is typed, with it."""
    offered = [first, *(tag for tag, words in text.body.items() if words.strip())]
    language = closest(offered, [contact.language])
    facts = {f"contact.{key}": value for key, value in facts_of(contact).items()}
    code = f"<bdi>{escape(there.short)}</bdi>, <b><bdi>{shown(there.code)}</bdi></b>"
    body = say(text.body, language, first).rstrip()
    own = letter(language)
    subject = fill(say(text.subject, language, first), {**facts, "link": there.short})
    told = {"address": there.short, "code": shown(there.code)}
    return PaperLetter(
        address=to,
        sender=post.sender,
        subject=" ".join(subject.split()),
        html=formatted_letter(body, facts, f"<p>{code}</p>", code),
        foot=fill(own["paper_answer"], told),
        link=there.link,
        language=language,
    )


ISOLATED = "\u2068{}\u2069"
"""A line whose letters have no say in the direction of others, without an element of its own: each
costs every letter of a large round."""


def _style(window: PaperWindow) -> str:
    sheet = SHEETS[window]
    upper, lower = sheet.folds
    return f"""
@page {{ size: {sheet.width}mm {sheet.height}mm; margin: 20mm 20mm 20mm 25mm; }}
body {{ font: 10.5pt/1.4 sans-serif; margin: 0; }}
section {{ position: relative; break-before: page; padding-top: {sheet.text - 20}mm; }}
section.front {{ break-before: recto; }}
.address, .sender, .folds {{ position: absolute; white-space: pre; }}
.address {{ line-height: {LEADING}; {_placed(sheet.address)} padding-top: {INSET}mm; }}
.sender {{ font-size: 7pt; line-height: 1.2; {_placed(sheet.sender)} }}
.folds {{ left: -21mm; width: 4mm; top: {upper - 20:.2f}mm; height: {lower - upper:.2f}mm;
  border: solid #777; border-width: 0.3pt 0; }}
section {{ bookmark-level: 1; bookmark-label: "letter"; }}
h1 {{ bookmark-level: none; font-size: 11pt; margin: 0 0 4mm; }}
p {{ margin: 0 0 3mm; }}
.answer {{ break-inside: avoid; margin-top: 10mm; }}
.answer img {{ float: left; margin: -4mm 4mm 0 0; image-rendering: pixelated; }}
[dir=rtl] .answer img {{ float: right; margin: -4mm 0 0 4mm; }}
"""


def _placed(box: Box) -> str:
    """In the area of the page, which its margins leave."""
    return (
        f"left: {box.left - 25:.2f}mm; top: {box.top - 20:.2f}mm; width: {box.width:.2f}mm; "
        f"height: {box.height:.2f}mm;"
    )


def paper_page(letters: Sequence[PaperLetter], window: PaperWindow, duplex: bool) -> str:
    """A whole HTML document with each letter, at least one, on sheets of its own, which begin on a
    front side where both are printed on."""
    front = ' class="front"' if duplex else ""
    mask = printed_qr(letters[0].link).mask
    parts = "".join(_section(one, front, printed_qr(one.link, mask)) for one in letters)
    return (
        f'<!doctype html><html lang="{escape(letters[0].language)}"><head><meta charset="utf-8">'
        "<title>Letters</title>"
        f"<style>{_style(window)}</style></head><body>{parts}</body></html>\n"
    )


def _section(one: PaperLetter, front: str, code: PrintedQr) -> str:
    lines = "\n".join(ISOLATED.format(escape(line)) for line in one.address.lines)
    picture = f'<img alt="" style="width:{code.width}mm" src="{code.url}">'
    tongue = f'lang="{escape(one.language)}" dir="{direction(one.language)}"'
    return (
        f'<section {tongue}{front}><div class="folds"></div>'
        f'<div class="sender" dir="ltr">{escape(one.sender)}</div>'
        f'<div class="address" dir="ltr" style="font-size:{one.address.size}pt">{lines}</div>'
        f"<h1>{escape(one.subject)}</h1>{one.html}"
        f'<p class="answer" style="min-height:{code.width}mm">{picture}{escape(one.foot)}</p>'
        "</section>"
    )
