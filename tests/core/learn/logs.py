"""Logs with planted preferences: what each level takes on the average outing, and how days scatter."""

from dataclasses import dataclass

import numpy as np

from deriva.core.learn.pooled import Rows, counted


@dataclass(frozen=True)
class Planted:
    """How a log is made: log-odds of the levels, spread of days and of a level from day to day."""

    outings: int
    levels: int
    apart: float
    """Spread of the levels' log-odds; 0: no level is better than another."""
    days: float
    rows: float = 0.0
    take: float = -2.5

    @property
    def name(self) -> str:
        return f"{self.outings} outings, {self.levels} levels {self.apart} apart, days {self.days}, rows {self.rows}"


def log(planted: Planted, seed: int) -> tuple[Rows, list[float]]:
    """Return a log, and the true rate of every level over all outings. Levels are fished unevenly, some on each outing."""
    rng = np.random.default_rng(seed)
    odds = planted.take + rng.normal(0.0, planted.apart, planted.levels)
    often = rng.dirichlet(np.full(planted.levels, 2.0))
    k: list[float] = []
    n: list[float] = []
    outing: list[int] = []
    level: list[int] = []
    for i in range(planted.outings):
        day = rng.normal(0.0, planted.days)
        some = min(planted.levels, int(rng.integers(1, 4)))
        for j in rng.choice(planted.levels, size=some, replace=False, p=often):
            drifts = int(rng.integers(8, 40))
            chance = 1.0 / (1.0 + np.exp(-(odds[j] + day + rng.normal(0.0, planted.rows))))
            k.append(float(rng.binomial(drifts, chance)))
            n.append(float(drifts))
            outing.append(i)
            level.append(int(j))
    nodes, weights = np.polynomial.hermite_e.hermegauss(61)
    scatter = np.hypot(planted.days, planted.rows)
    truth = [
        float(np.sum(weights / (1.0 + np.exp(-(one + scatter * nodes)))) / weights.sum()) for one in odds
    ]
    return counted(k, n, outing, level, levels=planted.levels), truth
