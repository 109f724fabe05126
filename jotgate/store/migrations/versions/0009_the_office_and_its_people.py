"""The office; people, their parts, teams, factors, devices and tokens; the trail's chain.

Everybody signs in anew: sessions say where they were begun now. Coordinators become owners, since
until now nobody could do more.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

OFFICE = 'insert into office (id, settings, revision) values (1, \'{"name": "Your office"}\', 1)'

TIME = sa.DateTime(timezone=True)


def _of(table: str, column: str, other: str, cascade: bool = True) -> sa.ForeignKeyConstraint:
    name = op.f(f"fk_{table}_{column}")
    ending = "CASCADE" if cascade else None
    return sa.ForeignKeyConstraint([column], [f"{other}.id"], name=name, ondelete=ending)


def _key(table: str, *columns: str) -> sa.PrimaryKeyConstraint:
    return sa.PrimaryKeyConstraint(*columns, name=op.f(f"pk_{table}"))


def upgrade() -> None:
    _office()
    _accounts()
    _teams()
    _parts()
    _factors()
    _sessions()
    _tokens()
    _trail()


def _office() -> None:
    op.create_table(
        "office",
        sa.Column("id", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("settings", postgresql.JSONB(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.CheckConstraint("id = 1", name="ck_office_one"),
        _key("office", "id"),
    )
    op.execute(OFFICE)
    op.alter_column("media", "questionnaire_id", existing_type=sa.UUID(), nullable=True)


def _accounts() -> None:
    op.add_column("accounts", sa.Column("note", sa.String(), server_default="", nullable=False))
    for name in ("until", "left", "seen"):
        op.add_column("accounts", sa.Column(name, TIME))
    op.add_column("accounts", sa.Column("totp", sa.LargeBinary()))
    op.add_column("accounts", sa.Column("totp_step", sa.BigInteger()))
    op.add_column("accounts", sa.Column("subject", sa.String()))
    op.alter_column("accounts", "role", existing_type=sa.VARCHAR(), nullable=True)
    op.alter_column("accounts", "password_hash", existing_type=sa.VARCHAR(), nullable=True)
    op.create_unique_constraint(op.f("uq_accounts_subject"), "accounts", ["subject"])
    op.execute("update accounts set role = 'owner' where role = 'coordinator'")
    op.create_table(
        "one_time_links",
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("purpose", sa.String(), nullable=False),
        sa.Column("account_id", sa.Uuid()),
        sa.Column("expires", TIME, nullable=False),
        _of("one_time_links", "account_id", "accounts"),
        _key("one_time_links", "token_hash"),
    )
    op.create_index(op.f("ix_one_time_links_account_id"), "one_time_links", ["account_id"])


def _teams() -> None:
    op.create_table(
        "teams",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("address", sa.String(), nullable=False),
        _key("teams", "id"),
        sa.UniqueConstraint("name", name=op.f("uq_teams_name")),
    )
    op.create_table(
        "team_members",
        sa.Column("team_id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        _of("team_members", "account_id", "accounts"),
        _of("team_members", "team_id", "teams"),
        _key("team_members", "team_id", "account_id"),
    )
    op.create_index(op.f("ix_team_members_account_id"), "team_members", ["account_id"])


def _parts() -> None:
    whose = ("account_id", "team_id")
    where = ("questionnaire_id", "register_id")
    others = ("accounts", "teams", "questionnaires", "registers")
    op.create_table(
        "parts",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("role", sa.String(), nullable=False),
        *(sa.Column(name, sa.Uuid()) for name in (*whose, *where)),
        sa.CheckConstraint("num_nonnulls(account_id, team_id) = 1", name="ck_parts_whose"),
        sa.CheckConstraint(
            "num_nonnulls(questionnaire_id, register_id) = 1", name="ck_parts_where"
        ),
        *(_of("parts", name, other) for name, other in zip((*whose, *where), others, strict=True)),
        _key("parts", "id"),
        sa.UniqueConstraint(
            *whose, *where, name="uq_parts_one", postgresql_nulls_not_distinct=True
        ),
    )
    op.add_column("clearances", sa.Column("given", TIME, server_default=sa.func.now()))
    op.add_column("clearances", sa.Column("given_by", sa.Uuid()))
    op.add_column("clearances", sa.Column("until", TIME))
    op.add_column("clearances", sa.Column("asks_reason", sa.Boolean(), server_default=sa.false()))
    op.execute("update clearances set given_by = account_id")
    for name, kind in (("given", TIME), ("given_by", sa.Uuid()), ("asks_reason", sa.Boolean())):
        op.alter_column("clearances", name, existing_type=kind, nullable=False, server_default=None)
    op.create_foreign_key(
        op.f("fk_clearances_given_by"), "clearances", "accounts", ["given_by"], ["id"]
    )


def _factors() -> None:
    op.create_table(
        "passkeys",
        sa.Column("id", sa.LargeBinary(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("public_key", sa.LargeBinary(), nullable=False),
        sa.Column("count", sa.BigInteger(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("added", TIME, nullable=False),
        sa.Column("used", TIME),
        _of("passkeys", "account_id", "accounts"),
        _key("passkeys", "id"),
    )
    op.create_index(op.f("ix_passkeys_account_id"), "passkeys", ["account_id"])
    op.create_table(
        "recovery_codes",
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("code_hash", sa.LargeBinary(), nullable=False),
        _of("recovery_codes", "account_id", "accounts"),
        _key("recovery_codes", "account_id", "code_hash"),
    )


def _sessions() -> None:
    op.execute("delete from sessions")
    op.add_column("sessions", sa.Column("id", sa.Uuid(), nullable=False))
    op.add_column("sessions", sa.Column("started", TIME, nullable=False))
    op.add_column("sessions", sa.Column("seen", TIME, nullable=False))
    op.add_column("sessions", sa.Column("confirmed", TIME, nullable=False))
    op.add_column("sessions", sa.Column("limited", sa.Boolean(), nullable=False))
    op.add_column("sessions", sa.Column("agent", sa.String(), nullable=False))
    op.add_column("sessions", sa.Column("place", sa.String(), nullable=False))
    op.create_index(op.f("ix_sessions_account_id"), "sessions", ["account_id"])
    op.create_unique_constraint(op.f("uq_sessions_id"), "sessions", ["id"])
    op.create_table(
        "devices",
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("seen", TIME, nullable=False),
        _of("devices", "account_id", "accounts"),
        _key("devices", "token_hash", "account_id"),
    )
    op.create_index(op.f("ix_devices_account_id"), "devices", ["account_id"])
    op.create_table(
        "used_once",
        sa.Column("name", sa.LargeBinary(), nullable=False),
        sa.Column("expires", TIME, nullable=False),
        _key("used_once", "name"),
    )


def _tokens() -> None:
    op.create_table(
        "tokens",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("scopes", postgresql.JSONB(), nullable=False),
        sa.Column("cleared", sa.Boolean(), nullable=False),
        sa.Column("made", TIME, nullable=False),
        sa.Column("expires", TIME, nullable=False),
        sa.Column("used", TIME),
        _of("tokens", "account_id", "accounts"),
        _key("tokens", "id"),
        sa.UniqueConstraint("token_hash", name=op.f("uq_tokens_token_hash")),
    )
    op.create_index(op.f("ix_tokens_account_id"), "tokens", ["account_id"])


def _trail() -> None:
    op.execute("alter table trail alter column id drop identity")
    op.add_column("trail", sa.Column("register_id", sa.Uuid()))
    op.add_column("trail", sa.Column("about_id", sa.Uuid()))
    op.alter_column("trail", "account_id", existing_type=sa.UUID(), nullable=True)
    for name in ("about_id", "account_id", "entry_id", "questionnaire_id"):
        op.create_index(op.f(f"ix_trail_{name}"), "trail", [name])
    op.create_foreign_key(op.f("fk_trail_about_id"), "trail", "accounts", ["about_id"], ["id"])
    op.create_table(
        "trail_links",
        sa.Column("trail_id", sa.BigInteger(), autoincrement=False, nullable=False),
        sa.Column("hash", sa.LargeBinary(), nullable=False),
        _of("trail_links", "trail_id", "trail", cascade=False),
        _key("trail_links", "trail_id"),
    )


def downgrade() -> None:
    raise NotImplementedError("People, parts and the chain of the trail would be lost.")
