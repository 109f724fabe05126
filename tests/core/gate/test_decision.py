"""The decision: by chance settings, visitors and counts, against each rule said once more."""

import hashlib
from collections import Counter
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from itertools import product
from random import Random
from typing import Any
from uuid import UUID

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jotgate.core.common.errors import TooLarge
from jotgate.core.gate.decision import ORDER, Visitor, decide
from jotgate.core.gate.forecast import full_at
from jotgate.core.gate.opening import ALWAYS, Opening
from jotgate.core.gate.people import Confirmed, PassHolders, PerPerson, SignedIn, Who
from jotgate.core.gate.places import Count, Take, cell_of, cell_parts, full_codes, takes_of
from jotgate.core.gate.robots import is_proved
from jotgate.core.gate.settings import Gate, Limit, Places
from jotgate.core.gate.words import told

NOW = datetime(2026, 11, 27, 12, tzinfo=UTC)
LISTS = [UUID(int=n) for n in range(3)]
around = st.integers(-600, 600).map(lambda minutes: NOW + timedelta(minutes=minutes))
openings = st.one_of(
    st.just(ALWAYS),
    st.builds(
        lambda is_open, back, ahead: Opening(
            is_open,
            None if back == 0 else NOW - timedelta(minutes=back),
            None if ahead == 0 else NOW + timedelta(minutes=ahead),
        ),
        st.booleans(),
        st.integers(0, 120),
        st.integers(0, 120),
    ),
)
who: st.SearchStrategy[Who] = st.one_of(
    st.builds(PassHolders, lists=st.sets(st.sampled_from(LISTS), max_size=2).map(tuple)),
    st.builds(
        SignedIn,
        claim=st.sampled_from(["", "groups"]),
        values=st.sets(st.sampled_from(["crew", "lab"]), max_size=2).map(tuple),
        domains=st.sets(st.sampled_from(["example.org", "example.net"]), max_size=2).map(tuple),
    ),
    st.builds(Confirmed, domains=st.sets(st.just("example.net"), max_size=1).map(tuple)),
)
places = st.one_of(
    st.builds(Places, key=st.just("all"), name=st.just("All"), most=st.integers(0, 4)),
    st.builds(
        lambda most, own: Places(
            key="district",
            name="By district",
            by=("district",),
            most=most,
            limits=(Limit(values=("saltings",), most=own),) if own is not None else (),
        ),
        st.none() | st.integers(0, 3),
        st.none() | st.integers(0, 3),
    ),
)
gates = st.builds(
    Gate,
    state=st.sampled_from(["open", "open", "open", "shut", "held"]),
    since=st.none() | around,
    grace=st.sampled_from([0, 30, 90]),
    places=st.lists(places, max_size=2, unique_by=lambda one: one.key).map(tuple),
    per_person=st.none()
    | st.builds(
        PerPerson,
        most=st.integers(1, 3),
        days=st.none() | st.integers(1, 3),
        pause=st.sampled_from([0, 2, 30]),
    ),
    audience=st.lists(who, max_size=2).map(tuple),
)
CELLS = [cell_of("all"), cell_of("district", ("saltings",)), cell_of("district", ("millbeck",))]
counts = st.dictionaries(
    st.sampled_from(CELLS),
    st.builds(Count, *(st.integers(0, 3) for _ in range(2)), st.integers(0, 1)),
)
visitors = st.builds(
    lambda begun, going_on, **more: Visitor(begun=begun, going_on=going_on, **more),
    begun=st.none() | around,
    going_on=st.booleans(),
    has_pass=st.booleans(),
    lists=st.frozensets(st.sampled_from(LISTS)),
    signed_in=st.booleans(),
    claims=st.fixed_dictionaries(
        {},
        optional={
            "groups": st.sampled_from(["crew", "lab", "crew, office", "office"]),
            "email": st.sampled_from(["a@example.org", "b@Example.NET", "c@example.com"]),
            "email_verified": st.sampled_from(["yes", "no"]),
        },
    ),
    opted_out=st.booleans(),
    answered=st.lists(around.map(lambda one: one - timedelta(days=1)), max_size=3).map(tuple),
    held=st.dictionaries(st.sampled_from(CELLS), st.integers(1, 2)),
    waits=st.none() | st.integers(1, 3),
    mail=st.sampled_from(["", "a@example.org", "b@Example.net"]),
)


