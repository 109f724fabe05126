"""Why the rows of a table that somebody brought will not do."""

from collections.abc import Sequence

from jotgate.core.common.errors import Fault


class RowsWrong(Exception):
    """Nothing is made of the rows; `faults` name those that are to blame."""

    def __init__(self, faults: Sequence[Fault]) -> None:
        super().__init__("rows")
        self.faults = tuple(faults)
