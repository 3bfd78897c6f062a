"""The service as an ASGI app."""

import asyncio
import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from fastapi import APIRouter, FastAPI, Request
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import FileResponse, Response
from fastapi.routing import APIRoute
from prometheus_client import CONTENT_TYPE_LATEST, generate_latest
from sqlalchemy.exc import SQLAlchemyError
from starlette.exceptions import HTTPException

from deriva import __version__
from deriva.service.adapters.gauge import Sources
from deriva.service.api import account as accounts
from deriva.service.api import box, errors, imports, log, places, plan, session, sharing, water
from deriva.service.api.deps import Queue
from deriva.service.api.guard import Guard
from deriva.service.logs import configure
from deriva.service.settings import Settings
from deriva.service.store.engine import Sessions, connect, readiness
from deriva.service.usecases import account, rigging
from deriva.service.usecases.imports import give_up_unfinished
from deriva.service.usecases.river import keep_reading

logger = logging.getLogger(__name__)


def _operation_id(route: APIRoute) -> str:
    return route.name


async def _tidy(sessions: Sessions, every_s: float) -> None:
    """Now and then forget what is over and remove those who have left."""
    while True:
        try:
            await account.tidy(sessions)
        except (SQLAlchemyError, OSError) as error:
            logger.warning("tidying failed: %s", type(error).__name__)
        await asyncio.sleep(every_s)


def build(settings: Settings) -> FastAPI:
    """Return the app for these settings."""
    engine, sessions = connect(settings.database_url)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        app.state.tasks = set()
        app.state.queue = Queue(settings.computing_at_once, settings.computing_waiting)
        await give_up_unfinished(sessions)
        tidying = asyncio.create_task(_tidy(sessions, settings.tidy_every_s))
        warming = asyncio.create_task(asyncio.to_thread(rigging.warm))
        reading = None
        if settings.gauges or settings.gauge_hosts:
            sources = Sources.of(settings.gauges, settings.gauge_hosts)
            reading = asyncio.create_task(
                keep_reading(sessions, sources=sources, every_s=settings.gauge_every_s)
            )
        yield
        tidying.cancel()
        await asyncio.gather(tidying, return_exceptions=True)
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
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=4)
    app.add_middleware(
        Guard, limit=settings.body_limit_bytes, seconds=settings.request_s, secure=settings.secure
    )
    errors.install(app)
    api = APIRouter(prefix="/api", responses=errors.RESPONSES)
    for module in (session, accounts, places, water, plan, box, imports, log, sharing):
        api.include_router(module.router)

    @api.get("/health")
    async def health() -> dict[str, str]:
        """Say that the service runs."""
        return {"status": "ok", "version": __version__}

    @api.get("/ready", status_code=204)
    async def ready() -> Response:
        """Say whether the service can serve: its database answers and has the newest schema."""
        trouble = await readiness(sessions)
        return Response(status_code=204) if trouble is None else errors.one(503, "NOT_READY", trouble)

    @app.get("/metrics", include_in_schema=False)
    async def metrics(request: Request) -> Response:
        """Return the counts for Prometheus, to this machine only."""
        if request.client is None or request.client.host not in ("127.0.0.1", "::1", "testclient"):
            raise HTTPException(404, "There is nothing here.")
        return Response(generate_latest(), media_type=CONTENT_TYPE_LATEST)

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
    configure()
    return build(Settings())
