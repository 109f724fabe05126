"""What keeps dispatch rules from being used as they stand."""

import re
from collections.abc import Iterator

from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import ENTRY_SLOTS, is_language
from jotgate.core.conditions.condition import Condition, named
from jotgate.core.conditions.saved import in_full
from jotgate.core.dispatch.acts import (
    Act,
    AddToList,
    Call,
    Composed,
    FileRow,
    Fixed,
    FromEntry,
    Notice,
    SetCare,
    SetContact,
    SetStatus,
    SetValue,
    Source,
    ToAnswer,
    ToTeam,
)
from jotgate.core.dispatch.rows import fitting
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch, Rule, StatusRule
from jotgate.core.dispatch.scope import Scope
from jotgate.core.dispatch.set_faults import set_faults
from jotgate.core.items import File, Roster, holding
from jotgate.core.items.staff_names import staff_name
from jotgate.core.publishing.condition_faults import condition_faults
from jotgate.core.registers.cells import NotFit, Where, read_cell
from jotgate.core.registers.columns import Column, Register

LONGEST_SUBJECT = 200


def problems(dispatch: Dispatch, scope: Scope) -> tuple[Fault, ...]:
    """What is wrong with `dispatch` for a questionnaire; empty when it can be used. Rules that are
    off may be unfinished."""
    found: list[Fault] = []
    for rule in dispatch.rules:
        found += _rule(rule, f"rules/{rule.key}", scope)
    found += _acts(dispatch.otherwise, OTHERWISE, scope)
    for one in dispatch.on_status:
        found += _on_status(one, f"on_status/{one.key}", scope)
    keys = [rule.key for rule in (*dispatch.rules, *dispatch.on_status)]
    for key in sorted({key for key in keys if keys.count(key) > 1 or key == OTHERWISE}):
        message = f"The key {key} is taken. Give the rule another."
        found.append(Fault(code="double_key", at=f"rules/{key}", message=message))
    return tuple(found)


def _rule(rule: Rule, at: str, scope: Scope) -> Iterator[Fault]:
    if rule.off:
        return
    yield from _condition(rule, scope, at)
    if not rule.acts:
        yield Fault(code="no_act", at=at, message="This rule does nothing yet.")
    yield from _acts(rule.acts, at, scope)


def _on_status(rule: StatusRule, at: str, scope: Scope) -> Iterator[Fault]:
    yield from _rule(rule, at, scope)
    if rule.off:
        return
    if rule.status not in scope.known.around.reached:
        yield Fault(code="no_status", at=f"{at}/status", message="Choose a status.")
    for position, act in enumerate(rule.acts):
        if isinstance(act, SetStatus):
            message = "A status that is reached cannot lead on to another one."
            yield Fault(code="leads_on", at=f"{at}/acts/{position}", message=message)


def _condition(rule: Rule, scope: Scope, at: str) -> Iterator[Fault]:
    if rule.when is None:
        return
    when = in_full(rule.when, scope.questionnaire.saved)
    yield from when_faults(when, scope, at, "This rule holds when")


def when_faults(when: Condition, scope: Scope, at: str, lead: str) -> Iterator[Fault]:
    """What is wrong with a condition on entries, in which saved ones are said in full."""
    missing = ("no_item", "which is not in the published edition")
    yield from condition_faults(when, scope.items, scope.first, at, lead, missing)
    for name in sorted(named(when)):
        yield from scope.restricted(name, at)


def _acts(acts: tuple[Act, ...], at: str, scope: Scope) -> Iterator[Fault]:
    for position, act in enumerate(acts):
        here = f"{at}/acts/{position}"
        match act:
            case FileRow():
                yield from _file(act, here, scope)
            case Notice():
                yield from _to(act, here, scope)
                yield from _words(act, here, scope)
            case Call() if act.hook_id not in scope.known.hooks:
                yield Fault(code="no_hook", at=here, message="Choose what is called.")
            case SetStatus() if act.status not in scope.known.around.reached:
                yield Fault(code="no_status", at=here, message="Choose a status.")
            case SetCare() | SetContact() | SetValue() | AddToList():
                yield from set_faults(act, here, scope)


def _file(act: FileRow, at: str, scope: Scope) -> Iterator[Fault]:
    register = scope.known.registers.get(act.register_id)
    if register is None:
        yield Fault(code="no_register", at=at, message="That register is gone. Choose another.")
        return
    if act.per:
        roster = scope.item(act.per)
        if not isinstance(roster, Roster):
            message = f"There is no roster {act.per} that could make a row for each of its entries."
            yield Fault(code="no_roster", at=at, message=message)
            return
        yield from scope.restricted(act.per, at)
        scope = scope.within(roster)
    if not act.columns:
        message = f"Nothing goes into the columns of {register.name} yet."
        yield Fault(code="no_columns", at=at, message=message)
    yield from _columns(act, register, at, scope)
    yield from _kept(act, register, at, scope)
    for key in act.matching.columns if act.matching else ():
        if key not in act.columns:
            message = f"Rows are found by {key}, which takes nothing from the entry."
            yield Fault(code="no_match", at=at, message=message)


