"""The path: what is shown, where the walk goes, what is kept."""

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.conditions.condition import holds, named
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.stored import as_json
from jotgate.core.items import NOT_ASKED
from jotgate.core.publishing.faults import faults
from jotgate.core.walking.next_page import NextFinish, NextPage, first_page, onward, stay
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import compile_plan
from tests.core.strategies import answers, questionnaires
from tests.documents import TODAY, is_, item, options, page, plan

questionnaire_and_answers = questionnaires().flatmap(lambda q: st.tuples(st.just(q), answers(q)))


@given(questionnaires())
def test_what_the_strategy_makes_can_be_published(document: Questionnaire) -> None:
    assert faults(document) == ()


@given(questionnaire_and_answers)
def test_every_walk_goes_forward_and_ends(pair: tuple[Questionnaire, dict[str, Any]]) -> None:
    compiled = compile_plan(pair[0])
    whole = walk(compiled, pair[1], {}, TODAY)
    numbers = [compiled.page_numbers[step.page.key] for step in whole.steps]
    assert numbers == sorted(set(numbers))
    assert whole.finish in pair[0].finishes


@given(questionnaire_and_answers)
def test_only_what_is_shown_on_the_path_is_kept(pair: tuple[Questionnaire, Any]) -> None:
    document, given_answers = pair
    whole = walk(compile_plan(document), given_answers, {}, TODAY)
    shown = {one.key: one for step in whole.steps for one in step.shown}
    assert set(whole.kept) <= set(shown)
    for one in shown.values():
        earlier = {key: whole.kept[key] for key in whole.kept if key in named(one.shown_when)}
        assert holds(one.shown_when, earlier, TODAY)


@given(questionnaire_and_answers)
def test_answers_that_are_not_kept_change_nothing(pair: tuple[Questionnaire, Any]) -> None:
    compiled = compile_plan(pair[0])
    whole = walk(compiled, pair[1], {}, TODAY)
    again = walk(compiled, {key: as_json(value) for key, value in whole.kept.items()}, {}, TODAY)
    assert again.kept == whole.kept
    assert [s.page.key for s in again.steps] == [s.page.key for s in whole.steps]
    assert (again.finish, again.steps[-1].rule) == (whole.finish, whole.steps[-1].rule)


@given(questionnaire_and_answers)
def test_turning_page_by_page_is_the_walk(pair: tuple[Questionnaire, Any]) -> None:
    """The pages that a visitor is shown one after the other are the steps of the walk."""
    document, given_answers = pair
    compiled = compile_plan(document)
    whole = walk(compiled, given_answers, {}, TODAY)
    following: NextPage | NextFinish = first_page(compiled, given_answers, {}, TODAY)
    for step in whole.steps:
        assert isinstance(following, NextPage)
        assert following.step.page.key == step.page.key
        following = onward(compiled, given_answers, {}, TODAY, step.page.key)
        if step.failed:
            assert isinstance(following, NextPage)
            assert set(following.failed) == set(step.failed)
            return
    assert isinstance(following, NextFinish)
    assert following.walk.finish == whole.finish


@given(questionnaire_and_answers)
def test_answering_one_by_one_is_the_walk(pair: tuple[Questionnaire, Any]) -> None:
    """Each question is answered with nothing known of those behind it; what fails, fails there."""
    document, all_answers = pair
    compiled = compile_plan(document)
    whole = walk(compiled, all_answers, {}, TODAY)
    following: NextPage | NextFinish = first_page(compiled, {}, {}, TODAY)
    so_far: dict[str, Any] = {}
    for step in whole.steps:
        asked = [one.key for one in step.shown if one.kind not in NOT_ASKED]
        for number, key in enumerate(asked or [""]):
            assert isinstance(following, NextPage)
            assert (following.step.page.key, following.failed) == (step.page.key, {})
            so_far[key] = all_answers.get(key)
            following = onward(compiled, so_far, {}, TODAY, step.page.key, key)
            behind = asked[number + 1 :]
            failed = {at for at in step.failed if at.partition("/")[0] not in behind}
            if failed:
                assert isinstance(following, NextPage)
                assert set(following.failed) == failed
                return
    assert isinstance(following, NextFinish)
    assert following.walk.finish == whole.finish


