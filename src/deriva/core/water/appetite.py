"""What temperature does to a trout's appetite, and with clarity, how far it moves for a fly."""

import math
from dataclasses import dataclass
from typing import Literal

from deriva.core.data.tables import published
from deriva.core.ranges import CLARITY_M, TEMPERATURE_C
from deriva.core.water.clarity import reaction_share, turbidity

Species = Literal["brown trout", "rainbow trout"]


@dataclass(frozen=True, slots=True)
class Thermal:
    """Lower limit, optimum and upper limit of growth, °C; and the band in which anglers find that everything works."""

    growth_c: tuple[float, float, float]
    everything_works_c: tuple[float, float]


def _growth(fish: str) -> tuple[float, float, float]:
    found = published("fish")
    return found[f"{fish}_growth_from"], found[f"{fish}_growth_best"], found[f"{fish}_growth_until"]


THERMAL: dict[Species, Thermal] = {
    "brown trout": Thermal(_growth("brown"), (10.0, 16.0)),
    "rainbow trout": Thermal(_growth("rainbow"), (10.0, 18.0)),
}
"""Brown trout: Elliott, Hurley & Fryer 1995; rainbow trout: optimum and upper limit of Hokanson, Kleiner & Thorslund 1977,
its lower limit taken as the brown trout's (all from memory). The bands are common practice, no source."""

TORPID = 0.1
"""Below the lower limit a fish still takes what is put on its nose (common practice, no source)."""

MOVES_M = 0.9
"""How far a hungry trout in clear water moves aside for a nymph (common practice, no source)."""

LEAST_MOVE_M = 0.12

SLOPE_DEG = 10.0
"""Below this angle over the fish's horizon an angler is not seen (rule of ten degrees, common practice)."""

STANDING_M, KNEELING_M, WADED_M = 1.7, 1.0, 0.6
"""Height of an angler, and of one on the knees; and the depth that a wader stands in."""


def appetite(*, temperature_c: float, species: str = "brown trout") -> float:
    """Return 0..1: how keenly fish feed, from the growth limits of the species and what anglers find between.

    A species without limits here is taken for a brown trout.
    """
    limits = next((one for name, one in THERMAL.items() if name == species), THERMAL["brown trout"])
    t = TEMPERATURE_C.check("temperature_c", temperature_c)
    low, _, high = limits.growth_c
    first, last = limits.everything_works_c
    if t < first:
        return max(TORPID, (t - low) / (first - low))
    return 1.0 if t <= last else max(0.0, (high - t) / (high - last))


def moves(*, temperature_c: float, clarity_m: float, species: str = "brown trout") -> float:
    """Return how far a fish moves aside for a fly, m: by its appetite and by how far it sees."""
    seen = reaction_share(turbidity_fnu=turbidity(clarity_m=CLARITY_M.check("clarity_m", clarity_m)))
    return max(LEAST_MOVE_M, MOVES_M * appetite(temperature_c=temperature_c, species=species) * seen)


def standoff(*, height_m: float, clarity_m: float) -> float:
    """Return the distance from which an angler of this height over the water is not seen, m; closer in coloured water."""
    seen = reaction_share(turbidity_fnu=turbidity(clarity_m=CLARITY_M.check("clarity_m", clarity_m)))
    return height_m / math.tan(math.radians(SLOPE_DEG)) * seen
