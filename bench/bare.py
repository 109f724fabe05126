"""The bare endpoint that submitting is measured against: the same JSON, one insert."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from typing import Any
from uuid import uuid4

from fastapi import FastAPI
from sqlalchemy import Column, Table, Uuid, insert
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.settings import Settings
from jotgate.store.base import connect, metadata

bare = Table("bare", metadata, Column("id", Uuid, primary_key=True), Column("body", JSONB))


def web() -> FastAPI:
    settings = Settings()
    engine = connect(settings.database_url, settings.pool_size)

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        async with engine.begin() as conn:
            await conn.run_sync(bare.create, checkfirst=True)
        yield
        await engine.dispose()

    app = FastAPI(lifespan=lifespan)

    @app.post("/entries", status_code=201)
    async def submit(body: dict[str, Any]) -> dict[str, str]:
        id = uuid4()
        async with engine.begin() as conn:
            await conn.execute(insert(bare).values(id=id, body=body))
        return {"id": str(id)}

    return app
