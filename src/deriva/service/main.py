"""The service as an ASGI app."""

import asyncio
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from fastapi import APIRouter, FastAPI
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import FileResponse
from fastapi.routing import APIRoute
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from deriva import __version__
from deriva.service.adapters.gauge import Sources
from deriva.service.api import box, errors, imports, log, places, plan, session, water
from deriva.service.api.deps import Queue
from deriva.service.settings import Settings
from deriva.service.store.engine import connect
from deriva.service.usecases import rigging
from deriva.service.usecases.imports import give_up_unfinished
from deriva.service.usecases.river import keep_reading

STREAMED = "/api/imports/"
"""Whole files go here; their route counts the bytes itself and keeps none in memory."""


class BodyLimit:
    """Refuse bodies over the limit: by their stated length before reading, and by count where none is stated."""

    def __init__(self, app: ASGIApp, limit: int) -> None:
        self.app, self.limit = app, limit

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, unless its body is too large."""
        if scope["type"] != "http" or scope["path"].startswith(STREAMED):
            await self.app(scope, receive, send)
            return
        body = b""
        stated = next((int(v) for k, v in scope["headers"] if k == b"content-length" and v.isdigit()), 0)
        more = stated <= self.limit
        while more and len(body) <= self.limit:
            message = await receive()
            body += message.get("body", b"")
            more = message["type"] == "http.request" and message.get("more_body", False)
        if stated > self.limit or len(body) > self.limit:
            text = f"The body is over the {self.limit} bytes that are allowed."
            await errors.one(413, "TOO_LARGE", text)(scope, receive, send)
            return
        given = False

        async def replay() -> Message:
            nonlocal given
            if given:
                return await receive()
            given = True
            return {"type": "http.request", "body": body, "more_body": False}

        await self.app(scope, replay, send)


def _operation_id(route: APIRoute) -> str:
    return route.name


def build(settings: Settings) -> FastAPI:
    """Return the app for these settings."""
    engine, sessions = connect(settings.database_url)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        await give_up_unfinished(sessions)
        warming = asyncio.create_task(asyncio.to_thread(rigging.warm))
        reading = None
        if settings.gauges or settings.gauge_hosts:
            sources = Sources.of(settings.gauges, settings.gauge_hosts)
            reading = asyncio.create_task(
                keep_reading(sessions, sources=sources, every_s=settings.gauge_every_s)
            )
        yield
        if reading is not None:
            reading.cancel()
            await asyncio.gather(reading, return_exceptions=True)
        await asyncio.gather(warming, return_exceptions=True)
        for task in list(app.state.tasks):
            await asyncio.gather(task, return_exceptions=True)
        await engine.dispose()

    app = FastAPI(
        title="Deriva",
        version=__version__,
        lifespan=lifespan,
        generate_unique_id_function=_operation_id,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.settings, app.state.sessions = settings, sessions
    app.state.tasks = set()
    app.state.queue = Queue(settings.computing_at_once, settings.computing_waiting)
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=4)
    app.add_middleware(BodyLimit, limit=settings.body_limit_bytes)
    errors.install(app)
    api = APIRouter(prefix="/api", responses=errors.RESPONSES)
    for module in (session, places, water, plan, box, imports, log):
        api.include_router(module.router)

    @api.get("/health")
    async def health() -> dict[str, str]:
        """Say that the service runs."""
        return {"status": "ok", "version": __version__}

    @api.get("/{rest:path}", include_in_schema=False)
    async def unknown(rest: str) -> None:
        """Answer for addresses that are not there."""
        raise HTTPException(404, f"There is no /api/{rest}.")

    app.include_router(api)

    dist = settings.web_dist.resolve()

    @app.get("/{rest:path}", include_in_schema=False)
    async def page(rest: str) -> FileResponse:
        """Serve the built front end; every address that is not a file of it is one of its screens."""
        file = (dist / rest.replace("\0", "")).resolve()
        if rest and file.is_relative_to(dist) and file.is_file():
            cache = "public, max-age=31536000, immutable" if rest.startswith("assets/") else "no-cache"
            return FileResponse(file, headers={"Cache-Control": cache})
        return FileResponse(dist / "index.html", headers={"Cache-Control": "no-cache"})

    return app


def create() -> FastAPI:
    """Return the app for the settings in the environment (uvicorn's factory)."""
    return build(Settings())
