"""Flies: mass, displaced volume and drag from bead, hook and dressing."""

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.ranges import BEAD_MM, Range, Text
from deriva.core.tackle.beads import bead_mass, bead_volume
from deriva.core.tackle.body import Body
from deriva.core.tackle.materials import BRASS_BEAD, DRESSING, STEEL, TUNGSTEN_BEAD

DressingClass = Literal["slim", "dubbed", "soft"]
BeadMaterial = Literal["tungsten", "brass"]
Tone = Literal["natural", "bright", "dark"]
Mark = Literal["none", "collar", "tag"]
"""How bright a fly is in all, and what on it is brighter."""

BEAD_DENSITY: dict[BeadMaterial, float] = {"tungsten": TUNGSTEN_BEAD, "brass": BRASS_BEAD}

HOOK = Range(2, 26, "hook number", "nymph and streamer hooks")

NYMPH_HOOKS = (6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26)
"""Nymph hooks 12-18, stoneflies 6-10, midges 18-26 (common practice, no source)."""

FACTOR = Range(0.05, 20.0, "-", "from a varnished thread to a feather duster")

DRAG_FACTOR: dict[DressingClass, float] = {"slim": 1.0, "dubbed": 1.3, "soft": 1.7}
"""How much more a dressing drags than a smooth cylinder of its size (stated here, to be replaced by a tank test)."""

DRESSING_RATIO: dict[DressingClass, float] = {"slim": 0.14, "dubbed": 0.22, "soft": 0.26}
"""Dressing diameter over shank length (common practice, no source)."""

SOLID_SHARE: dict[DressingClass, float] = {"slim": 0.8, "dubbed": 0.35, "soft": 0.2}
"""Share of the dressing's outline that is solid; water fills the rest."""


@dataclass(frozen=True, slots=True)
class Fly(Checked):
    """A nymph: ``form`` in words, hook number, bead in mm (None for none) and its metal, class of dressing, brightness.

    ``drag_factor`` from a tank test takes the place of the class's.
    """

    form: Annotated[str, Text(least=1)]
    hook: Annotated[int, HOOK]
    bead_mm: Annotated[float, BEAD_MM] | None = None
    dressing: DressingClass = "dubbed"
    drag_factor: Annotated[float, FACTOR] | None = None
    material: BeadMaterial = "tungsten"
    tone: Tone = "natural"
    mark: Mark = "none"

    @property
    def words(self) -> str:
        """What it is called: its form with what tells it from others of the form."""
        tone = "" if self.tone == "natural" else f"{self.tone} "
        mark = "" if self.mark == "none" else f" with a bright {self.mark}"
        return f"{tone}{self.form}{mark}"


KNOWN_AS: dict[str, str] = {
    "dubbed mayfly nymph": "hare's ear",
    "soft-hackle pupa": "spider",
    "worm": "chenille worm",
    "shrimp": "scud",
}
"""The generic names by which everybody knows a form (common practice, no source)."""


def shank_mm(*, hook: int) -> float:
    """Return the shank length of a standard nymph hook, mm (common practice: 9.6 at 14, 12.7 at 10; 3.5 at least)."""
    return max(3.5, 20.5 - 0.78 * HOOK.check("hook", hook))


def wire_mm(*, hook: int) -> float:
    """Return the wire diameter of a standard nymph hook, mm (common practice: 0.50 at 14)."""
    return max(0.28, 0.75 - 0.018 * HOOK.check("hook", hook))


def hook_mass(*, hook: int) -> float:
    """Return the mass, kg, of a hook: its wire is about 2.1 shanks long with bend, point and eye."""
    length, wire = 2.1 * shank_mm(hook=hook), wire_mm(hook=hook)
    return length * math.pi * wire * wire / 4.0 * 1e-9 * STEEL


def fly_body(fly: Fly, *, along_m: float) -> Body:
    """Return the fly as the drift solvers take it, ``along_m`` from the top end.

    Drag is the bead's frontal area as a sphere plus the dressing's side area, times its class factor, as a cylinder.
    """
    shank, wire = shank_mm(hook=fly.hook), wire_mm(hook=fly.hook)
    thick = DRESSING_RATIO[fly.dressing] * shank
    dressing = SOLID_SHARE[fly.dressing] * math.pi * (thick * thick - wire * wire) / 4.0 * shank * 1e-9
    metal = hook_mass(hook=fly.hook)
    volume = dressing + metal / STEEL
    mass = dressing * DRESSING + metal
    if fly.bead_mm is not None:
        volume += bead_volume(diameter_mm=fly.bead_mm)
        mass += bead_mass(diameter_mm=fly.bead_mm, density_kg_m3=BEAD_DENSITY[fly.material])
    return Body(
        along_m=along_m,
        mass_kg=mass,
        diameter_m=(fly.bead_mm if fly.bead_mm is not None else wire) / 1000.0,
        volume_m3=volume,
        dressing_area_m2=(DRAG_FACTOR[fly.dressing] if fly.drag_factor is None else fly.drag_factor)
        * shank
        * thick
        * 1e-6,
        dressing_diameter_m=thick / 1000.0,
    )
