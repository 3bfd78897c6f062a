"""The bottom of a lie, spot by spot: what a depth found at one spot says of another, and of a day with another level.

Two spots of a lie are the less alike the more lanes and stances lie between them, as a path that wanders: four steps go as far
as two. What is read of a lie is read at its first spot, the near lane from the lowest stance.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace
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
        math.sqrt(math.hypot(lanes * PER_LANE**2, stances * PER_STANCE**2)),
        math.sqrt(math.hypot(lanes * SPEED_PER_LANE**2, stances * SPEED_PER_STANCE**2)),
    )


@dataclass(frozen=True, slots=True)
class Bottom(Checked):
    """What the bottom is known to be at a spot today, m, with its standard deviation. ``since_reading``: it was found since the
    lie was last read, so that what was read is in it.
    """

    lane: Annotated[int, LANE]
    stance: Annotated[int, STANCE]
    depth_m: Annotated[float, DEPTH_M]
    depth_sd_m: Annotated[float, DEPTH_SD_M]
    since_reading: bool = False

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
    """Return what was last found at each spot, as deep as it is today: what was found there before is in it, since it is what
    one started from.
    """
    by_age = sorted(sounded, key=lambda one: one.years, reverse=True)
    last = {one.then.spot: one for one in by_age}
    found: list[Bottom] = []
    for _, one in sorted(last.items()):
        depth = DEPTH_M.clamp(one.then.depth_m + (one.risen_m or 0.0))
        since = LEVEL_UNKNOWN * depth if one.risen_m is None else LEVEL_ERROR * one.risen_m
        moved = MOVED_A_YEAR * math.sqrt(one.years) * depth
        sd = math.hypot(max(one.then.depth_sd_m, LEAST_SD * depth), since, moved)
        found.append(replace(one.then, depth_m=depth, depth_sd_m=DEPTH_SD_M.clamp(sd)))
    return tuple(found)


NEAREST = 16
"""So many soundings tell all that is known of a spot: those further away say what these say (stated here)."""

NOTHING_LEFT = 1e-3
"""Of what was found, a share so small that it is no more than how numbers are rounded."""


def _variance(one: Bottom) -> float:
    """Return the variance of the logarithm of a depth."""
    return math.log1p(max(one.depth_sd_m / one.depth_m, LEAST_SD) ** 2)


def expected(read: Bottom, bottom: Iterable[Bottom], here: Spot) -> tuple[float, float]:
    """Return the depth at a spot, m, and by what share it is unsure: from what was read of the lie and what is known of its
    bottom. What was read counts once: it is taken out of what was found since.

    The logarithm of the depth wanders from spot to spot, by :func:`unlike` between any two: a Gaussian field (Lévy's Brownian
    motion), each sounding learned of in turn. So spots side by side say the same of one further off, and what was found at a
    spot is believed there whatever lies around it.
    """
    near = sorted(bottom, key=lambda one: (unlike(one.spot, here)[0], one.spot))[:NEAREST]
    spots = [here, *(one.spot for one in near)]
    apart = [[unlike(one, other)[0] ** 2 for other in (read.spot, *spots)] for one in spots]
    start = _variance(read)
    logs = [math.log(read.depth_m)] * len(spots)
    shared = [
        [start + 0.5 * (row[0] + other[0] - between) for other, between in zip(apart, row[1:], strict=True)]
        for row in apart
    ]
    for k, one in enumerate(near, 1):
        found, unsure = math.log(one.depth_m), _variance(one)
        if one.since_reading:
            with_read = start + apart[k][0]
            sure = 1.0 / unsure - 1.0 / with_read
            if sure <= NOTHING_LEFT / unsure:
                continue
            found = (found / unsure - math.log(read.depth_m) / with_read) / sure
            unsure = 1.0 / sure
        gains = [row[k] / (shared[k][k] + unsure) for row in shared]
        news, learned = found - logs[k], list(shared[k])
        logs = [log + gain * news for log, gain in zip(logs, gains, strict=True)]
        shared = [
            [have - gain * part for have, part in zip(row, learned, strict=True)]
            for row, gain in zip(shared, gains, strict=True)
        ]
    return math.exp(logs[0]), math.sqrt(math.expm1(shared[0][0]))
