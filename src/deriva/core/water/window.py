"""Snell's window: the disc of the surface through which a fish sees the world above."""

import math

from deriva.core.data.tables import published
from deriva.core.ranges import DEPTH_M

REFRACTIVE_INDEX = published("water")["refractive_index"]
"""Of fresh water to air (any text of optics)."""


def window_cone_deg() -> float:
    """Return the full angle of the cone, degrees: twice the critical angle."""
    return 2.0 * math.degrees(math.asin(1.0 / REFRACTIVE_INDEX))


def window_across(*, depth_m: float) -> float:
    """Return how wide the window of a fish at a depth is at the surface, m."""
    return 2.0 * DEPTH_M.check("depth_m", depth_m) * math.tan(math.radians(0.5 * window_cone_deg()))
