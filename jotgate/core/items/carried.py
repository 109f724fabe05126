"""Carried values: what arrives with a visitor, where it may come from, and who sees it."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from jotgate.core.common.part import Key, Part
from jotgate.core.common.wording import Text
from jotgate.core.items.parts import ItemPart, PickingPart

ClaimName = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_.-]{1,60}$")]
"""A claim of an identity provider (OpenID Connect Core 1.0, 5.1)."""

LONGEST = 1000
"""Characters of a carried value at most."""


class FromLink(Part):
    """A parameter of the address, under the item's key; what a pass or a named link stands for
    counts before it."""

    kind: Literal["link"]


class FromPass(Part):
    """What the pass, the named link or the sealed link stands for, under the item's key."""

    kind: Literal["pass"]


class FromContact(Part):
    """A field of the contact that the pass belongs to."""

    kind: Literal["contact"]
    field: Key | Literal[""] = ""


class FromClaim(Part):
    """A claim of the visitor's sign-in."""

    kind: Literal["claim"]
    claim: ClaimName | Literal[""] = ""


class FromHandOff(Part):
    """What another questionnaire hands on."""

    kind: Literal["hand_off"]


class FromPage(Part):
    """The address of the page that the link stood on, as far as the browser tells it."""

    kind: Literal["page"]


class FromMoment(Part):
    """The moment of arrival in the questionnaire's time zone, such as `2026-11-25T09:00+00:00`."""

    kind: Literal["moment"]


class FromEdition(Part):
    """The number of the edition."""

    kind: Literal["edition"]


class Constant(Part):
    """Always the same."""

    kind: Literal["constant"]
    value: Annotated[str, StringConstraints(max_length=LONGEST)] = ""


Source = Annotated[
    FromLink
    | FromPass
    | FromContact
    | FromClaim
    | FromHandOff
    | FromPage
    | FromMoment
    | FromEdition
    | Constant,
    Field(discriminator="kind"),
]

FORGED = frozenset({"link", "page"})
"""The sources that whoever holds the link can change."""


class About(Part):
    """The carried value is the id of a thing in another system, which the entry is about.

    `name` is what people call it, such as `Well {well}`; `address` is where that system shows it,
    such as `https://example.org/wells/{well}`. Both may hold carried values in their slots.
    """

    name: Text = {}
    address: Annotated[str, StringConstraints(max_length=2000)] = ""


class Carried(ItemPart, PickingPart):
    """A value that arrives with the visitor, from the first of `sources` that has one.

    Without a source only a finish sets it. With options, a code or a label will do. A `sealed` one
    can neither be read nor changed by the visitor; it is in no text that they read unless
    `told` says so. A plain one can be shown to them, locked or to be changed. `when_wrong` says
    what happens to a value that fails, or to a required one that does not come: the visitor is
    refused, or asked instead, or the entry is taken and flagged.
    """

    kind: Literal["carried"]
    restricted: bool = False
    required: bool = False
    longest: int = Field(200, ge=1, le=LONGEST)
    sources: tuple[Source, ...] = Field((FromLink(kind="link"),), max_length=10)
    sealed: bool = False
    told: bool = False
    shown: Literal["no", "locked", "changeable"] = "no"
    when_wrong: Literal["refuse", "ask", "flag"] = "flag"
    about: About | None = None

    @property
    def can_be_asked(self) -> bool:
        """Whether the visitor may have to answer it."""
        return self.shown == "changeable" or self.when_wrong == "ask"

    @property
    def is_seen(self) -> bool:
        """Whether a page may show it."""
        return self.can_be_asked or self.shown == "locked"

    @property
    def arrives(self) -> bool:
        """Whether it counts from the start, whatever page it lies on."""
        return self.shown_when is None and not self.can_be_asked
