"""What of a view of a register cannot be looked at."""

from collections.abc import Iterator, Mapping, Sequence

from jotgate.core.common.errors import Fault
from jotgate.core.publishing.condition_faults import condition_faults
from jotgate.core.registers.cells import Person
from jotgate.core.registers.columns import Column
from jotgate.core.registers.values import LANGUAGE, column_items
from jotgate.core.table_views import TableView, order_faults


def view_faults(
    view: TableView, columns: Sequence[Column], people: Mapping[str, Person]
) -> Iterator[Fault]:
    items = column_items(columns, people)
    lead, missing = "The filter asks for", ("no_column", "which is no column of this register")
    yield from condition_faults(view.filter, items, LANGUAGE, "filter", lead, missing)
    yield from order_faults(view, {one.key for one in columns}, "this register")
