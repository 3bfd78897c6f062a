"""What rides on the surface: indicator floats and dry flies, with what they weigh, carry and drag."""

import math
from dataclasses import dataclass, replace
from typing import Literal

from deriva.core.water.properties import FRESH_KG_M3, GRAVITY_M_S2, SURFACE_TENSION_N_M

FloatKind = Literal["indicator", "dry"]

FLOAT_DENSITY = 300.0
"""Hollow or foam float with its fitting, kg/m³ (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Float:
    """An indicator or a dry fly: ``carries_n`` is the steady downward pull that takes it under, N; ``hook`` is a dry's."""

    name: str
    kind: FloatKind
    size_mm: float
    mass_kg: float
    drag_area_m2: float
    carries_n: float
    hook: int | None = None
    rides: float = 1.0
    """A dry: how well it rides broken water, 0 (drowns) to 1 (common practice, no source)."""


def indicator(*, diameter_mm: float) -> Float:
    """Return a round float: it carries its volume's lift less its weight, and drags with its sunk half section."""
    d = diameter_mm / 1000.0
    volume = math.pi * d**3 / 6.0
    mass = FLOAT_DENSITY * volume
    return Float(
        name=f"{diameter_mm:g} mm float",
        kind="indicator",
        size_mm=diameter_mm,
        mass_kg=mass,
        drag_area_m2=math.pi * d * d / 8.0,
        carries_n=(FRESH_KG_M3 * volume - mass) * GRAVITY_M_S2,
    )


def dry(
    *,
    name: str,
    hook: int,
    length_mm: float,
    body_mm: float,
    body_density: float,
    edge_mm: float,
    hook_g: float,
    rides: float,
) -> Float:
    """Return a dry fly.

    Its body (a cylinder, foam at about 150 kg/m³, hair and fur with trapped air about 600) lifts by volume; surface
    tension adds 0.073 N/m along ``edge_mm`` of wetted hackle, hair or foam, of which half is counted: the rest is
    lost to angle and wetting.
    """
    volume = math.pi * (body_mm / 1000.0) ** 2 / 4.0 * length_mm / 1000.0
    mass = volume * body_density + hook_g / 1000.0
    lift = (FRESH_KG_M3 * volume - mass) * GRAVITY_M_S2 + 0.5 * SURFACE_TENSION_N_M * edge_mm / 1000.0
    return Float(
        name=name,
        kind="dry",
        size_mm=length_mm,
        mass_kg=mass,
        drag_area_m2=0.5 * length_mm * body_mm * 1e-6,
        carries_n=lift,
        hook=hook,
        rides=rides,
    )


SOAKED_SHARE, SOAKED_AFTER = 0.5, 10
"""What a dry that drowns easily has lost of its carrying once it is soaked, and the drifts that takes: soft feather soaks
soonest, hair with trapped air holds out, foam does not soak (common practice, no source)."""


def soaked(one: Float, *, drifts: int) -> Float:
    """Return a dry as it floats so many drifts after it was dried."""
    wet = min(1.0, drifts / SOAKED_AFTER)
    return replace(one, carries_n=one.carries_n * (1.0 - SOAKED_SHARE * (1.0 - one.rides) * wet))


INDICATORS: tuple[Float, ...] = tuple(indicator(diameter_mm=d) for d in (9.0, 11.0, 13.0, 16.0, 19.0))
"""Round floats from small to large."""

DRIES: tuple[Float, ...] = (
    dry(
        name="size 16 CDC caddis",
        hook=16,
        length_mm=9,
        body_mm=2.5,
        body_density=600,
        edge_mm=45,
        hook_g=0.02,
        rides=0.2,
    ),
    dry(
        name="size 12 hair-wing caddis",
        hook=12,
        length_mm=13,
        body_mm=4.0,
        body_density=450,
        edge_mm=75,
        hook_g=0.04,
        rides=0.9,
    ),
    dry(
        name="size 10 foam hopper",
        hook=10,
        length_mm=18,
        body_mm=5.0,
        body_density=180,
        edge_mm=80,
        hook_g=0.06,
        rides=1.0,
    ),
    dry(
        name="size 8 foam stonefly",
        hook=8,
        length_mm=24,
        body_mm=6.0,
        body_density=180,
        edge_mm=100,
        hook_g=0.08,
        rides=1.0,
    ),
)
"""Dries from small to large; sizes by form are common practice, no source."""
