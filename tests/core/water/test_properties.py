"""Truth: the `iapws` library (IAPWS-95 and the releases on viscosity and surface tension), and its published points."""

import pytest
from iapws import IAPWS95
from iapws._iapws import _Tension

from deriva.core.errors import OutOfRange
from deriva.core.ranges import TEMPERATURE_C
from deriva.core.water.properties import SURFACE_TENSION_N_M, density, dynamic_viscosity


@pytest.mark.parametrize("t", [0.5, 4.0, 8.0, 12.0, 17.0, 23.0, 30.0])
def test_water__agrees_with_iapws_library(t: float) -> None:
    water = IAPWS95(T=t + 273.15, P=0.101325)
    assert density(temperature_c=t) == pytest.approx(water.rho, abs=0.01)
    assert dynamic_viscosity(temperature_c=t) == pytest.approx(water.mu, rel=1e-3)


@pytest.mark.parametrize(
    ("t", "rho", "mu"), [(4, 999.98, 1.5673e-3), (10, 999.70, 1.3059e-3), (20, 998.21, 1.0016e-3)]
)
def test_water__published_points_at_atmospheric_pressure(t: float, rho: float, mu: float) -> None:
    """IAPWS R6-95 and R12-08, tabulated at 0.101325 MPa."""
    assert density(temperature_c=t) == pytest.approx(rho, abs=0.02)
    assert dynamic_viscosity(temperature_c=t) == pytest.approx(mu, rel=1e-3)


def test_surface_tension__within_range_of_iapws() -> None:
    """IAPWS R1-76(2014), over the temperatures of trout water."""
    assert _Tension(278.15) > SURFACE_TENSION_N_M > _Tension(293.15)


@pytest.mark.parametrize("t", [TEMPERATURE_C.lo - 0.01, TEMPERATURE_C.hi + 0.01, float("nan")])
def test_water__says_where_it_holds(t: float) -> None:
    with pytest.raises(OutOfRange, match=r"temperature_c = .* outside 0 to 30 °C"):
        density(temperature_c=t)
