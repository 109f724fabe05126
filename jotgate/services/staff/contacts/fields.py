"""The fields of the office's own that contacts have."""

from jotgate.core.common.errors import AlreadyThere, Fault, Invalid, NotFound
from jotgate.core.contacts.fields import MOST_FIELDS, ContactField
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.rights import in_office
from jotgate.services.trail import note
from jotgate.store.contacts import contacts


async def every(context: Context, account: Account) -> tuple[ContactField, ...]:
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        return await contacts.fields(conn)


def _sound(field: ContactField) -> None:
    folded = [one.casefold() for one in field.options]
    if field.kind == "pick" and not field.options:
        message = "Write at least one option to pick from."
    elif field.kind != "pick" and field.options:
        message = "Only a field that is picked from has options."
    elif len(set(folded)) < len(folded):
        message = "Two options are the same."
    else:
        return
    raise Invalid(message, [Fault(code="options", at="options", message=message)])


async def add(context: Context, account: Account, field: ContactField) -> None:
    """Raises Invalid."""
    in_office(account, "reach")
    _sound(field)
    async with context.engine.begin() as conn:
        known = await contacts.fields(conn)
        if len(known) >= MOST_FIELDS:
            raise Invalid(f"There can be at most {MOST_FIELDS} fields.")
        try:
            async with conn.begin_nested():
                await contacts.put_field(conn, field, len(known))
        except AlreadyThere:
            message = f"There is a field with the key {field.key}."
            raise Invalid(message, [Fault(code="taken", at="key", message=message)]) from None
        await note(context, conn, account.id, "contact_fields_changed", name=field.label)


async def put(context: Context, account: Account, field: ContactField) -> None:
    """Name a field anew, or change its options; its kind stays. Raises Invalid, NotFound."""
    in_office(account, "reach")
    _sound(field)
    async with context.engine.begin() as conn:
        known = {one.key: one for one in await contacts.fields(conn)}
        if field.key not in known:
            raise NotFound("There is no such field.")
        if known[field.key].kind != field.kind:
            message = "The kind of a field stays. Remove it, and add one of another kind."
            raise Invalid(message, [Fault(code="kind", at="kind", message=message)])
        if field.kind == "pick":
            used = await contacts.options_used(conn, field.key)
            lost = sorted(used - set(field.options))
            if lost:
                message = f"Contacts have {', '.join(lost[:5])} still."
                raise Invalid(message, [Fault(code="used", at="options", message=message)])
        await contacts.put_field(conn, field, None)
        await note(context, conn, account.id, "contact_fields_changed", name=field.label)


async def remove(context: Context, account: Account, key: str) -> None:
    """Remove a field, with what contacts have in it. Raises NotFound."""
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        if not await contacts.remove_field(conn, key):
            raise NotFound("There is no such field.")
        await note(context, conn, account.id, "contact_fields_changed", name=key)
