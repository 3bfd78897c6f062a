"""The bottom of a lie, spot by spot: what a depth found at one spot says of another, and of a day with another level.

Two spots of a lie are the less alike the more lanes and stances lie between them, as a path that wanders: the spreads of single
steps add up as their squares. What is read of a lie is read at its first spot, the near lane from the lowest stance.
"""

import math
from collections.abc import Iterable, Sequence
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
        math.sqrt(lanes * PER_LANE**2 + stances * PER_STANCE**2),
        math.sqrt(lanes * SPEED_PER_LANE**2 + stances * SPEED_PER_STANCE**2),
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


@dataclass(frozen=True, slots=True)
class _Says:
    """What something says of the logarithm of a depth: its mean, and how sure it is, one over its variance."""

    log_m: float
    sure: float

    def at(self, apart: float) -> "_Says":
        """Return what it says of another spot, which differs by so much, one standard deviation."""
        return _Says(self.log_m, 1.0 / (1.0 / self.sure + apart**2))

    def without(self, part: "_Says") -> "_Says | None":
        """Return what is left where a part that is in it is taken out; None where nothing is."""
        sure = self.sure - part.sure
        if sure <= NOTHING_LEFT * self.sure:
            return None
        return _Says((self.sure * self.log_m - part.sure * part.log_m) / sure, sure)


NOTHING_LEFT = 1e-3
"""Of what was found, a share so small that it is no more than how numbers are rounded."""


def _says(one: Bottom) -> _Says:
    share = max(one.depth_sd_m / one.depth_m, LEAST_SD)
    return _Says(math.log(one.depth_m), 1.0 / math.log1p(share**2))


def expected(read: Bottom, bottom: Sequence[Bottom], here: Spot) -> tuple[float, float]:
    """Return the depth at a spot, m, and by what share it is unsure: from what was read of the lie and what is known of its
    bottom, each the less sure the further away. Log-normal, so that the answer is closed. What was read counts once: it is
    taken out of what was found since.
    """
    known = [_says(read).at(unlike(read.spot, here)[0])]
    for one in bottom:
        there = _says(read).at(unlike(read.spot, one.spot)[0])
        found = _says(one).without(there) if one.since_reading else _says(one)
        if found is not None:
            known.append(found.at(unlike(one.spot, here)[0]))
    weight = sum(one.sure for one in known)
    mean = sum(one.sure * one.log_m for one in known) / weight
    return math.exp(mean), math.sqrt(math.expm1(1.0 / weight))
