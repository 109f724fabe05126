"""A questionnaire, wells with their keepers as contacts in two districts, and rounds over them."""

import re
from collections.abc import Sequence
from datetime import timedelta
from typing import Any
from uuid import UUID

import pytest

from jotgate.core.contacts.fields import ContactField
from jotgate.core.mailing import MailingText
from jotgate.core.records.rounds import RoundState as State
from jotgate.core.rounds.round import Round
from jotgate.jobs import tasks
from jotgate.services import doing
from jotgate.services.arrivals import Entrance, opened
from jotgate.services.context import Context
from jotgate.services.public import entering, starts, submitting
from jotgate.services.public.answering import Answers
from jotgate.services.rounds.state import RoundState
from jotgate.services.staff.contacts import contacts, fields, lists
from jotgate.services.staff.rounds import drawing, names, progress, rounds
from jotgate.services.staff.rounds.names import Which
from jotgate.services.staff.rounds.progress import Progress
from tests.conftest import Clock, Post
from tests.documents import item, page, questionnaire
from tests.scenes import Scene, published

TEXT = MailingText(
    subject={"en": "Your well"}, body={"en": "Dear {contact.name|neighbour},\n\n{link}\n"}
)
DISTRICT = ContactField(key="district", label="District", kind="pick", options=("Fell", "Saltings"))


def step(key: str, way: str = "mail", **more: Any) -> dict[str, Any]:
    text = {"text": TEXT.model_dump()} if way in ("mail", "paper") else {}
    return {"key": key, "name": key.title(), "way": way, "after": 24, **text, **more}


class Wells:
    """A round of steps a day apart over `count` contacts, every other one of the Saltings."""

    def __init__(self, scene: Scene, context: Context, post: Post, clock: Clock) -> None:
        self.who, self.reviewer = scene.coordinator, scene.reviewer
        self.context, self.post, self.clock = context, post, clock
        self.id, self.address, self.list = UUID(int=0), "", UUID(int=0)
        self.ids: list[UUID] = []
        self.round = UUID(int=0)

    async def opened(self, count: int = 6) -> "Wells":
        document = questionnaire(page("start", item("short_text", "name")))
        self.id, self.address = await published(self.context, self.who, document)
        await fields.add(self.context, self.who, DISTRICT)
        self.list = await lists.add(self.context, self.who, "Wells")
        for n in range(count):
            values = {
                "key": f"W-{n}",
                "name": f"Keeper {n}",
                "email": f"keeper{n}@example.org",
                "phone": f"555 010{n}",
                "district": DISTRICT.options[n % 2],
            }
            self.ids.append(await contacts.add(self.context, self.who, values, self.list))
        return self

    def written(self, *steps: dict[str, Any], **more: Any) -> Round:
        return Round.model_validate(
            {"name": "Autumn", "people": {"list_id": str(self.list)}, "steps": steps, **more}
        )

    async def begin(self, *steps: dict[str, Any], **more: Any) -> None:
        """Make a round, draw, release the first portion."""
        self.round = await rounds.make(
            self.context, self.who, self.id, self.written(*steps, **more)
        )
        await drawing.draw(self.context, self.who, self.id, self.round, "a seed")
        await self.release()

    async def release(self) -> None:
        work = await drawing.ask_release(self.context, self.who, self.id, self.round)
        await doing.do(self.context, work.id)

    async def read(self) -> RoundState:
        return await rounds.read(self.context, self.who, self.id, self.round)

    async def state(self) -> State:
        return (await self.read()).kept.state

    async def goes(
        self, over: timedelta = timedelta(hours=1), each: timedelta | None = None
    ) -> list[str]:
        """What the worker sends in that time, looked at after `each`; to whom it went in it."""
        each = each or timedelta(minutes=1 if over < timedelta(hours=2) else 8)
        before, until = len(self.post.letters), self.clock.now() + over
        while self.clock.now() < until:
            await tasks.go_on_with_rounds(self.context)
            await tasks.send_letters(self.context)
            self.clock.move(each)
        return sorted(one.to.partition("@")[0] for one in self.post.letters[before:])

    async def progress(self) -> Progress:
        return await progress.progress(self.context, self.who, self.id, self.round)

    async def stands(self) -> dict[str, int]:
        found = await self.progress()
        every: dict[str, int] = {}
        for one in found.strata.values():
            for name, count in one.items():
                every[name] = every.get(name, 0) + count
        return every

    async def names(self, **which: Any) -> list[str]:
        found, _ = await names.names(self.context, self.who, self.id, self.round, Which(**which))
        return [one.asked.name for one in found]

    async def code_of(self, n: int) -> str:
        args = (self.context, self.who, self.id, self.round, self.ids[n])
        return (await names.person(*args)).code

    def secret(self, n: int) -> str:
        """The secret of the pass that stands in the letter to a keeper."""
        body = next(one.body for one in self.post.letters if one.to == f"keeper{n}@example.org")
        (found,) = set(re.findall(r"/p/\w+/([\w-]{22})", body))
        return str(found)

    async def visit(self, n: int) -> Any:
        entrance = Entrance(way="p", secret=self.secret(n))
        return await entering.visit(self.context, self.address, "", entrance=entrance)

    async def start(self, n: int) -> None:
        """A keeper goes on from the first page."""
        visit = await self.visit(n)
        pass_id = opened(self.context, self.id, visit.arrival).came.pass_id
        starts.note(self.context, self.id, pass_id or self.id)
        await starts.keep(self.context)

    async def answer(self, n: int) -> None:
        visit = await self.visit(n)
        answers = Answers("", 1, {"name": "Ines"}, arrival=visit.arrival)
        await submitting.submit(self.context, self.address, answers, f"a key of keeper {n:08}")


@pytest.fixture
async def wells(scene: Scene, context: Context, post: Post, clock: Clock) -> Wells:
    return await Wells(scene, context, post, clock).opened()


def keepers(*numbers: int) -> Sequence[str]:
    return [f"keeper{n}" for n in numbers]
