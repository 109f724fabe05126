"""What staff read for an item: its short name, else one that its wording proposes.

`web/src/desk/staffNames.ts` proposes the same; `web/tests/staff_names.json` holds both to it.
"""

import re

from jotgate.core.common.wording import say
from jotgate.core.items.parts import ItemPart

LONGEST = 40
"""Characters of a name that is proposed."""

_FIRST_SENTENCE = re.compile(r"[^?!.:؟。？！：]*")


def staff_name(item: ItemPart, language: str) -> str:
    """`language` is the questionnaire's first; the key where there are no words."""
    return item.short_name.strip() or proposed(say(item.text, language, language)) or item.key


def proposed(wording: str) -> str:
    """The first sentence without its mark, cut between two words where it is long."""
    words = " ".join(wording.replace("*", "").split())
    first = _FIRST_SENTENCE.match(words)
    name = (first[0].strip() if first else "") or words
    if len(name) <= LONGEST:
        return name
    cut = name[: LONGEST - 1]
    if name[LONGEST - 1] != " " and " " in cut:
        cut = cut[: cut.rindex(" ")]
    return cut.rstrip(" ,;") + "…"
