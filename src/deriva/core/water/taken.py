"""What a reading says of depth and speed, with the errors that follow from how they were taken."""

from dataclasses import dataclass
from typing import Annotated

from deriva.core.check import Checked
from deriva.core.errors import Impossible
from deriva.core.ranges import (
    BUBBLE_DISTANCE_M,
    BUBBLE_TIME_S,
    DEPTH_M,
    DEPTH_SD_M,
    SPEED_SD_M_S,
    SURFACE_SPEED_M_S,
)
from deriva.core.water.sounding import EYE_ERROR, DepthHow, depth_sd
from deriva.core.water.timing import bubble_speed


@dataclass(frozen=True, slots=True)
class Taken(Checked):
    """A depth, and a surface speed: known with its error (None: by eye), or a bubble timed over a distance."""

    depth_m: Annotated[float, DEPTH_M]
    depth_how: DepthHow = "eye"
    depth_sd_m: Annotated[float, DEPTH_SD_M] | None = None
    surface_speed_m_s: Annotated[float, SURFACE_SPEED_M_S] | None = None
    speed_sd_m_s: Annotated[float, SPEED_SD_M_S] | None = None
    distance_m: Annotated[float, BUBBLE_DISTANCE_M] | None = None
    seconds: Annotated[float, BUBBLE_TIME_S] | None = None
    eye_error: Annotated[float, EYE_ERROR] | None = None
    """How far off depths by this angler's eye are, as a share; None: as usual."""


@dataclass(frozen=True, slots=True)
class Measured:
    """The standard deviation of the depth, m, and the surface speed with its own, m/s (None: as usual for one by eye)."""

    depth_sd_m: float
    surface_speed_m_s: float
    speed_sd_m_s: float | None


def measured(taken: Taken) -> Measured:
    """Return what follows from how things were taken. Raises :class:`Impossible` where nothing says how fast it runs."""
    sd = taken.depth_sd_m
    if sd is None and taken.depth_how == "eye" and taken.eye_error is not None:
        sd = DEPTH_SD_M.clamp(taken.eye_error * taken.depth_m)
    elif sd is None:
        sd = depth_sd(depth_m=taken.depth_m, how=taken.depth_how)
    if taken.distance_m is not None and taken.seconds is not None:
        timed = bubble_speed(distance_m=taken.distance_m, seconds=taken.seconds)
        return Measured(sd, timed.speed_m_s, timed.error_m_s)
    if taken.surface_speed_m_s is None:
        raise Impossible("nothing says how fast it runs: type a speed or time a bubble", field="speed")
    return Measured(sd, taken.surface_speed_m_s, taken.speed_sd_m_s)
