"""The trail: who did and who saw what, and the chain that shows whether it was changed."""

import json
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any, Literal
from uuid import UUID

Action = Literal[
    "signed_in",
    "sign_in_slowed",
    "sessions_ended",
    "password_changed",
    "reset_asked",
    "factor_added",
    "factor_removed",
    "factors_reset",
    "recovery_code_used",
    "token_made",
    "token_ended",
    "invited",
    "joined",
    "person_changed",
    "person_left",
    "team_made",
    "team_changed",
    "team_removed",
    "office_changed",
    "part_given",
    "part_taken",
    "clearance_given",
    "clearance_ended",
    "created",
    "published",
    "gate_changed",
    "dispatch_changed",
    "run_again",
    "replayed",
    "run_skipped",
    "sending_paused",
    "sending_resumed",
    "hook_added",
    "hook_changed",
    "hook_secret_made",
    "hook_removed",
    "register_created",
    "register_changed",
    "register_removed",
    "rows_removed",
    "rows_restored",
    "rows_brought",
    "rows_exported",
    "entries_exported",
    "link_made",
    "link_changed",
    "links_changed",
    "link_key_made",
    "link_key_ended",
    "passes_made",
    "passes_revoked",
    "passes_exported",
    "contacts_brought",
    "contact_changed",
    "contacts_removed",
    "contacts_exported",
    "person_exported",
    "person_erased",
    "contact_fields_changed",
    "list_changed",
    "opted_out",
    "sign_in_changed",
    "letters_asked",
    "letters_held",
    "round_changed",
    "round_drawn",
    "round_released",
    "round_printed",
    "round_step",
    "round_coded",
    "entry_deleted",
    "entry_handled",
    "entry_entered",
    "entry_anonymised",
    "entry_changed",
    "statuses_changed",
    "restricted_seen",
    "restricted_sent",
    "set_free",
    "page_shared",
    "trail_exported",
]


@dataclass(frozen=True)
class TrailMark:
    """One line of the trail as it is kept. `detail` holds names and keys, never answers.
    `account_id` is who did it, None for nobody of the office; `about_id` whom it was done to."""

    id: int
    at: datetime
    account_id: UUID | None
    action: Action
    questionnaire_id: UUID | None = None
    entry_id: UUID | None = None
    register_id: UUID | None = None
    about_id: UUID | None = None
    detail: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class Link:
    """The link of the chain at the row `id`."""

    id: int
    hash: bytes


def chained(mark: TrailMark, before: bytes) -> bytes:
    """What the link of `mark` is the hash of, `before` being the link before it."""
    told = [
        mark.id,
        mark.at.astimezone(UTC).isoformat(timespec="microseconds"),
        mark.action,
        *(None if one is None else str(one) for one in _ids(mark)),
        mark.detail,
    ]
    written = json.dumps(told, sort_keys=True, ensure_ascii=True, separators=(",", ":"))
    return before + written.encode("ascii")


def _ids(mark: TrailMark) -> tuple[UUID | None, ...]:
    return (
        mark.account_id,
        mark.questionnaire_id,
        mark.entry_id,
        mark.register_id,
        mark.about_id,
    )


@dataclass(frozen=True)
class TrailEntry:
    """One line of the trail as it is read: `who` did it, and whom it is `about`, by name."""

    id: int
    at: datetime
    account_id: UUID | None
    who: str
    action: Action
    questionnaire_id: UUID | None
    entry_id: UUID | None
    register_id: UUID | None
    about_id: UUID | None
    about: str
    detail: dict[str, Any]


@dataclass(frozen=True)
class TrailFilter:
    """Which lines are wanted; what is None or empty is not asked for. `person` did it or had it
    done to them; `key` is a restricted answer that was seen; from `since` to before `until`."""

    person: UUID | None = None
    questionnaire: UUID | None = None
    entry: UUID | None = None
    register: UUID | None = None
    actions: tuple[Action, ...] = ()
    key: str | None = None
    since: datetime | None = None
    until: datetime | None = None
