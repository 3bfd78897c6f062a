"""Scenarios that the tests of the drift share, built through the same door as the headless command."""

from collections.abc import Mapping
from typing import Any

from hypothesis import strategies as st

from deriva.core.drift.scenario import LineSection, Scenario, Top
from deriva.core.model.column import Column
from deriva.core.tackle.body import Body
from deriva.core.tackle.flies import Fly, fly_body
from deriva.service.schemas.drift import DriftIn
from tests.reference import float_cases, tip_cases

FLOATS: Mapping[str, dict[str, Any]] = {case["id"]: case for case in float_cases()}
TIPS: Mapping[str, dict[str, str]] = {case["case"]: case for case in tip_cases()}


def under_a_float(case: str) -> Scenario:
    """Return a reference case under a float."""
    return DriftIn.model_validate(FLOATS[case]["scenario"]).scenario()


def under_a_tip(case: str, share: float | None = None) -> Scenario:
    """Return a reference case under a rod tip, at its own share of the surface speed or another."""
    n = {name: float(value) for name, value in TIPS[case].items() if name != "case"}
    us = n["surface_speed_m_s"]
    return Scenario(
        Column(n["depth_m"], us, n["bed_ks_m"], n["temperature_c"]),
        Top("tip", height_m=n["height_m"], speed_m_s=(n["share"] if share is None else share) * us),
        (LineSection(n["length_m"], n["line_mm"] / 1000.0, n["line_kg_m3"]),),
        (Body(n["length_m"], n["body_g"] / 1000.0, n["body_mm"] / 1000.0),),
    )


@st.composite
def fishable(draw: st.DrawFn) -> Scenario:
    """Draw a rig under a float that somebody could fish."""
    depth = draw(st.floats(0.3, 2.5))
    line = depth * draw(st.floats(0.5, 1.3))
    fly = Fly("nymph", draw(st.integers(10, 18)), draw(st.sampled_from([2.0, 2.5, 3.0, 3.5, 4.0])), "dubbed")
    return Scenario(
        Column(depth, draw(st.floats(0.1, 1.4)), min(depth / 4.0, draw(st.floats(0.005, 0.3))), 10.0),
        Top("float", mass_kg=0.0005, drag_area_m2=draw(st.floats(0.2, 1.2)) * 1e-4),
        (LineSection(line, draw(st.floats(0.0001, 0.0002)), 1780.0),),
        (fly_body(fly, along_m=line),),
    )
