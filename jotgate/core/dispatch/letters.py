"""The letters that an act sends."""

from collections.abc import Iterator, Mapping
from dataclasses import replace
from html import escape
from uuid import UUID

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email
from jotgate.core.common.wording import say
from jotgate.core.dispatch.acts import Notice, ToAddress, ToAnswer, ToTeam
from jotgate.core.dispatch.effects import Effect, NoticePlanned, NotPlanned, Place
from jotgate.core.dispatch.texts import Words, tamed, value_of
from jotgate.core.entries.print_page import print_page
from jotgate.core.items import is_asked, is_valued

NO_ADDRESS = "No mail address was given there, so nothing was sent."


def letters(
    at: Place, act: Notice, words: Words, teams: Mapping[UUID, tuple[str, ...]]
) -> Iterator[Effect]:
    """A letter to each recipient of `act`, in the language of `words`."""
    to = _addresses(act, words, teams)
    if isinstance(act.to, ToTeam) and not to:
        gone = act.to.team_id not in teams
        why = "The team is gone." if gone else "Nobody is in the team."
        yield NotPlanned(at, "notice", f"{why} Name somebody else in the rule, then do this again.")
    elif not to:
        yield NotPlanned(at, "notice", NO_ADDRESS, left_out=True)
    for part, address in enumerate(to):
        yield _letter(replace(at, part=part), act, words, address)


def _addresses(act: Notice, words: Words, teams: Mapping[UUID, tuple[str, ...]]) -> tuple[str, ...]:
    match act.to:
        case ToAddress():
            return (act.to.address,)
        case ToTeam():
            return teams.get(act.to.team_id, ())
        case ToAnswer():
            try:
                return (email(value_of(words.values, act.to.name)),)
            except CheckFailed:
                return ()


def _letter(at: Place, act: Notice, words: Words, address: str) -> NoticePlanned:
    reader, to_visitor = words.reader, isinstance(act.to, ToAnswer)
    first = reader.plan.questionnaire.first_language
    subject, body = say(act.subject, reader.language, first), say(act.body, reader.language, first)
    tame = tamed if to_visitor else str
    plain, html = words.filled(body, tame), words.filled_as_html(body, tame)
    lines = _whole(words, to_visitor) if act.whole or act.printed else []
    if act.whole:
        plain = "\n\n".join(part for part in (plain.strip(), _as_text(lines)) if part)
        html += _as_table(lines)
    return NoticePlanned(
        at=at,
        to=address,
        subject=" ".join(words.filled(subject, tame).split())[:250],
        plain=plain.strip(),
        html=html,
        language=reader.language,
        printed=_printed(words, lines) if act.printed else "",
        gathered=act.gathered,
        quiet=act.quiet,
        to_visitor=to_visitor,
    )


def _whole(words: Words, to_visitor: bool) -> list[tuple[str, str]]:
    """Everything that is known of the entry as question and answer; a visitor reads what was asked
    of them."""
    found = []
    for item in words.reader.plan.questionnaire.items():
        if item.key not in words.values or not is_valued(item):
            continue
        if to_visitor and not is_asked(item):
            continue
        said = words.of(item.key)
        name = words.reader.say(item.text) or item.short_name or item.key
        found.append((name, tamed(said) if to_visitor else said))
    return found


def _printed(words: Words, lines: list[tuple[str, str]]) -> str:
    reader, number = words.reader, words.plain["entry_number"]
    title = reader.say(reader.plan.questionnaire.title)
    return print_page(f"{title} {number}".strip(), lines, reader.language)


def _as_text(lines: list[tuple[str, str]]) -> str:
    return "\n".join(f"{name}\n  {said}" for name, said in lines)


def _as_table(lines: list[tuple[str, str]]) -> str:
    rows = "".join(
        f'<tr><th align="left" valign="top">{escape(name)}</th><td>{_broken(said)}</td></tr>'
        for name, said in lines
    )
    return f'<table cellpadding="4">{rows}</table>' if rows else ""


def _broken(said: str) -> str:
    return escape(said).replace("\n", "<br>")
