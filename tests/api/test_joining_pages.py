"""The page that a letter leads to which asks whether somebody wants to be on a list."""

from jotgate.services.context import Context
from tests.api.conftest import Visitor
from tests.scenes import Scene
from tests.services.dispatching import arrived, ruled
from tests.services.test_dispatch_sets import a_list, by_address, listed
from tests.services.test_joining_lists import ADA, letters_to, on_list


async def test_opening_the_link_says_yes_for_nobody(
    scene: Scene, context: Context, anybody: Visitor
) -> None:
    """Programs that look at every link of a letter must not."""
    await a_list(context)
    await ruled(scene, otherwise=(listed() | {"confirm": True},))
    await arrived(scene, "a", name=ADA)
    (token,) = await letters_to(context)
    for _ in range(2):
        page = await anybody.get(f"/in/{token}")
        assert page.status_code == 200
        assert "Yes, write to me" in page.text
    assert await on_list(context) == []
    assert "Each letter says how to get no more" in (await anybody.post(f"/in/{token}")).text
    (ada,) = await by_address(context, ADA)
    assert await on_list(context) == [ada.id]
    again = await anybody.get(f"/in/{token}", headers={"Accept-Language": "ar"})
    assert "شكرًا لكم" in again.text


async def test_an_unknown_link_says_so(anybody: Visitor) -> None:
    for wrong in ("x", "y" * 43, "z" * 500):
        for reply in (await anybody.get(f"/in/{wrong}"), await anybody.post(f"/in/{wrong}")):
            assert reply.status_code == 404
            assert "This address does not work" in reply.text
