"""What somebody may have answered, as statements: which class of answer, which picks, how many.

Nothing is said of what is not asked: `answered` implies `active`.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from jotgate.core.common.values import ELSE, Else
from jotgate.core.conditions.condition import Condition
from jotgate.core.items import Option, PickMany, PickOne
from jotgate.core.proof.cells import SOME_ELSE, Cell, Cells
from jotgate.core.proof.gates import FALSE, TRUE, Gates

MOST_COUNTED = 60
"""Options of pick many that are told apart where the picks are counted."""


@dataclass(frozen=True)
class Answer:
    """The answer to one item. Of `cells` exactly one is true where it is answered.

    `options` are the picks of pick many by code, with `others` standing for all that nothing
    names; `entries` those of a roster. `can` tells whether there is an answer to give, `must`
    that there has to be one, `stuck` that there has to be one and is none. `count` is how many
    an answer has, where it is always as many.
    """

    active: int
    answered: int
    cells: tuple[tuple[int, Cell], ...] = ()
    options: Mapping[str, int] = field(default_factory=dict)
    others: tuple[str, ...] = ()
    entries: tuple["Entry", ...] = ()
    stuck: int = FALSE
    can: int = TRUE
    must: int = FALSE
    count: int | None = None

    @property
    def loose(self) -> list[int]:
        """The classes of several answers, of which not one is known for sure."""
        return [one for one, cell in self.cells if cell.loose]

    @property
    def choices(self) -> list[int]:
        """The statements that the answer is chosen by."""
        own = [one for one, _ in self.cells] + [entry.given for entry in self.entries]
        return [*own, *self.options.values()]

    @property
    def name(self) -> tuple[int, ...]:
        """What no other answer has."""
        return (self.answered, *self.choices)


@dataclass(frozen=True)
class Entry:
    given: int
    answers: Mapping[str, Answer]


ANY = Cell(None, None, loose=True)
"""The class of whatever else can be answered; no answer of it is known."""


def one_valued(gates: Gates, active: int, must: int, cells: Cells) -> Answer:
    """An answer that is of one class. `must` says that there has to be one."""
    each = [(gates.fresh(), cell) for cell in cells.each]
    if cells.open:
        each.append((gates.fresh(), ANY))
    literals = [one for one, _ in each]
    stuck = FALSE if each else gates.both(active, must)
    answered = _must(gates, active, must, stuck)
    if literals:
        gates.at_most_one(literals)
        gates.same(answered, gates.either(*literals))
    else:
        gates.never(answered)
    return Answer(active, answered, tuple(each), stuck=stuck, can=TRUE if each else FALSE)


def _must(gates: Gates, active: int, must: int, stuck: int) -> int:
    """Whether it is answered: if at all, then where it is asked."""
    if must == TRUE and stuck == FALSE:
        return active
    answered = gates.fresh()
    gates.some((-answered, active))
    gates.some((-active, -must, answered, stuck))
    return answered


def _offered(
    gates: Gates, options: Iterable[Option], shown: Mapping[str, int]
) -> list[tuple[str, int]]:
    return [(option.code, shown.get(option.code, TRUE)) for option in options]


def pick_one(
    gates: Gates,
    item: PickOne,
    active: int,
    must: int,
    shown: Mapping[str, int],
    named: Iterable[str],
    joined: bool = False,
) -> Answer:
    """`shown` says of the options under a condition whether it holds.

    The options that have none and are named nowhere are one class. `joined` tells that the
    answer is held against another one.
    """
    wanted = set(named)
    each: list[tuple[int, Cell]] = []
    rest = False
    for code, offered in _offered(gates, item.options, shown):
        spare = code not in wanted and code not in shown
        if spare and rest:
            continue
        rest = rest or spare
        each.append((_only_if(gates, offered), Cell(code, code, loose=spare and joined)))
    if item.else_label:
        each += [(gates.fresh(), cell) for cell in _own_words(item, joined)]
    certain = rest or item.else_label or any(code not in shown for code in item.codes)
    can = TRUE if certain else gates.either(*shown.values()) if shown else FALSE
    stuck = gates.both(active, must, -can)
    answered = _must(gates, active, must, stuck)
    literals = [one for one, _ in each]
    if literals:
        gates.at_most_one(literals)
        gates.same(answered, gates.either(*literals))
    else:
        gates.never(answered)
    return Answer(active, answered, tuple(each), stuck=stuck, can=can)


def _own_words(item: PickOne, joined: bool) -> Iterator[Cell]:
    """Something else: for another answer some words of many, those of `item` alone among them."""
    said = [SOME_ELSE[ELSE], f"What {item.key} says"] if joined else []
    yield from (Cell({ELSE: words}, Else(words)) for words in said)
    yield Cell(SOME_ELSE, Else(SOME_ELSE[ELSE]), loose=joined)


def _only_if(gates: Gates, offered: int) -> int:
    """Something that may be picked, where it is offered."""
    picked = gates.fresh()
    gates.some((-picked, offered))
    return picked


def pick_many(
    gates: Gates,
    item: PickMany,
    active: int,
    must: int,
    shown: Mapping[str, int],
    named: Iterable[str],
) -> Answer:
    """A literal for every option that is named, under a condition or alone; how many of the
    others are picked is whatever is needed."""
    wanted = set(named)
    own = [one for one in item.options if one.code in wanted or one.code in shown or one.alone]
    others = [one.code for one in item.options if one not in own]
    picks = {
        one.code: _only_if(gates, offered)
        for one, (_, offered) in zip(own, _offered(gates, own, shown), strict=True)
    }
    if item.else_label:
        picks[ELSE] = gates.fresh()
    alone = [picks[one.code] for one in own if one.alone]
    counted = [literal for literal in picks.values() if literal not in alone]
    can = _can_pick(gates, item, own, shown, len(others))
    stuck = gates.both(active, must, -can)
    answered = _must(gates, active, must, stuck)
    for literal in picks.values():
        gates.some((-literal, answered))
    gates.at_most_one(alone)
    lonely = gates.either(*alone)
    for literal in counted:
        gates.never(lonely, literal)
    _within(gates, item, answered, lonely, counted, len(others))
    return Answer(active, answered, options=picks, others=tuple(others), stuck=stuck, can=can)


def _within(
    gates: Gates, item: PickMany, answered: int, lonely: int, counted: Sequence[int], spare: int
) -> None:
    """Between the fewest and the most, with up to `spare` picks that nothing names."""
    fewest = max(item.fewest or 1, 1)
    most = item.most if item.most is not None else len(counted) + spare
    if most < fewest:
        gates.some((-answered, lonely))
        return
    so_many = gates.counts(counted, min(len(counted), most + 1))
    needed = fewest - spare
    if needed > 0:
        enough = so_many[needed] if needed < len(so_many) else FALSE
        gates.some((-answered, lonely, enough))
    if most < len(counted):
        gates.some((lonely, -so_many[most + 1]))


def _can_pick(
    gates: Gates,
    item: PickMany,
    own: Sequence[Option],
    shown: Mapping[str, int],
    spare: int,
) -> int:
    fewest = max(item.fewest or 1, 1)
    offered = [shown.get(one.code, TRUE) for one in own if not one.alone]
    if item.else_label:
        offered.append(TRUE)
    needed = max(fewest - spare, 0)
    enough = gates.counts(offered, needed)[needed] if needed <= len(offered) else FALSE
    if item.most is not None and item.most < fewest:
        enough = FALSE
    lone = [shown.get(one.code, TRUE) for one in own if one.alone]
    return gates.either(enough, *lone)


def named_codes(leaves: Iterable[Condition]) -> set[str]:
    """The codes that comparisons name."""
    found: set[str] = set()
    for leaf in leaves:
        value = getattr(leaf, "value", None)
        found |= {str(value)} if isinstance(value, str) else set()
        found |= {str(one) for one in getattr(leaf, "values", ())}
    return found
