"""Entries of every kind by chance, of two editions."""

import random
from typing import Any
from uuid import UUID

import orjson
from sqlalchemy import text

from jotgate.core.answers.checks import check
from jotgate.core.common.today import Today, today_in
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import as_json
from jotgate.core.handling import FirstStatus, Handling, Keeping, Status
from jotgate.core.items import is_valued
from jotgate.core.walking.made_up import answer
from jotgate.services import entry_rows
from jotgate.services.staff import questionnaires
from jotgate.services.staff.entries import entry_table, handling
from jotgate.services.staff.entries.entry_table import Opened
from jotgate.store.entries import entries as store
from tests.documents import item, options, page, questionnaire
from tests.scenes import Scene, published, save

TWO = options("well", "tank")


MORE = {"else_label": {"en": "Other"}}


ROSTER = [
    item("short_text", "note"),
    item("number", "depth", decimals=1),
    item("pick_one", "use", options=TWO),
]


ITEMS = (
    item("short_text", "short"),
    item("long_text", "long"),
    item("email", "mail"),
    item("phone", "phone"),
    item("web_address", "web"),
    item("number", "number", decimals=2, at_least="-9", at_most="9"),
    item("date", "date", earliest="today-3", latest="today+3"),
    item("time", "time"),
    item("date_time", "moment", earliest="today-2", latest="today+2"),
    item("yes_no", "yes"),
    item("pick_one", "one", options=options("b", "a", "c"), **MORE),
    item("pick_many", "many", options=options("x", "y", "z"), **MORE),
    item("rank", "rank", options=options("p", "q", "r")),
    item("scale", "scale", low=0, high=4),
    item("name", "name"),
    item("address", "address"),
    item("location", "place"),
    item("file", "file"),
    item("signature", "signature"),
    item("grid", "grid", rows=[{"code": "r", "label": {"en": "R"}}], columns=[item("number", "n")]),
    item("roster", "wells", items=ROSTER),
    item("carried", "ref", sources=[{"kind": "link"}], about={}),
    item("computed", "sum", formula={"do": "sum", "of": ["number", "scale"]}),
    item("computed", "taken", formula={"do": "first", "of": ["one", "short"]}),
    item("short_text", "secret", restricted=True),
)


WORDS = ("Ínes", "straße", "STRASSE", "a'b", "100%", "\\d", "well", "Z", "äpfel", "ΣΊΣΥΦΟΣ")


def documents() -> tuple[Questionnaire, Questionnaire]:
    """Two editions, in the second of which one question is of another kind and one has gone."""
    before = [item("number", "short") if one["key"] == "short" else one for one in ITEMS] + [
        item("short_text", "gone")
    ]
    return questionnaire(page("p", *before)), questionnaire(page("p", *ITEMS))


def answers(document: Questionnaire, today: Today, chance: random.Random) -> dict[str, Any]:
    found: dict[str, Any] = {}
    is_number = next(one for one in document.items() if one.key == "short").kind == "number"
    for one in document.items():
        if not is_valued(one) or one.key == "secret" or chance.random() < 0.3:
            continue
        if one.kind == "computed":
            taken = chance.choice(("a", "b") if is_number else ("a", "well", "b"))
            found[one.key] = "3.5" if one.key == "sum" else taken
        elif one.key in ("short", "long", "gone") and one.kind != "number":
            found[one.key] = chance.choice(WORDS)
        elif one.kind in ("pick_one", "pick_many") and chance.random() < 0.3:
            other: Any = {"else": chance.choice(WORDS)}
            found[one.key] = other if one.kind == "pick_one" else [other, "x"]
        else:
            made = check(one, answer(one, {}, today, chance), today)
            if made is not None:
                found[one.key] = as_json(made)
    return found


INSERT = """
insert into entries (questionnaire_id, id, edition, number, arrived, finish, answers, flags,
  idempotency_key, stripe, status, language, archived, corrected, carer_id, status_since)
select :of, gen_random_uuid(), :edition, :number,
  :now - make_interval(mins => :ago), :finish, cast(:answers as jsonb), '{}', :key,
  (select min(stripe) from tallies where questionnaire_id = :of), :status, :language,
  case when :archived then :now end, :corrected, :carer,
  :now - make_interval(mins => :since)
"""


WAYS_INSERT = """
insert into entry_ways (questionnaire_id, entry_id, about, entered)
select questionnaire_id, id, answers ->> 'ref',
  case number % 4 when 0 then 'phone' when 1 then 'paper' end from entries
where questionnaire_id = :of and answers ? 'ref'
"""


async def filled(scene: Scene, count: int = 90) -> tuple[UUID, Opened, list[Entry]]:
    """Chance entries of both editions; the newest first."""
    context, chance = scene.context, random.Random(11)
    first, second = documents()
    id, _ = await published(context, scene.coordinator, first)
    await save(context, scene.coordinator, id, second, 1)
    await questionnaires.publish(context, scene.coordinator, id, 2)
    going, done = (
        Status(key="new", name="Going", days=2),
        Status(key="done", name="Done", final=True),
    )
    kept = Keeping(days=3)
    stands = Handling(first=FirstStatus(days=4), statuses=(going, done), keeping=kept)
    await handling.save(context, scene.coordinator, id, stands, 1)
    today = today_in("UTC", context.clock.now())
    async with context.engine.begin() as conn:
        for number in range(1, count + 1):
            edition = 1 if number <= count // 3 else 2
            said = answers(first if edition == 1 else second, today, chance)
            row = {
                "of": id,
                "now": context.clock.now(),
                "edition": edition,
                "number": number,
                "ago": chance.randrange(0, 9_000),
                "finish": chance.choice(("", "end")),
                "answers": orjson.dumps(said).decode(),
                "key": f"k{number}",
                "status": chance.choice(("", "new", "done")),
                "language": chance.choice(("", "en")),
                "archived": chance.random() < 0.2,
                "corrected": chance.random() < 0.2,
                "since": chance.choice((None, chance.randrange(0, 9_000))),
                "carer": chance.choice((None, scene.coordinator.id, scene.reviewer.id)),
            }
            await conn.execute(text(INSERT), row)
        await conn.execute(text(WAYS_INSERT), {"of": id})
    assert await entry_rows.catch_up_with(context, id) == count
    async with context.engine.connect() as conn:
        every = await store.newest(conn, id, None, count)
    return id, await entry_table.open_table(context, scene.coordinator, id), every
