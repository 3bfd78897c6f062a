"""Truth: an independent solver's converged results, a boundary-value solution by `scipy`, and plain statics."""

import math
import subprocess
import sys
from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_bvp

from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd_at, sphere_cd_at
from deriva.core.drift.scenario import LineSection, Scenario, Top
from deriva.core.drift.settling import settling_velocity
from deriva.core.drift.steady import steady_drift
from deriva.core.errors import Impossible, NotConverged, OutOfRange
from deriva.core.model.column import Column
from deriva.core.tackle.body import Body
from deriva.core.water.properties import density, dynamic_viscosity
from tests.core.drift.scenes import FLOATS, TIPS, fishable, under_a_float, under_a_tip

FLY = Body(0.9, 0.0003, 0.0045)
LINE = LineSection(0.9, 0.0001524, 1780.0)
FLOAT = Top("float", mass_kg=0.00027, drag_area_m2=0.565e-4)
SCENARIO = Scenario(Column(1.0, 0.7, 0.1, 10.0), FLOAT, (LINE,), (FLY,))


@pytest.mark.parametrize("case", FLOATS)
def test_float__reference_results(case: str) -> None:
    """Independent solver, see tests/reference: depth 2 %, pace 0.015, offset 5 % or 2 cm."""
    truth, ours = FLOATS[case], steady_drift(under_a_float(case))
    lowest = max(range(len(ours.body_depth_m)), key=ours.body_depth_m.__getitem__)
    assert ours.body_depth_m[lowest] == pytest.approx(truth["depth_m"], rel=0.02)
    assert ours.top_speed_ratio == pytest.approx(truth["top_speed_ratio"], abs=0.015)
    assert ours.offset_m == pytest.approx(truth["offset_m"], rel=0.05, abs=0.02)
    assert ours.body_speed_ratio[lowest] == pytest.approx(truth["body_speed_ratio"], rel=0.05)
    assert ours.tension_n == pytest.approx(truth["tension_n"], rel=0.05)
    if "upper_depth_m" in truth:
        assert min(ours.body_depth_m) == pytest.approx(truth["upper_depth_m"], rel=0.02)


@pytest.mark.parametrize("case", TIPS)
def test_tip__reference_results(case: str) -> None:
    """The same solver under a rod tip (with another law of the sphere, 0.3 % in depth)."""
    ours = steady_drift(under_a_tip(case))
    assert ours.body_depth_m[0] == pytest.approx(float(TIPS[case]["fly_depth_m"]), rel=0.02, abs=0.005)
    assert ours.entry_offset_m == pytest.approx(float(TIPS[case]["tip_ahead_m"]), rel=0.05, abs=0.03)


def test_tip__one_pace_fishes_deepest() -> None:
    """T03 at 0.70..1.00 of the surface speed fishes at 0.28, 0.63, 0.79, 0.76, 0.64 m: the optimum is near 0.86."""
    shares, depths = (0.70, 0.80, 0.85, 0.90, 1.00), (0.28, 0.63, 0.79, 0.76, 0.64)
    ours = [steady_drift(under_a_tip("T03", share)).body_depth_m[0] for share in shares]
    assert ours == pytest.approx(depths, abs=0.015)
    fine = {
        share: steady_drift(under_a_tip("T03", share)).body_depth_m[0] for share in np.arange(0.8, 0.96, 0.01)
    }
    assert 0.84 <= max(fine, key=fine.__getitem__) <= 0.91


