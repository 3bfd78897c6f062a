"""Flies on tags of their own: the two solvers against each other, against a balance of forces found by `scipy`, and against
the same fly tied on the line.
"""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.optimize import root

from deriva.core.drift.drag import TANGENTIAL_COEFFICIENT, cylinder_cd, sphere_cd
from deriva.core.drift.scenario import LineSection, Scenario, Top
from deriva.core.drift.steady import steady_drift
from deriva.core.drift.transient import transient_drift
from deriva.core.errors import Impossible, NotConverged, OutOfRange
from deriva.core.model.column import Column
from deriva.core.tackle.body import Body
from deriva.core.water.profile import current_speed
from deriva.core.water.properties import GRAVITY_M_S2, density, dynamic_viscosity

FLOAT = Top("float", mass_kg=0.001, drag_area_m2=0.5e-4)
WATER = Column(1.0, 0.7, 0.1, 10.0, "log")


def rig(tag_m: float, *, top: Top = FLOAT, water: Column = WATER, length: float = 0.95) -> Scenario:
    """Two flies, the upper on a tag 45 cm above the point."""
    return Scenario(
        water,
        top,
        (LineSection(length, 0.00015, 1780.0),),
        (
            Body(length, 0.0003, 0.0035),
            Body(length - 0.45, 0.00012, 0.0025, tag_m=tag_m, tag_diameter_m=0.00015),
        ),
    )


def balanced(scenario: Scenario, *, pieces: int, in_tag: int) -> tuple[float, float]:
    """Return (depth of the point, depth of the fly on the tag). Rigid links, each of them lying along the sum of all forces
    below it: one equation a link for its angle, all solved at once by `scipy.optimize.root` from a line that hangs plumb.
    The frame goes with the top at the steady pace.
    """
    water, line = scenario.water, scenario.line[0]
    point, upper = scenario.bodies
    rho, mu = density(temperature_c=water.temperature_c), dynamic_viscosity(temperature_c=water.temperature_c)
    v = steady_drift(scenario).top_speed_ratio * water.surface_speed_m_s
    knot = round(pieces * upper.along_m / line.length_m)
    count = pieces + in_tag
    lengths = np.array([line.length_m / pieces] * pieces + [upper.tag_m / in_tag] * in_tag)
    parent = [*range(-1, pieces - 1), knot - 1, *range(pieces, count - 1)]
    below = np.eye(count)  # links that hang from each link, itself among them
    for j in reversed(range(count)):
        if parent[j] >= 0:
            below[parent[j]] += below[j]
    area = math.pi * line.diameter_m**2 / 4.0

    def flow(z: float) -> float:
        return (
            current_speed(
                height_m=min(max(water.depth_m + z, 0.0), water.depth_m),
                depth_m=water.depth_m,
                surface_speed_m_s=water.surface_speed_m_s,
                bed_ks_m=water.bed_ks_m,
                profile=water.profile,
            )
            - v
        )

    def heights(angles: np.ndarray) -> np.ndarray:
        z = np.zeros(count)
        for j in range(count):
            z[j] = (z[parent[j]] if parent[j] >= 0 else 0.0) - lengths[j] * math.cos(angles[j])
        return z

    def left(angles: np.ndarray) -> np.ndarray:
        z = heights(angles)
        own, ends = np.zeros((count, 2)), np.zeros((count, 2))
        for j in range(count):
            t = np.array([math.sin(angles[j]), -math.cos(angles[j])])
            u = np.array([flow(float(z[j] + 0.5 * lengths[j] * math.cos(angles[j]))), 0.0])
            along = float(u @ t)
            across = u - along * t
            w = float(np.hypot(*across))
            cd = cylinder_cd(Re=max(1e-6, rho * w * line.diameter_m / mu))
            own[j] = 0.5 * rho * line.diameter_m * cd * w * across
            own[j] += 0.5 * rho * math.pi * line.diameter_m * TANGENTIAL_COEFFICIENT * abs(along) * along * t
            own[j, 1] -= (line.density_kg_m3 - rho) * area * GRAVITY_M_S2
            own[j] *= lengths[j]
        for link, body in ((pieces - 1, point), (count - 1, upper)):
            past = flow(float(z[link]))
            cd = sphere_cd(Re=max(1e-6, rho * abs(past) * body.diameter_m / mu))
            ends[link, 0] += 0.5 * rho * cd * math.pi * body.diameter_m**2 / 4.0 * abs(past) * past
            ends[link, 1] -= (body.mass_kg - rho * body.displaced_m3) * GRAVITY_M_S2
        pull = below @ (own + ends) - 0.5 * own  # at the middle of each link
        return np.asarray(1e3 * (pull[:, 0] * np.cos(angles) + pull[:, 1] * np.sin(angles)))

    found = root(left, np.zeros(count), method="hybr", options={"xtol": 1e-10})
    assert float(np.abs(found.fun).max()) < 1e-6  # mN, against pulls of one to three
    z = heights(found.x)
    return -float(z[pieces - 1]), -float(z[count - 1])


