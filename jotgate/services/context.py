"""What every use case is given: the database and the ports."""

import asyncio
import secrets
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import TypeVar
from uuid import UUID

from jotgate.core.common.errors import NotFound, TooHeavy
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.opening import Opening
from jotgate.core.office import Office
from jotgate.core.proof import Proof
from jotgate.core.proof.routing import RoutingProof
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.shared_pages.page import DrawnPage
from jotgate.core.walking.arrival import Arrival
from jotgate.core.walking.plan import Plan, compile_plan
from jotgate.ports.calls import Calls
from jotgate.ports.data_keys import DataKeys
from jotgate.ports.files import FileInspector, Files
from jotgate.ports.identity import Provider, Providers
from jotgate.ports.ids import Ids
from jotgate.ports.isolated import Isolated, TookTooLong
from jotgate.ports.mail import Mail, MailRoom
from jotgate.ports.passkeys import Passkeys
from jotgate.ports.printing import Printing
from jotgate.ports.proofs import Proofs
from jotgate.ports.queue import Queue
from jotgate.ports.rendering import Rendered, Rendering
from jotgate.ports.sealed_links import SealedLinks
from jotgate.ports.secrets import Cipher, Codes, Passwords
from jotgate.ports.time import Clock
from jotgate.store import editions
from jotgate.store.base import Connection, Engine
from jotgate.store.entries.tallies import STRIPES

PLANS_KEPT = 200
"""Compiled editions that one process keeps; each is as large as its questionnaire."""

ADDRESSES_KEPT = 10_000

ARRIVALS_KEPT = 2_000
"""Arrivals that were opened, by their sealed form, which comes with everything a browser sends."""

PAGES_KEPT = 500
"""Pages that were drawn, by what they start with; some 40 kB each."""

PROOFS_KEPT = 50
"""Proofs of drafts, by questionnaire, revision and day."""

SHARED_KEPT = 200
"""Live pages of figures as they were counted last, by page and revision."""

PDFS_KEPT = 16
"""Pages of figures on paper, by what is on them."""

K = TypeVar("K")
V = TypeVar("V")
T = TypeVar("T")


class Recent(OrderedDict[K, V]):
    """The last `most` things that were asked for; what it holds must never change."""

    def __init__(self, most: int) -> None:
        super().__init__()
        self._most = most

    def find(self, key: K) -> V | None:
        found = self.get(key)
        if found is not None:
            self.move_to_end(key)
        return found

    def keep(self, key: K, value: V) -> V:
        self[key] = value
        if len(self) > self._most:
            self.popitem(last=False)
        return value


@dataclass(frozen=True)
class Context:
    """`public_url` is where people reach us, `bounces` the address that reports about letters go
    to, empty where nothing takes them. `engine` is for transactions, `single` for what is one
    statement and needs none around it, `restricted` is the one that can read restricted answers:
    for where clearance was checked, and for sealing. `addresses` names the questionnaire of a
    public address, `plans` its editions. Staff sign in at `provider`, visitors at `providers`."""

    engine: Engine
    single: Engine
    restricted: Engine
    clock: Clock
    ids: Ids
    cipher: Cipher
    data_keys: DataKeys
    passwords: Passwords
    codes: Codes
    passkeys: Passkeys
    sealed_links: SealedLinks
    provider: Provider | None
    providers: Providers
    queue: Queue
    mail: Mail
    mail_room: MailRoom | None
    calls: Calls
    files: Files
    inspector: FileInspector
    proofs: Proofs
    reading: Isolated
    writing: Isolated
    printing: Printing
    rendering: Rendering
    public_url: str
    session_hours: int
    replaced_for: timedelta
    bounces: str = ""
    addresses: Recent[str, UUID] = field(default_factory=lambda: Recent(ADDRESSES_KEPT))
    plans: Recent[tuple[UUID, int], Plan] = field(default_factory=lambda: Recent(PLANS_KEPT))
    arrivals: Recent[tuple[UUID, str], tuple[float, Arrival]] = field(
        default_factory=lambda: Recent(ARRIVALS_KEPT)
    )

    states: Recent[UUID, PublicState] = field(default_factory=lambda: Recent(PLANS_KEPT))
    """What is at public addresses, as it was when somebody looked last: a submission is let in by
    it, and refused where it is not so any more."""
    cells: Recent[tuple[UUID, str], bool] = field(default_factory=lambda: Recent(ADDRESSES_KEPT))
    """Cells of places, and stripes of tallies, that are known to have a row; `openings` are how
    gates stand by their times, each in a time zone."""
    openings: Recent[tuple[UUID, int, str], tuple[datetime, Opening]] = field(
        default_factory=lambda: Recent(PLANS_KEPT)
    )

    stripes: Recent[UUID, set[int]] = field(default_factory=lambda: Recent(ADDRESSES_KEPT))
    """Those of tallies that this process counts in now; it begins with `first_stripe`."""
    first_stripe: int = field(default_factory=lambda: secrets.randbelow(STRIPES))

    begun: Recent[UUID, bool] = field(default_factory=lambda: Recent(ARRIVALS_KEPT))
    """Passes whose holders are known to have started; `starts` are those that are not stored yet,
    with their questionnaire and the moment."""
    starts: dict[UUID, tuple[UUID, datetime]] = field(default_factory=dict)

    proofs_kept: Recent[tuple[UUID, int, date], Proof] = field(
        default_factory=lambda: Recent(PROOFS_KEPT)
    )
    routings_kept: Recent[bytes, RoutingProof] = field(default_factory=lambda: Recent(PROOFS_KEPT))
    offices: Recent[str, tuple[datetime, Office]] = field(default_factory=lambda: Recent(1))
    pages_kept: Recent[bytes, Rendered] = field(default_factory=lambda: Recent(PAGES_KEPT))
    shared_pages: Recent[tuple[UUID, int], "asyncio.Future[DrawnPage]"] = field(
        default_factory=lambda: Recent(SHARED_KEPT)
    )
    shared_pdfs: Recent[bytes, "asyncio.Future[bytes]"] = field(
        default_factory=lambda: Recent(PDFS_KEPT)
    )

    async def close(self) -> None:
        """End the processes that work for it, and let go of the database."""
        mine = (self.inspector, self.proofs, self.reading, self.writing, self.printing)
        for one in (*mine, self.rendering):
            one.close()
        await self.data_keys.close()
        await self.engine.dispose()
        await self.single.dispose()
        await self.restricted.dispose()

    async def plan(self, conn: Connection, questionnaire_id: UUID, edition: int) -> Plan:
        """The compiled edition, which never changes once it is published."""
        name = (questionnaire_id, edition)
        kept = self.plans.find(name)
        if kept is not None:
            return kept
        document = await editions.edition(conn, questionnaire_id, edition)
        if document is None:
            raise NotFound("There is no such edition.")
        return self.plans.keep(name, await asyncio.to_thread(_compiled, document))

    async def apart(self, task: Callable[..., T], *args: object) -> T:
        """What `task` makes of what somebody sent, in a process of its own. Raises TooHeavy."""
        try:
            return await self.reading.run(task, *args)
        except TookTooLong:
            message = "This takes too long to read. Make it smaller, or import it in parts."
            raise TooHeavy(message) from None


def _compiled(document: str) -> Plan:
    return compile_plan(Questionnaire.model_validate_json(document))
