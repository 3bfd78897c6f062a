"""A nymph under a float in a metre of water: where it settles, and how long it takes to get there."""

from deriva.core.drift.transient import transient_drift
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs.assemble import assemble
from deriva.core.rigs.resolve import resolve

situation = Situation(Water(depth_m=1.0, surface_speed_m_s=0.6, bed="gravel"))
for bead_mm in (2.0, 3.0, 4.0):
    rig = resolve(Tuning("indicator", depth_setting_m=1.0, point_bead_mm=bead_mm, flies=1), situation)
    drift = transient_drift(assemble(rig, situation.water.column()), duration_s=10.0)
    settled = drift.steady
    print(
        f"{bead_mm:.1f} mm under the {rig.float_.name if rig.float_ else 'tip'}: settles {settled.body_depth_m[0]:.2f} m down, "
        f"80 % of it after {drift.t80_s or float('nan'):.1f} s, at {100 * settled.top_speed_ratio:.0f} % of the bubbles"
    )
