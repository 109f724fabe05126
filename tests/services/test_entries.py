"""Reading entries: restricted answers for people with clearance only, and on the trail."""

import pytest

from jotgate.adapters.secrets import FernetCipher
from jotgate.core.errors import NotAllowed, NotFound, Sealed
from jotgate.services import entries, office
from jotgate.services.house import House
from tests.scenes import SECRET, Scene


async def test_revealing_is_on_the_trail(scene: Scene, house: House) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    (entry,) = (await entries.page(house, scene.coordinator, scene.id, None)).entries
    _, answers = await entries.reveal(house, scene.coordinator, scene.id, entry.id)
    assert answers == {"ill": True, "illness": SECRET}
    marks, _ = await office.marks(house, scene.coordinator, None)
    assert (marks[0].action, marks[0].who, marks[0].entry_id) == (
        "restricted_seen",
        "Rowan",
        entry.id,
    )
    assert marks[0].detail == {"number": 1, "keys": ["ill", "illness"]}
    assert SECRET not in str(marks)


async def test_without_clearance_nothing_is_told_not_even_whether_it_is_there(
    scene: Scene, house: House
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    (entry,) = (await entries.page(house, scene.reviewer, scene.id, None)).entries
    for id in (entry.id, house.ids.id()):
        with pytest.raises(NotAllowed):
            await entries.reveal(house, scene.reviewer, scene.id, id)
    with pytest.raises(NotFound):
        await entries.reveal(house, scene.coordinator, scene.id, house.ids.id())
    marks, _ = await office.marks(house, scene.coordinator, None)
    assert "restricted_seen" not in {mark.action for mark in marks}


async def test_pages_go_back_without_gap_or_double(
    scene: Scene, house: House, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(entries, "PER_PAGE", 3)
    for n in range(7):
        await scene.submit(f"k{n}")
    seen: list[int] = []
    before: int | None = None
    while True:
        page = await entries.page(house, scene.reviewer, scene.id, before)
        seen += [entry.number for entry in page.entries]
        if not page.more:
            break
        before = seen[-1]
    assert seen == [7, 6, 5, 4, 3, 2, 1]


def test_keys_can_be_rotated_and_a_purpose_binds() -> None:
    from cryptography.fernet import Fernet

    old, new = Fernet.generate_key().decode(), Fernet.generate_key().decode()
    sealed = FernetCipher([old]).seal(b"words", "entry 1")
    assert FernetCipher([new, old]).open(sealed, "entry 1") == b"words"
    for cipher, purpose in ((FernetCipher([new]), "entry 1"), (FernetCipher([old]), "entry 2")):
        with pytest.raises(Sealed):
            cipher.open(sealed, purpose)
