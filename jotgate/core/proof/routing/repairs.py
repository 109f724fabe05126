"""Repairs of dispatch rules on offer, as changes to them (JSON Patch, RFC 6902)."""

from collections.abc import Callable, Iterator
from typing import Any

from jotgate.core.common.proposed_keys import key_from
from jotgate.core.conditions.condition import Condition
from jotgate.core.dispatch.acts import Act, Composed, FileRow, Notice, SetContact, SetValue
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch
from jotgate.core.dispatch.texts import spaced, with_words
from jotgate.core.proof.repairs import Change, Repair, as_plain, moved, removed, replaced
from jotgate.core.proof.routing.taken import Taken

NOTHING_GIVEN = "–"


class RuleRepairs:
    def __init__(self, dispatch: Dispatch) -> None:
        self._dispatch = dispatch
        self._positions = {rule.key: at for at, rule in enumerate(dispatch.rules)}

    def name(self, rule: str) -> str:
        """A rule as people call it."""
        return "Otherwise" if rule == OTHERWISE else f"rule {self._positions[rule] + 1}"

    def title(self, rule: str) -> str:
        """The same at the beginning of a sentence."""
        name = self.name(rule)
        return name[0].upper() + name[1:]

    def acts(self, rule: str) -> tuple[Act, ...]:
        if rule == OTHERWISE:
            return self._dispatch.otherwise
        return self._dispatch.rules[self._positions[rule]].acts

    def _path(self, rule: str, position: int) -> str:
        if rule == OTHERWISE:
            return f"/otherwise/{position}"
        return f"/rules/{self._positions[rule]}/acts/{position}"

    def without(self, rule: str) -> Repair:
        at = self._positions[rule]
        return removed(f"Delete {self.name(rule)}", self._dispatch.rules[at], f"/rules/{at}")

    def before(self, rule: str, other: str) -> Repair:
        """A rule tried before another one."""
        at, to = self._positions[rule], self._positions[other]
        says = f"Try {self.name(rule)} before {self.name(other)}"
        return moved(says, self._dispatch.rules[at], f"/rules/{at}", f"/rules/{to}")

    def new_rule(self, says: str, when: Condition | None) -> Repair:
        """One more rule, which does nothing yet, behind all others."""
        taken = {*self._positions, OTHERWISE}
        rule = {"key": key_from("", taken, "rule"), "when": as_plain(when), "acts": []}
        return Repair(says, ({"op": "add", "path": "/rules/-", "value": rule},))

    def with_condition(self, says: str, rule: str, when: Condition) -> Repair:
        at = self._positions[rule]
        before = self._dispatch.rules[at].when
        return replaced(says, f"/rules/{at}/when", before, as_plain(when))

    def without_column(self, rule: str, position: int, column: str, label: str) -> Repair:
        act = self.acts(rule)[position]
        assert isinstance(act, FileRow)
        path = f"{self._path(rule, position)}/columns/{column}"
        return removed(f"Put nothing into {label}", act.columns[column], path)

    def with_column(self, says: str, rule: str, position: int, column: str, name: str) -> Repair:
        path = f"{self._path(rule, position)}/columns/{column}"
        source = {"kind": "entry", "name": name}
        return Repair(says, ({"op": "add", "path": path, "value": source},))

    def sent_to(self, says: str, rule: str, position: int, name: str) -> Repair:
        """A letter sent to the address that an answer is."""
        act = self.acts(rule)[position]
        assert isinstance(act, Notice)
        to = {"kind": "answer", "name": name}
        return replaced(says, f"{self._path(rule, position)}/to", act.to, to)

    def with_words(self, taken: list[Taken]) -> Repair:
        """Words for what is missing in a letter, or in a text that goes into a column."""

        def change(text: str) -> str:
            for one in taken:
                text = with_words(text, one.name, NOTHING_GIVEN)
            return text

        changes = self._in_texts(taken[0].rule, taken[0].position, change)
        return Repair(f"Write {NOTHING_GIVEN} where there is none", tuple(changes))

    def spaced(self, rule: str, position: int) -> Repair:
        """A space where a slot stands right beside a word."""
        return Repair("Put a space there", tuple(self._in_texts(rule, position, spaced)))

    def _in_texts(self, rule: str, position: int, change: Callable[[str], str]) -> Iterator[Change]:
        """What `change` makes of the texts of an act."""
        for path, text in texts_of(self.acts(rule)[position]):
            changed = change(text)
            if changed != text:
                where = f"{self._path(rule, position)}/{path}"
                yield {"op": "test", "path": where, "value": text}
                yield {"op": "replace", "path": where, "value": changed}


def texts_of(act: Any) -> Iterator[tuple[str, str]]:
    """The texts with slots of an act, each with where it stands in it."""
    if isinstance(act, Notice):
        for part in ("subject", "body"):
            yield from ((f"{part}/{one}", text) for one, text in getattr(act, part).items())
    if isinstance(act, FileRow):
        for key, source in act.columns.items():
            if isinstance(source, Composed):
                yield f"columns/{key}/text", source.text
    if isinstance(act, SetContact | SetValue) and isinstance(act.source, Composed):
        yield "source/text", act.source.text
