"""The proof held against every walk there is, in many more questionnaires than the tests have."""

from collections.abc import Iterator

from bench.figure import Figure
from tests.core.proof.test_brute_force import disagreements

FIRST = 10_000
HOW_MANY = 6_000


def figures() -> Iterator[Figure]:
    found = [disagreements(seed) for seed in range(FIRST, FIRST + HOW_MANY)]
    checked = [lines for lines in found if lines is not None]
    for lines in checked:
        for line in lines:
            print(line, flush=True)
    yield Figure("brute", "questionnaires held against every walk", len(checked), "")
    wrong = sum(bool(lines) for lines in checked)
    yield Figure("brute", "of them with a verdict that is not so", wrong, "", 0, least=False)
