"""One drift as a picture in time: what the rig in hand does at the depth believed, and how long it is in the zone."""

from dataclasses import dataclass

import numpy as np

from deriva.core.drift.scenario import Scenario
from deriva.core.drift.transient import TransientDrift, transient_drift

LONGEST_S = 30.0
LEAD_OUT_S = 1.0


@dataclass(frozen=True, slots=True)
class DriftPath:
    """A drift until it ends or drags, with the share of it that any fly was in the strike zone."""

    drift: TransientDrift
    ends_s: float
    in_zone_share: float
    reached_s: float | None


def drift_path(
    scenario: Scenario, *, drift_s: float, flies: int, zone_low_m: float, zone_high_m: float
) -> DriftPath:
    """Run the transient drift for the seconds that can be fished; the first ``flies`` bodies are flies, not shot."""
    ends = min(LONGEST_S, drift_s)
    drift = transient_drift(scenario, duration_s=min(LONGEST_S, ends + LEAD_OUT_S))
    height = scenario.water.depth_m - drift.body_depth_m[:, :flies]
    inside = np.any((height >= zone_low_m - 1e-9) & (height <= zone_high_m), axis=1)
    first = np.nonzero(inside)[0]
    return DriftPath(
        drift=drift,
        ends_s=ends,
        in_zone_share=float(np.mean(inside[drift.t_s <= ends])),
        reached_s=float(drift.t_s[first[0]]) if len(first) else None,
    )
