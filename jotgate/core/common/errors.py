"""Every way in which a use case can end other than well.

    JotGateError
    ├── NotSignedIn            nobody is signed in, or the session has ended
    ├── WrongSignIn            address and password do not belong together
    ├── TooManyTries           slow down; `retry_after` seconds
    ├── NotAllowed             signed in, but this is not theirs to see or do
    │   ├── NeedsFactor        signed in, but a second factor has to be set up first
    │   └── NeedsConfirming    signed in, but not lately: the password is asked for again
    ├── NotFound               there is no such thing, or not for this person
    ├── Stale                  saved over a newer version; carries that version
    ├── Invalid                a document or form with faults, each with its place
    │   ├── Unreadable         a body that does not have the shape it should have
    │   ├── InvalidAnswers     answers of a respondent that fail their checks
    │   └── KeyReused          an idempotency key that came before with another body
    ├── TooLarge               larger than it may be
    ├── TooHeavy               took more time or memory than it may
    ├── Sealed                 stored, and cannot be opened: another's, or no key for it
    ├── Erased                 stored once, and erased for good
    ├── Shut                   the gate refuses; carries the words to show
    ├── Replaced               an edition that takes no more answers
    ├── LinkRefused            a carried value in the link that may not be used
    ├── PassRefused            a pass or a named link that lets nobody in; says why
    ├── SignInNeeded           visitors have to sign in first
    ├── SignInFailed           a visitor's sign-in that did not work; says why
    ├── AlreadyThere           kept already under the same key or name
    ├── OutOfRange             a value that there is no room for where it would be kept
    └── Unavailable            a service that we need is not answering

Each error has a stable `code`, a sentence for a person, and `params`.
"""

from collections.abc import Sequence
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict


class Fault(BaseModel):
    """One thing that is wrong, where, and what to do about it.

    `at` is a slash path of keys, such as `pages/water/items/drinkers`, or an item's key alone.
    """

    model_config = ConfigDict(frozen=True)

    code: str
    at: str
    message: str
    params: dict[str, Any] = {}


class JotGateError(Exception):
    code = "error"

    def __init__(self, message: str, **params: Any) -> None:
        super().__init__(message)
        self.message = message
        self.params = params

    def __reduce__(self) -> tuple[Any, ...]:
        """How it comes out of another process: as it is, whatever its class is made from."""
        return _revived, (type(self), self.args, self.__dict__)


def _revived(kind: type[JotGateError], args: tuple[Any, ...], members: dict[str, Any]) -> Any:
    found = kind.__new__(kind)
    found.args = args
    found.__dict__.update(members)
    return found


class NotSignedIn(JotGateError):
    code = "not_signed_in"


class WrongSignIn(JotGateError):
    code = "wrong_sign_in"


class Erased(JotGateError):
    code = "erased"


class TooLarge(JotGateError):
    """Something that is larger than it may be."""

    code = "too_large"


class TooHeavy(JotGateError):
    """Something that took more time or memory than it may."""

    code = "too_heavy"


class TooManyTries(JotGateError):
    code = "too_many_tries"

    def __init__(self, message: str, retry_after: int) -> None:
        super().__init__(message, retry_after=retry_after)
        self.retry_after = retry_after


class NotAllowed(JotGateError):
    code = "not_allowed"


class NeedsFactor(NotAllowed):
    """Signed in, but without the second factor that the office asks for."""

    code = "needs_factor"


class NeedsConfirming(NotAllowed):
    """Signed in, but not lately enough for a change to how one signs in."""

    code = "needs_confirming"


class NotFound(JotGateError):
    code = "not_found"


class Stale(JotGateError):
    """`current` is the newer version, in the shape that a read of it has."""

    code = "stale"

    def __init__(self, message: str, current: Any) -> None:
        super().__init__(message, current=current)


class Invalid(JotGateError):
    code = "invalid"

    def __init__(self, message: str, faults: Sequence[Fault] = ()) -> None:
        super().__init__(message)
        self.faults = tuple(faults)


class Unreadable(Invalid):
    """A body that does not have the shape it should have."""

    code = "unreadable"


class KeyReused(Invalid):
    """An idempotency key that came before with another body."""

    code = "key_reused"


class InvalidAnswers(Invalid):
    """`page` is the key of the page on which the first failure stands."""

    code = "invalid_answers"

    def __init__(self, message: str, faults: Sequence[Fault], page: str) -> None:
        super().__init__(message, faults)
        self.params = {"page": page}


class Shut(JotGateError):
    code = "shut"


class NoPlace(JotGateError):
    """An entry would take places again that others have by now."""

    code = "no_place"

    def __init__(self) -> None:
        super().__init__("No place is left for this entry by now.")


class NotProved(JotGateError):
    """A submission without the work that is asked of browsers."""

    code = "not_proved"

    def __init__(self) -> None:
        super().__init__("Your browser has not finished its check. Send it again.")


class TooQuick(JotGateError):
    """A submission sooner than anybody can answer; `retry_after` is in seconds."""

    code = "too_quick"

    def __init__(self, retry_after: int) -> None:
        message = f"That was very quick. Send it again in {retry_after} seconds."
        super().__init__(message, retry_after=retry_after)


class Trapped(JotGateError):
    """Something was written into a field that people do not see."""

    code = "trapped"

    def __init__(self) -> None:
        super().__init__("A field that is not shown was filled in. Send it again.")


class Replaced(JotGateError):
    """An edition that takes no more answers; `page` is where to go on in the one after it."""

    code = "replaced"

    def __init__(self, message: str, page: str) -> None:
        super().__init__(message, page=page)


class LinkRefused(JotGateError):
    code = "link_refused"


STALE = "This page was open for too long. Open your link again."
"""Why what came with a page is not taken any more."""


class SignInNeeded(JotGateError):
    code = "sign_in_needed"

    def __init__(self) -> None:
        super().__init__("Sign in first.")


SignInReason = Literal["stale", "refused", "away"]


class SignInFailed(JotGateError):
    """The code is `sign_in_stale`, `sign_in_refused` or `sign_in_away`; `address` is where to begin
    again, where that is known."""

    def __init__(self, reason: SignInReason, address: str = "") -> None:
        super().__init__(_SIGN_IN[reason], address=address)
        self.code = f"sign_in_{reason}"


_SIGN_IN: dict[SignInReason, str] = {
    "stale": "This sign-in took too long, was used already, or was begun in another window.",
    "refused": "What the sign-in told about you could not be checked.",
    "away": "The sign-in does not answer at the moment.",
}

PassReason = Literal["unknown", "expired", "used_up", "link_shut"]


class PassRefused(JotGateError):
    """A revoked pass is unknown. The code is `pass_unknown`, `pass_expired`, …"""

    def __init__(self, reason: PassReason) -> None:
        super().__init__(_WHY[reason])
        self.code = f"pass_{reason}"


_WHY: dict[PassReason, str] = {
    "unknown": "This link is not known here, or not valid any more.",
    "expired": "This link could be used until a certain time, which is over.",
    "used_up": "This link was used already.",
    "link_shut": "This link is not in use any more.",
}


class Sealed(JotGateError):
    """Something stored that none of our keys opens, or that was sealed for another place."""

    code = "sealed"


class AlreadyThere(JotGateError):
    code = "already_there"


class OutOfRange(JotGateError):
    code = "unreadable"


class Unavailable(JotGateError):
    code = "away"
