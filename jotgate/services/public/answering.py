"""A visitor answers: who is let in, and the page to show now."""

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Literal
from urllib.parse import parse_qsl
from uuid import UUID

from jotgate.core.answers.failure_messages import fault_of
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.errors import Fault, NotFound, PassRefused, Shut, SignInNeeded
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import Values
from jotgate.core.common.wording import closest
from jotgate.core.entries.display import Reader
from jotgate.core.entries.said import Saying
from jotgate.core.gate.decision import Decision, Visitor, Why
from jotgate.core.gate.places import Counts, takes_of
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.sign_in import CALLED, VisitorSignIn
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.core.walking.next_page import NextFinish, NextPage, first_page, go_on, onward, stay
from jotgate.core.walking.path import RawAnswers
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import Filled, read_arrival
from jotgate.core.words import page as page_words
from jotgate.services import gate
from jotgate.services.arrivals import PLAINLY, Entrance, Held, come, seal
from jotgate.services.context import Context, Recent
from jotgate.services.gate import NOTHING_SEEN, Seen
from jotgate.services.public import holding, own_entry, starts
from jotgate.services.public.facts import with_facts
from jotgate.services.public.own_entry import Own
from jotgate.store import editions, questionnaires
from jotgate.store.base import Connection
from jotgate.store.gate import admissions
from jotgate.store.links import passes

LINK_VALUES = 200
"""Values of one link that are read."""

LINKS_KEPT, LONGEST_KEPT = 1_000, 200
"""Links of an edition that are kept read, and characters of one at most."""

Move = Literal["begin", "stay", "onward"]


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


@dataclass(frozen=True)
class Answers:
    """What a visitor's browser holds: the link it came by, the edition, the answers so far, and
    what is known of the visitor, sealed.

    An answer that was taken back is there as None: it takes back what the link filled in.
    `language` is that in which the page is shown.
    """

    link: str
    edition: int
    given: RawAnswers
    language: str = ""
    arrival: str = ""
    seen: Seen = NOTHING_SEEN


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
        if arrival.came.own is not None and edition is None and sent is not None:
            number, plan = await edition_at(context, conn, found, sent.entry.edition)
        decision, visitor, counts = await _let_in(
            context, conn, found, plan, language, arrival, seen, edition is not None, sent
        )
    if arrival.came.subject_id is None and arrival.came.own is None:
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
        sign_in=() if arrival.came.subject_id else found.sign_in.providers,
        came=arrival.came,
        called=called(arrival),
        state=found,
        decision=decision,
        counts=counts,
        own=visitor.held,
        sent=sent,
    )


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


@dataclass(frozen=True)
class Turn:
    """Where a visitor wants to go: `move` from the page `page`.

    `item` is the question answered last there, where they are asked one by one; staying, `touched`
    are the places whose failures are wanted.
    """

    move: Move
    page: str
    item: str = ""
    touched: Collection[str] = ()


async def page(
    context: Context, address: str, answers: Answers, turn: Turn
) -> tuple[Visit, NextPage | NextFinish]:
    """The page to show after `turn`."""
    wanted, entrance = [answers.language], Entrance(arrival=answers.arrival)
    visitor = await visit(
        context, address, answers.link, wanted, answers.edition, entrance, answers.seen
    )
    own = visitor.came.own
    told = await with_facts(context, visitor.plan, visitor.id, answers.given, own)
    if visitor.came.pass_id is not None and turn.move == "onward":
        starts.note(context, visitor.id, visitor.came.pass_id)
    if visitor.replaced:
        return visitor, _carry_on(visitor, told, turn.page)
    following = move_on(visitor, told, turn)
    if visitor.state is None or not visitor.state.gate.places:
        return visitor, following
    return await with_places(context, visitor.state, visitor, told, turn, following, answers.seen)


async def with_places(
    context: Context,
    found: PublicState,
    visitor: Visit,
    told: RawAnswers,
    turn: Turn,
    following: NextPage | NextFinish,
    seen: Seen,
) -> tuple[Visit, NextPage | NextFinish]:
    """The same with the places held that the answers take; where one is full by now, the page with
    its question instead. Raises Shut where there is none left at all."""
    if turn.move != "onward":
        return visitor, following
    kept = following.walk.kept if isinstance(following, NextFinish) else following.kept
    takes = takes_of(found.gate.places, kept)
    if found.gate.hold and visitor.came.own is None:
        held = await holding.keep(context, found, kept, visitor.came, seen)
        async with context.single.connect() as conn:
            counts = await gate.counts_of(conn, found)
        own = (
            {one.cell: one.amount for one in takes} if held.until and not held.full else visitor.own
        )
        visitor = replace(visitor, held_until=held.until, counts=counts, own=own)
    else:
        held = holding.Held(full=holding.full_of(takes, visitor.counts, visitor.own))
    if not held.full:
        return visitor, following
    item = holding.item_of(found.gate, visitor.plan, held.full[0], kept)
    if item is None:
        why = Why("gone", cells=held.full)
        decision = Decision((why,))
        plan, language = visitor.plan, visitor.language
        await gate.refuse(context, found, plan, decision, Visitor(going_on=True), language)
        return visitor, following
    given = with_filled(visitor.filled, told)
    at = page_of(visitor.plan, item)
    page = stay(visitor.plan, given, visitor.filled.carried, visitor.today, at)
    return visitor, replace(page, failed={item: CheckFailed("option_full")})


def page_of(plan: Plan, item: str) -> str:
    """The key of the page that a question stands on."""
    pages = plan.questionnaire.pages
    return next(page.key for page in pages if any(one.key == item for one in page.items))


def _carry_on(visitor: Visit, told: RawAnswers, at: str) -> NextPage:
    """Where somebody goes on in a new edition: the first page on which an answer does not fit,
    else the page that they were on."""
    given = with_filled(visitor.filled, told)
    return go_on(visitor.plan, given, visitor.filled.carried, visitor.today, at)


def move_on(visitor: Visit, told: RawAnswers, turn: Turn) -> NextPage | NextFinish:
    """Where `turn` leads, with what the link filled in."""
    plan, carried, today = visitor.plan, visitor.filled.carried, visitor.today
    given = with_filled(visitor.filled, told)
    match turn.move:
        case "begin":
            return first_page(plan, given, carried, today)
        case "stay":
            return stay(plan, given, carried, today, turn.page, turn.touched)
        case "onward":
            return onward(plan, given, carried, today, turn.page, turn.item)


def faults_of(
    plan: Plan, failed: Mapping[str, CheckFailed], language: str, known: Values
) -> list[Fault]:
    """Failures by place as faults with words in `language`, which may speak of what is `known`."""
    first = plan.questionnaire.first_language
    filled = Saying(Reader(plan, language), known).filled
    return [
        fault_of(plan.items, place, why, language, first, filled) for place, why in failed.items()
    ]