@st.composite
def shut_meanwhile(draw: st.DrawFn) -> tuple[Gate, Opening, Visitor]:
    """A visitor who began before it shut, by hand or by its times, and perhaps within the grace."""
    grace = draw(st.sampled_from([30, 90]))
    shut = NOW - timedelta(minutes=draw(st.integers(0, 100)))
    by_hand = draw(st.booleans())
    began = shut - timedelta(minutes=draw(st.integers(1, 60)))
    gate = Gate(state="shut" if by_hand else "open", since=shut if by_hand else None, grace=grace)
    opening = ALWAYS if by_hand else Opening(False, shut, None)
    return gate, opening, Visitor(begun=began, going_on=True)


def with_takes(gate: Gate, visitor: Visitor, district: str) -> Visitor:
    takes = takes_of(gate.places, {"district": district} if district else {})
    return Visitor(**{**vars(visitor), "takes": takes})


def reasons(gate: Gate, opening: Opening, visitor: Visitor, found: dict[str, Count]) -> set[str]:
    """Every rule said once more, each for itself."""
    against: set[str] = set()
    grace = timedelta(minutes=gate.grace)

    def graced(since: datetime | None) -> bool:
        begun = visitor.begun if visitor.going_on else None
        return bool(begun and since and begun < since and since <= NOW and NOW - since < grace)

    if gate.state == "held":
        against.add("held")
    if gate.state == "shut" and not graced(gate.since):
        against.add("shut")
    if not opening.open and not graced(opening.since):
        against.add("not_yet" if opening.until else "over")
    if gate.audience:
        if visitor.opted_out:
            against.add("opted_out")
        verified = visitor.claims.get("email_verified") == "yes"
        domain = visitor.claims.get("email", "@").lower().split("@")[1] if verified else ""
        groups = set(visitor.claims.get("groups", "").split(", "))
        invited = False
        for one in gate.audience:
            if isinstance(one, PassHolders):
                invited |= visitor.has_pass and (
                    not one.lists or bool(set(one.lists) & visitor.lists)
                )
            elif isinstance(one, Confirmed):
                at = visitor.mail.lower().split("@")[-1]
                invited |= visitor.mail != "" and (one.domains == () or at in one.domains)
            elif visitor.signed_in:
                free = not one.values and not one.domains
                claim = one.claim == "groups" and bool(groups & set(one.values))
                invited |= free or claim or domain in one.domains
        if not invited:
            against.add("not_invited")
    limit = gate.per_person
    if limit is not None:
        window = timedelta(days=limit.days) if limit.days else timedelta(days=10_000)
        lately = [one for one in visitor.answered if NOW - one < window]
        paused = any(NOW - one < timedelta(hours=limit.pause) for one in visitor.answered)
        if len(lately) >= limit.most or paused:
            against.add("answered")
    wanted = {take.cell: take for take in visitor.takes}
    for place in gate.places:
        if not place.by:
            wanted.setdefault(cell_of(place.key), Take(cell_of(place.key), 1, place.most))
    for cell, take in wanted.items():
        count, own = found.get(cell, Count()), visitor.held.get(cell, 0)
        if take.most is None or take.amount <= own:
            continue
        if count.waiting or count.taken + count.held - own + take.amount > take.most:
            against.add("gone" if visitor.going_on else "full")
            against |= {"waiting"} if visitor.waits else set()
    return against


def judge(
    seen: Counter[str],
    gate: Gate,
    opening: Opening,
    visitor: Visitor,
    found: dict[str, Count],
) -> None:
    decision = decide(gate, opening, NOW, visitor, found)
    given_reasons = [one.reason for one in decision.why]
    assert set(given_reasons) == reasons(gate, opening, visitor, found)
    assert given_reasons == sorted(given_reasons, key=ORDER.index)
    assert decision.admitted == (not given_reasons)
    assert decision == decide(gate, opening, NOW, visitor, found)
    seen.update(map(str, given_reasons))
    seen["admitted"] += decision.admitted
    seen["in grace"] += decision.in_grace
    for why in decision.why:
        if why.until is not None:
            assert why.until > NOW


def test_the_decision_is_each_rule_and_every_reason_is_reached() -> None:
    seen: Counter[str] = Counter()

    @settings(max_examples=2000)
    @given(
        gate=gates,
        opening=openings,
        visitor=visitors,
        found=counts,
        district=st.sampled_from(["", "saltings", "millbeck"]),
    )
    def judged(
        gate: Gate, opening: Opening, visitor: Visitor, found: dict[str, Count], district: str
    ) -> None:
        judge(seen, gate, opening, with_takes(gate, visitor, district), found)

    judged()
    assert min(seen[reason] for reason in [*ORDER, "admitted"]) >= 3


def test_grace_is_reached() -> None:
    seen: Counter[str] = Counter()

    @settings(max_examples=200)
    @given(scene=shut_meanwhile())
    def judged(scene: tuple[Gate, Opening, Visitor]) -> None:
        judge(seen, *scene, {})

    judged()
    assert min(seen[end] for end in ("in grace", "shut", "over")) >= 3


