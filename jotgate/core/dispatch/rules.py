"""Dispatch rules as they are written: conditions, and what is done where they hold.

Rules are tried in order when an entry arrives. A rule that catches is the only one of those that
does: later ones that catch are passed over. A rule that does not catch acts whenever it holds. What
`otherwise` says is done where no rule caught the entry. Beside them there are rules that are tried
in the same way when an entry reaches a status.
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated
from uuid import UUID

from pydantic import Field, StringConstraints

from jotgate.core.common.part import Key, Part
from jotgate.core.conditions.condition import Condition
from jotgate.core.dispatch.acts import (
    Act,
    AddToList,
    Call,
    CareTeam,
    FileRow,
    Notice,
    SetCare,
    SetContact,
    SetStatus,
    SetValue,
    ToTeam,
)

OTHERWISE = "otherwise"


class Rule(Part):
    """Without `when` it holds for every entry. One that is `off` does nothing."""

    key: Key
    when: Condition | None = None
    acts: tuple[Act, ...] = Field((), max_length=20)
    catches: bool = True
    off: bool = False
    note: Annotated[str, StringConstraints(max_length=500)] = ""


class StatusRule(Rule):
    """A rule that acts each time an entry reaches a status."""

    status: Key


@dataclass(frozen=True)
class Needs:
    """What rules speak of beside their questionnaire: registers by id; whether systems are called,
    teams written to, and whether what stands around the entries is named: links and statuses;
    whether they set who takes care or a field of contacts, put on lists, and set what the gate may
    count by. The people of the teams in `turns` take care in turn."""

    registers: frozenset[UUID]
    hooks: bool
    teams: bool
    around: bool
    care: bool
    turns: frozenset[UUID]
    fields: bool
    gate: bool
    lists: bool


class Dispatch(Part):
    rules: tuple[Rule, ...] = Field((), max_length=200)
    otherwise: tuple[Act, ...] = Field((), max_length=20)
    on_status: tuple[StatusRule, ...] = Field((), max_length=100)

    def reaching(self, status: str) -> "Dispatch":
        """The rules that act when an entry reaches a status."""
        return Dispatch(rules=tuple(one for one in self.on_status if one.status == status))

    @property
    def statuses(self) -> frozenset[str]:
        """The statuses that rules set, or act on."""
        own = {act.status for act in self.acts() if isinstance(act, SetStatus)}
        return frozenset(own | {one.status for one in self.on_status})

    def acts(self) -> tuple[Act, ...]:
        """What any rule does."""
        each = (*self.rules, *self.on_status)
        return (*(act for rule in each for act in rule.acts), *self.otherwise)

    def filed_to(self) -> frozenset[UUID]:
        """The registers that rules file to."""
        return frozenset(act.register_id for act in self.acts() if isinstance(act, FileRow))

    @cached_property
    def needs(self) -> Needs:
        acts, said = self.acts(), self.model_dump_json()
        return Needs(
            registers=self.filed_to(),
            hooks=any(isinstance(act, Call) for act in acts),
            teams=any(_is_of_team(act) for act in acts),
            around="entry.link" in said or "entry.status" in said,
            care=any(isinstance(act, SetCare) for act in acts),
            turns=frozenset(team for act in acts for team in _in_turn(act)),
            fields=any(isinstance(act, SetContact) for act in acts),
            gate=any(isinstance(act, SetStatus | SetValue) for act in acts),
            lists=any(isinstance(act, AddToList) for act in acts),
        )


def _is_of_team(act: Act) -> bool:
    match act:
        case Notice(to=ToTeam()) | SetCare(who=CareTeam()):
            return True
    return False


def _in_turn(act: Act) -> tuple[UUID, ...]:
    match act:
        case SetCare(who=CareTeam(team_id=id, in_turn=True)):
            return (id,)
    return ()
