"""What a codebook says of variables beside what is counted."""

from collections.abc import Iterator, Mapping, Sequence

from jotgate.core.common.wording import say
from jotgate.core.conditions.condition import AllOf, Condition
from jotgate.core.conditions.in_words import Subject, in_words
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.table import TableColumn, held_by
from jotgate.core.items import Item, Roster, inside, is_valued, options_of
from jotgate.core.items.kinds import KINDS
from jotgate.core.items.staff_names import staff_name
from jotgate.core.statistics.codebook import Counted, Described
from jotgate.core.statistics.variables import Variable
from jotgate.core.walking.plan import Plan


def described(
    plans: Mapping[int, Plan],
    variables: Sequence[Variable],
    counted: Sequence[Counted],
    columns: Mapping[str, TableColumn],
) -> Iterator[Described]:
    """Each variable with its form of question, and when that is asked as the newest edition that
    has it says."""
    for variable, many in zip(variables, counted, strict=True):
        column = columns[variable.of]
        if column.fact:
            yield Described(variable, many)
            continue
        having = max(one for one, plan in plans.items() if column.key in plan.items)
        document = plans[having].questionnaire
        when = _when(document, column.key)
        words = in_words(when, subjects(document)) if when else ""
        asked = [column.item, *(one for one in inside(column.item) if one.key == variable.inside)]
        yield Described(variable, many, KINDS[asked[-1].kind].name, words)


def _when(document: Questionnaire, key: str) -> Condition | None:
    """When a question is asked, as far as its page and itself say so."""
    found = ((page, item) for page in document.pages for item in page.items if item.key == key)
    both = [one.shown_when for place in found for one in place if one.shown_when is not None]
    return AllOf(op="all", parts=tuple(both)) if len(both) > 1 else next(iter(both), None)


def subjects(document: Questionnaire) -> dict[str, Subject]:
    """What conditions of a questionnaire can name, in its first language."""
    first = document.first_language
    found = {one.key: _subject(one, first) for one in document.items() if is_valued(one)}
    saved = {f"saved:{one.key}": Subject(one.name or one.key) for one in document.saved}
    return found | saved


def _subject(item: Item, first: str) -> Subject:
    options = {one.code: say(one.label, first, first) or one.code for one in options_of(item)}
    if other := say(getattr(item, "else_label", None), first, first):
        options["else"] = other
    within = inside(item) if isinstance(item, Roster) else ()
    return Subject(
        staff_name(item, first),
        options,
        held_by(item) in ("day", "time", "moment"),
        held_by(item) == "picks",
        {one.key: _subject(one, first) for one in within if is_valued(one)},
    )
