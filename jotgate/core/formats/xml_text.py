"""Text that an XML document can hold."""

import re

_NOT_XML = re.compile("[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")
"""What none can hold (XML 1.0, 2.2)."""


def fit_for_xml(text: str) -> str:
    """With U+FFFD for each character that cannot stand there."""
    return _NOT_XML.sub("\ufffd", text)
