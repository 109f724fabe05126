"""The page that tells under which licences everything stands that ships: the Python packages as
they are installed, the front end's as they were gathered when it was built."""

import hashlib
import json
import re
from base64 import b64encode
from collections.abc import Iterator
from dataclasses import dataclass
from html import escape
from importlib.metadata import Distribution, PackageNotFoundError, distribution
from pathlib import Path

_PINNED = re.compile(r"^([A-Za-z0-9_.-]+)==", re.MULTILINE)
_TEXT = re.compile(r"(licen[cs]e|copying|ofl|notice)", re.IGNORECASE)


@dataclass(frozen=True)
class Licence:
    """`licence` is the name that a package gives it (SPDX where it does), `text` what comes with
    it; either may be empty."""

    name: str
    version: str
    licence: str
    text: str


STYLE = """
body { max-width: 46em; margin: 2em auto; padding: 0 1em; font: 16px/1.5 system-ui, sans-serif; }
summary { padding: .4em 0; cursor: pointer; }
pre { white-space: pre-wrap; overflow-wrap: anywhere; font-size: 13px; }
"""

PAGE = """<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src '{allowed}'">
<title>Licences, Jot Gate</title>
<style>{style}</style>
</head>
<body>
<main>
<h1>Licences</h1>
<p>Jot Gate is made with {count} packages of others. Each stands under its own licence.</p>
{packages}
</main>
</body>
</html>
"""


def written(requirements: Path, web: Path) -> None:
    """Write the page `licences.html` into the built front end."""
    found = gathered(requirements, web / "licences.json")
    digest = b64encode(hashlib.sha256(STYLE.encode()).digest()).decode()
    page = PAGE.format(
        allowed=f"sha256-{digest}",
        style=STYLE,
        count=len(found),
        packages="\n".join(map(_shown, found)),
    )
    (web / "licences.html").write_text(page, encoding="utf-8")


def _shown(one: Licence) -> str:
    head = f"<b>{escape(one.name)}</b> {escape(one.version)} {escape(one.licence)}"
    text = escape(one.text.strip()) or "No text comes with this package."
    return f"<details><summary>{head}</summary><pre>{text}</pre></details>"


def gathered(requirements: Path, built: Path) -> tuple[Licence, ...]:
    """Of the packages that `requirements` pins, and of those that `built`, a JSON file, lists."""
    found = [*_installed(requirements.read_text(encoding="utf-8")), *_built(built)]
    return tuple(sorted(found, key=lambda one: one.name.casefold()))


def _installed(pinned: str) -> Iterator[Licence]:
    for name in _PINNED.findall(pinned):
        try:
            package = distribution(name)
        except PackageNotFoundError:
            continue  # Only needed on another system.
        yield Licence(name, package.version, _named(package), _text(package))


def _named(package: Distribution) -> str:
    for field in ("License-Expression", "License"):
        said = (package.metadata.get_all(field) or [""])[0]
        if said and "\n" not in said:
            return str(said)
    classified = package.metadata.get_all("Classifier") or []
    names = [one.rpartition(" :: ")[2] for one in classified if one.startswith("License ::")]
    return ", ".join(names)


def _text(package: Distribution) -> str:
    files = [
        one
        for one in package.files or []
        if _TEXT.match(one.name) and ".dist-info" in one.as_posix()
    ]
    return "\n\n".join(one.read_text(encoding="utf-8") for one in files)


def _built(path: Path) -> Iterator[Licence]:
    if path.is_file():
        for one in json.loads(path.read_text(encoding="utf-8")):
            yield Licence(**one)
