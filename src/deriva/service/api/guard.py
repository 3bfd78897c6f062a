"""Around every request: its size and time, where it may come from, what a browser may do with the answer, and a log line."""

import asyncio
import time
from collections import Counter as Counts
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from urllib.parse import urlsplit

import structlog
from prometheus_client import Counter, Histogram
from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import cookie_parser
from starlette.types import ASGIApp, Message, Receive, Scope, Send
from uuid_utils.compat import uuid7

from deriva.service.api import errors

log = structlog.get_logger("deriva.request")

STREAMED = ("/api/imports/", "/api/export")
"""Whole files go here; their route counts the bytes itself and keeps none in memory."""

REQUESTS = Counter("deriva_requests", "Requests answered", ["route", "method", "status"])
SECONDS = Histogram("deriva_request_seconds", "Time to answer", ["route"])

POLICY = "; ".join(
    (
        "default-src 'self'",
        # WebAssembly for the core on the phone, and no other exception
        "script-src 'self' 'wasm-unsafe-eval'",
        "img-src 'self' data:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
HEADERS = {
    "content-security-policy": POLICY,
    "x-content-type-options": "nosniff",
    "referrer-policy": "no-referrer",
    "cross-origin-opener-policy": "same-origin",
    "cross-origin-resource-policy": "same-origin",
    "permissions-policy": "camera=(), microphone=(), geolocation=(self), payment=(), usb=(), screen-wake-lock=(self)",
}
SAFE = {"GET", "HEAD", "OPTIONS"}


SMALL_BODY_BYTES = 16_384
PUBLIC = ("/api/session", "/api/account")
"""What nobody has to be signed in for takes a name, an address, a password: no more is read."""

AT_ONCE = 4
"""So many requests of one session are worked on side by side; more wait, so that one angler never holds every connection."""

ENDS_WITHIN_S = 1.0
"""What is given up has so long to end by itself."""

ANY_HOST = ("/api/health", "/api/ready")
"""Whoever watches asks for these by whatever name."""


def foreign(headers: Headers, site: str) -> bool:
    """Return whether a browser says that another site is behind a request; what is no browser says nothing.

    A page of ours comes from the site as it is set up, or from the name that the request itself was sent to: a proxy may
    rewrite that one.
    """
    if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
        return True
    origin = headers.get("origin")
    return origin is not None and origin != site and urlsplit(origin).netloc != headers.get("host")


def _name(host: str) -> str:
    """Return the name in a Host header, without its port."""
    try:
        return urlsplit(f"//{host}").hostname or ""
    except ValueError:
        return ""


class Sides:
    """How many requests of each session are being worked on."""

    def __init__(self) -> None:
        self.turns: dict[str, asyncio.Semaphore] = {}
        self.held: Counts[str] = Counts()

    @asynccontextmanager
    async def one(self, token: str | None) -> AsyncIterator[None]:
        """Wait until this session has room for one more request."""
        if token is None:
            yield
            return
        self.held[token] += 1
        turns = self.turns.setdefault(token, asyncio.Semaphore(AT_ONCE))
        try:
            async with turns:
                yield
        finally:
            self.held[token] -= 1
            if self.held[token] <= 0:
                del self.held[token], self.turns[token]


class Guard:
    """The outermost layer. Bodies over the limit are refused: by their stated length, and by count where none is stated."""

    def __init__(
        self, app: ASGIApp, *, limit: int, seconds: float, site: str, hosts: frozenset[str], cookie: str
    ) -> None:
        self.app, self.limit, self.seconds = app, limit, seconds
        self.site, self.hosts, self.cookie = site.rstrip("/"), hosts, cookie
        self.sides = Sides()
        self.working: set[asyncio.Future[None]] = set()
        secure = {"strict-transport-security": "max-age=63072000; includeSubDomains"}
        self.headers = HEADERS | (secure if site.startswith("https://") else {})

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request, or refuse it."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request_id = str(uuid7())
        began = time.perf_counter()
        status = 500
        started = False

        async def answer(message: Message) -> None:
            nonlocal status, started
            if message["type"] == "http.response.start":
                status, started = message["status"], True
                headers = MutableHeaders(scope=message)
                for name, value in self.headers.items():
                    headers.setdefault(name, value)
                headers["x-request-id"] = request_id
                if scope["path"].startswith("/api/"):
                    headers.setdefault("cache-control", "no-store")
            await send(message)

        structlog.contextvars.bind_contextvars(request=request_id)
        try:
            await self._bounded(scope, receive, answer, lambda: started)
        except Exception as error:
            if started:
                raise  # half an answer is out: only the connection can say that it is broken
            await errors.unexpected(error)(scope, receive, answer)
        finally:
            took = time.perf_counter() - began
            # the pattern of the route, never the path: ids of places stay out of logs and metrics
            route = getattr(scope.get("route"), "path", "unmatched")
            if scope["path"].startswith("/api/") and not route.startswith("/api/"):
                route = f"/api{route}"
            REQUESTS.labels(route, scope["method"], status).inc()
            SECONDS.labels(route).observe(took)
            log.info("answered", method=scope["method"], route=route, status=status, ms=round(1000 * took, 1))
            structlog.contextvars.clear_contextvars()

    async def _bounded(self, scope: Scope, receive: Receive, send: Send, started: Callable[[], bool]) -> None:
        refuse: Callable[[int, str, str], Awaitable[None]] = lambda status, code, text: errors.one(  # noqa: E731
            status, code, text
        )(scope, receive, send)
        headers, path = Headers(scope=scope), scope["path"]
        if _name(headers.get("host", "")) not in self.hosts and path not in ANY_HOST:
            await refuse(421, "OTHER_HOST", f"This is not asked for by that name. It is at {self.site}.")
            return
        if scope["method"] not in SAFE and foreign(headers, self.site):
            await refuse(403, "FOREIGN", "This was asked for by another site, and is not done.")
            return
        if path.startswith(STREAMED):
            await self.app(scope, receive, send)
            return
        limit = SMALL_BODY_BYTES if path.startswith(PUBLIC) else self.limit

        async def within_limits(send: Send) -> None:
            async with self.sides.one(self._token(headers)):
                body = await self._body(scope, receive, limit)
                if body is None:
                    await refuse(413, "TOO_LARGE", f"The body is over the {limit} bytes that are allowed.")
                    return
                await self.app(scope, _replay(body, receive), send)

        try:
            in_time = await self._in_time(within_limits, send)
        except (
            TimeoutError
        ):  # what it waited for has a limit of its own, such as a connection to the database
            in_time = False
        if not in_time and not started():
            await refuse(503, "TOO_SLOW", "This took too long and was given up. Try again.")

    async def _in_time(self, work: Callable[[Send], Awaitable[None]], send: Send) -> bool:
        """Do some work in the time that there is, and return whether it was done. It is not waited for longer than that, and
        nothing of it goes out after: what is given up may still wait for a disk that hangs, to put its connection back.
        """
        given_up = False

        async def while_waited_for(message: Message) -> None:
            if not given_up:
                await send(message)

        task = asyncio.ensure_future(work(while_waited_for))
        self.working.add(task)
        task.add_done_callback(self._done)
        try:
            await asyncio.wait({task}, timeout=self.seconds)
            if not task.done():
                task.cancel()
                await asyncio.wait({task}, timeout=ENDS_WITHIN_S)
        except asyncio.CancelledError:
            task.cancel()
            raise
        given_up = not task.done() or task.cancelled()
        if not given_up:
            task.result()
        return not given_up

    def _done(self, task: asyncio.Future[None]) -> None:
        self.working.discard(task)
        if not task.cancelled():
            task.exception()  # who waited for it has it; of what was given up it says nothing

    def _token(self, headers: Headers) -> str | None:
        cookies = cookie_parser(headers.get("cookie", ""))
        return cookies.get(self.cookie)

    @staticmethod
    async def _body(scope: Scope, receive: Receive, limit: int) -> bytes | None:
        stated = next((int(v) for k, v in scope["headers"] if k == b"content-length" and v.isdigit()), 0)
        if stated > limit:
            return None
        parts: list[bytes] = []
        size, more = 0, True
        while more:
            message = await receive()
            parts.append(message.get("body", b""))
            size += len(parts[-1])
            if size > limit:
                return None
            more = message["type"] == "http.request" and message.get("more_body", False)
        return b"".join(parts)


def _replay(body: bytes, receive: Receive) -> Receive:
    given = False

    async def again() -> Message:
        nonlocal given
        if given:
            return await receive()
        given = True
        return {"type": "http.request", "body": body, "more_body": False}

    return again