@pytest.mark.parametrize("speed", [0.35, 0.7])
def test_tag__hangs_where_a_balance_of_springs_puts_it(speed: float) -> None:
    scenario = rig(0.12, water=Column(1.0, speed, 0.1, 10.0, "log"))
    steady = steady_drift(scenario)
    point, upper = balanced(scenario, pieces=19, in_tag=3)
    assert steady.body_depth_m[0] == pytest.approx(point, abs=0.006)
    assert steady.body_depth_m[1] == pytest.approx(upper, abs=0.006)


@settings(max_examples=25, deadline=None)
@given(
    tag=st.floats(0.05, 0.2),
    depth=st.floats(0.8, 1.8),
    speed=st.floats(0.2, 0.9),
    mass=st.floats(0.00025, 0.0006),
)
def test_tag__both_solvers_agree(tag: float, depth: float, speed: float, mass: float) -> None:
    scenario = rig(tag, water=Column(depth, speed, 0.08, 10.0, "log"), length=0.92 * depth)
    scenario = replace(scenario, bodies=(replace(scenario.bodies[0], mass_kg=mass), scenario.bodies[1]))
    steady = steady_drift(scenario)
    assume(not steady.grounded)
    run = transient_drift(scenario, duration_s=25.0)
    for body in range(2):
        end = float(run.body_depth_m[-50:, body].mean())
        assert end == pytest.approx(steady.body_depth_m[body], rel=0.01, abs=0.003)
    assert run.stretch < 0.001


def test_tag__of_no_length_is_a_fly_on_the_line() -> None:
    on_line, on_tag = steady_drift(rig(0.0)), steady_drift(rig(1e-4))
    assert on_tag.body_depth_m == pytest.approx(on_line.body_depth_m, abs=3e-4)
    assert on_tag.top_speed_ratio == pytest.approx(on_line.top_speed_ratio, abs=1e-4)
    a, b = (transient_drift(rig(tag), duration_s=4.0) for tag in (0.0, 0.002))
    assert b.t80_s == pytest.approx(a.t80_s, rel=0.02)


def test_tag__lets_its_fly_ride_lower_and_never_longer_than_it_is() -> None:
    for tag in (0.05, 0.1, 0.15):
        run = transient_drift(rig(tag), duration_s=6.0)
        knot = run.body_knots[1]
        apart = np.hypot(
            run.body_x_m[:, 1] - run.line_x_m[:, knot],
            1.0 - run.body_depth_m[:, 1] - run.line_height_m[:, knot],
        )
        assert apart.max() < 1.002 * tag
        assert run.steady.body_depth_m[1] > steady_drift(rig(0.0)).body_depth_m[1]


