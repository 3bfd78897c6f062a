"""What a catch says of the chance of a fish a drift, with few data: a Beta posterior from Jeffreys' prior Beta(½, ½).

Intervals after Brown, Cai & DasGupta 2001, Statistical Science 16.
"""

from dataclasses import dataclass

from deriva.core.errors import Impossible

INSIDE = 0.9


@dataclass(frozen=True, slots=True)
class Rate:
    """A chance a drift: the posterior's median, and the ends between which it lies 9 times in 10."""

    median: float
    low: float
    high: float


def rate(*, fish: int, drifts: int) -> Rate | None:
    """Return the chance of a fish a drift after so many; None before the first drift.

    The ends stand at 0 and 1 where no drift or every drift brought a fish.
    """
    if not 0 <= fish <= drifts:
        raise Impossible(
            f"fish = {fish}: out of {drifts} drifts it lies between 0 and {drifts}", field="fish"
        )
    if drifts == 0:
        return None
    from scipy.special import betaincinv  # noqa: PLC0415 - slow to load

    a, b = fish + 0.5, drifts - fish + 0.5
    low, median, high = (float(betaincinv(a, b, p)) for p in ((1 - INSIDE) / 2, 0.5, (1 + INSIDE) / 2))
    return Rate(median, 0.0 if fish == 0 else low, 1.0 if fish == drifts else high)