def test_every_reason_has_words_in_every_language() -> None:
    gate = Gate(state="open")
    for reason, language in product(ORDER, ("en", "es", "ar")):
        why = decide(Gate(state="shut"), ALWAYS, NOW, Visitor(), {}).why[0]
        one = type(why)(reason, NOW)
        words = told(gate, one, Visitor(waits=2), language, "en", "Europe/London", "a@example.org")
        assert words.heading
        assert "{" not in words.detail


def test_own_words_take_slots() -> None:
    said = {"not_yet": {"en": "From {opens}. Ask {ask}.", "ar": "من {opens}"}}
    gate = Gate.model_validate({"state": "open", "words": said})
    why = decide(gate, Opening(False, None, NOW), NOW - timedelta(hours=1), Visitor(), {}).why[0]
    words = told(gate, why, Visitor(), "en", "en", "Europe/Berlin", "a@example.org")
    assert words.detail == "From 27 November 2026, 13:00. Ask a@example.org."
    assert "13:00" in told(gate, why, Visitor(), "ar", "en", "Europe/Berlin", "").detail


COMBINED = Places(
    key="kit",
    name="Kits",
    by=("district", "uses"),
    most=2,
    amount="bottles",
    limits=(Limit(values=("saltings", "garden"), most=5),),
)


def test_what_takes_too_many_places_is_refused_and_not_cut_off() -> None:
    both = Places(key="b", name="B", by=("one", "two"), most=1)
    picked = tuple(f"o{n}" for n in range(45))
    assert len(takes_of([both], {"one": picked[:40], "two": picked})) == 1800
    with pytest.raises(TooLarge):
        takes_of([both], {"one": picked, "two": picked})


def test_what_an_entry_takes() -> None:
    kept: dict[str, Any] = {
        "district": "saltings",
        "uses": ("garden", "drinking"),
        "bottles": Decimal("2.5"),
    }
    assert [
        (cell_parts(one.cell)[1], one.amount, one.most) for one in takes_of([COMBINED], kept)
    ] == [
        (("saltings", "drinking"), 3, 2),
        (("saltings", "garden"), 3, 5),
    ]
    assert takes_of([COMBINED], {**kept, "bottles": Decimal(0)}) == ()
    assert takes_of([COMBINED], {"district": "saltings", "bottles": Decimal(1)}) == ()
    yes = Places(key="y", name="Y", by=("car",), most=1)
    assert takes_of([yes], {"car": True})[0].cell == cell_of("y", ("yes",))


def test_options_that_are_full_with_what_is_answered_beside_them() -> None:
    found = {cell_of("kit", ("saltings", "garden")): Count(4)}
    kept: dict[str, Any] = {"district": "saltings", "bottles": Decimal(2)}
    codes = ["garden", "drinking"]
    assert full_codes(COMBINED, "uses", codes, kept, found, {}) == {"garden"}
    own = {cell_of("kit", ("saltings", "garden")): 2}
    assert full_codes(COMBINED, "uses", codes, kept, found, own) == set()
    assert full_codes(COMBINED, "uses", codes, {"bottles": Decimal(2)}, found, {}) == set()


@pytest.mark.parametrize("bits", [0, 1, 8, 12])
def test_a_proof_has_as_many_zero_bits_as_are_asked_for(bits: int) -> None:
    """SHA-256 by FIPS 180-4, as hashlib has it, read as binary digits."""
    proofs = (str(n) for n in range(100_000))
    proof = next(one for one in proofs if is_proved("a key", one, bits))
    digest = hashlib.sha256(f"a key:{proof}".encode()).digest()
    assert f"{int.from_bytes(digest, 'big'):0256b}".startswith("0" * bits)
    for wrong in ("-1", "1e3", "²", "9" * 30, ""):
        assert is_proved("a key", wrong, bits) == (bits == 0)


def test_a_forecast_is_right_nine_times_of_ten() -> None:
    """Arrivals of a steady chance are made up, and how often the place that was the last came
    within what was told is counted."""
    random, inside, tries = Random(1127), 0, 2_000
    for _ in range(tries):
        rate, left = random.uniform(0.5, 3), random.randint(5, 60)
        came, at = 0, random.expovariate(rate)
        while at < 24:
            came, at = came + 1, at + random.expovariate(rate)
        found = full_at(left, came, timedelta(hours=24), NOW)
        if found is None:
            continue
        full = NOW + timedelta(hours=sum(random.expovariate(rate) for _ in range(left)))
        inside += found.low <= full <= found.high
    assert 0.86 < inside / tries < 0.94
