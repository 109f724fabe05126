"""Keeping an installation running until somebody ends it."""

import signal
import threading
from collections.abc import Callable

from jotgate.local.edits import watched
from jotgate.local.installation import Installation
from jotgate.local.processes import Processes

Say = Callable[[str], None]


def stopped_by_signal() -> threading.Event:
    """Set once somebody presses Ctrl C, or ends the process."""
    stop = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda *_: stop.set())
    return stop


def keep_running(
    installation: Installation,
    processes: Processes,
    stop: threading.Event,
    say: Say,
    watch: bool = False,
) -> None:
    """Start again what has ended, until `stop`; with `watch`, what was edited too. Raises
    SetupError where something ends again and again."""
    edited = watched(stop) if watch else threading.Event()
    while not stop.wait(0.5):
        if edited.is_set():
            edited.clear()
            say("Edited. Starting the application and the worker again")
            processes.renew("application", "worker")
        cluster = installation.cluster
        if cluster is not None and not cluster.runs():
            say("PostgreSQL has ended. Starting it again")
            installation = installation.with_cluster(cluster.start_again())
        ended = processes.ended()
        if ended:
            say(f"The {ended} has ended. Starting it again")
            processes.start_again(ended)
