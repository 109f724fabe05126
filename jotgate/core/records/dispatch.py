"""What dispatch did: runs, and rows in registers with what became of them."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from jotgate.core.entries.about import Thing
from jotgate.core.registers.cells import Cell

RunKind = Literal["row", "notice", "call", "status", "care", "contact", "value", "list"]
RunState = Literal["waiting", "done", "failing", "failed", "left_out", "skipped"]
"""A run that is `failing` is tried again by itself; one that `failed` waits for somebody."""


@dataclass(frozen=True)
class Run:
    """One effect on one entry. `part` counts what one act does several times, `round` how often it
    was done before. What came of reaching a `status` says which; that is empty where the entry
    arrived. `detail` of a row has its register and row; of a notice the address and the letter; of
    a call what is called, the body and what was answered; of what is set, or who is put on a list,
    what that is.
    `last_error` says why it was not done, `next_try` when it will be."""

    id: UUID
    questionnaire_id: UUID
    entry_id: UUID
    rule: str
    position: int
    part: int
    kind: RunKind
    state: RunState
    detail: dict[str, Any]
    tries: int
    last_error: str | None
    next_try: datetime | None
    batch: UUID | None
    changed: datetime
    round: int = 0
    status: str = ""


@dataclass(frozen=True)
class Row:
    id: int
    values: dict[str, Cell]
    entry_number: int | None
    filed: datetime
    about: Thing | None = None
    removed: datetime | None = None


RowDid = Literal["filed", "changed", "removed", "restored"]


@dataclass(frozen=True)
class RowChange:
    """What was done to a row: the cells that became others, as they were and as they became, empty
    ones left out. Done by somebody, or by the rule of an entry."""

    row_id: int
    at: datetime
    did: RowDid
    account_id: UUID | None
    rule: str
    entry_number: int | None
    before: Mapping[str, Cell]
    after: Mapping[str, Cell]
