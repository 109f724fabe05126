"""Contacts, their fields, and the lists that they are on."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from fastapi import Query
from fastapi.responses import Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries.entry_words import CalledOut, LinkedOut, linked_out
from jotgate.api.tables import table_file
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.contacts.fields import ContactField
from jotgate.services.staff.contacts import contacts, export, fields, lists
from jotgate.services.staff.contacts.contacts import MOST_AT_ONCE

router = routes("/api", "contacts")

Values = Annotated[dict[str, Annotated[str, Field(max_length=2000)]], Field(max_length=100)]
"""Texts by field; an empty one is no value."""

Words = Annotated[str, Query(max_length=200)]
Ids = Annotated[list[UUID], Field(min_length=1, max_length=MOST_AT_ONCE)]


class ContactOut(BaseModel):
    """`values` are texts by field; `called` is what staff read where there is little room; `came`
    is from where, on `added`, where that was noted."""

    id: UUID
    called: str
    values: dict[str, str]
    opted_out: datetime | None
    added: datetime | None
    came: str
    bounced: datetime | None
    revision: int


def contact_out(one: Contact) -> ContactOut:
    return ContactOut(
        id=one.id,
        called=one.called,
        values=facts_of(one),
        opted_out=one.opted_out,
        added=one.added,
        came=one.came,
        bounced=one.bounced,
        revision=one.revision,
    )


class ContactPageOut(BaseModel):
    """`count` is how many were found, told with the first page only."""

    contacts: list[ContactOut]
    more: bool
    count: int | None


class ConsentOut(BaseModel):
    """What was asked in which entry of the questionnaire `title`, and answered, so that the contact
    is on a list; `confirmed` is when they said yes to a letter too."""

    list_id: UUID
    questionnaire_id: UUID
    entry_number: int
    title: str
    edition: int
    question: str
    answer: str
    given: datetime
    confirmed: datetime | None


class OutOfOut(BaseModel):
    """What an address opted out of: a questionnaire or a kind of letters, as people read it."""

    told: str
    at: datetime


class WholeContactOut(BaseModel):
    """`outs` are the letters that it gets no more of, beside all of them."""

    contact: ContactOut
    lists: list[CalledOut]
    consents: list[ConsentOut]
    entries: list[LinkedOut]
    outs: list[OutOfOut]


@router.get("/contacts")
async def contact_page(
    context: CurrentContext,
    account: CurrentAccount,
    words: Words = "",
    list: UUID | None = None,
    after: UUID | None = None,
    unused: Annotated[int | None, Query(ge=1, le=36_500)] = None,
) -> ContactPageOut:
    """A hundred contacts with all these words in them, in the order of their names; those with whom
    nothing was done for `unused` days."""
    found = await contacts.page(context, account, words, list, after, unused)
    return ContactPageOut(
        contacts=[contact_out(one) for one in found.contacts], more=found.more, count=found.count
    )


@router.get("/contacts/export", response_class=Response)
async def export_contacts(
    context: CurrentContext,
    account: CurrentAccount,
    words: Words = "",
    list: UUID | None = None,
) -> Response:
    """A table (CSV) of contacts."""
    head, rows = await export.table(context, account, words, list)
    return table_file("contacts", "csv", head, rows)


class ContactIn(BaseModel):
    values: Values
    list_id: UUID | None = None


@router.post("/contacts", status_code=201)
async def add_contact(body: ContactIn, context: CurrentContext, account: CurrentAccount) -> UUID:
    return await contacts.add(context, account, body.values, body.list_id)


@router.get("/contacts/{id}")
async def whole_contact(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> WholeContactOut:
    found = await contacts.whole(context, account, id)
    return WholeContactOut(
        contact=contact_out(found.contact),
        lists=[CalledOut(id=id, name=name) for id, name in found.lists],
        consents=[ConsentOut(**vars(one)) for one in found.consents],
        entries=[linked_out(one) for one in found.entries],
        outs=[OutOfOut(told=one.told, at=one.at) for one in found.outs if one.scope],
    )


class ContactPut(BaseModel):
    """`values` are those that change, as the contact was read at `revision`."""

    revision: int
    values: Values


@router.put("/contacts/{id}")
async def put_contact(
    id: UUID, body: ContactPut, context: CurrentContext, account: CurrentAccount
) -> ContactOut:
    return contact_out(await contacts.put(context, account, id, body.revision, body.values))


class MergeIn(BaseModel):
    """The contact `other` is made one with this one, which has `values` then."""

    other: UUID
    values: Values


@router.post("/contacts/{id}/merge")
async def merge_contacts(
    id: UUID, body: MergeIn, context: CurrentContext, account: CurrentAccount
) -> ContactOut:
    return contact_out(await contacts.make_one(context, account, id, body.other, body.values))


class OptedOutIn(BaseModel):
    out: bool


@router.put("/contacts/{id}/opted-out")
async def set_opted_out(
    id: UUID, body: OptedOutIn, context: CurrentContext, account: CurrentAccount
) -> ContactOut:
    return contact_out(await contacts.set_out(context, account, id, body.out))


class IdsIn(BaseModel):
    ids: Ids


@router.post("/contacts/removal")
async def remove_contacts(body: IdsIn, context: CurrentContext, account: CurrentAccount) -> int:
    """Take contacts out; how many."""
    return await contacts.remove(context, account, body.ids)


@router.get("/contact-fields")
async def contact_fields(context: CurrentContext, account: CurrentAccount) -> list[ContactField]:
    return list(await fields.every(context, account))


@router.post("/contact-fields", status_code=204)
async def add_contact_field(
    body: ContactField, context: CurrentContext, account: CurrentAccount
) -> None:
    await fields.add(context, account, body)


@router.put("/contact-fields", status_code=204)
async def put_contact_field(
    body: ContactField, context: CurrentContext, account: CurrentAccount
) -> None:
    """Change the words or the options of the field with this key."""
    await fields.put(context, account, body)


@router.delete("/contact-fields/{key}", status_code=204)
async def remove_contact_field(key: str, context: CurrentContext, account: CurrentAccount) -> None:
    await fields.remove(context, account, key)


class ContactListOut(BaseModel):
    """`contacts` are on it, `reachable` of them did not opt out."""

    id: UUID
    name: str
    made: datetime
    contacts: int
    reachable: int


class ListNameIn(BaseModel):
    name: str = Field(max_length=120)


@router.get("/contact-lists")
async def contact_lists(context: CurrentContext, account: CurrentAccount) -> list[ContactListOut]:
    return [ContactListOut(**vars(one)) for one in await lists.every(context, account)]


@router.post("/contact-lists", status_code=201)
async def add_contact_list(
    body: ListNameIn, context: CurrentContext, account: CurrentAccount
) -> UUID:
    return await lists.add(context, account, body.name)


@router.put("/contact-lists/{id}", status_code=204)
async def put_contact_list(
    id: UUID, body: ListNameIn, context: CurrentContext, account: CurrentAccount
) -> None:
    await lists.put(context, account, id, body.name)


@router.delete("/contact-lists/{id}", status_code=204)
async def remove_contact_list(id: UUID, context: CurrentContext, account: CurrentAccount) -> None:
    await lists.remove(context, account, id)


class MembersIn(BaseModel):
    """Contacts to put on a list, or to take off it."""

    ids: Ids
    on: bool


@router.post("/contact-lists/{id}/contacts")
async def change_members(
    id: UUID, body: MembersIn, context: CurrentContext, account: CurrentAccount
) -> int:
    return await lists.change(context, account, id, body.ids, body.on)
