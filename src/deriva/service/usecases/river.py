"""The river: reading its gauge and weather, what the gauge says now, and lies carried to its flow."""

import asyncio
import logging
from collections import defaultdict
from collections.abc import Awaitable, Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, timezone
from typing import Protocol
from uuid import UUID

import httpx2 as httpx
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.ranges import FLOW_M3_S
from deriva.core.say.cautions import STALE_H
from deriva.core.water.clarity import TURBIDITY_FNU, clarity
from deriva.core.water.flow import WINDOW_DAYS, AgainstNormal, against_normal, same_days
from deriva.core.water.geometry import (
    DEPTH_EXPONENT,
    SPEED_EXPONENT,
    Carried,
    Observed,
    Rating,
    carry,
    fit_rating,
)
from deriva.core.water.light import Light
from deriva.core.water.timing import BY_EYE_ERROR
from deriva.service.adapters.gauge import Rows, Sources, Unread, fetch, read_gauge
from deriva.service.adapters.sun import sun_at
from deriva.service.formats.weather import WeatherSample, parse_weather
from deriva.service.store import due, gauges, observed, places
from deriva.service.store.engine import Sessions
from deriva.service.store.models import Gauge, Reading, River
from deriva.service.store.owned import Key

log = logging.getLogger(__name__)

FIRST_DAYS, YEARS = 30, 20
"""How far back a gauge is read the first time: every 15 minutes, and daily."""

AGAIN = timedelta(hours=6)
"""Provisional values are corrected: the last hours are read again each time."""

AHEAD = timedelta(minutes=10)
"""A value further ahead than this comes from a clock that is wrong, and then so may all the others."""

HISTORY_DAYS = 14
"""For so many days back the normal band is known from a :class:`State`."""

FORETOLD = timedelta(days=2)

LONGEST_PAUSE = timedelta(hours=6)
AT_ONCE = 8
MOST_A_ROUND = 200
LOOK_EVERY_S = 30.0


class Reader(Protocol):
    """Reads one source, once for all who follow it, and stores what it says."""

    __name__: str

    async def __call__(
        self,
        sessions: Sessions,
        followers: Sequence[Key],
        client: httpx.AsyncClient,
        /,
        *,
        sources: Sources,
        every_s: float,
    ) -> None:
        """Read it."""


def _again_in(every_s: float, failures: int) -> timedelta:
    """Return the pause before the next try: what fails again and again is asked ever more seldom."""
    return min(LONGEST_PAUSE, timedelta(seconds=every_s * 2.0 ** min(failures, 12)))


@dataclass(frozen=True, slots=True)
class _Follower:
    """A gauge of somebody's, and from when on it lacks values; ``day``: daily ones, None where it has them."""

    gauge: Gauge
    since: datetime
    day: datetime | None

    @property
    def key(self) -> Key:
        return self.gauge.angler_id, self.gauge.id


async def _lacking(session: AsyncSession, key: Key, now: datetime) -> _Follower | None:
    gauge = await session.get(Gauge, key)
    if gauge is None or gauge.url is None:
        return None
    newest = await gauges.newest_gauge_time(session, gauge, daily=False)
    since = newest - AGAIN if newest else now - timedelta(days=FIRST_DAYS)
    day = None
    if gauge.daily_url:
        newest_day = await gauges.newest_gauge_time(session, gauge, daily=True)
        if newest_day is None:
            day = now - timedelta(days=365.25 * YEARS)
        elif now - newest_day > timedelta(days=1.5):
            day = newest_day - timedelta(days=3)
    return _Follower(gauge, since, day)


@dataclass(frozen=True, slots=True)
class _Said:
    """What a station said, or why it could not be read."""

    values: Rows | None = None
    days: Rows | None = None
    trouble: str | None = None


async def _ask(
    followers: Sequence[_Follower], client: httpx.AsyncClient, *, sources: Sources, now: datetime
) -> _Said:
    """Ask a station for all that one of its followers lacks."""
    station, days = followers[0].gauge, None
    missing = [one.day for one in followers if one.day is not None]
    try:
        since = min(one.since for one in followers)
        values = await read_gauge(
            client, sources.address(station.url or ""), kind=station.format, since=since, until=now
        )
        if values.newest is not None and values.newest > now + AHEAD:
            raise Unread("the gauge's clock runs ahead of ours: nothing of what it said was taken")
        if station.daily_url and missing:
            days = await read_gauge(
                client, sources.address(station.daily_url), kind="rdb", since=min(missing), until=now
            )
    except Unread as error:
        log.warning("gauge %s could not be read", station.id)
        return _Said(trouble=str(error)[:300])
    return _Said(values, days)


