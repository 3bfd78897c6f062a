"""The river: reading its gauge, what it does today, and its lies carried to today's flow."""

import asyncio
import logging
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from itertools import groupby
from urllib.parse import urljoin
from uuid import UUID

import httpx2 as httpx
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.advice.today import STALE_H, day_cautions, sentence
from deriva.core.ranges import FLOW_M3_S
from deriva.core.water.appetite import KNEELING_M, STANDING_M, WADED_M, standoff
from deriva.core.water.clarity import TURBIDITY_FNU, clarity
from deriva.core.water.flow import AgainstNormal, Trend, against_normal, quantile, recession, same_days, trend
from deriva.core.water.geometry import DEPTH_EXPONENT, SPEED_EXPONENT, Carried, Seen, carry, fit_rating
from deriva.service.adapters.gauge import Unread, read_gauge
from deriva.service.schemas.river import (
    ApproachOut,
    FlowOut,
    GaugeOut,
    HourOut,
    HydrographPoint,
    NormalOut,
    RecessionOut,
    TodayOut,
    TrendOut,
)
from deriva.service.store import queries
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Angler, Beat, Gauge, Reading

log = logging.getLogger(__name__)

FIRST_DAYS, YEARS = 30, 20
"""How far back a gauge is read the first time: every 15 minutes, and daily."""

AGAIN = timedelta(hours=6)
"""Provisional values are corrected: the last hours are read again each time."""

AHEAD = timedelta(minutes=10)
"""A value further ahead than this comes from a clock that is wrong, and then so may all the others."""

SHOWN_DAYS = 14
TREND_H = 6
RECESSION_H = 18
WARM_DAYS = 3


async def refresh(sessions: Sessions, gauge_id: UUID, client: httpx.AsyncClient, *, base: str) -> None:
    """Read a gauge and store what it says. Where it cannot be read the last good values stand, and the reason is kept."""
    async with sessions.begin() as session:
        gauge = await session.get(Gauge, gauge_id)
        if gauge is None:
            return
        newest = await queries.newest_gauge_time(session, gauge_id, daily=False)
        newest_day = await queries.newest_gauge_time(session, gauge_id, daily=True)
    now = datetime.now(UTC)
    trouble: str | None = None
    try:
        since = newest - AGAIN if newest else now - timedelta(days=FIRST_DAYS)
        samples = await read_gauge(
            client, urljoin(base, gauge.url), kind=gauge.format, since=since, until=now
        )
        if any(sample.at > now + AHEAD for sample in samples):
            raise Unread("the gauge's clock runs ahead of ours: nothing of what it said was taken")
        days = []
        if gauge.daily_url and (newest_day is None or now - newest_day > timedelta(days=1.5)):
            since = newest_day - timedelta(days=3) if newest_day else now - timedelta(days=365.25 * YEARS)
            days = await read_gauge(
                client, urljoin(base, gauge.daily_url), kind="rdb", since=since, until=now
            )
    except Unread as error:
        trouble = str(error)[:300]
        log.warning("gauge %s: %s", gauge.name, error)
    async with sessions.begin() as session:
        gauge = await session.get_one(Gauge, gauge_id)
        gauge.tried_at, gauge.trouble = now, trouble
        if trouble is None:
            await queries.put_gauge_values(session, gauge_id, samples, daily=False)
            await queries.put_gauge_values(session, gauge_id, days, daily=True)
            await queries.fill_flows(session, gauge)
            gauge.read_at = now


async def read_all(sessions: Sessions, client: httpx.AsyncClient, *, base: str) -> None:
    """Read every gauge once; one that fails holds up none."""
    async with sessions.begin() as session:
        ids = [gauge.id for gauge in await queries.gauges(session)]
    for gauge_id in ids:
        try:
            await refresh(sessions, gauge_id, client, base=base)
        except Exception:
            log.exception("gauge %s could not be stored", gauge_id)


async def keep_reading(sessions: Sessions, *, base: str, every_s: float) -> None:
    """Read every gauge again and again, until cancelled."""
    async with httpx.AsyncClient(follow_redirects=True) as client:
        while True:
            await read_all(sessions, client, base=base)
            await asyncio.sleep(every_s)


