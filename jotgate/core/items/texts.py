"""The texts of an item and a page that may speak of what is known of a visitor."""

from collections.abc import Iterator

from jotgate.core.common.wording import Text
from jotgate.core.items import Item, inside, options_of


def spoken_texts(item: Item) -> Iterator[Text]:
    """The texts of `item` whose slots are filled in. Those of a roster's entries are of its own:
    its `title` names an entry by the answers in that entry."""
    yield item.text
    for name in ("help", "error_text", "caption"):
        yield getattr(item, name, {})
    for option in options_of(item):
        yield option.label
    for one in inside(item):
        yield from spoken_texts(one)
