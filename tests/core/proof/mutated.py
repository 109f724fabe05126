"""Copies of parts of the proof with a deliberate mistake in them."""

import importlib.util
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from types import ModuleType

import jotgate.core.proof as proof


def module(name: str, old: str = "", new: str = "") -> ModuleType:
    """A fresh copy of one part of the proof, with `old` in it replaced."""
    path = Path(str(proof.__file__)).parent / f"{name.replace('.', '/')}.py"
    source = path.read_text()
    assert old in source, f"{name} does not say {old}"
    spec = importlib.util.spec_from_file_location(f"{proof.__name__}.{name}", path)
    assert spec
    made = importlib.util.module_from_spec(spec)
    sys.modules[made.__name__] = made
    exec(compile(source.replace(old, new) if old else source, str(path), "exec"), made.__dict__)
    return made


@contextmanager
def mutated(names: Sequence[str], part: str, old: str, new: str) -> Iterator[dict[str, ModuleType]]:
    """Fresh copies of these parts by name, each before those that import it, with `old` in one of
    them replaced; afterwards all is as it was."""
    kept = {name: one for name, one in sys.modules.items() if name.startswith(proof.__name__)}
    try:
        yield {name: module(name, *((old, new) if name == part else ())) for name in names}
    finally:
        sys.modules.update(kept)
