"""Small questionnaires with every kind, relation and operator that the model allows."""

from random import Random
from typing import Any

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.publishing.faults import faults
from tests.core.proof.branching import CLOCKS, DAYS, MAILS, TEXTS, Maker
from tests.documents import finish, item, options, questionnaire, words

MEASURES = {
    "number": "number",
    "scale": "number",
    "pick_many": "number",
    "rank": "number",
    "roster": "number",
    "file": "number",
    "date": "date",
    "time": "time",
    "date_time": "date_time",
    "yes_no": "yes_no",
    "name": "name",
    "address": "address",
    "pick_one": "text",
    "carried": "text",
    "short_text": "text",
    "long_text": "text",
    "email": "text",
    "phone": "text",
    "web_address": "text",
}
"""What of the answers of a kind a check compares; of the other kinds nothing."""

ALIKE = ("is", "is_not")
RELATIONS = (*ALIKE, "at_least", "at_most", "more_than", "less_than")
KINDS = (
    *("yes_no", "pick_one", "pick_one", "pick_many", "number", "scale", "date", "short_text"),
    *("time", "date_time", "long_text", "email", "phone", "web_address", "rank", "name"),
    *("address", "location", "file", "signature", "grid", "roster", "roster", "note"),
)
WRITTEN = {
    "fact": MAILS,
    "email": MAILS,
    "phone": ("+442079460000", "+442079460001"),
    "web_address": ("https://example.org/a", "https://example.org/b"),
}
CONSTANT: list[dict[str, Any]] = []
WAYS: tuple[dict[str, Any], ...] = (
    *({},) * 2,
    {"sources": CONSTANT},
    {"sources": [{"kind": "pass"}], "sealed": True},
    {"sources": [{"kind": "contact", "field": "key"}], "shown": "locked"},
    {"shown": "changeable"},
    {"shown": "changeable", "when_wrong": "ask"},
    {"when_wrong": "ask"},
    {"when_wrong": "refuse"},
)
FACT = {"kind": "fact", "key": "contact.email"}