@dataclass(frozen=True)
class State:
    """What a gauge says now: the newest of each, and what follows."""

    gauge: Gauge
    flow_m3_s: float | None
    flow_at: datetime | None
    flow_worth: str
    temperature_c: float | None
    turbidity_fnu: float | None
    normal: AgainstNormal | None
    history: list[tuple[float, float]]

    def age_h(self, now: datetime) -> float | None:
        """Return how old the newest flow is, hours."""
        return None if self.flow_at is None else (now - self.flow_at) / timedelta(hours=1)

    def current(self, now: datetime) -> bool:
        """Return whether the flow is new enough to carry lies to."""
        age = self.age_h(now)
        return age is not None and age <= STALE_H

    @property
    def clarity_m(self) -> float | None:
        """How deep boots are seen, by the turbidity."""
        return (
            None
            if self.turbidity_fnu is None
            else clarity(turbidity_fnu=TURBIDITY_FNU.clamp(self.turbidity_fnu))
        )


def _day(at: datetime) -> float:
    return float(at.timetuple().tm_yday)


async def state_of(session: AsyncSession, angler_id: UUID, river_id: UUID, *, now: datetime) -> State | None:
    """Return what the river's gauge says now; None where the river has none."""
    gauge = await queries.gauge_of_river(session, angler_id, river_id)
    if gauge is None:
        return None
    flow, warm, dirt = [
        await queries.latest_value(session, gauge.id, p, until=now)
        for p in ("flow", "temperature", "turbidity")
    ]
    this_year = now.replace(month=1, day=1, hour=0, minute=0, second=0, microsecond=0)
    history = [(_day(at), q) for at, q in await queries.daily_history(session, gauge.id, before=this_year)]
    value = flow.value if flow else None
    same = same_days(history, _day(now))
    return State(
        gauge=gauge,
        flow_m3_s=value,
        flow_at=flow.at if flow else None,
        flow_worth=flow.worth if flow else "missing",
        temperature_c=warm.value if warm and now - warm.at < timedelta(hours=STALE_H) else None,
        turbidity_fnu=dirt.value if dirt and now - dirt.at < timedelta(hours=STALE_H) else None,
        normal=against_normal(FLOW_M3_S.clamp(value), same, years=len(same) // 15)
        if value is not None
        else None,
        history=history,
    )


async def today(session: AsyncSession, angler: Angler, beat_id: UUID, *, now: datetime) -> TodayOut:
    """Return what the river of a beat does today."""
    beat = await queries.get_owned(session, Beat, angler.id, beat_id)
    state = await state_of(session, angler.id, beat.river_id, now=now)
    if state is None:
        return _without_gauge(beat_id)
    since = now - timedelta(days=SHOWN_DAYS)
    flows = await queries.hourly(session, state.gauge.id, "flow", since=since, until=now)
    warmths = await queries.hourly(
        session, state.gauge.id, "temperature", since=now - timedelta(days=WARM_DAYS), until=now
    )
    moving = trend(*_last(flows, TREND_H)) if len(flows) > 2 and state.current(now) else None
    return TodayOut(
        beat_id=beat_id,
        gauge=GaugeOut(
            id=state.gauge.id, name=state.gauge.name, read_at=state.gauge.read_at, trouble=state.gauge.trouble
        ),
        flow=_flow_out(state, now),
        normal=_normal_out(state.normal),
        trend=TrendOut(per_h=moving.per_h, direction=moving.direction) if moving else None,
        recession=_recession_out(flows, state, moving),
        hydrograph=_hydrograph(flows, state.history),
        temperature_c=state.temperature_c,
        temperatures=[HourOut(at=at, value=value) for at, value in warmths],
        turbidity_fnu=state.turbidity_fnu,
        clarity_m=state.clarity_m,
        approach=_approach(state.clarity_m),
        sentence=sentence(state.normal, moving, clarity_m=state.clarity_m, temperature_c=state.temperature_c),
        cautions=list(
            day_cautions(state.normal, moving, temperature_c=state.temperature_c, age_h=state.age_h(now))
        ),
    )


def _without_gauge(beat_id: UUID) -> TodayOut:
    return TodayOut(
        beat_id=beat_id, gauge=None, flow=None, normal=None, trend=None, recession=None, hydrograph=[],
        temperature_c=None, temperatures=[], turbidity_fnu=None, clarity_m=None, approach=None,
        sentence=sentence(None, None, clarity_m=None, temperature_c=None),
        cautions=list(day_cautions(None, None, temperature_c=None, age_h=None)),
    )  # fmt: skip


def _approach(clarity_m: float | None) -> ApproachOut | None:
    if clarity_m is None:
        return None
    standing, kneeling, wading = (
        standoff(height_m=height, clarity_m=clarity_m)
        for height in (STANDING_M, KNEELING_M, STANDING_M - WADED_M)
    )
    return ApproachOut(standing_m=standing, kneeling_m=kneeling, wading_m=wading)


def _last(flows: Sequence[tuple[datetime, float]], hours: float) -> tuple[list[float], list[float]]:
    end = flows[-1][0]
    kept = [(at, q) for at, q in flows if end - at <= timedelta(hours=hours)]
    return [(at - end) / timedelta(hours=1) for at, _ in kept], [q for _, q in kept]


def _flow_out(state: State, now: datetime) -> FlowOut | None:
    age = state.age_h(now)
    if state.flow_m3_s is None or state.flow_at is None or age is None:
        return None
    return FlowOut.model_validate(
        {"m3_s": state.flow_m3_s, "at": state.flow_at, "age_h": age, "worth": state.flow_worth}
    )


def _normal_out(normal: AgainstNormal | None) -> NormalOut | None:
    if normal is None:
        return None
    return NormalOut(
        share=normal.share, flow_class=normal.flow_class, low_m3_s=normal.low_m3_s, median_m3_s=normal.median_m3_s,
        high_m3_s=normal.high_m3_s, years=normal.years,
    )  # fmt: skip


def _recession_out(
    flows: Sequence[tuple[datetime, float]], state: State, moving: Trend | None
) -> RecessionOut | None:
    if moving is None or moving.direction != "falling" or state.normal is None:
        return None
    target = state.normal.high_m3_s
    found = recession(*_last(flows, RECESSION_H), target_m3_s=target)
    if found is None:
        return None
    end = flows[-1][0]
    latest = None if found.latest_h > 24.0 * 60 else end + timedelta(hours=found.latest_h)
    return RecessionOut(
        target_m3_s=target,
        half_life_h=found.half_life_h,
        reached_at=end + timedelta(hours=found.reached_in_h),
        earliest=end + timedelta(hours=found.earliest_h),
        latest=latest,
    )


def _hydrograph(
    flows: Sequence[tuple[datetime, float]], history: list[tuple[float, float]]
) -> list[HydrographPoint]:
    points: list[HydrographPoint] = []
    for day, hours in groupby(flows, key=lambda one: one[0].date()):
        same = same_days(history, float(day.timetuple().tm_yday))
        low, high = (quantile(same, q) for q in (0.25, 0.75)) if same else (None, None)
        points += [HydrographPoint(at=at, flow_m3_s=q, low_m3_s=low, high_m3_s=high) for at, q in hours]
    return points


@dataclass(frozen=True)
class AtFlow:
    """A lie carried to a flow."""

    flow_m3_s: float
    depth: Carried
    speed: Carried
    seen: int


SPEED_BY_EYE = 0.20
"""Relative error of a surface speed that was typed and not timed (common practice, no source)."""


def carried_to(readings: Sequence[Reading], flow_m3_s: float) -> AtFlow | None:
    """Carry a lie's readings at known flows to another flow; None where there are none."""
    known = [r for r in readings if r.flow_m3_s is not None]
    if not known:
        return None
    depths = [Seen(r.flow_m3_s or 0.0, r.depth_m, r.depth_sd_m / r.depth_m) for r in known]
    speeds = [
        Seen(
            r.flow_m3_s or 0.0,
            r.surface_speed_m_s,
            SPEED_BY_EYE if r.speed_error_m_s is None else r.speed_error_m_s / r.surface_speed_m_s,
        )
        for r in known
    ]
    return AtFlow(
        flow_m3_s=flow_m3_s,
        depth=carry(fit_rating(depths, exponent=DEPTH_EXPONENT), flow_m3_s=flow_m3_s),
        speed=carry(fit_rating(speeds, exponent=SPEED_EXPONENT), flow_m3_s=flow_m3_s),
        seen=len(known),
    )


async def readings_by_lie(session: AsyncSession, angler_id: UUID) -> dict[UUID, list[Reading]]:
    """Return the readings at known flows of every lie of the angler's."""
    found: defaultdict[UUID, list[Reading]] = defaultdict(list)
    for reading in await queries.readings_with_flow(session, angler_id):
        found[reading.lie_id].append(reading)
    return found
