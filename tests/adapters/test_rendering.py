"""Pages drawn by Node: what it may do, and what comes where it cannot."""

import asyncio
import json
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from jotgate.adapters import rendering as adapter
from jotgate.adapters.rendering import NodeRendering
from jotgate.ports.rendering import NOTHING, Rendered

pytestmark = pytest.mark.long

Make = Callable[[str], NodeRendering]
ANSWER = """
for await (const line of createInterface({ input: process.stdin }))
  console.log(JSON.stringify({ html: ANSWERED, styles: "" }));
"""


@pytest.fixture
def node(tmp_path: Path) -> Iterator[Make]:
    """A Node process that answers with an expression of `line`, after what else it does."""
    made: list[NodeRendering] = []

    def make(answered: str) -> NodeRendering:
        script = tmp_path / "folder" / "script.mjs"
        script.parent.mkdir(exist_ok=True)
        text = 'import { createInterface } from "node:readline";'
        script.write_text(text + ANSWER.replace("ANSWERED", answered))
        made.append(NodeRendering(script))
        return made[-1]

    yield make
    for one in made:
        one.close()


REFUSED = {"language": "en", "words": {"other_heading": "No"}, "failures": {}}


async def drawn(one: NodeRendering, first: object) -> Rendered:
    """The first may come too late while the process starts."""
    for _ in range(20):
        found = await one.render(json.dumps(first))
        if found is not NOTHING:
            return found
    return NOTHING


async def test_what_is_written_is_only_text(rendering: NodeRendering) -> None:
    shown = {"code": "invalid", "detail": "<b onclick=x>\u2028</script>\n&\"'"}
    found = await drawn(rendering, {**REFUSED, "shown": shown})
    assert "&lt;b onclick=x&gt;\u2028&lt;/script&gt;\n&amp;&quot;&#x27;" in found.html
    assert found.styles.count("<style") == found.styles.count("</style>") == 2
    assert " style=" not in found.html


async def test_what_cannot_be_drawn_is_left_to_the_browser(rendering: NodeRendering) -> None:
    good = {**REFUSED, "shown": {"code": "invalid", "detail": "."}}
    assert await drawn(rendering, good) is not NOTHING
    for wrong in ("{", "null", "[]", '{"shown": {"kind": "page"}}'):
        assert await rendering.render(wrong) is NOTHING
    assert await drawn(rendering, good) is not NOTHING


async def test_a_process_that_is_gone_is_started_again(node: Make) -> None:
    one = node('line === "1" ? process.exit() : line')
    assert await drawn(one, 2) == Rendered("2", "")
    assert await one.render("1") is NOTHING
    assert await drawn(one, 3) == Rendered("3", "")


async def test_one_that_hangs_holds_nobody_up(node: Make, monkeypatch: pytest.MonkeyPatch) -> None:
    one = node('eval(line === "1" ? "for (;;);" : line)')
    assert await drawn(one, 2) == Rendered(2, "")  # type: ignore[arg-type]
    monkeypatch.setattr(adapter, "SECONDS", 1.5)
    monkeypatch.setattr(adapter, "PATIENCE", 0.2)
    asked = [one.render("1") for _ in range(12)]
    begun = asyncio.get_running_loop().time()
    assert await asyncio.gather(*asked) == [NOTHING] * 12
    assert asyncio.get_running_loop().time() - begun < 1.5
    monkeypatch.setattr(adapter, "PATIENCE", 1)
    for _ in range(60):
        if await one.render("3") != NOTHING:
            return
        await asyncio.sleep(0.5)
    raise AssertionError("it did not go on")


async def test_a_burst_does_not_queue_without_end(node: Make) -> None:
    one = node("line")
    assert await drawn(one, 1) == Rendered("1", "")
    found = await asyncio.gather(*(one.render(str(n)) for n in range(20)))
    assert [page.html for page in found] == [*map(str, range(8)), *[""] * 12]


async def test_it_reads_nothing_but_its_own_folder(node: Make, tmp_path: Path) -> None:
    (tmp_path / "secret").write_text("hidden")
    reading = f"""(await import("node:fs")).readFileSync({json.dumps(str(tmp_path))} + line)"""
    one = node(f"await (async () => String({reading}))().catch((error) => error.code)")
    assert (await drawn(one, 1)).html == "ERR_ACCESS_DENIED"
    assert "createInterface" in (await one.render("/folder/script.mjs")).html
    assert (await one.render("/secret")).html == "ERR_ACCESS_DENIED"


async def test_it_sees_no_settings_of_ours(node: Make) -> None:
    told = node("`has ${Object.keys(process.env).join()}`")
    assert (await drawn(told, 1)).html == "has "
