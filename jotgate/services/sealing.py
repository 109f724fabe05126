"""Restricted answers of an entry, encrypted and bound to that entry."""

from collections.abc import Mapping
from dataclasses import dataclass
from uuid import UUID

import orjson

from jotgate.core.entries.entry import Stored
from jotgate.core.records.files import SentFile
from jotgate.services.context import Context

_FINISH = "."
"""Where the finish stands among sealed answers; no item has such a key."""


@dataclass(frozen=True)
class Restricted:
    """What of an entry needs clearance; `finish` is empty where that is open."""

    answers: Stored
    finish: str


NONE = Restricted({}, "")


def _purpose(entry_id: UUID) -> str:
    return f"entry {entry_id}"


def seal(context: Context, entry_id: UUID, restricted: Restricted) -> bytes:
    """Restricted answers, and the finish where that is restricted."""
    answers, finish = restricted.answers, restricted.finish
    whole = {**answers, _FINISH: finish} if finish else answers
    return context.cipher.seal(orjson.dumps(whole), _purpose(entry_id))


def unseal(context: Context, entry_id: UUID, sealed: bytes) -> Restricted:
    """What `seal` was given for this entry, as it is stored. Raises Sealed."""
    answers: Stored = orjson.loads(context.cipher.open(sealed, _purpose(entry_id)))
    return Restricted(answers, str(answers.pop(_FINISH, "")))


def restricted_of(context: Context, entry_id: UUID, sealed: Mapping[UUID, bytes]) -> Restricted:
    """What of an entry needs clearance, of those of `sealed`; nothing where it has none."""
    return unseal(context, entry_id, sealed[entry_id]) if entry_id in sealed else NONE


def seal_version(context: Context, entry_id: UUID, version: int, whole: Restricted) -> bytes:
    """Everything that an entry said before it was changed."""
    plain = orjson.dumps([whole.answers, whole.finish])
    return context.cipher.seal(plain, f"{_purpose(entry_id)} version {version}")


def unseal_version(context: Context, entry_id: UUID, version: int, sealed: bytes) -> Restricted:
    """What `seal_version` was given. Raises Sealed."""
    plain = context.cipher.open(sealed, f"{_purpose(entry_id)} version {version}")
    return Restricted(*orjson.loads(plain))


def seal_cell(context: Context, row: int, questionnaire_id: UUID, key: str, said: str) -> bytes:
    """An answer as it stands beside a row of a register."""
    return context.cipher.seal(said.encode(), f"row {row} {questionnaire_id} {key}")


def unseal_cell(context: Context, row: int, questionnaire_id: UUID, key: str, sealed: bytes) -> str:
    """What `seal_cell` was given. Raises Sealed."""
    return context.cipher.open(sealed, f"row {row} {questionnaire_id} {key}").decode()


_SEALED = "sealed/"
"""How the sealed name of a file begins; no clean name does, since none has a slash."""


def seal_name(context: Context, id: UUID, name: str) -> str:
    """The name of the file `id` as it is stored where it is restricted."""
    return _SEALED + context.cipher.seal(name.encode(), f"file {id} name").decode("ascii")


def is_sealed(file: SentFile) -> bool:
    return file.name.startswith(_SEALED)


def name_of_file(context: Context, file: SentFile) -> str:
    """The name that a file was sent under. Raises Sealed."""
    if not is_sealed(file):
        return file.name
    sealed = file.name.removeprefix(_SEALED).encode()
    return context.cipher.open(sealed, f"file {file.id} name").decode()
