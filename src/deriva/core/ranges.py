"""Ranges said once: checks, schemas, docs and edge tests all read these objects."""

import re
from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import Any

from deriva.core.errors import NotRead, OutOfRange


class Bound(ABC):
    """What bounds a field: it stands in the field's type, and is checked wherever the field comes in."""

    __slots__ = ()

    @abstractmethod
    def check(self, field: str, value: Any) -> Any:  # noqa: ANN401 - whatever it bounds
        """Return ``value``, or raise an error that names ``field``."""


@dataclass(frozen=True, slots=True)
class Text(Bound):
    """A short text without control characters, which a database cannot keep and a screen cannot show."""

    most: int = 80
    least: int = 0
    pattern: str | None = None
    says: str = ""
    """What such a text is, in words, where it has a pattern."""

    def check(self, field: str, value: str) -> str:
        """Return ``value``, or raise :class:`NotRead` naming ``field``."""
        if len(value) > self.most:
            raise NotRead(f"{field} has more than {self.most} letters", field=field)
        if len(value) < self.least:
            raise NotRead(f"{field} has fewer than {self.least} letters", field=field)
        if re.search(CONTROL, value):
            raise NotRead(f"{field} has signs in it that cannot be shown", field=field)
        if self.pattern is not None and not re.search(self.pattern, value):
            raise NotRead(f"{field} = {value!r}: {self.says} is wanted", field=field)
        return value


CONTROL = r"[\x00-\x1f\x7f]"


@dataclass(frozen=True, slots=True)
class Most(Bound):
    """A list of so many at most."""

    count: int

    def check(self, field: str, value: tuple[Any, ...]) -> tuple[Any, ...]:
        """Return ``value``, or raise :class:`NotRead` naming ``field``."""
        if len(value) > self.count:
            raise NotRead(f"{field} has more than {self.count}", field=field)
        return value


@dataclass(frozen=True, slots=True)
class Range(Bound):
    """The closed interval in which a number makes sense, with its unit and why it ends there."""

    lo: float
    hi: float
    unit: str
    source: str

    def check(self, field: str, value: float) -> float:
        """Return ``value``, or raise :class:`OutOfRange` naming ``field`` (NaN and infinities included)."""
        if not self.lo <= value <= self.hi:  # false for NaN too
            raise OutOfRange(field, value, self.lo, self.hi, self.unit)
        return value

    def clamp(self, value: float) -> float:
        """Return the nearest value inside the range."""
        return min(self.hi, max(self.lo, value))


OURS = "wide enough for any trout river; not a physical limit"

DEPTH_M = Range(0.05, 4.0, "m", OURS)
DEPTH_SD_M = Range(0.0, 2.0, "m", OURS)
SURFACE_SPEED_M_S = Range(0.01, 4.0, "m/s", OURS)
TEMPERATURE_C = Range(0.0, 30.0, "°C", "liquid river water; the IAPWS fits used here hold from 0 to 40 °C")
CLARITY_M = Range(0.02, 10.0, "m", OURS)
FLOW_M3_S = Range(0.001, 5000.0, "m³/s", "a brook to a river that nobody wades")
DISTANCE_M = Range(0.5, 30.0, "m", "no nymph is cast further")
WIND_M_S = Range(0.0, 25.0, "m/s", "nobody casts in a whole gale")
BED_KS_M = Range(0.0005, 1.0, "m", "sand to large boulders")
LINE_LENGTH_M = Range(0.02, 15.0, "m", "a section of leader")
LINE_DIAMETER_MM = Range(0.03, 3.0, "mm", "finest tippet to thick fly line")
LINE_DENSITY = Range(700.0, 3000.0, "kg/m³", "floating fly line to sinking polymer")
BODY_MASS_G = Range(0.0005, 20.0, "g", "smallest midge to a heavy shot")
BODY_DIAMETER_MM = Range(0.3, 30.0, "mm", "equivalent sphere of a fly or shot")
FLOAT_MASS_G = Range(0.0, 30.0, "g", OURS)
FLOAT_AREA_CM2 = Range(0.001, 50.0, "cm²", OURS)
TIP_HEIGHT_M = Range(0.0, 5.0, "m", "rod held up at full reach")
TIP_SPEED_M_S = Range(0.0, 6.0, "m/s", OURS)
DURATION_S = Range(0.1, 120.0, "s", "longer than any drift")
BEAD_MM = Range(1.5, 6.0, "mm", "beads sold for nymphs")
DEPTH_SETTING_M = Range(0.1, 6.0, "m", OURS)
BUBBLE_DISTANCE_M = Range(0.5, 50.0, "m", "a rod length to a pool length")
BUBBLE_TIME_S = Range(0.3, 300.0, "s", "shorter cannot be timed by thumb")
FISH_LENGTH_MM = Range(30.0, 1200.0, "mm", "parr to the largest river trout")
LANE = Range(1, 12, "lanes from the near one", "more than can be covered from one stance")
STANCE = Range(1, 99, "stances from the lowest", "a day's steps up one lie")
BLUR_M = Range(0.0, 50_000.0, "m", "further off it is another river")
ROD_M = Range(1.8, 4.6, "m", "a brook rod to the longest that is held all day")
LINE_WEIGHT = Range(0, 9, "weight of line", "thinner than the lightest line, to salmon tackle")
FLIES = Range(1, 3, "flies", "more tangle than fish")
DRIFTS = Range(0, 10_000_000, "drifts", "more than a life has")
LIE_DRIFTS = Range(1, 200, "drifts", "a day's fishing at one lie")
DAY_MIN = Range(0.0, 1440.0, "min", "a day")
AHEAD_MIN = Range(-1440.0, 2880.0, "min from now", "a day ago to two days ahead")
FLOAT_MM = Range(1.0, 60.0, "mm", "pinch of yarn to the largest float")
SHOT_G = Range(0.0, 5.0, "g", "more would sink any float here")
SPEED_SD_M_S = Range(0.0, 2.0, "m/s", "half the fastest water")
SPACING_M = Range(0.05, 1.5, "m", "a dropper that can be cast")
TAG_M = Range(
    0.0, 0.3, "m", "0 on the line, 10-15 cm in use; longer is a line of its own; common practice, no source"
)
LEAD_M = Range(0.0, 60.0, "m", "further up than anybody casts")
TIP_PACE = Range(0.0, 1.5, "of the surface speed", "a tip that stands still to one that races")
SHARE = Range(0.0, 1.0, "", "none to all")
MONTH = Range(1, 12, "", "January to December")
UNDER_LINE = Range(0.0, 400.0, "of the lane's speed", "standing water, to a chute beside water that stands")
