"""The stand-in for a gauge and weather service: `uvicorn --factory deriva.standins.app:create`.

GET  /iv?format=rdb|waterml|csv&start=…&end=…   every 15 minutes, up to now
GET  /dv?format=rdb&start=…&end=…               daily means
GET  /weather?start=…&end=…                     hourly, JSON, up to two days ahead
GET  /hostile/{kind}                            a gauge that means harm, see :mod:`deriva.standins.hostile`
POST /faults/{none|slow|error|half|jump|zero|wild}   from now on: answer late, with 500, with half a file, an hour ahead,
                                                with a flow of nought, with flows that no river has
"""

import asyncio
import json
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from enum import StrEnum
from typing import Annotated, Literal

import numpy as np
from fastapi import FastAPI, HTTPException, Query, Request
from fastapi.responses import PlainTextResponse, Response

from deriva.standins import hostile
from deriva.standins.marrowen import STEP, Series, series

SITE = "MRW-02"
FOOT_M = 0.3048
PROVISIONAL_FOR = timedelta(days=60)
SLOW_S = 20.0
JUMP = timedelta(hours=1)
LONGEST = timedelta(days=366 * 25)
DEFAULT = timedelta(days=7)
FORECAST = timedelta(days=2)


class Breakage(StrEnum):
    """What goes wrong on request."""

    NONE = "none"
    SLOW = "slow"
    ERROR = "error"
    HALF = "half"
    JUMP = "jump"
    ZERO = "zero"
    WILD = "wild"


BROKEN = {Breakage.ZERO: 0.0, Breakage.WILD: 1e300}
"""What a sensor says that is dry, or broken."""


def _mark(at: datetime, now: datetime) -> str:
    return "P" if now - at < PROVISIONAL_FOR else "A"


def rdb(values: Series, now: datetime) -> str:
    """Write every 15 minutes as RDB: discharge in ft³/s, gage height in ft, temperature, turbidity."""
    names = ("00060", "00065", "00010", "63680")
    columns = (
        values.flow_m3_s / FOOT_M**3,
        values.stage_m / FOOT_M,
        values.temperature_c,
        values.turbidity_fnu,
    )
    head = "\t".join(f"1_{code}\t1_{code}_cd" for code in names)
    lines = [
        "# Simulated by a stand-in: an invented river.",
        f"agency_cd\tsite_no\tdatetime\ttz_cd\t{head}",
        "5s\t15s\t20d\t6s\t" + "\t".join(["14n\t10s"] * len(names)),
    ]
    for k in range(len(values.flow_m3_s)):
        at = values.time(k)
        mark = _mark(at, now)
        cells = "\t".join(f"{column[k]:.4g}\t{mark}" for column in columns)
        lines.append(f"STAND\t{SITE}\t{at:%Y-%m-%d %H:%M}\tUTC\t{cells}")
    return "\n".join(lines) + "\n"


def rdb_daily(values: Series, now: datetime) -> str:
    """Write daily mean discharge as RDB, whole days only; ``values`` are hourly from a midnight on."""
    days = len(values.flow_m3_s) // 24
    means = values.flow_m3_s[: days * 24].reshape(days, 24).mean(axis=1) / FOOT_M**3
    lines = [
        "# Simulated by a stand-in: an invented river.",
        "agency_cd\tsite_no\tdatetime\t1_00060_00003\t1_00060_00003_cd",
        "5s\t15s\t20d\t14n\t10s",
    ]
    for k, mean in enumerate(means):
        at = values.start + timedelta(days=k)
        lines.append(f"STAND\t{SITE}\t{at:%Y-%m-%d}\t{mean:.4g}\t{_mark(at, now)}")
    return "\n".join(lines) + "\n"


def waterml(values: Series, now: datetime) -> str:
    """Write flow and temperature as WaterML 2.0."""

    def member(title: str, unit: str, column: np.ndarray) -> str:
        points = "".join(
            f"<wml2:point><wml2:MeasurementTVP><wml2:time>{values.time(k):%Y-%m-%dT%H:%M:%SZ}</wml2:time>"
            f"<wml2:value>{value:.4g}</wml2:value></wml2:MeasurementTVP></wml2:point>"
            for k, value in enumerate(column)
        )
        quality = "unchecked" if _mark(values.start, now) == "P" else "good"
        return (
            f'<wml2:observationMember><om:OM_Observation><om:observedProperty xlink:title="{title}"/><om:result>'
            "<wml2:MeasurementTimeseries><wml2:defaultPointMetadata><wml2:DefaultTVPMeasurementMetadata>"
            f'<wml2:quality xlink:href="http://www.opengis.net/def/waterml/2.0/quality/{quality}"/>'
            f'<wml2:uom code="{unit}"/></wml2:DefaultTVPMeasurementMetadata></wml2:defaultPointMetadata>{points}'
            "</wml2:MeasurementTimeseries></om:result></om:OM_Observation></wml2:observationMember>"
        )

    return (
        '<?xml version="1.0" encoding="UTF-8"?><wml2:Collection xmlns:wml2="http://www.opengis.net/waterml/2.0" '
        'xmlns:om="http://www.opengis.net/om/2.0" xmlns:xlink="http://www.w3.org/1999/xlink">'
        + member("Discharge", "m3/s", values.flow_m3_s)
        + member("Water temperature", "Cel", values.temperature_c)
        + "</wml2:Collection>"
    )


