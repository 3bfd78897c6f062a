"""The transient engine against mechanics that need no river: a pendulum, a hanging chain, energy, and the entries of a cast.

Water is taken away by a density and drag of nought: `monkeypatch` puts a vacuum in its place.
"""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from deriva.core.drift import transient
from deriva.core.drift.scenario import LineSection, Scenario, Top
from deriva.core.drift.steady import steady_drift
from deriva.core.drift.transient import Entry, TipPhase, transient_drift
from deriva.core.model.column import Column
from deriva.core.tackle.body import Body
from tests.core.drift.scenes import FLOATS, fishable, under_a_float, under_a_tip

G = 9.80665
ENTRIES: tuple[Entry, ...] = ("straight", "tuck", "heap", "lead")


@pytest.fixture
def vacuum(monkeypatch: pytest.MonkeyPatch) -> None:
    """Water without density or viscosity to speak of: nothing drags, nothing is buoyant."""
    monkeypatch.setattr(transient, "density", lambda **_: 1e-9)
    monkeypatch.setattr(transient, "dynamic_viscosity", lambda **_: 1e-15)
    monkeypatch.setattr(
        transient, "steady_drift", lambda s: steady_drift(under_a_float("F04")) if s else None
    )


def hung(length: float, line_kg_m: float, bob_kg: float) -> Scenario:
    """A bob on a line from a rod tip that stands still, let go level with it."""
    diameter = 0.0002
    section = LineSection(length, diameter, line_kg_m / (math.pi * diameter**2 / 4.0))
    return Scenario(
        Column(4.0, 0.01, 0.005, 10.0, "uniform"),
        Top("tip", height_m=0.0, speed_m_s=0.0),
        (section,),
        (Body(length, bob_kg, 0.004),),
    )


