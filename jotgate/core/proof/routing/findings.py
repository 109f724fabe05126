"""What is wrong with dispatch rules, in plain words, each with repairs.

Only what is proved is a finding. What could not be decided is told apart.
"""

from collections.abc import Iterator
from itertools import groupby

from jotgate.core.conditions.condition import AllOf, Answered, named
from jotgate.core.dispatch.acts import FileRow
from jotgate.core.dispatch.rules import OTHERWISE, Rule
from jotgate.core.dispatch.scope import Scope
from jotgate.core.entries.facts import NAMES
from jotgate.core.items import with_inside
from jotgate.core.items.staff_names import staff_name
from jotgate.core.proof.asking import Encoding, Goal
from jotgate.core.proof.findings import Finding, Level
from jotgate.core.proof.repairs import Repair
from jotgate.core.proof.routing.encoding import Routing, is_option, place_of_option
from jotgate.core.proof.routing.repairs import RuleRepairs
from jotgate.core.proof.routing.taken import Taken, place_of
from jotgate.core.proof.search import Found, Prover

MOST_RULES_OFFERED = 5
"""Rules that are offered for options which lead to none."""


class RoutingFindings:
    def __init__(
        self,
        routing: Routing,
        scope: Scope,
        encoding: Encoding,
        prover: Prover,
        found: Found,
    ) -> None:
        self._routing, self._scope, self._found = routing, scope, found
        self._encoding, self._prover = encoding, prover
        self._repairs = RuleRepairs(routing.dispatch)
        each = with_inside(tuple(routing.plan.questionnaire.items()))
        self._items = {one.key: one for one in each}

    def never(self, goal: str, at: str) -> bool:
        return self._found.verdicts.get((goal, at)) == "never"

    def happens(self, goal: str, at: str) -> bool:
        return self._found.verdicts.get((goal, at)) == "happens"

    def all(self) -> Iterator[Finding]:
        """Everything that was found out, in the order of the rules."""
        for rule in self._routing.dispatch.rules:
            if not rule.off:
                yield from self._rule(rule)
        yield from self._options()
        yield from self._rest()
        yield from self._lacking()

    def _rule(self, rule: Rule) -> Iterator[Finding]:
        at = place_of(rule.key)
        name = self._repairs.name(rule.key)
        delete = self._repairs.without(rule.key)
        when = self._routing.conditions[rule.key]
        if self.never("holds", at):
            if when is not None and "entry.edition" in named(when):
                return
            says = f"No entry can come that {name} holds for."
            yield Finding("never", "wrong", at, says, (), (delete,))
        elif rule.catches and self.never("acts", at):
            before = self._catching_before(rule)
            by = self._taking_all(rule, before)
            names = self._repairs.name(by) if by else "the rules before it together"
            catch = "catches" if by else "catch"
            says = f"{self._repairs.title(rule.key)} never acts: {names} {catch} all of it."
            repairs = (self._repairs.before(rule.key, by), delete) if by else (delete,)
            yield Finding("shadowed", "wrong", at, says, (place_of(by),) if by else (), repairs)

    def _catching_before(self, rule: Rule) -> list[str]:
        rules = self._routing.dispatch.rules
        before = rules[: rules.index(rule)]
        return [one.key for one in before if one.catches and not one.off]

    def _taking_all(self, rule: Rule, before: list[str]) -> str:
        """The first rule that by itself leaves nothing to this one; "" where only several do."""
        goals = self._encoding.goals
        own = goals["holds", place_of(rule.key)]
        for other in before:
            if self._prover.solve([own, -goals["holds", place_of(other)]]) is False:
                return other
        return ""

    def _options(self) -> Iterator[Finding]:
        """Options that lead to no rule, where rules tell entries apart by the others."""
        for key, asked in groupby(self._routing.told_apart, key=lambda one: one[0]):
            left = [code for _, code in asked if self._is_left(key, code)]
            if not left:
                continue
            labels = {code: self._label(key, code) for code in left}
            says = f"{self._say(key)}: {', '.join(labels.values())} leads to no rule of its own."
            offered = tuple(
                self._repairs.new_rule(f"Add a rule for {label}", is_option(key, code))
                for code, label in list(labels.items())[:MOST_RULES_OFFERED]
            )
            example = self._found.witness[_comes(key, left[0])]
            level: Level = "advice" if self._routing.dispatch.otherwise else "wrong"
            yield Finding("no_rule", level, "rules", says, (), offered, example)

    def _is_left(self, key: str, code: str) -> bool:
        at = place_of_option(key, code)
        return self.happens("comes", at) and self.never("caught", at)

    def _rest(self) -> Iterator[Finding]:
        """Entries that no rule catches, or does anything with."""
        dispatch = self._routing.dispatch
        acting = [rule for rule in dispatch.rules if not rule.off]
        if dispatch.otherwise or not acting:
            return
        catches = any(rule.catches for rule in acting)
        goal: Goal = ("acts", OTHERWISE) if catches else ("nothing", "rules")
        if not self.happens(*goal) or self._is_told(goal):
            return
        says = "Entries can come that no rule catches."
        if self.happens("nothing", "rules"):
            goal = ("nothing", "rules")
            says = "Entries can come that nothing is done with."
        repair = self._repairs.new_rule("Add a rule for all the others", None)
        example = self._found.witness[goal]
        yield Finding("uncaught", "wrong", OTHERWISE, says, (), (repair,), example)

    def _is_told(self, goal: Goal) -> bool:
        """Whether all that `goal` happens with has an option of which it is told already."""
        goals = self._encoding.goals
        left = [
            goals["comes", place_of_option(key, code)]
            for key, code in self._routing.told_apart
            if self._is_left(key, code)
        ]
        return self._prover.solve([goals[goal], *(-one for one in left)]) is False

    def _lacking(self) -> Iterator[Finding]:
        """What acts always lack, or lack of some entries: of all their columns, of a letter, or of
        its address. Columns that several acts leave empty in some rows are told of once."""
        alike: dict[str, list[Taken]] = {}
        for _, group in groupby(self._routing.taken, key=lambda one: (one.at, one.into)):
            some = [one for one in group if self.happens("acts", place_of(one.rule))]
            always = [one for one in some if self.never("filled", one.place)]
            for one in always:
                yield Finding("always_empty", "wrong", one.at, *self._always(one))
            left = [one for one in some if one not in always and self.happens("empty", one.place)]
            if left and left[0].into == "column":
                alike.setdefault(self._columns(left), []).append(left[0])
            elif left:
                says, repairs = self._sometimes(left)
                example = self._found.witness["empty", left[0].place]
                yield Finding("sometimes_empty", "advice", left[0].at, says, (), repairs, example)
        for columns, each in alike.items():
            yield self._empty_columns(columns, each)

    def _always(self, one: Taken) -> tuple[str, tuple[str, ...], tuple[Repair, ...]]:
        name, rule = self._say(one.name), self._repairs.name(one.rule)
        who = "no entry that is left" if one.rule == OTHERWISE else f"no entry of {rule}"
        if one.into == "address":
            return f"No letter is ever sent: {who} has {name}.", (), ()
        if one.into == "letter":
            repair = self._repairs.with_words([one])
            return f"The letter never says {name}: {who} has one.", (), (repair,)
        label = self._column(one)
        repair = self._repairs.without_column(one.rule, one.position, one.to, label)
        return f"The column {label} stays empty: {who} has {name}.", (), (repair,)

    def _sometimes(self, some: list[Taken]) -> tuple[str, tuple[Repair, ...]]:
        names = ", ".join(dict.fromkeys(self._say(one.name) for one in some))
        if some[0].into == "address":
            says = f"No letter goes to those of whom there is no {names}."
            return says, tuple(self._only_where(some[0]))
        return f"Some letters lack {names}.", (self._repairs.with_words(some),)

    def _columns(self, some: list[Taken]) -> str:
        return ", ".join(dict.fromkeys(self._column(one) for one in some))

    def _empty_columns(self, columns: str, each: list[Taken]) -> Finding:
        rules = list(dict.fromkeys(self._repairs.name(one.rule) for one in each))
        of = f" of {', '.join(rules)}" if len(rules) > 1 else ""
        at = each[0].at if len(each) == 1 else "rules"
        example = self._found.witness["empty", each[0].place]
        says = f"Some rows{of} have nothing in {columns}."
        return Finding("sometimes_empty", "advice", at, says, (), (), example)

    def _only_where(self, one: Taken) -> Iterator[Repair]:
        """A rule that does nothing else held only where there is an address."""
        if one.rule == OTHERWISE or len(self._repairs.acts(one.rule)) > 1:
            return
        rules = self._routing.dispatch.rules
        before = next(rule.when for rule in rules if rule.key == one.rule)
        has = Answered(op="answered", item=one.name)
        when = has if before is None else AllOf(op="all", parts=(before, has))
        if one.name in self._scope.items:
            says = f"Hold only where there is {self._say(one.name)}"
            yield self._repairs.with_condition(says, one.rule, when)

    def _column(self, one: Taken) -> str:
        act = self._repairs.acts(one.rule)[one.position]
        register = isinstance(act, FileRow) and self._scope.known.registers.get(act.register_id)
        columns = register.columns if register else ()
        return next((column.label for column in columns if column.key == one.to), one.to)

    def _say(self, name: str) -> str:
        """What staff read for an item or a fact."""
        if name in NAMES:
            return NAMES[name]
        key, _, part = name.partition(".")
        item = self._items.get(name) or self._items.get(key)
        if item is None:
            return f"{_WHOSE.get(key, key)} {part.replace('_', ' ')}"
        return staff_name(item, self._scope.first)

    def _label(self, key: str, code: str) -> str:
        options = getattr(self._scope.items.get(key), "options", ())
        found = next((one.label.get(self._scope.first) for one in options if one.code == code), "")
        return found or code


_WHOSE = {"contact": "the contact's", "claim": "the signed-in visitor's"}


def _comes(key: str, code: str) -> Goal:
    return "comes", place_of_option(key, code)
