"""How somebody who is asked in a round stands: one rule, by which they are counted, found by name,
written to, and coded."""

from typing import Literal, NamedTuple, get_args

from jotgate.core.rounds.dispositions import DISPOSITIONS, Group
from jotgate.core.rounds.round import Step

Outcome = Literal[
    "answered",
    "again",
    "refused",
    "not_reached",
    "wrong_number",
    "moved",
    "not_eligible",
    "language",
]
"""What came of a call or a visit. `language` is that nobody there speaks one that we do."""

OUTCOMES: tuple[Outcome, ...] = get_args(Outcome)

Standing = Literal["answered", "started", "refused", "not_reached", "not_eligible", "open"]
STANDINGS: tuple[Standing, ...] = get_args(Standing)


class Facts(NamedTuple):
    """What is known of somebody in a round at a moment: whether they answered, went on from the
    first page, opted out, and have an address that letters come back from; the outcome of the last
    call or visit (`answered` there is what whoever rang or went was told, entered or not); whether
    a letter went to them, and whether they were called or visited; the code that somebody gave by
    hand; whether there is a mail address, a number, and a postcode; and whether the contact is
    there no more.
    `outcome` and `code` may be empty."""

    answered: bool = False
    started: bool = False
    out: bool = False
    bounced: bool = False
    outcome: str = ""
    written: bool = False
    called: bool = False
    code: str = ""
    mail: bool = True
    phone: bool = True
    post: bool = True
    gone: bool = False


_BY_GROUP: dict[Group, Standing] = {
    "complete": "answered",
    "partial": "answered",
    "refusal": "refused",
    "non_contact": "not_reached",
    "other": "not_reached",
    "unknown_household": "open",
    "unknown_other": "open",
    "not_eligible": "not_eligible",
}


def standing(facts: Facts) -> Standing:
    """An answer counts whatever else is known, unless somebody coded otherwise by hand."""
    if facts.code:
        return _BY_GROUP[DISPOSITIONS[facts.code].group]
    if facts.answered or facts.outcome == "answered":
        return "answered"
    if facts.outcome == "not_eligible":
        return "not_eligible"
    if facts.out or facts.outcome == "refused":
        return "refused"
    if facts.started:
        return "started"
    if facts.bounced or facts.outcome in ("wrong_number", "moved"):
        return "not_reached"
    return "open"


def concerns(step: Step, facts: Facts) -> bool:
    """Whether a step goes to somebody: never to who answered, opted out, refused, is not eligible
    or was coded as closed, and by mail never to an address that letters come back from. Whether
    `only` is true of them is asked apart."""
    stands = standing(facts)
    if facts.gone or facts.out or stands in ("answered", "refused", "not_eligible"):
        return False
    if facts.code and stands != "open":
        return False
    if step.to == "not_started" and facts.started:
        return False
    if step.to == "broken_off" and not facts.started:
        return False
    match step.way:
        case "mail":
            return facts.mail and not facts.bounced
        case "paper":
            return facts.post and facts.outcome != "moved"
        case "call":
            return facts.phone and facts.outcome != "wrong_number"
        case _:
            return facts.outcome != "moved"


def reached(facts: Facts) -> bool:
    """Whether they are known to have been reached: by what they did, or by who rang or went."""
    spoke = facts.outcome in ("again", "refused", "not_eligible", "language", "answered")
    return facts.answered or facts.started or facts.out or spoke


_BY_OUTCOME = {
    "not_eligible": "4.70",
    "language": "2.332",
    "again": "2.36",
    "moved": "3.90",
    "wrong_number": "3.90",
    "not_reached": "2.20",
}


def disposition(facts: Facts) -> str:
    """The code that follows from what happened, or was given by hand. While a round goes on it is
    how somebody stands for now. Which code a kind of event stands for is our choice: the
    definitions leave samples of names room there; a named contact who was talked to
    counts as eligible."""
    if facts.code:
        return facts.code
    if facts.answered or facts.outcome == "answered":
        return "1.1"
    if facts.outcome == "not_eligible":
        return _BY_OUTCOME["not_eligible"]
    if facts.out or facts.outcome == "refused":
        return "2.112"
    if facts.started:
        return "2.12"
    if facts.outcome:
        return _BY_OUTCOME[facts.outcome]
    if facts.bounced:
        return "3.30"
    return "3.19" if facts.written else "3.11"
