"""From lines to pages of questions: which line asks, which one is picked, which one is said."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace

from jotgate.core.outline.asked import OutlineQuestion, hint, latin, read
from jotgate.core.outline.guess import asks_nothing_else, tells
from jotgate.core.outline.lines import Line
from jotgate.core.outline.words import CONSENT, FOLLOWING, SCALE

MOST_OPTIONS = 2000
"""Options of one question; more cannot stand in a questionnaire."""

MARKED = frozenset({"dash", "box", "ring", "letter"})


@dataclass
class Block:
    """A page as it is being read. `titled` says that a heading began it."""

    title: str = ""
    titled: bool = False
    asked: list[OutlineQuestion] = field(default_factory=list)


@dataclass(frozen=True)
class _Markers:
    """How this outline marks its questions."""

    dashes_ask: bool
    numbers_ask: bool


def blocks(found: Sequence[Line]) -> list[Block]:
    """The pages, from headings and rules; a blank line begins one without a title."""
    return _Reader(list(_headed(found))).blocks


def _headed(found: Sequence[Line]) -> Iterator[Line]:
    """A few words alone above a gap, with lines that stand together below it, are a heading."""
    for at, line in enumerate(found):
        alone = (at == 0 or found[at - 1].mark == "blank") and _can_title(line)
        below = found[at + 1 : at + 4]
        together = len(below) == 3 and below[0].mark == "blank" and below[2].mark != "blank"
        if alone and together and below[1].mark not in ("blank", *MARKED):
            yield replace(line, mark="heading")
        else:
            yield line


def _can_title(line: Line) -> bool:
    plain = line.mark == "" and not line.asks and line.words[-1:] not in ":*)]_.…!,;"
    return plain and len(line.words.split()) <= 10 and asks_nothing_else(read(0, line.words))


class _Reader:
    def __init__(self, found: Sequence[Line]) -> None:
        self.blocks: list[Block] = [Block()]
        self._ways = _ways(found)
        self._question: Line | None = None
        self._gap = False
        for at, line in enumerate(found):
            self._take(line, found[at + 1 : at + 2])

    def _take(self, line: Line, rest: Sequence[Line]) -> None:
        match line.mark:
            case "blank":
                self._gap = True
                return
            case "rule":
                self._begin(Block(titled=True))
            case "heading":
                self._begin(Block(line.words, titled=True))
            case _:
                self._say(line, rest)
        self._gap = False

    def _begin(self, block: Block) -> None:
        self._question = None
        last = self.blocks[-1]
        if not last.asked and not last.title:
            self.blocks.pop()
        self.blocks.append(block)

    def _say(self, line: Line, rest: Sequence[Line]) -> None:
        if not line.words:
            return
        before = self.blocks[-1].asked[-1] if self.blocks[-1].asked else None
        if before and self._question:
            if self._is_option(line, rest, self._question, before):
                self._put(_with_option(before, line))
                return
            below = None if line.mark in ("number", "dash") else hint(before, line.words)
            if below and not self._gap:
                self._put(below)
                return
        if self._gap and self._question:
            self._begin(Block())
        self._question = line
        asked = read(line.number, line.words)
        told = _is_note(line, asked) and not _is_picked_from(rest)
        self.blocks[-1].asked.append(replace(asked, kind="note") if told else asked)

    def _put(self, asked: OutlineQuestion) -> None:
        self.blocks[-1].asked[-1] = asked

    def _is_option(
        self, line: Line, rest: Sequence[Line], question: Line, asked: OutlineQuestion
    ) -> bool:
        if asked.kind == "note" or line.mark == "heading":
            return False
        deeper = line.indent > question.indent
        if line.mark == "box" and CONSENT.match(line.words):
            return False
        if line.mark in ("box", "ring"):
            return True
        if line.mark == "dash":
            asks = self._ways.dashes_ask and not deeper
            return not asks and not (line.asks and question.mark == "dash" and not deeper)
        if line.mark == "letter":
            return question.mark != "letter" or deeper
        if line.mark == "number":
            return deeper or (not self._ways.numbers_ask and not line.asks)
        if hint(asked, line.words):
            return False
        if deeper and line.indent - question.indent >= 2:
            return True
        plain = asked.marks <= {""}
        several = bool(asked.options or (rest and rest[0].mark == "" and _short(rest[0])))
        lists = _lists(question) or _states(asked)
        return plain and not self._gap and lists and _short(line) and several


def _with_option(asked: OutlineQuestion, line: Line) -> OutlineQuestion:
    words = line.words.strip().rstrip(";,").strip()
    if not words or words in asked.options or len(asked.options) >= MOST_OPTIONS:
        return asked
    if asked.offered:
        return replace(asked, rows=(*asked.rows, words)[:MOST_OPTIONS])
    return replace(asked, options=(*asked.options, words), marks=asked.marks | {line.mark})


def _lists(question: Line) -> bool:
    """Whether plain lines below can be what is picked from."""
    return question.words.rstrip(" *").endswith(("?", "؟")) and question.mark in ("", "number")


def _states(asked: OutlineQuestion) -> bool:
    """Whether plain lines below can be what is put on a scale."""
    rates = asked.ends or SCALE.search(latin(asked.words))
    return bool(rates and FOLLOWING.search(asked.words))


def _short(line: Line) -> bool:
    asks = line.asks or line.words.endswith(("*", ":")) or "(" in line.words
    return not asks and len(line.words.split()) <= 6 and not tells(line.words)


def _is_note(line: Line, asked: OutlineQuestion) -> bool:
    """Whether a line says something and asks nothing."""
    plain = line.mark == "" and not line.asks and not asked.required and not asked.kind
    whole = line.words.endswith((".", "!", "…")) and len(line.words.split()) >= 4
    return plain and whole and not asked.options and not tells(line.words)


def _is_picked_from(rest: Sequence[Line]) -> bool:
    return bool(rest) and rest[0].mark in MARKED


def _ways(found: Sequence[Line]) -> _Markers:
    said = [line for line in found if line.mark not in ("blank", "rule", "heading")]
    least = min((line.indent for line in said), default=0)
    outer = [line for line in said if line.indent == least]
    dashes = [line for line in outer if line.mark == "dash"]
    asking = sum(line.asks or line.words.endswith(("*", ":")) for line in dashes)
    numbers = [line for line in said if line.mark == "number"]
    alone = len(outer) == len(dashes)
    return _Markers(
        dashes_ask=bool(dashes) and (alone or asking * 2 > len(dashes)),
        numbers_ask=any(line.asks for line in numbers) or said[:1] == numbers[:1],
    )


def paged(found: list[Block]) -> tuple[list[Block], str]:
    """Blank lines make pages where questions stand together between them: pages, and why."""
    kept = [block for block in found if block.asked or block.title]
    if any(block.titled for block in kept):
        return list(_by_title(kept)), "Headings and rules begin pages."
    if len(kept) > 1 and any(len(block.asked) > 1 for block in kept):
        return kept, "Blank lines begin pages."
    if len(kept) > 1:
        one = Block(asked=[asked for block in kept for asked in block.asked])
        return [one], "Blank lines only stand between single questions, so it is one page."
    return kept, ""


def _by_title(found: list[Block]) -> Iterator[Block]:
    held: Block | None = None
    for block in found:
        if block.titled or held is None:
            if held:
                yield held
            held = Block(block.title, block.titled, list(block.asked))
        else:
            held.asked.extend(block.asked)
    if held:
        yield held
