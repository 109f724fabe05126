"""Contacts as conditions see them: fields as if they were questions, and what was before."""

from collections.abc import Callable, Mapping
from datetime import date
from decimal import Decimal

from jotgate.core.common.values import Value
from jotgate.core.contacts.fields import BUILT_IN, ContactField, FieldKind
from jotgate.core.items import Date, Item, Number, ShortText, YesNo

LANGUAGE = "en"
"""Fields have one name; it stands under this language where they are seen as questions."""

BEFORE: Mapping[str, tuple[str, FieldKind]] = {
    "before.asked": ("Rounds asked in before", "number"),
    "before.last_asked": ("Last asked", "date"),
    "before.answered": ("Entries sent before", "number"),
    "before.last_answered": ("Last entry sent", "date"),
}
"""What a contact has done before, in all questionnaires, with what staff read. Without any the
numbers are 0, and the days are not there."""

_KINDS: Mapping[FieldKind, tuple[type[Item], str]] = {
    "text": (ShortText, "short_text"),
    "number": (Number, "number"),
    "date": (Date, "date"),
    "yes_no": (YesNo, "yes_no"),
    "pick": (ShortText, "short_text"),
}
"""What is picked is compared as the text that it is."""

_READ: Mapping[FieldKind, Callable[[str], Value]] = {
    "text": str,
    "number": Decimal,
    "date": date.fromisoformat,
    "yes_no": lambda text: text == "yes",
    "pick": str,
}


def kinds_of(fields: tuple[ContactField, ...]) -> dict[str, tuple[str, FieldKind]]:
    """By what a condition names: what staff read, and what kind it is."""
    built_in: dict[str, tuple[str, FieldKind]] = {k: (v, "text") for k, v in BUILT_IN.items()}
    return {**built_in, **{one.key: (one.label, one.kind) for one in fields}, **BEFORE}


def contact_items(fields: tuple[ContactField, ...]) -> dict[str, Item]:
    """What a condition over contacts can name, as questions."""
    found: dict[str, Item] = {}
    for name, (label, kind) in kinds_of(fields).items():
        made, called = _KINDS[kind]
        key = name.replace(".", "_")
        found[name] = made(kind=called, key=key, text={LANGUAGE: label}, short_name=label)  # type: ignore[call-arg]
    return found


def contact_values(
    fields: tuple[ContactField, ...], said: Mapping[str, str | None]
) -> dict[str, Value]:
    """What is known of a contact, as answers; what is empty is not there."""
    kinds = kinds_of(fields)
    return {name: _READ[kinds[name][1]](text) for name, text in said.items() if text}
