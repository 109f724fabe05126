"""Each statement fails once, in the worst way: what was sent stands in no answer and no log, and
the same request goes well afterwards."""

import io
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import psycopg
from sqlalchemy import event

from jotgate.services.context import Context
from tests.api.conftest import Visitor
from tests.scenes import PASSWORD, Scene

SAID = "Ines-Carvalho-of-Saltings"
TOKEN = {"Started-Token": "ab" * 32}
KEY = {"Idempotency-Key": "fedcba9876543210"}


class Failing:
    """Counts the statements of `context`; the one numbered `at` fails, and names every value."""

    def __init__(self, context: Context) -> None:
        self.count, self.at = 0, -1
        self._engines = [context.engine.sync_engine, context.single.sync_engine]

    def _before(self, *args: Any) -> None:
        parameters = args[3]
        self.count += 1
        if self.count - 1 == self.at:
            raise psycopg.errors.NotNullViolation(
                f"null value in column\nDETAIL: Failing row contains ({parameters}, {SAID})."
            )

    @contextmanager
    def watching(self, at: int) -> Iterator[None]:
        self.count, self.at = 0, at
        for engine in self._engines:
            event.listen(engine, "before_cursor_execute", self._before)
        try:
            yield
        finally:
            for engine in self._engines:
                event.remove(engine, "before_cursor_execute", self._before)


def requests(scene: Scene) -> dict[str, dict[str, Any]]:
    public = f"/api/public/{scene.address}"
    answers = {"name": SAID, "source": "own", "drinkers": 3, "ill": False}
    sent = {"edition": 1, "link": f"name={SAID}", "answers": answers}
    return {
        "an opened page": {"method": "GET", "url": f"/q/{scene.address}?name={SAID}"},
        "a page": {"url": f"{public}/page", "json": {**sent, "move": "onward", "at": "start"}},
        "started": {
            "method": "PUT",
            "url": f"{public}/started",
            "json": {**sent, "page": "start", "submission": "s"},
            "headers": TOKEN,
        },
        "a letter": {
            "url": f"{public}/started/letter",
            "json": {"email": f"{SAID}@example.org"},
            "headers": TOKEN,
        },
        "a submission": {"url": f"{public}/entries", "json": sent, "headers": KEY},
        "signing in": {"url": "/api/sign-in", "json": {"email": SAID, "password": PASSWORD}},
    }


ENDED = {"signing in": 401, "started": 204, "a letter": 202, "a submission": 201}


async def test_each_statement_fails_once(
    anybody: Visitor, scene: Scene, context: Context, log: io.StringIO
) -> None:
    failing = Failing(context)
    failed = 0
    for name, request in requests(scene).items():
        for at in range(50):
            with failing.watching(at):
                reply = await anybody.request(**{"method": "POST", **request})
            if failing.count <= at:
                break
            failed += 1
            assert reply.status_code in (500, 503), (name, at)
            assert SAID not in reply.text, (name, at)
        assert reply.status_code == ENDED.get(name, 200), name
        assert at > 0, name
    assert failed >= 15
    assert log.getvalue().count('"event": "failed"') == failed
    assert "psycopg.errors.NotNullViolation (23502)" in log.getvalue()
    assert "in _before" in log.getvalue()
    assert SAID not in log.getvalue()


async def test_after_all_that_there_is_one_entry(
    anybody: Visitor, scene: Scene, context: Context, coordinator: Visitor
) -> None:
    failing = Failing(context)
    request = requests(scene)["a submission"]
    for at in range(50):
        with failing.watching(at):
            reply = await anybody.post(request["url"], json=request["json"], headers=KEY)
        if failing.count <= at:
            break
    assert reply.status_code == 201
    found = await coordinator.get(f"/api/questionnaires/{scene.id}/entries")
    assert len(found.json()["entries"]) == 1
