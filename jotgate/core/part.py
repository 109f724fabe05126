"""What every part of a document is: frozen, and named by keys."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, StringConstraints

Key = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
Code = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9_.-]{0,39}$")]


class Part(BaseModel):
    """A frozen part of a document; members it does not know are refused."""

    model_config = ConfigDict(frozen=True, extra="forbid")
