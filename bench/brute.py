"""The proof held against every walk there is, in many more questionnaires than the tests have."""

from collections import Counter
from collections.abc import Iterator

from bench.support.figure import Figure
from tests.core.proof.test_brute_force import disagreements
from tests.core.proof.test_wide import judged

FIRST = 10_000
HOW_MANY = 6_000
EVERY_KIND = 5_000


def figures() -> Iterator[Figure]:
    found = [disagreements(seed) for seed in range(FIRST, FIRST + HOW_MANY)]
    checked = [lines for lines in found if lines is not None]
    for lines in checked:
        for line in lines:
            print(line, flush=True)
    yield Figure("brute", "questionnaires held against every walk", len(checked), "")
    wrong = sum(bool(lines) for lines in checked)
    yield Figure("brute", "of them with a verdict that is not so", wrong, "", 0, least=False)
    yield from _of_every_kind()


def _of_every_kind() -> Iterator[Figure]:
    """The same over every kind, relation and operator; not all of these can be walked in full."""
    wrong, verdicts = 0, Counter[str]()
    for seed in range(FIRST, FIRST + EVERY_KIND):
        lines, counted = judged(seed)
        for line in lines:
            print(line, flush=True)
        wrong += len(lines)
        verdicts += counted
    yield Figure("brute", "questionnaires of every kind held against walks", EVERY_KIND, "")
    yield Figure("brute", "verdicts there that are not so", wrong, "", 0, least=False)
    share = 100 * verdicts["open"] / verdicts.total()
    yield Figure("brute", "of them not decided", share, "%", 1, least=False)
