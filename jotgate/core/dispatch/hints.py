"""What goes wrong in practice with rules that can be used; it keeps none from being applied."""

from collections.abc import Iterator
from dataclasses import dataclass

from jotgate.core.common.errors import Fault
from jotgate.core.conditions.condition import Compare, OneOf, leaves, named
from jotgate.core.conditions.saved import in_full
from jotgate.core.dispatch.rules import (
    OTHERWISE,
    Act,
    Call,
    Composed,
    Dispatch,
    FileRow,
    FromEntry,
    Notice,
    Rule,
    ToAnswer,
)
from jotgate.core.dispatch.scope import Scope
from jotgate.core.dispatch.texts import Slot, slots_in
from jotgate.core.items import is_asked
from jotgate.core.items.staff_names import staff_name

Hint = Fault
"""One thing that is likely not meant, at the rule that it is of, or at `rules`."""


def hints(dispatch: Dispatch, scope: Scope, signs_in: bool) -> tuple[Hint, ...]:
    """What is likely not meant; `signs_in` tells whether visitors may sign in."""
    acting = [rule for rule in dispatch.rules if not rule.off]
    if not acting and not dispatch.otherwise:
        return ()
    places = [(f"rules/{rule.key}", rule.acts) for rule in acting]
    found: list[Hint] = []
    for at, acts in (*places, (OTHERWISE, dispatch.otherwise)):
        found += _glued(acts, at)
        found += _signed_in(acts, at, signs_in)
    found += _never(acting)
    found += _without_rule(acting, dispatch, scope)
    found += _unused(acting, dispatch, scope)
    return tuple(found)


def _texts(act: Act) -> Iterator[tuple[str, str]]:
    """The texts of an act, each with what it is called."""
    if isinstance(act, Notice):
        yield from (("the subject", words) for words in act.subject.values())
        yield from (("the letter", words) for words in act.body.values())
    if isinstance(act, FileRow):
        for key, source in act.columns.items():
            if isinstance(source, Composed):
                yield f"the column {key}", source.text


def _glued(acts: tuple[Act, ...], at: str) -> Iterator[Hint]:
    told: set[tuple[str, str]] = set()
    for act in acts:
        for name, words in _texts(act):
            for slot in slots_in(words):
                if slot.is_glued and (name, slot.name) not in told:
                    told.add((name, slot.name))
                    yield Hint(code="glued", at=at, message=_beside(slot, name))


def _beside(slot: Slot, name: str) -> str:
    shown = f"{slot.before}{{{slot.name}}}{slot.behind}".strip()
    return f"In {name}, {shown} stands right beside a word. Put a space between them."


def _signed_in(acts: tuple[Act, ...], at: str, signs_in: bool) -> Iterator[Hint]:
    for act in acts:
        if not isinstance(act, Notice) or not isinstance(act.to, ToAnswer) or signs_in:
            continue
        if act.to.name.startswith("claim."):
            message = (
                "The letter goes to the address of a sign-in, and visitors do not sign in here. "
                "Choose the question where they write theirs."
            )
            yield Hint(code="no_sign_in", at=at, message=message)


def _never(rules: list[Rule]) -> Iterator[Hint]:
    """Rules that one before leaves nothing to: it catches every entry, or has the same condition.
    Others that can never act are for the proof to find."""
    catching: list[Rule] = []
    for rule in rules:
        if not rule.catches:
            continue
        before = next((one for one in catching if one.when in (None, rule.when)), None)
        if before is not None:
            every = "every entry" if before.when is None else "the same entries"
            message = f"This rule never acts: one before it ({before.key}) catches {every}."
            yield Hint(code="never", at=f"rules/{rule.key}", message=message)
        catching.append(rule)


def _picked(rules: list[Rule], scope: Scope) -> dict[str, set[str]]:
    """The codes that rules that catch ask for, by question."""
    found: dict[str, set[str]] = {}
    for rule in rules:
        if not rule.catches or rule.when is None:
            continue
        for leaf in leaves(in_full(rule.when, scope.questionnaire.saved)):
            if isinstance(leaf, Compare) and leaf.op == "is" and isinstance(leaf.value, str):
                found.setdefault(leaf.item, set()).add(leaf.value)
            elif isinstance(leaf, OneOf) and leaf.op == "one_of":
                codes = {one for one in leaf.values if isinstance(one, str)}
                found.setdefault(leaf.item, set()).update(codes)
    return found


def _without_rule(rules: list[Rule], dispatch: Dispatch, scope: Scope) -> Iterator[Hint]:
    """Options that no rule asks for, where rules tell entries apart by the others."""
    every = any(rule.catches and rule.when is None for rule in rules)
    if dispatch.otherwise or every:
        return
    for name, codes in sorted(_picked(rules, scope).items()):
        item = scope.item(name)
        options = getattr(item, "options", ())
        left = [one for one in options if one.code not in codes]
        if item is None or len(codes) < 2 or not left:
            continue
        labels = ", ".join(one.label.get(scope.first, "") or one.code for one in left)
        message = f"{staff_name(item, scope.first)}: {labels} leads to no rule of its own."
        yield Hint(code="no_rule", at="rules", message=message)


@dataclass(frozen=True)
class _Used:
    """The names that rules use, and whether some act sends everything."""

    names: frozenset[str]
    everything: bool


def _used(rules: list[Rule], dispatch: Dispatch, scope: Scope) -> _Used:
    names: set[str] = set()
    everything = False
    for rule in rules:
        if rule.when is not None:
            names |= named(in_full(rule.when, scope.questionnaire.saved))
    for act in (*(act for rule in rules for act in rule.acts), *dispatch.otherwise):
        everything = everything or isinstance(act, Call)
        if isinstance(act, Notice):
            everything = everything or (act.whole and not isinstance(act.to, ToAnswer))
            names |= {act.to.name} if isinstance(act.to, ToAnswer) else set()
        if isinstance(act, FileRow):
            names |= {act.per} if act.per else set()
            sources = act.columns.values()
            names |= {one.name for one in sources if isinstance(one, FromEntry)}
        names |= {slot.name for _, words in _texts(act) for slot in slots_in(words)}
    return _Used(frozenset(names), everything)


def _unused(rules: list[Rule], dispatch: Dispatch, scope: Scope) -> Iterator[Hint]:
    """Questions whose answers go nowhere."""
    used = _used(rules, dispatch, scope)
    if used.everything:
        return
    known = {one.partition(".")[0] for one in used.names} | used.names
    left = [
        staff_name(item, scope.first)
        for key, item in scope.items.items()
        if "." not in key and is_asked(item) and key not in known and key not in scope.kept
    ]
    if left:
        said = ", ".join(left)
        message = f"No rule files or sends: {said}. They stand in the entry alone."
        yield Hint(code="unused", at="rules", message=message)
