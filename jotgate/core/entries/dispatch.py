"""Dispatch: ordered rules that act when an entry arrives, and what they would do.

Rules are tried in order. An entry is filed once: the first rule that holds and files it
catches it, and later rules that file are passed over. Rules that only send notices act
whenever they hold. What `otherwise` says is done when no rule caught the entry.
Restricted answers never leave through a rule: `problems` refuses them, `planned` has no
access to them.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email
from jotgate.core.common.errors import Fault
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.common.wording import ENTRY_SLOTS, entry_words, fill, slots
from jotgate.core.conditions.condition import Condition, holds, named
from jotgate.core.conditions.saved import expanded, in_full
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.document.restriction import restrictions
from jotgate.core.entries.display import Reader
from jotgate.core.entries.register import Column, ColumnType, Register
from jotgate.core.entries.stored import as_json
from jotgate.core.items import Item, Key, holding, is_valued
from jotgate.core.items.kinds import Holds
from jotgate.core.publishing.condition_faults import condition_faults
from jotgate.core.walking.plan import Plan


def _mail_address(written: str) -> str:
    try:
        return email(written)
    except CheckFailed:
        raise ValueError("This is not a mail address.") from None


Address = Annotated[str, StringConstraints(max_length=254), AfterValidator(_mail_address)]
"""A mail address with its domain in lower case."""


class _Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class FileRow(_Part):
    """File to a register. `columns` maps a column's key to the key of an item."""

    kind: Literal["file"]
    register_id: UUID
    columns: dict[Key, Key] = {}


class Notice(_Part):
    """A mail to staff; subject and body may hold slots such as `{name}`."""

    kind: Literal["notice"]
    to: Address
    subject: str = Field(min_length=1, max_length=200, pattern=r"^[^\r\n]*$")
    body: str = Field(max_length=20_000)


Act = Annotated[FileRow | Notice, Field(discriminator="kind")]


class Rule(_Part):
    key: Key
    when: Condition
    acts: tuple[Act, ...] = Field((), max_length=20)

    @property
    def files(self) -> bool:
        return any(isinstance(act, FileRow) for act in self.acts)


class Dispatch(_Part):
    rules: tuple[Rule, ...] = Field((), max_length=200)
    otherwise: tuple[Act, ...] = Field((), max_length=20)

    def filed_to(self) -> frozenset[UUID]:
        """The registers that rules file to."""
        acts = [act for rule in self.rules for act in rule.acts]
        return frozenset(
            act.register_id for act in (*acts, *self.otherwise) if isinstance(act, FileRow)
        )


OTHERWISE = "otherwise"


@dataclass(frozen=True)
class RowPlanned:
    """A row for a register. `rule` is the key of the rule, or `otherwise`."""

    rule: str
    position: int
    register_id: UUID
    values: Mapping[str, str | bool]


@dataclass(frozen=True)
class NoticePlanned:
    rule: str
    position: int
    to: str
    subject: str
    body: str


Effect = RowPlanned | NoticePlanned


@dataclass(frozen=True)
class Planned:
    """What dispatch does with one entry. `caught_by` is the rule that files it, if any."""

    caught_by: str | None
    effects: tuple[Effect, ...]


def planned(
    dispatch: Dispatch,
    plan: Plan,
    answers: Values,
    number: int,
    registers: Mapping[UUID, Register],
    today: Today,
) -> Planned:
    """The effects of `dispatch` on an entry with these open `answers`, in order.

    `today` is the time of its arrival where the questionnaire is at home.
    """
    reader = Reader(plan)
    words = reader.all(answers) | entry_words(number, reader.say(plan.questionnaire.title))
    effects: list[Effect] = []
    caught_by: str | None = None
    for rule in dispatch.rules:
        if rule.files and caught_by is not None:
            continue
        if not holds(in_full(rule.when, plan.written.saved), answers, today):
            continue
        if rule.files:
            caught_by = rule.key
        effects += _effects(rule.key, rule.acts, answers, words, registers)
    if caught_by is None:
        effects += _effects(OTHERWISE, dispatch.otherwise, answers, words, registers)
    return Planned(caught_by, tuple(effects))


