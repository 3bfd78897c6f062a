"""The river today: what its gauge and the sky say, what that means, what to mind."""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from itertools import groupby
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncSession

from deriva.core.day.hours import THUNDER, Best, Hour, best_hours, carry_temperature, keenness, warming
from deriva.core.day.sky import light_words, sky_words, wind_words
from deriva.core.day.today import sentence
from deriva.core.model.beat import BeatRules, MonthDay
from deriva.core.model.caution import Caution
from deriva.core.read import read_noun
from deriva.core.say.cautions import Crossing, Sky, day_cautions, rules_cautions, way_caution
from deriva.core.water.appetite import KNEELING_M, STANDING_M, WADED_M, standoff
from deriva.core.water.flow import LEAST_YEARS, AgainstNormal, Trend, quantile, recession, same_days, trend
from deriva.service.adapters.sun import sun_day
from deriva.service.formats.samples import Parameter
from deriva.service.schemas.places import BeatOut
from deriva.service.schemas.river import (
    AheadOut,
    ApproachOut,
    BestOut,
    FlowOut,
    GaugeOut,
    HourOut,
    HydrographPoint,
    LightOut,
    NormalOut,
    RecessionOut,
    TodayOut,
    TrendOut,
    WeatherOut,
)
from deriva.service.store import gauges, owned
from deriva.service.store.models import Angler, Beat, River, WeatherHour
from deriva.service.usecases.reading import list_beats
from deriva.service.usecases.river import HISTORY_DAYS, State, light_at, state_of

TREND_H = 6
RECESSION_H = 18
WARM_DAYS = 3
AHEAD_H = 24
STORM_H = 6
"""Thunder is minded so far ahead: an outing."""

HOUR = timedelta(hours=1)
SUN_DEG_PER_H = 15.0


