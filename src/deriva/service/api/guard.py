"""Around every request: its size and time, where it may come from, what a browser may do with the answer, and a log line."""

import asyncio
import time
from collections.abc import Awaitable, Callable
from urllib.parse import urlsplit

import structlog
from prometheus_client import Counter, Histogram
from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send
from uuid_utils.compat import uuid7

from deriva.service.api import errors

log = structlog.get_logger("deriva.request")

STREAMED = "/api/imports/"
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
    "permissions-policy": "camera=(), microphone=(), geolocation=(), payment=(), usb=(), screen-wake-lock=(self)",
}
SAFE = {"GET", "HEAD", "OPTIONS"}


def foreign(headers: Headers) -> bool:
    """Return whether a browser says that another site is behind a request; what is no browser says nothing."""
    if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
        return True
    origin = headers.get("origin")
    return origin is not None and urlsplit(origin).netloc != headers.get("host")


class Guard:
    """The outermost layer. Bodies over the limit are refused: by their stated length, and by count where none is stated."""

    def __init__(self, app: ASGIApp, *, limit: int, seconds: float, secure: bool) -> None:
        self.app, self.limit, self.seconds = app, limit, seconds
        self.headers = HEADERS | (
            {"strict-transport-security": "max-age=63072000; includeSubDomains"} if secure else {}
        )

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
        if scope["method"] not in SAFE and foreign(Headers(scope=scope)):
            await refuse(403, "FOREIGN", "This was asked for by another site, and is not done.")
            return
        if scope["path"].startswith(STREAMED):
            await self.app(scope, receive, send)
            return
        try:
            async with asyncio.timeout(self.seconds):
                body = await self._body(scope, receive)
                if body is None:
                    text = f"The body is over the {self.limit} bytes that are allowed."
                    await refuse(413, "TOO_LARGE", text)
                    return
                await self.app(scope, _replay(body, receive), send)
        except TimeoutError:
            if not started():
                await refuse(503, "TOO_SLOW", "This took too long and was given up. Try again.")

    async def _body(self, scope: Scope, receive: Receive) -> bytes | None:
        stated = next((int(v) for k, v in scope["headers"] if k == b"content-length" and v.isdigit()), 0)
        if stated > self.limit:
            return None
        parts: list[bytes] = []
        size, more = 0, True
        while more:
            message = await receive()
            parts.append(message.get("body", b""))
            size += len(parts[-1])
            if size > self.limit:
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
