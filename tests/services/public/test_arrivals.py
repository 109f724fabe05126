"""Coming in by a named link or a pass: what it brings, and that nobody gets in who should not."""

import asyncio
from dataclasses import replace
from datetime import timedelta
from typing import Any
from uuid import UUID

import pytest
from cryptography.fernet import Fernet

from jotgate.adapters.secrets import FernetCipher
from jotgate.core.common.errors import KeyReused, LinkRefused, NotFound, PassRefused
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.settings import Gate
from jotgate.core.records.links import Way
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.services import arrivals, doing
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.public import changing, entering, started, submitting
from jotgate.services.public.answering import Answers
from jotgate.services.public.entering import Visit
from jotgate.services.public.started import StartedAnswers
from jotgate.services.public.submitted import Submitted
from jotgate.services.staff.entries import entry_table
from jotgate.services.staff.gate import gate
from jotgate.services.staff.links import batches, named_links, passes
from jotgate.services.staff.links.passes import NewPasses
from tests.conftest import KEY, Clock
from tests.documents import item, options, page, questionnaire
from tests.scenes import Scene, published

TABLE = b"Household,District\nH-1,Saltings\nH-2,Millbeck\nH-3,Saltings\n"


def wells() -> Questionnaire:
    return questionnaire(
        page(
            "start",
            item(
                "carried",
                "district",
                options=options("saltings", "millbeck"),
                sources=[{"kind": "pass"}],
                sealed=True,
                required=True,
                when_wrong="refuse",
            ),
            item("carried", "came", sources=[{"kind": "page"}, {"kind": "moment"}]),
            item("short_text", "name"),
        )
    )


class Wells:
    """A questionnaire whose visitors come by passes and named links."""

    def __init__(self, scene: Scene, id: UUID, address: str) -> None:
        self.scene, self.context, self.id, self.address = scene, scene.context, id, address

    async def link(self, district: str, name: str = "Poster") -> str:
        values = [("district", district)]
        owner = self.scene.coordinator
        made = await named_links.add(self.context, owner, self.id, name, values)
        return made.code

    async def make(self, uses: int | None = 1, expires: Any = None) -> tuple[UUID, list[str]]:
        """Passes for the rows of the table: the batch, and the secrets in their order."""
        owner = self.scene.coordinator
        table, columns = await passes.take_table(self.context, owner, self.id, "t.csv", TABLE)
        wanted = NewPasses("Letters", table.id, columns, (), expires, uses)
        work = await passes.ask(self.context, owner, self.id, wanted)
        await doing.do(self.context, work.id)
        found = await batches.with_links(self.context, owner, self.id, table.id)
        rows = [row async for chunk in found.rows for row in chunk]
        return table.id, [row[-1].rpartition("/")[2] for row in rows]

    async def come(self, way: Way, secret: str, page: str = "") -> Visit:
        entrance = Entrance(way=way, secret=secret, page=page)
        return await entering.visit(self.context, self.address, "", entrance=entrance)

    async def send(self, visit: Visit, key: str, name: str = "Ines") -> Submitted:
        given = Answers("", visit.edition, {"name": name}, arrival=visit.arrival)
        return await submitting.submit(self.context, self.address, given, key.rjust(20, "0"))

    async def entries(self) -> list[dict[str, Any]]:
        found = await entry_table.page(self.context, self.scene.coordinator, self.id)
        return [dict(one.answers) for one in reversed(found.entries)]


@pytest.fixture
async def wells_of(scene: Scene, context: Context) -> Wells:
    return Wells(scene, *await published(context, scene.coordinator, wells()))


async def test_a_named_link_brings_its_values_and_is_counted(wells_of: Wells) -> None:
    code = await wells_of.link("Millbeck")
    visit = await wells_of.come("l", code)
    await wells_of.send(visit, "a")
    await wells_of.send(await wells_of.come("l", code), "b")
    assert [one["district"] for one in await wells_of.entries()] == ["millbeck", "millbeck"]
    ways = await named_links.ways(wells_of.context, wells_of.scene.coordinator, wells_of.id)
    assert [(one.entries, one.latest is not None) for one in ways.named] == [(2, True)]
    assert ways.plain == 0


async def test_a_pass_that_was_used_up_leads_to_what_was_sent_by_it(wells_of: Wells) -> None:
    context, owner = wells_of.context, wells_of.scene.coordinator
    changing_on = Gate.model_validate({"state": "open", "changing": {}})
    await gate.save(context, owner, wells_of.id, changing_on, 2)
    _, secrets = await wells_of.make(uses=1)
    sent = await wells_of.send(await wells_of.come("p", secrets[0]), "a")
    with pytest.raises(PassRefused) as refused:
        await wells_of.come("p", secrets[0])
    assert (refused.value.code, refused.value.params) == ("pass_used_up", {"own": "yes"})
    entrance = Entrance(address=wells_of.address, way="p", secret=secrets[0])
    own = Entrance(visit=await changing.begin(context, entrance))
    visit = await entering.visit(context, wells_of.address, "", entrance=own)
    changed = await wells_of.send(visit, "b", "Tove")
    assert changed.id == sent.id
    (now,) = await wells_of.entries()
    assert now == {**now, "name": "Tove", "district": "saltings"}
    unused = Entrance(address=wells_of.address, way="p", secret=secrets[1])
    with pytest.raises(NotFound):
        await changing.begin(context, unused)


