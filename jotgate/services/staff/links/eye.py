"""What somebody would arrive with who came by a link, and answers that lead them on."""

from dataclasses import dataclass
from random import Random
from typing import Any
from urllib.parse import parse_qsl
from uuid import UUID

from jotgate.core.common.errors import Invalid
from jotgate.core.entries.finishing import ending, to_keep
from jotgate.core.records.accounts import Account
from jotgate.core.records.links import Way
from jotgate.core.walking.made_up import answers_to
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import Filled
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.public import entering
from jotgate.services.public.entering import LINK_VALUES, Visit, with_filled
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.staff.trial import told
from jotgate.store import questionnaires

WALKS = 6
"""Walks with made-up answers, along different branches."""


@dataclass(frozen=True)
class Looked:
    """The link that is looked at: `path` is that of its page, `given` what stands in its address.
    `walks` are made-up answers with the pages that they lead to, and what the finish then says."""

    visitor: Visit
    path: str
    given: tuple[tuple[str, str], ...]
    walks: tuple[tuple[dict[str, Any], tuple[str, ...], str], ...]

    @property
    def plan(self) -> Plan:
        return self.visitor.plan

    @property
    def filled(self) -> Filled:
        return self.visitor.filled


async def look(context: Context, account: Account, id: UUID, link: str) -> Looked:
    """Look at `link`, a whole address of this questionnaire. Raises Invalid for another one, and
    whatever keeps a visitor out."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        address = there(await questionnaires.summary(conn, id)).address
    entrance, path, query = _taken_apart(context, link, address)
    visitor = await entering.visit(context, address, query, entrance=entrance)
    given = tuple(parse_qsl(query, keep_blank_values=True)[:LINK_VALUES])
    return Looked(visitor, path + (f"?{query}" if query else ""), given, tuple(_walks(visitor)))


def _taken_apart(context: Context, link: str, address: str) -> tuple[Entrance, str, str]:
    base = context.public_url.rstrip("/")
    if not link.startswith(f"{base}/"):
        raise Invalid("This is no address of this questionnaire.")
    path, _, query = link.removeprefix(base).partition("?")
    parts = path.strip("/").split("/")
    ways: dict[str, Way] = {"q": "", "l": "l", "p": "p", "s": "s"}
    way = ways.get(parts[0])
    wanted = 2 if way == "" else 3
    if way is None or len(parts) < wanted or parts[1] != address:
        raise Invalid("This is no address of this questionnaire.")
    secret = parts[2] if way else ""
    return Entrance(way=way, secret=secret), "/" + "/".join(parts[:wanted]), query


def _walks(visitor: Visit) -> list[tuple[dict[str, Any], tuple[str, ...], str]]:
    plan, filled, today = visitor.plan, visitor.filled, visitor.today
    found = []
    for seed in range(WALKS):
        made = answers_to(plan, None, filled.carried, today, Random(seed))
        if made is None:
            continue
        whole = walk(plan, with_filled(filled, made), filled.carried, today)
        says = ending(plan, whole.finish, to_keep(plan, whole), 0, visitor.language)
        onward = says.onward.address if says.onward else ""
        text = f"{says.heading}\n{says.message}\n{onward}"
        found.append((told(made), tuple(step.page.key for step in whole.steps), text))
    return found
