"""Light on the water: glare, shadow, which bank lies in shade, and how much of the day is left.

The sun's height and azimuth come in as numbers, degrees (azimuth clockwise from north); what follows is geometry. What
anglers and fish make of it is common practice, no source.
"""

import math
from dataclasses import dataclass
from typing import Literal

from deriva.core.ranges import Range
from deriva.core.water.appetite import STANDING_M

Phase = Literal["night", "twilight", "low", "day"]
Bank = Literal["left", "right"]

SUN_HEIGHT_DEG = Range(-90.0, 90.0, "°", "straight below to straight above")
BEARING_DEG = Range(0.0, 360.0, "°", "once around")
CLOUD = Range(0.0, 1.0, "", "clear to covered")

CIVIL_DEG = -6.0
"""Sun below this: too dark to see a sighter or a small float (civil twilight, by definition)."""
LOW_DEG = 10.0
HIGH_DEG = 35.0
GLARE_TOP_DEG = 50.0
"""Above this the sun's reflection lies at the angler's own feet."""
BRIGHT = 0.4
SHADE_WITHIN_DEG = 30.0
"""A sun this close to the line of the river shades neither bank."""
BLINDING = 0.35


@dataclass(frozen=True, slots=True)
class Light:
    """Where the sun stands, and how much of the sky is covered (0 clear to 1)."""

    height_deg: float
    azimuth_deg: float
    cloud: float

    def __post_init__(self) -> None:
        """Check every number."""
        SUN_HEIGHT_DEG.check("height_deg", self.height_deg)
        BEARING_DEG.check("azimuth_deg", self.azimuth_deg)
        CLOUD.check("cloud", self.cloud)

    @property
    def phase(self) -> Phase:
        """What part of the day it is."""
        if self.height_deg < CIVIL_DEG:
            return "night"
        if self.height_deg < 0.0:
            return "twilight"
        return "low" if self.height_deg < LOW_DEG else "day"

    @property
    def to_see_by(self) -> Literal["day", "dusk"]:
        """What there is to see a take by. Who looks at a lie by night plans for the day."""
        return "dusk" if self.phase == "twilight" else "day"

    @property
    def rising(self) -> bool:
        """Whether it is before noon: the sun stands in the eastern half of the sky."""
        return self.azimuth_deg < 180.0

    @property
    def bright(self) -> bool:
        """Whether a high sun stands in an open sky."""
        return self.height_deg >= HIGH_DEG and self.cloud < BRIGHT


def glare(light: Light, *, looking_deg: float) -> float:
    """Return 0..1: how far the sun's reflection blinds somebody who looks along a bearing over the water."""
    if not 0.0 < light.height_deg < GLARE_TOP_DEG:
        return 0.0
    ahead = math.cos(math.radians(light.azimuth_deg - BEARING_DEG.check("looking_deg", looking_deg)))
    return (1.0 - light.cloud) * max(0.0, ahead) ** 2 * (1.0 - light.height_deg / GLARE_TOP_DEG)


def shadow_m(light: Light, *, height_m: float = STANDING_M) -> float | None:
    """Return the length of the shadow of an angler of a height, m; None where there is no sun to throw one."""
    if light.height_deg <= 0.0:
        return None
    return height_m / math.tan(math.radians(light.height_deg))


def shaded_bank(light: Light, *, flows_to_deg: float) -> Bank | None:
    """Return the bank (looking downstream) whose trees shade the water: the one that the sun stands behind."""
    if light.height_deg <= 0.0:
        return None
    aside = (light.azimuth_deg - BEARING_DEG.check("flows_to_deg", flows_to_deg)) % 360.0
    across = min(aside % 180.0, 180.0 - aside % 180.0)
    if across < SHADE_WITHIN_DEG:
        return None
    return "right" if aside < 180.0 else "left"


COMPASS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")


def compass(bearing_deg: float) -> str:
    """Return the word for a bearing, one of eight."""
    return COMPASS[round(BEARING_DEG.check("bearing_deg", bearing_deg) / 45.0) % 8]
