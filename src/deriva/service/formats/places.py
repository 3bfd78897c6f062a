"""Where things are, told no more closely than was wished."""

import math
from dataclasses import dataclass

from deriva.core.record.blur import METRES_PER_DEGREE

CELL_DEG = 0.1
"""The side of the cell in which a place is hidden: what is customary for species that are sought after, about ten kilometres
(A. D. Chapman, Current Best Practices for Generalizing Sensitive Species Occurrence Data, GBIF 2020; from memory).
"""


@dataclass(frozen=True, slots=True)
class Point:
    """A place in degrees (WGS 84), and how far off it may be, m; None: it is as it was entered."""

    latitude: float
    longitude: float
    within_m: float | None


def point(place: tuple[float, float] | None, *, exact: bool) -> Point | None:
    """Return a place as it may be told: exact, or the middle of its cell."""
    if place is None:
        return None
    if exact:
        return Point(*place, None)
    latitude, longitude = ((math.floor(one / CELL_DEG) + 0.5) * CELL_DEG for one in place)
    latitude, longitude = round(min(latitude, 90.0), 4), round(min(longitude, 180.0), 4)
    east = CELL_DEG * METRES_PER_DEGREE * math.cos(math.radians(latitude))
    return Point(latitude, longitude, round(math.hypot(CELL_DEG * METRES_PER_DEGREE, east) / 2.0))