def _boundary_value_solution(scenario: Scenario) -> tuple[float, float, float]:
    """Solve the rig under a float as a boundary-value problem; return (depth of the fly, pace, offset).

    The state along the line from the fly up is (x, z, Fx, Fz); the pace V and the height of the fly are unknown
    parameters; the conditions are the fly's own balance, the top at the surface, and the float's.
    """
    water, body, line = scenario.water, scenario.bodies[0], scenario.line[0]
    rho, mu = density(temperature_c=water.temperature_c), dynamic_viscosity(temperature_c=water.temperature_c)
    z0, us, depth = water.bed_ks_m / 30.0, water.surface_speed_m_s, water.depth_m
    weight = (body.mass_kg - rho * body.displaced_m3) * 9.80665
    heavy = (line.density_kg_m3 - rho) * math.pi * line.diameter_m**2 / 4.0 * 9.80665

    def current(z: float) -> float:
        return us * math.log(min(max(z, 1.001 * z0), depth) / z0) / math.log(depth / z0)

    def slope(_: np.ndarray, y: np.ndarray, p: np.ndarray) -> np.ndarray:
        out = np.empty_like(y)
        for k in range(y.shape[1]):
            _, z, fx, fz = y[:, k]
            size = math.hypot(fx, fz)
            tx, tz = fx / size, fz / size
            u = current(z) - p[0]
            along = u * tx
            nx, nz = u - along * tx, -along * tz
            across = math.hypot(nx, nz)
            normal = (
                0.5 * rho * line.diameter_m * cylinder_cd_at(rho * across * line.diameter_m / mu) * across
            )
            skin = 0.5 * rho * math.pi * line.diameter_m * TANGENTIAL_COEFFICIENT * abs(along) * along
            out[:, k] = tx, tz, -(normal * nx + skin * tx), heavy - (normal * nz + skin * tz)
        return out

    def ends(a: np.ndarray, b: np.ndarray, p: np.ndarray) -> np.ndarray:
        u = current(a[1]) - p[0]
        area = math.pi * body.diameter_m**2 / 4.0
        drag = 0.5 * rho * area * sphere_cd_at(rho * abs(u) * body.diameter_m / mu) * abs(u) * u
        held = 0.5 * rho * scenario.top.drag_area_m2 * abs(us - p[0]) * (us - p[0])
        return np.array(
            [a[0], (a[2] + drag) / weight, (a[3] - weight) / weight, b[1] - depth, (b[2] - held) / weight]
        )

    s = np.linspace(0.0, line.length_m, 60)
    guess = np.array(
        [
            0.2 * s,
            depth - line.length_m * 0.97 + 0.97 * s,
            np.full_like(s, 0.2 * weight),
            np.full_like(s, weight),
        ]
    )
    found = solve_bvp(slope, ends, s, guess, p=[0.88 * us], tol=1e-6, max_nodes=20000)
    assert found.success, found.message
    return depth - found.y[1, 0], found.p[0] / us, found.y[0, -1] - found.y[0, 0]


@pytest.mark.parametrize("case", ["F01", "F02", "F04", "F06"])
def test_float__boundary_value_solution_of_scipy(case: str) -> None:
    depth, pace, offset = _boundary_value_solution(under_a_float(case))
    ours = steady_drift(under_a_float(case))
    assert ours.body_depth_m[0] == pytest.approx(depth, rel=0.005)
    assert ours.top_speed_ratio == pytest.approx(pace, abs=0.003)
    assert ours.offset_m == pytest.approx(offset, rel=0.02, abs=0.003)


def test_float__more_pieces_change_little() -> None:
    for case in FLOATS:
        coarse, fine = steady_drift(under_a_float(case)), steady_drift(under_a_float(case), pieces=120)
        assert coarse.body_depth_m == pytest.approx(fine.body_depth_m, rel=0.004)


