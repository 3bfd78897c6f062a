"""Drag of spheres and of cylinders across a flow, as functions of the Reynolds number."""

import math

from deriva.core._jit import jit
from deriva.core.data.tables import published
from deriva.core.ranges import Range

SPHERE_RE = Range(0.0, 2e5, "-", "Schiller & Naumann 1933 below Re 1000, Newton's constant beyond")
CYLINDER_RE = Range(0.0, 2e5, "-", "Sucker & Brauer 1975")

TANGENTIAL_COEFFICIENT = 0.05
"""Drag coefficient of line along itself, on its wetted surface. The least certain number of the drift: it rules the
time to sink and hardly touches the depth (0.05 -> 0.01 shortens the time to 80 % of the depth by 10-36 %)."""


_DRAG = published("drag")
STOKES, SPHERE_FACTOR, SPHERE_EXPONENT = (
    _DRAG["sphere_stokes"], _DRAG["sphere_factor"], _DRAG["sphere_exponent"],
)  # fmt: skip
NEWTON_FROM_RE, NEWTON_CD = _DRAG["sphere_newton_from_re"], _DRAG["sphere_newton"]
CYLINDER, SLOW_FACTOR, SLOW_EXPONENT, ROOT_FACTOR, FAST_FACTOR, FAST_SQUARE = (
    _DRAG[f"cylinder_{name}"]
    for name in ("constant", "slow_factor", "slow_exponent", "root_factor", "fast_factor", "fast_square")
)
LEAST_RE = 1e-9


@jit
def sphere_cd_at(re: float) -> float:
    """Kernel of :func:`sphere_cd`."""
    if re < LEAST_RE:
        return STOKES / LEAST_RE
    if re > NEWTON_FROM_RE:
        return NEWTON_CD
    return STOKES / re * (1.0 + SPHERE_FACTOR * math.pow(re, SPHERE_EXPONENT))


@jit
def cylinder_cd_at(re: float) -> float:
    """Kernel of :func:`cylinder_cd`."""
    re = max(re, LEAST_RE)
    slow = SLOW_FACTOR / math.pow(re, SLOW_EXPONENT) + ROOT_FACTOR / math.sqrt(re)
    return CYLINDER + slow - FAST_FACTOR * re / (1.0 + FAST_SQUARE * re * re)


def sphere_cd(*, Re: float) -> float:
    """Return the drag coefficient of a sphere on its frontal area.

    C_D = 24/Re·(1 + 0.15 Re^0.687) up to Re 1000 (Schiller & Naumann 1933), 0.44 beyond.

    >>> round(sphere_cd(Re=100.0), 3)
    1.092
    >>> sphere_cd(Re=5000.0)
    0.44
    """
    return sphere_cd_at(SPHERE_RE.check("Re", Re))


def cylinder_cd(*, Re: float) -> float:
    """Return the drag coefficient of a smooth cylinder across the flow, on length times diameter.

    C_D = 1.18 + 6.8/Re^0.89 + 1.96/Re^0.5 − 0.0004 Re/(1 + 3.64e-7 Re²) (Sucker & Brauer 1975, quoted from memory).

    >>> round(cylinder_cd(Re=100.0), 2)
    1.45
    """
    return cylinder_cd_at(CYLINDER_RE.check("Re", Re))
