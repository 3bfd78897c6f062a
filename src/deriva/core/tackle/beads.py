"""Bead mass from its dimensions: a sphere less its bore and its slot."""

import math

from deriva.core.ranges import BEAD_MM
from deriva.core.tackle.materials import TUNGSTEN_BEAD

BORE_MM = 0.8
SLOT_MM = 0.8
"""Bore and slot width of a slotted bead: a hook wire and its bend must pass (common practice, no source)."""

LADDER_MM = (2.0, 2.5, 3.0, 3.5, 4.0)
"""The weight ladder in use (common practice, no source)."""

ORDINARY_MM = 3.0
"""Its rung for ordinary water."""


def bead_volume(*, diameter_mm: float) -> float:
    """Return the solid volume, m³, of a slotted bead.

    A sphere bored through leaves (π/6)(d² − b²)^1.5; the slot takes its width times the half section beyond the bore.
    """
    d = BEAD_MM.check("bead_mm", diameter_mm)
    bored = math.pi / 6.0 * math.pow(d * d - BORE_MM * BORE_MM, 1.5)
    slot = SLOT_MM * (math.pi * d * d / 8.0 - BORE_MM * d / 2.0)
    return (bored - slot) * 1e-9


def bead_mass(*, diameter_mm: float, density_kg_m3: float = TUNGSTEN_BEAD) -> float:
    """Return the mass, kg, of a slotted bead."""
    return bead_volume(diameter_mm=diameter_mm) * density_kg_m3


def ladder_step(diameter_mm: float, step: int) -> float:
    """Return the bead ``step`` places up (or down) the ladder from the nearest to ``diameter_mm``."""
    nearest = min(range(len(LADDER_MM)), key=lambda i: abs(LADDER_MM[i] - diameter_mm))
    return LADDER_MM[min(len(LADDER_MM) - 1, max(0, nearest + step))]
