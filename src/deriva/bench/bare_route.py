"""A route that does nothing but insert what it is sent: what a service of this make can reach at most."""

import os
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import datetime
from uuid import UUID

import asyncpg
from fastapi import FastAPI, Request
from pydantic import BaseModel


class Row(BaseModel):
    """A drift, as it is stored."""

    id: UUID
    angler_id: UUID
    setting_id: UUID
    at: datetime


class Rows(BaseModel):
    """A batch of them."""

    rows: list[Row]


INSERT = "insert into drift (angler_id, id, setting_id, at, outcome, undone) values ($1, $2, $3, $4, 'clean', false)"


def create() -> FastAPI:
    """Return the app; DERIVA_BARE_URL says where its database is."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        async with asyncpg.create_pool(os.environ["DERIVA_BARE_URL"], min_size=16, max_size=16) as pool:
            app.state.pool = pool
            yield

    app = FastAPI(lifespan=lifespan, openapi_url=None)

    @app.get("/healthy")
    async def healthy() -> None:
        """Answer that it is there."""

    @app.post("/api/sync")
    async def insert(request: Request, body: Rows) -> dict[str, int]:
        async with request.app.state.pool.acquire() as db, db.transaction():
            await db.executemany(
                INSERT, [(one.angler_id, one.id, one.setting_id, one.at) for one in body.rows]
            )
        return {"taken": len(body.rows)}

    return app
