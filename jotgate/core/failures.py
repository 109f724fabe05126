"""How an answer fails its checks: a code with parameters, and the words for it."""

from jotgate.core.errors import Fault
from jotgate.core.items import Item, Question
from jotgate.core.wording import say

MESSAGES = {
    "required": "Answer this question.",
    "wrong_kind": "This is not an answer that the question takes.",
    "too_short": "Write at least {limit} characters; it has {length}.",
    "too_long": "Write at most {limit} characters; it has {length}.",
    "control_character": "Take out the invisible control characters.",
    "not_like": "Write it {like}.",
    "not_of_form": "This does not have the form that is asked for.",
    "not_an_email": "Write a mail address, such as name@example.org.",
    "not_a_phone": "Write a phone number with its country, such as +44 20 7946 0000.",
    "not_a_phone_here": "Write a phone number of one of these countries: {countries}.",
    "not_a_web_address": "Write a web address, such as https://example.org.",
    "not_a_number": "Write a number, such as 12.",
    "not_whole": "Write a whole number, without a decimal part.",
    "too_many_decimals": "Write at most {limit} digits after the decimal point.",
    "too_small": "Give a number of at least {limit}.",
    "too_large": "Give a number of at most {limit}.",
    "not_a_date": "Give a date that is in the calendar.",
    "not_a_time": "Give a time of day, such as 14:30.",
    "too_early": "Give {limit} or later.",
    "too_late": "Give {limit} or earlier.",
    "not_an_option": "Pick one of the options.",
    "too_few": "Pick at least {limit}.",
    "too_many": "Pick at most {limit}.",
    "not_alone": "{label} cannot be picked together with others.",
}
"""Code -> English words; `{...}` stand for the failure's parameters."""


class Failed(Exception):
    """An answer that fails a check, by code and parameters."""

    def __init__(self, code: str, **params: int | str) -> None:
        super().__init__(code)
        self.code = code
        self.params = params


def fault_of(item: Item, failed: Failed, language: str, first: str) -> Fault:
    """`failed` as a fault at `item`, in the item's own words where it has some."""
    own = item.error_text if isinstance(item, Question) else {}
    message = MESSAGES[failed.code].format(**failed.params)
    if failed.code != "required":
        message = say(own, language, first) or message
    return Fault(code=failed.code, at=item.key, message=message, params=failed.params)
