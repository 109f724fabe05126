"""Whether the code or the built front end was edited, for those who work on them."""

import threading

from jotgate.settings import ROOT

PLACES = ("jotgate", "web/dist")


def watched(stop: threading.Event) -> threading.Event:
    """An event that is set whenever something was edited, until `stop`."""
    from watchfiles import watch

    edited = threading.Event()

    def look() -> None:
        for _ in watch(*(ROOT / place for place in PLACES), stop_event=stop, debounce=800):
            edited.set()

    threading.Thread(target=look, daemon=True).start()
    return edited
