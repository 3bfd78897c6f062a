"""The strike zone: the slice of the column where fish are feeding now."""

from dataclasses import dataclass

from deriva.core.model.situation import Fish
from deriva.core.ranges import Range
from deriva.core.water.warmth import LIVELY_C, STIFF_C

BOTTOM_SHARE = 0.25
BOTTOM_M = Range(0.12, 0.40, "m", "the slow layer by the bed that fish hold in; common practice, no source")
COLD_FACTOR, WARM_FACTOR = 0.7, 1.2
"""Cold fish will not move for a fly, nor up from the bed those that hug it; warm ones rise further to it (common practice, no
source)."""

RISING_M = Range(
    0.45, 1.05, "m", "below the surface: what rises through deep water is fished at 0.60 to 0.90 m"
)
"""Where they feed off the bed in water however deep (common practice, no source); a hand's breadth about it stated here."""


@dataclass(frozen=True, slots=True)
class Zone:
    """A band of the column, as heights above the bed, m."""

    low_m: float
    high_m: float

    def reaches(self, depth_m: float) -> bool:
        """Return whether it goes up to the surface, so that a dry fly is in it too."""
        return self.high_m >= depth_m


def strike_zone(fish: Fish, *, depth_m: float, temperature_c: float) -> Zone:
    """Return the band that fish feed in: a quarter of the depth by the bed unless they feed higher."""
    feeding = fish.level
    if feeding == "mid":
        return Zone(depth_m - min(0.7 * depth_m, RISING_M.hi), depth_m - min(0.3 * depth_m, RISING_M.lo))
    if feeding == "surface":
        return Zone(max(0.0, depth_m - max(0.3, 0.3 * depth_m)), depth_m)
    if feeding == "mixed":
        return Zone(0.0, 0.6 * depth_m)
    warm = WARM_FACTOR if temperature_c > LIVELY_C else 1.0
    factor = COLD_FACTOR if temperature_c < STIFF_C or fish.hugs_bed else warm
    return Zone(0.0, min(0.9 * depth_m, BOTTOM_M.clamp(BOTTOM_SHARE * depth_m) * factor))
