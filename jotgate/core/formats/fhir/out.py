"""A questionnaire as an HL7 FHIR Questionnaire (R4), and a list of what FHIR cannot say."""

from collections.abc import Callable, Iterator, Mapping
from datetime import date
from typing import Any

from jotgate.core.common.today import day_of
from jotgate.core.common.wording import Text, is_language, say
from jotgate.core.conditions.condition import Condition
from jotgate.core.document.look import Look
from jotgate.core.document.questionnaire import Page, Questionnaire
from jotgate.core.formats.fhir import terms
from jotgate.core.formats.fhir.operands import operand
from jotgate.core.formats.fhir.terms import control, extension
from jotgate.core.items import Item, inside, with_inside


def to_fhir(questionnaire: Questionnaire) -> tuple[dict[str, Any], tuple[str, ...]]:
    """The resource as JSON, and a sentence for each thing that it leaves out."""
    return _Writing(questionnaire).whole()


class _Writing:
    def __init__(self, questionnaire: Questionnaire) -> None:
        self.questionnaire = questionnaire
        self.first = questionnaire.first_language
        self.items = {item.key: item for item in with_inside(tuple(questionnaire.items()))}
        self.lost: list[str] = []

    def whole(self) -> tuple[dict[str, Any], tuple[str, ...]]:
        questionnaire = self.questionnaire
        if len(questionnaire.finishes) > 1 or any(one.message for one in questionnaire.finishes):
            self.lost.append("The finishes: their headings and messages.")
        if questionnaire.time_zone != "UTC":
            self.lost.append(f"The time zone {questionnaire.time_zone}.")
        if questionnaire.look != Look():
            self.lost.append("The look, the introduction and the words of the buttons.")
        resource = {
            "resourceType": "Questionnaire",
            "language": self.first,
            "status": "draft",
            **self.text("title", questionnaire.title),
            "item": [self.page(page) for page in questionnaire.pages],
        }
        return resource, tuple(self.lost)

    def text(self, name: str, text: Text) -> dict[str, Any]:
        """A text, its translations as FHIR's extension for them; nothing where it is empty."""
        words = say(text, self.first, self.first)
        if not words.strip():
            return {}
        others = [
            {
                "url": terms.TRANSLATION,
                "extension": [
                    extension("lang", "Code", language),
                    extension("content", "String", said),
                ],
            }
            for language, said in text.items()
            if language != self.first and said.strip() and is_language(language)
        ]
        return {name: words, **({f"_{name}": {"extension": others}} if others else {})}

    def page(self, page: Page) -> dict[str, Any]:
        if page.skips:
            self.lost.append(f"{page.key}: its skip rules.")
        if page.checks:
            self.lost.append(f"{page.key}: its checks across answers.")
        return {
            "linkId": f"page-{page.key}",
            "type": "group",
            **self.text("text", page.title),
            **self.when(page.key, page.shown_when),
            **_some("item", [self.item(one) for one in page.items]),
        }

    def item(self, item: Item) -> dict[str, Any]:
        if item.kind in terms.LOST:
            self.lost.append(f"{item.key}: {terms.LOST[item.kind]}.")
        more = _MORE.get(item.kind)
        members, extensions = more(self, item) if more else ({}, [])
        placeholder = getattr(item, "placeholder", {})
        if say(placeholder, self.first, self.first).strip():
            words = say(placeholder, self.first, self.first)
            extensions.append(extension(terms.ENTRY_FORMAT, "String", words))
        for name in ("short_name", "restricted", "required_when", "error_text", "shuffled"):
            if getattr(item, name, None):
                self.lost.append(f"{item.key}: {name.replace('_', ' ')}.")
        within = [self.item(one) for one in inside(item)] + self.help(item)
        required = {"required": True} if getattr(item, "required", False) else {}
        return {
            **_some("extension", extensions),
            "linkId": item.key,
            "type": terms.TYPES[item.kind],
            **self.text("text", item.text),
            **self.when(item.key, item.shown_when),
            **required,
            **members,
            **_some("item", within),
        }

    def help(self, item: Item) -> list[dict[str, Any]]:
        words = self.text("text", getattr(item, "help", {}))
        if not words:
            return []
        shown = {"extension": [control("help")], "linkId": f"{item.key}-help", "type": "display"}
        return [{**shown, **words}]

    def when(self, key: str, condition: Condition | None) -> dict[str, Any]:
        """`enableWhen` of a condition that is a row of comparisons; others are left out."""
        if condition is None:
            return {}
        while condition.op in ("all", "any") and len(condition.parts) == 1:
            condition = condition.parts[0]
        parts = condition.parts if condition.op in ("all", "any") else (condition,)
        several = "all" if condition.op == "all" else "any"
        rows = [row for part in parts for row in self.rows(part, several == "any")]
        if len(rows) < len(parts) or any(not row for row in rows):
            self.lost.append(f"{key}: the condition under which it is shown.")
            return {}
        return {"enableWhen": rows, **({"enableBehavior": several} if len(rows) > 1 else {})}

    def rows(self, part: Any, any_will_do: bool) -> Iterator[dict[str, Any]]:
        """One comparison; one of several values is several rows, where any of the rows will do."""
        asked = self.items.get(getattr(part, "item", ""))
        if asked is None:
            yield {}
        elif part.op in ("answered", "unanswered"):
            exists = part.op == "answered"
            yield {"question": asked.key, "operator": "exists", "answerBoolean": exists}
        elif part.op == "one_of" and any_will_do:
            for value in part.values:
                yield self.row(asked, "=", value)
        elif part.op in terms.OPERATORS or part.op == "includes":
            yield self.row(asked, terms.OPERATORS.get(part.op, "="), part.value)
        else:
            yield {}

    def row(self, asked: Item, operator: str, value: str | bool) -> dict[str, Any]:
        name, answer = operand(asked, value)
        return {"question": asked.key, "operator": operator, name: answer} if name else {}


