"""Restricted answers and files, each encrypted under a data key of its own, and bound to what they
belong to. Destroying the key makes them unreadable in every copy."""

import base64
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from typing import Protocol
from uuid import UUID

import orjson

from jotgate.core.common.errors import Erased
from jotgate.core.entries.entry import Stored
from jotgate.core.records.ciphertext import Ciphertext
from jotgate.core.records.files import SentFile
from jotgate.ports.data_keys import DataKey
from jotgate.services.context import Context

_FINISH = "."
"""Where the finish stands among sealed answers; no item has such a key."""


class Opens(Protocol):
    """A data key, or the installation's own."""

    def seal(self, plain: bytes, purpose: str) -> bytes: ...

    def open(self, sealed: bytes, purpose: str) -> bytes: ...


@dataclass(frozen=True)
class Restricted:
    """What of an entry needs clearance; `finish` is empty where that is open."""

    answers: Stored
    finish: str


NONE = Restricted({}, "")


class Keys(dict[UUID | None, Opens]):
    """Keys by their ids, the installation's own without one. Asking for one that was destroyed
    raises Erased."""

    def __missing__(self, key: UUID | None) -> Opens:
        raise Erased("This was erased: the key to it is gone.")

    def open(self, sealed: Ciphertext, purpose: str) -> bytes:
        return self[sealed.key_id].open(sealed.content, purpose)


async def keys_for(context: Context, ids: Collection[UUID | None]) -> Keys:
    """The keys of `ids` that were not destroyed."""
    wanted = {id for id in ids if id is not None}
    found = await context.data_keys.find(wanted)
    return Keys([(None, context.cipher), *found.items()])


def _under(key: DataKey, plain: bytes, purpose: str) -> Ciphertext:
    return Ciphertext(key.seal(plain, purpose), key.id)


def _purpose(entry_id: UUID) -> str:
    return f"entry {entry_id}"


async def seal(context: Context, entry_id: UUID, restricted: Restricted) -> Ciphertext:
    """Restricted answers, and the finish where that is restricted."""
    answers, finish = restricted.answers, restricted.finish
    whole = {**answers, _FINISH: finish} if finish else answers
    key = await context.data_keys.take()
    return _under(key, orjson.dumps(whole), _purpose(entry_id))


def _unsealed(keys: Keys, entry_id: UUID, sealed: Ciphertext) -> Restricted:
    answers: Stored = orjson.loads(keys.open(sealed, _purpose(entry_id)))
    return Restricted(answers, str(answers.pop(_FINISH, "")))


async def restricted_of(
    context: Context, entry_id: UUID, sealed: Mapping[UUID, Ciphertext]
) -> Restricted:
    """What of an entry needs clearance, of those of `sealed`; nothing where it has none. Raises
    Sealed, Erased."""
    if entry_id not in sealed:
        return NONE
    one = sealed[entry_id]
    return _unsealed(await keys_for(context, [one.key_id]), entry_id, one)


async def each_restricted(
    context: Context, sealed: Mapping[UUID, Ciphertext]
) -> dict[UUID, Restricted]:
    """What of each entry needs clearance; those that were erased are left out."""
    keys = await keys_for(context, [one.key_id for one in sealed.values()])
    there = {id: one for id, one in sealed.items() if one.key_id in keys}
    return {id: _unsealed(keys, id, one) for id, one in there.items()}


async def restricted_keys(
    context: Context, sealed: Mapping[UUID, Ciphertext]
) -> dict[UUID, frozenset[str]]:
    """The keys of the restricted answers of each entry; those that were erased have none."""
    found = await each_restricted(context, sealed)
    return {id: frozenset(one.answers) for id, one in found.items()}


async def seal_version(
    context: Context, entry_id: UUID, version: int, whole: Restricted
) -> Ciphertext:
    """Everything that an entry said before it was changed."""
    plain = orjson.dumps([whole.answers, whole.finish])
    key = await context.data_keys.take()
    return _under(key, plain, f"{_purpose(entry_id)} version {version}")


async def unseal_version(
    context: Context, entry_id: UUID, version: int, sealed: Ciphertext
) -> Restricted:
    """What `seal_version` was given. Raises Sealed, Erased."""
    keys = await keys_for(context, [sealed.key_id])
    plain = keys.open(sealed, f"{_purpose(entry_id)} version {version}")
    return Restricted(*orjson.loads(plain))


def _cell(row: int, questionnaire_id: UUID, key: str) -> str:
    return f"row {row} {questionnaire_id} {key}"


async def seal_cell(
    context: Context, row: int, questionnaire_id: UUID, key: str, said: str
) -> Ciphertext:
    """An answer as it stands beside a row of a register."""
    made = await context.data_keys.take()
    return _under(made, said.encode(), _cell(row, questionnaire_id, key))


def unseal_cell(keys: Keys, row: int, questionnaire_id: UUID, key: str, sealed: Ciphertext) -> str:
    """What `seal_cell` was given. Raises Sealed, Erased."""
    return keys.open(sealed, _cell(row, questionnaire_id, key)).decode()


_SEALED = "sealed/"
"""How the sealed name of a file begins; no clean name does, since none has a slash."""


def seal_name(key: Opens, id: UUID, name: str) -> str:
    """The name of the file `id` as it is stored where it is restricted."""
    sealed = key.seal(name.encode(), f"file {id} name")
    return _SEALED + base64.urlsafe_b64encode(sealed).decode("ascii")


def is_sealed(file: SentFile) -> bool:
    return file.name.startswith(_SEALED)


async def name_of_file(context: Context, file: SentFile) -> str:
    """The name that a file was sent under. Raises Sealed, Erased."""
    return (await names_of_files(context, [file]))[file.id]


async def names_of_files(context: Context, found: Collection[SentFile]) -> dict[UUID, str]:
    """The names that files were sent under, by id. Raises Sealed, Erased."""
    keys = await keys_for(context, [one.key_id for one in found if is_sealed(one)])
    return {one.id: _name(keys, one) if is_sealed(one) else one.name for one in found}


def _name(keys: Keys, file: SentFile) -> str:
    sealed = base64.urlsafe_b64decode(file.name.removeprefix(_SEALED))
    return keys[file.key_id].open(sealed, f"file {file.id} name").decode()
