"""A stay at a hidden lie: as often touched as drifts one by one, and taken as its shoal is said to."""

from dataclasses import replace

import numpy as np
import pytest

from deriva.core.model.tuning import Tuning
from deriva.core.practice.river import fish
from deriva.core.practice.stay import Stayed, stay
from deriva.core.practice.world import Hidden, Shoal, hidden_waters
from deriva.core.rigs.resolve import resolve

DRIFT_M = 6.0
WATERS = hidden_waters(30, 5)


def stayed(
    hidden: Hidden, seed: int, *, share: float = 1.2, drifts: int = 12, bead: float = 3.0
) -> list[Stayed]:
    rig = resolve(Tuning("euro", share * hidden.truth.water.depth_m, bead, flies=1), hidden.truth)
    return stay(rig, hidden, np.random.default_rng(seed), drifts=drifts, drift_m=DRIFT_M)


def test_stay__ends_its_drifts_as_drifts_one_by_one_end() -> None:
    """In thirty waters: a stay's casts land alike, and on the whole they land as any others."""
    alone, together = [], []
    for k, hidden in enumerate(WATERS):
        rig = resolve(Tuning("euro", 1.2 * hidden.truth.water.depth_m, 3.0, flies=1), hidden.truth)
        random = np.random.default_rng(k)
        alone.append(
            np.mean([fish(rig, hidden, random, drift_m=DRIFT_M).outcome != "clean" for _ in range(12)])
        )
        together.append(np.mean([one.outcome != "clean" for one in stayed(hidden, k)]))
    error = float(np.std(np.subtract(alone, together))) / np.sqrt(len(WATERS))
    assert 0.2 < np.mean(alone) < 0.8
    assert np.mean(together) == pytest.approx(np.mean(alone), abs=3.0 * error)


def test_stay__is_taken_by_whoever_is_there_as_keenly_as_they_are() -> None:
    """Twice as keen is nearly twice the takes while they are few; none of nobody, and none of a fly far above them."""
    counts = {}
    for keen in (0.0, 0.02, 0.04):
        shoals = [replace(one, shoal=Shoal(1, keen)) for one in WATERS]
        counts[keen] = sum(
            one.take is not None for k, hidden in enumerate(shoals) for one in stayed(hidden, k)
        )
    assert counts[0.0] == 0
    assert 20 < counts[0.02] < counts[0.04]
    assert counts[0.04] / counts[0.02] == pytest.approx(1.85, abs=0.3)
    deep = replace(WATERS[0], shoal=Shoal(1, 0.3))
    assert not any(one.take for one in stayed(deep, 1, share=0.3, bead=1.5))
    for one in stayed(deep, 1):
        assert one.take is None or one.lasted_s == one.take.at_s