def _some(name: str, parts: list[Any]) -> dict[str, Any]:
    return {name: parts} if parts else {}


Members = tuple[dict[str, Any], list[dict[str, Any]]]


def _text(writing: _Writing, item: Any) -> Members:
    extensions = []
    if item.shortest is not None:
        extensions.append(extension(terms.MIN_LENGTH, "Integer", item.shortest))
    pattern = getattr(item, "pattern", None)
    if pattern:
        extensions.append(extension(terms.REGEX, "String", pattern.expression))
    return {} if item.longest is None else {"maxLength": item.longest}, extensions


def _number(writing: _Writing, item: Any) -> Members:
    kind = "Decimal" if item.decimals else "Integer"
    extensions = []
    for url, limit in ((terms.MIN_VALUE, item.at_least), (terms.MAX_VALUE, item.at_most)):
        if limit is not None and (item.decimals or limit == int(limit)):
            number = float(limit) if item.decimals else int(limit)
            extensions.append(extension(url, kind, number))
    if item.decimals:
        extensions.append(extension(terms.DECIMALS, "Integer", item.decimals))
    unit = say(item.unit, writing.first, writing.first)
    if unit.strip():
        extensions.append(extension(terms.UNIT, "Coding", {"display": unit}))
    if item.step is not None:
        writing.lost.append(f"{item.key}: the step.")
    return {"type": kind.lower()}, extensions


def _days(writing: _Writing, item: Any) -> Members:
    extensions = []
    for url, edge in ((terms.MIN_VALUE, item.earliest), (terms.MAX_VALUE, item.latest)):
        if edge is None:
            continue
        if item.kind == "date" and edge[0].isdigit() and day_of(edge, date.min):
            extensions.append(extension(url, "Date", edge))
        elif item.kind == "time":
            extensions.append(extension(url, "Time", f"{edge}:00"))
        else:
            writing.lost.append(f"{item.key}: the bound {edge}.")
    return {}, extensions


def _picks(writing: _Writing, item: Any) -> Members:
    options = []
    for option in item.options:
        if option.shown_when is not None:
            writing.lost.append(f"{item.key}: when the option {option.code} is offered.")
        words = writing.text("display", option.label) or {"display": option.code}
        coding = {"code": option.code, **words}
        excludes = option.alone and item.kind == "pick_many"
        alone = [extension(terms.EXCLUSIVE, "Boolean", True)] if excludes else []
        options.append({**_some("extension", alone), "valueCoding": coding})
    members: dict[str, Any] = _some("answerOption", options)
    extensions = []
    if getattr(item, "else_label", {}):
        members["type"] = "open-choice"
        writing.lost.append(f"{item.key}: what something else is called.")
    if item.kind == "pick_one" and item.look in terms.LOOKS:
        extensions.append(control(terms.LOOKS[item.look]))
    if item.kind != "pick_one":
        members["repeats"] = True
        extensions += _counts(getattr(item, "fewest", None), getattr(item, "most", None))
    return members, extensions


def _counts(fewest: int | None, most: int | None) -> list[dict[str, Any]]:
    found = []
    if fewest is not None:
        found.append(extension(terms.MIN_OCCURS, "Integer", fewest))
    if most is not None:
        found.append(extension(terms.MAX_OCCURS, "Integer", most))
    return found


def _scale(writing: _Writing, item: Any) -> Members:
    if item.low_label or item.high_label:
        writing.lost.append(f"{item.key}: the words at the ends.")
    low = extension(terms.MIN_VALUE, "Integer", item.low)
    high = extension(terms.MAX_VALUE, "Integer", item.high)
    return {}, [control("slider"), low, high]


def _roster(writing: _Writing, item: Any) -> Members:
    for name, what in (
        ("noun", "what one is called"),
        ("title", "its title"),
        ("checks", "checks"),
    ):
        if getattr(item, name):
            writing.lost.append(f"{item.key}: {what}.")
    return {"repeats": True}, _counts(item.fewest, item.most)


def _grid(writing: _Writing, item: Any) -> Members:
    return {}, [control("gtable")]


def _file(writing: _Writing, item: Any) -> Members:
    writing.lost.append(f"{item.key}: which kinds of files.")
    size = extension(terms.MAX_SIZE, "Decimal", item.largest)
    many = {"repeats": True} if item.most > 1 else {}
    return many, [size, *(_counts(None, item.most) if many else [])]


def _unasked(writing: _Writing, item: Any) -> Members:
    return {"readOnly": True}, [extension(terms.HIDDEN, "Boolean", True)]


_MORE: Mapping[str, Callable[[_Writing, Any], Members]] = {
    "short_text": _text,
    "long_text": _text,
    "number": _number,
    "date": _days,
    "time": _days,
    "date_time": _days,
    "pick_one": _picks,
    "pick_many": _picks,
    "rank": _picks,
    "scale": _scale,
    "roster": _roster,
    "grid": _grid,
    "file": _file,
    "carried": _unasked,
    "computed": _unasked,
}
