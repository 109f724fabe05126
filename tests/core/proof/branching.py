"""Small questionnaires with much branching and computing, made by chance."""

from random import Random
from typing import Any

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.publishing.faults import faults
from tests.documents import finish, item, options, page, questionnaire, words

DAYS = ("2026-11-24", "2026-11-25", "2026-11-26")
TEXTS = ("own", "mains", "Something")
ELSES = ("Something else",)
MAILS = ("ada@example.org", "bran@example.com")
CLOCKS = ("09:00", "09:01", "12:00")
MOMENTS = ("2026-11-24T09:00", "2026-11-25T12:00", "2026-11-26T09:01")


class Maker:
    """Makes one questionnaire; `earlier` are the items that a condition may name by now, and
    `computes` how often values are computed and asked about."""

    def __init__(self, dice: Random, computes: float) -> None:
        self.dice = dice
        self.computes = computes
        self.earlier: list[dict[str, Any]] = []
        self.number = 0

    def maybe(self, chance: float) -> bool:
        return self.dice.random() < chance

    def leaf(self, known: list[dict[str, Any]]) -> dict[str, Any]:
        computed = [one for one in known if one["kind"] == "computed"]
        asked_about = computed if computed and self.maybe(self.computes) else known
        one = self.dice.choice(asked_about)
        key, kind = one["key"], one["kind"]
        if self.maybe(0.12):
            return {"op": self.dice.choice(["answered", "unanswered"]), "item": key}
        if kind == "yes_no":
            return {"op": self.dice.choice(["is", "is_not"]), "item": key, "value": self.maybe(0.5)}
        if kind == "roster":
            return self.of_entries(one)
        if kind in ("pick_one", "carried"):
            codes = [option["code"] for option in one["options"]]
            if self.maybe(0.25):
                picked = self.dice.sample(codes, min(2, len(codes)))
                return {"op": "one_of", "item": key, "values": picked}
            op = self.dice.choice(["is", "is", "is_not"])
            return {"op": op, "item": key, "value": self.dice.choice(codes)}
        if kind == "pick_many":
            codes = [option["code"] for option in one["options"]]
            if self.maybe(0.4):
                op = self.dice.choice(["includes_all", "one_of"])
                return {"op": op, "item": key, "values": self.dice.sample(codes, 2)}
            return {"op": "includes", "item": key, "value": self.dice.choice(codes)}
        if kind == "short_text":
            op = self.dice.choice(["is", "is_not"])
            return {"op": op, "item": key, "value": self.dice.choice(TEXTS[:2])}
        if kind == "computed" and one["formula"]["do"] == "first":
            written = self.find(one["formula"]["of"][0])["kind"] == "short_text"
            value = self.dice.choice(TEXTS[:2] if written else "abc")
            return {"op": self.dice.choice(["is", "is_not"]), "item": key, "value": value}
        return self.ordered(key, DAYS if kind == "date" else ["-1", "1", "1.5", "2", "4"])

    def find(self, key: str) -> dict[str, Any]:
        return next(one for one in self.earlier if one["key"] == key)

    def some(self, *kinds: str) -> list[str]:
        """Keys of up to three earlier items of these kinds."""
        found = [one["key"] for one in self.earlier if one["kind"] in kinds]
        return self.dice.sample(found, min(len(found), self.dice.randint(1, 3)))

    def computed(self) -> dict[str, Any] | None:
        do = self.dice.choice(["score", "score", "count", "sum", "difference", "first"])
        formula: dict[str, Any] = {"do": do}
        if do == "score":
            keys = self.some("yes_no", "pick_one", "pick_many", "scale", "carried")
            formula["points"] = {key: self.points(self.find(key)) for key in keys}
        elif do == "count":
            formula["of"] = keys = self.some("yes_no", "pick_many", "short_text", "number", "date")
        elif do == "sum":
            keys = self.some("number", "scale", "computed")
            inexact = [key for key in keys if self.does(key) in ("first", "difference")]
            formula["of"] = keys = [key for key in keys if key not in inexact]
        elif do == "first":
            formula["of"] = keys = self.some(
                *self.dice.choice([("pick_one", "carried"), ("short_text",)])
            )
        else:
            keys = self.some("date")[:1]
            edges = [*keys, "today"] if self.maybe(0.5) else ["today", *keys]
            formula |= {"since": edges[0], "until": edges[-1]}
        if not keys:
            return None
        self.number += 1
        return item("computed", f"q{self.number}", shown_when=self.when(0.2), formula=formula)

    def does(self, key: str) -> str:
        found: str = self.find(key).get("formula", {}).get("do", "")
        return found

    def points(self, one: dict[str, Any]) -> dict[str, str]:
        codes = {"yes_no": ["yes", "no"], "scale": ["0", "1", "2", "3"]}
        names = codes.get(one["kind"]) or [option["code"] for option in one["options"]]
        some = self.dice.sample(names, self.dice.randint(1, len(names)))
        return {name: self.dice.choice(["-1", "1", "2", "2", "0.5"]) for name in some}

    def ordered(self, key: str, operands: Any) -> dict[str, Any]:
        if self.maybe(0.25):
            low, high = (self.dice.choice(operands) for _ in range(2))
            return {"op": "between", "item": key, "low": low, "high": high}
        ops = ["is", "is_not", "at_least", "at_most", "more_than", "less_than"]
        return {"op": self.dice.choice(ops), "item": key, "value": self.dice.choice(operands)}

    def of_entries(self, one: dict[str, Any]) -> dict[str, Any]:
        where = self.condition(one["items"], 1)
        op = self.dice.choice(["any_entry", "every_entry", "entry_count"])
        found = {"op": op, "item": one["key"], "where": where}
        if op == "entry_count":
            if self.maybe(0.5):
                found["where"] = None
            found[self.dice.choice(["at_least", "at_most"])] = self.dice.randint(0, 3)
        return found

    def condition(self, known: list[dict[str, Any]], depth: int = 2) -> dict[str, Any]:
        chance = self.dice.random()
        if depth == 0 or chance < 0.5:
            return self.leaf(known)
        if chance < 0.65:
            return {"op": "not", "part": self.condition(known, depth - 1)}
        parts = [self.condition(known, depth - 1) for _ in range(self.dice.randint(2, 3))]
        return {"op": self.dice.choice(["all", "any"]), "parts": parts}

    def when(self, chance: float) -> dict[str, Any] | None:
        return self.condition(self.earlier) if self.earlier and self.maybe(chance) else None

    def asked(self, inside: bool = False) -> dict[str, Any]:
        self.number += 1
        key = f"q{self.number}"
        kinds = ["yes_no", "pick_one", "number", "scale", "pick_many", "date", "short_text"]
        kind = self.dice.choice(
            kinds[:3] if inside else [*kinds, "pick_one", "yes_no", "roster", "pick_many"]
        )
        more: dict[str, Any] = {"required": self.maybe(0.5)}
        if not more["required"] and not inside:
            more["required_when"] = self.when(0.3)
        if kind in ("pick_one", "pick_many"):
            more["options"] = options(*"abc"[: self.dice.randint(2, 3)])
            for one in more["options"]:
                one["shown_when"] = None if inside else self.when(0.15)
        if kind == "pick_many":
            more["options"][-1]["alone"] = self.maybe(0.3)
            more["fewest"] = self.dice.choice([None, None, 1, 2])
            more["most"] = self.dice.choice([None, 1, 2])
        if kind == "number":
            high = self.dice.choice([0, 1, 2, 3, 5])
            more["at_least"], more["at_most"] = "0", str(high)
            if self.maybe(0.05):
                more["at_least"], more["at_most"] = "0.2", "0.8"
        if kind == "scale":
            more["low"], more["high"] = self.dice.choice([(0, 2), (1, 3)])
        if kind == "date":
            more["earliest"], more["latest"] = DAYS[0], DAYS[2]
        if kind == "roster":
            more["items"] = [self.asked(inside=True)]
            more["fewest"], more["most"] = self.dice.choice([(0, 1), (0, 2), (1, 2), (2, 2)])
        return item(kind, key, shown_when=None if inside else self.when(0.4), **more)

    def page(self, number: int, pages: int) -> dict[str, Any]:
        shown = self.when(0.4) if number else None
        items = []
        for _ in range(self.dice.randint(1, 2 if pages > 2 else 3)):
            items.append(self.asked())
            self.earlier.append(items[-1])
        value = self.computed() if self.computes and self.maybe(self.computes) else None
        if value is not None:
            items.append(value)
            self.earlier.append(value)
        made = page(f"p{number}", *items, shown_when=shown)
        made["skips"] = [self.skip(number, pages) for _ in range(self.dice.randint(0, 2))]
        made["checks"] = self.checks(items)
        return made

    def checks(self, items: list[dict[str, Any]]) -> list[dict[str, Any]]:
        numbers = [one["key"] for one in items if one["kind"] in ("number", "scale", "pick_many")]
        return [self.check(self.dice.choice(numbers))] if numbers and self.maybe(0.3) else []

    def skip(self, number: int, pages: int) -> dict[str, Any]:
        to = {"kind": "finish", "finish": self.dice.choice("xyz")}
        if number + 1 < pages and self.maybe(0.5):
            to = {"kind": "page", "page": f"p{self.dice.randint(number + 1, pages - 1)}"}
        return {"when": self.condition(self.earlier), "to": to}

    def check(self, key: str) -> dict[str, Any]:
        relation = self.dice.choice(["is", "is_not", "at_least", "at_most", "more_than"])
        number = str(self.dice.randint(0, 3))
        message = words("Look again.")
        found = {"left": key, "relation": relation, "number": number, "message": message}
        return {**found, "when": self.when(0.4)}

    def whole(self) -> Questionnaire:
        pages = self.dice.randint(2, 4)
        carried = item("carried", "route", options=options("a", "b"))
        if self.maybe(0.4):
            self.earlier.append(carried)
        made = [self.page(number, pages) for number in range(pages)]
        made[0]["items"] += [carried] if carried in self.earlier else []
        return questionnaire(*made, finishes=tuple(finish(key) for key in "xyz"))


def branching(seed: int, computes: float = 0.35) -> Questionnaire:
    """A small questionnaire that could be published; the same seed gives the same one."""
    dice = Random(seed)
    while True:
        made = Maker(dice, computes).whole()
        if not faults(made):
            return made
