"""A questionnaire at whose gate something is tried."""

import pytest

from tests.conftest import Clock
from tests.scenes import Scene, published
from tests.services.public.kits import Kits, kits


@pytest.fixture
async def wells(scene: Scene, clock: Clock) -> Kits:
    id, address = await published(scene.context, scene.coordinator, kits())
    return Kits(scene, clock, id, address)