async def test_without_what_it_needs_nobody_comes_in(wells_of: Wells) -> None:
    with pytest.raises(LinkRefused):
        await entering.visit(wells_of.context, wells_of.address, "district=saltings")


async def test_where_and_when_somebody_came_is_known(wells_of: Wells, clock: Clock) -> None:
    code = await wells_of.link("Saltings")
    by_page = await wells_of.come("l", code, page="https://example.net/wells")
    by_none = await wells_of.come("l", code)
    clock.move(timedelta(hours=1))
    await wells_of.send(by_page, "a")
    await wells_of.send(by_none, "b")
    came = [one["came"] for one in await wells_of.entries()]
    assert came == ["https://example.net/wells", "2026-11-25T09:30+00:00"]


async def test_a_shut_link_lets_in_nobody_new(wells_of: Wells, clock: Clock) -> None:
    code = await wells_of.link("Saltings")
    begun = await wells_of.come("l", code)
    owner = wells_of.scene.coordinator
    ways = await named_links.ways(wells_of.context, owner, wells_of.id)
    id = ways.named[0].id
    await named_links.put(wells_of.context, owner, wells_of.id, id, "Poster", True)
    with pytest.raises(PassRefused) as refused:
        await wells_of.come("l", code)
    assert refused.value.code == "pass_link_shut"
    assert (await wells_of.send(begun, "a")).number == 1
    clock.move(timedelta(days=1, seconds=1))
    with pytest.raises(PassRefused):
        await wells_of.send(begun, "b")
    await named_links.put(wells_of.context, owner, wells_of.id, id, "Poster", False)
    assert (await wells_of.send(begun, "b")).number == 2


async def test_every_pass_brings_its_row(wells_of: Wells) -> None:
    batch, secrets = await wells_of.make()
    assert all(len(one) == arrivals.SECRET_LENGTH for one in secrets)
    assert len(set(secrets)) == 3
    for number, secret in enumerate(secrets):
        await wells_of.send(await wells_of.come("p", secret), f"k{number}")
    found = [one["district"] for one in await wells_of.entries()]
    assert found == ["saltings", "millbeck", "saltings"]
    page = await batches.page(wells_of.context, wells_of.scene.coordinator, wells_of.id, batch, 0)
    assert [line.entries for line in page.lines] == [(1,), (2,), (3,)]
    assert [line.row[0] for line in page.lines] == ["H-1", "H-2", "H-3"]


async def test_one_use_is_one_entry_whoever_comes_at_once(wells_of: Wells) -> None:
    _, secrets = await wells_of.make()
    visits = [await wells_of.come("p", secrets[0]) for _ in range(12)]
    sending = (wells_of.send(one, f"k{n}", f"n{n}") for n, one in enumerate(visits))
    found = await asyncio.gather(*sending, return_exceptions=True)
    assert sum(isinstance(one, Submitted) for one in found) == 1
    refused = [one for one in found if isinstance(one, PassRefused)]
    assert {one.code for one in refused} == {"pass_used_up"}
    assert len(refused) == 11
    assert len(await wells_of.entries()) == 1
    ways = await named_links.ways(wells_of.context, wells_of.scene.coordinator, wells_of.id)
    assert (ways.batches[0].used, ways.plain) == (1, 0)


async def test_a_repeated_submission_uses_nothing_up(wells_of: Wells) -> None:
    """Sent again, after a reload too, which brings what is known sealed anew."""
    _, secrets = await wells_of.make(uses=2)
    first = await wells_of.send(await wells_of.come("p", secrets[0]), "same")
    again = await wells_of.send(await wells_of.come("p", secrets[0]), "same")
    assert (first.number, again.number, again.repeated) == (1, 1, True)
    other = await wells_of.come("p", secrets[1])
    with pytest.raises(KeyReused):
        await wells_of.send(other, "same")
    ways = await named_links.ways(wells_of.context, wells_of.scene.coordinator, wells_of.id)
    assert ways.batches[0].used == 1


async def test_a_shut_gate_uses_nothing_up(wells_of: Wells) -> None:
    _, secrets = await wells_of.make()
    visit = await wells_of.come("p", secrets[0])
    owner, shut = wells_of.scene.coordinator, Gate(state="shut")
    await gate.save(wells_of.context, owner, wells_of.id, shut, 2)
    with pytest.raises(Exception, match="not taking answers"):
        await wells_of.send(visit, "a")
    await gate.save(wells_of.context, owner, wells_of.id, Gate(state="open"), 3)
    assert (await wells_of.send(visit, "a")).number == 1