def swings(scenario: Scenario, seconds: float, step_s: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    run = transient_drift(scenario, duration_s=seconds, step_s=step_s, segments=16)
    x, z = run.body_x_m[:, 0], -run.body_depth_m[:, 0]
    return run.t_s, x - run.top_x_m, z


@pytest.mark.usefixtures("vacuum")
def test_pendulum__let_go_level_swings_with_the_period_of_the_elliptic_integral() -> None:
    """From 90° a pendulum takes 4·√(L/g)·K(sin 45°), K = 1.854075 (any table of elliptic integrals)."""
    length = 1.0
    t, x, _ = swings(hung(length, 1e-6, 0.01), 3.0, 0.0005)
    quarter = math.sqrt(length / G) * 1.854075
    k = int(np.nonzero((x[:-1] < 0.0) & (x[1:] >= 0.0))[0][0])
    passed = t[k] - x[k] * (t[k + 1] - t[k]) / (x[k + 1] - x[k])
    assert passed == pytest.approx(quarter, rel=0.01)


@pytest.mark.usefixtures("vacuum")
def test_chain__energy_is_never_made() -> None:
    """A heavy line with a bob, falling from level: kinetic and potential energy together only ever fall."""
    length, line, bob = 1.0, 0.01, 0.01
    run = transient_drift(hung(length, line, bob), duration_s=2.0, step_s=0.001, segments=16)
    dt = run.t_s[1] - run.t_s[0]
    vx, vz = np.gradient(run.line_x_m, dt, axis=0), np.gradient(run.line_height_m, dt, axis=0)
    weights = np.full(run.line_x_m.shape[1], line * length / (run.line_x_m.shape[1] - 1))
    weights[[0, -1]] /= 2.0
    weights[-1] += bob
    energy = (weights * (0.5 * (vx**2 + vz**2) + G * run.line_height_m)).sum(axis=1)
    fall = G * float((weights * length).sum())
    assert energy[2:-2].max() - energy[2] < 0.02 * fall
    assert energy[2:-2].min() > energy[2] - fall


def test_chain__hangs_plumb_in_still_water_with_the_tension_of_its_weight() -> None:
    scenario = replace(
        under_a_tip("T03", 0.0), water=Column(0.9, 0.01, 0.1, 6.0, "uniform"), top=Top("tip", height_m=1.5)
    )
    run = transient_drift(scenario, duration_s=30.0)
    assert run.body_x_m[-1, 0] == pytest.approx(
        run.top_x_m[-1], abs=0.05
    )  # 1 cm/s is the stillest water there is
    body, line = scenario.bodies[0], scenario.line[0]
    area = math.pi * line.diameter_m**2 / 4.0
    weight = G * (body.mass_kg - 999.94 * body.displaced_m3)
    weight += G * area * (line.density_kg_m3 * line.length_m - 999.94 * (line.length_m - 1.5))
    assert run.pull_n[-50:, 1].mean() == pytest.approx(weight, rel=0.01)


@pytest.mark.parametrize("entry", ENTRIES)
@pytest.mark.parametrize("case", ["F02", "F04", "F17"])
def test_entry__all_end_in_the_same_steady_drift(case: str, entry: Entry) -> None:
    run = transient_drift(under_a_float(case), duration_s=20.0, entry=entry)
    assert run.body_depth_m[-1] == pytest.approx(run.steady.body_depth_m, rel=0.01)
    assert run.stretch < 1e-3


def test_entry__a_tuck_and_slack_let_the_fly_down_faster_than_a_straight_line() -> None:
    """Common practice, no source: a tuck drives the flies in first and down faster."""
    for case in ("F02", "F04", "F06"):
        times = {
            entry: transient_drift(under_a_float(case), duration_s=8.0, entry=entry).t80_s or math.inf
            for entry in ENTRIES
        }
        assert times["tuck"] < times["heap"] < times["straight"]


@pytest.mark.parametrize("entry", ENTRIES)
def test_entry__more_segments_change_little(entry: Entry) -> None:
    coarse, fine = (
        transient_drift(under_a_float("F04"), duration_s=6.0, entry=entry, segments=n) for n in (20, 60)
    )
    assert coarse.t80_s == pytest.approx(fine.t80_s, rel=0.03)


def test_phases__a_still_tip_lifts_the_fly_and_a_lift_brings_it_up() -> None:
    scenario = under_a_tip("T03", 0.86)
    us = scenario.water.surface_speed_m_s
    run = transient_drift(
        scenario,
        duration_s=14.0,
        phases=(TipPhase(8.0, 0.86 * us), TipPhase(11.0, 0.0), TipPhase(99.0, 0.0, 0.3)),
    )
    at = {s: float(np.interp(s, run.t_s, run.body_depth_m[:, 0])) for s in (7.9, 10.9, 13.9)}
    assert at[7.9] == pytest.approx(run.steady.body_depth_m[0], rel=0.03)
    assert at[7.9] > at[10.9] + 0.1 > at[13.9] + 0.1
    pull = np.hypot(run.pull_n[:, 0], run.pull_n[:, 1])
    assert pull[run.t_s > 9.0].max() > 1.2 * pull[(run.t_s > 5.0) & (run.t_s < 8.0)].max()


@given(fishable(), st.sampled_from(ENTRIES), st.floats(1.0, 2.5))
@settings(max_examples=40, deadline=None)
def test_any_rig_any_entry__comes_down_whole(scenario: Scenario, entry: Entry, factor: float) -> None:
    length = factor * scenario.line_length_m
    line, body = replace(scenario.line[0], length_m=length), replace(scenario.bodies[0], along_m=length)
    run = transient_drift(replace(scenario, line=(line,), bodies=(body,)), duration_s=6.0, entry=entry)
    assert run.stretch < 1e-3
    assert np.isfinite(run.line_x_m).all()
    assert 0.0 <= run.body_depth_m[:, 0].max() <= scenario.water.depth_m
    assert run.pull_n.min() > -1.0


def test_pull__is_the_steady_tension_in_the_end() -> None:
    for case in ("F01", "F04", "F15", "F19"):
        run = transient_drift(under_a_float(case), duration_s=20.0)
        assert float(np.hypot(*run.pull_n[-50:].mean(axis=0))) == pytest.approx(
            FLOATS[case]["tension_n"], rel=0.05
        )
