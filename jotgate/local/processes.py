"""Starting the processes of one installation, and ending them together."""

import ctypes
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from jotgate.local.cluster import SetupError
from jotgate.settings import ROOT

_PR_SET_PDEATHSIG = 1

LATELY, MOST_RESTARTS = 60.0, 5
"""A process that ends more than so often in so many seconds is not started again."""


def _end_with_parent() -> None:
    """Have Linux send SIGTERM to the child when its parent is gone, however that ended."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


def port_is_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


WEB = (
    *("-m", "uvicorn", "--factory", "jotgate.main:web"),
    *("--no-access-log", "--no-proxy-headers", "--log-level=warning"),
)


def web_arguments(port: int, host: str = "127.0.0.1") -> tuple[str, ...]:
    return (*WEB, f"--host={host}", f"--port={port}")


@dataclass
class Processes:
    """The processes started here, by name. `log` takes what they print."""

    environment: Mapping[str, str]
    log: Path
    running: dict[str, "subprocess.Popen[bytes]"] = field(default_factory=dict)
    arguments: dict[str, Sequence[str]] = field(default_factory=dict)
    restarts: dict[str, list[float]] = field(default_factory=dict)

    def start(self, name: str, arguments: Sequence[str]) -> "subprocess.Popen[bytes]":
        """Start Python with `arguments` in a session of its own."""
        with self.log.open("ab") as log:
            process = subprocess.Popen(
                [sys.executable, *arguments],
                cwd=ROOT,
                env={**os.environ, **self.environment},
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                start_new_session=True,
                preexec_fn=_end_with_parent,
            )
        self.running[name] = process
        self.arguments[name] = arguments
        return process

    def start_again(self, name: str) -> None:
        """Start what has ended again. Raises SetupError where it ended too often lately."""
        now = time.monotonic()
        lately = [one for one in self.restarts.get(name, []) if now - one < LATELY]
        if len(lately) >= MOST_RESTARTS:
            raise SetupError(f"The {name} ends again and again. Look at the end of {self.log}")
        self.restarts[name] = [*lately, now]
        self.start(name, self.arguments[name])

    def renew(self, *names: str) -> None:
        """End these and start them again."""
        for name in names:
            self.running[name].terminate()
        for name in names:
            self.running[name].wait()
            self.start(name, self.arguments[name])

    def ended(self) -> str | None:
        """The name of a process that has ended by itself, if one has."""
        return next((n for n, p in self.running.items() if p.poll() is not None), None)

    def stop(self, timeout: float = 15) -> None:
        """End them all, the last started first; those that do not heed are killed."""
        for process in reversed(self.running.values()):
            if process.poll() is None:
                process.terminate()
        until = time.monotonic() + timeout
        for process in reversed(self.running.values()):
            try:
                process.wait(max(until - time.monotonic(), 0.1))
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
        self.running.clear()

    def wait_for_web(self, url: str, timeout: float = 60) -> None:
        """Wait until the web process answers. Raises SetupError."""
        until = time.monotonic() + timeout
        while time.monotonic() < until:
            ended = self.ended()
            if ended:
                break
            try:
                with urllib.request.urlopen(f"{url}/desk", timeout=2):  # noqa: S310 - our own
                    return
            except (urllib.error.URLError, OSError):
                time.sleep(0.1)
        raise SetupError(f"The application did not start. Look at the end of {self.log}")