def test_one_by_one_what_an_answer_reveals_is_asked_and_what_it_hides_is_not() -> None:
    compiled = plan(
        page(
            "one",
            item("yes_no", "a"),
            item("note", "n"),
            item("short_text", "b", shown_when=is_("a", True), required=True),
            item("note", "end"),
        )
    )
    again = onward(compiled, {"a": True}, {}, TODAY, "one", "a")
    assert isinstance(again, NextPage)
    assert [one.key for one in again.step.shown] == ["a", "n", "b", "end"]
    assert again.failed == {}
    assert isinstance(onward(compiled, {"a": False}, {}, TODAY, "one", "a"), NextFinish)
    for item_key in ("b", "end", "nowhere", ""):
        left = onward(compiled, {"a": True}, {}, TODAY, "one", item_key)
        assert isinstance(left, NextPage)
        assert set(left.failed) == {"b"}


@given(questionnaire_and_answers, st.data())
def test_an_answer_that_is_not_watched_changes_nothing_on_its_page(
    pair: tuple[Questionnaire, Any], data: st.DataObject
) -> None:
    document, before = pair
    compiled = compile_plan(document)
    here = data.draw(st.sampled_from(walk(compiled, before, {}, TODAY).steps)).page
    free = [one for one in here.items if one.key not in compiled.watched[here.key]]
    if not free:
        return
    changed = data.draw(st.sampled_from(free))
    value = data.draw(st.sampled_from([None, True, False, "a", "b", "2", "5"]))
    first = stay(compiled, before, {}, TODAY, here.key)
    second = stay(compiled, {**before, changed.key: value}, {}, TODAY, here.key)
    assert first.step.shown == second.step.shown
    assert first.last == second.last


def test_the_first_skip_rule_that_holds_wins() -> None:
    compiled = plan(
        page(
            "one",
            item("pick_one", "way", options=options("left", "right")),
            skips=[
                {"when": is_("way", "left"), "to": {"kind": "page", "page": "three"}},
                {
                    "when": {"op": "answered", "item": "way"},
                    "to": {"kind": "finish", "finish": "z"},
                },
            ],
        ),
        page("two", item("yes_no", "b")),
        page("three", item("yes_no", "c")),
        finishes=("done", "z"),
    )

    def pages_of(way: str | None) -> tuple[list[str], str, int | None]:
        whole = walk(compiled, {"way": way}, {}, TODAY)
        return [step.page.key for step in whole.steps], whole.finish.key, whole.steps[-1].rule

    assert pages_of("left") == (["one", "three"], "done", None)
    assert pages_of("right") == (["one"], "z", 2)
    assert pages_of(None) == (["one", "two", "three"], "done", None)


def test_what_is_hidden_counts_as_unanswered_through_the_chain() -> None:
    compiled = plan(
        page(
            "one",
            item("yes_no", "a"),
            item("yes_no", "b", shown_when=is_("a", True)),
            item("yes_no", "c", shown_when={"op": "is_not", "item": "b", "value": False}),
            item("yes_no", "d", shown_when={"op": "unanswered", "item": "b"}),
        )
    )
    everything = {"a": False, "b": True, "c": True, "d": True}
    assert set(walk(compiled, everything, {}, TODAY).kept) == {"a", "d"}
    assert set(walk(compiled, {**everything, "a": True}, {}, TODAY).kept) == {"a", "b", "c"}


def test_a_page_off_the_path_stands_for_the_nearest_one_before_it() -> None:
    compiled = plan(
        page("one", item("yes_no", "a")),
        page("two", item("yes_no", "b"), shown_when=is_("a", True)),
        page("three", item("yes_no", "c")),
    )
    following = onward(compiled, {"a": False}, {}, TODAY, "two")
    assert isinstance(following, NextPage)
    assert following.step.page.key == "three"
    assert stay(compiled, {}, {}, TODAY, "nowhere").step.page.key == "one"
