"""Every setting in one place; each is an environment variable with the prefix JOTGATE_."""

from pathlib import Path
from typing import Literal

from pydantic import Field, IPvAnyNetwork
from pydantic_settings import BaseSettings, SettingsConfigDict

ROOT = Path(__file__).resolve().parent.parent


def for_libpq(url: str) -> str:
    """The address of a database, as SQLAlchemy writes it, as PostgreSQL's own library takes it."""
    return url.replace("postgresql+psycopg://", "postgresql://", 1)


def is_service(url: str) -> bool:
    """Whether data keys are at a key service, and in no database."""
    return url.startswith(("https://", "http://"))


class Settings(BaseSettings):
    model_config = SettingsConfigDict(env_prefix="JOTGATE_", extra="ignore")

    database_url: str = Field(
        "postgresql+psycopg://jotgate@127.0.0.1:5432/jotgate",
        description="Where PostgreSQL is, as SQLAlchemy writes it.",
    )
    restricted_url: str = Field(
        "",
        description="The same database as a role that may read restricted answers; without it, "
        "the role of JOTGATE_DATABASE_URL does everything.",
    )
    migrations_url: str = Field(
        "",
        description="The same database as the role that its tables belong to, for migrating.",
    )
    key_store_url: str = Field(
        "",
        description="Where data keys are: a database apart from the others, as SQLAlchemy writes "
        "it, on another server where possible, whose backups are not kept with theirs; or a key "
        "service, as `https://…`.",
    )
    key_store_token: str = Field("", description="What the key service knows us by.")
    key_store_migrations_url: str = Field(
        "",
        description="The same database as the role that its table belongs to, for migrating.",
    )
    key_service: Path | None = Field(
        None,
        description="The file of the simulated key service, for `python -m jotgate key-service`; "
        "without it there is none.",
    )
    key_service_port: int = Field(2590, description="The port that the key service listens on.")
    pool_size: int = Field(
        10,
        ge=1,
        description="Database connections of one process at most for transactions, and as many "
        "again for restricted answers; twice as many for statements by themselves, which wait for "
        "the disk of the database more than for anything else.",
    )
    keys: tuple[str, ...] = Field(
        (),
        description="Fernet keys of the installation, a JSON list; the first one seals, "
        "every one opens. They encrypt data keys, and what is kept for a while.",
    )
    public_url: str = Field(
        "http://127.0.0.1:8000", description="Where people reach the application."
    )
    port: int = Field(8000, description="The port that bin/demo serves on.")
    secure_cookies: bool = Field(
        True,
        description="Send the session cookie over HTTPS only. Without it, passwords and sessions "
        "can be read on the way; it is for trying on one's own machine.",
    )
    trusted_proxies: tuple[IPvAnyNetwork, ...] = Field(
        (),
        description="Networks of the proxies in front, a JSON list; X-Forwarded-For of others "
        "is not believed.",
    )
    session_hours: int = Field(12, ge=1, description="How long a sign-in lasts.")
    replaced_hours: int = Field(
        24,
        ge=0,
        description="How long an edition that was replaced takes what was begun on it.",
    )
    public_per_minute: int = Field(
        600, ge=1, description="Requests a minute that one address may make to public pages."
    )
    smtp_host: str = Field("127.0.0.1", description="The mail server.")
    smtp_port: int = Field(2525, description="The mail server's port.")
    smtp_user: str = Field(
        "", description="Our name at the mail server; without it we do not sign in there."
    )
    smtp_password: str = Field("", description="Our password at the mail server.")
    smtp_tls: Literal["starttls", "implicit", "none"] = Field(
        "starttls",
        description="`starttls` where it is offered, `implicit` from the first byte, or `none`.",
    )
    mail_from: str = Field(
        "Jot Gate <no-reply@jotgate.example.org>", description="The sender of notices."
    )
    bounces: str = Field(
        "",
        description="The address that reports about letters to contacts go to, such as "
        "bounces@example.org. The mail server hands what comes to it, with anything behind a plus "
        "sign in it (bounces+…@), to our port for them.",
    )
    reports_port: int = Field(
        0, description="Our port for such reports (SMTP); 0 for none, and no such address."
    )
    reports_host: str = Field("127.0.0.1", description="The address that it listens on.")
    mail_room: Path | None = Field(
        None, description="The folder of the simulated mail room; without it there is none."
    )
    calls_private: bool = Field(
        False,
        description="Let dispatch call systems in private networks, and without TLS. Without it, "
        "nobody who writes rules can have this server call what only it can reach.",
    )
    webhook_bench: Path | None = Field(
        None, description="The folder of the simulated webhook bench; without it there is none."
    )
    webhook_bench_port: int = Field(2580, description="The port that the webhook bench listens on.")
    files: Path = Field(
        ROOT / ".data" / "files",
        description="The folder of files that respondents sent and of what pages show.",
    )
    identity_people: Path | None = Field(
        None, description="The people of the simulated identity provider, a JSON file."
    )
    oidc_name: str = Field("", description="What people call the identity provider.")
    oidc_issuer: str = Field(
        "", description="The identity provider's issuer (OpenID Connect); without it there is none."
    )
    oidc_client_id: str = Field("", description="What the identity provider knows us as.")
    oidc_client_secret: str = Field("", description="Our secret at the identity provider.")
    web: Path = Field(ROOT / "web" / "dist", description="The built front end.")
    log_level: str = Field("info", description="debug, info, warning or error.")
