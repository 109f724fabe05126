"""Acting on many entries at once, in the background: with progress, a way to stop, and undone."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal
from uuid import UUID

from jotgate.core.common.errors import Invalid, JotGateError, NotAllowed, NotFound
from jotgate.core.handling import Care
from jotgate.core.records.accounts import Account
from jotgate.core.records.work import Work
from jotgate.services.context import Context
from jotgate.services.handling import Change, Handled, Standing, change_entries, stands
from jotgate.services.staff.entries import removing
from jotgate.services.staff.entries.choosing import Choice, chosen_after, count_chosen
from jotgate.services.staff.entries.handling import may_change
from jotgate.services.staff.rights import needs
from jotgate.services.stopping import is_stopped
from jotgate.store import work
from jotgate.store.accounts import accounts
from jotgate.store.base import Connection
from jotgate.store.entries import entries
from jotgate.store.entry_table import changes

AT_ONCE = 2_000
"""Entries of one transaction."""

NAMED = 20
"""Entries that are told of by number where they could not be changed."""

Do = Literal["change", "delete", "undo"]


def _change_json(change: Change) -> dict[str, Any]:
    care = change.care
    told = None if care is None else {"person": _text(care.person), "team": _text(care.team)}
    return {"status": change.status, "archived": change.archived, "care": told}


def _change(said: Mapping[str, Any]) -> Change:
    care = said["care"]
    meant = None if care is None else Care(_uuid(care["person"]), _uuid(care["team"]))
    return Change(said["status"], said["archived"], meant)


def _text(id: UUID | None) -> str | None:
    return str(id) if id else None


def _uuid(said: str | None) -> UUID | None:
    return UUID(said) if said else None


def _standing_json(standing: Standing) -> dict[str, Any]:
    status, archived, care = standing
    return _change_json(Change(status, archived is not None, care))


async def ask(
    context: Context,
    account: Account,
    id: UUID,
    choice: Choice,
    change: Change | None,
) -> Work:
    """Have entries changed by the worker, or deleted where `change` is None. Raises NotAllowed,
    Invalid."""
    async with context.engine.begin() as conn:
        if change is None:
            await needs(conn, account, "write", id)
        else:
            await may_change(context, conn, account, id, change)
        whole = replace(choice, upto=await entries.highest(conn, id))
        total = await count_chosen(context, conn, account, id, whole)
        if not total:
            raise Invalid("No entry is chosen.")
        do: Do = "delete" if change is None else "change"
        said = {"choice": whole.as_json(), "do": do}
        said |= {} if change is None else {"change": _change_json(change)}
        return await _asked(context, conn, account, id, said, total)


async def undo(context: Context, account: Account, id: UUID, work_id: UUID) -> Work:
    """Have entries stand again as before, which nobody has changed since. Raises NotFound,
    Invalid."""
    async with context.engine.begin() as conn:
        one = await _acting_on(conn, account, id, work_id)
        if one.arguments["do"] != "change" or one.state not in ("done", "failed"):
            raise Invalid("That cannot be undone.")
        said = {"do": "undo", "of": str(work_id)}
        return await _asked(context, conn, account, id, said, one.done)


async def _asked(
    context: Context,
    conn: Connection,
    account: Account,
    id: UUID,
    said: dict[str, Any],
    total: int,
) -> Work:
    now = context.clock.now()
    one = Work(context.ids.id(), account.id, id, "entries", "waiting", 0, total, said, {}, now)
    await work.ask(conn, one, context.queue)
    return one


async def progress(context: Context, account: Account, id: UUID, work_id: UUID) -> Work:
    """Raises NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        return await _own(conn, id, work_id)


async def stop(context: Context, account: Account, id: UUID, work_id: UUID) -> None:
    async with context.engine.begin() as conn:
        await _acting_on(conn, account, id, work_id)
        await work.ask_to_stop(conn, work_id)


async def _acting_on(conn: Connection, account: Account, id: UUID, work_id: UUID) -> Work:
    """Work that `account` asked for, or any for those who write. Raises NotFound, NotAllowed."""
    await needs(conn, account, "read", id)
    one = await _own(conn, id, work_id)
    if one.account_id != account.id:
        await needs(conn, account, "write", id)
    return one


async def _own(conn: Connection, id: UUID, work_id: UUID) -> Work:
    found = await work.find(conn, work_id)
    if found is None or found.questionnaire_id != id or found.kind != "entries":
        raise NotFound("There is no such work.")
    return found


