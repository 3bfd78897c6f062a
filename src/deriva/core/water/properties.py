"""Density, viscosity and surface tension of fresh water at river temperatures and atmospheric pressure."""

import math

from deriva.core._jit import jit
from deriva.core.ranges import TEMPERATURE_C

GRAVITY_M_S2 = 9.80665
SURFACE_TENSION_N_M = 0.073
"""Surface tension of water near 15 °C, N/m (IAPWS R1-76(2014) gives 0.0735 there; 0.0756 at 0 °C, 0.0712 at 30 °C)."""


@jit
def _density(t: float) -> float:
    # Kell (1975), J. Chem. Eng. Data 20(1), equation 16: agrees with IAPWS-95 to 0.002 kg/m³ over 0-30 °C.
    top: float = 999.83952 + t * (
        16.945176 + t * (-7.9870401e-3 + t * (-46.170461e-6 + t * (105.56302e-9 - 280.54253e-12 * t)))
    )
    return top / (1.0 + 16.879850e-3 * t)


@jit
def _viscosity(t: float) -> float:
    # Vogel form, its three constants fitted here to IAPWS R12-08 over 0-30 °C: within 0.06 % of it.
    return 4.39161e-5 * math.pow(10.0, 173.2141 / (t + 273.15 - 165.58977))


def density(*, temperature_c: float) -> float:
    """Return the density of water, kg/m³, for 0..30 °C (Kell 1975)."""
    return _density(TEMPERATURE_C.check("temperature_c", temperature_c))


def dynamic_viscosity(*, temperature_c: float) -> float:
    """Return the dynamic viscosity of water, Pa·s, for 0..30 °C (Vogel form fitted to IAPWS R12-08)."""
    return _viscosity(TEMPERATURE_C.check("temperature_c", temperature_c))
