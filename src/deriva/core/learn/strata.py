"""Comparing like with like: Mantel–Haenszel over strata, and what a difference was mixed up with."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from deriva.core.errors import Impossible

MOVED = 0.1
"""How far, as a share, odds must move within similar water for the log to have mixed two things up: the change-in-estimate
criterion of Mickey & Greenland 1989, American Journal of Epidemiology 129.
"""

Z90, Z99 = 1.645, 2.576

Left = Literal["gone", "only there", "turned", "smaller", "larger"]

LEAST_APART = 0.15
"""Shares of the drifts in one kind of water that differ less between two settings are no mixing up (stated here)."""


@dataclass(frozen=True, slots=True)
class Two:
    """What two levels had in one stratum: takes and drifts of each."""

    k: float
    n: float
    other_k: float
    other_n: float


@dataclass(frozen=True, slots=True)
class Odds:
    """A common odds ratio over strata, the variance of its logarithm, and the test that it is 1 (chi-squared, one degree)."""

    ratio: float
    log_variance: float
    chi2: float

    def differs(self, z: float = Z90) -> bool:
        """Whether the odds are others, were drifts independent: for words, not for claims."""
        return abs(math.log(self.ratio)) > z * math.sqrt(self.log_variance)


def mantel_haenszel(strata: Sequence[Two]) -> Odds | None:
    """Return the common odds ratio; None where no stratum has both levels with takes and without.

    Mantel & Haenszel 1959, Journal of the National Cancer Institute 22, without continuity correction; the variance after
    Robins, Breslow & Greenland 1986, Biometrics 42.
    """
    r = s = pr = ps_qr = qs = seen = expected = variance = 0.0
    for one in strata:
        a, b = one.k, one.n - one.k
        c, d = one.other_k, one.other_n - one.other_k
        if min(a, b, c, d) < 0.0:
            raise Impossible("more takes than drifts", field="strata")
        n = a + b + c + d
        if one.n <= 0.0 or one.other_n <= 0.0 or n <= 1.0:
            continue
        p, q = (a + d) / n, (b + c) / n
        here_r, here_s = a * d / n, b * c / n
        r, s = r + here_r, s + here_s
        pr, qs = pr + p * here_r, qs + q * here_s
        ps_qr += p * here_s + q * here_r
        seen += a
        expected += one.n * (a + c) / n
        variance += one.n * one.other_n * (a + c) * (b + d) / (n * n * (n - 1.0))
    if r <= 0.0 or s <= 0.0 or variance <= 0.0:
        return None
    log_variance = pr / (2.0 * r * r) + ps_qr / (2.0 * r * s) + qs / (2.0 * s * s)
    return Odds(r / s, log_variance, (seen - expected) ** 2 / variance)


@dataclass(frozen=True, slots=True)
class Mixed:
    """Two levels that were fished in other water: where the first was more, and what the difference is within similar water."""

    stratum: int
    share: float
    other_share: float
    crude: Odds
    within: Odds

    @property
    def left(self) -> Left:
        """What is left of the difference within similar water."""
        crude, within = math.log(self.crude.ratio), math.log(self.within.ratio)
        if not self.within.differs():
            return "gone"
        if not self.crude.differs():
            return "only there"
        if crude * within < 0.0:
            return "turned"
        return "smaller" if abs(within) < abs(crude) else "larger"


def mixed_up(strata: Sequence[Two]) -> Mixed | None:
    """Return what two levels were mixed up with, if the log did: within the strata their odds are others than over all."""
    n, other_n = sum(one.n for one in strata), sum(one.other_n for one in strata)
    if n <= 0.0 or other_n <= 0.0 or len(strata) < 2:
        return None
    over_all = Two(sum(one.k for one in strata), n, sum(one.other_k for one in strata), other_n)
    crude, within = mantel_haenszel([over_all]), mantel_haenszel(strata)
    if crude is None or within is None:
        return None
    if abs(math.log(crude.ratio / within.ratio)) <= math.log1p(MOVED) or not (
        crude.differs() or within.differs(Z99)
    ):
        return None
    apart = [one.n / n - one.other_n / other_n for one in strata]
    most = max(range(len(strata)), key=lambda s: apart[s])
    if apart[most] < LEAST_APART:
        return None
    one = strata[most]
    return Mixed(most, one.n / n, one.other_n / other_n, crude, within)
