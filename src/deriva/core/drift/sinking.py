"""How long a rig takes to sink: a surrogate of the transient engine that also runs on the phone.

The lowest body's depth follows D·(1 − exp(−(t/τ)^m)), D its steady depth. The time to 80 % of D is a regression on
the transient engine over 400 seeded rigs for each kind of top (scripts/fit_sinking.py):

    ln t80 = ln(D/v) + c0 + c1·ln(1 + λ) + c2·ln(us/v) + c3·(L_wet/D − 1) + c4·(L_wet/D − 1)²

v is the settling speed of the bodies taken together, λ the side area of the wet line over the drag area of the bodies.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from deriva.core._jit import jit
from deriva.core.drift.drag import NEWTON_CD
from deriva.core.drift.scenario import Scenario
from deriva.core.drift.steady import SteadyDrift
from deriva.core.ranges import Range
from deriva.core.tackle.body import Body
from deriva.core.water.properties import FRESH_KG_M3, GRAVITY_M_S2

FLOAT_SHAPE, TIP_SHAPE = 1.51, 1.65
"""Exponent m: the median over the same rigs (10th to 90th percentile 1.37-1.67 and 1.36-1.81)."""

FLOAT_COEFFICIENTS = (-0.2837, 0.2294, 0.0481, -0.3187, 0.8306)
TIP_COEFFICIENTS = (-0.2862, 0.2321, -0.0101, -0.2279, 0.1412)
"""c0..c4. The residual has a standard deviation of 10 % in time for both; the worst of 400 rigs was out by 40 %."""

RESIDUAL_SD = 0.10

EXCESS = Range(
    0.0, 1.3, "-", "L_wet/D − 1 of the rigs that the formula was fitted to; beyond, the edge stands"
)


MOST_EXCESS = EXCESS.hi  # as kernels take it

DRESSED_CD = 1.1
"""Drag coefficient of a dressing at the speeds at which flies sink, as the fit was made with it."""

SETTLED = 0.98
"""A fly counts as settled, and may touch, at this share of its steady depth."""


def load(bodies: Iterable[Body]) -> tuple[float, float]:
    """Return weight in water, N, and drag at 1 m/s, N, of bodies taken together, as the fit was made with them."""
    weight = drag = 0.0
    for body in bodies:
        weight += GRAVITY_M_S2 * (body.mass_kg - FRESH_KG_M3 * body.displaced_m3)
        section = math.pi / 4.0 * body.diameter_m**2
        drag += 0.5 * FRESH_KG_M3 * (NEWTON_CD * section + DRESSED_CD * body.dressing_area_m2)
    return weight, drag


def wet_line(scenario: Scenario) -> float:
    """Return the length of line in the water, m."""
    return scenario.line_length_m - (scenario.top.height_m if scenario.top.kind == "tip" else 0.0)


@jit
def regressors(
    depth: float, speed: float, weight: float, drag: float, wet: float, diameter: float
) -> tuple[float, float, float, float, float, float]:
    """Kernel: ln(D/v) and the regressors of the module's formula, the constant first."""
    depth = max(0.02, depth)
    v = math.sqrt(max(weight, 1e-6) / drag)
    excess = min(MOST_EXCESS, max(0.0, wet / depth - 1.0))
    return (
        math.log(depth / v),
        1.0,
        math.log1p(0.5 * FRESH_KG_M3 * wet * diameter / drag),
        math.log(speed / v),
        excess,
        excess * excess,
    )


@jit
def tau_at(
    tip: bool, depth: float, speed: float, weight: float, drag: float, wet: float, diameter: float
) -> float:
    """Kernel: τ of the sinking curve, s."""
    f = regressors(depth, speed, weight, drag, wet, diameter)
    c = TIP_COEFFICIENTS if tip else FLOAT_COEFFICIENTS
    shape = TIP_SHAPE if tip else FLOAT_SHAPE
    log_t80 = f[0] + c[0] * f[1] + c[1] * f[2] + c[2] * f[3] + c[3] * f[4] + c[4] * f[5]
    return math.exp(log_t80) / math.pow(math.log(5.0), 1.0 / shape)


@jit
def time_to(share: float, tau: float, shape: float) -> float:
    """Kernel: seconds until a body has sunk to a share of its steady depth; inf for 1 and beyond."""
    if share <= 0.0:
        return 0.0
    if share >= 1.0:
        return math.inf
    return tau * math.pow(-math.log(1.0 - share), 1.0 / shape)


@jit
def share_sunk(t: float, tau: float, shape: float) -> float:
    """Kernel: the share of its steady depth that a body has sunk after so many seconds."""
    return 1.0 - math.exp(-math.pow(max(0.0, t) / tau, shape))


def features(scenario: Scenario, steady: SteadyDrift) -> tuple[float, ...]:
    """Return ln(D/v) and the regressors of the module's formula, for fitting them."""
    weight, drag = load(scenario.bodies)
    depth, speed = max(0.02, *steady.body_depth_m), scenario.water.surface_speed_m_s
    return regressors(depth, speed, weight, drag, wet_line(scenario), scenario.line[-1].diameter_m)


@dataclass(frozen=True, slots=True)
class Sinking:
    """The sinking curve of one rig: depth(t) = steady depth × (1 − exp(−(t/τ)^m)) for each of its bodies."""

    tau_s: float
    shape: float

    def share_at(self, t_s: float) -> float:
        """Return the share of its steady depth that a body has sunk after ``t_s``."""
        return share_sunk(t_s, self.tau_s, self.shape)

    def time_to(self, share: float) -> float:
        """Return the seconds until a body has sunk to ``share`` of its steady depth; inf for 1 and beyond."""
        return time_to(share, self.tau_s, self.shape)


def sinking(scenario: Scenario, steady: SteadyDrift) -> Sinking:
    """Return the sinking curve of a rig under a float or a tip (formula and error in the module)."""
    tip = scenario.top.kind == "tip"
    weight, drag = load(scenario.bodies)
    tau = tau_at(
        tip,
        max(0.02, *steady.body_depth_m),
        scenario.water.surface_speed_m_s,
        weight,
        drag,
        wet_line(scenario),
        scenario.line[-1].diameter_m,
    )
    return Sinking(tau_s=tau, shape=TIP_SHAPE if tip else FLOAT_SHAPE)
