"""The elements of a FHIR Questionnaire that are read, and what becomes of all the others.

Every element of a resource has the shape that it should have, or the resource is refused with the
path of the one that has not; and every element is read, or is named as left out. Both are decided
here alone, by what the tables say is read.
"""

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.formats.fhir import terms

Part = Mapping[str, Any]

LARGEST = 10**14
"""Numbers beyond this are not read."""

_TEXT, _YES_NO, _WHOLE = "a text", "true or false", "a whole number of at most 14 digits"
_IS: Mapping[str, Callable[[Any], bool]] = {
    _TEXT: lambda value: isinstance(value, str),
    _YES_NO: lambda value: isinstance(value, bool),
    _WHOLE: lambda value: isinstance(value, int) and _is_number(value),
}

_RESOURCE = {
    **dict.fromkeys(("resourceType", "language", "title", "name"), _TEXT),
    "_title": "element",
    "item": "item*",
}
_ITEM = {
    **dict.fromkeys(("linkId", "text", "type", "enableBehavior"), _TEXT),
    **dict.fromkeys(("required", "repeats"), _YES_NO),
    "maxLength": _WHOLE,
    "_text": "element",
    "enableWhen": "row*",
    "answerOption": "option*",
    "extension": "extension*",
    "item": "item*",
}
_ROW = {
    **dict.fromkeys(("question", "operator", "answerDate", "answerDateTime", "answerTime"), _TEXT),
    **{"answerString": _TEXT, "answerBoolean": _YES_NO, "answerInteger": _WHOLE},
    "answerDecimal": "a number",
    "answerCoding": "coding",
}
_OPTION = {
    **dict.fromkeys(("valueString", "valueDate", "valueTime"), _TEXT),
    "valueInteger": _WHOLE,
    "valueCoding": "coding",
    "extension": "extension*",
}
_CODING = {"code": _TEXT, "display": _TEXT, "_display": "element"}
_TABLES: Mapping[str, Mapping[str, str]] = {
    "resource": _RESOURCE,
    "item": _ITEM,
    "row": _ROW,
    "option": _OPTION,
    "coding": _CODING,
}

_READ_OF_ITEMS = frozenset(
    {
        *(terms.MIN_LENGTH, terms.REGEX, terms.ENTRY_FORMAT, terms.MIN_VALUE, terms.MAX_VALUE),
        *(terms.DECIMALS, terms.MAX_SIZE, terms.UNIT, terms.HIDDEN, terms.CONTROL),
        *(terms.MIN_OCCURS, terms.MAX_OCCURS),
    }
)
_READ_OF_OPTIONS = frozenset({terms.EXCLUSIVE})


def _is_number(value: Any) -> bool:
    number = isinstance(value, int | float) and not isinstance(value, bool)
    return number and abs(value) < LARGEST


def checked(resource: Part) -> tuple[str, ...]:
    """A sentence for each element of `resource` that is not read. Raises Invalid with the path of
    each that does not have its shape."""
    walk = _Walk()
    walk.part(resource, "resource", "", "the whole")
    if walk.faults:
        raise Invalid("The file was not imported. Nothing has changed.", walk.faults[:50])
    return tuple(dict.fromkeys(walk.left))


class _Walk:
    def __init__(self) -> None:
        self.left: list[str] = []
        self.faults: list[Fault] = []

    def part(self, part: Any, table: str, at: str, name: str) -> None:
        if not isinstance(part, dict):
            self.wrong(at, "an object")
            return
        if table == "item" and isinstance(part.get("linkId"), str):
            name = part["linkId"]
        for member, value in part.items():
            here = f"{at}/{member}".lstrip("/")
            kind = _TABLES[table].get(member)
            if _goes_without_saying(part, member):
                continue
            if kind is None:
                self.left.append(f"{name}: {member}.")
            elif kind.endswith("*"):
                self.several(value, kind[:-1], table, here, name)
            elif kind in _TABLES:
                self.part(value, kind, here, name)
            elif kind == "element":
                self.element(value, here, name)
            elif kind == "a number":
                if not _is_number(value):
                    self.wrong(here, kind)
            elif not _IS[kind](value):
                self.wrong(here, kind)

    def several(self, value: Any, kind: str, table: str, at: str, name: str) -> None:
        if not isinstance(value, list):
            self.wrong(at, "a list")
            return
        for number, one in enumerate(value):
            here = f"{at}/{number}"
            if kind == "extension":
                known = _READ_OF_OPTIONS if table == "option" else _READ_OF_ITEMS
                self.extension(one, known, here, name)
            else:
                self.part(one, kind, here, name)

    def extension(self, one: Any, known: frozenset[str], at: str, name: str) -> None:
        if not isinstance(one, dict) or not isinstance(one.get("url"), str):
            self.wrong(at, "an extension with its url")
        elif one["url"] not in known:
            self.left.append(f"{name}: the extension {one['url'].rpartition('/')[2]}.")
        elif not _fits(one):
            self.wrong(at, f"an extension with a value of its type ({one['url']})")

    def element(self, value: Any, at: str, name: str) -> None:
        """What stands beside a text: translations of it are read, the rest is left out."""
        if not isinstance(value, dict):
            self.wrong(at, "an object")
            return
        beside = at.rpartition("/")[2]
        self.left += [f"{name}: {beside}/{one}." for one in value if one != "extension"]
        found = value.get("extension", [])
        if not isinstance(found, list):
            self.wrong(f"{at}/extension", "a list")
            return
        for number, one in enumerate(found):
            self.extension(one, frozenset({terms.TRANSLATION}), f"{at}/extension/{number}", name)

    def wrong(self, at: str, wanted: str) -> None:
        self.faults.append(Fault(code="not_fhir", at=at, message=f"This must be {wanted}."))


def _goes_without_saying(part: Part, member: str) -> bool:
    """A draft becomes a draft, and what nobody is asked is not written to."""
    if member == "status":
        return bool(part[member] == "draft")
    hidden = terms.extended(part, terms.HIDDEN) is True and part.get("type") == "string"
    return member == "readOnly" and part[member] is True and hidden


def _fits(one: Part) -> bool:
    """Whether an extension that is read has a value of a type that it can have."""
    values = {name: value for name, value in one.items() if name.startswith("value")}
    if one["url"] == terms.TRANSLATION:
        inner = one.get("extension")
        return isinstance(inner, list) and all(
            isinstance(part, dict) and all(isinstance(v, str) for v in part.values())
            for part in inner
        )
    if len(values) != 1:
        return False
    return all(_value_fits(name, value) for name, value in values.items())


def _value_fits(name: str, value: Any) -> bool:
    match name:
        case "valueInteger":
            return _IS[_WHOLE](value)
        case "valueDecimal":
            return _is_number(value)
        case "valueBoolean":
            return isinstance(value, bool)
        case "valueCoding" | "valueCodeableConcept":
            return isinstance(value, dict) and all(_plain(part) for part in _inner(value))
    return isinstance(value, str)


def _inner(value: Part) -> Iterator[Any]:
    """What a coding, or each coding of a concept, has as its code and words."""
    codings = value.get("coding", [value])
    for coding in codings if isinstance(codings, list) else [None]:
        if not isinstance(coding, dict):
            yield None
        else:
            yield from (coding.get(name, "") for name in ("code", "display"))


def _plain(value: Any) -> bool:
    return isinstance(value, str)
