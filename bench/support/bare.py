"""The bare endpoints that ours are measured against: the same JSON, one statement, the same
reply through Pydantic."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from typing import Any
from uuid import UUID, uuid4

from fastapi import FastAPI
from pydantic import BaseModel
from sqlalchemy import Column, Table, Uuid, insert, select
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.api.public.answering import PageOut
from jotgate.settings import Settings
from jotgate.store.base import connect, metadata

bare = Table("bare", metadata, Column("id", Uuid, primary_key=True), Column("body", JSONB))


class Html(BaseModel):
    html: str


def web() -> FastAPI:
    settings = Settings()
    engine = connect(settings.migrations_url, settings.pool_size)

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

    replies: dict[str, Any] = {}

    @app.put("/replies/page")
    async def keep_page(body: PageOut) -> None:
        replies["page"] = body.model_dump()

    @app.put("/replies/html")
    async def keep_html(body: Html) -> None:
        replies["html"] = body.model_dump()

    async def one_row() -> None:
        async with engine.connect() as conn:
            await conn.execute(select(bare.c.id).where(bare.c.id == UUID(int=0)))

    @app.post("/page", response_model_exclude_defaults=True)
    async def page(body: dict[str, Any]) -> PageOut:
        await one_row()
        return PageOut(**replies["page"])

    @app.get("/html")
    async def html() -> Html:
        await one_row()
        return Html(**replies["html"])

    return app
