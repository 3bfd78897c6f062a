"""The service as an ASGI app."""

import asyncio
import gc
import logging
import mimetypes
from collections.abc import AsyncIterator, Awaitable, Callable, Sequence
from contextlib import asynccontextmanager, suppress
from pathlib import Path

from fastapi import APIRouter, FastAPI, Request
from fastapi.middleware.gzip import GZipMiddleware
from fastapi.responses import FileResponse, Response
from fastapi.routing import APIRoute
from sqlalchemy.exc import SQLAlchemyError
from starlette.exceptions import HTTPException

from deriva import __version__
from deriva.service.adapters import smtp
from deriva.service.adapters.gauge import Sources
from deriva.service.api import account as accounts
from deriva.service.api import (
    box,
    errors,
    formats,
    imports,
    learn,
    log,
    places,
    plan,
    practice,
    session,
    sharing,
    water,
)
from deriva.service.api.deps import COOKIE
from deriva.service.api.guard import Guard
from deriva.service.api.turns import Queue
from deriva.service.logs import configure
from deriva.service.settings import Settings
from deriva.service.store.address import without_pooler
from deriva.service.store.engine import Sessions, connect, readiness
from deriva.service.store.take_new import AtOnce
from deriva.service.usecases import account, letters
from deriva.service.usecases.river import keep_reading
from deriva.service.workers import Computes, Worker

logger = logging.getLogger(__name__)

LONGEST_ADDRESS = 200
BUILD_IT = "`make install` builds it; DERIVA_WEB_DIST says where it is."


def _warm(workers: Sequence[Worker]) -> None:
    for worker in workers:
        worker.submit(int)


def _operation_id(route: APIRoute) -> str:
    return route.name


async def _again(
    what: str, work: Callable[[], Awaitable[object]], wait: Callable[[], Awaitable[object]]
) -> None:
    """Do something again and again, whatever becomes of one time."""
    while True:
        try:
            await work()
        except (SQLAlchemyError, OSError) as error:
            logger.warning("%s failed: %s", what, type(error).__name__)
        await wait()


async def _rung(bell: asyncio.Event, within_s: float) -> None:
    """Wait until the bell is rung, but no longer than so."""
    with suppress(TimeoutError):
        async with asyncio.timeout(
            within_s
        ):  # wait_for swallows a cancellation that comes as the bell is rung
            await bell.wait()
    bell.clear()


async def _kept(_: letters.Letter) -> None:
    """Post of the demo start: what was written is kept to be read, and goes nowhere."""


def _background(app: FastAPI, settings: Settings, sessions: Sessions) -> list[asyncio.Task[None]]:
    """Start what goes on beside the requests."""
    bell = app.state.post

    async def send(letter: letters.Letter) -> None:
        await smtp.send(settings, to=letter.to, subject=letter.subject, text=letter.text)

    works = [
        _again(
            "tidying",
            lambda: account.tidy(sessions, posted=settings.posted),
            lambda: asyncio.sleep(settings.tidy_every_s),
        )
    ]
    if settings.posted:
        post = send if settings.smtp_host else _kept
        works.append(
            _again(
                "sending letters",
                lambda: letters.send_due(sessions, post, site=settings.site, keep=settings.demo),
                lambda: _rung(bell, settings.letters_every_s),
            )
        )
    if settings.gauges or settings.gauge_hosts:
        sources = Sources.of(settings.gauges, settings.gauge_hosts)
        works.append(keep_reading(sessions, sources=sources, every_s=settings.gauge_every_s))
    return [asyncio.create_task(work) for work in works]


async def _ended(tasks: set[asyncio.Task[None]]) -> None:
    """Cancel tasks until they have ended: a library that waits for something may swallow the first time."""
    while tasks:
        for task in tasks:
            task.cancel()
        _, tasks = await asyncio.wait(tasks, timeout=1.0)


def _files(dist: Path) -> dict[str, Path]:
    """Return the built front end by address. What is asked for later is looked up here, and never on the disk."""
    return {file.relative_to(dist).as_posix(): file for file in dist.rglob("*") if file.is_file()}


KEPT_FOR_GOOD = "public, max-age=31536000, immutable"
"""What is named by its contents never changes."""

