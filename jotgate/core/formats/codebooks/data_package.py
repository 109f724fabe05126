"""A codebook as the description of a data package (Data Package and Table Schema, version 1)."""

from collections.abc import Mapping
from typing import Any

from jotgate.core.statistics.codebook import Codebook, Described, DescribedTable
from jotgate.core.statistics.variables import MISSING, Form

TYPES: Mapping[Form, Mapping[str, str]] = {
    "text": {"type": "string"},
    "code": {"type": "string"},
    "whole": {"type": "integer"},
    "number": {"type": "number"},
    "day": {"type": "date"},
    "time": {"type": "time", "format": "%H:%M"},
    "moment": {"type": "datetime", "format": "%Y-%m-%dT%H:%M%z"},
    "truth": {"type": "boolean"},
}


def data_package(book: Codebook) -> dict[str, Any]:
    """Of the CSV files beside it, one for each table."""
    return {
        "profile": "tabular-data-package",
        "name": "entries",
        "title": book.title,
        "created": book.made.isoformat(timespec="seconds"),
        "resources": [_resource(one, book.tables[0]) for one in book.tables],
    }


def _resource(one: DescribedTable, first: DescribedTable) -> dict[str, Any]:
    key = one.variables[0].variable.name
    schema: dict[str, Any] = {
        "fields": [_field(each) for each in one.variables],
        "missingValues": ["", *MISSING],
    }
    if one is first:
        schema["primaryKey"] = key
    else:
        there = {"resource": first.name, "fields": first.variables[0].variable.name}
        schema["foreignKeys"] = [{"fields": key, "reference": there}]
    return {
        "profile": "tabular-data-resource",
        "name": one.name.replace("_", "-"),
        "title": one.title,
        "path": f"{one.name}.csv",
        "format": "csv",
        "mediatype": "text/csv",
        "encoding": "utf-8",
        "dialect": {"lineTerminator": "\r\n"},
        "schema": schema,
    }


def _field(one: Described) -> dict[str, Any]:
    variable = one.variable
    found: dict[str, Any] = {"name": variable.name, "title": variable.label}
    found |= TYPES[variable.form]
    if one.when:
        found["description"] = f"Asked when {one.when}"
    if variable.form == "code" and variable.categories:
        found["constraints"] = {"enum": [each.code for each in variable.categories]}
    return found
