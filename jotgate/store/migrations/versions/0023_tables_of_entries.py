"""Tables of entries: what they are searched, filtered and sorted by, beside the entries."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None

FUNCTIONS = (
    """
create function entry_text(answers jsonb, key text, empty text) returns text
language sql immutable parallel safe
return coalesce(lower(left(answers ->> key, 200) collate "und-x-icu"), empty)
""",
    """
create function entry_raw(answers jsonb, key text, empty text) returns text
language sql immutable parallel safe
return coalesce(left(answers ->> key, 200), empty)
""",
    """
create function entry_number(answers jsonb, key text, empty numeric) returns numeric
language sql immutable parallel safe
return coalesce(
  case when answers ->> key ~ '^-?[0-9]{1,60}(\\.[0-9]{1,60})?$'
    then (answers ->> key)::numeric end,
  empty)
""",
    """
create function entry_place(answers jsonb, key text, codes text[], empty integer) returns integer
language sql immutable parallel safe
return coalesce(
  array_position(codes, answers ->> key),
  case when answers ? key then cardinality(codes) + 1 end,
  empty)
""",
    """
create function entry_length(answers jsonb, key text, empty integer) returns integer
language sql immutable parallel safe
return coalesce(
  case when jsonb_typeof(answers -> key) = 'array' then jsonb_array_length(answers -> key) end,
  empty)
""",
    """
create function entry_parts(answers jsonb, key text, parts text[], empty text) returns text
language sql immutable parallel safe
as $$
  select coalesce(nullif(lower((
    select left(string_agg(answers -> key ->> part, ' ' order by place), 200)
    from unnest(parts) with ordinality as every (part, place)
  ) collate "und-x-icu"), ''), empty)
$$
""",
    """
create function entry_letters(answers jsonb, key text) returns text
language sql immutable parallel safe
return replace(replace(replace(replace(
  lower((answers ->> key) collate "und-x-icu"), 'ß', 'ss'), 'ς', 'σ'), 'ŉ', 'ʼn'), 'ſ', 's')
""",
    """
create function entry_language(language text) returns regconfig
language sql immutable parallel safe
return case split_part(language, '-', 1)
  when 'ar' then 'arabic'::regconfig when 'da' then 'danish'::regconfig
  when 'de' then 'german'::regconfig when 'el' then 'greek'::regconfig
  when 'en' then 'english'::regconfig when 'es' then 'spanish'::regconfig
  when 'fi' then 'finnish'::regconfig when 'fr' then 'french'::regconfig
  when 'hu' then 'hungarian'::regconfig when 'it' then 'italian'::regconfig
  when 'nl' then 'dutch'::regconfig when 'no' then 'norwegian'::regconfig
  when 'pt' then 'portuguese'::regconfig when 'ro' then 'romanian'::regconfig
  when 'ru' then 'russian'::regconfig when 'sv' then 'swedish'::regconfig
  when 'tr' then 'turkish'::regconfig
  else 'simple'::regconfig end
""",
    """
create function entry_words(language text, answers jsonb) returns tsvector
language sql immutable parallel safe
return case when length(answers::text) > 200000
  then to_tsvector('simple'::regconfig, left(answers::text, 200000))
  else jsonb_to_tsvector('simple'::regconfig, answers, '["string", "numeric"]')
    || jsonb_to_tsvector(entry_language(language), answers, '["string", "numeric"]') end
""",
    """
create function entry_query(words text[], languages text[]) returns tsquery
language plpgsql immutable parallel safe as $$
declare
  word text;
  language text;
  one tsquery;
  found tsquery;
  said text;
begin
  foreach word in array words loop
    said := plainto_tsquery('simple'::regconfig, word)::text;
    continue when said = '';
    one := (said || ':*')::tsquery;
    foreach language in array languages loop
      one := one || plainto_tsquery(entry_language(language), word);
    end loop;
    found := case when found is null then one else found && one end;
  end loop;
  return coalesce(found, ''::tsquery);
end $$
""",
    """
