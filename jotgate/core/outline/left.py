"""What of an outline is in nothing that is proposed: every line is found there, or told.

It is found out from what was proposed alone, not from how it was read, so that no way of reading
can lose a line in silence.
"""

import re
import unicodedata
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from jotgate.core.items import Item
from jotgate.core.outline.words import NAMED

_WORD = re.compile(r"[^\W\d_]+(?:\.[^\W\d_]+)*")
_SAYS_HOW = frozenset(
    word
    for phrase in (
        *NAMED,
        "required mandatory obligatorio obligatoria requerido requerida pflichtfeld optional",
        "opcional freiwillig e.g eg for example instance p.ej ej por ejemplo z.b zum beispiel",
        "hint help note tip ayuda nota pista hinweis page section part chapter página sección",
        "parte apartado bloque seite abschnitt teil yes no y n sí si ja nein q p o",
        "a b c d e f g h i dd mm yy yyyy tt jj jjjj aa aaaa hh",
        "question pregunta frage type kind options choices answers tipo opciones text pages",
        "مطلوب إلزامي اختياري مثلا مثلًا مثال ملاحظة تلميح صفحة الصفحة قسم القسم جزء الجزء نعم لا",
        "سؤال السؤال الأسئلة النوع نوع الخيارات مساعدة one two three four five uno dos tres",
        "الأول الثاني الثالث أ ب ج د ه و ز ح ط ي x × ii iii iv vi vii viii from to scale of on",
        "and through escala del al de von bis rate من إلى",
    )
    for word in _WORD.findall(phrase.casefold())
)
"""Words that can say how something is asked, and then stand in no text that is proposed."""


@dataclass(frozen=True)
class Left:
    """A line, counted from 1, of which something is in nothing that is proposed."""

    line: int
    words: str


def _words(text: str) -> list[str]:
    return _WORD.findall(unicodedata.normalize("NFC", text).casefold())


def left_out(text: str, titles: Iterable[str], items: Iterable[Item]) -> Iterator[Left]:
    """The lines of a clean `text` with a word that no title, wording or option has any more."""
    there: Counter[str] = Counter(word for title in titles for word in _words(title))
    for item in items:
        there.update(word for said in _texts(item.model_dump()) for word in _words(said))
    for number, line in enumerate(text.split("\n"), start=1):
        mine = Counter(_words(line))
        missing = [word for word in mine - there if word not in _SAYS_HOW]
        there -= mine
        if missing:
            yield Left(number, " ".join(line.split())[:200])


def _texts(part: Any) -> Iterator[str]:
    """The words in every language of whatever has some."""
    if isinstance(part, dict):
        for name, value in part.items():
            if isinstance(value, str) and name not in _NO_WORDS:
                yield value
            else:
                yield from _texts(value)
    elif isinstance(part, list | tuple):
        for one in part:
            yield from _texts(one)


_NO_WORDS = frozenset({"kind", "key", "code", "width", "look"})
