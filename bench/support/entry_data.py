"""A questionnaire with a million entries of twenty answers."""

from typing import Any
from uuid import UUID

import psycopg
from sqlalchemy import text

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.settings import Gate
from jotgate.core.handling import Handling, Status
from jotgate.local.installation import Installation
from jotgate.services.context import Context
from jotgate.services.staff import questionnaires
from jotgate.services.staff.accounts import people
from jotgate.services.staff.entries import handling
from jotgate.services.staff.gate import gate
from jotgate.settings import Settings, for_libpq
from jotgate.wiring import open_context

ENTRIES = 1_000_000
PASSWORD = "well-water-2026"
EMAIL = "a@example.org"

DISTRICTS = ("upper_fell", "saltings", "millbeck", "long_moss", "east", "west", "north", "south")
USES = ("drinking", "washing", "garden", "livestock", "none")


def _picked(codes: tuple[str, ...]) -> list[dict[str, Any]]:
    return [{"code": one, "label": {"en": one.replace("_", " ").capitalize()}} for one in codes]


def _item(kind: str, key: str, **more: Any) -> dict[str, Any]:
    words = key.replace("_", " ").capitalize()
    return {"kind": kind, "key": key, "text": {"en": words}, "short_name": words, **more}


ITEMS = (
    _item("short_text", "household"),
    _item("short_text", "street"),
    _item("email", "email"),
    _item("short_text", "code"),
    _item("pick_one", "district", options=_picked(DISTRICTS)),
    _item("pick_many", "uses", options=_picked(USES)),
    _item("pick_one", "source", options=_picked(("well", "spring", "tank"))),
    _item("yes_no", "tested"),
    _item("yes_no", "filter"),
    _item("yes_no", "rare"),
    _item("number", "drinkers"),
    _item("number", "depth", decimals=1),
    _item("number", "litres"),
    _item("scale", "taste", low=0, high=10),
    _item("scale", "smell", low=0, high=10),
    _item("date", "visit"),
    _item("time", "hour"),
    _item("date_time", "dug"),
    _item("long_text", "remark"),
    _item("short_text", "lab"),
)

FILL = """
insert into entries (questionnaire_id, id, edition, number, arrived, finish, answers, flags,
  idempotency_key, stripe, status, language)
select :id, gen_random_uuid(), 1, n, timestamptz '2026-01-01' + n * interval '25 seconds', 'end',
  jsonb_strip_nulls(jsonb_build_object(
    'household', (array['Aal','Berg','Cope','Dunn','Eke','Falk','Gow','Hale'])[1 + h % 8]
      || ' ' || (h * 7919 % 90007),
    'street', 'Lane ' || h % 5000,
    'email', 'p' || n || '@example.org',
    'code', 'TW-' || lpad((h % 10000)::text, 4, '0'),
    'district', (cast(:districts as text[]))[1 + h / 13 % 8],
    'uses', (array['["drinking"]', '["drinking", "washing"]', '["garden"]',
      '["drinking", "garden", "livestock"]', '["none"]'])[1 + h % 5]::jsonb,
    'source', (array['well', 'spring', 'tank'])[1 + least(h % 7, 2)],
    'tested', h % 3 = 0, 'filter', h % 5 = 0, 'rare', case when h % 1000 = 0 then true end,
    'drinkers', (h % 12)::text, 'depth', (h % 997 / 10.0)::numeric(6, 1)::text,
    'litres', (h % 100003)::text,
    'taste', (h % 11)::text, 'smell', (h / 11 % 11)::text,
    'visit', to_char(date '2026-01-01' + (h % 700)::int, 'YYYY-MM-DD'),
    'hour', to_char(time '08:00' + (h % 600) * interval '1 minute', 'HH24:MI'),
    'dug', to_char(timestamptz '2020-01-01Z' + h % 3000000 * interval '1 minute',
      'YYYY-MM-DD"T"HH24:MI') || '+00:00',
    'remark', (array['clear and cold', 'smells of eggs after rain', 'brown since the flood',
      'fine all year', 'tastes of iron, stains the sink', 'dry in August'])[1 + h % 6]
      || ' ' || md5((h % 20000)::text),
    'lab', 'L' || h % 40)),
  '{}', 'k' || n,
  (select min(stripe) from tallies where questionnaire_id = :id),
  case when n <= :count - 3000 then (array['received', 'scheduled', 'sent'])[1 + h % 3] else '' end,
  'en'
from (select n, (n * 2654435761 % 4294967296)::bigint as h from generate_series(1, :count) n) s
"""
COPY = """
insert into entry_rows (questionnaire_id, number, arrived, language, answers)
select questionnaire_id, number, arrived, language, answers from entries
where questionnaire_id = :id order by number
"""


def document() -> Questionnaire:
    page = {"key": "p", "title": {"en": "Wells"}, "items": list(ITEMS)}
    end = {"key": "end", "title": {"en": "End"}}
    return Questionnaire.model_validate(
        {"title": {"en": "Large"}, "languages": ["en"], "pages": [page], "finishes": [end]}
    )


async def staged(installation: Installation, count: int = ENTRIES) -> UUID:
    """The id of the questionnaire; its entries are copied for tables, and counted."""
    async with open_context(installation.settings) as context:
        person = await people.add(context, EMAIL, "A", "owner", PASSWORD)
        id = await questionnaires.add(context, person, "", document())
        await questionnaires.publish(context, person, id, 1)
        await gate.save(context, person, id, Gate(state="open"), 1)
        names = ("received", "scheduled", "sent")
        stands = tuple(Status(key=one, name=one.capitalize()) for one in names)
        await handling.save(context, person, id, Handling(statuses=stands), 1)
        await _filled(context, id, count)
    tidied(installation.settings)
    return id


def tidied(settings: Settings) -> None:
    """Vacuum and analyse, as the autovacuum of PostgreSQL does some minutes later by itself.
    Without statistics statements are planned as if nothing was known of a million rows."""
    url = for_libpq(settings.migrations_url or settings.database_url)
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute("vacuum (analyze) entries, entry_rows")


async def _filled(context: Context, id: UUID, count: int) -> None:
    values = {"id": id, "count": count, "districts": list(DISTRICTS)}
    tally = (
        "update tallies set entries = :count where questionnaire_id = :id and stripe ="
        " (select min(stripe) from tallies where questionnaire_id = :id)"
    )
    async with context.engine.begin() as conn:
        await conn.execute(text(FILL), values)
        await conn.execute(text(tally), {"id": id, "count": count})
    async with context.engine.begin() as conn:
        await conn.execute(text("set local maintenance_work_mem = '1GB'"))
        await conn.execute(text(COPY), {"id": id})
        mark = "update entry_row_marks set upto = :count where questionnaire_id = :id"
        await conn.execute(text(mark), {"id": id, "count": count})
