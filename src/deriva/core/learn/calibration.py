"""How right Deriva has been, and how right an eye is: bands that were to hold 8 times in 10, chances that were to come true."""

import math
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from deriva.core.learn.pooled import Between, counted, pooled
from deriva.core.model.quantity import percent
from deriva.core.model.water import DECILE_Z
from deriva.core.record.effort import Rate, rate
from deriva.core.water.sounding import DEPTH_ERROR, EYE_ERROR

BAND = 0.8
"""What a band is to hold: from the 10th to the 90th percentile."""

FEW = 5
"""Fewer pairs say nothing (stated here)."""

NINE = 0.95
"""Ends of an interval that holds 9 times in 10."""

PRIOR_PAIRS = 10.0
"""What is held of all anglers' eyes counts as so many pairs of one's own (stated here)."""

FEW_DRIFTS = 40
"""Fewer drifts say nothing of touches (stated here)."""

EDGES = (0.1, 0.25, 0.4, 0.6)
"""Where chances of a touch are parted to be looked at (stated here)."""


@dataclass(frozen=True, slots=True)
class Pair:
    """Something that was said with its relative standard deviation, and what was found to be so, with its own."""

    said: float
    said_sd: float
    found: float
    found_sd: float


@dataclass(frozen=True, slots=True)
class Bands:
    """How often what was found lay in the band that was shown (9 times in 10 between ``low`` and ``high``), and how far it was
    from the middle on the whole: said over found. ``words`` says what that comes to.
    """

    pairs: int
    inside: int
    share: Rate
    off: Between
    words: str


def bands(pairs: Sequence[Pair], what: str) -> Bands | None:
    """Return how right some bands were; None of too few."""
    if len(pairs) < FEW:
        return None
    inside = 0
    for one in pairs:
        sigma = math.sqrt(math.log1p(one.said_sd**2))
        inside += abs(math.log(one.found / one.said)) <= DECILE_Z[-1] * sigma
    share = rate(fish=inside, drifts=len(pairs))
    assert share is not None  # noqa: S101 - there are some
    off = _off([one.said / one.found for one in pairs])
    if share.high < BAND:
        said = f"the bands are too narrow: they held {inside} of {len(pairs)} times, and should 8 in 10"
    elif share.low > BAND:
        said = f"the bands are wider than they need be: they held {inside} of {len(pairs)} times"
    else:
        said = f"the bands held {inside} of {len(pairs)} times, as they should"
    return Bands(len(pairs), inside, share, off, f"{what}: {said}{_leaning(off)}.")


def _off(ratios: Sequence[float]) -> Between:
    """Return the geometric mean of ratios, 9 times in 10 between its ends."""
    from scipy.special import stdtrit  # noqa: PLC0415 - slow to load

    logs = np.log(ratios)
    middle = float(logs.mean())
    error = float(logs.std(ddof=1)) / math.sqrt(len(logs)) * float(stdtrit(len(logs) - 1, NINE))
    return Between(math.exp(middle), math.exp(middle - error), math.exp(middle + error))


def _leaning(off: Between) -> str:
    if off.low > 1.0:
        return f", and said {percent(off.median - 1.0)} too much on the whole"
    if off.high < 1.0:
        return f", and said {percent(1.0 - off.median)} too little on the whole"
    return ""


@dataclass(frozen=True, slots=True)
class Eye:
    """How right an eye is: relative standard error of what it says, with what is held of all eyes as a start; how it leans."""

    pairs: int
    error: float
    usual: float
    off: Between
    words: str


def eye(pairs: Sequence[Pair]) -> Eye | None:
    """Return how right an angler's eye for depth is; None of too few."""
    if len(pairs) < FEW:
        return None
    usual = DEPTH_ERROR["eye"]
    squares = sum(
        max(0.0, math.log(one.said / one.found) ** 2 - math.log1p(one.found_sd**2)) for one in pairs
    )
    error = EYE_ERROR.clamp(math.sqrt((PRIOR_PAIRS * usual**2 + squares) / (PRIOR_PAIRS + len(pairs))))
    off = _off([one.said / one.found for one in pairs])
    said = f"Depths by your eye were {percent(error)} off in {len(pairs)} that were measured after; {percent(usual)} is usual"
    return Eye(len(pairs), error, usual, off, f"{said}{_leaning(off)}.")


@dataclass(frozen=True, slots=True)
class Length:
    """How an eye for fish leans: said over measured, of fish that were first judged and then measured."""

    pairs: int
    off: Between
    words: str


def length(ratios: Sequence[float]) -> Length | None:
    """Return how an angler's eye for fish leans; None of too few."""
    if len(ratios) < FEW:
        return None
    off = _off(ratios)
    return Length(
        len(ratios),
        off,
        f"Of {len(ratios)} fish that were measured after{_leaning(off) or ', none surely off'}.",
    )


@dataclass(frozen=True, slots=True)
class Forecast:
    """Settings of like chance (see :data:`EDGES`) as they were fished on one outing: the chance of a touch that was reckoned
    for the average drift, drifts and touches.
    """

    outing: int
    chance: float
    drifts: int
    touches: int


@dataclass(frozen=True, slots=True)
class Bin:
    """Settings of like chance: between what they are parted, the mean that was reckoned, and what came."""

    low: float
    high: float
    drifts: int
    touches: int
    reckoned: float
    seen: Between


@dataclass(frozen=True, slots=True)
class Touches:
    """Touches as reckoned and as seen, and what that comes to."""

    bins: tuple[Bin, ...]
    words: str


def touches(forecasts: Sequence[Forecast]) -> Touches | None:
    """Return how touches came beside how they were reckoned: drifts of one outing count as alike. None of too few."""
    edges = (0.0, *EDGES, 1.0)
    which = [bisect_right(EDGES, one.chance) for one in forecasts]
    there = sorted(set(which))
    if len(there) < 2 or sum(one.drifts for one in forecasts) < FEW_DRIFTS:
        return None
    sums: dict[tuple[int, int], tuple[int, int]] = {}
    for one, k in zip(forecasts, which, strict=True):
        touched, drifted = sums.get((one.outing, there.index(k)), (0, 0))
        sums[one.outing, there.index(k)] = touched + one.touches, drifted + one.drifts
    counts = list(sums.values())
    fitted = pooled(
        counted(
            [k for k, _ in counts], [n for _, n in counts], [outing for outing, _ in sums],
            [level for _, level in sums], levels=len(there),
        )
    )  # fmt: skip
    found: list[Bin] = []
    for level, k in enumerate(there):
        mine = [one for one, at in zip(forecasts, which, strict=True) if at == k]
        drifts = sum(one.drifts for one in mine)
        reckoned = sum(one.chance * one.drifts for one in mine) / drifts
        found.append(
            Bin(
                edges[k], edges[k + 1], drifts, sum(one.touches for one in mine), reckoned, fitted.rate(level)
            )
        )
    off = [one for one in found if not one.seen.low <= one.reckoned <= one.seen.high]
    if not off:
        return Touches(tuple(found), "Touches came as they were reckoned.")
    more = sum(one.seen.median > one.reckoned for one in off)
    how = "more often" if more == len(off) else "less often" if more == 0 else "both more and less often"
    return Touches(
        tuple(found), f"Touches came {how} than reckoned in {len(off)} of {len(found)} bands of chance."
    )
