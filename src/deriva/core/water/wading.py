"""Is it safe to wade: two published rules, of which the stricter is shown."""

from dataclasses import dataclass
from typing import Literal

from deriva.core.data.tables import published

WadingHazard = Literal["low", "moderate", "significant", "extreme"]

_WADING = published("wading")
FOOT_M = _WADING["foot"]
USGS_PRODUCT = _WADING["usgs_product"]
"""Don't wade where depth (ft) × speed (ft/s) reaches 10 (USGS field safety rule, quoted from memory)."""

HAZARD_M2_S = (
    _WADING["hazard_moderate"], _WADING["hazard_significant"], _WADING["hazard_extreme"],
)  # fmt: skip
"""Depth × speed, m²/s, at which the hazard to an adult turns moderate, significant, extreme
(Cox, Shand & Blacka 2010, Australian Rainfall & Runoff project 10; quoted from memory)."""

DEPTH_LIMIT_M = _WADING["depth_limit"]
SPEED_LIMIT_M_S = _WADING["speed_limit"]
"""Limits of the same source, whatever the product."""


@dataclass(frozen=True, slots=True)
class Wading:
    """What the stricter rule says, with the product that it rests on."""

    hazard: WadingHazard
    product_m2_s: float
    wade: bool
    rule: str


def wading(*, depth_m: float, mean_speed_m_s: float) -> Wading:
    """Judge a column for an adult wader by both rules; where they differ the more cautious one answers.

    >>> wading(depth_m=0.9, mean_speed_m_s=0.7).hazard
    'moderate'
    """
    product = depth_m * mean_speed_m_s
    over = sum(product >= limit for limit in HAZARD_M2_S)
    if depth_m >= DEPTH_LIMIT_M or mean_speed_m_s >= SPEED_LIMIT_M_S:
        over = 3
    hazard: WadingHazard = ("low", "moderate", "significant", "extreme")[over]
    usgs = product / FOOT_M**2 >= USGS_PRODUCT
    wade = over < 2 and not usgs
    rule = "USGS field rule of 10 ft²/s" if usgs and over < 2 else "Cox, Shand & Blacka 2010"
    return Wading(hazard=hazard, product_m2_s=product, wade=wade, rule=rule)


def wading_speeds(*, depth_m: float) -> tuple[float, float]:
    """Return the mean speeds, m/s, from which on a column of this depth wants a staff, and is not waded at all.

    The same two rules, turned about; nought where the depth alone forbids it.
    """
    if depth_m >= DEPTH_LIMIT_M:
        return 0.0, 0.0
    never = min(HAZARD_M2_S[1] / depth_m, USGS_PRODUCT * FOOT_M**2 / depth_m, SPEED_LIMIT_M_S)
    return min(HAZARD_M2_S[0] / depth_m, never), never
