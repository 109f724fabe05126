"""Entries that somebody chose in the table: by their numbers, or all that a view shows but some."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from jotgate.core.records.accounts import Account
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_table import Asked, look_at
from jotgate.store.base import Connection
from jotgate.store.entry_table import pages
from jotgate.store.entry_table.looking import Chosen, Looking


@dataclass(frozen=True)
class Choice:
    """Which entries: those with these `numbers`, or with `all` those that a view shows but these,
    as far as they are there when it is asked for."""

    numbers: tuple[int, ...] = ()
    all: bool = False
    view: TableView = TableView()
    archived: bool = False
    upto: int = 0

    def as_json(self) -> dict[str, Any]:
        return {**vars(self), "view": self.view.model_dump(mode="json")}

    @classmethod
    def from_json(cls, said: Mapping[str, Any]) -> "Choice":
        view = TableView.model_validate(said["view"])
        return cls(**{**said, "numbers": tuple(said["numbers"]), "view": view})


async def count_chosen(
    context: Context, conn: Connection, account: Account, id: UUID, choice: Choice
) -> int:
    if not choice.all:
        return len(choice.numbers)
    look = await _look(context, conn, account, id, choice)
    return await pages.count(conn, look) if look else 0


async def chosen_after(
    context: Context,
    conn: Connection,
    account: Account,
    id: UUID,
    choice: Choice,
    after: int,
    limit: int,
) -> list[int]:
    """The next numbers of those that are chosen, from the smallest on."""
    if not choice.all:
        return sorted(one for one in choice.numbers if one > after)[:limit]
    look = await _look(context, conn, account, id, choice)
    return await pages.numbers(conn, look, after, choice.upto + 1, limit) if look else []


async def chosen_before(
    context: Context,
    conn: Connection,
    account: Account,
    id: UUID,
    choice: Choice,
    before: int | None,
    limit: int,
) -> list[int]:
    """Numbers of those that are chosen, from the largest under `before` back."""
    if not choice.all:
        under = (one for one in choice.numbers if before is None or one < before)
        return sorted(under, reverse=True)[:limit]
    look = await _look(context, conn, account, id, choice)
    return await pages.numbers(conn, look, 0, before, limit, newest_first=True) if look else []


async def _look(
    context: Context, conn: Connection, account: Account, id: UUID, choice: Choice
) -> Looking | None:
    but = Chosen(choice.numbers, but=True) if choice.numbers else None
    asked = Asked(choice.view, archived=choice.archived, chosen=but)
    return (await look_at(context, conn, account, id, asked))[1]
