"""Any questionnaire that the model allows, fit to publish or not: made from the model itself."""

import types
from decimal import Decimal
from functools import cache
from typing import Annotated, Any, Literal, Union, get_args, get_origin
from uuid import UUID

from hypothesis import strategies as st
from pydantic import AfterValidator, BaseModel, StringConstraints
from pydantic.fields import FieldInfo

from jotgate.core.common.wording import Text
from jotgate.core.conditions.condition import AllOf, AnyOf, Compare, Not
from jotgate.core.document.questionnaire import Questionnaire

DEEPEST = 4
MOST = 2
ZONES = ("UTC", "Europe/Lisbon", "Asia/Amman")

texts = st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=12)


def _limit(metadata: tuple[Any, ...], name: str) -> Any:
    for one in metadata:
        found = getattr(one, name, None)
        if found is not None:
            return found
    return None


def _strings(metadata: tuple[Any, ...]) -> st.SearchStrategy[str]:
    if any(isinstance(one, AfterValidator) for one in metadata):
        return st.sampled_from(ZONES)
    pattern = _limit(metadata, "pattern")
    if pattern:
        return st.from_regex(pattern, fullmatch=True, alphabet=st.characters(codec="ascii"))
    least = _limit(metadata, "min_length") or 0
    return st.text(
        st.characters(exclude_categories=["Cs", "Cc"]), min_size=least, max_size=least + 12
    )


def _decimals(metadata: tuple[Any, ...]) -> st.SearchStrategy[Decimal]:
    above = _limit(metadata, "gt")
    least, most = _limit(metadata, "ge"), _limit(metadata, "le")
    low = Decimal("0.25") if above is not None else Decimal(-1000 if least is None else least)
    high = 1000 if most is None else min(most, 1000)
    return st.decimals(low, high, places=2).map(lambda one: one.normalize() + 0)


def _integers(metadata: tuple[Any, ...]) -> st.SearchStrategy[int]:
    low, high = _limit(metadata, "ge"), _limit(metadata, "le")
    return st.integers(low if low is not None else 0, high if high is not None else 1000)


def _tuples(
    annotation: Any, metadata: tuple[Any, ...], depth: int
) -> st.SearchStrategy[tuple[Any, ...]]:
    least = _limit(metadata, "min_length") or 0
    most = max(least, 0 if depth > DEEPEST else MOST)
    return st.lists(of(get_args(annotation)[0], (), depth), min_size=least, max_size=most).map(
        tuple
    )


def of(annotation: Any, metadata: tuple[Any, ...] = (), depth: int = 0) -> st.SearchStrategy[Any]:
    """Values that a member annotated so can have."""
    if annotation == Text:
        return st.dictionaries(st.sampled_from(["en", "es", "ar", "es-x-of"]), texts, max_size=2)
    origin = get_origin(annotation)
    if origin is Annotated:
        inner, *more = get_args(annotation)
        return of(inner, (*metadata, *_flat(more)), depth)
    if origin is Literal:
        return st.sampled_from(get_args(annotation))
    if origin in (Union, types.UnionType):
        return _unions(get_args(annotation), metadata, depth)
    if origin is tuple:
        return _tuples(annotation, metadata, depth)
    if origin is dict:
        key, value = get_args(annotation)
        return st.dictionaries(of(key), of(value), min_size=1, max_size=MOST)
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return models(annotation, min(depth, DEEPEST) + 1)
    plain: dict[Any, Any] = {
        bool: st.booleans(),
        UUID: st.uuids(version=4),
        type(None): st.none(),
    }
    if annotation in plain:
        found: st.SearchStrategy[Any] = plain[annotation]
        return found
    makers = {str: _strings, int: _integers, Decimal: _decimals}
    made: st.SearchStrategy[Any] = makers[annotation](metadata)
    return made


def _flat(metadata: Any) -> list[Any]:
    """The constraints of fields inside of annotations too."""
    found: list[Any] = []
    for one in metadata:
        found += one.metadata if isinstance(one, FieldInfo) else [one]
        if isinstance(one, StringConstraints):
            found.append(one)
    return found


_DEEP: frozenset[Any] = frozenset((AllOf, AnyOf, Not))


def _unions(
    kinds: tuple[Any, ...], metadata: tuple[Any, ...], depth: int
) -> st.SearchStrategy[Any]:
    """One of `kinds`; deep inside a document nothing that goes deeper still."""
    flat = [kind for kind in kinds if not (depth > DEEPEST and kind in _DEEP)]
    if depth > DEEPEST and type(None) in flat:
        return st.none()
    return st.deferred(lambda: st.one_of([of(kind, metadata, depth) for kind in flat]))


@cache
def models(model: type[BaseModel], depth: int = 0) -> st.SearchStrategy[Any]:
    """Instances of a part of a document, some of its members left as they are by default."""
    always: dict[str, st.SearchStrategy[Any]] = {}
    maybe: dict[str, st.SearchStrategy[Any]] = {}
    for name, field in model.model_fields.items():
        made = of(field.annotation, tuple(field.metadata), depth)
        (always if field.is_required() else maybe)[name] = made
    if model is Compare:
        always["value"] = texts | st.booleans()
    return st.fixed_dictionaries(always, optional=maybe).map(lambda given: model(**given))


documents = models(Questionnaire)