def _kept(act: FileRow, register: Register, at: str, scope: Scope) -> Iterator[Fault]:
    for key in act.kept:
        here, item = f"{at}/kept/{key}", scope.item(key)
        if item is None:
            message = f"There is no question {key} in the published edition."
            yield Fault(code="no_item", at=here, message=message)
        elif key not in scope.kept:
            message = f"{staff_name(item, scope.first)} is not restricted: put it into a column."
            yield Fault(code="open", at=here, message=message)
        elif not register.cleared:
            message = f"{register.name} is not for cleared eyes, so nothing restricted goes there."
            yield Fault(code="restricted", at=here, message=message)


def _columns(act: FileRow, register: Register, at: str, scope: Scope) -> Iterator[Fault]:
    columns = {column.key: column for column in register.columns}
    for key, source in act.columns.items():
        column, here = columns.get(key), f"{at}/columns/{key}"
        if column is None:
            message = f"{register.name} has no column {key}."
            yield Fault(code="no_column", at=here, message=message)
            continue
        if column.type in ("files", "computed") and not _is_file(source, scope):
            told = "holds files" if column.type == "files" else "is computed from others"
            message = f"The column {column.label} {told}: this cannot go there."
            yield Fault(code="wrong_type", at=here, message=message)
            continue
        match source:
            case FromEntry():
                yield from _from_entry(source, column, here, scope)
            case Fixed():
                try:
                    read_cell(column, source.text, Where(people=scope.known.people))
                except NotFit as why:
                    yield Fault(code="wrong_type", at=here, message=f"{column.label}: {why}")
            case Composed():
                yield from scope.faults_in_text(source.text, here, column.label)


def _is_file(source: Source, scope: Scope) -> bool:
    return isinstance(source, FromEntry) and isinstance(scope.item(source.name), File)


def _from_entry(source: FromEntry, column: Column, at: str, scope: Scope) -> Iterator[Fault]:
    if source.name in ENTRY_SLOTS:
        if column.of not in (None, scope.known.questionnaire_id):
            message = f"The column {column.label} names entries of another questionnaire."
            yield Fault(code="wrong_type", at=at, message=message)
        return
    yield from scope.faults_of(source.name, at)
    item = scope.item(source.name)
    if item is not None and column.type not in fitting(item):
        said = column.type.replace("_", " ")
        name = staff_name(item, scope.first)
        message = f"The column {column.label} holds a {said}, which {name} is not."
        yield Fault(code="wrong_type", at=at, message=message)


def _to(act: Notice, at: str, scope: Scope) -> Iterator[Fault]:
    here = f"{at}/to"
    match act.to:
        case ToTeam() if act.to.team_id not in scope.known.teams:
            yield Fault(code="no_team", at=here, message="That team is gone. Choose another.")
        case ToAnswer():
            yield from scope.faults_of(act.to.name, here)
            item = scope.item(act.to.name)
            if item is not None and holding(item) != "text":
                message = f"{staff_name(item, scope.first)} is not a mail address."
                yield Fault(code="no_address", at=here, message=message)


_LINK = re.compile(r"\]\([^()\s]*\{")
"""A slot in the address of a link: what stands there would lead wherever the answer says."""


def _words(act: Notice, at: str, scope: Scope) -> Iterator[Fault]:
    if not act.subject.get(scope.first, "").strip():
        yield Fault(code="no_text", at=f"{at}/subject", message="Write the subject.")
    if not act.body.get(scope.first, "").strip() and not act.whole:
        yield Fault(code="no_text", at=f"{at}/body", message="Write the letter.")
    for name in ("subject", "body"):
        for language, words in getattr(act, name).items():
            if not is_language(language):
                continue
            here = f"{at}/{name}/{language}"
            if name == "subject":
                yield from _subject(words, here)
            if _LINK.search(words):
                message = "A link cannot lead to what somebody answered. Write its address out."
                yield Fault(code="slot_in_link", at=here, message=message)
            yield from scope.faults_in_text(words, here, f"The {name}")


def _subject(words: str, at: str) -> Iterator[Fault]:
    if len(words) > LONGEST_SUBJECT:
        message = f"The subject has more than {LONGEST_SUBJECT} characters."
        yield Fault(code="too_long", at=at, message=message)
    if len(words.splitlines()) > 1:
        yield Fault(code="lines", at=at, message="Write the subject in one line.")
