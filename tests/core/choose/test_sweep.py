"""The wide look against the close one: the same numbers from the compiled sweep as from the plain evaluation."""

from dataclasses import replace

import numpy as np
import pytest

from deriva.core.choose.candidates import candidates, families, settings
from deriva.core.choose.evaluate import evaluate
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import sweep, wide
from deriva.core.drift.steady import steady_drift
from deriva.core.model.rig import RIG_KINDS, Rig, RigKind
from deriva.core.model.situation import Place, School, Situation
from deriva.core.model.water import Water
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.parts import hangs

WATERS = (
    Water(1.2, 0.9, "run", 0.25, "cobble", 1.2, 11.0),
    Water(0.6, 0.35, "glide", 0.1, "gravel", 2.0, 13.0),
    Water(2.0, 0.4, "pool", 0.4, "gravel", 1.0, 5.0),
    Water(1.5, 0.5, "pool", 0.3, "boulder", 1.0, 9.0, undertow=True),
)


@pytest.mark.parametrize("kind", RIG_KINDS)
@pytest.mark.parametrize("water", WATERS)
def test_sweep__finds_what_the_close_look_finds(water: Water, kind: RigKind) -> None:
    situation = Situation(water, Place(6.0))
    kin, lengths = list(families(situation, kind)), settings(situation, kind)
    seen = sweep(kin, lengths, situation)
    random = np.random.default_rng(7)
    apart: list[float] = []
    hung: list[float] = []
    paces: list[float] = []
    for _ in range(60):
        f, s = int(random.integers(len(kin))), int(random.integers(len(lengths)))
        if not hangs(kin[f].dropper_spacing_m, lengths[s]):
            assert seen.found[f, s] == 0.0
            continue
        close = evaluate(replace(kin[f], depth_setting_m=lengths[s]), situation)
        if close.steady.grounded or seen.found[f, s] < 1.0:
            continue  # it lies on the bed, or has no quick answer: passed over
        apart.append(abs(float(seen.zone_share[f, s]) - close.zone_share))
        hung.append(abs(float(seen.hang_chance[f, s]) - close.hang_chance))
        if kind != "euro":
            assert seen.load_n[f, s] == pytest.approx(close.load_n, rel=0.03, abs=1e-5)
        if not close.steady.lifted:
            paces.append(abs(float(seen.fly_pace[f, s]) / close.fly_pace - 1.0))
        assert seen.touch_chance[f, s] == pytest.approx(close.touch_chance, abs=0.06)
    assert len(apart) >= 5
    assert float(np.median(apart)) < 0.005
    assert float(np.quantile(apart, 0.9)) < 0.05
    assert float(np.quantile(hung, 0.9)) < 0.06
    assert (
        float(np.quantile(paces, 0.9)) < 0.1
    )  # of two flies that are as long in the zone either may be the best
    assert max(apart) < 0.15  # a fly at the edge of the zone, or of the bed, is there or not by a hair


@pytest.mark.parametrize("kind", RIG_KINDS)
def test_sweep__passes_over_what_lies_on_the_bed(kind: RigKind) -> None:
    """Whether the fly of a long line lies or all but lies is loose, a few millimetres over the bed: a few may differ."""
    situation = Situation(WATERS[1], Place(6.0))
    kin, lengths = list(families(situation, kind)), settings(situation, kind)
    seen = sweep(kin, lengths, situation)
    looked = differ = 0
    for f in range(len(kin)):
        for s in (0, len(lengths) // 2, len(lengths) - 1):
            if hangs(kin[f].dropper_spacing_m, lengths[s]):
                steady = steady_drift(
                    assemble(replace(kin[f], depth_setting_m=lengths[s]), situation.water.column())
                )
                looked += 1
                differ += steady.grounded != (seen.found[f, s] == 0.0)
    assert looked >= 10
    assert differ <= 0.1 * looked


def test_advice__is_no_worse_than_any_setting_looked_at_closely() -> None:
    situation = Situation(WATERS[0], Place(6.0))
    best = {judged.kind: judged for judged in advise(situation, wide).usable}
    for kind in RIG_KINDS:
        rigs = list(candidates(situation, kind))
        for rig in rigs[:: max(1, len(rigs) // 15)]:
            if steady_drift(assemble(rig, situation.water.column())).grounded:
                continue
            assert evaluate(rig, situation).zone_share <= best[kind].evaluation.zone_share + 0.15


@pytest.mark.parametrize("water", WATERS)
def test_plan__looks_at_thousands_of_settings(water: Water) -> None:
    situation = Situation(water, Place(6.0))
    assert sum(len(list(candidates(situation, kind))) for kind in RIG_KINDS) >= 2000


@pytest.mark.parametrize(
    "school", [School(), School(heavy="first"), School(tied="line"), School(flies="one")]
)
def test_candidates__coarse_ones_are_among_the_fine_or_between_them(school: School) -> None:
    """The phone looks at fewer settings of the same families; two flies as far apart as the line allows."""
    situation = Situation(WATERS[0], Place(6.0), school=school)
    for kind in RIG_KINDS:
        fine = list(candidates(situation, kind))
        coarse = list(candidates(situation, kind, fine=False))
        assert 0 < len(coarse) < len(fine) / 4
        kin = {replace(rig, depth_setting_m=1.0) for rig in fine}
        assert {replace(rig, depth_setting_m=1.0) for rig in coarse} <= kin
        tags = {rig.dropper_tag_m for rig in fine if rig.dropper is not None}
        hangs = school.tied == "tag" and school.heavy == "point"
        assert tags <= ({0.12} if hangs else {0.0})


def test_family__leaves_as_much_line_above_two_flies_as_between() -> None:
    situation = Situation(WATERS[0], Place(6.0))
    family: Rig = next(one for one in families(situation, "euro") if one.dropper_spacing_m == 0.45)
    assert not hangs(family.dropper_spacing_m, 0.85)
    assert hangs(family.dropper_spacing_m, 0.9)