@given(fishable())
@settings(max_examples=60)
def test_float__forces_balance_and_nothing_leaves_the_water(scenario: Scenario) -> None:
    rig = steady_drift(scenario)
    water = scenario.water
    rho = density(temperature_c=water.temperature_c)
    lag = (1.0 - rig.top_speed_ratio) * water.surface_speed_m_s
    own = 0.5 * rho * scenario.top.drag_area_m2 * abs(lag) * lag
    across = rig.tension_n * math.sin(math.radians(rig.top_angle_deg))
    assert across == pytest.approx(own, abs=2e-3 * max(own, 1e-4))
    assert 0.0 < rig.body_depth_m[0] <= water.depth_m + 1e-9
    assert max(rig.shape_height_m) <= water.depth_m * 1.001
    assert min(rig.shape_height_m) >= 0.0
    # inextensible: the drawn line is as long as the line is
    nodes = zip(rig.shape_x_m, rig.shape_height_m, strict=True)
    length = sum(math.dist(a, b) for a, b in pairwise(nodes))
    assert length == pytest.approx(scenario.line_length_m, rel=0.01)


@given(fishable(), st.floats(1.2, 2.5))
@settings(max_examples=40)
def test_float__a_heavier_fly_never_hangs_higher(scenario: Scenario, factor: float) -> None:
    light = steady_drift(scenario)
    body = scenario.bodies[0]
    heavy = steady_drift(replace(scenario, bodies=(replace(body, mass_kg=body.mass_kg * factor),)))
    assume(not light.grounded)
    assert heavy.body_depth_m[0] >= light.body_depth_m[0] - 1e-4


@given(fishable(), st.floats(1.5, 3.0))
@settings(max_examples=80)
def test_float__settles_with_far_too_much_line_too(scenario: Scenario, factor: float) -> None:
    """Long line in fast thin water can balance at several heights, or only with the bed taking part of the weight."""
    length = factor * scenario.water.depth_m
    line, body = replace(scenario.line[0], length_m=length), replace(scenario.bodies[0], along_m=length)
    rig = steady_drift(replace(scenario, line=(line,), bodies=(body,)))
    assert 0.0 <= rig.body_depth_m[0] <= scenario.water.depth_m + 1e-9


def test_float__between_two_branches_the_bed_takes_some_of_the_weight() -> None:
    """A light fly on 1.25 m of line under a small dry in 0.55 m of fast water: found where the search once gave up."""
    water = Column(0.5458668, 1.0, 0.005, 1.0)
    fly = Body(1.25, 0.0000747, 0.002, 1.0708707709504108e-08, 9.004856e-06, 0.0011228)
    top = Top("float", mass_kg=4.65e-5, drag_area_m2=1.125e-05)
    rig = steady_drift(Scenario(water, top, (LineSection(1.25, 0.0001524, 1780.0),), (fly,)))
    assert 0.5 < rig.top_speed_ratio < 1.0


def test_float__lags_the_bubbles_by_about_a_tenth() -> None:
    """A free float with its flies down goes at 0.78-0.93 of the surface speed; the fly hangs upstream of it."""
    for case in FLOATS:
        rig = steady_drift(under_a_float(case))
        assert 0.78 <= rig.top_speed_ratio <= 0.93
        assert rig.offset_m > 0.0


def test_still_layers__uniform_current_hangs_plumb() -> None:
    """With the same current at every height nothing drags: the rig hangs straight and goes with the water."""
    scenario = under_a_float("F04")
    rig = steady_drift(replace(scenario, water=replace(scenario.water, profile="uniform")))
    assert rig.top_speed_ratio == pytest.approx(1.0, abs=1e-4)
    assert rig.body_depth_m[0] == pytest.approx(scenario.line_length_m, rel=1e-4)
    weight = (0.0003 - density(temperature_c=10.0) * scenario.bodies[0].displaced_m3) * 9.80665
    line = (1780.0 - density(temperature_c=10.0)) * math.pi * 0.0001524**2 / 4.0 * 0.9 * 9.80665
    assert rig.tension_n == pytest.approx(weight + line, rel=1e-3)


def test_long_line__lies_on_the_bed_and_says_so() -> None:
    scenario = under_a_float("F01")
    rig = steady_drift(
        replace(
            scenario,
            line=(replace(scenario.line[0], length_m=0.5),),
            bodies=(replace(scenario.bodies[0], along_m=0.5),),
        )
    )
    assert rig.grounded
    assert rig.body_depth_m[0] == scenario.water.depth_m


