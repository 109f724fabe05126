"""Drafts as they are kept and sent: JSON in, JSON out, with what keeps them from being published.

What is done here can take long for a large draft, so that it is done away from other requests.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import BaseModel, TypeAdapter, ValidationError

from jotgate.core.common.errors import Fault, Unreadable
from jotgate.core.conditions.saved import expanded
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.document.restriction import restrictions
from jotgate.core.items import is_restricted
from jotgate.core.publishing.faults import faults

MOST_TOLD = 50
"""Faults of a body that are told at most."""


class Draft(BaseModel):
    """A draft as it is saved: over the `revision` that it was read at."""

    revision: int
    document: Questionnaire


@dataclass(frozen=True)
class DraftJson:
    """`document`, `faults` and what depends on restricted answers, in JSON."""

    revision: int
    document: str
    faults: str
    depending: str

    def whole(self) -> str:
        parts = f'"document":{self.document},"faults":{self.faults},"depending":{self.depending}'
        return f'{{"revision":{self.revision},{parts}}}'


class Depending(BaseModel):
    """What would be open but depends on restricted answers: key -> the keys of those, in reading
    order. `finish` are those that tell where a walk ends; `freed` is what was set free."""

    items: dict[str, list[str]]
    finish: list[str]
    freed: list[str]


def depending(document: Questionnaire) -> Depending:
    said = expanded(document, document.saved)
    found = restrictions(said)
    order = {item.key: number for number, item in enumerate(said.items())}
    own = {item.key for item in said.items() if is_restricted(item)}
    items = {
        key: sorted(causes, key=order.__getitem__)
        for key, causes in found.items.items()
        if key not in own
    }
    finish = sorted(found.finish, key=order.__getitem__)
    return Depending(items=items, finish=finish, freed=sorted(found.freed))


_FAULTS: TypeAdapter[Sequence[Fault]] = TypeAdapter(Sequence[Fault])


def taken(body: bytes) -> DraftJson:
    """A draft to be saved, read from `body`, with its faults. Raises Unreadable."""
    try:
        draft = Draft.model_validate_json(body)
    except ValidationError as why:
        errors = why.errors(include_url=False, include_input=False, include_context=False)
        told = [
            Fault(code=one["type"], at="/".join(map(str, one["loc"])), message=one["msg"])
            for one in errors[:MOST_TOLD]
        ]
        raise Unreadable("The draft does not have the expected shape.", told) from None
    return _shown(draft.revision, draft.document)


def kept(revision: int, document: str) -> DraftJson:
    """A stored draft with its faults."""
    return _shown(revision, Questionnaire.model_validate_json(document))


def _shown(revision: int, document: Questionnaire) -> DraftJson:
    found = _FAULTS.dump_json(faults(document)).decode()
    kept = depending(document).model_dump_json()
    return DraftJson(revision, document.model_dump_json(), found, kept)
