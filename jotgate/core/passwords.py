"""What a password has to be: long first, and none that is guessed soon."""

from collections.abc import Sequence

from zxcvbn import zxcvbn

from jotgate.core.common.errors import Fault, Invalid

SHORTEST = 12
"""Characters (NIST SP 800-63B asks for 8 at least, ASVS 5 recommends 15)."""

LONGEST = 200

LEAST = 3
"""Of zxcvbn's scores 0 to 4: some 10**8 guesses or more."""

LEAST_OWN = 8
"""Letters and digits beside what is known of the person."""

LOOKED_AT = 72
"""Characters that zxcvbn is given: its time grows fast with them."""

TOO_SHORT = (
    f"Take at least {SHORTEST} characters. Four or five words that do not belong together "
    "are easy to remember."
)
TOO_LONG = f"Take at most {LONGEST} characters."
GUESSED = (
    "This is guessed too easily: it is common, or made of names and patterns. Take words that do "
    "not belong together."
)


def check_password(password: str, known: Sequence[str] = ()) -> None:
    """Raise Invalid for a password that is too short, too long, or guessed too easily, also from
    what is `known` of its person: name, address, office. Can take a tenth of a second."""
    message = ""
    if len(password) < SHORTEST:
        message = TOO_SHORT
    elif len(password) > LONGEST:
        message = TOO_LONG
    elif _own(password, known) < LEAST_OWN or _score(password, known) < LEAST:
        message = GUESSED
    if message:
        raise Invalid(message, [Fault(code="weak_password", at="password", message=message)])


def _own(password: str, known: Sequence[str]) -> int:
    """How many letters and digits are left without what is known of the person."""
    left = password.lower()
    parts = {part for one in known for part in _parts(one) if len(part) > 2}
    for part in sorted(parts, key=len, reverse=True):
        left = left.replace(part, "")
    return sum(letter.isalnum() for letter in left)


def _score(password: str, known: Sequence[str]) -> int:
    found = zxcvbn(password[:LOOKED_AT], [part for one in known for part in _parts(one)])
    return int(found["score"])


def _parts(known: str) -> list[str]:
    lower = known.lower()
    for mark in "@.-_":
        lower = lower.replace(mark, " ")
    return [known.lower(), lower, *lower.split()]