@pytest.mark.parametrize("change", ["cut", "longer", "case", "other", "empty"])
async def test_a_changed_secret_is_unknown(wells_of: Wells, change: str) -> None:
    _, secrets = await wells_of.make()
    one = secrets[0]
    wrong = {
        "cut": one[:-1],
        "longer": f"{one}A",
        "case": one.swapcase(),
        "other": "A" * len(one),
        "empty": "",
    }[change]
    for way in ("p", "l"):
        with pytest.raises(PassRefused) as refused:
            await wells_of.come(way, wrong)
        assert refused.value.code == "pass_unknown"


async def test_a_revoked_pass_is_as_one_that_never_was(wells_of: Wells) -> None:
    batch, secrets = await wells_of.make()
    owner, context = wells_of.scene.coordinator, wells_of.context
    begun = await wells_of.come("p", secrets[1])
    page = await batches.page(context, owner, wells_of.id, batch, 0)
    assert await batches.revoke(context, owner, wells_of.id, batch, page.lines[0].one.id) == 1
    refusals = []
    for secret in (secrets[0], "x" * 22):
        with pytest.raises(PassRefused) as refused:
            await wells_of.come("p", secret)
        refusals.append((refused.value.code, refused.value.message, refused.value.params))
    assert refusals[0] == refusals[1]
    assert await batches.revoke(context, owner, wells_of.id, batch, None) == 2
    with pytest.raises(PassRefused) as late:
        await wells_of.send(begun, "a")
    assert late.value.code == "pass_unknown"
    links = await batches.with_links(context, owner, wells_of.id, batch)
    assert [row[-1] async for chunk in links.rows for row in chunk] == ["", "", ""]


async def test_a_pass_ends_with_its_time(wells_of: Wells, clock: Clock) -> None:
    _, secrets = await wells_of.make(expires=clock.now() + timedelta(hours=2))
    begun = await wells_of.come("p", secrets[0])
    clock.move(timedelta(hours=2))
    for trying in (wells_of.come("p", secrets[0]), wells_of.send(begun, "a")):
        with pytest.raises(PassRefused) as refused:
            await trying
        assert refused.value.code == "pass_expired"


async def test_what_is_known_belongs_to_one_questionnaire(wells_of: Wells) -> None:
    """Nor can it be made up, changed, or kept for ever."""
    code = await wells_of.link("Saltings")
    known = (await wells_of.come("l", code)).arrival
    scene = wells_of.scene
    for sealed in (known[:-4], known.replace(known[30], "A" if known[30] != "A" else "B"), "x"):
        with pytest.raises(LinkRefused):
            arrivals.opened(wells_of.context, wells_of.id, sealed)
    with pytest.raises(LinkRefused):
        await entering.visit(wells_of.context, scene.address, "", entrance=Entrance(arrival=known))
    assert "saltings" not in known.lower()


async def test_what_is_known_does_not_last_for_ever(wells_of: Wells, clock: Clock) -> None:
    known = (await wells_of.come("l", await wells_of.link("Saltings"))).arrival
    clock.move(arrivals.LASTS + timedelta(seconds=1))
    with pytest.raises(LinkRefused, match="too long"):
        arrivals.opened(wells_of.context, wells_of.id, known)


async def test_who_goes_on_later_is_known_still(wells_of: Wells, clock: Clock) -> None:
    """Even where what the browser was given has run out by then."""
    visit = await wells_of.come("l", await wells_of.link("Saltings"))
    token = "a" * 64
    saving = StartedAnswers(1, "", "start", "s", {"name": "I"}, visit.arrival)
    for _ in range(2):
        await started.save(wells_of.context, wells_of.address, token, saving, "127.0.0.1")
        clock.move(timedelta(days=20))
    found = await started.find(wells_of.context, wells_of.address, token)
    again = Answers("", 1, {"name": "Ines"}, arrival=found.arrival)
    await submitting.submit(wells_of.context, wells_of.address, again, "k" * 20)
    assert (await wells_of.entries())[0]["district"] == "saltings"


async def test_everything_that_is_known_comes_back(scene: Scene, context: Context) -> None:
    ids = [UUID(int=n) for n in range(1, 6)]
    known = Arrival(
        values=(("a", "1"), ("a", "2"), ("b.c", "ü")),
        handed=(("d", "3"),),
        contact={"email": "i@example.org"},
        claims={"role": "r"},
        page="https://example.org",
        moment="2026-11-25T12:00+00:00",
        locked=frozenset({"a", "b"}),
        mail="i@example.org",
        came=Came(ids[0], None, ids[1], ids[4], ids[2], ids[3], (ids[2], ids[3])),
    )
    sealed = arrivals.seal(context, scene.id, known)
    context.arrivals.clear()
    assert arrivals.opened(context, scene.id, sealed) == known
    assert arrivals.seal(context, scene.id, Arrival()) == ""


async def test_links_are_read_again_after_the_key_was_rotated(wells_of: Wells) -> None:
    batch, secrets = await wells_of.make()
    keys = [Fernet.generate_key().decode(), KEY]
    rotated = replace(wells_of.context, cipher=FernetCipher(keys))
    found = await batches.with_links(rotated, wells_of.scene.coordinator, wells_of.id, batch)
    rows = [row async for chunk in found.rows for row in chunk]
    assert [row[-1].rpartition("/")[2] for row in rows] == secrets
