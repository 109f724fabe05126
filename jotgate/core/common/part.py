"""What every part of a document is: frozen, and named by keys."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, StringConstraints

KEY_PATTERN = r"^[a-z][a-z0-9_]{0,39}$"
Key = Annotated[str, StringConstraints(pattern=KEY_PATTERN)]
Code = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9_.-]{0,39}$")]


class Part(BaseModel):
    """A frozen part of a document; members it does not know are refused."""

    model_config = ConfigDict(frozen=True, extra="forbid")
