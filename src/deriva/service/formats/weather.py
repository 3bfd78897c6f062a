"""A simple weather series: JSON with one list a quantity, hour by hour, times in ISO 8601 with their offset."""

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

from deriva.service.formats.samples import Malformed, moment


@dataclass(frozen=True, slots=True)
class WeatherSample:
    """The weather of one hour, SI; ``cloud`` and the chance of ``thunder`` from 0 to 1."""

    at: datetime
    air_c: float
    wind_m_s: float
    cloud: float
    rain_mm_h: float
    thunder: float


Share = Annotated[float, Field(ge=0.0, le=1.0)]
MOST_HOURS = 24 * 400


class _Series(BaseModel):
    model_config = ConfigDict(extra="ignore", strict=False, allow_inf_nan=False)

    time: Annotated[list[AwareDatetime], Field(max_length=MOST_HOURS)]
    air_c: list[Annotated[float, Field(ge=-60.0, le=60.0)]]
    wind_m_s: list[Annotated[float, Field(ge=0.0, le=90.0)]]
    cloud: list[Share]
    rain_mm_h: list[Annotated[float, Field(ge=0.0, le=500.0)]]
    thunder: list[Share] | None = None


def parse_weather(text: bytes) -> list[WeatherSample]:
    """Return the hours of a weather series, in order. Raises Malformed naming the list and the place in it."""
    try:
        series = _Series.model_validate_json(text)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        where = [str(part) for part in first["loc"]]
        raise Malformed(0, ".".join(where) or "the whole", first["msg"]) from None
    columns = (
        series.air_c, series.wind_m_s, series.cloud, series.rain_mm_h,
        [0.0] * len(series.time) if series.thunder is None else series.thunder,
    )  # fmt: skip
    for name, column in zip(("air_c", "wind_m_s", "cloud", "rain_mm_h", "thunder"), columns, strict=True):
        if len(column) != len(series.time):
            raise Malformed(0, name, f"{len(column)} values for {len(series.time)} times")
    times = [moment(at, 0, f"time.{k}") for k, at in enumerate(series.time)]
    hours = (WeatherSample(*row) for row in zip(times, *columns, strict=True))
    latest = {hour.at: hour for hour in hours}  # of two for one hour the later stands
    return [latest[at] for at in sorted(latest)]
