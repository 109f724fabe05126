"""Files that go along into rows, and open from there."""

from dataclasses import replace
from typing import Any
from uuid import UUID

import pytest

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.registers.columns import Column, Register
from jotgate.ports.files import Missing
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.public import uploads
from jotgate.services.staff.dispatch import dispatch_rules
from jotgate.services.staff.entries import removing
from jotgate.services.staff.registers import registers
from tests.core.dispatch.rules import file, item
from tests.register_rows import rows_of
from tests.services.public.test_uploads import Sender, of, picture, sender

__all__ = ["sender"]

COLUMNS = [
    Column(key="photo", label="Photo", type="files"),
    Column(key="note", label="Note"),
]


async def with_rule(sender: Sender, *acts: Any) -> None:
    saved = await dispatch_rules.find(sender.context, sender.scene.coordinator, sender.id)
    value = Dispatch.model_validate({"otherwise": acts})
    await dispatch_rules.save(
        sender.context, sender.scene.coordinator, sender.id, value, saved.revision
    )


async def made(sender: Sender) -> Register:
    return await registers.add(sender.context, sender.scene.coordinator, "Photos", COLUMNS)


async def test_a_photo_goes_along_and_stays_when_the_entry_is_deleted(
    sender: Sender, context: Context
) -> None:
    register, who = await made(sender), sender.scene.coordinator
    await with_rule(sender, file(register.id, photo="photo"))
    data = picture()
    sent = await sender.send("photo", "well.png", data)
    taken = await sender.submit(photo=[of(sent)])
    await dispatch_entry(context, sender.id, taken.id)
    (row,) = await rows_of(context, who, register.id)
    assert row.values == {"photo": [str(sent.id)]}
    for _ in range(2):
        read = await registers.row(context, who, register.id, row.id)
        assert [(one.name, one.size) for one in read.files] == [("well.png", len(data))]
        whole = await registers.file(context, who, register.id, row.id, sent.id, False)
        assert (whole.data, whole.type) == (data, "image/png")
        small = await registers.file(context, who, register.id, row.id, sent.id, True)
        assert small.type == "image/webp"
        if not read.gone:
            await removing.remove(context, who, sender.id, taken.id)
    with pytest.raises(NotFound):
        await registers.file(context, who, register.id, row.id, UUID(int=1), False)
    with pytest.raises(NotFound):
        await registers.file(context, who, sender.scene.rest.id, row.id, sent.id, False)


async def test_each_entry_of_a_roster_takes_its_own_file_along(
    sender: Sender, context: Context
) -> None:
    register, who = await made(sender), sender.scene.coordinator
    await with_rule(sender, file(register.id, {"per": "wells"}, photo="head"))
    both = [await sender.send("head", f"{name}.png", picture()) for name in "ab"]
    wells = [{"head": [of(both[0])]}, {"head": [of(both[1])]}]
    taken = await sender.submit(wells=wells)
    await dispatch_entry(context, sender.id, taken.id)
    rows = await rows_of(context, who, register.id)
    assert [row.values["photo"] for row in reversed(rows)] == [[str(one.id)] for one in both]
    read = await registers.row(context, who, register.id, rows[0].id)
    assert [one.name for one in read.files] == ["b.png"]


@pytest.mark.parametrize(
    "columns",
    [
        {"photo": "secret"},
        {"photo": {"kind": "composed", "text": "x"}},
        {"photo": {"kind": "fixed", "text": "x"}},
        {"photo": item("entry_number")},
    ],
)
async def test_only_files_that_are_open_can_go_along(
    sender: Sender, columns: dict[str, Any]
) -> None:
    register = await made(sender)
    with pytest.raises(Invalid):
        await with_rule(sender, file(register.id, **columns))


async def test_a_file_goes_with_the_last_that_it_stands_in(
    sender: Sender, context: Context
) -> None:
    """Two registers and the entry: its bytes are there as long as one of them is."""
    who = replace(sender.scene.coordinator, role="owner")
    both = [await registers.add(context, who, name, COLUMNS) for name in ("Photos", "More photos")]
    acts = [file(one.id, photo="photo") for one in both]
    await with_rule(sender, *acts)
    sent = await sender.send("photo", "well.png", picture())
    taken = await sender.submit(photo=[of(sent)])
    await dispatch_entry(context, sender.id, taken.id)
    await registers.remove(context, who, both[0].id, "Photos")
    await removing.remove(context, who, sender.id, taken.id)
    (row,) = await rows_of(context, who, both[1].id)
    assert (await registers.file(context, who, both[1].id, row.id, sent.id, False)).data
    await registers.remove(context, who, both[1].id, "More photos")
    with pytest.raises(Missing):
        await uploads.read(context, sent.id, sent.size)
