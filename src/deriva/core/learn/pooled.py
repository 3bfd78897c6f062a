"""Rates that share what they know: thin cells are drawn towards the others, and drifts of one outing count as what they are.

Drifts of one outing are not independent: a good day is good for every bead. Each outing therefore has a part of its own, and
so has each level within an outing; how much they scatter, and how much the levels differ, is learned from the log. The
spreads are not taken as known: the fit is repeated over a grid of them, weighted by the evidence for each (an empirical
version of Rue, Martino & Chopin 2009, JRSS B 71). Because the spread between levels is learned too, levels that do not differ
are drawn together, and looking at many comparisons does not make false ones likely (Gelman, Hill & Yajima 2012, Journal of
Research on Educational Effectiveness 5).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from heapq import heappop, heappush
from itertools import pairwise, product
from typing import Any, cast

import numpy as np
from numpy.typing import NDArray

from deriva.core.errors import Impossible, NotConverged
from deriva.core.learn import fitting

Floats = NDArray[np.float64]
Whole = NDArray[np.int64]

INSIDE = 0.9
"""How often the truth is to lie between the ends that are said."""

BY_LEVEL = (0.03, 0.12, 0.25, 0.45, 0.8, 1.4)
BY_OUTING = (0.03, 0.2, 0.4, 0.7, 1.1)
BY_ROW = (0.03, 0.25, 0.6)
"""Spreads of log-odds that are tried: between levels, between outings, and of a level from outing to outing."""

LIKELY_LEVEL, LIKELY_OUTING, LIKELY_ROW = 0.5, 0.6, 0.3
"""How large those spreads are likely to be: half-normal, in log-odds. Stated here: a rig that takes twice as many as another,
or a day twice as good, is common; ten times is not.
"""

COMMON_SD, STRATUM_SD = 2.0, 1.0
"""Spreads of the common part around one take in twenty drifts (or two an hour), and of a stratum's part: wide."""

FEW_OUTINGS = 200
"""From so many outings, spread evenly over the log, the spreads are learned; the rates from all."""

LEAST_WEIGHT = 0.01
"""Spreads that have less of the evidence are left out of the mixture."""

_NODES, _WEIGHTS = np.polynomial.hermite_e.hermegauss(9)
_WEIGHTS = _WEIGHTS / _WEIGHTS.sum()
_FINE = np.linspace(-4.0, 4.0, 33)
_FINE_WEIGHTS = np.exp(-0.5 * _FINE**2) / np.exp(-0.5 * _FINE**2).sum()


