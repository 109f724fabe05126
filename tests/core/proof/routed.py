"""Small questionnaires with dispatch rules, made by chance, and all that their rules can do: found
by giving every answer and every fact there is to the evaluator, without any of the proof's own
code."""

from collections.abc import Iterator, Mapping
from decimal import Decimal
from itertools import product
from random import Random
from typing import Any
from uuid import UUID

from jotgate.core.answers.behind import carried_value
from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import holds
from jotgate.core.conditions.saved import in_full
from jotgate.core.dispatch.faults import problems
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.scope import scope_of
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.facts import Around, fact_items
from jotgate.core.proof.routing import Routing
from jotgate.core.publishing.faults import faults
from jotgate.core.registers.columns import Column, Register
from jotgate.core.walking.path import Walk
from jotgate.core.walking.plan import compile_plan
from tests.core.proof.branching import Maker
from tests.core.proof.enumerated import walks
from tests.documents import TODAY

EDITION = 2
REGISTER = UUID(int=1)
COLUMNS = tuple(Column(key=key, label=key.upper(), type="long_text") for key in "abc")
LINKS = {str(UUID(int=5)): "Poster", str(UUID(int=6)): "Letter"}
KNOWN = Known(
    registers={REGISTER: Register(id=REGISTER, name="R", columns=COLUMNS)},
    around=Around(LINKS, {"first": "New", "going": "Going", "done": "Done"}),
)
FACTS: Mapping[str, tuple[Any, ...]] = {
    "entry.finish": ("x", "y", "z"),
    "entry.language": ("en", "es"),
    "entry.link": (None, *LINKS),
    "entry.status": ("first", "going", "done"),
    "entry.weekday": ("mon", "sat", "sun"),
    "entry.corrected": (True, False),
    "entry.edition": (Decimal(EDITION),),
}
"""By name what a fact can be; None where an entry may lack it. Rules are made with two of the days;
a third stands for all others."""

Goals = set[tuple[str, str]]


class Router:
    """Makes rules for one questionnaire."""

    def __init__(self, dice: Random, maker: Maker) -> None:
        self.dice, self.maker = dice, maker
        self.facts = dice.sample(sorted(FACTS), 2)

    def leaf(self) -> dict[str, Any]:
        if self.maker.earlier and self.dice.random() < 0.7:
            return self.maker.leaf(self.maker.earlier)
        name = self.dice.choice(self.facts)
        values = [one for one in FACTS[name] if one not in (None, "sun")]
        if self.dice.random() < 0.2:
            return {"op": self.dice.choice(["answered", "unanswered"]), "item": name}
        value = self.dice.choice([EDITION, 1] if name == "entry.edition" else values)
        value = str(value) if name == "entry.edition" else value
        return {"op": self.dice.choice(["is", "is", "is_not"]), "item": name, "value": value}

    def condition(self, depth: int = 2) -> dict[str, Any]:
        chance = self.dice.random()
        if depth == 0 or chance < 0.55:
            return self.leaf()
        if chance < 0.65:
            return {"op": "not", "part": self.condition(depth - 1)}
        parts = [self.condition(depth - 1) for _ in range(2)]
        return {"op": self.dice.choice(["all", "any"]), "parts": parts}

    def names(self) -> list[str]:
        asked = [one["key"] for one in self.maker.earlier if one["kind"] != "roster"]
        return self.dice.sample([*asked, *self.facts], min(2, len(asked) + 2))

    def act(self) -> dict[str, Any]:
        rosters = [one for one in self.maker.earlier if one["kind"] == "roster"]
        if rosters and self.dice.random() < 0.4:
            roster = self.dice.choice(rosters)
            inner = roster["items"][0]["key"]
            columns = {"a": {"kind": "entry", "name": inner}}
            return self._file(columns, per=roster["key"])
        kind = self.dice.choice(["file", "file", "notice"])
        if kind == "file":
            names = self.names()
            columns = {
                key: {"kind": "composed", "text": f"({{{name}}})"}
                for key, name in zip("ab", names, strict=False)
            }
            return self._file(columns)
        first, *others = self.names()
        body = " ".join([f"{{{first}}}", *(f"{{{one}|none}}" for one in others)])
        to = {"kind": "address", "address": "a@example.org"}
        return {"kind": "notice", "to": to, "subject": {"en": "s"}, "body": {"en": body}}

    def _file(self, columns: dict[str, Any], **more: Any) -> dict[str, Any]:
        return {"kind": "file", "register_id": str(REGISTER), "columns": columns, **more}

    def rule(self, number: int) -> dict[str, Any]:
        when = None if self.dice.random() < 0.08 else self.condition()
        more = {"catches": self.dice.random() < 0.8, "off": self.dice.random() < 0.08}
        return {"key": f"r{number}", "when": when, "acts": [self.act()], **more}

    def whole(self) -> Dispatch:
        rules = [self.rule(number) for number in range(self.dice.randint(1, 4))]
        otherwise = [self.act()] if self.dice.random() < 0.4 else []
        return Dispatch.model_validate({"rules": rules, "otherwise": otherwise})


