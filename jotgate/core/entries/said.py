"""What texts say of a visitor: the words that stand in their slots."""

from collections.abc import Iterable, Mapping
from html import escape

from jotgate.core.common.values import Values
from jotgate.core.common.wording import Text, fill, slots
from jotgate.core.entries.display import Reader


class Saying:
    """Says texts to somebody of whom `values` are known: answers, carried values and, under dotted
    names, facts. `spoke` tells whether anything of them was said."""

    def __init__(self, reader: Reader, values: Values) -> None:
        self.reader, self._values = reader, values
        self.spoke = False

    def tell(self, text: Text | None) -> str:
        """A text in the reader's language, its slots filled in."""
        return self.filled(self.reader.say(text))

    def filled(self, template: str) -> str:
        if "{" not in template:
            return template
        return fill(template, self._words(template))

    def filled_html(self, template: str) -> str:
        """HTML with its slots filled in by words, never by markup."""
        if "{" not in template:
            return template
        words = self._words(template).items()
        return fill(template, {name: escape(one) for name, one in words})

    def _words(self, template: str) -> dict[str, str]:
        words = words_for(self.reader, slots(template), self._values)
        self.spoke = self.spoke or bool(words)
        return words


def words_for(reader: Reader, names: Iterable[str], values: Values) -> dict[str, str]:
    """The words of what slots name: an item by its key, a part of one by `key.part`, a fact of the
    visitor. What there is no value for is left out."""
    found: dict[str, str] = {}
    for name in names:
        key, _, part = name.partition(".")
        value, item = values.get(name if key not in reader.plan.items else key), None
        item = reader.plan.items.get(key)
        if part and item is not None:
            value = value.get(part) if isinstance(value, Mapping) else None
            item = None
        if value is None:
            continue
        found[name] = reader.reads(item, value) if item is not None else str(value)
    return found
