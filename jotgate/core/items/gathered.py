"""Questions whose answer has parts: names, addresses, files, signatures, grids, rosters."""

from decimal import Decimal
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field

from jotgate.core.common.part import Code, Key, Part
from jotgate.core.common.wording import Text
from jotgate.core.conditions.condition import Condition
from jotgate.core.items.parts import Country, PickingPart, QuestionPart
from jotgate.core.items.picked import Picked, PickMany, PickOne, Scale, YesNo
from jotgate.core.items.shown import Note
from jotgate.core.items.written import (
    Date,
    Email,
    Number,
    Phone,
    ShortText,
    Time,
    WebAddress,
    Written,
)

NamePart = Literal["title", "given", "family", "suffix"]
AddressPart = Literal["street", "more", "city", "region", "postcode", "country"]


class Name(QuestionPart):
    """A person's name in parts; `needed` are those that an answer must have."""

    kind: Literal["name"]
    parts: tuple[NamePart, ...] = Field(("given", "family"), min_length=1)
    needed: tuple[NamePart, ...] = ("given", "family")


class Address(QuestionPart):
    """A postal address in parts. The country is an ISO 3166-1 code, of `countries` if given."""

    kind: Literal["address"]
    parts: tuple[AddressPart, ...] = Field(
        ("street", "more", "city", "postcode", "country"), min_length=1
    )
    needed: tuple[AddressPart, ...] = ("street", "city", "postcode")
    countries: tuple[Country, ...] = Field((), max_length=250)


FileKind = Literal["picture", "pdf", "document", "sheet", "audio", "video"]

LARGEST_FILE = 25
"""Megabytes (1,000,000 bytes) that a file can have at most."""


class File(QuestionPart):
    """Up to `most` files of the given kinds, told by their content and not by their names."""

    kind: Literal["file"]
    most: int = Field(1, ge=1, le=20)
    largest: int = Field(10, ge=1, le=LARGEST_FILE, description="Megabytes of one file.")
    kinds: tuple[FileKind, ...] = Field(("picture", "pdf"), min_length=1)


class Signature(QuestionPart):
    """Drawn by hand, or the name typed in its place."""

    kind: Literal["signature"]


Cell = Annotated[
    ShortText
    | Email
    | Phone
    | WebAddress
    | Number
    | Date
    | Time
    | YesNo
    | PickOne
    | PickMany
    | Scale,
    Field(discriminator="kind"),
]
"""A column of a grid: a question asked in every row."""


class Row(Part):
    """A row of a grid. With `repeats` over 1 the respondent may answer it that many times.

    A required row needs an answer in its required columns, or in any where none is required.
    """

    code: Code
    label: Text
    required: bool = False
    repeats: int = Field(1, ge=1, le=20)
    shown_when: Condition | None = None


Latitude = Annotated[Decimal, Field(ge=-90, le=90, max_digits=8, decimal_places=5)]
Longitude = Annotated[Decimal, Field(ge=-180, le=180, max_digits=8, decimal_places=5)]


class Box(Part):
    """An area between two parallels and two meridians. Where `west` is beyond `east` it goes across
    180°."""

    south: Latitude
    west: Longitude
    north: Latitude
    east: Longitude


class Near(Part):
    """The area around a place, as far as `kilometres` along the ground."""

    latitude: Latitude
    longitude: Longitude
    kilometres: Decimal = Field(gt=0, le=20_000, max_digits=8, decimal_places=3)


class Location(QuestionPart):
    """A place: latitude and longitude in decimal degrees of WGS 84, kept with five places.

    It has to lie in `box`, and around `near`, where those are given.
    """

    kind: Literal["location"]
    box: Box | None = None
    near: Near | None = None


class Grid(QuestionPart):
    """Rows by columns, answered as a table. `totals` are the number columns that are summed.

    In a row with any answer, required columns need one.
    """

    kind: Literal["grid"]
    rows: tuple[Row, ...] = Field((), max_length=100)
    columns: tuple[Cell, ...] = Field((), max_length=12)
    totals: tuple[Key, ...] = ()

    @cached_property
    def varies(self) -> bool:
        """Whether what is offered depends on answers."""
        picked = any(isinstance(one, PickingPart) and one.varies for one in self.columns)
        needed = any(one.required_when is not None for one in self.columns)
        return picked or needed or any(row.shown_when is not None for row in self.rows)


Gathered = Name | Address | Location | File | Signature | Grid

Inner = Annotated[
    Written | Picked | Name | Address | Location | File | Note, Field(discriminator="kind")
]
"""What can be asked inside a roster."""