async def _keep(
    sessions: Sessions, follower: _Follower, said: _Said, *, now: datetime, every_s: float
) -> None:
    """Store what a station said that a follower lacks. Where it could not be read the last good values stand."""
    async with sessions.begin() as session:
        stored = await session.get(Gauge, follower.key, with_for_update={"skip_locked": True})
        if (
            stored is None or stored.url != follower.gauge.url
        ):  # removed or led elsewhere meanwhile, or a file of its past is being taken in: then it is read the next time
            return
        stored.tried_at, stored.trouble = now, said.trouble
        stored.failures = 0 if said.trouble is None else stored.failures + 1
        stored.due_at = now + _again_in(every_s, stored.failures)
        if said.trouble is None:
            for rows, since in ((said.values, follower.since), (said.days, follower.day)):
                if rows is not None and rows.count and since is not None:
                    daily = rows is said.days
                    await gauges.put_gauge_values(session, stored, rows.text, daily=daily, since=since)
            await observed.fill_flows(session, stored)
            stored.read_at = now


async def _each(followers: Sequence[Key], keep: Callable[[Key], Awaitable[None]], what: str) -> None:
    """Store what was said for each that follows it: one for which that fails keeps it from none of the others."""
    for key in followers:
        try:
            await keep(key)
        except SQLAlchemyError as error:
            log.error("%s %s could not be stored: %s", what, key[1], type(error).__name__)


async def refresh(
    sessions: Sessions,
    followers: Sequence[Key],
    client: httpx.AsyncClient,
    *,
    sources: Sources,
    every_s: float = 300.0,
) -> None:
    """Read a station once, and store what it says for every gauge that follows it, of whatever angler."""
    now = datetime.now(UTC)
    async with sessions.begin() as session:
        lacking = [one for key in followers if (one := await _lacking(session, key, now)) is not None]
    if not lacking:
        return
    said = await _ask(lacking, client, sources=sources, now=now)
    by_key = {one.key: one for one in lacking}
    await _each(
        list(by_key), lambda key: _keep(sessions, by_key[key], said, now=now, every_s=every_s), "gauge"
    )


async def _weather(text: bytes) -> list[WeatherSample]:
    return await asyncio.to_thread(parse_weather, text)


async def refresh_weather(
    sessions: Sessions,
    followers: Sequence[Key],
    client: httpx.AsyncClient,
    *,
    sources: Sources,
    every_s: float = 300.0,
) -> None:
    """Read a place's weather once, seen and foretold, and store it for every river there; where it cannot be read the reason is
    kept.
    """
    async with sessions.begin() as session:
        river = await session.get(River, followers[0])
    if river is None or river.weather_url is None:
        return
    now, trouble, hours = datetime.now(UTC), None, []
    try:
        hours = await fetch(
            client, sources.address(river.weather_url), _weather,
            what="the weather", since=now - timedelta(days=1), until=now + FORETOLD,
        )  # fmt: skip
    except Unread as error:
        trouble = str(error)[:300]
        log.warning("weather of river %s could not be read", river.id)

    async def keep(key: Key) -> None:
        async with sessions.begin() as session:
            stored = await session.get(River, key)
            if stored is None or stored.weather_url != river.weather_url:
                return
            stored.weather_trouble = trouble
            stored.weather_failures = 0 if trouble is None else stored.weather_failures + 1
            stored.weather_due_at = now + _again_in(every_s, stored.weather_failures)
            if trouble is None:
                await gauges.put_weather(session, stored, hours)
                stored.weather_read_at = now

    await _each(followers, keep, "the weather of river")


async def read_all(
    sessions: Sessions, client: httpx.AsyncClient, *, sources: Sources, every_s: float = 300.0
) -> None:
    """Read every station and every place's weather that is due, many at once; one that fails or hangs holds up none."""
    turns = asyncio.Semaphore(AT_ONCE)

    async def one(read: Reader, followers: Sequence[Key]) -> None:
        async with turns:
            try:
                await read(sessions, followers, client, sources=sources, every_s=every_s)
            except Exception as error:  # whatever it was, the others are read
                log.error(
                    "%s %s could not be stored: %s", read.__name__, followers[0][1], type(error).__name__
                )

    now = datetime.now(UTC)
    pause = _again_in(every_s, 0)
    lease = due.Lease(now, soon=now + pause / 2, until=now + pause)
    async with sessions.begin() as session:
        stations = await due.take_due_gauges(session, lease, most=MOST_A_ROUND)
        weathers = await due.take_due_weather(session, lease, most=MOST_A_ROUND)
    await asyncio.gather(
        *(one(refresh, followers) for followers in stations),
        *(one(refresh_weather, followers) for followers in weathers),
    )


