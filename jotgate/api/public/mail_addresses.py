"""A mail address that a visitor gives."""

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email as mail_address
from jotgate.core.common.errors import Invalid
from jotgate.core.words import failures


def mail_address_in(written: str, language: str) -> str:
    """The address as it is kept. Raises Invalid with words in `language`."""
    try:
        return mail_address(written)
    except CheckFailed as failed:
        message = failures(language)[failed.code].format(**failed.params)
        raise Invalid(message) from None
