"""Drag of spheres and of cylinders across a flow, as functions of the Reynolds number."""

import math

from deriva.core._jit import jit
from deriva.core.ranges import Range

SPHERE_RE = Range(0.0, 2e5, "-", "Schiller & Naumann 1933 below Re 1000, Newton's constant beyond")
CYLINDER_RE = Range(0.0, 2e5, "-", "Sucker & Brauer 1975")

TANGENTIAL_COEFFICIENT = 0.05
"""Drag coefficient of line along itself, on its wetted surface. The least certain number of the drift: it rules the
time to sink and hardly touches the depth (0.05 -> 0.01 shortens the time to 80 % of the depth by 10-36 %)."""


@jit
def sphere_cd_at(re: float) -> float:
    """Kernel of :func:`sphere_cd`."""
    if re < 1e-9:
        return 24.0 / 1e-9
    if re > 1000.0:
        return 0.44
    return 24.0 / re * (1.0 + 0.15 * math.pow(re, 0.687))


@jit
def cylinder_cd_at(re: float) -> float:
    """Kernel of :func:`cylinder_cd`."""
    re = max(re, 1e-9)
    root = math.sqrt(re)
    return 1.18 + 6.8 / math.pow(re, 0.89) + 1.96 / root - 0.0004 * re / (1.0 + 3.64e-7 * re * re)


def sphere_cd(*, Re: float) -> float:
    """Return the drag coefficient of a sphere on its frontal area.

    C_D = 24/Re·(1 + 0.15 Re^0.687) up to Re 1000 (Schiller & Naumann 1933), 0.44 beyond.
    """
    return sphere_cd_at(SPHERE_RE.check("Re", Re))


def cylinder_cd(*, Re: float) -> float:
    """Return the drag coefficient of a smooth cylinder across the flow, on length times diameter.

    C_D = 1.18 + 6.8/Re^0.89 + 1.96/Re^0.5 − 0.0004 Re/(1 + 3.64e-7 Re²) (Sucker & Brauer 1975, quoted from memory).
    """
    return cylinder_cd_at(CYLINDER_RE.check("Re", Re))
