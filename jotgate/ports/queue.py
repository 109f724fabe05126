"""Background work that starts only if the transaction it was asked in is committed."""

from collections.abc import Hashable
from typing import Any, Literal, Protocol

Task = Literal[
    "dispatch_entry",
    "dispatch_change",
    "dispatch_status",
    "send_letter",
    "send_reset",
    "seal_anew",
    "do_work",
    "index_entries",
]

Sql = Any
"""An SQL expression of the database's own library."""


class Queue(Hashable, Protocol):
    def asking(self, task: Task, arguments: Sql) -> Sql:
        """An SQL expression that asks for `task` in the transaction that selects it.

        `arguments` is a JSON object of texts. What was asked for is done at least once.
        """
