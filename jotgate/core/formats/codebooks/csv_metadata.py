"""A codebook as metadata of CSV files (W3C, Metadata Vocabulary for Tabular Data, 2015)."""

from collections.abc import Mapping
from typing import Any

from jotgate.core.statistics.codebook import Codebook, Described, DescribedTable
from jotgate.core.statistics.variables import MISSING, Form

DATATYPES: Mapping[Form, Any] = {
    "text": "string",
    "code": "string",
    "whole": "integer",
    "number": "decimal",
    "day": {"base": "date", "format": "yyyy-MM-dd"},
    "time": {"base": "time", "format": "HH:mm"},
    "moment": {"base": "dateTime", "format": "yyyy-MM-ddTHH:mmXXX"},
    "truth": {"base": "boolean", "format": "true|false"},
}


def csv_metadata(book: Codebook) -> dict[str, Any]:
    """Of the files beside it, one for each table."""
    return {
        "@context": ["http://www.w3.org/ns/csvw", {"@language": book.language}],
        "dc:title": book.title,
        "dc:created": book.made.isoformat(timespec="seconds"),
        "dialect": {"header": True, "encoding": "utf-8", "lineTerminators": ["\r\n"]},
        "tables": [_table(one) for one in book.tables],
    }


def _table(one: DescribedTable) -> dict[str, Any]:
    schema: dict[str, Any] = {"columns": [_column(each) for each in one.variables]}
    if one.name == "entries":
        schema["primaryKey"] = [one.variables[0].variable.name]
    return {"url": f"{one.name}.csv", "dc:title": one.title, "tableSchema": schema}


def _column(one: Described) -> dict[str, Any]:
    variable = one.variable
    found: dict[str, Any] = {
        "name": variable.name,
        "titles": variable.name,
        "dc:title": variable.label,
        "datatype": DATATYPES[variable.form],
    }
    if one.when:
        found["dc:description"] = f"Asked when {one.when}"
    if variable.form == "code" and variable.categories:
        codes = "|".join(each.code.replace(".", "[.]") for each in variable.categories)
        found["datatype"] = {"base": "string", "format": f"^({codes})$"}
    if variable.told_apart:
        found["null"] = ["", *MISSING]
    return found
