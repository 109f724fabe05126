"""What dispatch rules speak of beside their questionnaire, found without looking it up."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.dispatch.rules import Call, Dispatch, Notice, ToTeam


@dataclass(frozen=True)
class Needs:
    """Registers by id; whether systems are called, teams written to, and whether what stands around
    the entries is named: links and statuses."""

    registers: frozenset[UUID]
    hooks: bool
    teams: bool
    around: bool


def needs_of(rules: Dispatch) -> Needs:
    acts = rules.acts()
    said = rules.model_dump_json()
    return Needs(
        registers=rules.filed_to(),
        hooks=any(isinstance(act, Call) for act in acts),
        teams=any(isinstance(act, Notice) and isinstance(act.to, ToTeam) for act in acts),
        around="entry.link" in said or "entry.status" in said,
    )
