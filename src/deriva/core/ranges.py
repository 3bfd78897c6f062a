"""Ranges said once: checks, schemas, docs and edge tests all read these objects."""

import math
from dataclasses import dataclass

from deriva.core.errors import OutOfRange


@dataclass(frozen=True, slots=True)
class Range:
    """The closed interval in which a number makes sense, with its unit and why it ends there."""

    lo: float
    hi: float
    unit: str
    source: str

    def check(self, field: str, value: float) -> float:
        """Return ``value``, or raise :class:`OutOfRange` naming ``field`` (NaN and infinities included)."""
        if not (math.isfinite(value) and self.lo <= value <= self.hi):
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
