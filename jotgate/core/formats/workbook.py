"""Tables as XLSX workbooks (ISO/IEC 29500): numbers, days and times as such, all else as text."""

import tempfile
from collections.abc import Iterable, Sequence
from datetime import date, datetime, time
from decimal import Decimal
from pathlib import Path
from typing import Any

from xlsxwriter import Workbook

from jotgate.core.formats.table import Cell

EXACT = 15
"""Digits of a number that a workbook keeps."""

FORMS = {"day": "yyyy-mm-dd", "moment": "yyyy-mm-dd hh:mm", "time": "hh:mm"}

EARLIEST = 1901
"""The first year whose days a workbook has as such, by whatever program."""


class WorkbookFile:
    """A workbook of one sheet, written row by row to a file that `close` leaves to be read."""

    def __init__(self, name: str, head: Sequence[str]) -> None:
        self._folder = tempfile.TemporaryDirectory(prefix="jotgate-")
        self.path = Path(self._folder.name) / "table.xlsx"
        self._book = Workbook(self.path, {"constant_memory": True})
        self._sheet = self._book.add_worksheet(_sheet_name(name))
        self._forms = {
            name: self._book.add_format({"num_format": form}) for name, form in FORMS.items()
        }
        self._bold = self._book.add_format({"bold": True})
        self._rows = 0
        self._write(head, self._bold)
        self._sheet.freeze_panes(1, 0)

    def add(self, rows: Iterable[Sequence[Cell]]) -> None:
        for row in rows:
            self._write(row)

    def _write(self, row: Sequence[Cell], *format: Any) -> None:
        for column, cell in enumerate(row):
            self._put(column, cell, *format)
        self._rows += 1

    def _put(self, column: int, cell: Cell, *format: Any) -> None:
        at = (self._rows, column)
        match cell:
            case None:
                pass
            case bool():
                self._sheet.write_boolean(*at, cell)
            case Decimal() if len(cell.as_tuple().digits) <= EXACT:
                self._sheet.write_number(*at, float(cell))
            case datetime() if cell.year >= EARLIEST:
                local = cell.replace(tzinfo=None)
                self._sheet.write_datetime(*at, local, self._forms["moment"])
            case datetime():
                self._sheet.write_string(*at, cell.isoformat(timespec="minutes"))
            case date() if cell.year >= EARLIEST:
                self._sheet.write_datetime(*at, cell, self._forms["day"])
            case time():
                self._sheet.write_datetime(*at, cell, self._forms["time"])
            case _:
                self._sheet.write_string(*at, str(cell), *format)

    def close(self) -> None:
        self._book.close()

    def remove(self) -> None:
        self._folder.cleanup()


def _sheet_name(name: str) -> str:
    """At most 31 characters, none of those that a sheet's name cannot have."""
    clean = "".join(" " if one in "[]:*?/\\'" else one for one in name)
    return " ".join(clean.split())[:31] or "Table"
