"""Dispatch rules as statements, on top of those of the walk: which entries there can be, and what
becomes of each."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property

from jotgate.core.answers.behind import carried_value
from jotgate.core.common.today import Today
from jotgate.core.conditions.condition import Answered, Compare, Condition, OneOf, leaves
from jotgate.core.conditions.saved import in_full
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch
from jotgate.core.entries.facts import CORRECTED
from jotgate.core.items import Carried, Computed, Item, PickOne
from jotgate.core.proof.answers import Answer, one_valued
from jotgate.core.proof.asking import Encoding
from jotgate.core.proof.cells import SAMPLES, Cell, Cells
from jotgate.core.proof.encoding import Encoder
from jotgate.core.proof.gates import FALSE, TRUE
from jotgate.core.proof.routing.taken import Taken, place_of, taken_by
from jotgate.core.proof.statements import statement
from jotgate.core.publishing.condition_faults import VISITOR
from jotgate.core.walking.plan import Plan

MOST_TAKEN = 2_000
"""What acts take of an entry that is looked at, of very many; the rest is not decided."""

SOME_FACT = SAMPLES[1]

Asked = tuple[str, str]
"""The key of an item and the code of one of its options."""


@dataclass(frozen=True)
class Routing:
    """Rules that can be used, for entries of an edition: `facts` are those of entries as items, by
    name."""

    plan: Plan
    edition: int
    dispatch: Dispatch
    facts: Mapping[str, Item]

    @cached_property
    def conditions(self) -> Mapping[str, Condition | None]:
        """The conditions of the rules that are not off, by key, in full."""
        saved = self.plan.written.saved
        return {
            rule.key: rule.when and in_full(rule.when, saved)
            for rule in self.dispatch.rules
            if not rule.off
        }

    @cached_property
    def all_taken(self) -> tuple[Taken, ...]:
        return tuple(taken_by(self.dispatch))

    @property
    def taken(self) -> tuple[Taken, ...]:
        """What of that is looked at."""
        return self.all_taken[:MOST_TAKEN]

    @cached_property
    def told_apart(self) -> tuple[Asked, ...]:
        """Every option of what rules that catch tell entries apart by: two options or more."""
        found: dict[str, set[str]] = {}
        for rule in self.dispatch.rules:
            if rule.catches and not rule.off:
                for leaf in leaves(self.conditions[rule.key]):
                    if isinstance(leaf, Compare) and leaf.op == "is":
                        found.setdefault(leaf.item, set()).add(str(leaf.value))
                    elif isinstance(leaf, OneOf) and leaf.op == "one_of":
                        found.setdefault(leaf.item, set()).update(map(str, leaf.values))
        items = {key: self.plan.items.get(key) for key, codes in found.items() if len(codes) > 1}
        return tuple(
            (key, option.code)
            for key, item in items.items()
            if isinstance(item, PickOne | Carried)
            for option in item.options
        )


def is_option(key: str, code: str) -> Condition:
    return Compare(op="is", item=key, value=code)


def place_of_option(key: str, code: str) -> str:
    return f"options/{key}/{code}"


def encode_routing(routing: Routing, today: Today) -> Encoding:
    encoder = _Encoder(routing, today)
    encoder.all()
    return encoder.made


class _Encoder(Encoder):
    def __init__(self, routing: Routing, today: Today) -> None:
        also = [when for when in routing.conditions.values() if when is not None]
        also += [is_option(key, code) for key, code in routing.told_apart]
        taken = {one.name for one in routing.taken}
        also += [
            Answered(op="answered", item=item.key)
            for item in routing.plan.questionnaire.items()
            if isinstance(item, Computed) and item.key in taken
        ]
        super().__init__(routing.plan, today, False, also)
        self.routing = routing

    def all(self) -> None:
        super().all()
        walks = dict(self.made.goals)
        self.made.goals.clear()
        finishes = {
            finish.key: walks["finish", f"finishes/{finish.key}"]
            for finish in self.plan.questionnaire.finishes
        }
        self.entry = self.gates.either(*finishes.values())
        self._facts(finishes)
        answers = {**self.made.answers, **self._set(finishes)}
        self._rules(answers)

    def _facts(self, finishes: Mapping[str, int]) -> None:
        """What is known of an entry beside its answers, into `made`."""
        named = {*self.subjects.leaves, *(one.name for one in self.routing.taken)}
        for name in sorted(named):
            item = self.routing.facts.get(name)
            if name in self.made.answers:
                continue
            if name == "entry.finish":
                cells = tuple((ends, Cell(key, key)) for key, ends in finishes.items())
                self.made.answers[name] = Answer(self.entry, self.entry, cells)
            elif item is not None:
                must = FALSE if name in MAY_LACK else TRUE
                found = one_valued(self.gates, self.entry, must, self._fact(name, item))
                self.made.answers[name] = found
            elif VISITOR.fullmatch(name):
                known = Cells((Cell(SOME_FACT, SOME_FACT),))
                self.made.answers[name] = one_valued(self.gates, self.entry, FALSE, known)

    def _fact(self, name: str, item: Item) -> Cells:
        if name == "entry.edition":
            number = Decimal(self.routing.edition)
            return Cells((Cell(str(number), number),))
        if name == "entry.arrived":
            return Cells((), open=True)
        if isinstance(item, PickOne):
            return Cells(tuple(Cell(one.code, one.code) for one in item.options))
        if name == CORRECTED:
            return Cells((Cell(True, True), Cell(False, False)))
        return self._cells(item.model_copy(update={"key": name}))

    def _set(self, finishes: Mapping[str, int]) -> dict[str, Answer]:
        """The carried values that finishes set, as entries have them."""
        sets: dict[str, list[tuple[int, Cell]]] = {}
        for finish in self.plan.questionnaire.finishes:
            for key, raw in finish.sets.items():
                item = self.plan.items[key]
                if isinstance(item, Carried):
                    cell = Cell(raw, carried_value(item, raw))
                    sets.setdefault(key, []).append((finishes[finish.key], cell))
        found = {}
        for key, cells in sets.items():
            is_set = self.gates.either(*(ends for ends, _ in cells))
            came = self.made.answers[key]
            before = [(self.gates.both(one, -is_set), cell) for one, cell in came.cells]
            answered = self.gates.either(is_set, self.gates.both(came.answered, -is_set))
            found[key] = replace(came, answered=answered, cells=(*before, *cells))
        return found

    def _rules(self, answers: Mapping[str, Answer]) -> None:
        goals, gates = self.made.goals, self.gates
        acting: dict[str, int] = {}
        free = self.entry
        for rule in self.routing.dispatch.rules:
            if rule.off:
                continue
            when = self.routing.conditions[rule.key]
            holds = gates.both(self.entry, statement(gates, when, answers, self.today))
            acts = gates.both(free, holds) if rule.catches else holds
            at = place_of(rule.key)
            goals["holds", at], goals["acts", at] = holds, acts
            acting[rule.key] = acts
            if rule.catches:
                free = gates.both(free, -holds)
        goals["acts", OTHERWISE] = acting[OTHERWISE] = free
        others = (-acts for key, acts in acting.items() if key != OTHERWISE)
        goals["nothing", "rules"] = gates.both(free, *others)
        for key, code in self.routing.told_apart:
            picks = statement(gates, is_option(key, code), answers, self.today)
            comes = gates.both(self.entry, picks)
            at = place_of_option(key, code)
            goals["comes", at] = comes
            goals["caught", at] = gates.both(comes, -free)
        for one in self.routing.taken:
            self._taken(one, acting[one.rule], answers)

    def _taken(self, one: Taken, acts: int, answers: Mapping[str, Answer]) -> None:
        gates = self.gates
        key = one.name if one.name in answers else one.name.partition(".")[0]
        if one.per and key not in answers:
            has, lacks = self._inside(one, answers)
        else:
            answer = answers.get(key)
            has = answer.answered if answer is not None else FALSE
            lacks = -has
            if key != one.name and has != FALSE:
                has = gates.maybe(has, ("part", one.name))
                lacks = -has
        goals = self.made.goals
        goals["empty", one.place] = gates.both(acts, lacks)
        goals["filled", one.place] = gates.both(acts, has)

    def _inside(self, one: Taken, answers: Mapping[str, Answer]) -> tuple[int, int]:
        """That some entry of the roster has an answer, and that some has none."""
        gates, roster = self.gates, answers[one.per]
        inner = [(entry.given, entry.answers.get(one.name)) for entry in roster.entries]
        has = [gates.both(given, a.answered) for given, a in inner if a is not None]
        lacks = [gates.both(given, -a.answered) for given, a in inner if a is not None]
        more = [gates.maybe(loose, ("inside", one.name)) for loose in roster.loose]
        some = roster.answered
        return (
            gates.both(some, gates.either(*has, *more)),
            gates.both(some, gates.either(*lacks, *more)),
        )


MAY_LACK = frozenset({"entry.link", "entry.entered"})
"""The facts that an entry may lack."""
