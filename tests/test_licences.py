"""The licences of all that ships, gathered from what is installed and built."""

import re
from pathlib import Path

import pytest

from jotgate.licences import gathered, written
from jotgate.settings import ROOT

BUILT = ROOT / "web" / "dist"
built = pytest.mark.skipif(not BUILT.is_dir(), reason="the front end is not built")


@built
def test_every_pinned_and_built_package_names_its_licence() -> None:
    found = {one.name: one for one in gathered(ROOT / "requirements.txt", BUILT / "licences.json")}
    pinned = re.findall(r"^([\w.-]+)==", (ROOT / "requirements.txt").read_text(), re.MULTILINE)
    assert set(pinned) <= set(found)
    assert {"react", "elkjs", "@fontsource/commit-mono"} <= set(found)
    assert [name for name, one in found.items() if not one.licence and not one.text] == []
    assert "SIL OPEN FONT LICENSE" in found["@fontsource/commit-mono"].text.upper()


@built
async def test_the_page_runs_nothing(tmp_path: Path) -> None:
    (tmp_path / "licences.json").write_text(
        '[{"name": "<b>x", "version": "1", "licence": "MIT", "text": "<script>1</script>"}]'
    )
    written(ROOT / "requirements.txt", tmp_path)
    page = (tmp_path / "licences.html").read_text()
    assert "&lt;b&gt;x" in page
    assert "<script" not in page
    assert "default-src 'none'" in page
