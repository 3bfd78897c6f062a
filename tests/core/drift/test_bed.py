"""Touches of the bed, mending, the tank test. Truth: geometry, an integral by `scipy`, and the statements of the modules."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad, solve_ivp

from deriva.core.drift.bed import TICK_S, stone_tops, touches
from deriva.core.drift.drag import cylinder_cd, sphere_cd
from deriva.core.drift.mending import mending
from deriva.core.drift.tank import fall_time, tank_factor
from deriva.core.errors import Impossible, OutOfRange
from deriva.core.tackle.flies import Fly, fly_body
from deriva.core.water.profile import stone_height
from deriva.core.water.properties import density, dynamic_viscosity

KS = 0.12
D84 = stone_height(bed_ks_m=KS)


def felt(height_m: float, seconds: float = 20.0, rate: float = 0.3) -> list[float]:
    t = np.arange(0.0, seconds, 0.04)
    found = touches(
        t, 0.5 * t, np.full_like(t, height_m), body=0, diameter_m=0.003, bed_ks_m=KS, hang_rate_per_m=rate
    )
    return [touch.hang_chance for touch in found]


def test_stones__stand_about_their_d84_and_are_the_same_every_time() -> None:
    x = np.linspace(0.0, 200.0, 20_000)
    tops = stone_tops(x, bed_ks_m=KS)
    assert tops.min() >= 0.5 * D84
    assert tops.max() <= 1.1 * D84
    assert np.quantile(tops, 0.84) == pytest.approx(D84, rel=0.02)
    assert np.array_equal(tops, stone_tops(x, bed_ks_m=KS))


def test_touches__none_clear_of_the_stones_more_and_worse_the_deeper() -> None:
    assert felt(1.2 * D84 + 0.0015) == []
    grazing, deep = felt(1.0 * D84), felt(0.4 * D84)
    assert len(grazing) > 1  # now and then a taller stone
    assert sum(deep) > sum(grazing) > 0.0
    assert max(deep) > max(grazing)


def test_touches__short_is_a_tick_and_long_a_drag() -> None:
    t = np.arange(0.0, 6.0, 0.04)
    height = np.where((t > 1.0) & (t < 1.1) | (t > 3.0), 0.001, 0.5)
    found = touches(t, 0.4 * t, height, body=1, diameter_m=0.003, bed_ks_m=KS, hang_rate_per_m=0.2)
    assert [touch.kind for touch in found] == ["tick", "drag"]
    assert found[0].lasts_s <= TICK_S
    assert found[1].t_s == pytest.approx(3.0, abs=0.1)
    assert found[1].speed_m_s == pytest.approx(0.4, rel=0.05)
    assert found[1].hang_chance == pytest.approx(
        1.0 - math.exp(-0.2 * 0.4 * 3.0), rel=0.1
    )  # by metres dragged


@given(st.floats(0.2, 1.5), st.floats(-0.6, 0.6), st.floats(0.5, 10.0))
def test_mending__a_belly_takes_the_slack(pace: float, faster: float, width: float) -> None:
    """A flat parabola over a lane, its length by the integral of √(1 + y'²): the belly at the time it drags."""
    found = mending(
        float_speed_m_s=pace,
        lane_speed_m_s=pace + faster,
        lane_width_m=width,
        drift_s=10.0,
        slack_m=0.01 * width,
    )
    if abs(faster) <= 0.02 * pace:
        assert found.drags_after_s is None
        return
    assert found.drags_after_s is not None
    belly = abs(faster) * found.drags_after_s
    length, _ = quad(lambda y: math.sqrt(1.0 + (8.0 * belly * y / width**2) ** 2), -width / 2.0, width / 2.0)
    assert length - width == pytest.approx(0.01 * width, rel=0.02)
    assert found.way == ("upstream" if faster > 0.0 else "downstream")
    assert found.drags_after_s * (1 + 2 * found.mends) >= 10.0 or found.drags_after_s >= 10.0
    if found.mends > 1:
        assert found.drags_after_s * (1 + 2 * (found.mends - 1)) < 10.0


def test_mending__refuses_a_lane_without_width() -> None:
    with pytest.raises(OutOfRange, match="lane_width_m"):
        mending(float_speed_m_s=0.5, lane_speed_m_s=0.7, lane_width_m=0.0, drift_s=5.0)


FLY = Fly("dubbed mayfly nymph", 14, 3.0, "dubbed")


def test_fall__agrees_with_scipy() -> None:
    body, t_c = fly_body(FLY, along_m=1.0), 12.0
    rho, mu = density(temperature_c=t_c), dynamic_viscosity(temperature_c=t_c)

    def slope(_: float, y: np.ndarray) -> list[float]:
        v = max(float(y[1]), 1e-9)
        area = math.pi * body.diameter_m**2 / 4.0 * sphere_cd(Re=rho * v * body.diameter_m / mu)
        area += body.dressing_area_m2 * cylinder_cd(Re=rho * v * body.dressing_diameter_m / mu)
        net = 9.80665 * (body.mass_kg - rho * body.displaced_m3) - 0.5 * rho * v * v * area
        return [v, net / (body.mass_kg + 0.5 * rho * body.displaced_m3)]

    run = solve_ivp(slope, (0.0, 5.0), [0.0, 0.0], events=lambda _, y: y[0] - 0.5, rtol=1e-8)
    ours = fall_time(body, depth_m=0.5, temperature_c=t_c)
    assert ours == pytest.approx(float(run.t_events[0][0]), rel=0.01)


@settings(max_examples=25)
@given(st.floats(0.3, 6.0), st.sampled_from([2.0, 3.0, 4.0]))
def test_tank_test__finds_the_factor_that_made_the_time(factor: float, bead: float) -> None:
    fly = Fly("nymph", 14, bead, "soft", drag_factor=factor)
    seconds = fall_time(fly_body(fly, along_m=1.0), depth_m=0.6, temperature_c=15.0)
    found = tank_factor(Fly("nymph", 14, bead, "soft"), depth_m=0.6, time_s=seconds, temperature_c=15.0)
    assert found == pytest.approx(factor, rel=0.02)


def test_tank_test__says_which_times_could_be() -> None:
    with pytest.raises(Impossible, match=r"takes between 0\.\d+ and \d+"):
        tank_factor(FLY, depth_m=0.5, time_s=0.15, temperature_c=12.0)


def test_fly__of_the_physics_sinks_as_it_should() -> None:
    """A size-14 dubbed nymph on a 3 mm tungsten bead sinks at 0.35-0.5 m/s, the bare bead at about twice that."""
    dressed = 1.0 / fall_time(fly_body(FLY, along_m=1.0), depth_m=1.0, temperature_c=12.0)
    assert 0.33 <= dressed <= 0.5
