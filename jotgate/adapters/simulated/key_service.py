"""The key service of the outside world: it keeps what it is given under an id, gives it back, and
destroys it.

It is for trying, and listens on this machine only. What it keeps lies in one SQLite file, which
overwrites what is destroyed.
"""

import sqlite3
from base64 import b64decode
from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager
from hmac import compare_digest
from pathlib import Path

import uvicorn
from fastapi import Depends, FastAPI, HTTPException, Request

from jotgate.adapters.key_service import Ids, KeyPart, Keys, Unlike

_SCHEMA = """
create table if not exists keys (
  id text primary key, wrapped text not null, wrapped_by text not null
) without rowid
"""

MOST = 1_000
"""Keys that one request may name."""


class KeyFile:
    def __init__(self, path: Path) -> None:
        self._path = path
        path.parent.mkdir(parents=True, exist_ok=True)
        with self.open() as conn:
            conn.execute(_SCHEMA)

    @contextmanager
    def open(self) -> Iterator[sqlite3.Connection]:
        conn = sqlite3.connect(self._path, timeout=10)
        try:
            conn.execute("pragma secure_delete = on")
            with conn:
                yield conn
        finally:
            conn.close()


def key_service_app(path: Path, token: str) -> FastAPI:
    """The service over a file; whoever has the `token` may do everything."""
    file = KeyFile(path)

    def known(request: Request) -> None:
        given = request.headers.get("authorization", "").encode()
        if not compare_digest(given, f"Bearer {token}".encode()):
            raise HTTPException(401, headers={"WWW-Authenticate": "Bearer"})

    app = FastAPI(docs_url=None, redoc_url=None, openapi_url=None, dependencies=[Depends(known)])
    _kept(app, file)
    _asked(app, file)
    return app


def _kept(app: FastAPI, file: KeyFile) -> None:
    @app.post("/keys", status_code=204)
    def add(given: Keys) -> None:
        _few(given.keys)
        rows = [(str(one.id), *_checked(one)) for one in given.keys]
        try:
            with file.open() as conn:
                conn.executemany("insert into keys values (?, ?, ?)", rows)
        except sqlite3.IntegrityError:
            raise HTTPException(409) from None

    @app.put("/keys", status_code=204)
    def replace(given: Keys) -> None:
        _few(given.keys)
        text = "update keys set wrapped = ?, wrapped_by = ? where id = ?"
        with file.open() as conn:
            conn.executemany(text, [(*_checked(one), str(one.id)) for one in given.keys])

    @app.post("/keys/destroy", status_code=204)
    def destroy(given: Ids) -> None:
        _few(given.ids)
        with file.open() as conn:
            conn.executemany("delete from keys where id = ?", [(str(one),) for one in given.ids])


def _asked(app: FastAPI, file: KeyFile) -> None:
    @app.post("/keys/find")
    def find(given: Ids) -> Keys:
        _few(given.ids)
        with file.open() as conn:
            text = "select id, wrapped, wrapped_by from keys where id = ?"
            found = [conn.execute(text, (str(one),)).fetchone() for one in given.ids]
        return _keys(one for one in found if one is not None)

    @app.post("/keys/unlike")
    def unlike(given: Unlike) -> Keys:
        if not 0 < given.limit <= MOST:
            raise HTTPException(413)
        text = "select id, wrapped, wrapped_by from keys where wrapped_by <> ? limit ?"
        with file.open() as conn:
            return _keys(conn.execute(text, (given.wrapped_by, given.limit)).fetchall())


def _few(asked: Sequence[object]) -> None:
    if len(asked) > MOST:
        raise HTTPException(413)


def _checked(part: KeyPart) -> tuple[str, str]:
    try:
        for one in (part.wrapped, part.wrapped_by):
            b64decode(one, validate=True)
    except ValueError:
        raise HTTPException(422) from None
    return part.wrapped, part.wrapped_by


def _keys(rows: Iterable[tuple[str, str, str]]) -> Keys:
    return Keys.model_validate(
        {"keys": [dict(zip(("id", "wrapped", "wrapped_by"), one, strict=True)) for one in rows]}
    )


def serve_keys(path: Path, token: str, port: int) -> None:
    app = key_service_app(path, token)
    uvicorn.run(app, host="127.0.0.1", port=port, log_level="critical", access_log=False)
