"""Moving a place by up to a chosen distance, so that a secret can be shared without where it is."""

import math

METRES_PER_DEGREE = 111_195.0
"""Along a meridian of a sphere of 6 371 km."""


def moved(
    *, latitude: float, longitude: float, by_m: float, turn: float, stretch: float
) -> tuple[float, float]:
    """Return (latitude, longitude) in degrees of a place moved by up to ``by_m``.

    ``turn`` and ``stretch``, 0 to 1, are drawn once for each who is told and kept: drawn anew each time, the mean of many would
    be the place itself. Evenly drawn, they spread evenly over the disc.
    """
    away = by_m * math.sqrt(stretch)
    north = away * math.cos(2.0 * math.pi * turn) / METRES_PER_DEGREE
    shrink = max(0.01, math.cos(math.radians(latitude)))
    east = away * math.sin(2.0 * math.pi * turn) / (METRES_PER_DEGREE * shrink)
    return max(-90.0, min(90.0, latitude + north)), (longitude + east + 180.0) % 360.0 - 180.0
