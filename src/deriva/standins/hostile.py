"""A gauge service that means harm, or is broken past bearing: `/hostile/{kind}` on the stand-in.

hang   never answers            drip   a byte now and then, without end
xml    40 MB of XML             bomb   40 kB that unpack to 40 MB
old    a value of the year 1    zero   a flow of nought, and others that no river has
cell   a cell of 140 kB
"""

import asyncio
import gzip
from collections.abc import AsyncIterator
from enum import StrEnum
from functools import cache

from fastapi import APIRouter
from fastapi.responses import PlainTextResponse, Response, StreamingResponse

LARGE_BYTES = 40_000_000
DRIP_S = 0.5

router = APIRouter()


class Harm(StrEnum):
    """What it does."""

    HANG = "hang"
    DRIP = "drip"
    XML = "xml"
    BOMB = "bomb"
    OLD = "old"
    ZERO = "zero"
    CELL = "cell"


HEAD = "time,flow[m3/s]\n"


@cache
def _bomb() -> bytes:
    return gzip.compress(b"0" * LARGE_BYTES)


async def _drip() -> AsyncIterator[bytes]:
    while True:
        yield b"1"
        await asyncio.sleep(DRIP_S)


async def _xml() -> AsyncIterator[bytes]:
    yield b"<a>"
    piece = b"<b></b>" * 10_000
    for _ in range(LARGE_BYTES // len(piece)):
        yield piece
    yield b"</a>"


def _rows(times: list[str], values: list[str]) -> str:
    return HEAD + "".join(f"{time},{value}\n" for time, value in zip(times, values, strict=True))


HOURS = [f"2026-05-01T{hour:02}:00:00Z" for hour in range(4)]
TEXTS = {
    Harm.OLD: _rows(["0001-01-01T00:00:00+14:00"], ["3"]),
    Harm.ZERO: _rows(HOURS, ["0", "-5", "1e308", "2.5"]),
    Harm.CELL: _rows(HOURS[:1], ["9" * 140_000]),
}


@router.get("/hostile/{kind}")
async def harm(kind: Harm) -> Response:
    """Do harm."""
    if kind in TEXTS:
        return PlainTextResponse(TEXTS[kind])
    if kind is Harm.DRIP:
        return StreamingResponse(_drip())
    if kind is Harm.XML:
        return StreamingResponse(_xml(), media_type="application/xml")
    if kind is Harm.BOMB:
        return Response(_bomb(), headers={"content-encoding": "gzip"})
    await asyncio.Event().wait()
    return Response()