def test_tip__racing_ahead_lifts_the_fly() -> None:
    """T06's light fly under a still tip: the current sweeps it to the top."""
    rig = steady_drift(under_a_tip("T06", 0.0))
    assert rig.lifted
    assert rig.body_depth_m[0] < 0.15


def test_free__sinks_to_the_bed_at_its_own_speed() -> None:
    scenario = replace(under_a_float("F04"), top=Top("free"))
    rig = steady_drift(scenario)
    assert rig.grounded
    alone = settling_velocity(body=scenario.bodies[0], temperature_c=scenario.water.temperature_c)
    assert rig.sinking_speed_m_s == alone


def test_phone__the_same_code_without_numba_and_numpy_gives_the_same_answer() -> None:
    code = (
        "import sys; sys.modules['numba'] = None; sys.modules['numpy'] = None\n"
        "from deriva.core._jit import COMPILED\n"
        "from deriva.core.drift.scenario import *\n"
        "from deriva.core.drift.steady import steady_drift\n"
        "assert not COMPILED\n"
        f"rig = steady_drift({SCENARIO!r})\n"
        "print(rig.body_depth_m[0], rig.top_speed_ratio)"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    ours = steady_drift(SCENARIO)
    assert [float(n) for n in done.stdout.split()] == pytest.approx(
        [ours.body_depth_m[0], ours.top_speed_ratio], rel=1e-6
    )


@pytest.mark.parametrize(
    ("water", "top", "line", "bodies", "error", "said"),
    [
        (Column(0.08, 0.7, 0.1), FLOAT, (LINE,), (FLY,), Impossible, "stones would stand out"),
        (Column(1.0, 0.7, 0.1), FLOAT, (), (FLY,), Impossible, "line is empty"),
        (Column(1.0, 0.7, 0.1), FLOAT, (LINE,), (), Impossible, "bodies has 0"),
        (Column(1.0, 0.7, 0.1), FLOAT, (LINE,), (replace(FLY, along_m=2.0),), Impossible, "not on the line"),
        (Column(1.0, 0.7, 0.1), FLOAT, (LINE,), (replace(FLY, along_m=0.5),), Impossible, "end the line at its last body"),
        (Column(1.0, 0.7, 0.1), FLOAT, (LINE,), (replace(FLY, mass_kg=1e-5),), Impossible, "it would float"),
        (Column(1.0, 0.7, 0.1), Top("tip", height_m=1.5, speed_m_s=0.5), (LINE,), (FLY,), Impossible, "hang in the air"),
        (Column(1.0, 0.7, 0.1), FLOAT, (replace(LINE, diameter_m=0.0),), (FLY,), OutOfRange, "line.0.diameter_m"),
    ],
)  # fmt: skip
def test_scenario__refuses_what_cannot_be(
    water: Column,
    top: Top,
    line: tuple[LineSection, ...],
    bodies: tuple[Body, ...],
    error: type[Exception],
    said: str,
) -> None:
    with pytest.raises(error, match=said):
        Scenario(water, top, line, bodies)


@given(fishable(), st.floats(0.0, 1.4))
@settings(max_examples=40)
def test_tip__settles_or_says_that_it_did_not(scenario: Scenario, share: float) -> None:
    line = replace(scenario.line[0], length_m=scenario.line_length_m + 1.3)
    top = Top("tip", height_m=1.3, speed_m_s=share * scenario.water.surface_speed_m_s)
    body = replace(scenario.bodies[0], along_m=line.length_m)
    try:
        rig = steady_drift(replace(scenario, line=(line,), top=top, bodies=(body,)))
    except NotConverged as error:
        pytest.fail(f"did not settle: {error}")
    assert 0.0 <= rig.body_depth_m[0] <= scenario.water.depth_m + 1e-9
    assert rig.top_speed_ratio == pytest.approx(share)
