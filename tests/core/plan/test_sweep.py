"""The wide look against the close one: the same numbers from the compiled sweep as from the plain evaluation."""

from dataclasses import replace

import numpy as np
import pytest

from deriva.core.advice.advisor import advise
from deriva.core.advice.candidates import candidates
from deriva.core.advice.evaluate import evaluate
from deriva.core.advice.situation import LieWater, Place, Situation
from deriva.core.drift.steady import steady_drift
from deriva.core.plan.sweep import sweep
from deriva.core.rigs.spec import RIG_KINDS, RigKind, assemble

WATERS = (
    LieWater(1.2, 0.9, "run", 0.25, "cobble", 1.2, 11.0),
    LieWater(0.6, 0.35, "glide", 0.1, "gravel", 2.0, 13.0),
    LieWater(2.0, 0.4, "pool", 0.4, "gravel", 1.0, 5.0),
)


@pytest.mark.parametrize("kind", RIG_KINDS)
@pytest.mark.parametrize("water", WATERS)
def test_sweep__finds_what_the_close_look_finds(water: LieWater, kind: RigKind) -> None:
    situation = Situation(water, Place(6.0))
    rigs = list(candidates(situation, kind))
    seen = sweep(rigs, situation)
    apart: list[float] = []
    for k in range(0, len(rigs), max(1, len(rigs) // 60)):
        close = evaluate(rigs[k], situation)
        if close.steady.grounded:
            assert seen.found[k] == 0.0
            continue
        if seen.found[k] < 1.0:
            continue  # it does not promise much, or has no quick answer: passed over
        apart.append(abs(seen.zone_share[k] - close.zone_share))
        if kind != "euro":
            assert seen.load_n[k] == pytest.approx(close.load_n, rel=0.03, abs=1e-5)
        assert seen.hang_chance[k] == pytest.approx(close.hang_chance, abs=0.1)
    assert len(apart) >= 5
    assert float(np.median(apart)) < 0.01
    assert max(apart) < 0.08  # a fly at the edge of the zone is in it or not by a hair


def test_advice__is_no_worse_than_any_setting_looked_at_closely() -> None:
    situation = Situation(WATERS[0], Place(6.0))
    best = {judged.kind: judged for judged in advise(situation).ranked}
    for kind in RIG_KINDS:
        rigs = list(candidates(situation, kind))
        assert best[kind].evaluation is not None
        for rig in rigs[:: max(1, len(rigs) // 15)]:
            if steady_drift(assemble(rig, situation.water.column())).grounded:
                continue
            assert evaluate(rig, situation).zone_share <= best[kind].evaluation.zone_share + 0.15  # type: ignore[union-attr]


def test_plan__looks_at_many_settings() -> None:
    situation = Situation(replace(WATERS[0], depth_m=1.2), Place(6.0))
    assert sum(len(list(candidates(situation, kind))) for kind in RIG_KINDS) >= 1500
