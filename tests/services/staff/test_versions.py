"""Earlier versions of entries: their open answers for readers, the rest with clearance."""

import pytest

from jotgate.core.common.errors import NotAllowed, NotFound
from jotgate.services.gate import Seen
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.staff.accounts import people
from jotgate.services.staff.entries import entries, versions
from tests.conftest import Clock
from tests.documents import item, page, questionnaire
from tests.scenes import PASSWORD, Scene, clear, published
from tests.services.public.kits import Kits
from tests.services.public.test_changing import by_letter, send_again

SECRET = "since May"


async def test_the_open_part_for_readers_the_rest_with_clearance(
    scene: Scene, clock: Clock
) -> None:
    context, owner = scene.context, scene.coordinator
    document = questionnaire(
        page("p", item("short_text", "name"), item("short_text", "ill", restricted=True))
    )
    wells = Kits(scene, clock, *await published(context, owner, document))
    await wells.set(changing={})
    whole = "a".rjust(20, "0")
    given = Answers("", 1, {"name": "Ines", "ill": SECRET}, seen=Seen(whole))
    sent = await submitting.submit(context, wells.address, given, whole)
    await send_again(wells, await by_letter(wells, sent, "a"), "b", name="Tove", ill=None)
    where = (wells.id, sent.id)
    read = await entries.read(context, owner, *where)
    assert [one.version for one in read.versions] == [1]
    assert (await versions.read(context, owner, where, 1)).answers == {"name": "Ines"}
    with pytest.raises(NotAllowed):
        await versions.reveal(context, owner, where, 1, "")
    with pytest.raises(NotFound):
        await versions.read(context, owner, where, 2)
    await clear(context, owner, wells.id)
    assert (await versions.reveal(context, owner, where, 1, "")).answers == {"ill": SECRET}
    stranger = await people.add(context, "s@example.org", "S", None, PASSWORD)
    with pytest.raises(NotFound):
        await versions.read(context, stranger, where, 1)
