"""Fit the sinking surrogate of deriva.core.drift.sinking to the transient engine, over seeded random rigs.

Run by hand when the engine changes: `.venv/bin/python scripts/fit_sinking.py`, and copy what it prints.
"""

import math

import numpy as np

from deriva.core.drift.scenario import Scenario
from deriva.core.drift.sinking import features
from deriva.core.drift.transient import transient_drift
from deriva.core.errors import DerivaError
from deriva.core.model.column import Column
from deriva.core.model.rig import Rig
from deriva.core.rigs.assemble import assemble
from deriva.core.tackle.beads import LADDER_MM
from deriva.core.tackle.flies import DressingClass, Fly
from deriva.core.tackle.floats import DRIES, INDICATORS

RIGS = 400
DRESSINGS: tuple[DressingClass, ...] = ("slim", "dubbed", "soft")


def random_scenario(rng: np.random.Generator, *, tip: bool) -> Scenario:
    """Return a rig that somebody could fish, in water that somebody could stand beside."""
    depth = float(rng.uniform(0.4, 2.4))
    water = Column(
        depth,
        float(rng.uniform(0.1, 1.4)),
        min(depth / 4, float(10 ** rng.uniform(-2, -0.7))),
        float(rng.uniform(3, 20)),
    )
    fly = Fly("nymph", int(rng.integers(10, 19)), float(rng.choice(LADDER_MM)), DRESSINGS[rng.integers(3)])
    two = rng.random() < 0.4 and depth > 0.7
    setting = depth * float(rng.uniform(0.6, 1.3)) + (0.15 if tip else 0.0)
    upper = Fly("nymph", 16, 2.0, "dubbed") if two else None
    floats = (*INDICATORS, *DRIES)
    rig = Rig(
        "euro" if tip else "indicator",
        setting,
        fly,
        upper,
        min(0.45, setting - 0.1) if two else None,
        int(rng.integers(4, 8)),
        float_=None if tip else floats[rng.integers(len(floats))],
        tip_pace=float(rng.uniform(0.8, 0.95)),
    )
    return assemble(rig, water)


def main() -> None:
    """Fit and print, for floats and for tips."""
    for tip in (False, True):
        rng = np.random.default_rng(20)
        rows: list[tuple[float, ...]] = []
        t80s: list[float] = []
        shapes: list[float] = []
        while len(rows) < RIGS:
            try:
                scenario = random_scenario(rng, tip=tip)
                drift = transient_drift(scenario, duration_s=20.0, segments=24)
            except DerivaError:
                continue
            if drift.t95_s is None or drift.t80_s is None or drift.t50_s is None or drift.steady.lifted:
                continue
            if drift.steady.body_depth_m[0] < 0.4 * scenario.water.depth_m:
                continue  # swept up: the surrogate does not speak of it
            rows.append(features(scenario, drift.steady))
            t80s.append(drift.t80_s)
            shapes.append(math.log(math.log(5) / math.log(2)) / math.log(drift.t80_s / drift.t50_s))
        x, y = np.array(rows), np.log(np.array(t80s))
        free_fall, rest = x[:, 0], x[:, 1:]
        coefficients, *_ = np.linalg.lstsq(rest, y - free_fall, rcond=None)
        error = y - free_fall - rest @ coefficients
        name = "TIP" if tip else "FLOAT"
        print(
            name,
            [round(float(c), 4) for c in coefficients],
            f"sd {error.std():.3f} worst {np.abs(error).max():.2f}",
        )
        print("shape", round(float(np.median(shapes)), 3), np.round(np.quantile(shapes, [0.1, 0.9]), 2))


if __name__ == "__main__":
    main()