class Wide(Maker):
    """As `Maker`, and all else that there is; `saved` are conditions under a name."""

    def __init__(self, dice: Random, ways: Random) -> None:
        super().__init__(dice, 0.3)
        self.ways = ways
        self.saved: list[dict[str, Any]] = []

    def leaf(self, known: list[dict[str, Any]]) -> dict[str, Any]:
        if self.saved and self.maybe(0.08):
            return {"op": "saved", "name": self.dice.choice(self.saved)["key"]}
        able = [one for one in known if one["kind"] != "note"] + [FACT] * self.maybe(0.05)
        one = self.dice.choice(able or [FACT])
        key, kind = one["key"], one["kind"]
        if kind in ("time", "date_time") and self.maybe(0.9):
            return self.ordered(
                key, CLOCKS if kind == "time" else [*DAYS, "2026-11-25T12:00+00:00"]
            )
        if self._is_text(one) and self.maybe(0.1):
            return {"op": self.dice.choice(["answered", "unanswered"]), "item": key}
        if self._is_text(one):
            return self.text(key, WRITTEN.get(kind, TEXTS))
        if kind == "yes_no" and self.maybe(0.1):
            return {"op": "one_of", "item": key, "values": [self.maybe(0.5)]}
        if kind in ("number", "scale", "date") and self.maybe(0.1):
            values = [self.dice.choice(DAYS if kind == "date" else "0123") for _ in "ab"]
            return {"op": "one_of", "item": key, "values": values}
        if one.get("else_label") and self.maybe(0.3):
            op = "includes" if kind == "pick_many" else self.dice.choice(ALIKE)
            return {"op": op, "item": key, "value": "else"}
        if kind in MEASURES and kind not in ("rank", "file", "name", "address"):
            return super().leaf([one])
        if kind == "computed":
            return super().leaf([one])
        return {"op": self.dice.choice(["answered", "unanswered"]), "item": key}

    def points(self, one: dict[str, Any]) -> dict[str, str]:
        return {"a": "1"} if self._is_text(one) else super().points(one)

    def _is_text(self, one: dict[str, Any]) -> bool:
        written = ("short_text", "long_text", "email", "phone", "web_address", "fact")
        return one["kind"] in written or (one["kind"] == "carried" and not one.get("options"))

    def text(self, key: str, texts: tuple[str, ...]) -> dict[str, Any]:
        op = self.dice.choice(["is", "is_not", "contains", "like", "one_of"])
        one = self.dice.choice(texts)
        if op == "one_of":
            return {"op": op, "item": key, "values": [one, self.dice.choice(texts)]}
        part = one[-5:-3] if "@" not in one else one[1:3]
        value = {"contains": part, "like": f".*{one[-2:]}"}.get(op, one)
        return {"op": op, "item": key, "value": value}

    def asked(self, inside: bool = False) -> dict[str, Any]:
        if self.maybe(0.4) and not inside:
            return self._with_words(super().asked())
        kind = self.dice.choice(KINDS)
        if inside:
            kind = self.dice.choice([*KINDS[:8], "pick_one", "number", "note"])
        self.number += 1
        key = f"q{self.number}"
        if kind in KINDS[:8]:
            return self._with_words(self._common(kind, key))
        more: dict[str, Any] = {} if kind == "note" else {"required": self.maybe(0.4)}
        if kind == "rank":
            more["options"] = options("a", "b")
        if kind == "name":
            more |= {"parts": ["given"], "needed": ["given"]}
        if kind == "address":
            more |= {"parts": ["city"], "needed": ["city"]}
        if kind == "time":
            more |= {"earliest": self.dice.choice([None, "09:00"])}
        if kind == "grid":
            more["rows"] = [
                {"code": one, "label": words(one), "shown_when": self.when(0.3)} for one in "ab"
            ]
            more["columns"] = [item("yes_no", f"{key}_c")]
        if kind == "roster":
            more |= self._roster(key)
        return item(kind, key, shown_when=None if inside else self.when(0.3), **more)

    def _common(self, kind: str, key: str) -> dict[str, Any]:
        more: dict[str, Any] = {"required": self.maybe(0.5)}
        if kind in ("pick_one", "pick_many"):
            more["options"] = options(*"abc"[: self.dice.randint(2, 3)])
        if kind == "number":
            more |= {"at_least": "0", "at_most": self.dice.choice("123")}
        if kind == "scale":
            more |= {"low": 0, "high": 2}
        if kind == "date":
            more |= {"earliest": DAYS[0], "latest": DAYS[2]}
        return item(kind, key, **more)

    def _with_words(self, one: dict[str, Any]) -> dict[str, Any]:
        if one["kind"] in ("pick_one", "pick_many") and self.maybe(0.25):
            one["else_label"] = words("Other")
        return one

    def _roster(self, key: str) -> dict[str, Any]:
        inner = [self.asked(inside=True)]
        if self.maybe(0.7):
            inner.append(self.asked(inside=True))
            if inner[0]["kind"] != "note" and self.maybe(0.4):
                inner[1]["shown_when"] = self.condition(inner[:1], 1)
        fewest, most = self.dice.choice([(0, 1), (0, 2), (1, 2), (2, 2), (0, 4)])
        made = {"items": inner, "fewest": fewest, "most": most, "required": self.maybe(0.3)}
        kept, self.earlier = self.earlier, [*self.earlier, *inner]
        made["checks"] = self.checks(inner)
        self.earlier = kept
        return made

    def checks(self, items: list[dict[str, Any]]) -> list[dict[str, Any]]:
        able = [one for one in items if one["kind"] in MEASURES]
        return [self.across(self.dice.choice(able))] if able and self.maybe(0.5) else []

    def across(self, one: dict[str, Any]) -> dict[str, Any]:
        measure = MEASURES[one["kind"]]
        alike = measure in ("text", "yes_no", "name", "address")
        found = {
            "left": one["key"],
            "relation": self.dice.choice(ALIKE if alike else RELATIONS),
            "message": words("Look again."),
            "when": self.when(0.3),
        }
        others = [
            other["key"]
            for other in self.earlier
            if MEASURES.get(other["kind"]) == measure and other is not one
        ]
        if others and (measure != "number" or self.maybe(0.6)):
            pair = [one["key"], self.dice.choice(others)]
            self.dice.shuffle(pair)
            return {**found, "left": pair[0], "right": pair[1]}
        return {**found, "number": self.dice.choice(["0", "1", "2", "3", "1.5"])}

    def carried(self, offered: list[dict[str, Any]]) -> dict[str, Any]:
        """A carried value, of every way in which one can come, be shown and be asked for."""
        more = dict(self.ways.choice(WAYS))
        if more.get("sources") == CONSTANT:
            value = self.ways.choice("ab" if offered else TEXTS)
            more["sources"] = [{"kind": "constant", "value": value}]
        return item("carried", "route", options=offered, required=self.maybe(0.2), **more)

    def whole(self) -> Questionnaire:
        pages = self.dice.randint(2, 3)
        offered = options("a", "b") if self.maybe(0.6) else []
        carried = self.carried(offered)
        late = self.maybe(0.3)
        if self.maybe(0.5) and not late:
            self.earlier.append(carried)
        made = [self.page(0, pages)]
        if late:
            carried["shown_when"] = self.when(1)
            self.earlier.append(carried)
        if self.maybe(0.3):
            self.saved.append({"key": "told", "name": "Told", "when": self.condition(self.earlier)})
        made += [self.page(number, pages) for number in range(1, pages)]
        made[0]["items"] += [carried] if carried in self.earlier else []
        ends = tuple(finish(key) for key in "xyz")
        return questionnaire(*made, finishes=ends, saved=self.saved)


def wide(seed: int) -> Questionnaire:
    """A small questionnaire that could be published; the same seed gives the same one."""
    dice, ways = Random(seed), Random(f"ways {seed}")
    while True:
        made = Wide(dice, ways).whole()
        if not faults(made):
            return made
