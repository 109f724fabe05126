"""Entries as XML, with their answers as they are stored, by a schema of our own (`entries.xsd`)."""

from collections.abc import Mapping
from pathlib import Path
from typing import Any
from xml.etree.ElementTree import Element, SubElement, tostring

from jotgate.core.entries.entry import Entry
from jotgate.core.formats.xml_text import fit_for_xml
from jotgate.core.handling import named
from jotgate.core.items import Grid, Item, Roster, holding, inside
from jotgate.core.walking.plan import Plan

NAMESPACE = "urn:jotgate:entries:1"

XSD = Path(__file__).with_name("entries.xsd").read_bytes()

HEAD = f'<?xml version="1.0" encoding="UTF-8"?>\n<entries xmlns="{NAMESPACE}">\n'.encode()
FOOT = b"</entries>\n"


def entry_xml(entry: Entry, plan: Plan) -> bytes:
    """An entry that has open answers only, on a line of its own."""
    made = Element(
        "entry",
        number=str(entry.number),
        edition=str(entry.edition),
        arrived=entry.arrived.isoformat(),
        status=named(entry.status),
        finish=entry.finish,
        language=entry.language,
        archived=_truth(entry.archived is not None),
        corrected=_truth(entry.corrected),
    )
    _answers(made, entry.answers, plan.items)
    said: bytes = tostring(made, encoding="utf-8")
    return said + b"\n"


def _truth(said: bool) -> str:
    return "true" if said else "false"


def _answers(at: Element, answers: Mapping[str, Any], items: Mapping[str, Item]) -> None:
    for key, said in answers.items():
        item = items.get(key)
        if item is None or said is None:
            continue
        _said(SubElement(at, "answer", key=key, holds=holding(item)), said, item)


def _said(at: Element, said: Any, item: Item) -> None:
    match item:
        case Roster() if isinstance(said, list):
            for line in said:
                _answers(SubElement(at, "line"), line, _inner(item))
        case Grid() if isinstance(said, dict):
            for code, cells in said.items():
                each = cells if isinstance(cells, list) else [cells]
                for one in each:
                    _answers(SubElement(at, "line", row=code), one, _inner(item))
        case _:
            for one in said if isinstance(said, list) else [said]:
                is_file = isinstance(said, list) and isinstance(one, dict) and "else" not in one
                _value(SubElement(at, "file") if is_file else at, one)


def _inner(item: Item) -> Mapping[str, Item]:
    return {one.key: one for one in inside(item)}


def _value(at: Element, said: Any) -> None:
    """A text, a number, a moment; an option that somebody wrote themselves, a file, or what has
    parts."""
    if isinstance(said, Mapping):
        _parts(at, said)
    else:
        text = _truth(said) if isinstance(said, bool) else str(said)
        SubElement(at, "value").text = fit_for_xml(text)


def _parts(at: Element, said: Mapping[str, Any]) -> None:
    if "else" in said:
        SubElement(at, "value", written="true").text = fit_for_xml(str(said["else"]))
        return
    for name, one in said.items():
        if isinstance(one, Mapping):
            _parts(SubElement(at, "part", name=name), one)
        elif one is not None and one != "":
            text = _truth(one) if isinstance(one, bool) else str(one)
            SubElement(at, "part", name=name).text = fit_for_xml(text)
