"""The current: its speed at each height above the bed.

Heights ``z`` run up from the bed (0) to the surface (``depth_m``). Every profile equals the surface speed at the surface.
"""

import math
from typing import Literal

from deriva.core._jit import jit
from deriva.core.data.tables import published
from deriva.core.ranges import BED_KS_M, DEPTH_M, SURFACE_SPEED_M_S

ProfileKind = Literal["log", "power", "uniform", "undertow", "stones"]
BedKind = Literal["sand", "gravel", "cobble", "boulder"]

PROFILE_WORDS: dict[ProfileKind, str] = {
    "log": "log law",
    "power": "one-sixth power law",
    "uniform": "the same all the way down",
    "undertow": "an undertow, faster below than on top",
    "stones": "log law down to the tops of the stones, slack water between them",
}
"""What a profile is called in a sentence."""

_WATER = published("water")
KAPPA = _WATER["von_karman"]
"""Von Kármán's constant, as used with Nikuradse's rough-bed law."""

KS_OVER_Z0 = _WATER["roughness_over_z0"]
"""Nikuradse: the log law over a rough bed reaches nought at ks/30."""

BED_KS: dict[BedKind, float] = {"sand": 0.005, "gravel": 0.04, "cobble": 0.12, "boulder": 0.30}
"""Nikuradse roughness ks of a bed, m: about 3.5 D84 (Hey 1979, quoted from memory) for the stones of each class."""

STONES_IN_KS = _WATER["roughness_over_d84"]
"""ks over the size D84 of the stones that make it (Hey 1979, quoted from memory)."""

SHALLOW_RATIO = 3.0
"""Below this depth/ks the log law does not hold: the stones are no longer roughness but obstacles."""

UNDERTOW_STRENGTH = 0.35
"""How much faster than the surface the bed runs in an undertow; a stated shape, common practice has no figure."""

UNIFORM, LOG, POWER, UNDERTOW, STONES = 0, 1, 2, 3, 4
PROFILE_CODE: dict[ProfileKind, int] = {
    "uniform": UNIFORM, "log": LOG, "power": POWER, "undertow": UNDERTOW, "stones": STONES,
}  # fmt: skip


def z0_of(bed_ks_m: float) -> float:
    """Return the height at which the log law over a bed reaches nought, m."""
    return bed_ks_m / KS_OVER_Z0


@jit
def speed_at(z: float, depth: float, surface_speed: float, profile: int, z0: float) -> float:
    """Kernel: current speed at height ``z``, m/s; above the surface that of the surface, in the bed zero."""
    if z >= depth or profile == UNIFORM:
        return surface_speed
    if profile == LOG:
        return surface_speed * math.log(z / z0) / math.log(depth / z0) if z > z0 else 0.0
    if profile == POWER:
        return surface_speed * (z / depth) ** (1.0 / 6.0) if z > 0.0 else 0.0
    if profile == STONES:  # a slow layer between the stones, growing evenly up to their tops
        tops = min(z0 * KS_OVER_Z0 / STONES_IN_KS, depth)
        speed = surface_speed * math.log(max(z, tops) / z0) / math.log(depth / z0)
        return speed * max(0.0, z) / tops if z < tops else speed
    return surface_speed * (1.0 + UNDERTOW_STRENGTH * (1.0 - z / depth)) if z > 0.0 else 0.0


def current_speed(
    *,
    height_m: float,
    depth_m: float,
    surface_speed_m_s: float,
    bed_ks_m: float,
    profile: ProfileKind = "log",
) -> float:
    """Return the current, m/s, at ``height_m`` above the bed.

    Log law u = us·ln(z/z0)/ln(H/z0), z0 = ks/30 (Nikuradse; any open-channel text); one-sixth power law; uniform;
    undertow, linear from the surface speed to 1.35 times that at the bed (a stated shape); stones, the log law down to
    the tops of the stones (D84) and from there evenly down to nothing, for water thin over its stones (a stated shape).

    >>> round(current_speed(height_m=0.1, depth_m=1.0, surface_speed_m_s=1.0, bed_ks_m=0.03), 3)
    0.667
    """
    DEPTH_M.check("depth_m", depth_m)
    SURFACE_SPEED_M_S.check("surface_speed_m_s", surface_speed_m_s)
    BED_KS_M.check("bed_ks_m", bed_ks_m)
    return speed_at(height_m, depth_m, surface_speed_m_s, PROFILE_CODE[profile], z0_of(bed_ks_m))


def mean_to_surface(*, depth_m: float, bed_ks_m: float, profile: ProfileKind = "log") -> float:
    """Return the ratio of depth-averaged to surface speed: the integral of each law, in closed form."""
    if profile == "uniform":
        return 1.0
    if profile == "power":
        return 6.0 / 7.0
    if profile == "undertow":
        return 1.0 + UNDERTOW_STRENGTH / 2.0
    z0 = z0_of(BED_KS_M.check("bed_ks_m", bed_ks_m))
    full = math.log(DEPTH_M.check("depth_m", depth_m) / z0)
    if profile == "stones":
        tops = min(stone_height(bed_ks_m=bed_ks_m), depth_m)
        above = math.log(tops / z0)
        return (full - 1.0 - tops / depth_m * (above - 1.0) + 0.5 * tops / depth_m * above) / full
    return (full - 1.0 + z0 / depth_m) / full


def stone_height(*, bed_ks_m: float) -> float:
    """Return how far the larger stones of a bed stand up, m: their D84."""
    return BED_KS_M.check("bed_ks_m", bed_ks_m) / STONES_IN_KS


def profile_over(*, depth_m: float, bed_ks_m: float) -> ProfileKind:
    """Return the profile of a current over a bed: the log law, or where the water is thin over its stones, the slow layer."""
    return "stones" if is_shallow_for_stones(depth_m=depth_m, bed_ks_m=bed_ks_m) else "log"


def is_shallow_for_stones(*, depth_m: float, bed_ks_m: float) -> bool:
    """Return whether the water is so thin over its stones that speeds near the bed are guesses."""
    return depth_m < SHALLOW_RATIO * bed_ks_m