create function entry_rows_follow() returns trigger language plpgsql as $$
begin
  update entry_rows r set answers = n.answers - m.hidden
  from changed n join entry_row_marks m on m.questionnaire_id = n.questionnaire_id
  where r.questionnaire_id = n.questionnaire_id and r.number = n.number
    and r.answers is distinct from n.answers - m.hidden;
  return null;
end $$
""",
    """
create trigger entry_rows_follow after update on entries
referencing new table as changed
for each statement execute function entry_rows_follow()
""",
    """
create function index_entry_rows(named text, questionnaire uuid, spec jsonb) returns void
language plpgsql security definer set search_path = pg_catalog, public as $$
declare
  part jsonb;
  keys text[] := '{}';
  made text;
  codes text[];
begin
  if named !~ '^er_[0-9a-f]{24}$' then
    raise exception 'no name for such an index';
  end if;
  for part in select * from jsonb_array_elements(spec -> 'parts') loop
    codes := array(select jsonb_array_elements_text(part -> 'codes'));
    made := case part ->> 'by'
      when 'text' then format('public.entry_text(answers, %L, %L) collate "und-x-icu"',
        part ->> 'key', part ->> 'empty')
      when 'raw' then format('public.entry_raw(answers, %L, %L) collate "C"',
        part ->> 'key', part ->> 'empty')
      when 'number' then format('public.entry_number(answers, %L, %L)',
        part ->> 'key', part ->> 'empty')
      when 'length' then format('public.entry_length(answers, %L, %L)',
        part ->> 'key', part ->> 'empty')
      when 'place' then format('public.entry_place(answers, %L, %L, %L)',
        part ->> 'key', codes, part ->> 'empty')
      when 'parts' then format('public.entry_parts(answers, %L, %L, %L) collate "und-x-icu"',
        part ->> 'key', codes, part ->> 'empty')
      when 'letters' then format('public.entry_letters(answers, %L)', part ->> 'key')
    end;
    if made is null then
      raise exception 'no such part of an index';
    end if;
    keys := keys || format('(%s)', made);
  end loop;
  if spec #>> '{parts, 0, by}' = 'letters' then
    made := format('using gin (%s public.gin_trgm_ops)', keys[1]);
  else
    made := format('(%s, (%s))', array_to_string(keys, ', '),
      case when (spec ->> 'descending')::boolean then 'number' else '-number' end);
  end if;
  execute format(
    'create index if not exists %I on public.entry_rows %s where questionnaire_id = %L',
    named, made, questionnaire);
  execute format('create statistics if not exists public.%I on %s from public.entry_rows',
    named || 's', keys[1]);
  analyze public.entry_rows;
end $$
""",
    """
create function drop_entry_rows_index(named text) returns void
language plpgsql security definer set search_path = pg_catalog, public as $$
begin
  if named !~ '^er_[0-9a-f]{24}$' then
    raise exception 'no name for such an index';
  end if;
  execute format('drop index if exists public.%I', named);
  execute format('drop statistics if exists public.%I', named || 's');
