"""Texts: one sentence in several languages, and templates with answer slots."""

import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Annotated

from pydantic import StringConstraints

Language = Annotated[str, StringConstraints(pattern=r"^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$")]
"""A BCP 47 language tag, in the short form that questionnaires use (`en`, `es`, `ar`)."""

OF = "-x-of"
"""What follows a language in a text where the original is kept that its words were made from:
a private use subtag (RFC 5646, 2.2.7)."""

_Tag = Annotated[str, StringConstraints(pattern=r"^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*(-x-of)?$")]

Text = dict[_Tag, Annotated[str, StringConstraints(max_length=10_000)]]
"""Language -> words. An absent language falls back to the questionnaire's first one.

Beside a translation, under `es-x-of`, may stand the words in the first language that it was
made from. Where those are others by now, the translation is older than its original.
"""

SLOT = re.compile(r"\{([a-z][a-z0-9_]*(?:\.[A-Za-z0-9_.-]{1,60})?)(?:\|([^{}|]{0,200}))?\}")
"""A name, or a name and a part of it, and what is said where there is none: `{name.given|you}`."""


def say(text: Text | None, language: str, first: str) -> str:
    """The words in `language`, else in `first`, else nothing."""
    if not text:
        return ""
    return text.get(language) or text.get(first) or ""


def is_language(tag: str) -> bool:
    """Whether `tag` of a text names a language, not what a translation was made from."""
    return not tag.endswith(OF)


def closest(offered: Sequence[str], wanted: Iterable[str]) -> str:
    """The first of the languages `wanted` that is among those `offered`, else the first of them.

    A language without its region will do (RFC 4647, lookup): `es` for `es-MX`.
    """
    for language in wanted:
        for known in (language, language.partition("-")[0]):
            if known in offered:
                return known
    return offered[0]


ENTRY_SLOTS = ("entry_number", "questionnaire")
"""Slots that a text about an entry may use besides the keys of items."""


def entry_words(number: int, title: str) -> dict[str, str]:
    """The words of the `ENTRY_SLOTS`."""
    return {"entry_number": f"{number:04}", "questionnaire": title}


def slots(template: str) -> tuple[str, ...]:
    """The names of the slots in `template`, in order, each once."""
    return tuple(dict.fromkeys(match[1] for match in SLOT.finditer(template)))


def named_in(texts: Iterable[Text]) -> frozenset[str]:
    """What the slots of these texts name, in any language."""
    return frozenset(name for text in texts for words in text.values() for name in slots(words))


def fill(template: str, values: Mapping[str, str]) -> str:
    """`template` with each `{name}` replaced; a slot without a value becomes what stands for it
    behind a bar, as in `{name|neighbour}`, or nothing."""
    return SLOT.sub(lambda match: values.get(match[1]) or match[2] or "", template)
