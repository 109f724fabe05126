"""What is wrong with the slots of a text: what it speaks of is not there, or must not be said."""

from collections.abc import Iterable, Iterator

from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import Text, named_in
from jotgate.core.items import IN_PARTS, Carried, Item
from jotgate.core.publishing.condition_faults import VISITOR, Earlier, fault


def slot_faults(
    texts: Iterable[Text], earlier: Earlier, at: str, where: str, missing: str
) -> Iterator[Fault]:
    """Faults of the texts at a place; they may speak of what is in `earlier`, and of the visitor.

    `where` says what they are, such as "This question", `missing` why something is not there.
    """
    for name in sorted(named_in(texts)):
        key, _, part = name.partition(".")
        item = earlier.get(key)
        if item is None:
            if not VISITOR.fullmatch(name):
                yield fault("no_item", at, f"{where} speaks of {name}, {missing}.")
        elif part and part not in parts_of(item):
            yield fault("no_item", at, f"{where} speaks of {name}: {key} has no such part.")
        elif isinstance(item, Carried) and item.sealed and not item.told:
            message = f"{where} speaks of {name}, which is sealed and may not be told."
            yield fault("sealed_told", at, message)


def parts_of(item: Item) -> tuple[str, ...]:
    return getattr(item, "parts", ()) if item.kind in IN_PARTS else ()