def with_sets(made: Questionnaire, dice: Random) -> Questionnaire:
    """`made`, some of whose finishes set what is carried."""
    carried = [item.key for item in made.items() if item.kind == "carried"]
    if not carried or dice.random() < 0.2:
        return made
    finish, *others = made.finishes
    setting = finish.model_copy(update={"sets": {carried[0]: dice.choice("ab")}})
    return made.model_copy(update={"finishes": (setting, *others)})


def routed(seed: int) -> Routing:
    """Rules that can be used for a small questionnaire; the same seed gives the same."""
    dice = Random(seed)
    while True:
        maker = Maker(dice, 0.2)
        made = with_sets(maker.whole(), dice)
        made = made.model_copy(update={"languages": ("en", "es")})
        if faults(made):
            continue
        plan = compile_plan(made)
        dispatch = Router(dice, maker).whole()
        if not problems(dispatch, scope_of(made, KNOWN)):
            return Routing(plan, EDITION, dispatch, fact_items(made, KNOWN.around))


def entries(routing: Routing, most: int) -> Iterator[Values]:
    """What rules may know of every entry there can be. Raises TooMany."""
    for whole in walks(routing.plan, most):
        if whole.stuck is None:
            yield from _with_facts(routing, whole)


def _with_facts(routing: Routing, whole: Walk) -> Iterator[Values]:
    said = routing.dispatch.model_dump_json()
    asked = [name for name in FACTS if name in said and name != "entry.finish"]
    kept = {key: one for key, one in whole.kept.items() if key in routing.plan.items}
    for key, raw in whole.finish.sets.items():
        item: Any = routing.plan.items[key]
        kept[key] = carried_value(item, raw)
    kept["entry.finish"] = whole.finish.key
    for values in product(*(FACTS[name] for name in asked)):
        facts = zip(asked, values, strict=True)
        yield {**kept, **{name: one for name, one in facts if one is not None}}


def happens(routing: Routing, values: Values) -> Goals:
    """What the rules do with one entry, by their words in the documentation."""
    found: Goals = set()
    saved = routing.plan.written.saved
    caught = False
    acting: list[tuple[str, Any]] = []
    for rule in routing.dispatch.rules:
        if rule.off:
            continue
        if rule.when is not None and not holds(in_full(rule.when, saved), values, TODAY):
            continue
        found.add(("holds", f"rules/{rule.key}"))
        if not rule.catches or not caught:
            acting.append((f"rules/{rule.key}", rule))
        caught = caught or rule.catches
    if not caught:
        if not acting:
            found.add(("nothing", "rules"))
        acting.append(("otherwise", None))
    for at, rule in acting:
        found.add(("acts", at))
        acts = rule.acts if rule else routing.dispatch.otherwise
        for position, act in enumerate(acts):
            found |= _taken(f"{at}/acts/{position}", act, values)
    for key, code in routing.told_apart:
        if values.get(key) == code:
            found.add(("comes", f"options/{key}/{code}"))
            if caught:
                found.add(("caught", f"options/{key}/{code}"))
    return found


def _taken(at: str, act: Any, values: Values) -> Goals:
    found: Goals = set()
    if act.kind == "notice":
        name = act.body["en"].partition("}")[0].removeprefix("{")
        found.add(("filled" if name in values else "empty", f"{at}/letter/body/{name}"))
        return found
    for key, source in act.columns.items():
        name = source.name if source.kind == "entry" else source.text[2:-2]
        entries: Any = values.get(act.per, ()) if act.per else (values,)
        for one in entries:
            is_there = name in one or name in values
            found.add(("filled" if is_there else "empty", f"{at}/column/{key}/{name}"))
    return found
