"""Words that made-up answers are made of."""

from random import Random

WORDS = ("clear", "since", "spring", "water", "after", "rain", "by", "the", "old", "wall", "garden")
NAMES = {
    "title": ("Dr", "Ms", "Mr"),
    "given": ("Ada", "Bran", "Cleo", "Dara", "Evan", "Fen"),
    "family": ("Alder", "Birch", "Cairn", "Dale", "Esk", "Fell"),
    "suffix": ("Jr",),
    "street": ("1 Mill Lane", "22 Quay Street", "7 Fell Road"),
    "more": ("Upper floor", "Rear house"),
    "city": ("Thornmere", "Saltby"),
    "region": ("Upper Fell", "Long Moss"),
    "postcode": ("TW1 2AB", "10115"),
}


def sentence(shortest: int | None, longest: int, dice: Random) -> str:
    words = " ".join(dice.choices(WORDS, k=dice.randint(2, 5)))
    while len(words) < (shortest or 0):
        words += f" {dice.choice(WORDS)}"
    return words[:longest].strip().ljust(min(shortest or 0, longest), "s").capitalize()
