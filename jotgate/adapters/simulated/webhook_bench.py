"""The webhook bench of the outside world: it receives calls, verifies them, and behaves as it is
told to: it fails, is slow, answers garbage or cuts the connection.

What it takes lies in a folder, one file for each id: the same call twice is one. It is for trying,
and listens on this machine only.
"""

import asyncio
import json
import secrets
from collections.abc import AsyncIterator
from dataclasses import dataclass, field
from datetime import UTC, datetime
from hashlib import sha256
from html import escape
from pathlib import Path
from typing import Any, Literal

import uvicorn
from fastapi import FastAPI, HTTPException, Request
from fastapi.responses import HTMLResponse, JSONResponse, StreamingResponse
from pydantic import BaseModel, Field
from starlette.responses import Response

from jotgate.core.signed_calls import SignedCall, holds, read_written

Mode = Literal["take", "fail", "slow", "garbage", "cut", "redirect", "gone"]

SLOW = 30.0


class Told(BaseModel):
    """How the bench behaves: in `mode`, to a `share` of the calls; others are taken. `secrets` are
    those by which calls are verified, as they are written down."""

    mode: Mode = "take"
    share: float = Field(1.0, ge=0, le=1)
    secrets: list[str] = []


@dataclass
class Bench:
    folder: Path
    told: Told = field(default_factory=Told)

    def keep(self, call: SignedCall) -> bool:
        """Keep a call that is signed well; whether it is."""
        known = [read_written(one) for one in self.told.secrets]
        if known and not holds(call, known, datetime.now(UTC)):
            return False
        self.folder.mkdir(parents=True, exist_ok=True)
        name = sha256(call.id.encode()).hexdigest()[:32]
        target = self.folder / f"{name}.json"
        if not target.exists():
            part = target.with_suffix(f".{secrets.token_hex(4)}.part")
            body = call.body.decode("utf-8", "replace")
            part.write_text(json.dumps({"id": call.id, "body": body, "verified": bool(known)}))
            part.replace(target)
        return True

    def received(self) -> list[dict[str, Any]]:
        """What was taken, the newest first."""
        files = sorted(self.folder.glob("*.json"), key=lambda one: -one.stat().st_mtime_ns)
        return [json.loads(one.read_text()) for one in files]


def bench_app(bench: Bench) -> FastAPI:
    app = FastAPI(docs_url=None, redoc_url=None, openapi_url=None)

    @app.put("/told")
    def tell(told: Told) -> Told:
        bench.told = told
        return told

    @app.get("/received")
    def received() -> JSONResponse:
        return JSONResponse(bench.received())

    @app.get("/")
    def page() -> HTMLResponse:
        return HTMLResponse(_page(bench))

    @app.post("/gone")
    def gone() -> Response:
        return Response("Nobody is here any more.", status_code=410)

    @app.post("/calls")
    async def take(request: Request) -> Response:
        told = bench.told
        if secrets.randbelow(10_000) < told.share * 10_000 and told.mode != "take":
            return await _misbehave(told.mode)
        named = [request.headers.get(f"webhook-{one}", "") for one in ("id", "timestamp")]
        signed = request.headers.get("webhook-signature", "")
        call = SignedCall(named[0], named[1], signed, await request.body())
        if not await asyncio.to_thread(bench.keep, call):
            raise HTTPException(401, "The signature is not ours.")
        return JSONResponse({"taken": call.id})

    return app


async def _misbehave(mode: Mode) -> Response:
    match mode:
        case "slow":
            await asyncio.sleep(SLOW)
        case "garbage":
            return Response(b"\x00\xff{{{" * 1000, status_code=500, media_type="text/html")
        case "cut":
            return StreamingResponse(_cut_off(), headers={"Content-Length": "1000"})
        case "redirect":
            return Response(status_code=302, headers={"Location": "http://127.0.0.1/"})
        case "gone":
            return Response(status_code=410)
    return Response("told to fail", status_code=503)


async def _cut_off() -> AsyncIterator[bytes]:
    yield b"some of it"
    raise ConnectionAbortedError


def _page(bench: Bench) -> str:
    rows = "".join(
        f"<tr><td>{escape(one['id'])}</td><td><pre>{escape(one['body'][:2_000])}</pre></td></tr>"
        for one in bench.received()[:100]
    )
    return (
        '<!doctype html><html lang="en"><meta charset="utf-8"><title>Outside world: webhook bench'
        "</title><h1>Webhook bench</h1><p>This receiver is simulated.</p><table><thead><tr>"
        f"<th>Id</th><th>Body</th></tr></thead><tbody>{rows}</tbody></table></html>"
    )


def serve_bench(folder: Path, port: int) -> None:
    app = bench_app(Bench(folder))
    uvicorn.run(app, host="127.0.0.1", port=port, log_level="critical", access_log=False)
