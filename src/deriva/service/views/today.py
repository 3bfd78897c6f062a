"""The river today, as it goes over the wire."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from itertools import groupby

from deriva.core.day.hours import THUNDER, Best, keenness
from deriva.core.day.sky import light_words, sky_words, wind_words
from deriva.core.water.appetite import KNEELING_M, STANDING_M, WADED_M, standoff
from deriva.core.water.flow import AgainstNormal, quantile, same_days
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
from deriva.service.store.models import Gauge, River, WeatherHour
from deriva.service.usecases.river import State
from deriva.service.usecases.today import HOUR, Ahead, Day, Falling, Sun

LONGEST_FALL_H = 24.0 * 60
"""Beyond that many hours no latest day is said."""


def today_out(day: Day) -> TodayOut:
    """Return the wire form of what a river does today."""
    state = day.state
    clarity_m = state.clarity_m if state else None
    return TodayOut(
        beat_id=day.beat.id,
        gauge=gauge_out(state.gauge) if state else None,
        flow=_flow_out(state, day.now) if state else None,
        normal=_normal_out(state.normal if state else None),
        years_lacking=day.years_lacking,
        trend=TrendOut(per_h=day.moving.per_h, direction=day.moving.direction) if day.moving else None,
        recession=_recession_out(day.falling),
        hydrograph=_hydrograph(day.flows, state.history) if state else [],
        temperature_c=state.temperature_c if state else None,
        temperatures=[HourOut(at=at, value=value) for at, value in day.temperatures],
        turbidity_fnu=state.turbidity_fnu if state else None,
        clarity_m=clarity_m,
        approach=_approach(clarity_m),
        weather=_weather_out(day.river, day.sky),
        light=_light_out(day.sun, flows_to_deg=day.beat.flows_to_deg),
        ahead=[_ahead_out(one, day) for one in day.ahead],
        best=_best_out(day.best, now=day.now, dark=day.sun.turns.dark if day.sun else None),
        worth_it=day.worth_it,
        warming_c=day.warming_c,
        sentence=day.sentence,
        cautions=list(day.cautions),
    )


def gauge_out(gauge: Gauge) -> GaugeOut:
    """Return the wire form of how a gauge last answered."""
    return GaugeOut(
        id=gauge.id,
        name=gauge.name,
        read_at=gauge.read_at,
        trouble=gauge.trouble,
        unasked=gauge.url is not None and gauge.tried_at is None,
    )


def _weather_out(river: River, here: WeatherHour | None) -> WeatherOut | None:
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


def _light_out(sun: Sun | None, *, flows_to_deg: float | None) -> LightOut | None:
    if sun is None:
        return None
    light = sun.light
    return LightOut(
        height_deg=light.height_deg,
        azimuth_deg=light.azimuth_deg,
        phase=light.phase,
        words=list(light_words(light, flows_to_deg=flows_to_deg)),
        sets=sun.turns.sets,
        dark=sun.turns.dark,
    )


def _ahead_out(one: Ahead, day: Day) -> AheadOut:
    hour, sky = one.hour, one.sky
    return AheadOut(
        at=one.at,
        water_c=hour.water_c,
        air_c=sky.air_c if sky else None,
        wind_m_s=sky.wind_m_s if sky else None,
        rain_mm_h=sky.rain_mm_h if sky else None,
        storm=hour.thunder >= THUNDER,
        phase=hour.light.phase if hour.light else None,
        keen=keenness(hour, day.beat.species),
        best=day.best is not None and day.best.holds(hour),
    )


def _best_out(best: Best | None, *, now: datetime, dark: datetime | None) -> BestOut | None:
    if best is None:
        return None
    ends = now + best.until_h * HOUR
    if dark is not None and now + best.from_h * HOUR < dark < ends:
        ends = dark
    return BestOut(starts=now + best.from_h * HOUR, ends=ends, reason=best.reason)


def _approach(clarity_m: float | None) -> ApproachOut | None:
    if clarity_m is None:
        return None
    standing, kneeling, wading = (
        standoff(height_m=height, clarity_m=clarity_m)
        for height in (STANDING_M, KNEELING_M, STANDING_M - WADED_M)
    )
    return ApproachOut(standing_m=standing, kneeling_m=kneeling, wading_m=wading)


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


def _recession_out(falling: Falling | None) -> RecessionOut | None:
    if falling is None:
        return None
    found, since = falling.found, falling.since
    latest = None if found.latest_h > LONGEST_FALL_H else since + timedelta(hours=found.latest_h)
    return RecessionOut(
        target_m3_s=falling.target_m3_s,
        half_life_h=found.half_life_h,
        reached_at=since + timedelta(hours=found.reached_in_h),
        earliest=since + timedelta(hours=found.earliest_h),
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
