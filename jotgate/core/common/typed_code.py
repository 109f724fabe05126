"""Codes that people type from paper: eight letters without those that look like another, and
without vowels, so that no code is a word."""

LETTERS = "BCDFGHJKLMNPQRSTVWXZ"
LENGTH = 8
"""20^8 codes, some 34.6 bits."""


def code_of(mark: bytes) -> str:
    """The code that follows from at least 16 bytes that only we can make."""
    number, letters = int.from_bytes(mark[:16]), []
    for _ in range(LENGTH):
        number, at = divmod(number, len(LETTERS))
        letters.append(LETTERS[at])
    return "".join(letters)


def shown(code: str) -> str:
    """As it is printed, in two halves."""
    half = LENGTH // 2
    return f"{code[:half]} {code[half:]}"


def read(typed: str) -> str:
    """The code that somebody typed, however they set its letters apart; nothing where it cannot be
    one."""
    letters = "".join(one for one in typed[:60].upper() if one.isalnum())
    return letters if len(letters) == LENGTH and set(letters) <= set(LETTERS) else ""