async def keep_reading(sessions: Sessions, *, sources: Sources, every_s: float) -> None:
    """Read every gauge and weather again and again, until cancelled."""
    async with httpx.AsyncClient(follow_redirects=False) as client:
        while True:
            try:
                await read_all(sessions, client, sources=sources, every_s=every_s)
            except (SQLAlchemyError, OSError) as error:
                log.warning("a round of gauges failed: %s", type(error).__name__)
            await asyncio.sleep(min(every_s, LOOK_EVERY_S))


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
    years: int
    """Of its past that are known."""
    history: list[tuple[float, float]]
    """Day of the year and daily mean flow of earlier years, for the last days and this one, a week about each."""

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
    gauge = await places.gauge_of_river(session, angler_id, river_id)
    if gauge is None:
        return None
    flow, warm, dirt = [
        await gauges.latest_value(session, gauge, p, until=now) for p in ("flow", "temperature", "turbidity")
    ]
    this_year = now.replace(month=1, day=1, hour=0, minute=0, second=0, microsecond=0)
    days = {
        int(_day(now + timedelta(days=k))) for k in range(-HISTORY_DAYS - WINDOW_DAYS - 1, WINDOW_DAYS + 2)
    }
    past = await gauges.daily_history(session, gauge, before=this_year, days=sorted(days))
    history = [(_day(at), q) for at, q in past]
    value = flow.value if flow else None
    same = same_days(history, _day(now))
    years = len({at.year for at, _ in past})
    return State(
        gauge=gauge,
        flow_m3_s=value,
        flow_at=flow.at if flow else None,
        flow_worth=flow.worth if flow else "missing",
        temperature_c=warm.value if warm and now - warm.at < timedelta(hours=STALE_H) else None,
        turbidity_fnu=dirt.value if dirt and now - dirt.at < timedelta(hours=STALE_H) else None,
        normal=against_normal(FLOW_M3_S.clamp(value), same, years=years) if value is not None else None,
        years=years,
        history=history,
    )


SUN_DEG_PER_H = 15.0


def over_river(river: River, at: datetime) -> datetime:
    """Return a time as the sun over a river has it, by Greenwich where its place is not known: days and months turn there."""
    return at.astimezone(timezone(timedelta(hours=(river.longitude or 0.0) / SUN_DEG_PER_H)))


def light_at(river: River, at: datetime, *, cloud: float) -> Light | None:
    """Return the light over a river at a time; None where the river's place is not known."""
    if river.latitude is None or river.longitude is None:
        return None
    height, bearing = sun_at(latitude=river.latitude, longitude=river.longitude, at=at)
    return Light(height, bearing, cloud)


@dataclass(frozen=True)
class AtFlow:
    """A lie carried to a flow."""

    flow_m3_s: float
    depth: Carried
    speed: Carried
    seen: int


@dataclass(frozen=True)
class Rated:
    """A lie's readings at known flows, oldest first, and how its depth and speed go with the flow by them."""

    readings: Sequence[Reading]
    depth: Rating
    speed: Rating

    def at(self, flow_m3_s: float) -> AtFlow:
        """Carry the lie to a flow."""
        return AtFlow(
            flow_m3_s=flow_m3_s,
            depth=carry(self.depth, flow_m3_s=flow_m3_s),
            speed=carry(self.speed, flow_m3_s=flow_m3_s),
            seen=len(self.readings),
        )


def rated(readings: Sequence[Reading]) -> Rated:
    """Return how a lie goes with the flow by some readings at known flows."""
    speeds = [
        Observed(
            r.flow_m3_s or 0.0,
            r.surface_speed_m_s,
            BY_EYE_ERROR if r.speed_error_m_s is None else r.speed_error_m_s / r.surface_speed_m_s,
        )
        for r in readings
    ]
    depths = [depth_at_flow(r) for r in readings]
    return Rated(
        readings, fit_rating(depths, exponent=DEPTH_EXPONENT), fit_rating(speeds, exponent=SPEED_EXPONENT)
    )


def depth_at_flow(reading: Reading) -> Observed:
    """Return the depth that was read at a known flow."""
    return Observed(reading.flow_m3_s or 0.0, reading.depth_m, reading.depth_sd_m / reading.depth_m)


async def rated_lies(session: AsyncSession, angler_id: UUID) -> dict[UUID, Rated]:
    """Return how every lie of the angler's that was read at a known flow goes with it."""
    found: defaultdict[UUID, list[Reading]] = defaultdict(list)
    for reading in await observed.readings_with_flow(session, angler_id):
        found[reading.lie_id].append(reading)
    return {lie: rated(readings) for lie, readings in found.items()}
