"""What the benchmarks send is accepted, so that they measure what they say."""

from urllib.parse import parse_qsl

from bench.submit import BODY
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import compile_plan
from jotgate.core.walking.prefill import read_arrival
from jotgate.demo.load import documents
from tests.documents import TODAY


def test_the_submission_is_whole_and_valid() -> None:
    plan = compile_plan(documents()["private_well_check"])
    filled = read_arrival(plan, parse_qsl(str(BODY["link"])), TODAY)
    answers = BODY["answers"]
    assert isinstance(answers, dict)
    whole = walk(plan, answers, filled.carried, TODAY)
    assert whole.stuck is None
    # What the link says of the district does not count: that is sealed.
    assert {*answers, "test_age"} == set(whole.kept)
