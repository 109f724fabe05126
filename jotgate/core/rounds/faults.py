"""What keeps a round, or a step of one, from going."""

from collections.abc import Iterator
from dataclasses import dataclass

from jotgate.core.common.errors import Fault
from jotgate.core.contacts.asked import LANGUAGE, contact_items
from jotgate.core.contacts.fields import BUILT_IN, ContactField
from jotgate.core.mailing import contact_slot_faults, mailing_faults
from jotgate.core.publishing.condition_faults import condition_faults
from jotgate.core.rounds.round import Draw, Round, Step

MISSING = ("no_field", "which is not known of contacts")
LONGEST_SCRIPT = 10_000


@dataclass(frozen=True)
class Around:
    """What a round speaks of beside itself: the fields of contacts, the languages of the
    questionnaire, the first one first, and which lists there are, by their ids as texts."""

    fields: tuple[ContactField, ...]
    languages: tuple[str, ...]
    lists: frozenset[str]

    @property
    def field_keys(self) -> set[str]:
        return {*BUILT_IN, *(one.key for one in self.fields)}


def people_faults(round: Round, around: Around) -> Iterator[Fault]:
    """What keeps people from being drawn."""
    list_id = round.people.list_id
    if list_id is None:
        yield Fault(code="no_list", at="people/list_id", message="Choose whom to ask: a list.")
    elif str(list_id) not in around.lists:
        yield Fault(code="no_list", at="people/list_id", message="That list is no longer there.")
    items = contact_items(around.fields)
    lead = "The condition asks for"
    yield from condition_faults(round.people.only, items, LANGUAGE, "people/only", lead, MISSING)
    yield from _draw_faults(round.draw, around)
    if round.zone_field and round.zone_field not in around.field_keys:
        message = f"There is no field {round.zone_field} of contacts."
        yield Fault(code="no_field", at="zone_field", message=message)


def _draw_faults(draw: Draw, around: Around) -> Iterator[Fault]:
    if draw.by and draw.by not in around.field_keys:
        message = f"There is no field {draw.by} of contacts."
        yield Fault(code="no_field", at="draw/by", message=message)
    if draw.sizes and not draw.by:
        message = "Choose the field whose values are the strata."
        yield Fault(code="no_field", at="draw/by", message=message)
    if any(size < 0 for size in draw.sizes.values()):
        yield Fault(code="size", at="draw/sizes", message="A size is 0 or more.")


def step_faults(round: Round, around: Around) -> Iterator[Fault]:
    """What keeps steps from going, each at `steps/key` and on."""
    seen: set[str] = set()
    if any(step.way == "paper" for step in round.steps):
        yield from _post_faults(round, around)
    for step in round.steps:
        at = f"steps/{step.key}"
        if step.key in seen:
            yield Fault(code="twice", at=at, message="Two steps have the same key.")
        seen.add(step.key)
        yield from _step_faults(step, at, around)


def _post_faults(round: Round, around: Around) -> Iterator[Fault]:
    """What keeps letters on paper from going: told at each step that is one."""
    post, own = round.post, {one.key for one in around.fields}
    found = list(contact_slot_faults(post.lines, around.field_keys, "post/lines"))
    if not post.lines.strip():
        message = "Write how the address of a contact reads."
        found.append(Fault(code="no_address", at="post/lines", message=message))
    if post.postcode not in own:
        message = "Choose the field of contacts that has their postcode."
        found.append(Fault(code="no_field", at="post/postcode", message=message))
    for step in round.steps:
        if step.way == "paper":
            for fault in found:
                yield fault.model_copy(update={"at": f"steps/{step.key}/{fault.at}"})


def _step_faults(step: Step, at: str, around: Around) -> Iterator[Fault]:
    items, lead = contact_items(around.fields), f"{step.name} asks for"
    yield from condition_faults(step.only, items, LANGUAGE, f"{at}/only", lead, MISSING)
    first = around.languages[0]
    if step.way in ("mail", "paper"):
        if step.text is None:
            message = "Write the letter."
            yield Fault(code="no_text", at=f"{at}/text/body/{first}", message=message)
            return
        for fault in mailing_faults(step.text, first, around.field_keys):
            yield fault.model_copy(update={"at": f"{at}/text/{fault.at}"})
        return
    for language, words in step.script.items():
        if len(words) > LONGEST_SCRIPT:
            message = f"This has more than {LONGEST_SCRIPT:,} characters."
            yield Fault(code="too_long", at=f"{at}/script/{language}", message=message)
        yield from contact_slot_faults(words, around.field_keys, f"{at}/script/{language}")


def faulty_steps(faults: Iterator[Fault]) -> frozenset[str]:
    """The keys of the steps that faults of `step_faults` are about."""
    return frozenset(one.at.split("/")[1] for one in faults)


def changed_faults(before: Round, after: Round, begun: frozenset[str]) -> Iterator[Fault]:
    """What may not be changed any more: the steps that have gone stay first, in their order, and
    the ways that they went."""
    gone = [one for one in before.steps if one.key in begun]
    for number, step in enumerate(gone):
        now = after.steps[number] if number < len(after.steps) else None
        if now is None or (now.key, now.way) != (step.key, step.way):
            message = f"{step.name} has gone already: it stays where it is."
            yield Fault(code="gone", at=f"steps/{step.key}", message=message)


def drawn_faults(before: Round, after: Round) -> Iterator[Fault]:
    """That who is asked does not change once they were drawn."""
    if (before.people, before.draw, before.portions) != (after.people, after.draw, after.portions):
        message = "Who is asked was drawn already. Make another round for others."
        yield Fault(code="drawn", at="people", message=message)
