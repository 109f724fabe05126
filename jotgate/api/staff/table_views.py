"""Views of tables as they are sent: in the address, and kept under a name."""

from typing import Annotated
from uuid import UUID

from fastapi import Depends, Query
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel, ValidationError

from jotgate.api.body import read_json
from jotgate.core.table_views import SavedView, TableView, ViewName
from jotgate.services.staff.views import ViewGiven


def _in_address(view: Annotated[str, Query(max_length=20_000)] = "{}") -> TableView:
    """A view that is written in the address, as JSON. Raises RequestValidationError."""
    return _view(view)


def _beside(beside: Annotated[str | None, Query(max_length=20_000)] = None) -> TableView | None:
    """A second view, where there is one."""
    return None if beside is None else _view(beside)


def _view(view: str) -> TableView:
    try:
        return TableView.model_validate(read_json(view.encode()))
    except ValidationError as error:
        raise RequestValidationError(error.errors(include_url=False)) from None


InAddress = Annotated[TableView, Depends(_in_address)]
BesideInAddress = Annotated[TableView | None, Depends(_beside)]


class ViewIn(BaseModel):
    """`for_all` needs the right to change what it is a view of."""

    name: ViewName
    for_all: bool = False
    view: TableView

    def given(self) -> ViewGiven:
        return ViewGiven(self.name, self.view, self.for_all)


class ViewOut(BaseModel):
    """A view that is kept; `for_all` or for oneself alone."""

    id: UUID
    name: str
    for_all: bool
    view: TableView


def view_out(one: SavedView) -> ViewOut:
    return ViewOut(id=one.id, name=one.name, for_all=one.account_id is None, view=one.view)
