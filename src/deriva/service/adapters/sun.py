"""Where the sun stands, by `astral`: the one place that asks it."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime

from astral import Observer
from astral.sun import azimuth, dusk, elevation, sunrise, sunset


@dataclass(frozen=True, slots=True)
class SunDay:
    """The turns of a day's light; None where the sun does not make them."""

    rises: datetime | None
    sets: datetime | None
    dark: datetime | None


def sun_at(*, latitude: float, longitude: float, at: datetime) -> tuple[float, float]:
    """Return height over the horizon and azimuth from north, degrees, at an aware time; no refraction."""
    observer = Observer(latitude, longitude)
    height: float = elevation(observer, at, with_refraction=False)
    bearing: float = azimuth(observer, at)
    return height, bearing % 360.0


def sun_day(*, latitude: float, longitude: float, at: datetime) -> SunDay:
    """Return when the sun rises and sets on the day of an aware time, as its zone counts days, and when it is dark (civil
    twilight ends).
    """
    observer = Observer(latitude, longitude)

    def turn(of: Callable[..., datetime]) -> datetime | None:
        try:
            return of(observer, at.date(), tzinfo=at.tzinfo).astimezone(UTC)
        except ValueError:  # beyond the circles there are days without
            return None

    return SunDay(rises=turn(sunrise), sets=turn(sunset), dark=turn(dusk))
