"""At the gate: what a certain visitor would be told at a certain moment, by the same decision."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from decimal import Decimal
from uuid import UUID
from zoneinfo import ZoneInfo

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.common.today import today_in
from jotgate.core.common.values import Value, Values
from jotgate.core.common.wording import closest
from jotgate.core.contacts.contact import Contact
from jotgate.core.gate.decision import Decision, Visitor
from jotgate.core.gate.places import cell_parts, takes_of
from jotgate.core.gate.words import Told
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import NOTHING_KNOWN, Arrival, Came
from jotgate.core.walking.plan import Plan
from jotgate.services import gate
from jotgate.services.context import Context
from jotgate.services.gate import person_of
from jotgate.services.public.confirming import mail_id
from jotgate.services.staff.gate.gate_standing import labels_of
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import in_office, needs
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.gate import admissions, places


@dataclass(frozen=True)
class Supposed:
    """Who comes, and when, in local time (now, where none is given). `contact` is the address or
    key of one whose pass they hold, `mail` an address that they confirmed. `answered` entries of
    theirs count, the last of them at `last`; None for as many as are known. `begun` is when they
    were let in, `given` what they answered."""

    moment: str | None = None
    has_pass: bool = False
    contact: str = ""
    claims: Mapping[str, str] | None = None
    mail: str = ""
    answered: int | None = None
    last: str | None = None
    begun: str | None = None
    given: Mapping[str, object] = field(default_factory=dict)
    language: str = ""


@dataclass(frozen=True)
class Answer:
    """What the gate says: the decision at the moment, and the words for each reason against, with
    the names of what is full."""

    moment: datetime
    decision: Decision
    words: tuple[Told, ...]
    full: tuple[tuple[str, ...], ...]


async def ask(context: Context, account: Account, id: UUID, supposed: Supposed) -> Answer:
    """What somebody would be told. Places are taken as they stand now. Raises Invalid, NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        summary = there(await questionnaires.summary(conn, id))
        if summary.edition is None:
            raise Invalid("Nothing is published yet: nobody can come to the gate.")
        plan = await context.plan(conn, id, summary.edition)
        found = summary.public_state
        zone = plan.questionnaire.time_zone
        moment = _moment(supposed.moment, zone) or context.clock.now()
        contact = await _contact(conn, account, supposed.contact)
        arrival = _arrival(supposed, contact, zone)
        visitor = await gate.invited(conn, found, arrival.came, gate.known(arrival, False))
        visitor = replace(
            visitor,
            has_pass=supposed.has_pass or contact is not None,
            going_on=supposed.begun is not None,
            answered=await _answered(conn, found, arrival.came, supposed, zone, moment),
            takes=takes_of(found.gate.places, _kept(plan, supposed, moment)),
        )
        counts = await places.counts(conn, id)
    decision = gate.judged(context, found, zone, moment, visitor, counts)
    return await _answer(context, plan, found, visitor, supposed, moment, decision)


def _moment(written: str | None, zone: str) -> datetime | None:
    """A local moment; one that the clock shows twice is the first of the two."""
    if not written:
        return None
    try:
        local = datetime.fromisoformat(written).replace(tzinfo=ZoneInfo(zone))
    except ValueError:
        raise Invalid("Write a day and a time, such as 2026-11-30T18:00.") from None
    return local.astimezone(UTC)


async def _contact(conn: Connection, account: Account, named: str) -> Contact | None:
    if not named.strip():
        return None
    in_office(account, "reach")
    name = named.strip()
    found = await contacts.by_key(conn, name) or next(
        iter(await contacts.by_email(conn, name.lower())), None
    )
    if found is None:
        raise NotFound("No contact has this mail address or key.")
    return found


SOMEBODY = UUID(int=0)
"""Whoever is supposed to have signed in; nobody has this id."""


def _arrival(supposed: Supposed, contact: Contact | None, zone: str) -> Arrival:
    begun = _moment(supposed.begun, zone)
    came = Came(
        contact_id=contact.id if contact else None,
        subject_id=SOMEBODY if supposed.claims is not None else None,
        mail_id=mail_id(supposed.mail) if supposed.mail else None,
    )
    return replace(
        NOTHING_KNOWN,
        claims=dict(supposed.claims or {}),
        begun=begun.isoformat() if begun else "",
        mail=supposed.mail.strip().lower(),
        came=came,
    )


async def _answered(
    conn: Connection,
    found: PublicState,
    came: Came,
    supposed: Supposed,
    zone: str,
    moment: datetime,
) -> tuple[datetime, ...]:
    """The entries of theirs that count: those that are supposed, or else those of the contact."""
    limit = found.gate.per_person
    if limit is None:
        return ()
    if supposed.answered is not None:
        last = _moment(supposed.last, zone) or moment
        return (last,) * supposed.answered
    person = person_of(limit, came, "")
    return tuple(await admissions.times_of(conn, found.id, person)) if person else ()


def _kept(plan: Plan, supposed: Supposed, moment: datetime) -> Values:
    """What is answered of what divides places, checked as answers are; carried values as they would
    be brought."""
    today = today_in(plan.questionnaire.time_zone, moment)
    kept: dict[str, Value] = {}
    for key, raw in supposed.given.items():
        item = plan.items.get(key)
        if item is None or raw in (None, "", []):
            continue
        try:
            value = raw if item.kind == "carried" else check(item, raw, today)
        except CheckFailed:
            raise Invalid(f"This is no answer to {key}.") from None
        if isinstance(value, str | bool | Decimal | tuple):
            kept[key] = value
    return kept


async def _answer(
    context: Context,
    plan: Plan,
    found: PublicState,
    visitor: Visitor,
    supposed: Supposed,
    moment: datetime,
    decision: Decision,
) -> Answer:
    language = closest(plan.questionnaire.languages, [supposed.language])
    words = [
        await gate.told_of(context, found, plan, why, visitor, language) for why in decision.why
    ]
    by_key = {one.key: one for one in found.gate.places}
    full = tuple(
        (by_key[cell_parts(cell)[0]].name, *labels_of(by_key[cell_parts(cell)[0]], plan, cell))
        for why in decision.why
        for cell in why.cells
    )
    return Answer(moment, decision, tuple(words), tuple(dict.fromkeys(full)))
