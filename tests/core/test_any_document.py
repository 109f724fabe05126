"""Any questionnaire that the model allows survives save, load, export and import."""

import json
from collections.abc import Iterable
from typing import Any, get_args

import orjson
import pytest
from fhir.resources.R4B.questionnaire import Questionnaire as Resource
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats import document as files
from jotgate.core.formats.fhir import from_fhir, to_fhir
from jotgate.core.items import Carried, Computed, Question, Shown, with_inside
from jotgate.store.base import dumped
from tests.core.any_document import documents, models
from tests.documents import page, questionnaire

pytestmark = pytest.mark.long

KINDS = (*get_args(Question), *get_args(Shown), Carried, Computed)


def holding(item: Any) -> Questionnaire:
    return questionnaire(page("p", item.model_dump(mode="json")))


def stays(one: Questionnaire) -> None:
    """The same once it was saved and loaded, and once it was exported and imported."""
    assert Questionnaire.model_validate(orjson.loads(orjson.dumps(dumped(one)))) == one
    assert files.read(files.write(one)) == one


def coded(item: Any) -> tuple[Any, ...]:
    return getattr(item, "options", ()) or getattr(item, "rows", ())


def apart(names: Iterable[str]) -> bool:
    """Whether no two are the same; those that are cannot be published."""
    found = list(names)
    return len(set(found)) == len(found)


@given(documents)
def test_any_document(one: Questionnaire) -> None:
    stays(one)


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.__name__)
@settings(max_examples=40)
@given(data=st.data())
def test_any_item_of_a_kind(kind: Any, data: st.DataObject) -> None:
    stays(holding(data.draw(models(kind))))


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.__name__)
@settings(max_examples=40)
@given(data=st.data())
def test_what_fhir_can_say_of_it(kind: Any, data: st.DataObject) -> None:
    """A valid resource, from which the same is made again; what gets lost is told, and at once."""
    one = holding(data.draw(models(kind)))
    items = tuple(with_inside(tuple(one.items())))
    assume(apart(item.key for item in items))
    assume(all(apart(part.code for part in coded(item)) for item in items))
    resource, lost = to_fhir(one)
    Resource.model_validate_json(json.dumps(resource))
    again = to_fhir(from_fhir(json.loads(json.dumps(resource)))[0])[0]
    if not lost:
        assert again == resource
    assert to_fhir(from_fhir(again)[0])[0] == again
