"""What tests of dispatch do with a scene: rules saved, entries dispatched, what waits sent."""

from typing import Any
from uuid import UUID

from jotgate.adapters.calls import HttpCalls
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.records.dispatch import Run
from jotgate.core.registers.columns import Register
from jotgate.ports.calls import Answered, Call, CallFailed
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.dispatch.sending import call_due, send_due
from jotgate.services.staff.dispatch import dispatch_rules, hooks
from jotgate.services.staff.entries import entries, entry_table
from jotgate.services.staff.registers import registers
from tests.register_rows import rows_of
from tests.scenes import Scene


async def newest(scene: Scene) -> UUID:
    return (await entry_table.page(scene.context, scene.coordinator, scene.id)).entries[0].id


async def done(scene: Scene) -> tuple[Run, ...]:
    id = await newest(scene)
    return (await entries.read(scene.context, scene.coordinator, scene.id, id)).runs


async def counted(scene: Scene) -> dict[str, int]:
    """How many rows each register has."""
    lines = await registers.every(scene.context, scene.coordinator)
    return {line.register.name: line.rows for line in lines}


async def rows(scene: Scene, register: Register) -> list[dict[str, Any]]:
    """The cells of each row, the oldest first."""
    found = await rows_of(scene.context, scene.coordinator, register.id)
    return [row.values for row in reversed(found)]


async def ruled(scene: Scene, *made: Any, otherwise: tuple[Any, ...] = ()) -> None:
    """Save these rules."""
    saved = await dispatch_rules.find(scene.context, scene.coordinator, scene.id)
    value = Dispatch.model_validate({"rules": made, "otherwise": otherwise})
    await dispatch_rules.save(scene.context, scene.coordinator, scene.id, value, saved.revision)


async def arrived(scene: Scene, key: str, link: str = "", **given: Any) -> UUID:
    """An entry that was dispatched."""
    taken = await scene.submit(key, link, **given)
    await dispatch_entry(scene.context, scene.id, taken.id)
    return taken.id


async def send_all(context: Context) -> int:
    count = 0
    while await send_due(context):
        count += 1
    return count


NAMED = {"matching": {"columns": ["name"], "none": "add", "several": "ask"}}


async def called(scene: Scene, address: str) -> Any:
    """A system at an address, that every entry is told to."""
    made = await hooks.add(scene.context, scene.coordinator, scene.id, "Lab", address)
    await ruled(scene, otherwise=({"kind": "call", "hook_id": str(made.hook.id)},))
    return made


async def call_all(context: Context) -> int:
    count = 0
    while await call_due(context):
        count += 1
    return count


class OtherSystem:
    """Takes calls, or refuses as many as it is told to."""

    def __init__(self) -> None:
        self.calls: list[Call] = []
        self.failures = 0

    def fault_of(self, address: str) -> str:
        return HttpCalls(private=True).fault_of(address)

    async def send(self, call: Call) -> Answered:
        self.calls.append(call)
        if self.failures:
            self.failures -= 1
            raise CallFailed("It answered with status 503.", Answered(503, "later\0"))
        return Answered(200, "thank you")
