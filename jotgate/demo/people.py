"""Made-up respondents and what they might answer. Every name and word here is invented."""

from random import Random

from jotgate.core.checks import Raw
from jotgate.core.conditions import holds
from jotgate.core.path import walk
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Item, LongText, Number, PickOne, ShortText, YesNo

GIVEN = [
    "Oskar",
    "Meera",
    "Tamsin",
    "Ines",
    "Jun",
    "Pilar",
    "Noor",
    "Bram",
    "Sive",
    "Lotta",
    "Anselm",
    "Dara",
    "Yusuf",
    "Hana",
    "Piet",
]
FAMILY = [
    "Lindqvist",
    "Raghavan",
    "Abernathy",
    "Carvalho",
    "Watanabe",
    "Etxeberria",
    "Haddad",
    "Kearney",
    "Niemi",
]

WORDS = {
    "changes": (
        "It has been a little brown after heavy rain.",
        "Nothing has changed.",
        "Smells of eggs since August.",
        "Less pressure than last year.",
        "White marks in the kettle.",
    ),
    "illness": (
        "Two of us had a bad stomach for three days in September.",
        "Our youngest was sick after the flood, better since we boil it.",
        "My mother had cramps twice, always after drinking from the tap.",
    ),
    "remark": ("The pump house was locked, sample from the kitchen tap.", "Cloudy first litre."),
    "words": ("Soft and round.", "A bit like iron.", "Fresh, with nothing behind it."),
    "why": ("I walk past three wells each day.", "I worked in a laboratory for years."),
}
USUALLY: dict[str, str | bool] = {"source": "own", "use": "drinking", "ill": False, "sealed": True}


def answers_of(plan: Plan, random: Random, carried: dict[str, str]) -> dict[str, Raw]:
    """Answers to everything on one path through `plan`, as somebody could give them."""
    given: dict[str, Raw] = {}
    kept = dict(carried)
    for _ in plan.questionnaire.pages:
        for step in walk(plan, given, kept).steps:
            for item in step.page.items:
                if item.key not in given and holds(item.shown_when, {**kept, **_known(given)}):
                    given[item.key] = _answer(item, random)
    return {key: raw for key, raw in given.items() if raw is not None}


def _known(given: dict[str, Raw]) -> dict[str, str | bool]:
    return {key: raw for key, raw in given.items() if isinstance(raw, str | bool)}


def _answer(item: Item, random: Random) -> Raw:
    if item.key in USUALLY and random.random() < 0.6:
        return USUALLY[item.key]
    match item:
        case PickOne():
            return random.choice(item.options).code
        case YesNo():
            return random.random() < 0.5
        case Number(decimals=decimals):
            low, high = float(item.at_least or 0), min(float(item.at_most or 10), 40)
            high = min(high, 7) if item.key == "drinkers" else high
            return str(
                round(random.triangular(low, high, low + (high - low) / 4), decimals or None)
            )
        case LongText():
            return (
                random.choice(WORDS[item.key]) if item.required or random.random() < 0.7 else None
            )
        case ShortText(key="phone"):
            return f"0555 {random.randrange(10**5):05}"
        case ShortText(key="kit"):
            return f"TW-{random.randrange(1000, 4000)}-{random.choice('ABC')}"
        case ShortText():
            return f"{random.choice(GIVEN)} {random.choice(FAMILY)}"
        case _:
            return None
