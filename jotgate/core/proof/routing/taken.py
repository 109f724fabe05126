"""What the acts of dispatch rules take from an entry, and where it goes."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from jotgate.core.common.wording import ENTRY_SLOTS
from jotgate.core.dispatch.acts import (
    Act,
    Composed,
    FileRow,
    FromEntry,
    Notice,
    SetContact,
    SetStatus,
    SetValue,
    ToAnswer,
)
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch
from jotgate.core.dispatch.texts import slots_in

Into = Literal["column", "letter", "address"]


@dataclass(frozen=True)
class Taken:
    """`name`, an item's key, `key.part` or a fact, goes into the column `to`, the letter's `to`
    (subject or body), or is the address of one: by the act at `position` of `rule`. With `per` it
    is taken of each entry of that roster."""

    rule: str
    position: int
    into: Into
    to: str
    name: str
    per: str = ""

    @property
    def at(self) -> str:
        """The place of the act."""
        return f"{place_of(self.rule)}/acts/{self.position}"

    @property
    def place(self) -> str:
        """What no other has."""
        return f"{self.at}/{self.into}/{self.to}/{self.name}"


def place_of(rule: str) -> str:
    return OTHERWISE if rule == OTHERWISE else f"rules/{rule}"


def taken_by(dispatch: Dispatch) -> Iterator[Taken]:
    """All that rules which are not off take, and that can be missing: not what every entry has, nor
    a slot that has words of its own for that, nor what an act may have set before."""
    set_by = frozenset(name for act in dispatch.acts() for name in _set_by(act))
    each = [(rule.key, rule.acts) for rule in dispatch.rules if not rule.off]
    for rule, acts in (*each, (OTHERWISE, dispatch.otherwise)):
        for position, act in enumerate(acts):
            found = dict.fromkeys(_of_act(rule, position, act))
            yield from (one for one in found if one.name not in {*ENTRY_SLOTS, *set_by})


def _set_by(act: Act) -> tuple[str, ...]:
    match act:
        case SetStatus():
            return ("entry.status",)
        case SetContact():
            return (f"contact.{act.field}",)
        case SetValue():
            return (act.key,)
    return ()


def _of_act(rule: str, position: int, act: Act) -> Iterator[Taken]:
    match act:
        case FileRow():
            for key, source in act.columns.items():
                names = [source.name] if isinstance(source, FromEntry) else []
                if isinstance(source, Composed):
                    names = _needed(source.text)
                yield from (Taken(rule, position, "column", key, one, act.per) for one in names)
        case Notice():
            if isinstance(act.to, ToAnswer):
                yield Taken(rule, position, "address", "to", act.to.name)
            for part in ("subject", "body"):
                for words in getattr(act, part).values():
                    for name in _needed(words):
                        yield Taken(rule, position, "letter", part, name)


def _needed(words: str) -> list[str]:
    """The names of slots that have nothing to say where there is no value."""
    return [slot.name for slot in slots_in(words) if not slot.otherwise]
