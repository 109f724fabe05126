"""A questionnaire that gives out kits in two districts, and what visitors do at its gate."""

from dataclasses import dataclass
from typing import Any
from uuid import UUID

import pytest

from jotgate.core.common.errors import Shut
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.places import Count
from jotgate.core.gate.settings import Gate
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.gate import Seen
from jotgate.services.public import answering, entering, submitting
from jotgate.services.public.answering import Answers, Turn
from jotgate.services.public.entering import Visit
from jotgate.services.public.submitted import Submitted
from jotgate.services.staff.entries import entry_table
from jotgate.services.staff.gate import gate
from jotgate.store.gate import places
from tests.conftest import Clock
from tests.documents import item, options, page, questionnaire
from tests.scenes import Scene

ALL = {"key": "all", "name": "Kits"}
BY = {"key": "district", "name": "By district", "by": ["district"]}


def kits() -> Questionnaire:
    return questionnaire(
        page("start", item("short_text", "name", required=True)),
        page(
            "kit",
            item("pick_one", "district", required=True, options=options("saltings", "millbeck")),
            item("pick_many", "uses", options=options("garden", "drinking")),
            item("number", "bottles"),
        ),
        page(
            "last",
            item("short_text", "more"),
            item("carried", "from"),
            item("pick_one", "spot", options=options(*(f"s{n}" for n in range(800)))),
        ),
    )


@dataclass
class Kits:
    scene: Scene
    clock: Clock
    id: UUID
    address: str
    revision: int = 2

    @property
    def context(self) -> Context:
        return self.scene.context

    async def set(self, **more: Any) -> None:
        value = Gate.model_validate({"state": "open", **more})
        saved = await gate.save(self.context, self.scene.coordinator, self.id, value, self.revision)
        self.revision = saved.revision

    def answers(self, key: str, arrival: str = "", device: str = "", **given: Any) -> Answers:
        seen = Seen(key.rjust(20, "0"), device, "127.0.0.1")
        whole = {"name": "Ines", "district": "saltings", **given}
        return Answers("", 1, whole, arrival=arrival, seen=seen)

    async def send(self, key: str, arrival: str = "", device: str = "", **given: Any) -> Submitted:
        answers = self.answers(key, arrival, device, **given)
        return await submitting.submit(self.context, self.address, answers, key.rjust(20, "0"))

    async def come(self, entrance: Entrance | None = None) -> Visit:
        return await entering.visit(self.context, self.address, "", entrance=entrance or Entrance())

    async def turn(self, key: str, at: str, **given: Any) -> tuple[Visit, Any]:
        return await answering.page(
            self.context, self.address, self.answers(key, **given), Turn("onward", at)
        )

    async def counts(self) -> dict[str, Count]:
        async with self.context.engine.connect() as conn:
            return await places.counts(conn, self.id)

    async def entries(self) -> int:
        found = await entry_table.page(self.context, self.scene.coordinator, self.id)
        return len(found.entries)


async def reason(made: Any) -> str:
    with pytest.raises(Shut) as refused:
        await made
    found: str = refused.value.params["reason"]
    return found
