"""Made-up respondents and what they might answer. Every name and word here is invented."""

from datetime import date, timedelta
from random import Random

from jotgate.core.checks import Raw
from jotgate.core.items import (
    Date,
    Email,
    Item,
    LongText,
    Number,
    Phone,
    PickMany,
    PickOne,
    Scale,
    ShortText,
    Time,
    YesNo,
)
from jotgate.core.path import walk
from jotgate.core.plan import Plan

GIVEN = tuple(
    "Oskar Meera Tamsin Ines Jun Pilar Noor Bram Sive Lotta Anselm Dara Yusuf Hana".split(" ")
)
FAMILY = tuple("Lindqvist Raghavan Abernathy Carvalho Watanabe Haddad Kearney Niemi".split(" "))

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
USUALLY: dict[str, Raw] = {"source": "own", "ill": False, "sealed": True}


def answers_of(plan: Plan, random: Random, carried: dict[str, str], today: date) -> dict[str, Raw]:
    """Answers to everything on one path through `plan`, as somebody could give them.

    What is shown depends on what was answered before it, so the walk is taken again after
    each answer until it shows nothing new.
    """
    given: dict[str, Raw] = {}
    while True:
        steps = walk(plan, given, carried, today).steps
        new = [item for step in steps for item in step.shown if item.key not in given]
        if not new:
            return {key: raw for key, raw in given.items() if raw is not None}
        given[new[0].key] = _answer(new[0], random, given, today)


def _answer(item: Item, random: Random, given: dict[str, Raw], today: date) -> Raw:
    if item.key in USUALLY and random.random() < 0.6:
        return USUALLY[item.key]
    name = str(given.get("name", "somebody"))
    match item:
        case PickOne():
            return random.choice(item.options).code
        case PickMany():
            free = [option.code for option in item.options if not option.alone]
            most = min(item.most or len(free), 3)
            picks: list[object] = [*random.sample(free, random.randint(item.fewest or 1, most))]
            return picks
        case YesNo():
            return random.random() < 0.5
        case Number(decimals=decimals):
            low, high = float(item.at_least or 0), min(float(item.at_most or 10), 40)
            high = min(high, 7) if item.key == "drinkers" else high
            number = random.triangular(low, high, low + (high - low) / 4)
            return str(round(number, decimals or None))
        case Scale():
            return str(random.randint(item.low, item.high))
        case Date():
            days = random.randint(20, 900)
            return (today - timedelta(days=days)).isoformat()
        case Email():
            return f"{name.lower().replace(' ', '.')}@example.org"
        case Phone():
            return f"+44 20 7946 {random.randrange(1000):04}"
        case LongText():
            some = item.required or random.random() < 0.7
            return random.choice(WORDS[item.key]) if some else None
        case Time():
            return f"{random.randint(8, 18):02}:00"
        case ShortText(key="kit"):
            return f"TW-{random.randrange(1000, 4000)}-{random.choice('ABC')}"
        case ShortText():
            return f"{random.choice(GIVEN)} {random.choice(FAMILY)}"
        case _:
            return None
