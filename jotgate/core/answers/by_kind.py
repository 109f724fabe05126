"""What is known of the answers of each kind, from the module of its family."""

from collections.abc import Mapping

from jotgate.core.answers import (
    behind,
    composites,
    dates,
    files,
    locations,
    numbers,
    picks,
    rows,
    written,
)
from jotgate.core.answers.rules import Rules

RULES: Mapping[str, Rules] = {
    **written.RULES,
    **numbers.RULES,
    **dates.RULES,
    **picks.RULES,
    **composites.RULES,
    **locations.RULES,
    **files.RULES,
    **rows.RULES,
    **behind.RULES,
}
