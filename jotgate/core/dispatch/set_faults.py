"""What keeps an act that sets something from being used as it stands."""

from collections.abc import Iterator

from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import ENTRY_SLOTS
from jotgate.core.contacts.fields import BUILT_IN, ContactField, NotFit, readings
from jotgate.core.dispatch.acts import (
    AddToList,
    CarePerson,
    Composed,
    Fixed,
    FromEntry,
    SetCare,
    SetContact,
    SetValue,
    Source,
)
from jotgate.core.dispatch.scope import Scope
from jotgate.core.items import Carried, holding, options_of
from jotgate.core.items.staff_names import staff_name

WHO = ("key", "email")
"""The fields of a contact by which passes and letters find it: what somebody answers never changes
them."""


def settable(fields: tuple[ContactField, ...]) -> dict[str, str]:
    """What the fields of contacts that rules can set are called, by key."""
    own = {one.key: one.label for one in fields}
    return {key: name for key, name in {**BUILT_IN, **own}.items() if key not in WHO}


def set_faults(
    act: SetCare | SetContact | SetValue | AddToList, at: str, scope: Scope
) -> Iterator[Fault]:
    match act:
        case SetCare():
            yield from _care(act, at, scope)
        case SetContact():
            yield from _contact(act, at, scope)
        case SetValue():
            yield from _value(act, at, scope)
        case AddToList():
            yield from _list(act, at, scope)


def _care(act: SetCare, at: str, scope: Scope) -> Iterator[Fault]:
    if isinstance(act.who, CarePerson):
        if act.who.person_id not in scope.known.carers:
            message = "Choose somebody who may see the entries."
            yield Fault(code="no_person", at=at, message=message)
    elif act.who.team_id not in scope.known.teams:
        yield Fault(code="no_team", at=at, message="That team is gone. Choose another.")
    elif act.who.in_turn and not scope.known.turns.get(act.who.team_id):
        message = "Nobody of this team may see the entries. Give them a part, or choose another."
        yield Fault(code="no_person", at=at, message=message)


def _contact(act: SetContact, at: str, scope: Scope) -> Iterator[Fault]:
    reading = readings(scope.known.contact_fields).get(act.field)
    if not scope.known.reaches:
        message = "Only coordinators of the office can have a rule change contacts."
        yield Fault(code="not_allowed", at=at, message=message)
    if act.field in WHO:
        message = f"{BUILT_IN[act.field]}: what somebody answers cannot change this."
        yield Fault(code="no_field", at=at, message=message)
    elif reading is None:
        yield Fault(code="no_field", at=at, message="Choose a field of contacts.")
    elif isinstance(act.source, Fixed):
        try:
            reading(act.source.text.strip())
        except NotFit as why:
            yield Fault(code="wrong_type", at=f"{at}/source", message=str(why))
    yield from _source(act.source, f"{at}/source", scope)


def _source(source: Source, at: str, scope: Scope) -> Iterator[Fault]:
    if isinstance(source, FromEntry) and source.name not in ENTRY_SLOTS:
        yield from scope.faults_of(source.name, at)
    if isinstance(source, Composed):
        yield from scope.faults_in_text(source.text, at, "The text")


def _value(act: SetValue, at: str, scope: Scope) -> Iterator[Fault]:
    item = scope.item(act.key)
    if not isinstance(item, Carried):
        yield Fault(code="no_item", at=at, message="Choose a carried value.")
        return
    name = staff_name(item, scope.first)
    if act.key in scope.known.counted:
        message = f"The gate counts places by {name}, so it stays as it arrived."
        yield Fault(code="counted", at=at, message=message)
    if item.about is not None:
        message = f"{name} says what the entry is about, so it stays as it arrived."
        yield Fault(code="about", at=at, message=message)
    yield from scope.restricted(act.key, at)
    if isinstance(act.source, Fixed) and options_of(item):
        known = {one.code for one in options_of(item)}
        if act.source.text.strip() not in known:
            message = f"{name} is one of {', '.join(sorted(known))}."
            yield Fault(code="wrong_type", at=f"{at}/source", message=message)
    yield from _source(act.source, f"{at}/source", scope)


def _list(act: AddToList, at: str, scope: Scope) -> Iterator[Fault]:
    if act.list_id not in scope.known.lists:
        yield Fault(code="no_list", at=at, message="Choose a contact list.")
    yield from _consent(act, f"{at}/consent", scope)
    for part in ("email", "name"):
        name = getattr(act, part)
        if name:
            yield from scope.faults_of(name, f"{at}/{part}")
    item = scope.item(act.email) if act.email else None
    if item is not None and holding(item) != "text":
        message = f"{staff_name(item, scope.first)} is not a mail address."
        yield Fault(code="no_address", at=f"{at}/email", message=message)


def _consent(act: AddToList, at: str, scope: Scope) -> Iterator[Fault]:
    item = scope.item(act.consent)
    if item is None or "." in act.consent:
        message = "Choose the question that asks whether they want to be on the list."
        yield Fault(code="no_consent", at=at, message=message)
        return
    yield from scope.restricted(act.consent, at)
    options = {one.code for one in options_of(item)}
    if item.kind != "yes_no" and act.option not in options:
        message = "Choose the option that says yes to the list."
        yield Fault(code="no_consent", at=at, message=message)
    if item.kind == "yes_no" and act.option:
        message = "A question of yes and no has no options."
        yield Fault(code="no_consent", at=at, message=message)
