"""The names that FHIR R4 gives to what both it and we can say (HL7 FHIR R4, Questionnaire)."""

from collections.abc import Mapping
from typing import Any

_BASE = "http://hl7.org/fhir/StructureDefinition/"
TRANSLATION = _BASE + "translation"
MIN_LENGTH = _BASE + "minLength"
REGEX = _BASE + "regex"
ENTRY_FORMAT = _BASE + "entryFormat"
MIN_VALUE = _BASE + "minValue"
MAX_VALUE = _BASE + "maxValue"
DECIMALS = _BASE + "maxDecimalPlaces"
MAX_SIZE = _BASE + "maxSize"
UNIT = _BASE + "questionnaire-unit"
HIDDEN = _BASE + "questionnaire-hidden"
MIN_OCCURS = _BASE + "questionnaire-minOccurs"
MAX_OCCURS = _BASE + "questionnaire-maxOccurs"
EXCLUSIVE = _BASE + "questionnaire-optionExclusive"
CONTROL = _BASE + "questionnaire-itemControl"
CONTROLS = "http://hl7.org/fhir/questionnaire-item-control"

LOOKS = {"list": "radio-button", "dropdown": "drop-down"}
"""How pick one is laid out, as codes of `CONTROLS`; buttons have none."""

OPERATORS = {"is": "=", "is_not": "!=", "at_least": ">=", "at_most": "<=", "more_than": ">"} | {
    "less_than": "<"
}


TYPES: Mapping[str, str] = {
    "short_text": "string",
    "long_text": "text",
    "email": "string",
    "phone": "string",
    "web_address": "url",
    "number": "decimal",
    "date": "date",
    "time": "time",
    "date_time": "dateTime",
    "yes_no": "boolean",
    "pick_one": "choice",
    "pick_many": "choice",
    "rank": "choice",
    "scale": "integer",
    "name": "string",
    "address": "text",
    "location": "string",
    "file": "attachment",
    "signature": "attachment",
    "grid": "group",
    "roster": "group",
    "note": "display",
    "picture": "display",
    "video": "display",
    "carried": "string",
    "computed": "string",
}
"""The type of an item by its kind here."""

LOST: Mapping[str, str] = {
    "email": "that it is a mail address",
    "phone": "that it is a phone number",
    "rank": "that the options are put in order",
    "name": "the parts of the name",
    "address": "the parts of the address",
    "location": "that it is a place, and the area it has to lie in",
    "signature": "that it is a signature",
    "grid": "the rows",
    "picture": "the picture",
    "video": "the video",
    "carried": "what may be carried, and what happens to a wrong value",
    "computed": "the formula",
}
"""What the type does not say of a kind."""


def extension(url: str, kind: str, value: Any) -> dict[str, Any]:
    return {"url": url, f"value{kind}": value}


def control(code: str) -> dict[str, Any]:
    coding = {"system": CONTROLS, "code": code}
    return extension(CONTROL, "CodeableConcept", {"coding": [coding]})


def extended(part: Any, url: str) -> Any:
    """The value of the extension `url` of `part`, None where it has none."""
    found = part.get("extension") if isinstance(part, dict) else None
    for one in found if isinstance(found, list) else ():
        if isinstance(one, dict) and one.get("url") == url:
            return next((v for name, v in one.items() if name.startswith("value")), None)
    return None


def controlled(part: Any) -> str:
    """The code of the control that `part` asks for, if it is one of FHIR's."""
    concept = extended(part, CONTROL)
    codings = concept.get("coding", ()) if isinstance(concept, dict) else ()
    return next((str(one.get("code", "")) for one in codings), "")