@dataclass
class _Came:
    """What has come of it so far."""

    looked: int = 0
    changed: int = 0
    wrong: int = 0
    named: tuple[dict[str, Any], ...] = ()

    def add(self, looked: int, handled: Sequence[Handled]) -> None:
        self.looked += looked
        failed = [one for one in handled if one.wrong]
        self.changed += len(handled) - len(failed)
        self.wrong += len(failed)
        named = [{"number": one.number, "wrong": one.wrong} for one in failed]
        self.named = (*self.named, *named)[:NAMED]

    def told(self, stopped: bool) -> dict[str, object]:
        return {
            "entries": self.changed,
            "wrong": self.wrong,
            "named": list(self.named),
            "stopped": stopped,
        }


async def carry_out(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Do what was asked for, some entries after the other, each time in a transaction of its own:
    what was done counts where it ends early, and done once more it does nothing twice. Whoever
    asked needs the right at each step."""
    assert one.questionnaire_id is not None
    came = _Came()
    after: int | None = 0
    while after is not None:
        account = await _asking(context, one)
        after = await _step(context, account, one, came, after)
        if await is_stopped(context, one.id, came.looked) and after is not None:
            return came.told(stopped=True)
    return came.told(stopped=False)


async def _asking(context: Context, one: Work) -> Account:
    async with context.engine.connect() as conn:
        found = await accounts.by_id(conn, one.account_id, context.clock.now())
    if found is None:
        raise NotAllowed("Whoever asked for it has no account any more.")
    return found


async def _step(
    context: Context, account: Account, one: Work, came: _Came, after: int
) -> int | None:
    """The next entries; the number to go on after, None where that was all."""
    id = one.questionnaire_id
    assert id is not None
    if one.arguments["do"] == "delete":
        return await _deleted(context, account, id, one, came, after)
    async with context.engine.begin() as conn:
        undoing = one.arguments["do"] == "undo"
        if undoing:
            await needs(conn, account, "read", id)
        else:
            change = _change(one.arguments["change"])
            await may_change(context, conn, account, id, change)
        wanted, last = await _wanted(context, conn, account, one, after)
        handled = await change_entries(context, conn, account.id, id, wanted, undoing)
        done = [each for each in handled if not each.wrong]
        if done and one.arguments["do"] == "change":
            told = [
                (each.number, _standing_json(each.before), _standing_json(each.after))
                for each in done
            ]
            await changes.add(conn, one.id, told)
    came.add(len(wanted), handled)
    return last


async def _wanted(
    context: Context, conn: Connection, account: Account, one: Work, after: int
) -> tuple[dict[int, Change], int | None]:
    """What is to become of the next entries."""
    assert one.questionnaire_id is not None
    if one.arguments["do"] == "undo":
        return await _back(conn, one.questionnaire_id, UUID(one.arguments["of"]), after)
    choice = Choice.from_json(one.arguments["choice"])
    id = one.questionnaire_id
    numbers = await chosen_after(context, conn, account, id, choice, after, AT_ONCE)
    change = _change(one.arguments["change"])
    last = numbers[-1] if len(numbers) == AT_ONCE else None
    return dict.fromkeys(numbers, change), last


async def _back(
    conn: Connection, id: UUID, work_id: UUID, after: int
) -> tuple[dict[int, Change], int | None]:
    """What undoes a change, of entries that stand as it left them."""
    found = await changes.following(conn, work_id, after, AT_ONCE)
    now = {
        entry.number: _standing_json(stands(entry))
        for entry in await entries.by_numbers(conn, id, [number for number, _, _ in found])
    }
    wanted = {number: _change(before) for number, before, left in found if now.get(number) == left}
    return wanted, found[-1][0] if len(found) == AT_ONCE else None


async def _deleted(
    context: Context, account: Account, id: UUID, one: Work, came: _Came, after: int
) -> int | None:
    choice = Choice.from_json(one.arguments["choice"])
    async with context.engine.begin() as conn:
        numbers = await chosen_after(context, conn, account, id, choice, after, AT_ONCE)
        found = await entries.numbered(conn, id, numbers)
    for entry in reversed(found):
        standing = stands(entry)
        try:
            await removing.remove(context, account, id, entry.id)
            came.add(1, [Handled(entry.number, standing, standing)])
        except JotGateError as error:
            came.add(1, [Handled(entry.number, standing, standing, error.message)])
        if came.looked % 50 == 0 and await is_stopped(context, one.id, came.looked):
            return numbers[-1]
    return numbers[-1] if len(numbers) == AT_ONCE else None
