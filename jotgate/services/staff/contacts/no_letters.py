"""Who must not be written to: looked up, brought in from a table, added and taken out by hand."""

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.contacts.fields import NotFit, readings
from jotgate.core.contacts.opting import OptOut
from jotgate.core.records.accounts import Account
from jotgate.core.records.work import Work
from jotgate.services import opting_out
from jotgate.services.context import Context
from jotgate.services.staff.rights import in_office
from jotgate.services.tables import tables
from jotgate.services.trail import note
from jotgate.store.contacts import opt_outs

PER_PAGE = 100


@dataclass(frozen=True)
class NoLetters:
    """`count` is how many there are in all."""

    found: Sequence[OptOut]
    more: bool
    count: int


async def page(context: Context, account: Account, words: str, after: str) -> NoLetters:
    """Addresses that nothing goes to, with `words` in them, behind `after`."""
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        found = await opt_outs.page(conn, words, after, PER_PAGE + 1)
        return NoLetters(found[:PER_PAGE], len(found) > PER_PAGE, await opt_outs.count(conn))


async def put(context: Context, account: Account, written: str, out: bool) -> str:
    """Have no letter go to an address, or letters again; the address as it is kept. Raises Invalid,
    NotFound."""
    in_office(account, "reach")
    try:
        email = readings(())["email"](written.strip())
    except NotFit as why:
        raise Invalid(str(why), [Fault(code="email", at="email", message=str(why))]) from None
    async with context.engine.begin() as conn:
        now = context.clock.now()
        if not await opting_out.mark(conn, email, out, now, account.name):
            if not out:
                raise NotFound("This address is not among them any more.")
            message = "This address is among them already."
            raise Invalid(message, [Fault(code="twice", at="email", message=message)])
        await note(context, conn, account.id, "opted_out", state="out" if out else "in")
    return email


async def bring(context: Context, account: Account, table_id: UUID, column: int) -> Work:
    """Have no letter go to the addresses in a column of a table. Raises Invalid, NotFound."""
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        table = await tables.own(conn, account, table_id)
        if not 0 <= column < len(table.columns):
            message = "There is no such column."
            raise Invalid(message, [Fault(code="no_field", at="column", message=message)])
        said = {"table_id": str(table.id), "column": column}
        return await tables.ask(context, conn, account, "bring_no_letters", table, said)