@settings(max_examples=60, deadline=None)
@given(
    pace=st.floats(0.5, 1.1),
    tag=st.floats(0.0, 0.2),
    mass=st.floats(0.0001, 0.0006),
    depth=st.floats(0.4, 2.0),
)
def test_tag__under_a_rod_tip_always_has_an_answer(
    pace: float, tag: float, mass: float, depth: float
) -> None:
    """Also where the tip lifts the upper fly out of the water."""
    water = Column(depth, 0.8, 0.1, 10.0, "log")
    length = 1.15 + 0.15 + depth
    bodies = (Body(length, mass, 0.003), Body(length - 0.3, 0.00008, 0.002, tag_m=tag))
    assume(mass > 1000.0 * bodies[0].displaced_m3)
    line = (LineSection(1.15, 0.00022, 1140.0), LineSection(length - 1.15, 0.00013, 1780.0))
    steady = steady_drift(Scenario(water, Top("tip", height_m=1.3, speed_m_s=pace * 0.8), line, bodies))
    assert all(math.isfinite(d) and -1e-9 <= d <= depth + 1e-9 for d in steady.body_depth_m)


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"tag_m": 0.4}, "bodies.1.tag_m"),
        ({"tag_m": -0.1}, "bodies.1.tag_m"),
        ({"tag_m": 0.1, "along_m": 0.95}, "bodies.1.tag_m"),
        ({"tag_m": 0.1, "tag_diameter_m": 0.0}, "bodies.1.tag_diameter_mm"),
        ({"tag_m": 0.1, "mass_kg": 1e-6}, "bodies.1.mass_g"),
    ],
)
def test_tag__that_cannot_be_is_refused_by_name(changes: dict[str, float], field: str) -> None:
    good = rig(0.1)
    with pytest.raises((Impossible, OutOfRange)) as told:
        replace(good, bodies=(good.bodies[0], replace(good.bodies[1], **changes)))
    assert told.value.field == field


def test_tags__two_in_one_place_are_refused() -> None:
    good = rig(0.1)
    with pytest.raises(Impossible, match="set them apart"):
        replace(good, bodies=(*good.bodies, replace(good.bodies[1], mass_kg=0.0002)))


@settings(max_examples=150, deadline=None)
@given(
    depth=st.floats(0.05, 4.0),
    speed=st.floats(0.01, 2.5),
    ks=st.floats(0.001, 0.5),
    profile=st.sampled_from(["log", "power", "uniform", "undertow", "stones"]),
    kind=st.sampled_from(["float", "tip", "free"]),
    height=st.floats(0.0, 3.0),
    pace=st.floats(0.0, 3.0),
    area=st.floats(1e-6, 1e-3),
    length=st.floats(0.05, 6.0),
    diameter=st.floats(0.00005, 0.001),
    material=st.floats(800.0, 2500.0),
    mass=st.floats(1e-6, 0.005),
    size=st.floats(0.0005, 0.02),
    upper=st.floats(0.05, 0.95),
    tag=st.floats(0.0, 0.35),
)
def test_any_rig__settles_or_is_refused_by_name(
    depth: float, speed: float, ks: float, profile: str, kind: str, height: float, pace: float, area: float,
    length: float, diameter: float, material: float, mass: float, size: float, upper: float, tag: float,
) -> None:  # fmt: skip
    """Impossible rigs and water give a named error: never NaN, never a fly under the bed, never a hang."""
    try:
        scenario = Scenario(
            Column(depth, speed, ks, 10.0, profile),  # type: ignore[arg-type]
            Top(kind, mass_kg=0.001, drag_area_m2=area, height_m=height, speed_m_s=pace),  # type: ignore[arg-type]
            (LineSection(length, diameter, material),),
            (Body(length, mass, size), Body(upper * length, mass, size, tag_m=tag)),
        )
        steady = steady_drift(scenario)
    except (Impossible, OutOfRange, NotConverged) as told:
        assert str(told)
        return
    assert all(math.isfinite(d) and 0.0 <= d <= depth + 1e-9 for d in steady.body_depth_m)
    assert math.isfinite(steady.offset_m)
    assert math.isfinite(steady.tension_n)
