"""What is known of a visitor beside the address that they opened."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from uuid import UUID

Pairs = tuple[tuple[str, str], ...]
"""Values as a link gives them: a key, or `key.part`, with its text; repeated for pick many."""


@dataclass(frozen=True)
class Came:
    """By what they came, for what is counted and limited by it; at most one of the first two.

    `entry` is the one that handed on to this questionnaire, behind the id of its own. `subject_id`
    stands for whoever signed in, the same each time, `mail_id` for a mail address that somebody
    confirmed. `own` is the entry of theirs that they came to change. `staff_id` is the account of
    somebody of the office who enters it for them, or corrects it; `entered` how it came to them.
    """

    link_id: UUID | None = None
    pass_id: UUID | None = None
    contact_id: UUID | None = None
    subject_id: UUID | None = None
    mail_id: UUID | None = None
    own: UUID | None = None
    entry: tuple[UUID, UUID] | None = None
    staff_id: UUID | None = None
    entered: str = ""


@dataclass(frozen=True)
class Arrival:
    """`values` are what a pass, a named link or a sealed link stands for, `handed` what another
    questionnaire handed on. `contact` and `claims` are texts by name. `page` is the address of the
    page that the link stood on, `moment` when they came, in ISO 8601, `begun` the same where the
    gate asks for it, `mail` the address that they confirmed, `why` why it is corrected. Questions
    whose keys are in `locked` cannot be answered otherwise than they are filled in.
    """

    values: Pairs = ()
    handed: Pairs = ()
    contact: Mapping[str, str] = field(default_factory=dict)
    claims: Mapping[str, str] = field(default_factory=dict)
    page: str = ""
    moment: str = ""
    locked: frozenset[str] = frozenset()
    begun: str = ""
    mail: str = ""
    why: str = ""
    came: Came = Came()


NOTHING_KNOWN = Arrival()
