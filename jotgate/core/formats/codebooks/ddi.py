"""A codebook in the terms of the Data Documentation Initiative (DDI Codebook 2.5, from memory)."""

from collections.abc import Iterator, Mapping
from itertools import chain
from xml.etree.ElementTree import Element, SubElement, tostring

from jotgate.core.formats.xml_text import fit_for_xml
from jotgate.core.statistics.codebook import Codebook, Described, DescribedTable
from jotgate.core.statistics.variables import MISSING, Form

NAMESPACE = "ddi:codebook:2_5"

FORMATS: Mapping[Form, tuple[str, str]] = {
    "text": ("character", ""),
    "code": ("character", ""),
    "whole": ("numeric", ""),
    "number": ("numeric", ""),
    "day": ("character", "date"),
    "time": ("character", "time"),
    "moment": ("character", "date"),
    "truth": ("character", ""),
}
"""The type of each form, and what category it is of."""


def ddi(book: Codebook) -> bytes:
    """The XML of a codebook with all tables, in UTF-8."""
    tongue = {"xml:lang": book.language}
    root = Element("codeBook", {"xmlns": NAMESPACE, "version": "2.5", **tongue})
    citation = SubElement(SubElement(root, "stdyDscr"), "citation")
    title = SubElement(SubElement(citation, "titlStmt"), "titl")
    title.text = fit_for_xml(book.title)
    produced = SubElement(SubElement(citation, "prodStmt"), "prodDate")
    produced.set("date", book.made.date().isoformat())
    produced.text = book.made.isoformat(timespec="minutes")
    for number, table in enumerate(book.tables, 1):
        _file(root, number, table)
    data = SubElement(root, "dataDscr")
    numbers = iter(range(1, 1_000_000))
    for file, table in enumerate(book.tables, 1):
        for one in table.variables:
            data.append(_variable(one, f"V{next(numbers)}", f"F{file}", table.rows))
    found: bytes = tostring(root, encoding="utf-8", xml_declaration=True)
    return found


def _file(root: Element, number: int, table: DescribedTable) -> None:
    text = SubElement(SubElement(root, "fileDscr", {"ID": f"F{number}"}), "fileTxt")
    SubElement(text, "fileName").text = table.name
    SubElement(text, "fileCont").text = fit_for_xml(table.title)
    measures = SubElement(text, "dimensns")
    SubElement(measures, "caseQnty").text = str(table.rows)
    SubElement(measures, "varQnty").text = str(len(table.variables))


def _variable(one: Described, id: str, file: str, rows: int) -> Element:
    variable, counted = one.variable, one.counted
    kind = "discrete" if variable.categories else "contin"
    found = Element("var", {"ID": id, "name": variable.name, "files": file, "intrvl": kind})
    SubElement(found, "labl").text = fit_for_xml(variable.label)
    if one.kind:
        asked = SubElement(found, "qstn")
        SubElement(asked, "qstnLit").text = fit_for_xml(variable.wording)
    if one.when:
        SubElement(found, "universe").text = fit_for_xml(f"Asked when {one.when}")
    for type_, many in (("vald", counted.answered), ("invd", rows - counted.answered)):
        SubElement(found, "sumStat", {"type": type_}).text = str(many)
    for type_, end in (("min", counted.low), ("max", counted.high)):
        if end is not None and variable.form in ("whole", "number"):
            SubElement(found, "sumStat", {"type": type_}).text = end
    found.extend(chain(_categories(one), _missing(one)))
    type_, category = FORMATS[variable.form]
    SubElement(found, "varFormat", {"type": type_} | ({"category": category} if category else {}))
    return found


def _categories(one: Described) -> Iterator[Element]:
    for each in one.variable.categories:
        many = one.counted.by_code.get(each.code, 0)
        yield _category(each.code, each.label, many, missing=False)


def _missing(one: Described) -> Iterator[Element]:
    if one.variable.told_apart:
        counts = (one.counted.left_empty, one.counted.not_asked)
        for (code, label), many in zip(MISSING.items(), counts, strict=True):
            yield _category(code, label, many, missing=True)


def _category(code: str, label: str, many: int, missing: bool) -> Element:
    found = Element("catgry", {"missing": "Y"} if missing else {})
    SubElement(found, "catValu").text = code
    SubElement(found, "labl").text = fit_for_xml(label)
    SubElement(found, "catStat", {"type": "freq"}).text = str(many)
    return found
