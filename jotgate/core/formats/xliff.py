"""The texts of a questionnaire for translators, as XLIFF 1.2, and back.

XLIFF Version 1.2, OASIS Standard, 1 February 2008. A text is a `trans-unit` whose `id` says where
it stands (`core/document/translations.py`); `state` of its `target` says how far it is.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from xml.etree.ElementTree import Element, ParseError, SubElement, register_namespace, tostring

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from pydantic import TypeAdapter, ValidationError

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.common.wording import OF, Language
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.document.translations import State, Translated, state, texts, translated

NAMESPACE = "urn:oasis:names:tc:xliff:document:1.2"
_SPACE = "{http://www.w3.org/XML/1998/namespace}space"
_LANGUAGE: TypeAdapter[str] = TypeAdapter(Language)
_STATES: dict[State, str] = {
    "missing": "needs-translation",
    "older": "needs-review-translation",
    "current": "translated",
}
_TO_REVIEW = frozenset(
    {
        *("needs-adaptation", "needs-l10n"),
        *("needs-review-adaptation", "needs-review-l10n", "needs-review-translation"),
    }
)
_UNFINISHED = frozenset({"new", "needs-translation"})

register_namespace("", NAMESPACE)


def write(questionnaire: Questionnaire, language: str) -> bytes:
    """The texts that have an original, with what there is of them in `language`."""
    first = questionnaire.first_language
    root = Element(_tag("xliff"), version="1.2")
    file = SubElement(
        root,
        _tag("file"),
        {
            "original": "questionnaire",
            "source-language": first,
            "target-language": language,
            "datatype": "plaintext",
        },
    )
    body = SubElement(file, _tag("body"))
    for said in texts(questionnaire):
        stands = state(said.text, language, first)
        if stands == "none":
            continue
        unit = SubElement(body, _tag("trans-unit"), {"id": said.at, _SPACE: "preserve"})
        SubElement(unit, _tag("source")).text = sayable(said.text[first])
        target = SubElement(unit, _tag("target"), state=_STATES[stands])
        target.text = sayable(said.text.get(language, ""))
    data: bytes = tostring(root, encoding="utf-8", xml_declaration=True)
    return data


_UNSAYABLE = re.compile("[^\t\n\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
"""What XML 1.0 (2.2, Char) has no room for."""


def sayable(words: str) -> str:
    """`words` as they come back from XML, which reads carriage returns as line feeds."""
    return _UNSAYABLE.sub("", words.replace("\r\n", "\n").replace("\r", "\n"))


def _tag(name: str) -> str:
    return f"{{{NAMESPACE}}}{name}"


@dataclass(frozen=True)
class Read:
    """A questionnaire with the translations of a file.

    `taken` counts the texts that changed, `older` those among the file's whose original is
    another by now, or that are marked for review; `unknown` are places that the questionnaire does
    not have, or that stand in the file twice.
    """

    questionnaire: Questionnaire
    language: str
    taken: int
    older: int
    unknown: tuple[str, ...]


def read(questionnaire: Questionnaire, data: bytes) -> Read:
    """Import a file's translations; what it leaves empty stays as it is. Raises Invalid."""
    first = questionnaire.first_language
    files = _files(data)
    languages = [_language_of(file, first) for file in files]
    language = languages[0]
    if any(other != language for other in languages):
        raise _refused("Its files are in several languages. Import one language at a time.")
    known = {said.at: said.text for said in texts(questionnaire)}
    given: dict[str, Translated] = {}
    unknown: list[str] = []
    for at, source, words, review in (unit for file in files for unit in _units(file)):
        text = known.get(at)
        if text is None or at in given:
            unknown.append(at)
        elif words.strip() and text.get(first, "").strip():
            original = text[first]
            of = original if source == sayable(original) else source
            if review and of == original:
                before = text.get(f"{language}{OF}", "")
                of = before if before != original else ""
            given[at] = Translated(words, of)
    try:
        whole = translated(questionnaire, language, given)
    except ValidationError:
        raise _refused("A text in it is too long, or there is one language too many.") from None
    after = {said.at: said.text for said in texts(whole)}
    return Read(
        whole,
        language,
        sum(after[at] != known[at] for at in given),
        sum(state(after[at], language, first) == "older" for at in given),
        tuple(unknown),
    )


def _files(data: bytes) -> list[Element]:
    try:
        root: Element = fromstring(data, forbid_dtd=True)
    except ParseError as why:
        raise _refused(f"This is not XML: {why}.") from None
    except DefusedXmlException:
        message = "It declares a document type or entities, which XLIFF has no use for."
        raise _refused(message) from None
    except (LookupError, ValueError):
        raise _refused("It is in an encoding that cannot be read. Save it in UTF-8.") from None
    if root.tag != _tag("xliff") or root.get("version") != "1.2":
        raise _refused("This is not XLIFF 1.2.")
    found = list(root.iter(_tag("file")))
    if not found:
        raise _refused("There is no <file> in it.")
    return found


def _language_of(file: Element, first: str) -> str:
    source, target = file.get("source-language", ""), file.get("target-language", "")
    if source.lower() != first.lower():
        message = f"It is from {source or 'no language'}, and the questionnaire is in {first}."
        raise _refused(message)
    try:
        language = _LANGUAGE.validate_python(target)
    except ValidationError:
        raise _refused(f'Its target-language "{target}" is no language.') from None
    if language == first:
        raise _refused("It translates into the language that the questionnaire is written in.")
    return language


def _units(file: Element) -> Iterator[tuple[str, str, str, bool]]:
    """Place, original and translation of every unit, and whether somebody has to look at that
    again; inline elements count by their text."""
    for unit in file.iter(_tag("trans-unit")):
        target = unit.find(_tag("target"))
        if target is None or target.get("state") in _UNFINISHED:
            words = ""
        else:
            words = "".join(target.itertext())
        source = unit.find(_tag("source"))
        said = "".join(source.itertext() if source is not None else ())
        review = target is not None and target.get("state", "") in _TO_REVIEW
        yield unit.get("id", ""), said, words, review


def _refused(message: str) -> Invalid:
    fault = Fault(code="not_xliff", at="", message=message)
    return Invalid("The translations were not imported. Nothing has changed.", [fault])
