"""What gauges and the weather service said.

Values have no angler of their own: whoever asks for them brings the gauge or the river, which only its angler is given.
"""

import io
from collections.abc import Sequence
from dataclasses import asdict
from datetime import datetime, timedelta

from sqlalchemy import ColumnElement, delete, func, select, text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.ext.asyncio import AsyncSession

from deriva.service.formats.samples import Parameter
from deriva.service.formats.weather import WeatherSample
from deriva.service.store.models import Gauge, GaugeValue, River, WeatherHour


def _over(river: River) -> tuple[ColumnElement[bool], ...]:
    return WeatherHour.angler_id == river.angler_id, WeatherHour.river_id == river.id


def _of(gauge: Gauge) -> tuple[ColumnElement[bool], ...]:
    return GaugeValue.angler_id == gauge.angler_id, GaugeValue.gauge_id == gauge.id


async def put_weather(session: AsyncSession, river: River, hours: Sequence[WeatherSample]) -> None:
    """Store the weather of some hours; what was foretold before is replaced, the past beyond a month forgotten."""
    if hours:
        of = {"angler_id": river.angler_id, "river_id": river.id}
        statement = insert(WeatherHour).values([of | asdict(hour) for hour in hours])
        fresh = {
            name: statement.excluded[name] for name in ("air_c", "wind_m_s", "cloud", "rain_mm_h", "thunder")
        }
        await session.execute(
            statement.on_conflict_do_update(index_elements=["angler_id", "river_id", "at"], set_=fresh)
        )
    await session.execute(
        delete(WeatherHour).where(*_over(river), WeatherHour.at < func.now() - WEATHER_KEPT)
    )


WEATHER_KEPT = timedelta(days=31)


async def weather(
    session: AsyncSession, river: River, *, since: datetime, until: datetime
) -> Sequence[WeatherHour]:
    """Return the weather of a river's hours between two times, in order."""
    statement = (
        select(WeatherHour)
        .where(*_over(river), WeatherHour.at.between(since, until))
        .order_by(WeatherHour.at)
    )
    return (await session.execute(statement)).scalars().all()


async def put_gauge_values(
    session: AsyncSession, gauge: Gauge, rows: bytes, *, daily: bool, since: datetime
) -> None:
    """Store values from a time on by COPY, from rows of its text format; a value that is there already is corrected.

    The gauge must be held: nothing else ties its values to it.
    """
    columns = "parameter, at, value, worth, code"
    await session.execute(
        text(f"create temp table incoming on commit drop as select {columns} from gauge_value limit 0")  # noqa: S608
    )
    raw = await (await session.connection()).get_raw_connection()
    assert raw.driver_connection is not None  # noqa: S101 - an open connection has one
    await raw.driver_connection.copy_to_table("incoming", source=io.BytesIO(rows), format="text")
    await session.execute(
        text(
            f"insert into gauge_value (angler_id, gauge_id, daily, {columns})"  # noqa: S608
            f" select :angler, :gauge, :daily, {columns} from incoming where at >= :since"
            " on conflict (angler_id, gauge_id, parameter, daily, at)"
            " do update set value = excluded.value, worth = excluded.worth, code = excluded.code"
        ),
        {"angler": gauge.angler_id, "gauge": gauge.id, "daily": daily, "since": since},
    )
    await session.execute(text("drop table incoming"))


async def newest_gauge_time(session: AsyncSession, gauge: Gauge, *, daily: bool) -> datetime | None:
    """Return the time of the newest value of a gauge."""
    statement = select(func.max(GaugeValue.at)).where(*_of(gauge), GaugeValue.daily == daily)
    return (await session.execute(statement)).scalar_one_or_none()


async def latest_value(
    session: AsyncSession, gauge: Gauge, parameter: Parameter, *, until: datetime
) -> GaugeValue | None:
    """Return the newest value of a parameter that is not missing."""
    statement = (
        select(GaugeValue)
        .where(
            *_of(gauge),
            GaugeValue.parameter == parameter,
            GaugeValue.daily.is_(False),
            GaugeValue.value.is_not(None),
            GaugeValue.at <= until,
        )
        .order_by(GaugeValue.at.desc())
        .limit(1)
    )
    return (await session.execute(statement)).scalar_one_or_none()


async def hourly(
    session: AsyncSession, gauge: Gauge, parameter: Parameter, *, since: datetime, until: datetime
) -> list[tuple[datetime, float]]:
    """Return hourly means of a parameter, in time."""
    hour = func.date_trunc("hour", GaugeValue.at)
    statement = (
        select(hour, func.avg(GaugeValue.value))
        .where(
            *_of(gauge),
            GaugeValue.parameter == parameter,
            GaugeValue.daily.is_(False),
            GaugeValue.value.is_not(None),
            GaugeValue.at.between(since, until),
        )
        .group_by(hour)
        .order_by(hour)
    )
    return [(at, float(value)) for at, value in (await session.execute(statement)).all() if value is not None]


async def daily_history(
    session: AsyncSession, gauge: Gauge, *, before: datetime, days: Sequence[int] | None = None
) -> list[tuple[datetime, float]]:
    """Return all daily mean flows before a time, in time; those on certain days of the year where ``days`` are given."""
    on = [] if days is None else [func.extract("doy", GaugeValue.at).in_(days)]
    statement = (
        select(GaugeValue.at, GaugeValue.value)
        .where(
            *_of(gauge),
            GaugeValue.parameter == "flow",
            GaugeValue.daily,
            GaugeValue.value.is_not(None),
            GaugeValue.at < before,
            *on,
        )
        .order_by(GaugeValue.at)
    )
    return [(at, float(value)) for at, value in (await session.execute(statement)).all() if value is not None]