def plain_csv(values: Series, now: datetime) -> str:
    """Write flow, temperature and turbidity as CSV."""
    lines = ["time,flow[m3/s],temperature[Cel],turbidity[FNU],qualifier"]
    for k, flow in enumerate(values.flow_m3_s):
        at = values.time(k)
        word = "provisional" if _mark(at, now) == "P" else ""
        lines.append(
            f"{at.isoformat()},{flow:.4g},{values.temperature_c[k]:.4g},{values.turbidity_fnu[k]:.4g},{word}"
        )
    return "\n".join(lines) + "\n"


WRITERS = {"rdb": rdb, "waterml": waterml, "csv": plain_csv}
TYPES = {"rdb": "text/plain", "waterml": "application/xml", "csv": "text/csv"}

Moment = Annotated[datetime | None, Query()]


def create() -> FastAPI:
    """Return the service."""
    app = FastAPI(title="Stand-in for a gauge", docs_url=None, redoc_url=None)
    app.state.fault = Breakage.NONE
    app.include_router(hostile.router)

    def clock() -> datetime:
        return datetime.now(UTC)

    def stamped(values: Series) -> Series:
        """Return the values, an hour ahead where the clock has jumped, and what a broken sensor says."""
        if app.state.fault is Breakage.JUMP:
            return replace(values, start=values.start + JUMP)
        if app.state.fault in BROKEN:
            return replace(values, flow_m3_s=np.full_like(values.flow_m3_s, BROKEN[app.state.fault]))
        return values

    def span(
        start: datetime | None, end: datetime | None, ahead: timedelta = timedelta(0)
    ) -> tuple[datetime, datetime, datetime]:
        now = clock()
        until = min(now + ahead, end.astimezone(UTC) if end else now)
        since = start.astimezone(UTC) if start else until - DEFAULT
        if since > until or until - since > LONGEST:
            raise HTTPException(400, "start must come before end, and by 25 years at the most")
        return since, until, now

    def answer(text: str, media_type: str) -> Response:
        whole = text[: len(text) // 2].rstrip("\n") if app.state.fault is Breakage.HALF else text
        return PlainTextResponse(whole, media_type=media_type)

    @app.middleware("http")
    async def fail(request: Request, call_next):  # type: ignore[no-untyped-def] # noqa: ANN001, ANN202
        if not request.url.path.startswith("/faults"):
            if app.state.fault is Breakage.SLOW:
                await asyncio.sleep(SLOW_S)
            if app.state.fault is Breakage.ERROR:
                return PlainTextResponse("out of order", status_code=500)
        return await call_next(request)

    @app.get("/iv")
    def instantaneous(
        start: Moment = None,
        end: Moment = None,
        kind: Annotated[Literal["rdb", "waterml", "csv"], Query(alias="format")] = "rdb",
    ) -> Response:
        since, until, now = span(start, end)
        values = series(since, int((until - since) / STEP) + 1)
        return answer(WRITERS[kind](stamped(values), now), TYPES[kind])

    @app.get("/dv")
    def daily(start: Moment = None, end: Moment = None) -> Response:
        since, until, now = span(start, end)
        midnight = since.replace(hour=0, minute=0, second=0, microsecond=0)
        hours = int((until - midnight) / timedelta(hours=1))
        return answer(rdb_daily(series(midnight, max(1, hours), timedelta(hours=1)), now), TYPES["rdb"])

    @app.get("/weather")
    def weather(start: Moment = None, end: Moment = None) -> Response:
        since, until, _ = span(start, end, FORECAST)
        step = timedelta(hours=1)
        values = series(since, int((until - since) / step) + 1, step)
        columns = {
            "time": [values.time(k).isoformat() for k in range(len(values.rain_mm_h))],
            "rain_mm_h": values.rain_mm_h.round(2).tolist(),
            "air_c": values.air_c.round(1).tolist(),
            "wind_m_s": values.wind_m_s.round(1).tolist(),
            "cloud": values.cloud.round(2).tolist(),
            "thunder": values.thunder.round(2).tolist(),
        }
        return answer(json.dumps(columns), "application/json")

    @app.post("/faults/{kind}")
    def faults(kind: Breakage) -> dict[str, str]:
        app.state.fault = kind
        return {"fault": kind}

    return app
