"""Who may answer now: admit or refuse, and why."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from jotgate.core.common.errors import Shut
from jotgate.core.common.wording import Text, say
from jotgate.core.words import page


class Gate(BaseModel):
    """The gate of one questionnaire. `shut_words` are what people read when it is shut."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    state: Literal["open", "shut"]
    shut_words: Text = {}


def words_when_shut(gate: Gate, language: str, first: str) -> str:
    return say(gate.shut_words, language, first) or page(language)["shut_detail"]


def admit(gate: Gate, language: str, first: str) -> None:
    """Let a visitor in, or raise Shut with the words to show."""
    if gate.state == "shut":
        raise Shut(words_when_shut(gate, language, first), reason="shut_by_hand")