NOT_THAT = ("q=0", "q=0.0", "q=0.00", "q=0.000")

COMPRESSED = (("br", ".br"), ("gzip", ".gz"))
"""What the build has compressed each file with, the smallest first, and how those are named (scripts/compress.mjs)."""


def _sent(files: dict[str, Path], name: str, request: Request) -> FileResponse:
    """Return a file of the front end, as small as whoever asks for it can read."""
    headers = {"Cache-Control": KEPT_FOR_GOOD if name.startswith("assets/") else "no-cache"}
    told = (one.partition(";") for one in request.headers.get("accept-encoding", "").split(","))
    reads = {coding.strip() for coding, _, weight in told if weight.replace(" ", "") not in NOT_THAT}
    kind, packed = mimetypes.guess_type(name)
    media_type = "application/gzip" if packed else kind or "application/octet-stream"
    for coding, ending in COMPRESSED:
        small = files.get(name + ending)
        if coding in reads and small is not None:
            headers |= {"Content-Encoding": coding, "Vary": "Accept-Encoding"}
            return FileResponse(small, headers=headers, media_type=media_type)
    return FileResponse(files[name], headers=headers, media_type=media_type)


def build(settings: Settings, workers: Sequence[Computes] | None = None) -> FastAPI:
    """Return the app for these settings; it has workers of its own where none are given."""
    engine, sessions = connect(settings.database_url)
    own = [Worker() for _ in range(settings.computing_at_once)] if workers is None else []

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        app.state.tasks = set()
        app.state.post = asyncio.Event()
        app.state.at_once = AtOnce(engine, pooled=without_pooler(settings.database_url)[1])
        app.state.queue = Queue(own if workers is None else workers, settings.computing_waiting)
        going = _background(app, settings, sessions)
        warming = [asyncio.create_task(asyncio.to_thread(_warm, own))] if settings.warm else []
        yield
        await _ended({*going, *app.state.tasks})
        await asyncio.gather(*warming, return_exceptions=True)
        await asyncio.gather(*(asyncio.to_thread(worker.end) for worker in own))
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
    files = _files(settings.web_dist.resolve())
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=4)
    app.add_middleware(
        Guard,
        limit=settings.body_limit_bytes,
        seconds=settings.request_s,
        site=settings.site,
        hosts=settings.hosts,
        cookie=COOKIE,
    )
    errors.install(app)
    api = APIRouter(prefix="/api", responses=errors.RESPONSES)
    # they are gone through in this order, and most of what is asked is to log
    for module in (
        log,
        session,
        accounts,
        places,
        water,
        plan,
        box,
        imports,
        formats,
        sharing,
        learn,
        practice,
    ):
        api.include_router(module.router)

    @api.get("/health")
    async def health() -> dict[str, str]:
        """Say that the service runs."""
        return {"status": "ok", "version": __version__}

    @api.get("/ready", status_code=204)
    async def ready() -> Response:
        """Say whether the service can serve: its database answers and has the newest schema, and there is a site."""
        trouble = await readiness(sessions)
        if "index.html" not in files:
            trouble = f"There is no built site in {settings.web_dist}. {BUILD_IT}"
        return Response(status_code=204) if trouble is None else errors.one(503, "NOT_READY", trouble)

    @api.get("/{rest:path}", include_in_schema=False)
    async def unknown(rest: str) -> None:
        """Answer for addresses that are not there."""
        raise HTTPException(404, f"There is no /api/{rest}.")

    app.include_router(api)

    @app.api_route("/{rest:path}", methods=["GET", "HEAD"], include_in_schema=False)
    async def page(rest: str, request: Request) -> Response:
        """Serve the built front end; every address that is not a file of it is one of its screens."""
        if rest in files:
            return _sent(files, rest, request)
        if len(rest) > LONGEST_ADDRESS or "index.html" not in files:
            raise HTTPException(404, "There is nothing here.")
        return _sent(files, "index.html", request)

    return app


def create() -> FastAPI:
    """Return the app for the settings in the environment (uvicorn's factory)."""
    configure()
    app = build(Settings())
    # what is there for good is not looked through for garbage again and again: that stops every request for a tenth of a second
    gc.collect()
    gc.freeze()
    return app
