"""A corrected entry comes back to the rules: its rows follow, and rules that ask for it act."""

from typing import Any

from sqlalchemy import text

from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.registers.columns import Column, Register
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.dispatch.replaying import dispatch_change
from jotgate.services.staff.dispatch import dispatch_rules
from jotgate.services.staff.registers import registers
from tests.core.dispatch.rules import file, notice, rule
from tests.register_rows import rows_of
from tests.services.public.kits import Kits
from tests.services.public.test_changing import by_letter, send_again

CORRECTED = {"op": "is", "item": "entry.corrected", "value": True}


async def with_rules(wells: Kits, *rules: Any) -> None:
    context, who = wells.context, wells.scene.coordinator
    saved = await dispatch_rules.find(context, who, wells.id)
    value = Dispatch.model_validate({"rules": rules})
    await dispatch_rules.save(context, who, wells.id, value, saved.revision)


async def made(wells: Kits) -> Register:
    columns = [Column(key="name", label="Name"), Column(key="n", label="N", type="number")]
    return await registers.add(wells.context, wells.scene.coordinator, "Kits", columns)


async def rows(wells: Kits, register: Register) -> list[dict[str, Any]]:
    found = await rows_of(wells.context, wells.scene.coordinator, register.id)
    return [row.values for row in found]


async def letters(wells: Kits) -> list[str]:
    query = text("select detail->>'subject' from runs where kind = 'notice' order by 1")
    async with wells.context.engine.connect() as conn:
        return list((await conn.execute(query)).scalars())


async def test_its_row_follows_and_only_rules_that_ask_write_again(wells: Kits) -> None:
    await wells.set(changing={})
    register = await made(wells)
    act = file(register.id, name="name", n="bottles")
    await with_rules(
        wells,
        rule("all", None, act, notice(subject="{name}"), catches=False),
        rule("again", CORRECTED, notice(subject="Corrected"), catches=False),
    )
    sent = await wells.send("a", bottles="3")
    await dispatch_entry(wells.context, wells.id, sent.id)
    assert await letters(wells) == ["Ines"]
    await send_again(wells, await by_letter(wells, sent, "a"), "b", name="Tove", bottles="4")
    async with wells.context.engine.connect() as conn:
        query = "select args from procrastinate_jobs where task_name = 'dispatch_change'"
        asked = (await conn.execute(text(query))).scalars().all()
    assert asked == [{"questionnaire_id": str(wells.id), "entry_id": str(sent.id)}]
    for _ in range(2):
        await dispatch_change(wells.context, wells.id, sent.id)
        assert await rows(wells, register) == [{"name": "Tove", "n": "4"}]
        assert await letters(wells) == ["Corrected", "Ines"]


async def test_one_that_was_not_dispatched_yet_is_dispatched_as_it_is_now(wells: Kits) -> None:
    await wells.set(changing={})
    register = await made(wells)
    await with_rules(
        wells, rule("all", None, file(register.id, name="name"), notice(subject="{name}"))
    )
    sent = await wells.send("a", bottles="3")
    await send_again(wells, await by_letter(wells, sent, "a"), "b", name="Tove")
    await dispatch_change(wells.context, wells.id, sent.id)
    await dispatch_entry(wells.context, wells.id, sent.id)
    assert await rows(wells, register) == [{"name": "Tove"}]
    assert await letters(wells) == ["Tove"]
