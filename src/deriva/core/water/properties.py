"""Density, viscosity and surface tension of fresh water at river temperatures and atmospheric pressure."""

import math

from deriva.core._jit import jit
from deriva.core.data.tables import published
from deriva.core.ranges import TEMPERATURE_C

_WATER = published("water")
GRAVITY_M_S2 = _WATER["gravity"]
SURFACE_TENSION_N_M = _WATER["surface_tension"]
"""Surface tension of water near 15 °C, N/m (IAPWS R1-76(2014) gives 0.0735 there; 0.0756 at 0 °C, 0.0712 at 30 °C)."""


FRESH_KG_M3 = 1000.0
"""Density that the lift of tackle is reckoned with, where the temperature does not matter."""

K0, K1, K2, K3, K4, K5 = (_WATER[f"density_{k}"] for k in range(6))
K_BELOW = _WATER["density_below"]


@jit
def _density(t: float) -> float:
    # Kell (1975), J. Chem. Eng. Data 20(1), equation 16: agrees with IAPWS-95 to 0.002 kg/m³ over 0-30 °C.
    top: float = K0 + t * (K1 + t * (K2 + t * (K3 + t * (K4 + K5 * t))))
    return top / (1.0 + K_BELOW * t)


@jit
def _viscosity(t: float) -> float:
    # Vogel form, its three constants fitted here to IAPWS R12-08 over 0-30 °C: within 0.06 % of it.
    return 4.39161e-5 * math.pow(10.0, 173.2141 / (t + 273.15 - 165.58977))


def density(*, temperature_c: float) -> float:
    """Return the density of water, kg/m³, for 0..30 °C (Kell 1975).

    >>> round(density(temperature_c=10.0), 1)
    999.7
    """
    return _density(TEMPERATURE_C.check("temperature_c", temperature_c))


def dynamic_viscosity(*, temperature_c: float) -> float:
    """Return the dynamic viscosity of water, Pa·s, for 0..30 °C (Vogel form fitted to IAPWS R12-08)."""
    return _viscosity(TEMPERATURE_C.check("temperature_c", temperature_c))
