"""What every use case is given: the database and the ports."""

from collections import OrderedDict
from dataclasses import dataclass, field
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncConnection, AsyncEngine

from jotgate.core.errors import NotAllowed, NotFound
from jotgate.core.plan import Plan, compile_plan
from jotgate.ports.ids import Ids
from jotgate.ports.mail import Mail, MailRoom
from jotgate.ports.queue import Queue
from jotgate.ports.secrets import Cipher, Passwords
from jotgate.ports.time import Clock
from jotgate.store import questionnaires
from jotgate.store.accounts import Account

PLANS_KEPT = 200
"""Compiled editions that one process keeps; each is as large as its questionnaire."""


@dataclass(frozen=True)
class House:
    engine: AsyncEngine
    clock: Clock
    ids: Ids
    cipher: Cipher
    passwords: Passwords
    queue: Queue
    mail: Mail
    mail_room: MailRoom | None
    session_hours: int
    _plans: OrderedDict[tuple[UUID, int], Plan] = field(default_factory=OrderedDict)

    async def plan(self, conn: AsyncConnection, questionnaire_id: UUID, edition: int) -> Plan:
        """The compiled edition, which never changes once it is published."""
        name = (questionnaire_id, edition)
        plan = self._plans.get(name)
        if plan is None:
            document = await questionnaires.edition(conn, questionnaire_id, edition)
            if document is None:
                raise NotFound("There is no such edition.")
            plan = self._plans[name] = compile_plan(document)
            if len(self._plans) > PLANS_KEPT:
                self._plans.popitem(last=False)
        self._plans.move_to_end(name)
        return plan


def may_write(account: Account) -> None:
    """Raise NotAllowed for an account that may only read."""
    if not account.writes:
        raise NotAllowed("Your account may look at this, not change it.")
