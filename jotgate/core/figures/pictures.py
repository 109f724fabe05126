"""What a figure shows of a question, by the form of its answers."""

from typing import Literal

from jotgate.core.common.part import Part

Base = Literal["answered", "asked"]
"""Who shares are of: those who answered a question, or those who were asked it."""


class Bar(Part):
    """So many said it. `share` is of those who answered, or were asked, from 0 to 1, with its
    95 % interval (Wilson) from `low` to `high`."""

    label: str
    count: int
    share: float
    low: float
    high: float


class Spread(Part):
    """What numbers are like: their mean with its 95 % interval (Student's t; None where there is
    one number only), and the five numbers (quantiles as numpy's default gives them)."""

    mean: float
    mean_low: float | None
    mean_high: float | None
    smallest: float
    lower: float
    median: float
    upper: float
    largest: float


class Bars(Part):
    """Options, each with how many picked it; `picks` are all that were made, where an answer can
    have several. Where the options are numbers there is a `spread`, and the two ends of the scale:
    `bottom` and `top` are the lowest and highest, or two lowest and highest, together."""

    kind: Literal["bars"] = "bars"
    bars: tuple[Bar, ...]
    picks: int | None = None
    spread: Spread | None = None
    bottom: Bar | None = None
    top: Bar | None = None


class Bin(Part):
    """So many lie from `low` on, below `high`; the last one has its `high` too."""

    label: str
    low: float
    high: float
    count: int


class Bins(Part):
    """Numbers, each with how many are in it. `spread` is None where they are days or times."""

    kind: Literal["bins"] = "bins"
    bins: tuple[Bin, ...]
    spread: Spread | None = None


class Ranked(Part):
    """An option that was put in a place by `count`: on average in `place`, counted from 1, in the
    first by `first`."""

    label: str
    count: int
    place: float
    first: int
    share: float
    low: float
    high: float


class Ranks(Part):
    kind: Literal["ranks"] = "ranks"
    options: tuple[Ranked, ...]


class Frequent(Part):
    text: str
    count: int


class Texts(Part):
    """Words: how many `different` ones, and those that were said most often, if more than once."""

    kind: Literal["texts"] = "texts"
    different: int
    often: tuple[Frequent, ...]


class Files(Part):
    kind: Literal["files"] = "files"
    files: int


class Plain(Part):
    """Nothing to be drawn: how many answered is all there is to say."""

    kind: Literal["plain"] = "plain"


Single = Bars | Bins | Ranks | Texts | Files | Plain


class Inner(Part):
    """A question asked inside of another, by everybody who came to it there: `answered` times. In a
    grid `row` says in which of its rows."""

    key: str
    label: str
    row: str = ""
    answered: int
    picture: Single


class Gathered(Part):
    """A roster or grid: what was said inside. `many` says of a roster how many entries have how
    many; `lines` are all of these together."""

    kind: Literal["gathered"] = "gathered"
    many: Bins | None
    lines: int
    inner: tuple[Inner, ...]


Picture = Single | Gathered