end $$
""",
    "revoke all on function index_entry_rows(text, uuid, jsonb) from public",
    "revoke all on function drop_entry_rows_index(text) from public",
)


def upgrade() -> None:
    op.create_table(
        "entry_rows",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("arrived", sa.DateTime(timezone=True), nullable=False),
        sa.Column("language", sa.String(), nullable=False),
        sa.Column("answers", postgresql.JSONB(), nullable=False),
        sa.PrimaryKeyConstraint("questionnaire_id", "number", name="pk_entry_rows"),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "number"],
            ["entries.questionnaire_id", "entries.number"],
            name="fk_entry_rows_questionnaire_id",
            ondelete="CASCADE",
        ),
    )
    op.create_table(
        "entry_row_marks",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("upto", sa.Integer(), nullable=False),
        sa.Column("next", sa.Integer(), nullable=True),
        sa.Column("horizon", sa.BigInteger(), nullable=True),
        sa.Column("hidden", postgresql.ARRAY(sa.Text()), nullable=False),
        sa.Column("sealing", sa.Integer(), nullable=False, server_default="0"),
        sa.PrimaryKeyConstraint("questionnaire_id", name="pk_entry_row_marks"),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name="fk_entry_row_marks_questionnaire_id",
            ondelete="CASCADE",
        ),
    )
    op.create_table(
        "entry_row_indexes",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("spec", postgresql.JSONB(), nullable=False),
        sa.Column("used", sa.DateTime(timezone=True), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=True),
        sa.PrimaryKeyConstraint("name", name="pk_entry_row_indexes"),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name="fk_entry_row_indexes_questionnaire_id",
            ondelete="CASCADE",
        ),
    )
    op.create_index(
        "ix_entry_row_indexes_questionnaire_id", "entry_row_indexes", ["questionnaire_id"]
    )
    op.create_table(
        "entry_changes",
        sa.Column("work_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("before", postgresql.JSONB(), nullable=False),
        sa.Column("after", postgresql.JSONB(), nullable=False),
        sa.PrimaryKeyConstraint("work_id", "number", name="pk_entry_changes"),
        sa.ForeignKeyConstraint(
            ["work_id"], ["work.id"], name="fk_entry_changes_work_id", ondelete="CASCADE"
        ),
    )
    op.create_table(
        "entry_notes",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=True),
        sa.Column("words", sa.String(), nullable=False),
        sa.Column("written", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_entry_notes"),
        sa.ForeignKeyConstraint(
            ["account_id"],
            ["accounts.id"],
            name="fk_entry_notes_account_id",
            ondelete="SET NULL",
        ),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "entry_id"],
            ["entries.questionnaire_id", "entries.id"],
            name="fk_entry_notes_questionnaire_id",
            ondelete="CASCADE",
            deferrable=True,
            initially="DEFERRED",
        ),
    )
    op.create_index(
        "ix_entry_notes_questionnaire_id_entry_id",
        "entry_notes",
        ["questionnaire_id", "entry_id"],
    )
    op.execute("create extension if not exists pg_trgm with schema public")
    for one in FUNCTIONS:
        op.execute(one)
    op.add_column(
        "entry_rows",
        sa.Column(
            "words",
            postgresql.TSVECTOR(),
            sa.Computed("entry_words(language, answers)", persisted=True),
            nullable=False,
        ),
    )
    op.create_index(
        "ix_entry_rows_questionnaire_id_arrived_number",
        "entry_rows",
        ["questionnaire_id", "arrived", "number"],
    )
    op.create_index(
        "ix_entry_rows_answers",
        "entry_rows",
        ["answers"],
        postgresql_using="gin",
        postgresql_ops={"answers": "jsonb_path_ops"},
    )
    op.create_index("ix_entry_rows_words", "entry_rows", ["words"], postgresql_using="gin")
    op.execute("alter table entry_rows alter column answers set statistics 300")
    op.create_index(
        "ix_entries_questionnaire_id_status_number",
        "entries",
        ["questionnaire_id", "status", "number"],
        postgresql_where=sa.text("status <> ''"),
    )
    op.create_index(
        "ix_entries_questionnaire_id_archived",
        "entries",
        ["questionnaire_id", "archived"],
        postgresql_where=sa.text("archived is not null"),
    )
    _saved_views()


def _saved_views() -> None:
    op.rename_table("register_views", "saved_views")
    op.add_column("saved_views", sa.Column("questionnaire_id", sa.Uuid(), nullable=True))
    op.alter_column("saved_views", "register_id", nullable=True)
    op.create_foreign_key(
        "fk_saved_views_questionnaire_id",
        "saved_views",
        "questionnaires",
        ["questionnaire_id"],
        ["id"],
        ondelete="CASCADE",
    )
    for old, new in (
        ("pk_register_views", "pk_saved_views"),
        ("fk_register_views_register_id", "fk_saved_views_register_id"),
        ("fk_register_views_account_id", "fk_saved_views_account_id"),
    ):
        op.execute(f"alter table saved_views rename constraint {old} to {new}")
    op.drop_constraint("uq_register_views_register_id_account_id_name", "saved_views")
    op.create_unique_constraint(
        "uq_saved_views_of_name",
        "saved_views",
        ["register_id", "questionnaire_id", "account_id", "name"],
        postgresql_nulls_not_distinct=True,
    )
    op.create_check_constraint(
        "ck_saved_views_of", "saved_views", "num_nonnulls(register_id, questionnaire_id) = 1"
    )
