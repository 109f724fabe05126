"""Drafts as they are kept and sent: JSON in, JSON out, with what keeps them from being published.

What is done here can take long for a large draft, so that it is done away from other requests.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import BaseModel, TypeAdapter, ValidationError

from jotgate.core.errors import Fault, Unreadable
from jotgate.core.faults import faults
from jotgate.core.questionnaire import Questionnaire

MOST_TOLD = 50
"""Faults of a body that are told at most."""


class Draft(BaseModel):
    """A draft as it is saved: over the `revision` that it was read at."""

    revision: int
    document: Questionnaire


@dataclass(frozen=True)
class DraftJson:
    """`document` and `faults` in JSON (UTF-8)."""

    revision: int
    document: str
    faults: str

    def whole(self) -> str:
        return f'{{"revision":{self.revision},"document":{self.document},"faults":{self.faults}}}'


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
    return DraftJson(revision, document.model_dump_json(), found)
