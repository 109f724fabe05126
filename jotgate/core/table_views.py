"""How a table of rows or of entries is looked at: which, in what order, grouped by what, and how
its columns are laid out."""

from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field, StringConstraints

from jotgate.core.common.errors import Fault
from jotgate.core.common.part import Part
from jotgate.core.conditions.condition import Condition

ColumnName = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}(\.[a-z_]{1,40})?$")]
"""The key of a column, or a fact such as `entry.status`."""


class SortBy(Part):
    """Empty cells come last either way."""

    column: ColumnName
    descending: bool = False


class Laid(Part):
    """How a column stands in the table; `width` is in pixels, `away` that it is not shown."""

    column: ColumnName
    width: int = Field(160, ge=48, le=1200)
    away: bool = False


class TableView(Part):
    """`search` is found in what is said. Rows stand by `sort`, then the newest first; with `group`
    in the order of that column, each of its values with its rows. `frozen` columns stay at the
    start; `columns` that are not named follow as the table has them."""

    search: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""
    filter: Condition | None = None
    sort: tuple[SortBy, ...] = Field((), max_length=8)
    group: ColumnName | None = None
    columns: tuple[Laid, ...] = Field((), max_length=400)
    frozen: int = Field(0, ge=0, le=20)

    @property
    def order(self) -> tuple[SortBy, ...]:
        """What rows are sorted by, the group first."""
        if self.group is None:
            return self.sort
        own = next((one for one in self.sort if one.column == self.group), None)
        rest = tuple(one for one in self.sort if one is not own)
        return (own or SortBy(column=self.group), *rest)

    def shown(self, known: Iterable[str]) -> list[str]:
        """Of the columns of a table, those that are shown, in its order; those that it does not
        name follow."""
        left = dict.fromkeys(known)
        laid = [one for one in self.columns if one.column in left]
        named = {one.column for one in laid}
        first = [one.column for one in laid if not one.away]
        return [*first, *(one for one in left if one not in named)]


ViewName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]


@dataclass(frozen=True)
class SavedView:
    """A view under a name of the register or questionnaire `of`, for `account_id` alone or, where
    that is None, for all."""

    id: UUID
    of: UUID
    account_id: UUID | None
    name: str
    view: TableView
    made: datetime


def order_faults(view: TableView, known: Collection[str], where: str) -> Iterator[Fault]:
    """What a view sorts or groups by that is no column of `where`; how a column was laid out that
    is gone is passed over."""
    for position, one in enumerate(view.sort):
        if one.column not in known:
            message = f"There is no column {one.column} to sort by in {where}."
            yield Fault(code="no_column", at=f"sort/{position}", message=message)
    if view.group is not None and view.group not in known:
        message = f"There is no column {view.group} to group by in {where}."
        yield Fault(code="no_column", at="group", message=message)
