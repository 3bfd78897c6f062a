"""What every gauge format is read into: one value of one parameter at one time, in SI, with what is said of its worth."""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Literal

from deriva.core.ranges import FLOW_M3_S, Range

Parameter = Literal["flow", "stage", "temperature", "turbidity"]
Worth = Literal["good", "provisional", "estimated", "ice", "missing"]

UNIT: dict[Parameter, str] = {"flow": "m³/s", "stage": "m", "temperature": "°C", "turbidity": "FNU"}

MISSING = -999_999.0
"""What gauges write for a value that they do not have."""

FOOT_M = 0.3048

BELIEVED: dict[Parameter, Range] = {
    "flow": FLOW_M3_S,
    "stage": Range(-100.0, 5000.0, "m", "against any datum"),
    "temperature": Range(-5.0, 45.0, "°C", "water, and a sensor a little off"),
    "turbidity": Range(0.0, 20_000.0, "FNU", "clear water to mud"),
}
"""What a gauge may say. A sensor that is dry, frozen or broken says something else: that is no value."""

EARLIEST_YEAR, LATEST_YEAR = 1800, 2100


@dataclass(frozen=True, slots=True)
class Sample:
    """One value, in the unit of :data:`UNIT`; None where it is missing. ``code`` is the source's own qualifier."""

    parameter: Parameter
    at: datetime
    value: float | None
    worth: Worth
    code: str = ""


def sample(parameter: Parameter, at: datetime, value: float | None, worth: Worth, code: str = "") -> Sample:
    """Return a sample; what no river has is a missing value, ice or not."""
    within = BELIEVED[parameter]
    if value is None or worth == "missing" or not (math.isfinite(value) and within.lo <= value <= within.hi):
        return Sample(parameter, at, None, "ice" if worth == "ice" else "missing", code)
    return Sample(parameter, at, value, worth, code)


class Malformed(ValueError):
    """A file that is not what it says: where, and what would be right."""

    def __init__(self, line: int, column: int | str, message: str) -> None:
        super().__init__(f"line {line}, column {column}: {message}" if line else f"{column}: {message}")
        self.line, self.column, self.message = line, column, message


def moment(at: datetime, line: int, column: int | str) -> datetime:
    """Return a time in UTC; raises Malformed for one that no gauge was read at."""
    if not EARLIEST_YEAR <= at.year <= LATEST_YEAR:
        raise Malformed(line, column, f"the year {at.year} is outside {EARLIEST_YEAR} to {LATEST_YEAR}")
    return at.astimezone(UTC)


def shown(text: str) -> str:
    """Return what stood in a cell, short enough to be quoted."""
    return repr(text if len(text) <= 40 else text[:37] + "...")


def tidy(samples: Iterable[Sample]) -> list[Sample]:
    """Return samples in order of time; of two for the same time the later in the file stands, as a correction."""
    latest = {(sample.parameter, sample.at): sample for sample in samples}
    return [latest[key] for key in sorted(latest)]
