"""Passwords are stored as hashes that cost enough."""

import re

from jotgate.adapters.secrets import Argon2Passwords


async def test_a_hash_costs_what_owasp_asks_for() -> None:
    """Argon2id with 19 MiB, 2 passes and 1 lane at least (OWASP Password Storage Cheat Sheet, from
    memory)."""
    hashed = await Argon2Passwords().hash("a long enough password")
    found = re.match(r"\$argon2id\$v=19\$m=(\d+),t=(\d+),p=(\d+)\$", hashed)
    assert found
    memory, passes, lanes = map(int, found.groups())
    assert memory >= 19 * 1024
    assert passes >= 2
    assert lanes >= 1


async def test_only_the_right_password_matches_its_hash() -> None:
    passwords = Argon2Passwords()
    hashed = await passwords.hash("a long enough password")
    assert await passwords.matches("a long enough password", hashed)
    assert not await passwords.matches("A long enough password", hashed)
    assert not await passwords.matches("nobody has this password", None)
