"""Files in answers: what we know of them, whatever the browser says."""

from collections.abc import Callable
from typing import Any
from uuid import UUID

from jotgate.core.common.values import FileFacts
from jotgate.core.walking.path import RawAnswers
from jotgate.core.walking.plan import Plan
from jotgate.services.context import Context
from jotgate.services.keys.sealing import names_of_files
from jotgate.store import files


async def with_facts(
    context: Context,
    plan: Plan,
    questionnaire_id: UUID,
    answers: RawAnswers,
    own: UUID | None = None,
) -> RawAnswers:
    """`answers` with what we know of the files in them, in place of what the browser says.

    A file that is not known, or belongs to another entry than `own`, stands as its id, and fails
    its check.
    """
    wanted: set[UUID] = set()

    def note(_: str, said: Any) -> Any:
        wanted.update(_as_uuid(said))

    each_file(plan, answers, note)
    if not wanted:
        return answers
    async with context.single.connect() as conn:
        found = await files.find_all(conn, questionnaire_id, wanted)
    names = await names_of_files(context, found)
    facts = {
        (file.item, str(file.id)): FileFacts(
            str(file.id), names[file.id], file.size, file.type or ""
        )
        for file in found
        if file.entry_id is None or file.entry_id == own
    }
    return each_file(plan, answers, lambda key, said: facts.get((key, _id(said)), _id(said)))


def each_file(plan: Plan, answers: RawAnswers, put: Callable[[str, Any], Any]) -> RawAnswers:
    """`answers` with every file in them replaced by what `put` gives for its question's key and
    what was sent, inside rosters too."""
    holding = [key for key in answers if key in plan.files or key in plan.file_holders]
    found = {key: _replaced(plan, key, answers[key], put) for key in holding}
    return {**answers, **found} if found else answers


def _replaced(plan: Plan, key: str, raw: Any, put: Callable[[str, Any], Any]) -> Any:
    if not isinstance(raw, list):
        return raw
    if key in plan.files:
        return [put(key, said) for said in raw]
    if key in plan.owned:
        return [each_file(plan, line, put) if isinstance(line, dict) else line for line in raw]
    return raw


def _id(said: Any) -> str:
    """The id by which a browser names a file."""
    return str(said.get("id")) if isinstance(said, dict) else str(said)


def _as_uuid(said: Any) -> set[UUID]:
    try:
        return {UUID(_id(said))}
    except ValueError:
        return set()
