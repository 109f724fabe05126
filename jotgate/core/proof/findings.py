"""What is wrong with the branching, in plain words, with the rules at fault and repairs.

Only what is proved is a finding. What could not be decided is told apart.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from jotgate.core.conditions.condition import leaves, operands
from jotgate.core.document.questionnaire import Page, Questionnaire
from jotgate.core.items import Item, PickOne
from jotgate.core.proof.asking import Goal
from jotgate.core.proof.places import Places
from jotgate.core.proof.repairs import Repair, Repairs
from jotgate.core.proof.search import Found
from jotgate.core.proof.subjects import Placed, conditions_of
from jotgate.core.proof.why import Explainer

Level = Literal["wrong", "advice"]


@dataclass(frozen=True)
class Finding:
    """`at` is the place that it is about, `because` the places of the statements that together
    bring it about; `example` is the number of a run in which it happens."""

    code: str
    level: Level
    at: str
    says: str
    because: tuple[str, ...] = ()
    repairs: tuple[Repair, ...] = ()
    example: int | None = None


MOST_EXPLAINED = 40
"""Findings for which the rules at fault are looked for."""


def findings(
    written: Questionnaire, said: Questionnaire, found: Found, why: Explainer
) -> list[Finding]:
    """Everything that was found out, in reading order.

    `written` is the questionnaire as it is edited, `said` with its saved conditions put in.
    """
    return list(_Comparison(written, said, found, why).all())


class _Comparison:
    def __init__(
        self, written: Questionnaire, said: Questionnaire, found: Found, why: Explainer
    ) -> None:
        self.said, self.found, self._why = said, found, why
        self.places = Places(written)
        self.repairs = Repairs(self.places)
        self._explained = 0

    def never(self, goal: str, at: str) -> bool:
        return self.found.verdicts.get((goal, at)) == "never"

    def happens(self, goal: str, at: str) -> bool:
        return self.found.verdicts.get((goal, at)) == "happens"

    def why(self, goal: Goal, but: str = "") -> tuple[str, ...]:
        """The places of what keeps `goal` from happening, but for the one that it is about."""
        self._explained += 1
        if self._explained > MOST_EXPLAINED:
            return ()
        return tuple(at for at in self._why.never(goal) if at != but)

    def all(self) -> Iterator[Finding]:
        placed: dict[str, list[Placed]] = {}
        for one in conditions_of(self.said):
            placed.setdefault(one.page, []).append(one)
        for number, page in enumerate(self.said.pages):
            at = f"pages/{page.key}"
            if self.never("page", at):
                yield self._no_page(at, page)
                continue
            yield from self._page(at, page)
            for one in placed.get(page.key, []):
                yield from self._condition(one)
            for position, _ in enumerate(page.skips, start=1):
                yield from self._skip(f"{at}/skips/{position}", page, position, number)
            yield from self._options(at, page)
        for finish in self.said.finishes:
            yield from self._finish(finish.key)

    def _no_page(self, at: str, page: Page) -> Finding:
        name = self.places.name(at)
        if page.shown_when is not None and not self.never("false", at):
            says = f"Nobody is shown {name}: its condition never holds for those who get there."
            repair = self.repairs.without_condition(at, "Show the page to all who get there")
            return Finding("page_never", "wrong", at, says, self.why(("page", at), at), (repair,))
        says = f"Nobody reaches {name}: every way leads past it."
        because = self.why(("page", at))
        rules = tuple(self.repairs.without(one) for one in because if "/skips/" in one)
        return Finding("page_never", "wrong", at, says, because, rules)

    def _page(self, at: str, page: Page) -> Iterator[Finding]:
        name = self.places.name(at)
        if self.happens("empty", at) and page.items:
            says = f"Somebody can come to {name} and find nothing on it."
            repairs = tuple(self.repairs.unless_empty(at))
            example = self.found.witness["empty", at]
            yield Finding("page_empty", "wrong", at, says, (), repairs, example)
        for item in page.items:
            yield from self._item(f"{at}/items/{item.key}", item)
        if self.never("left", at):
            says = f"Nobody gets past {name}: what has to be answered there cannot all be right."
            because = self.why(("left", at))
            checks = [one.removesuffix("/broken") for one in because if one.endswith("/broken")]
            repairs = tuple(self.repairs.without(one) for one in checks)
            yield Finding("page_stuck", "wrong", at, says, because, repairs)

    def _item(self, at: str, item: Item) -> Iterator[Finding]:
        if self.happens("stuck", at):
            always = self.never("met", at)
            who = "Nobody" if always else "Not everybody"
            says = f"{who} can answer {self.places.item(item.key)}, and it is required."
            example = self.found.witness["stuck", at]
            because = self.why(("met", at)) if always else ()
            repair = (self.repairs.optional(at),)
            yield Finding("cannot_answer", "wrong", at, says, because, repair, example)

    def _condition(self, placed: Placed) -> Iterator[Finding]:
        """Never or always true, of all but skip rules and the pages that nobody reaches."""
        at, name = placed.at, self.places.name(placed.at)
        if "/skips/" in at:
            return
        if self.never("true", at) and not self.never("false", at):
            empty = self._why.while_empty(at) if "/items/" in at else ()
            if empty:
                yield self._while_empty(at, name, empty)
                return
            kind = "condition_never"
            says = f"The condition of {name} never holds: it is not shown to anybody."
            repair = self.repairs.without_condition(at, "Remove the condition")
            if at.endswith("/required"):
                says = f"The condition of {name} never holds: it is never required."
            if "/checks/" in at:
                says = f"The condition of {name} never holds: nothing is checked."
            because = self.why(("true", at), at)
            yield Finding(kind, "wrong", at, says, because, (repair,))
        elif self.never("false", at) and not self.never("true", at):
            says = f"The condition of {name} always holds, so it decides nothing."
            repair = self.repairs.without_condition(at, "Remove the condition")
            because = self.why(("false", at), at)
            yield Finding("condition_always", "advice", at, says, because, (repair,))

    def _while_empty(self, at: str, name: str, empty: tuple[str, ...]) -> Finding:
        names = " and ".join(map(self.places.item, empty))
        says = (
            f"The condition of {name} holds only while {names} has no answer yet. That is required "
            f"on the same page, so no entry comes with it."
        )
        repair = self.repairs.without_condition(at, "Remove the condition")
        return Finding("condition_while_empty", "advice", at, says, (), (repair,))

    def _skip(self, at: str, page: Page, position: int, number: int) -> Iterator[Finding]:
        if self.never("left", f"pages/{page.key}"):
            return
        name = self.places.name(at)
        name = name[0].upper() + name[1:]
        delete = self.repairs.without(at)
        if self.never("matches", at):
            says = f"{name} never applies: its condition never holds there."
            yield Finding("rule_never", "wrong", at, says, self.why(("matches", at), at), (delete,))
        elif self.never("fires", at):
            because = self.why(("fires", at), at)
            says = f"{name} never applies: the rules before it take every case."
            first = [one for one in because if one.startswith(f"pages/{page.key}/skips/")]
            moved = tuple(self.repairs.before(at, one) for one in first[:1])
            yield Finding("rule_shadowed", "wrong", at, says, because, (*moved, delete))
        elif self._idle(page, position, number):
            says = f"{name} leads where the walk goes anyway."
            yield Finding("rule_idle", "advice", at, says, (), (delete,))
        elif self.never("false", at):
            says = f"{name} always applies: nobody goes on behind it."
            because = self.why(("false", at), at)
            yield Finding("rule_always", "advice", at, says, because)

    def _idle(self, page: Page, position: int, number: int) -> bool:
        """Whether the rule, the last of its page, leads where nobody needs a rule to get to."""
        to = page.skips[position - 1].to
        if position < len(page.skips):
            return False
        if to.kind == "page":
            return number + 1 < len(self.said.pages) and to.page == self.said.pages[number + 1].key
        return number + 1 == len(self.said.pages) and to.finish == self.said.finishes[0].key

    def _options(self, at: str, page: Page) -> Iterator[Finding]:
        """Options that no rule names, beside others that some rule does."""
        for item in page.items:
            if not isinstance(item, PickOne) or not item.options:
                continue
            named = self._routed.get(item.key, set())
            left = [one for one in item.options if one.code not in named]
            if named and len(left) > 1:
                labels = ", ".join(self.places.said(one.label) or one.code for one in left)
                says = f"These options of {self.places.item(item.key)} lead the same way: {labels}."
                where = f"{at}/items/{item.key}"
                yield Finding("options_same", "advice", where, says)

    @cached_property
    def _routed(self) -> dict[str, set[str]]:
        """The codes of each item that skip rules name."""
        found: dict[str, set[str]] = {}
        skips = (skip for page in self.said.pages for skip in page.skips)
        for leaf in (leaf for skip in skips for leaf in leaves(skip.when)):
            if leaf.op != "saved":
                found.setdefault(leaf.item, set()).update(str(one) for one in operands(leaf))
        return found

    def _finish(self, key: str) -> Iterator[Finding]:
        at = f"finishes/{key}"
        if not self.never("finish", at):
            return
        led = self.repairs.leads_to(key)
        name = self.places.name(at)
        says = f"Nobody ends at {name}: no rule leads to it."
        if led or key == self.said.finishes[0].key:
            says = f"Nobody ends at {name}: no walk comes to it."
        spare = not led and key != self.said.finishes[0].key
        repairs = (self.repairs.without(at),) if spare else ()
        because = self.why(("finish", at)) if not spare else ()
        yield Finding("finish_never", "wrong", at, says, because, repairs)
