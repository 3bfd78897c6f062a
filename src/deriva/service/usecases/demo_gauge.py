"""The demo's gauge MRW-02, read from its stand-in over HTTP, and lies read at other flows of the past year."""

import random
from datetime import UTC, datetime, timedelta

import httpx2 as httpx
from sqlalchemy.ext.asyncio import AsyncSession
from uuid_utils.compat import uuid7

from deriva.core.ranges import DEPTH_M, SURFACE_SPEED_M_S, TEMPERATURE_C
from deriva.core.water.geometry import SPEED_EXPONENT
from deriva.core.water.sounding import DepthHow, depth_sd
from deriva.service.adapters.gauge import Sources
from deriva.service.store import gauges, observed, places
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Angler, Gauge, Reading, River
from deriva.service.usecases.river import read_all, state_of

NAME = "MRW-02"
PAST_DAYS = (9, 64, 148, 215, 290)
"""Days ago on which lies were read before."""

EXPONENTS = (0.30, 0.48)
"""The lies' own exponents of depth lie between these: each departs a little from the published mean."""


async def seed_gauge(sessions: Sessions, angler: Angler, *, base: str) -> None:
    """Make the gauge, read it once, and give every lie its past; does nothing where the gauge is there already."""
    async with sessions.begin() as session:
        beats = await places.beats(session, angler.id)
        river_id = beats[0][0].river_id
        if await places.gauge_of_river(session, angler.id, river_id) is not None:
            return
        gauge = Gauge(
            id=uuid7(), angler_id=angler.id, river_id=river_id, name=NAME, format="rdb",
            url="/iv?format=rdb&start={start}&end={end}", daily_url="/dv?start={start}&end={end}",
        )  # fmt: skip
        session.add(gauge)
        river = await session.get_one(River, (angler.id, river_id))
        river.weather_url = "/weather?start={start}&end={end}"
    async with httpx.AsyncClient() as client:
        await read_all(
            sessions, client, sources=Sources(base), every_s=0.0
        )  # due again as soon as the app runs
    async with sessions.begin() as session:
        await _past_readings(session, angler, gauge)


async def _past_readings(session: AsyncSession, angler: Angler, gauge: Gauge) -> None:
    """Write what the angler read on other days: depths and speeds that follow the flow of those days, with errors."""
    rng = random.Random(7)  # noqa: S311 - a made-up past, the same every time
    now = datetime.now(UTC)
    latest = await gauges.latest_value(session, gauge, "flow", until=now)
    state = await state_of(session, angler.id, gauge.river_id, now=now)
    daily = {at.date(): q for at, q in await gauges.daily_history(session, gauge, before=now)}
    if latest is None or latest.value is None or state is None:
        return
    for reading in (await observed.newest_readings(session, angler.id)).values():
        exponent = rng.uniform(*EXPONENTS)
        past = rng.sample(PAST_DAYS, rng.randint(2, 4))
        by_eye = reading.depth_how == "eye"
        for days in sorted({*past, PAST_DAYS[0]} if by_eye else past):
            at = now - timedelta(days=days, hours=rng.uniform(0.0, 4.0))
            flow = daily.get(at.date())
            if flow is None:
                continue
            how: DepthHow = rng.choice(("eye", "line", "staff"))
            ratio = flow / latest.value
            depth = DEPTH_M.clamp(reading.depth_m * ratio**exponent)
            error = depth_sd(depth_m=1.0, how=how)
            depth = DEPTH_M.clamp(round(depth * rng.lognormvariate(0.0, error), 2))
            speed = reading.surface_speed_m_s * ratio**SPEED_EXPONENT * rng.lognormvariate(0.0, 0.1)
            kept = {
                column.name: getattr(reading, column.name)
                for column in Reading.__table__.columns
                if column.name not in ("id", "at", "flow_m3_s")
            }
            kept |= {
                "depth_m": depth,
                "depth_how": how,
                "depth_sd_m": depth_sd(depth_m=depth, how=how),
                "surface_speed_m_s": SURFACE_SPEED_M_S.clamp(round(speed, 2)),
            }
            session.add(Reading(id=uuid7(), at=at, flow_m3_s=flow, **kept))
        if by_eye:  # not seen today: what it is now follows from the flow
            await session.delete(reading)
        else:  # a thermometer in the same water reads what the gauge's does
            reading.temperature_c = round(
                TEMPERATURE_C.clamp(state.temperature_c or reading.temperature_c), 1
            )
            reading.clarity_m = round(state.clarity_m or reading.clarity_m, 1)
            reading.flow_class = state.normal.flow_class if state.normal else reading.flow_class
    await session.flush()