@dataclass(frozen=True, slots=True)
class Rows:
    """What was counted: a row is one outing at one level in one stratum. ``n`` is drifts, or hours where ``times``."""

    k: Floats
    n: Floats
    outing: Whole
    level: Whole
    stratum: Whole
    levels: int
    strata: int = 1
    times: bool = False

    def __post_init__(self) -> None:
        """Refuse what was not counted so."""
        if np.any(self.n <= 0.0) or np.any(self.k < 0.0) or (not self.times and np.any(self.k > self.n)):
            raise Impossible("a row counts more than there were, or none at all", field="rows")

    def some(self, kept: NDArray[Any]) -> "Rows":
        """Return some of the rows, by mask or in an order."""
        return Rows(
            self.k[kept], self.n[kept], self.outing[kept], self.level[kept], self.stratum[kept],
            self.levels, self.strata, self.times,
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Between:
    """A number that is not known: its median, and the ends between which it lies 9 times in 10."""

    median: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Fit:
    """The likeliest values for one set of spreads, with their covariance and what the set weighs."""

    weight: float
    beta: Floats
    covariance: Floats
    spreads: tuple[float, float, float]
    """Between levels, between outings, and of a level from outing to outing."""

    @property
    def scatter(self) -> float:
        """Standard deviation of what an outing and its row add."""
        return math.hypot(self.spreads[1], self.spreads[2])


@dataclass(frozen=True, slots=True)
class Contrast:
    """One level against another: how likely it is the better, and what it is worth on the average outing."""

    chance: float
    more: Between
    """How much more a drift (or an hour)."""
    mean: float
    sd: float
    """Of the difference of log-odds."""


class Pooled:
    """What a log says of the rate at every level."""

    def __init__(self, rows: Rows, fits: Sequence[Fit]) -> None:
        self.rows, self.fits = rows, sorted(fits, key=lambda fit: -fit.weight)
        drifts = np.bincount(rows.stratum, weights=rows.n, minlength=rows.strata)
        self.mix: Floats = drifts / drifts.sum()
        """How the effort is spread over the strata: levels are compared as if each had been fished in that mix."""

    def rate(self, level: int) -> Between:
        """Return the rate at a level: of all outings in the mix of strata, not of the likeliest outing."""
        values, weights = zip(*(self._spread(fit, level) for fit in self.fits), strict=True)
        return _between(np.concatenate(values), np.concatenate(weights))

    def chance(self, one: int, other: int) -> float:
        """Return how likely one level has the higher rate than another."""
        difference = self._of_level(one) - self._of_level(other)
        chance = 0.0
        for fit in self.fits:
            d, sd = _mean_sd(fit, difference)
            chance += fit.weight * 0.5 * math.erfc(-d / sd / math.sqrt(2.0))
        return chance

    def contrast(self, one: int, other: int) -> Contrast:
        """Return how one level compares with another."""
        values: list[Floats] = []
        weights: list[Floats] = []
        mean = square = 0.0
        for fit in self.fits:
            difference = self._of_level(one) - self._of_level(other)
            d, sd = _mean_sd(fit, difference)
            half = self._middle(fit, (self._of_level(one) + self._of_level(other)) / 2.0)
            at = d + sd * _FINE
            values.append(self._rates(fit, half, at / 2.0) - self._rates(fit, half, -at / 2.0))
            weights.append(fit.weight * _FINE_WEIGHTS)
            mean += fit.weight * d
            square += fit.weight * (d * d + sd * sd)
        more = _between(np.concatenate(values), np.concatenate(weights))
        return Contrast(self.chance(one, other), more, mean, math.sqrt(square - mean * mean))

    def _of_level(self, level: int) -> Floats:
        column = np.zeros(1 + self.rows.levels + self.rows.strata)
        column[0] = column[1 + level] = 1.0
        return column

    def _middle(self, fit: Fit, columns: Floats) -> Floats:
        """Return the log-odds in every stratum of what the columns add up to."""
        return np.asarray(columns @ fit.beta + fit.beta[1 + self.rows.levels :], dtype=np.float64)

    def _rates(self, fit: Fit, middle: Floats, shifts: Floats) -> Floats:
        """Return the rate in the mix of strata and over the scatter of outings, for each shift of the log-odds."""
        eta = middle[:, None, None] + shifts[None, :, None] + fit.scatter * _NODES[None, None, :]
        p = np.exp(np.minimum(eta, 15.0)) if self.rows.times else 1.0 / (1.0 + np.exp(-eta))
        return np.asarray(np.einsum("s,sxg,g->x", self.mix, p, _WEIGHTS), dtype=np.float64)

    def _spread(self, fit: Fit, level: int) -> tuple[Floats, Floats]:
        columns = self._of_level(level)
        mixed = columns.copy()
        mixed[1 + self.rows.levels :] = self.mix
        _, sd = _mean_sd(fit, mixed)
        return self._rates(fit, self._middle(fit, columns), sd * _FINE), fit.weight * _FINE_WEIGHTS


def _mean_sd(fit: Fit, columns: Floats) -> tuple[float, float]:
    return float(columns @ fit.beta), math.sqrt(max(float(columns @ fit.covariance @ columns), 1e-12))


def _between(values: Floats, weights: Floats) -> Between:
    order = np.argsort(values)
    below = np.cumsum(weights[order]) - 0.5 * weights[order]
    at = ((1.0 - INSIDE) / 2.0, 0.5, (1.0 + INSIDE) / 2.0)
    low, median, high = np.interp(at, below / weights.sum(), values[order])
    return Between(float(median), float(low), float(high))


Spreads = tuple[float, float, float]
GRIDS = (BY_LEVEL, BY_OUTING, BY_ROW)
GRID: tuple[Spreads, ...] = tuple(product(*GRIDS))
BEGIN: Spreads = (0.25, 0.4, 0.25)

WIDE = -math.log(LEAST_WEIGHT)
"""Around spreads whose evidence, as a logarithm, is farther than this behind the best nothing is looked for: they weigh too
little themselves.
"""


def pooled(rows: Rows, spreads: Sequence[Spreads] | None = None) -> Pooled:
    """Fit the rows, with the spreads given or else those of the grid that the evidence does not rule out; raises
    :class:`Impossible` where there are no rows.
    """
    if len(rows.k) == 0:
        raise Impossible("nothing was counted", field="rows")
    rows = rows.some(np.argsort(rows.outing, kind="stable"))
    outings = np.unique(rows.outing)
    if len(outings) <= FEW_OUTINGS or (spreads is not None and len(spreads) == 1):
        return Pooled(rows, _weighed(_Fitting(rows), spreads))
    chosen = outings[np.linspace(0, len(outings) - 1, FEW_OUTINGS).astype(int)]
    learned = _weighed(_Fitting(rows.some(np.isin(rows.outing, chosen))), spreads)
    # so many outings know their spreads well: one set stands for all
    best = max(learned, key=lambda fit: fit.weight)
    return Pooled(rows, _weighed(_Fitting(rows, begin=best.beta), [best.spreads]))


def _half_normal(value: float, likely: float) -> float:
    return -0.5 * (value / likely) ** 2


class _Fitting:
    """Rows being fitted with one set of spreads after the other, each from where the last one ended."""

    def __init__(self, rows: Rows, begin: Floats | None = None) -> None:
        _, sizes = np.unique(rows.outing, return_counts=True)
        starts = np.concatenate([[0], np.cumsum(sizes)])
        self.rows, self.sizes = rows, sizes
        self.counts = fitting.Counts(
            rows.k, rows.n, starts, rows.level, rows.stratum, rows.levels, rows.times
        )
        self.middle = np.zeros(1 + rows.levels + rows.strata)
        self.middle[0] = math.log(2.0) if rows.times else math.log(0.05 / 0.95)
        self._begin(self.middle if begin is None else begin)

    def _begin(self, beta: Floats) -> None:
        size = len(beta)
        parts = np.zeros(len(self.sizes)), np.zeros(len(self.rows.k))
        self.found = fitting.Found(beta.copy(), *parts, np.zeros((size, size)))

    def at(self, spreads: Spreads) -> tuple[float, Fit]:
        """Return the evidence for some spreads, and the rates with them. Raises NotConverged; the next begins anew then."""
        rows = self.rows
        prior = np.full(len(self.middle), 1.0 / STRATUM_SD**2)
        prior[0] = 1.0 / COMMON_SD**2
        prior[1 : 1 + rows.levels] = 1.0 / spreads[0] ** 2
        if rows.strata == 1:
            prior[-1] = 1e6  # one stratum is none
        try:
            priors = fitting.Priors(prior, self.middle, spreads[1], spreads[2])
            evidence = fitting.fit(self.counts, priors, self.found)
        except NotConverged:
            self._begin(self.middle)
            raise
        for value, likely, grid in zip(
            spreads, (LIKELY_LEVEL, LIKELY_OUTING, LIKELY_ROW), GRIDS, strict=True
        ):
            evidence += _half_normal(value, likely) + _width(value, grid)
        return evidence, Fit(0.0, self.found.beta.copy(), self.found.covariance.copy(), spreads)


def _beside(spreads: Spreads) -> list[Spreads]:
    """Return the spreads of the grid that are next to some in one of the three."""
    found: list[Spreads] = []
    for place, grid in enumerate(GRIDS):
        at = grid.index(spreads[place])
        found += [
            cast("Spreads", (*spreads[:place], grid[k], *spreads[place + 1 :]))
            for k in (at - 1, at + 1)
            if 0 <= k < len(grid)
        ]
    return found


def _weighed(fit: _Fitting, spreads: Sequence[Spreads] | None) -> list[Fit]:
    """Fit for every set of spreads given, or go over the grid from its middle, always on from the best, as long as the evidence
    is not far behind; return those that it does not rule out.
    """
    found: dict[Spreads, tuple[float, Fit]] = {}
    waiting = list(spreads) if spreads is not None else [BEGIN]
    known = set(waiting)
    open_: list[tuple[float, Spreads]] = []
    astray: NotConverged | None = None
    most = -math.inf
    while waiting:
        for one in waiting:
            try:
                found[one] = fit.at(one)
            except NotConverged as error:  # the other spreads speak without these
                astray = error
                continue
            most = max(most, found[one][0])
            heappush(open_, (-found[one][0], one))
        waiting = []
        while spreads is None and open_ and not waiting:
            behind, one = heappop(open_)
            if -behind >= most - WIDE:
                waiting = [each for each in _beside(one) if each not in known]
                known.update(waiting)
    if astray is not None and not found:
        raise astray
    weights = [math.exp(evidence - most) for evidence, _ in found.values()]
    kept = [w if w / sum(weights) >= LEAST_WEIGHT else 0.0 for w in weights]
    return [
        replace(one, weight=w / sum(kept))
        for w, (_, one) in zip(kept, found.values(), strict=True)
        if w > 0.0
    ]


def _width(value: float, grid: Sequence[float]) -> float:
    """Return the logarithm of how much of the line a point of a grid stands for."""
    k = grid.index(value)
    ends = [(a + b) / 2.0 for a, b in pairwise(grid)]
    edges = [0.0, *ends, grid[-1] + (grid[-1] - ends[-1])]
    return math.log(edges[k + 1] - edges[k])


def counted(
    k: Sequence[float], n: Sequence[float], outing: Sequence[int], level: Sequence[int], *,
    levels: int, stratum: Sequence[int] | None = None, strata: int = 1, times: bool = False,
) -> Rows:  # fmt: skip
    """Return rows from plain numbers."""
    return Rows(
        np.asarray(k, dtype=np.float64), np.asarray(n, dtype=np.float64), np.asarray(outing, dtype=np.int64),
        np.asarray(level, dtype=np.int64),
        np.zeros(len(k), dtype=np.int64) if stratum is None else np.asarray(stratum, dtype=np.int64),
        levels, strata, times,
    )  # fmt: skip
