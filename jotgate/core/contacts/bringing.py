"""Contacts out of a table: what its columns probably hold, and its rows read one by one."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from jotgate.core.contacts.contact import NOBODY, says_who
from jotgate.core.contacts.fields import BUILT_IN, ContactField, NotFit, readings
from jotgate.core.formats.table_in import folded, matched

_NAMES: Mapping[str, str] = {
    "id": "key",
    "number": "key",
    "customer number": "key",
    "reference": "key",
    "full name": "name",
    "contact": "name",
    "organisation": "name",
    "organization": "name",
    "household": "name",
    "mail": "email",
    "e mail": "email",
    "email": "email",
    "email address": "email",
    "e mail address": "email",
    "telephone": "phone",
    "phone number": "phone",
    "mobile": "phone",
    "lang": "language",
}
"""Names of columns as people give them (common practice), folded."""


def proposed(columns: Sequence[str], fields: tuple[ContactField, ...]) -> dict[int, str]:
    """By the number of a column, from 0, the field that it probably holds."""
    names = dict(_NAMES)
    for key, label in (*BUILT_IN.items(), *((one.key, one.label) for one in fields)):
        names[folded(label)] = names[folded(key)] = key
    return matched(columns, names)


@dataclass(frozen=True)
class RowRead:
    """A row of a table as a contact; `number` counts rows from 1. `wrong` says why it cannot be
    one; empty where it can."""

    number: int
    values: Mapping[str, str]
    wrong: str = ""


class Rows:
    """Reads the rows of a table whose `columns` hold fields by number."""

    def __init__(self, columns: Mapping[int, str], fields: tuple[ContactField, ...]) -> None:
        known = readings(fields)
        labels = {**BUILT_IN, **{one.key: one.label for one in fields}}
        self._columns = [(at, key, known[key], labels[key]) for at, key in columns.items()]

    def read(self, number: int, row: Sequence[str]) -> RowRead:
        values: dict[str, str] = {}
        for at, key, reading, label in self._columns:
            given = row[at]
            if given:
                try:
                    values[key] = reading(given)
                except NotFit as why:
                    return RowRead(number, {}, f"{label}: {why}")
        return RowRead(number, values, "" if says_who(values) else NOBODY)
