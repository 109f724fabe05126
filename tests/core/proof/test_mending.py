"""What moving and deleting break, and the repairs on offer for it."""

from typing import Any

import pytest

from jotgate.core.proof.mending import mended
from jotgate.core.publishing.faults import faults
from tests.core.proof.findings import applied
from tests.core.publishing.test_faults import OK
from tests.documents import is_, item, page, questionnaire, skip, to_finish, to_page

ILL = item("yes_no", "ill")
OTHER = item("yes_no", "x")
LATE = item("yes_no", "late", shown_when=is_("ok", True))


@pytest.mark.parametrize(
    ("pages", "offered"),
    [
        ((page("a", LATE, OK),), ["Ask Ok before it", "Remove the condition"]),
        ((page("a", LATE), page("b", OK)), ["Ask Ok before it", "Remove the condition"]),
        ((page("a", LATE),), ["Remove the condition"]),
        (
            (
                page("a", ILL),
                page("b", item("yes_no", "x"), shown_when=is_("ok", True)),
                page("c", OK),
            ),
            ["Ask Ok before it", "Remove the condition"],
        ),
        (
            (page("a", ILL, skips=[skip(is_("ok", True), to_finish("done"))]), page("b", OK)),
            ["Ask Ok before it", "Delete rule 1 after page 1"],
        ),
        (
            (page("a", OK, skips=[skip(is_("ok", True), to_page("a"))]),),
            ["Delete rule 1 after page 1"],
        ),
        (
            (page("a", OK, skips=[skip(is_("ok", True), to_finish("gone"))]),),
            ["Delete rule 1 after page 1"],
        ),
    ],
)
def test_each_repair_leaves_no_fault(pages: tuple[dict[str, Any], ...], offered: list[str]) -> None:
    document = questionnaire(*pages)
    (finding,) = mended(document, faults(document))
    assert [repair.says for repair in finding.repairs] == offered
    for repair in finding.repairs:
        left = [one.code for one in faults(applied(document, repair))]
        assert not {"not_earlier", "not_later", "no_finish"} & set(left), repair.says
