"""A visitor comes in: who is let in, by what they came, and in which edition."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from urllib.parse import parse_qsl
from uuid import UUID

from jotgate.core.common.errors import NotFound, PassRefused, Shut, SignInNeeded
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.today import Today, today_in
from jotgate.core.common.wording import closest
from jotgate.core.gate.decision import Decision, Visitor
from jotgate.core.gate.places import Counts
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.sign_in import CALLED, VisitorSignIn
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.core.walking.path import RawAnswers
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import Filled, read_arrival
from jotgate.core.words import page as page_words
from jotgate.services import gate
from jotgate.services.arrivals import PLAINLY, Entrance, Held, come, seal
from jotgate.services.by_staff import may_still
from jotgate.services.context import Context, Recent
from jotgate.services.gate import NOTHING_SEEN, Seen
from jotgate.services.public import own_entry
from jotgate.services.public.own_entry import Own
from jotgate.store import editions, questionnaires
from jotgate.store.base import Connection
from jotgate.store.gate import admissions
from jotgate.store.links import passes

LINK_VALUES = 200
"""Values of one link that are read."""

LINKS_KEPT, LONGEST_KEPT = 1_000, 200
"""Links of an edition that are kept read, and characters of one at most."""


@dataclass(frozen=True)
class Visit:
    """A visitor who was let in: the edition they answer and what their link brought.

    `language` is that of the questionnaire's that suits the visitor best. `replaced` tells that
    the edition that they began on has gone. `arrival` is what is known of them, sealed; `frames`
    are the sites that may show the page in a frame. `came` says by what they came, `called` as whom
    they signed in; `sign_in` are the providers that they may do so at, none once they have. `state`
    is what is at the address, none for a draft that is tried; `decision` is that of its gate,
    `counts` how its places stand, `own` those that are held for the visitor, by cell. `sent` is
    what they sent before, where they may change it.
    """

    id: UUID
    plan: Plan
    edition: int
    filled: Filled
    today: Today
    language: str
    replaced: bool = False
    arrival: str = ""
    frames: tuple[str, ...] = ()
    sign_in: tuple[UUID, ...] = ()
    came: Came = Came()
    called: str = ""
    state: PublicState | None = None
    decision: Decision = Decision(())
    counts: Counts = field(default_factory=dict)
    own: Mapping[str, int] = field(default_factory=dict)
    held_until: datetime | None = None
    sent: Own | None = None

    @property
    def is_known(self) -> bool:
        """Whether they signed in, or confirmed a mail address."""
        return self.came.subject_id is not None or self.came.mail_id is not None


async def public_state(conn: Connection, address: str) -> PublicState:
    found = await questionnaires.public_state(conn, address)
    if found is None:
        raise NotFound("There is no questionnaire at this address.")
    return found


async def visit(
    context: Context,
    address: str,
    link: str,
    wanted: Iterable[str] = (),
    edition: int | None = None,
    entrance: Entrance = PLAINLY,
    seen: Seen = NOTHING_SEEN,
) -> Visit:
    """Let a visitor in who came by `entrance` with `link`, a query string, and reads the languages
    `wanted`.

    Raises NotFound, Shut, LinkRefused, PassRefused, SignInNeeded.
    """
    async with context.single.connect() as conn:
        found, held = await standing(conn, address, entrance)
        begun = found.edition if edition is None else edition
        context.states.keep(found.id, found)
        number, plan = await edition_at(context, conn, found, begun)
        document = plan.questionnaire
        language = closest(document.languages, wanted)
        today = today_in(document.time_zone, context.clock.now())
        where = replace(entrance, address=address)
        arrival = await _come(context, conn, found, plan, where, held, today)
        sent = await own_entry.find(context, conn, found, document.time_zone, arrival.came)
        number, plan = await _own_edition(
            context, conn, found, arrival, sent, (number, plan), edition is not None
        )
        decision, visitor, counts = await _let_in(
            context, conn, found, plan, language, arrival, seen, edition is not None, sent
        )
    came = arrival.came
    if came.subject_id is None and came.own is None and came.staff_id is None:
        needs_sign_in(found.sign_in)
    sealed = entrance.arrival or seal(context, found.id, arrival)
    filled = read(plan, link, today, arrival, number, sealed)
    if arrival.came.own is not None and sent is not None:
        filled = await own_entry.filled_again(context, plan, sent.entry, today, filled)
    return Visit(
        found.id,
        plan,
        number,
        filled,
        today,
        language,
        replaced=edition is not None and number != edition,
        arrival=sealed,
        frames=found.frames,
        sign_in=() if came.subject_id or came.staff_id else found.sign_in.providers,
        came=arrival.came,
        called=called(arrival),
        state=found,
        decision=decision,
        counts=counts,
        own=visitor.held,
        sent=sent,
    )


async def _own_edition(
    context: Context,
    conn: Connection,
    found: PublicState,
    arrival: Arrival,
    sent: Own | None,
    answers: tuple[int, Plan],
    begun: bool,
) -> tuple[int, Plan]:
    """The edition in which what somebody `sent` is changed: where they begin, its own as long as
    that is answered, then the one of their `answers`; where it is corrected, its own always."""
    if arrival.came.own is None or sent is None:
        return answers
    if arrival.came.staff_id is not None:
        number = sent.entry.edition
        return number, await context.plan(conn, found.id, number)
    return answers if begun else await edition_at(context, conn, found, sent.entry.edition)


async def _come(
    context: Context,
    conn: Connection,
    found: PublicState,
    plan: Plan,
    entrance: Entrance,
    held: Held | None,
    today: Today,
) -> Arrival:
    """What is known of somebody who comes in; where their pass was used up, it is said whether what
    they sent by it can be changed."""
    try:
        return await come(
            context, conn, found.id, plan, entrance, held, today, found.gate.knows_begun
        )
    except PassRefused as refused:
        if refused.code == "pass_used_up" and held is not None:
            came = Came(pass_id=held.one.id)
            zone = plan.questionnaire.time_zone
            if await own_entry.find(context, conn, found, zone, came):
                refused.params["own"] = "yes"
        raise


async def _let_in(
    context: Context,
    conn: Connection,
    found: PublicState,
    plan: Plan,
    language: str,
    arrival: Arrival,
    seen: Seen,
    going_on: bool,
    sent: Own | None,
) -> tuple[Decision, Visitor, Counts]:
    """Let somebody in at the gate, or to what they `sent`, where they came to change that. Raises
    Shut, SignInNeeded."""
    if arrival.came.own is None:
        try:
            return await gate.let_in(context, conn, found, plan, language, arrival, seen, going_on)
        except Shut as refused:
            if sent is not None:
                refused.params["own"] = "yes"
            raise
    if sent is None:
        raise Shut(page_words(language)["own_over"])
    await may_still(context, conn, found.id, plan, arrival.came)
    taken = await admissions.of_entry(conn, found.id, sent.entry.id)
    counted = taken is not None and not found.gate.frees(sent.entry.status)
    visitor = Visitor(going_on=True, held=taken.takes if taken and counted else {})
    return Decision((), until=sent.until), visitor, await gate.counts_of(conn, found)


def called(arrival: Arrival) -> str:
    """What to call whoever signed in, or confirmed an address."""
    return next((arrival.claims[one] for one in CALLED if arrival.claims.get(one)), arrival.mail)


def needs_sign_in(sign_in: VisitorSignIn) -> None:
    """Raise SignInNeeded for somebody who did not sign in where one has to."""
    if sign_in.needed:
        raise SignInNeeded


async def standing(
    conn: Connection, address: str, entrance: Entrance
) -> tuple[PublicState, Held | None]:
    """What is at `address`, and the pass by which somebody comes. Raises NotFound."""
    if entrance.way != "p" or entrance.arrival:
        return await public_state(conn, address), None
    found = await passes.by_hash(conn, address, hash_of(entrance.secret))
    if found is None:
        raise NotFound("There is no questionnaire at this address.")
    state, one, contact = found
    return state, Held(one, contact) if one else None


async def state_of(context: Context, address: str) -> PublicState | None:
    """What is at a public address, whether or not it lets anybody in."""
    async with context.single.connect() as conn:
        return await questionnaires.public_state(conn, address)


async def edition_at(
    context: Context, conn: Connection, found: PublicState, edition: int
) -> tuple[int, Plan]:
    """The edition that somebody who began on `edition` answers now: that one, or the newest, once
    it was replaced for longer than people are given to end what they began. Raises NotFound.
    """
    if not 1 <= edition <= found.edition:
        raise NotFound("There is no such edition. Open the link again.")
    if edition < found.edition:
        since = await editions.replaced(conn, found.id, edition)
        if since is not None and since < context.clock.now() - context.replaced_for:
            edition = found.edition
    return edition, await context.plan(conn, found.id, edition)


def with_filled(filled: Filled, given: RawAnswers) -> RawAnswers:
    """What was filled in, under what the visitor answered, but over it where it is locked; an
    empty answer counts."""
    return {**filled.answers, **given, **filled.locked}


def read(
    plan: Plan, link: str, today: Today, arrival: Arrival, edition: int, sealed: str
) -> Filled:
    """What a link's query string brings, and an arrival, which is `sealed`. Raises LinkRefused.

    Many come by the same link, and everybody asks again with the same arrival. What they bring is
    kept where it has nothing but carried values: those are the same at any time.
    """
    at = ("links", edition, bool(sealed))
    kept: Recent[tuple[str, str], Filled] = plan.made.setdefault(at, Recent(LINKS_KEPT))
    known = kept.find((link, sealed))
    if known is not None:
        return known
    pairs = parse_qsl(link, keep_blank_values=True)[:LINK_VALUES]
    found = read_arrival(plan, pairs, today, arrival, edition)
    fixed = sealed or "moment" not in plan.sources
    brought = (*pairs, *arrival.values, *arrival.handed)
    alike = all(_arrives_alike(plan, name) for name, _ in brought)
    if fixed and alike and len(link) <= LONGEST_KEPT:
        kept.keep((link, sealed), found)
    return found


def _arrives_alike(plan: Plan, key: str) -> bool:
    item = plan.items.get(key.partition(".")[0])
    return item is None or item.kind == "carried"
