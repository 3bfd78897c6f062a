"""Mending and feeding line for a float, from how the currents of a lie differ."""

from deriva.core.choose.evaluate import CROSS_SHEAR, Evaluation
from deriva.core.drift.mending import Mending, mending
from deriva.core.model.quantity import qty
from deriva.core.model.situation import Situation

LANE_SHARE = 0.5
"""Share of the distance to the fish over which the line lies on other currents (common practice, no source)."""


def mend_advice(evaluation: Evaluation, situation: Situation) -> tuple[Mending, str] | None:
    """Return how to keep a float from dragging here, and that in words; None for a tight line, which lies on no water.

    Unless it was timed, the water between angler and float is taken to be the faster by the lie's shear, as it is on the near
    side of most lies.
    """
    if evaluation.rig.float_ is None:
        return None
    read = situation.water.under_line_ratio
    ratio = 1.0 + CROSS_SHEAR[situation.water.kind] if read is None else read
    pace = evaluation.steady.top_speed_ratio * situation.water.surface_speed_m_s
    found = mending(
        float_speed_m_s=pace,
        lane_speed_m_s=situation.water.surface_speed_m_s * ratio,
        lane_width_m=max(0.2, LANE_SHARE * situation.place.distance_m),
        drift_s=evaluation.drift_s,
    )
    feed = f"Fishing up, strip at {qty(pace, 'm/s')}; fishing down, feed as fast."
    if found.drags_after_s is None:
        return found, f"The line goes with the float: no need to mend. {feed}"
    often = (
        ""
        if found.mends == 0
        else f", {found.mends} times in this drift"
        if found.mends > 1
        else ", once in this drift"
    )
    under = "Where the water under the line is the faster"
    if read is not None:
        under = f"As the water under the line is the {'faster' if read >= 1.0 else 'slower'}"
    return (
        found,
        f"{under}, the float drags after {qty(found.drags_after_s, 's', 1)}: mend {found.way}{often}. {feed}",
    )
