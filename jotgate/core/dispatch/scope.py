"""What dispatch rules of a questionnaire can name, and what may not leave through them."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace

from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import ENTRY_SLOTS
from jotgate.core.conditions.saved import expanded
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.texts import FORMS, slots_in
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.document.restriction import FINISH, restrictions
from jotgate.core.entries.facts import fact_items
from jotgate.core.items import Item, inside, is_valued
from jotgate.core.publishing.condition_faults import VISITOR
from jotgate.core.walking.given import names_of

Kept = Mapping[str, frozenset[str]]
"""Key of what is restricted -> the restricted items that it depends on."""


@dataclass(frozen=True)
class Scope:
    """`items` are questions, carried and computed values by key and facts by name."""

    questionnaire: Questionnaire
    items: Mapping[str, Item]
    kept: Kept
    known: Known

    @property
    def first(self) -> str:
        return self.questionnaire.first_language

    def within(self, roster: Item) -> "Scope":
        """With what an entry of a roster can name beside all of that."""
        own = {one.key: one for one in inside(roster)}
        causes = self.kept.get(roster.key)
        kept = {**self.kept, **dict.fromkeys(own, causes)} if causes else self.kept
        return replace(self, items={**self.items, **own}, kept=kept)

    def item(self, name: str) -> Item | None:
        """What `name` means as a whole; None for a part of an answer, or a fact of the visitor."""
        return self.items.get(name)

    def faults_of(self, name: str, at: str) -> Iterator[Fault]:
        """What is wrong with naming `name` where something goes out."""
        item = self.items.get(name)
        key = name if item is not None else name.partition(".")[0]
        whole = self.items.get(key)
        is_there = item is not None or (whole is not None and name in names_of(whole))
        if not is_there and not VISITOR.fullmatch(name):
            message = f"There is no question or value {name} in the published edition."
            yield Fault(code="no_item", at=at, message=message)
            return
        yield from self.restricted(key, at)

    def restricted(self, name: str, at: str) -> Iterator[Fault]:
        """That what a rule names needs clearance."""
        if name in self.kept:
            because = sorted(self.kept[name] - {name})
            since = f", since it depends on {' and '.join(because)}" if because else ""
            message = f"{name} is restricted{since}. It cannot decide or leave through a rule."
            yield Fault(code="restricted", at=at, message=message)

    def faults_in_text(self, text: str, at: str, name: str) -> Iterator[Fault]:
        """What is wrong with the slots of a text that is called `name`."""
        for slot in slots_in(text):
            if slot.name not in ENTRY_SLOTS:
                yield from self.faults_of(slot.name, at)
            if slot.form and slot.form not in FORMS:
                message = f"{name} has a slot in the form {slot.form}, which there is not."
                yield Fault(code="no_form", at=at, message=message)


def scope_of(questionnaire: Questionnaire, known: Known) -> Scope:
    items = {item.key: item for item in questionnaire.items() if is_valued(item)}
    found = restrictions(expanded(questionnaire, questionnaire.saved))
    kept = dict(found.items)
    if found.finish:
        kept[f"entry.{FINISH}"] = found.finish
    facts = fact_items(questionnaire, known.around)
    return Scope(questionnaire, {**items, **facts}, kept, known)
