"""Entries dispatched amid failures and kills: nothing is lost, nothing is doubled."""

from random import Random

import pytest

from jotgate.local.installation import Installation
from jotgate.local.processes import Processes
from tests.local.troubled import Outcome, Trouble, staged

pytestmark = pytest.mark.long

ENTRIES, KILLS = 60, 5


async def test_nothing_is_lost_and_nothing_doubled(
    installation: Installation, processes: Processes
) -> None:
    address = await staged(installation)
    found = Trouble(installation, processes, Random(15), ENTRIES, KILLS).through(address, 90)
    both = (ENTRIES, ENTRIES)
    assert found == Outcome(
        ENTRIES, both, ENTRIES, both, found.carers, ENTRIES, both, found.troubled
    )
    assert found.carers <= 1
    assert found.troubled > ENTRIES // 6
