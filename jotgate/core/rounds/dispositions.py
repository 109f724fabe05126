"""How contacts of a round stand, by AAPOR's Standard Definitions: final dispositions for people who
are known by name, asked by mail, on paper, on the phone or at their door.

Numbers and names are those of The American Association for Public Opinion Research, *Standard
Definitions: Final Dispositions of Case Codes and Outcome Rates for Surveys*, written down from
memory of its ninth and tenth editions. Of the codes that only samples of numbers or addresses have
(fax lines, vacant houses and the like) there are none.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

Group = Literal[
    "complete",
    "partial",
    "refusal",
    "non_contact",
    "other",
    "unknown_household",
    "unknown_other",
    "not_eligible",
]
"""By what the rates count: I, P, R, NC, O, UH, UO, and those that are not eligible."""


@dataclass(frozen=True)
class Disposition:
    """`code` as the definitions write it, such as `2.112`; `name` in their words, so that it can be
    read alone."""

    code: str
    name: str

    @property
    def group(self) -> Group:
        """Refusals and break-offs are 2.1, those not contacted 2.2, others who are eligible 2.3; by
        3.1 it is unknown whether anybody is there, by the rest of 3 whether they are eligible."""
        return next(group for begins, group in _GROUPS.items() if self.code.startswith(begins))

    @property
    def eligible(self) -> bool | None:
        """None where it is unknown."""
        return None if self.code[0] == "3" else self.code[0] != "4"


_GROUPS: Mapping[str, Group] = {
    "1.1": "complete",
    "1.2": "partial",
    "2.1": "refusal",
    "2.2": "non_contact",
    "2.3": "other",
    "3.1": "unknown_household",
    "3": "unknown_other",
    "4": "not_eligible",
}

_NAMES: Mapping[str, str] = {
    "1.1": "Complete",
    "1.2": "Partial",
    "2.10": "Refusal and break-off",
    "2.11": "Refusal",
    "2.111": "Refusal by somebody else there",
    "2.112": "Refusal by the respondent",
    "2.12": "Break-off",
    "2.121": "Blank questionnaire sent back",
    "2.20": "Non-contact",
    "2.21": "Respondent never available",
    "2.22": "Answering machine of the household",
    "2.23": "Building could not be entered",
    "2.24": "Nobody at home",
    "2.25": "Respondent away",
    "2.26": "Respondent unavailable all the time",
    "2.27": "Completed, but not sent in time",
    "2.30": "Other non-response",
    "2.31": "Dead",
    "2.32": "Physically or mentally unable",
    "2.33": "Language",
    "2.332": "Language of the respondent",
    "2.333": "Nobody who speaks the language",
    "2.34": "Could not be heard well enough",
    "2.35": "Place or activity that allows no interview",
    "2.36": "Miscellaneous",
    "3.10": "Unknown whether anybody is there",
    "3.11": "Not attempted",
    "3.12": "Always busy",
    "3.13": "No answer",
    "3.14": "Answering machine, unknown whose",
    "3.15": "Call blocked",
    "3.16": "Technical phone problems",
    "3.17": "Unsafe or out of reach",
    "3.18": "Address could not be found",
    "3.19": "Nothing ever returned",
    "3.20": "Unknown whether eligible",
    "3.21": "No screener completed",
    "3.23": "Refused by the addressee, returned by the post",
    "3.25": "Could not be delivered",
    "3.30": "Invitation returned undelivered",
    "3.40": "Returned with another address",
    "3.90": "Other, unknown whether eligible",
    "4.10": "Out of sample",
    "4.70": "No eligible respondent",
    "4.80": "Quota filled",
    "4.81": "Listed twice",
    "4.90": "Other, not eligible",
}

DISPOSITIONS: Mapping[str, Disposition] = {
    code: Disposition(code, name) for code, name in _NAMES.items()
}
"""By code, in their order."""
