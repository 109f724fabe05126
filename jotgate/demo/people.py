"""Made-up respondents and what they might answer. Every name and word here is invented."""

from collections.abc import Callable, Mapping
from datetime import timedelta
from random import Random
from typing import Any

from jotgate.core.answers.offered import as_offered
from jotgate.core.answers.rules import Raw
from jotgate.core.common.today import Today
from jotgate.core.items import Grid, Item, Number, PickMany, PickOne, Rank, Roster, Scale
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan

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
WELLS = ("Yard well", "Old orchard", "By the barn", "Lower field", "Mill side", "House well")
STREETS = ("Heron Lane", "Fell Road", "Chapel Rise", "Weir Street", "Moss Bank")
TOWNS = ("Thornmere", "Millbeck", "Saltings End", "Fellside")

USUALLY: dict[str, Raw] = {"source": "own", "ill": False, "sealed": True}


def answers_of(plan: Plan, random: Random, carried: dict[str, str], today: Today) -> dict[str, Raw]:
    """Answers to everything on one path through `plan`, as somebody could give them.

    What is shown depends on what was answered before it, so the walk is taken again after
    each answer until it shows nothing new.
    """
    given: dict[str, Raw] = {}
    while True:
        whole = walk(plan, given, carried, today)
        new = [item for step in whole.steps for item in step.shown if item.key not in given]
        if not new:
            return {key: raw for key, raw in given.items() if raw is not None}
        asked = as_offered(new[0], whole.kept, today)
        given[asked.key] = Person(random, given, today).answer(asked)


class Person:
    """Somebody who has `given` some answers already."""

    def __init__(self, random: Random, given: Mapping[str, Raw], today: Today) -> None:
        self._random = random
        self._given = given
        self._today = today

    def answer(self, item: Item) -> Raw:
        if item.key in USUALLY and self._random.random() < 0.6:
            return USUALLY[item.key]
        made = _MAKE.get(item.kind)
        return made(self, item) if made else None

    def name(self) -> str:
        return f"{self._random.choice(GIVEN)} {self._random.choice(FAMILY)}"

    def short_text(self, item: Item) -> Raw:
        if item.key == "kit":
            return f"TW-{self._random.randrange(1000, 4000)}-{self._random.choice('ABC')}"
        return self._random.choice(WELLS) if item.key == "well_name" else self.name()

    def long_text(self, item: Any) -> Raw:
        some = item.required or self._random.random() < 0.7
        return self._random.choice(WORDS[item.key]) if some else None

    def email(self, _: Item) -> Raw:
        name = str(self._given.get("name", "somebody"))
        return f"{name.lower().replace(' ', '.')}@example.org"

    def phone(self, _: Item) -> Raw:
        return f"+44 20 7946 {self._random.randrange(1000):04}"

    def number(self, item: Number) -> Raw:
        low, high = float(item.at_least or 0), min(float(item.at_most or 10), 40)
        if item.key in ("drinkers", "water_at"):
            high = min(high, 7 if item.key == "drinkers" else 0.5)
        if item.key == "litres":
            high = 180
        found = self._random.triangular(low, high, low + (high - low) / 4)
        return str(round(found, item.decimals or None))

    def date(self, item: Any) -> Raw:
        if item.earliest == "today":
            days = self._random.randint(2, 20) + (20 if item.key == "to_day" else 0)
            return (self._today.day + timedelta(days=days)).isoformat()
        return (self._today.day - timedelta(days=self._random.randint(20, 900))).isoformat()

    def time(self, _: Item) -> Raw:
        return f"{self._random.randint(8, 18):02}:00"

    def yes_no(self, _: Item) -> Raw:
        return self._random.random() < 0.5

    def pick_one(self, item: PickOne) -> Raw:
        if item.else_label and self._random.random() < 0.1:
            return {"else": "Clay pipe"}
        return self._random.choice(item.options).code

    def pick_many(self, item: PickMany) -> Raw:
        free = [option.code for option in item.options if not option.alone]
        most = min(item.most or len(free), 3)
        return [*self._random.sample(free, self._random.randint(item.fewest or 1, most))]

    def rank(self, item: Rank) -> Raw:
        codes = [option.code for option in item.options]
        return self._random.sample(codes, item.top or len(codes))

    def scale(self, item: Scale) -> Raw:
        return str(self._random.randint(item.low, item.high))

    def address(self, _: Item) -> Raw:
        if self._random.random() < 0.4:
            return None
        street = f"{self._random.randint(1, 60)} {self._random.choice(STREETS)}"
        return {"street": street, "city": self._random.choice(TOWNS)}

    def location(self, item: Any) -> Raw:
        """Somewhere within about 20 km of where it has to be near."""
        latitude, longitude = float(item.near.latitude), float(item.near.longitude)
        by = self._random.uniform(-0.12, 0.12), self._random.uniform(-0.2, 0.2)
        return f"{latitude + by[0]:.5f}, {longitude + by[1]:.5f}"

    def signature(self, _: Item) -> Raw:
        return {"typed": str(self._given.get("name", "somebody"))}

    def roster(self, item: Roster) -> Raw:
        count = self._random.choice((1, 1, 1, 2, 2, 3))
        return [{one.key: self.answer(one) for one in item.items} for _ in range(count)]

    def grid(self, item: Grid) -> Raw:
        rows = [row for row in item.rows if self._random.random() < 0.8]
        return {
            row.code: [{column.key: self.answer(column) for column in item.columns}] for row in rows
        }


_MAKE: Mapping[str, Callable[[Person, Any], Raw]] = {
    name: getattr(Person, name)
    for name in vars(Person)
    if not name.startswith("_") and name not in ("answer", "name")
}
