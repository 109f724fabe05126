"""Keys and codes made from words: short, readable, each its own.

`web/src/desk/keys.ts` does the same while somebody types; `web/tests/keys.json` holds
both to the same names.
"""

import re
import unicodedata
from collections.abc import Collection

LONGEST = 24


def _plain(words: str) -> str:
    """Lower case letters and digits joined by `_`, at most 24 characters, begun by a letter."""
    bare = "".join(one for one in unicodedata.normalize("NFKD", words) if not _is_mark(one))
    bare = re.sub(r"^[_0-9]+", "", re.sub(r"[^a-z0-9]+", "_", bare.lower()))
    if len(bare) <= LONGEST:
        return bare.rstrip("_")
    cut = bare[: LONGEST + 1]
    return cut[: max(cut.rfind("_"), 8)].rstrip("_")


def _is_mark(character: str) -> bool:
    return unicodedata.category(character).startswith("M")


def key_from(words: str, taken: Collection[str], spare: str) -> str:
    """A key from `words` that is not in `taken`; `spare` where the words have no letters."""
    wanted = _plain(words) or spare
    if wanted not in taken:
        return wanted
    count = 2
    while f"{wanted}_{count}" in taken:
        count += 1
    return f"{wanted}_{count}"
