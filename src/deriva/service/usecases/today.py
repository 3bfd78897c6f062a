"""The river today: what its gauge and the sky say, what that means, what to mind."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.day.hours import Best, Hour, best_hours, carry_temperature, is_worth_it, warming
from deriva.core.day.today import AHEAD_H, RECESSION_H, STORM_H, TREND_H, WARM_DAYS, sentence
from deriva.core.model.beat import BeatRules, MonthDay
from deriva.core.model.caution import Caution
from deriva.core.read import read_noun
from deriva.core.say.cautions import Crossing, Sky, day_cautions, rules_cautions, way_caution
from deriva.core.water.flow import LEAST_YEARS, Recession, Trend, recession, trend
from deriva.core.water.light import Light
from deriva.service.adapters.sun import SunDay, sun_day
from deriva.service.formats.samples import Parameter
from deriva.service.store import gauges, owned
from deriva.service.store.models import Angler, Beat, River, WeatherHour
from deriva.service.usecases.reading import Standing, standings
from deriva.service.usecases.river import HISTORY_DAYS, State, light_at, over_river, state_of

HOUR = timedelta(hours=1)


@dataclass(frozen=True, slots=True)
class Ahead:
    """An hour to come: when it begins, how it fishes, and what is foretold of it."""

    at: datetime
    hour: Hour
    sky: WeatherHour | None


@dataclass(frozen=True, slots=True)
class Falling:
    """When a river that falls is back within its normal flow."""

    target_m3_s: float
    found: Recession
    since: datetime
    """The newest value: hours are counted from there."""


@dataclass(frozen=True, slots=True)
class Sun:
    """The light over a river now, and when the sun turns today."""

    light: Light
    turns: SunDay


@dataclass(frozen=True, slots=True)
class Day:
    """What a river does on one day, seen from a beat; times are aware, the rest SI as its nouns say."""

    now: datetime
    beat: Beat
    river: River
    state: State | None
    flows: Sequence[tuple[datetime, float]]
    """Hourly means, m³/s."""
    temperatures: Sequence[tuple[datetime, float]]
    """Hourly means, °C."""
    moving: Trend | None
    falling: Falling | None
    years_lacking: int
    """Years of daily flows that are missing before it can be said what is normal."""
    sky: WeatherHour | None
    sun: Sun | None
    ahead: Sequence[Ahead]
    best: Best | None
    worth_it: bool
    warming_c: float | None
    sentence: str
    cautions: Sequence[Caution]


async def today(session: AsyncSession, angler: Angler, beat_id: UUID, *, now: datetime) -> Day:
    """Return what the river of a beat does today."""
    beat = await owned.get_owned(session, Beat, angler.id, beat_id)
    river = await owned.get_owned(session, River, angler.id, beat.river_id)
    state = await state_of(session, angler.id, beat.river_id, now=now)
    hours = await gauges.weather(session, river, since=now - HOUR, until=now + timedelta(hours=AHEAD_H + 1))
    flows = await _hourly(session, state, "flow", since=now - timedelta(days=HISTORY_DAYS), now=now)
    warmths = await _hourly(session, state, "temperature", since=now - timedelta(days=WARM_DAYS), now=now)
    moving = trend(*_last(flows, TREND_H)) if len(flows) > 2 and state and state.current(now) else None
    past = [((at - now) / HOUR, value) for at, value in warmths]
    warms = warming(past)
    normal = state.normal if state else None
    sky = _at(hours, now)
    ahead = _ahead(river, hours, past, now=now)
    rules = _rules(beat, river, now=now)
    closed = _closed(beat, river, now=now)
    lacking = max(0, LEAST_YEARS - state.years) if state and normal is None else 0
    says = sentence(
        normal,
        moving,
        clarity_m=state.clarity_m if state else None,
        temperature_c=state.temperature_c if state else None,
        warming_c=warms,
        years_lacking=lacking,
    )
    cautions = day_cautions(
        normal,
        moving,
        temperature_c=state.temperature_c if state else None,
        age_h=state.age_h(now) if state else None,
        sky=Sky(max((hour.thunder for hour in hours[:STORM_H]), default=0.0)),
        beat=(*rules, *_way(await standings(session, angler, beat_id), beat)),
    )
    hours_ahead = [one.hour for one in ahead]
    best = None if closed else best_hours(hours_ahead, beat.species)
    return Day(
        now=now,
        beat=beat,
        river=river,
        state=state,
        flows=flows,
        temperatures=warmths,
        moving=moving,
        falling=_falling(flows, state, moving),
        years_lacking=lacking,
        sky=sky,
        sun=_sun(river, sky, now=now),
        ahead=ahead,
        best=best,
        worth_it=is_worth_it(hours_ahead, best, closed=closed),
        warming_c=warms,
        # what may not be fished is said before what it would fish like
        sentence=rules[0].text if closed else says,
        cautions=cautions,
    )


async def _hourly(
    session: AsyncSession,
    state: State | None,
    parameter: Parameter,
    *,
    since: datetime,
    now: datetime,
) -> list[tuple[datetime, float]]:
    if state is None:
        return []
    return await gauges.hourly(session, state.gauge, parameter, since=since, until=now)


def _day(river: River, now: datetime) -> MonthDay:
    """Return the day of the year over a river: it turns with the sun there."""
    there = over_river(river, now)
    return there.month, there.day


def _closed(beat: Beat, river: River, *, now: datetime) -> bool:
    season = read_noun(BeatRules, beat.rules).season
    return season is not None and not season.is_open(_day(river, now))


def _rules(beat: Beat, river: River, *, now: datetime) -> tuple[Caution, ...]:
    """Return what the rules of the beat forbid today, a closed day first."""
    season = read_noun(BeatRules, beat.rules).season
    return rules_cautions(season, _day(river, now), wading_allowed=beat.wading_allowed)


def _way(here: Sequence[Standing], beat: Beat) -> tuple[Caution, ...]:
    """Return the lies that nobody should wade through, where wading is allowed at all."""
    if not beat.wading_allowed:
        return ()
    waters = [(one.lie.name, one.situation.water) for one in here if one.situation is not None]
    return way_caution([Crossing(name, water.depth_m, water.mean_speed_m_s) for name, water in waters])


def _at(hours: Sequence[WeatherHour], at: datetime) -> WeatherHour | None:
    """Return the hour that a time lies in."""
    return next((hour for hour in hours if hour.at <= at < hour.at + HOUR), None)


def _sun(river: River, sky: WeatherHour | None, *, now: datetime) -> Sun | None:
    light = light_at(river, now, cloud=sky.cloud if sky else 0.0)
    if light is None or river.latitude is None or river.longitude is None:
        return None
    there = over_river(river, now)
    return Sun(light, sun_day(latitude=river.latitude, longitude=river.longitude, at=there))


def _ahead(
    river: River, hours: Sequence[WeatherHour], past: Sequence[tuple[float, float]], *, now: datetime
) -> list[Ahead]:
    """Return the hours to come for which the water's temperature can be carried forward."""
    start = now.replace(minute=0, second=0, microsecond=0)
    found: list[Ahead] = []
    for k in range(AHEAD_H):
        at = start + k * HOUR
        sky = _at(hours, at)
        ahead_h = (at - now) / HOUR
        water = carry_temperature(past, ahead_h=max(0.0, ahead_h))
        if water is None:
            continue
        light = light_at(river, at + HOUR / 2, cloud=sky.cloud if sky else 0.0)
        found.append(Ahead(at, Hour(ahead_h, water, light, sky.thunder if sky else 0.0), sky))
    return found


def _last(flows: Sequence[tuple[datetime, float]], hours: float) -> tuple[list[float], list[float]]:
    end = flows[-1][0]
    kept = [(at, q) for at, q in flows if end - at <= timedelta(hours=hours)]
    return [(at - end) / HOUR for at, _ in kept], [q for _, q in kept]


def _falling(
    flows: Sequence[tuple[datetime, float]], state: State | None, moving: Trend | None
) -> Falling | None:
    if moving is None or moving.direction != "falling" or state is None or state.normal is None:
        return None
    target = state.normal.high_m3_s
    found = recession(*_last(flows, RECESSION_H), target_m3_s=target)
    return None if found is None else Falling(target, found, flows[-1][0])