def _effects(
    rule: str,
    acts: tuple[Act, ...],
    answers: Values,
    words: Mapping[str, str],
    registers: Mapping[UUID, Register],
) -> Iterator[Effect]:
    for position, act in enumerate(acts):
        match act:
            case FileRow():
                register = registers[act.register_id]
                values = {
                    column.key: _cell(column, answers[source], words[source])
                    for column in register.columns
                    if (source := act.columns.get(column.key, "")) in answers
                }
                yield RowPlanned(rule, position, act.register_id, values)
            case Notice():
                subject = " ".join(fill(act.subject, words).split())
                yield NoticePlanned(rule, position, act.to, subject, fill(act.body, words))


def _cell(column: Column, value: Value, words: str) -> str | bool:
    stored = as_json(value)
    plain = isinstance(stored, str | bool) and column.type != "text"
    return stored if plain and isinstance(stored, str | bool) else words


Kept = Mapping[str, frozenset[str]]
"""Key of what is restricted -> the restricted items that it depends on."""


def problems(
    dispatch: Dispatch, questionnaire: Questionnaire, registers: Mapping[UUID, Register]
) -> tuple[Fault, ...]:
    """What is wrong with `dispatch` for this questionnaire; empty when it can be used."""
    items = {item.key: item for item in questionnaire.items() if is_valued(item)}
    kept = restrictions(expanded(questionnaire, questionnaire.saved)).items
    found: list[Fault] = []
    for rule in dispatch.rules:
        at = f"rules/{rule.key}"
        found += _condition(rule, items, at, questionnaire, kept)
        if not rule.acts:
            found.append(Fault(code="no_act", at=at, message="This rule does nothing yet."))
        found += _acts(rule.acts, at, items, registers, kept)
    found += _acts(dispatch.otherwise, OTHERWISE, items, registers, kept)
    keys = [rule.key for rule in dispatch.rules]
    for key in sorted({key for key in keys if keys.count(key) > 1 or key == OTHERWISE}):
        message = f"The key {key} is taken. Give the rule another."
        found.append(Fault(code="double_key", at=f"rules/{key}", message=message))
    return tuple(found)


def _condition(
    rule: Rule, items: Mapping[str, Item], at: str, questionnaire: Questionnaire, kept: Kept
) -> Iterator[Fault]:
    when = in_full(rule.when, questionnaire.saved)
    first = questionnaire.first_language
    missing = ("no_item", "which is not in the published edition")
    yield from condition_faults(when, items, first, at, "This rule holds when", missing)
    for key in sorted(named(when) & items.keys()):
        yield from _names(key, items, at, kept)


def _acts(
    acts: tuple[Act, ...],
    at: str,
    items: Mapping[str, Item],
    registers: Mapping[UUID, Register],
    kept: Kept,
) -> Iterator[Fault]:
    for position, act in enumerate(acts):
        here = f"{at}/acts/{position}"
        match act:
            case FileRow():
                register = registers.get(act.register_id)
                if register is None:
                    yield Fault(code="no_register", at=here, message="That register is gone.")
                    continue
                yield from _columns(act, register, here, items, kept)
            case Notice():
                for slot in slots(act.subject + act.body):
                    if slot not in ENTRY_SLOTS:
                        yield from _names(slot, items, here, kept)


def _columns(
    act: FileRow, register: Register, at: str, items: Mapping[str, Item], kept: Kept
) -> Iterator[Fault]:
    columns = {column.key: column for column in register.columns}
    for key, source in act.columns.items():
        column = columns.get(key)
        if column is None:
            message = f"{register.name} has no column {key}."
            yield Fault(code="no_column", at=at, message=message)
            continue
        yield from _names(source, items, at, kept)
        item = items.get(source)
        if item is not None and column.type not in fitting(item):
            message = f"The column {column.label} takes a {column.type}, which {source} is not."
            yield Fault(code="wrong_type", at=at, message=message)


_COLUMNS: Mapping[Holds, ColumnType] = {"number": "number", "day": "date", "truth": "yes_no"}


def fitting(item: Item) -> tuple[ColumnType, ...]:
    """The column types that can take answers of `item`."""
    own = _COLUMNS.get(holding(item))
    return ("text", own) if own else ("text",)


def _names(key: str, items: Mapping[str, Item], at: str, kept: Kept) -> Iterator[Fault]:
    """Faults of a rule that names `key`."""
    item = items.get(key)
    if item is None:
        message = f"There is no question or carried value {key} in the published edition."
        yield Fault(code="no_item", at=at, message=message)
    elif key in kept:
        because = sorted(kept[key] - {key})
        since = f", since it depends on {' and '.join(because)}" if because else ""
        message = f"{key} is restricted{since}. It cannot decide or leave through a rule."
        yield Fault(code="restricted", at=at, message=message)
