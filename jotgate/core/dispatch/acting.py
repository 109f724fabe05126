"""What acts come to, one after the other: a later one sees what those before it set."""

from collections import Counter
from collections.abc import Iterator
from uuid import UUID

from jotgate.core.dispatch.acts import (
    Act,
    AddToList,
    Call,
    FileRow,
    Notice,
    SetCare,
    SetContact,
    SetStatus,
    SetValue,
)
from jotgate.core.dispatch.call_body import call_body
from jotgate.core.dispatch.effects import (
    CallPlanned,
    ContactPlanned,
    Effect,
    NotPlanned,
    Place,
    StatusPlanned,
    ValuePlanned,
)
from jotgate.core.dispatch.letters import letters
from jotgate.core.dispatch.rows import rows
from jotgate.core.dispatch.setting import care, contact_field, list_member, value
from jotgate.core.dispatch.subject import Subject


class Acting:
    """The acts of rules on one entry, in order."""

    def __init__(self, subject: Subject) -> None:
        self._subject = subject
        self._turns = Counter[UUID]()

    def effects(self, rule: str, acts: tuple[Act, ...]) -> Iterator[Effect]:
        for position, act in enumerate(acts):
            for effect in self._of(Place(rule, position), act):
                self._see(effect)
                yield effect

    def _see(self, effect: Effect) -> None:
        match effect:
            case StatusPlanned():
                self._subject = self._subject.with_value("entry.status", effect.status)
            case ContactPlanned():
                self._subject = self._subject.with_value(f"contact.{effect.field}", effect.value)
            case ValuePlanned():
                self._subject = self._subject.with_value(effect.key, effect.value)

    def _of(self, at: Place, act: Act) -> Iterator[Effect]:
        subject = self._subject
        match act:
            case FileRow():
                yield from self._rows(at, act)
            case Notice():
                yield from self._letters(at, act)
            case Call():
                yield self._call(at, act)
            case SetStatus():
                yield StatusPlanned(at, act.status)
            case SetCare():
                yield care(at, act, subject.known, self._turns)
            case SetContact():
                yield contact_field(at, act, subject)
            case SetValue():
                yield value(at, act, subject)
            case AddToList():
                yield list_member(at, act, subject)

    def _rows(self, at: Place, act: FileRow) -> Iterator[Effect]:
        subject = self._subject
        register = subject.known.registers.get(act.register_id)
        if register is None:
            why = "Its register is gone. Name another in the rule, then do this again."
            yield NotPlanned(at, "row", why)
        else:
            yield from rows(at, act, register, subject.words, subject.where)

    def _letters(self, at: Place, act: Notice) -> Iterator[Effect]:
        subject = self._subject
        own, language = subject.words, subject.entry.language
        answered = subject.in_language(language) if language and act.to.kind == "answer" else own
        yield from letters(at, act, answered, subject.known.teams)

    def _call(self, at: Place, act: Call) -> Effect:
        subject = self._subject
        if act.hook_id not in subject.known.hooks:
            why = "What is to be called is gone. Name another in the rule, then do this again."
            return NotPlanned(at, "call", why)
        return CallPlanned(at, act.hook_id, call_body(subject.plan, subject.entry, subject.values))
