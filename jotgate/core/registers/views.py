"""How the rows of a register are looked at: which, in what order, grouped by what, and how its
columns are laid out."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field, StringConstraints

from jotgate.core.common.errors import Fault
from jotgate.core.common.part import Key, Part
from jotgate.core.conditions.condition import Condition
from jotgate.core.publishing.condition_faults import condition_faults
from jotgate.core.registers.cells import Person
from jotgate.core.registers.columns import Column
from jotgate.core.registers.values import LANGUAGE, column_items


class SortBy(Part):
    """Empty cells come last either way."""

    column: Key
    descending: bool = False


class Laid(Part):
    """How a column stands in the grid; `width` is in pixels, `away` that it is not shown."""

    column: Key
    width: int = Field(160, ge=48, le=1200)
    away: bool = False


class RowView(Part):
    """`search` is found in what cells say. Rows stand by `sort`, then the newest first; with
    `group` in the order of that column, each of its values with its rows. `frozen` columns stay at
    the start; `columns` that are not named follow as the register has them."""

    search: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""
    filter: Condition | None = None
    sort: tuple[SortBy, ...] = Field((), max_length=8)
    group: Key | None = None
    columns: tuple[Laid, ...] = Field((), max_length=100)
    frozen: int = Field(0, ge=0, le=20)

    @property
    def order(self) -> tuple[SortBy, ...]:
        """What rows are sorted by, the group first."""
        if self.group is None:
            return self.sort
        own = next((one for one in self.sort if one.column == self.group), None)
        rest = tuple(one for one in self.sort if one is not own)
        return (own or SortBy(column=self.group), *rest)


ViewName = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]


@dataclass(frozen=True)
class SavedView:
    """A view under a name, for `account_id` alone or, where that is None, for all."""

    id: UUID
    register_id: UUID
    account_id: UUID | None
    name: str
    view: RowView
    made: datetime


def view_faults(
    view: RowView, columns: Sequence[Column], people: Mapping[str, Person]
) -> Iterator[Fault]:
    """What of a view cannot be looked at; how a column was laid out that is gone is passed over."""
    items = column_items(columns, people)
    lead, missing = "The filter asks for", ("no_column", "which is no column of this register")
    yield from condition_faults(view.filter, items, LANGUAGE, "filter", lead, missing)
    known = {one.key for one in columns}
    for position, one in enumerate(view.sort):
        if one.column not in known:
            message = f"There is no column {one.column} to sort by."
            yield Fault(code="no_column", at=f"sort/{position}", message=message)
    if view.group is not None and view.group not in known:
        message = f"There is no column {view.group} to group by."
        yield Fault(code="no_column", at="group", message=message)