async def today(session: AsyncSession, angler: Angler, beat_id: UUID, *, now: datetime) -> TodayOut:
    """Return what the river of a beat does today."""
    beat = await owned.get_owned(session, Beat, angler.id, beat_id)
    river = await owned.get_owned(session, River, angler.id, beat.river_id)
    state = await state_of(session, angler.id, beat.river_id, now=now)
    hours = await gauges.weather(
        session, river.id, since=now - HOUR, until=now + timedelta(hours=AHEAD_H + 1)
    )
    flows = await _hourly(session, state, "flow", since=now - timedelta(days=HISTORY_DAYS), now=now)
    warmths = await _hourly(session, state, "temperature", since=now - timedelta(days=WARM_DAYS), now=now)
    moving = trend(*_last(flows, TREND_H)) if len(flows) > 2 and state and state.current(now) else None
    past = [((at - now) / HOUR, value) for at, value in warmths]
    warms = warming(past)
    clarity_m, temperature_c = (state.clarity_m, state.temperature_c) if state else (None, None)
    normal = state.normal if state else None
    ahead = _ahead(river, beat, hours, past, now=now)
    light = _light_out(river, beat, hours, now=now)
    mine = next(one for one in await list_beats(session, angler) if one.id == beat_id)
    rules = _rules(beat, river, now=now)
    closed = _closed(beat, river, now=now)
    best = None if closed else best_hours([hour for hour, _ in ahead], beat.species)
    lacking = max(0, LEAST_YEARS - state.years) if state and normal is None else 0
    says = sentence(
        normal,
        moving,
        clarity_m=clarity_m,
        temperature_c=temperature_c,
        warming_c=warms,
        years_lacking=lacking,
    )
    cautions = day_cautions(
        normal,
        moving,
        temperature_c=temperature_c,
        age_h=state.age_h(now) if state else None,
        sky=Sky(max((hour.thunder for hour in hours[:STORM_H]), default=0.0)),
        beat=(*rules, *_way(mine, beat)),
    )
    return TodayOut(
        beat_id=beat_id,
        gauge=_gauge_out(state),
        flow=_flow_out(state, now) if state else None,
        normal=_normal_out(normal),
        years_lacking=lacking,
        trend=TrendOut(per_h=moving.per_h, direction=moving.direction) if moving else None,
        recession=_recession_out(flows, normal, moving),
        hydrograph=_hydrograph(flows, state.history) if state else [],
        temperature_c=temperature_c,
        temperatures=[HourOut(at=at, value=value) for at, value in warmths],
        turbidity_fnu=state.turbidity_fnu if state else None,
        clarity_m=clarity_m,
        approach=_approach(clarity_m),
        weather=_weather_out(river, hours, now=now),
        light=light,
        ahead=[out.model_copy(update={"best": best is not None and best.holds(hour)}) for hour, out in ahead],
        best=_best_out(best, now=now, dark=light.dark if light else None),
        warming_c=warms,
        sentence=rules[0].text
        if closed
        else says,  # what may not be fished is said before what it would fish like
        cautions=list(cautions),
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
    return await gauges.hourly(session, state.gauge.id, parameter, since=since, until=now)


def _day(river: River, now: datetime) -> MonthDay:
    """Return the day of the year over a river: it turns with the sun there."""
    there = now + timedelta(hours=(river.longitude or 0.0) / SUN_DEG_PER_H)
    return there.month, there.day


def _closed(beat: Beat, river: River, *, now: datetime) -> bool:
    season = read_noun(BeatRules, beat.rules).season
    return season is not None and not season.is_open(_day(river, now))


def _rules(beat: Beat, river: River, *, now: datetime) -> tuple[Caution, ...]:
    """Return what the rules of the beat forbid today, a closed day first."""
    season = read_noun(BeatRules, beat.rules).season
    return rules_cautions(season, _day(river, now), wading_allowed=beat.wading_allowed)


def _way(mine: BeatOut, beat: Beat) -> tuple[Caution, ...]:
    """Return the lies that nobody should wade through, where wading is allowed at all."""
    if not beat.wading_allowed:
        return ()
    waters = [(lie.name, lie.situation.water) for lie in mine.lies if lie.situation is not None]
    return way_caution([Crossing(name, water.depth_m, water.mean_speed_m_s) for name, water in waters])


def _weather_out(river: River, hours: Sequence[WeatherHour], *, now: datetime) -> WeatherOut | None:
    here = _at(hours, now)
    if here is None:
        return None
    return WeatherOut(
        at=here.at,
        read_at=river.weather_read_at,
        trouble=river.weather_trouble,
        air_c=here.air_c,
        wind_m_s=here.wind_m_s,
        rain_mm_h=here.rain_mm_h,
        sky_words=sky_words(here.cloud),
        wind_words=wind_words(here.wind_m_s),
    )


def _at(hours: Sequence[WeatherHour], at: datetime) -> WeatherHour | None:
    """Return the hour that a time lies in."""
    return next((hour for hour in hours if hour.at <= at < hour.at + HOUR), None)


def _light_out(river: River, beat: Beat, hours: Sequence[WeatherHour], *, now: datetime) -> LightOut | None:
    here = _at(hours, now)
    light = light_at(river, now, cloud=here.cloud if here else 0.0)
    if light is None or river.latitude is None or river.longitude is None:
        return None
    turns = sun_day(latitude=river.latitude, longitude=river.longitude, day=now.astimezone(UTC).date())
    return LightOut(
        height_deg=light.height_deg,
        azimuth_deg=light.azimuth_deg,
        phase=light.phase,
        words=list(light_words(light, flows_to_deg=beat.flows_to_deg)),
        sets=turns.sets,
        dark=turns.dark,
    )


def _ahead(
    river: River,
    beat: Beat,
    hours: Sequence[WeatherHour],
    past: Sequence[tuple[float, float]],
    *,
    now: datetime,
) -> list[tuple[Hour, AheadOut]]:
    """Return the hours to come for which the water's temperature can be carried forward."""
    start = now.replace(minute=0, second=0, microsecond=0)
    found: list[tuple[Hour, AheadOut]] = []
    for k in range(AHEAD_H):
        at = start + k * HOUR
        sky = _at(hours, at)
        ahead_h = (at - now) / HOUR
        water = carry_temperature(past, ahead_h=max(0.0, ahead_h))
        if water is None:
            continue
        light = light_at(river, at + HOUR / 2, cloud=sky.cloud if sky else 0.0)
        hour = Hour(ahead_h, water, light, sky.thunder if sky else 0.0)
        out = AheadOut(
            at=at,
            water_c=water,
            air_c=sky.air_c if sky else None,
            wind_m_s=sky.wind_m_s if sky else None,
            rain_mm_h=sky.rain_mm_h if sky else None,
            storm=hour.thunder >= THUNDER,
            phase=light.phase if light else None,
            keen=keenness(hour, beat.species),
            best=False,
        )
        found.append((hour, out))
    return found


def _best_out(best: Best | None, *, now: datetime, dark: datetime | None) -> BestOut | None:
    if best is None:
        return None
    ends = now + best.until_h * HOUR
    if dark is not None and now + best.from_h * HOUR < dark < ends:
        ends = dark
    return BestOut(starts=now + best.from_h * HOUR, ends=ends, reason=best.reason)


def _gauge_out(state: State | None) -> GaugeOut | None:
    if state is None:
        return None
    gauge = state.gauge
    return GaugeOut(id=gauge.id, name=gauge.name, read_at=gauge.read_at, trouble=gauge.trouble)


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
    return [(at - end) / HOUR for at, _ in kept], [q for _, q in kept]


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
    flows: Sequence[tuple[datetime, float]], normal: AgainstNormal | None, moving: Trend | None
) -> RecessionOut | None:
    if moving is None or moving.direction != "falling" or normal is None:
        return None
    target = normal.high_m3_s
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
