"""What goes wrong in practice with rules that can be used, and needs no proof to be seen; it keeps
none from being applied."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from itertools import product

from jotgate.core.common.values import as_decimal
from jotgate.core.conditions.condition import Compare, leaves, named
from jotgate.core.conditions.saved import in_full
from jotgate.core.dispatch.acts import (
    Act,
    AddToList,
    Call,
    FileRow,
    FromEntry,
    Notice,
    SetContact,
    SetValue,
    ToAnswer,
)
from jotgate.core.dispatch.rows import fitting
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch, Rule
from jotgate.core.dispatch.scope import Scope
from jotgate.core.dispatch.texts import Slot, slots_in
from jotgate.core.items import Item, is_asked
from jotgate.core.items.staff_names import staff_name
from jotgate.core.proof.findings import Finding
from jotgate.core.proof.repairs import Repair
from jotgate.core.proof.routing.repairs import RuleRepairs, texts_of
from jotgate.core.proof.routing.taken import place_of
from jotgate.core.registers.columns import Column

MOST_OFFERED = 3
"""Repairs of one hint."""


@dataclass(frozen=True)
class Answering:
    """Whether visitors may sign in, and the edition that is answered now; None before there is
    one."""

    signs_in: bool
    edition: int | None


def hints(dispatch: Dispatch, scope: Scope, answering: Answering) -> tuple[Finding, ...]:
    """What is likely not meant, at the act or rule that it is of, or at `rules`."""
    return tuple(_Hints(dispatch, scope, answering).all())


class _Hints:
    def __init__(self, dispatch: Dispatch, scope: Scope, answering: Answering) -> None:
        self._dispatch, self._scope, self._answering = dispatch, scope, answering
        self._repairs = RuleRepairs(dispatch)
        self._acting = [rule for rule in dispatch.rules if not rule.off]

    def all(self) -> Iterator[Finding]:
        for rule in self._acting:
            yield from self._edition(rule)
        for key, position, act in self._acts():
            yield from self._glued(key, position, act)
            yield from self._signed_in(key, position, act)
        if self._acting or self._dispatch.otherwise:
            yield from self._unused()

    def _acts(self) -> Iterator[tuple[str, int, Act]]:
        each = [(rule.key, rule.acts) for rule in self._acting]
        for rule, acts in (*each, (OTHERWISE, self._dispatch.otherwise)):
            yield from ((rule, position, act) for position, act in enumerate(acts))

    def _edition(self, rule: Rule) -> Iterator[Finding]:
        """A rule that asks for an edition which is answered no more."""
        now = self._answering.edition
        if rule.when is None or now is None:
            return
        for leaf in leaves(in_full(rule.when, self._scope.questionnaire.saved)):
            if not isinstance(leaf, Compare) or leaf.item != "entry.edition" or leaf.op != "is":
                continue
            if as_decimal(str(leaf.value)) == Decimal(now):
                continue
            says = (
                f"{self._repairs.title(rule.key)} asks for edition {leaf.value}, and edition {now} "
                f"is answered now. Only what was begun before still comes to it."
            )
            repairs: tuple[Repair, ...] = ()
            if rule.when == leaf:
                newest = leaf.model_copy(update={"value": str(now)})
                says_it = f"Ask for edition {now}"
                repairs = (self._repairs.with_condition(says_it, rule.key, newest),)
            yield Finding("other_edition", "advice", place_of(rule.key), says, (), repairs)

    def _glued(self, rule: str, position: int, act: Act) -> Iterator[Finding]:
        for path, text in texts_of(act):
            glued = [slot for slot in slots_in(text) if slot.is_glued]
            if glued:
                shown = ", ".join(dict.fromkeys(map(_as_written, glued)))
                says = f"In {_called(path)}, {shown} stands right beside a word."
                at = f"{place_of(rule)}/acts/{position}"
                repair = self._repairs.spaced(rule, position)
                yield Finding("glued", "advice", at, says, (), (repair,))

    def _signed_in(self, rule: str, position: int, act: Act) -> Iterator[Finding]:
        """A letter to the address of an account, where visitors write their own."""
        if not isinstance(act, Notice) or not isinstance(act.to, ToAnswer):
            return
        if self._answering.signs_in or not act.to.name.startswith("claim."):
            return
        says = "The letter goes to the address of a sign-in, and visitors do not sign in here."
        written = [one for one in self._asked() if one.kind == "email"]
        repairs = tuple(
            self._repairs.sent_to(f"Send it to {self._name(one)}", rule, position, one.key)
            for one in written[:MOST_OFFERED]
        )
        at = f"{place_of(rule)}/acts/{position}"
        yield Finding("no_sign_in", "wrong", at, says, (), repairs)

    def _unused(self) -> Iterator[Finding]:
        """Questions whose answers go nowhere."""
        used = self._used()
        if used is None:
            return
        known = {one.partition(".")[0] for one in used} | used
        left = [one for one in self._asked() if one.key not in known]
        if left:
            said = ", ".join(map(self._name, left))
            says = f"No rule files or sends: {said}. They stand in the entry alone."
            repairs = tuple(self._filed(left))[:MOST_OFFERED]
            yield Finding("unused", "advice", "rules", says, (), repairs)

    def _asked(self) -> list[Item]:
        """The questions whose answers may leave through rules."""
        items = self._scope.items.items()
        return [
            item
            for key, item in items
            if "." not in key and is_asked(item) and key not in self._scope.kept
        ]

    def _filed(self, left: Iterable[Item]) -> Iterator[Repair]:
        """Answers put into columns of their name that take nothing yet."""
        for item, (rule, position, act) in product(left, self._acts()):
            for column in self._free_columns(act):
                named_so = column.key == item.key or column.label == self._name(item)
                if named_so and column.type in fitting(item):
                    name = self._repairs.title(rule)
                    says = f"{name}: put {self._name(item)} into {column.label}"
                    at = (rule, position, column.key, item.key)
                    yield self._repairs.with_column(says, *at)

    def _free_columns(self, act: Act) -> list[Column]:
        """The columns that an act puts nothing into."""
        registers = self._scope.known.registers
        register = registers.get(act.register_id) if isinstance(act, FileRow) else None
        if register is None or not isinstance(act, FileRow):
            return []
        return [column for column in register.columns if column.key not in act.columns]

    def _used(self) -> set[str] | None:
        """The names that rules use; None where some act sends everything."""
        names: set[str] = set()
        for rule in self._acting:
            if rule.when is not None:
                names |= named(in_full(rule.when, self._scope.questionnaire.saved))
        for _, _, act in self._acts():
            if isinstance(act, Call) or _tells_all(act):
                return None
            if isinstance(act, Notice):
                names |= {act.to.name} if isinstance(act.to, ToAnswer) else set()
            if isinstance(act, FileRow):
                names |= {act.per} if act.per else set()
                sources = act.columns.values()
                names |= {one.name for one in sources if isinstance(one, FromEntry)}
            if isinstance(act, SetContact | SetValue) and isinstance(act.source, FromEntry):
                names.add(act.source.name)
            if isinstance(act, AddToList):
                names |= {act.consent, act.email, act.name}
            names |= {slot.name for _, text in texts_of(act) for slot in slots_in(text)}
        return names

    def _name(self, item: Item) -> str:
        return staff_name(item, self._scope.first)


def _tells_all(act: Act) -> bool:
    """Whether staff are told everything by a letter."""
    if not isinstance(act, Notice) or isinstance(act.to, ToAnswer):
        return False
    return act.whole or act.printed


def _as_written(slot: Slot) -> str:
    return f"{slot.before}{{{slot.name}}}{slot.behind}".strip()


def _called(path: str) -> str:
    part, _, which = path.partition("/")
    if part == "columns":
        return f"the column {which.partition('/')[0]}"
    return {"subject": "the subject", "source": "the text"}.get(part, "the letter")
