"""What every gauge format is read into: one value of one parameter at one time, in SI, with what is said of its worth."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

Parameter = Literal["flow", "stage", "temperature", "turbidity"]
Worth = Literal["good", "provisional", "estimated", "ice", "missing"]

UNIT: dict[Parameter, str] = {"flow": "m³/s", "stage": "m", "temperature": "°C", "turbidity": "FNU"}

MISSING = -999_999.0
"""What gauges write for a value that they do not have."""

FOOT_M = 0.3048


@dataclass(frozen=True, slots=True)
class Sample:
    """One value, in the unit of :data:`UNIT`; None where it is missing. ``code`` is the source's own qualifier."""

    parameter: Parameter
    at: datetime
    value: float | None
    worth: Worth
    code: str = ""


class Malformed(ValueError):
    """A file that is not what it says: where, and what would be right."""

    def __init__(self, line: int, column: int | str, message: str) -> None:
        super().__init__(f"line {line}, column {column}: {message}")
        self.line, self.column, self.message = line, column, message


def tidy(samples: Iterable[Sample]) -> list[Sample]:
    """Return samples in order of time; of two for the same time the later in the file stands, as a correction."""
    latest = {(sample.parameter, sample.at): sample for sample in samples}
    return [latest[key] for key in sorted(latest)]
