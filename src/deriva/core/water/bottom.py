"""The bottom of a lie, spot by spot: what a depth found at one spot says of another, and of a day with another level.

Two spots of a lie are the less alike the more lanes and stances lie between them, as a path that wanders: the spreads of single
steps add up as their squares. What is read of a lie is read at its first spot, the near lane from the lowest stance.
"""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import groupby
from typing import Annotated

from deriva.core.check import Checked
from deriva.core.ranges import DEPTH_M, DEPTH_SD_M, LANE, STANCE


@dataclass(frozen=True, slots=True, order=True)
class Spot(Checked):
    """Where a drift is fished: lanes from the near one, stances from the lowest."""

    lane: Annotated[int, LANE] = 1
    stance: Annotated[int, STANCE] = 1


FIRST = Spot()

PER_LANE, PER_STANCE = 0.12, 0.10
"""By what share the depth differs from one lane to the next, and from one stance to the next, one standard deviation: both are
a step of one or two metres, over which a bed a metre down shelves by a hand (stated here)."""

SPEED_PER_LANE, SPEED_PER_STANCE = 0.12, 0.08
"""The same of the speed (stated here)."""

LEVEL_ERROR = 0.3
"""What a change of the level since is known to, as a share of it: it is carried along the rating of the lie (stated here)."""

LEVEL_UNKNOWN = 0.15
"""What a depth of an earlier day may be out by, as a share, where no gauge tells how the level has changed since (stated here;
levels of an ordinary season stay within a third of the depth)."""

MOVED_A_YEAR = 0.10
"""What a bed moves by in a year, as a share of the depth: floods shift stones and fill slots (stated here)."""

LEAST_SD = 0.02
"""No depth is known to less, as a share of it: stones move."""


def unlike(one: Spot, other: Spot) -> tuple[float, float]:
    """Return by what shares depth and speed differ between two spots, one standard deviation each."""
    lanes, stances = abs(one.lane - other.lane), abs(one.stance - other.stance)
    return (
        math.sqrt(lanes * PER_LANE**2 + stances * PER_STANCE**2),
        math.sqrt(lanes * SPEED_PER_LANE**2 + stances * SPEED_PER_STANCE**2),
    )


@dataclass(frozen=True, slots=True)
class Bottom(Checked):
    """What the bottom is known to be at a spot today, m, with its standard deviation."""

    lane: Annotated[int, LANE]
    stance: Annotated[int, STANCE]
    depth_m: Annotated[float, DEPTH_M]
    depth_sd_m: Annotated[float, DEPTH_SD_M]

    @property
    def spot(self) -> Spot:
        """Where it is."""
        return Spot(self.lane, self.stance)


@dataclass(frozen=True, slots=True)
class Sounded:
    """What the bottom was found to be at a spot so many years ago, and how far the level has risen since, m; None: nothing
    tells.
    """

    then: Bottom
    risen_m: float | None
    years: float = 0.0


def today(sounded: Iterable[Sounded]) -> tuple[Bottom, ...]:
    """Return what was found at each spot, as deep as it is today; those of one spot count by how sure they are."""
    by_spot = sorted(sounded, key=lambda one: one.then.spot)
    found: list[Bottom] = []
    for spot, there in groupby(by_spot, key=lambda one: one.then.spot):
        weight = mean = 0.0
        for one in there:
            depth = DEPTH_M.clamp(one.then.depth_m + (one.risen_m or 0.0))
            since = LEVEL_UNKNOWN * depth if one.risen_m is None else LEVEL_ERROR * one.risen_m
            moved = MOVED_A_YEAR**2 * one.years * depth**2
            sure = 1.0 / (max(one.then.depth_sd_m, LEAST_SD * depth) ** 2 + since**2 + moved)
            weight += sure
            mean += sure * depth
        sd = max(weight**-0.5, LEAST_SD * mean / weight)
        found.append(Bottom(spot.lane, spot.stance, mean / weight, DEPTH_SD_M.clamp(sd)))
    return tuple(found)


def expected(read: Bottom, bottom: Sequence[Bottom], here: Spot) -> tuple[float, float]:
    """Return the depth at a spot, m, and by what share it is unsure: from what was read of the lie and what is known of its
    bottom, each the less sure the further away. Log-normal, so that the answer is closed.
    """
    weight = mean = 0.0
    for one in (read, *bottom):
        share = max(one.depth_sd_m / one.depth_m, LEAST_SD)
        sure = 1.0 / (math.log1p(share**2) + unlike(one.spot, here)[0] ** 2)
        weight += sure
        mean += sure * math.log(one.depth_m)
    return math.exp(mean / weight), math.sqrt(math.expm1(1.0 / weight))
