"""Tables as XLSX workbooks (ISO/IEC 29500), in which every cell is text."""

import tempfile
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any

from xlsxwriter import Workbook


class WorkbookFile:
    """A workbook of one sheet, written row by row to a file that `close` leaves to be read."""

    def __init__(self, name: str, head: Sequence[str]) -> None:
        self._folder = tempfile.TemporaryDirectory(prefix="jotgate-")
        self.path = Path(self._folder.name) / "table.xlsx"
        self._book = Workbook(self.path, {"constant_memory": True})
        self._sheet = self._book.add_worksheet(_sheet_name(name))
        self._bold = self._book.add_format({"bold": True})
        self._rows = 0
        self._write(head, self._bold)
        self._sheet.freeze_panes(1, 0)

    def add(self, rows: Iterable[Sequence[str]]) -> None:
        for row in rows:
            self._write(row)

    def _write(self, row: Sequence[str], *format: Any) -> None:
        for column, cell in enumerate(row):
            self._sheet.write_string(self._rows, column, cell, *format)
        self._rows += 1

    def close(self) -> None:
        self._book.close()

    def remove(self) -> None:
        self._folder.cleanup()


def _sheet_name(name: str) -> str:
    """At most 31 characters, none of those that a sheet's name cannot have."""
    clean = "".join(" " if one in "[]:*?/\\'" else one for one in name)
    return " ".join(clean.split())[:31] or "Table"
