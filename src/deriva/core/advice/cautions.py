"""What could hurt the angler or the fish, said where a decision is made."""

from dataclasses import dataclass

from deriva.core.advice.situation import LieWater, Situation
from deriva.core.advice.wording import qty
from deriva.core.water.profile import BedKind
from deriva.core.water.wading import DEPTH_LIMIT_M, limits, wading

STOP_C = 20.0
CAREFUL_C = 18.0
COLD_C = 4.0
"""Stop trout fishing at 20 °C, care from 18 °C (common practice of fishery authorities; the beat's rule overrides)."""

LOCAL_RULES = "Local rules and the fishery's word come first."


@dataclass(frozen=True, slots=True)
class Heed:
    """What to mind at a lie whatever is read there next, as a table that is looked up where nothing can be computed.

    Row by row: up to this depth, from this surface speed on with a staff, from that one on not at all. Deeper than the last row
    is not waded. ``stop_c``: water from which on fish are left alone. The texts are said as they stand.
    """

    depths_m: tuple[float, ...]
    staff_m_s: tuple[float, ...]
    never_m_s: tuple[float, ...]
    stop_c: float
    staff: str
    never: str
    stop: str


TABLE_STEP_M = 0.05


def heed(bed: BedKind, *, wading_allowed: bool) -> Heed:
    """Return the table of a lie; where wading is not allowed it says so for every water."""
    rows = [k * TABLE_STEP_M for k in range(1, round(DEPTH_LIMIT_M / TABLE_STEP_M) + 1)]
    staff: list[float] = []
    never: list[float] = []
    for depth_m in rows:
        ratio = LieWater(depth_m=depth_m, surface_speed_m_s=1.0, bed=bed).mean_speed_m_s
        for column, limit in zip((staff, never), limits(depth_m=depth_m), strict=True):
            column.append(limit / ratio if wading_allowed else 0.0)
    return Heed(
        depths_m=tuple(rows),
        staff_m_s=tuple(staff),
        never_m_s=tuple(never),
        stop_c=STOP_C,
        staff="Wade with a staff and a belt: moderate hazard, as read just now.",
        never="Do not wade the lie itself: too deep, or too fast for its depth, as read just now."
        if wading_allowed
        else "No wading on this beat.",
        stop="Stop: in water this warm a played trout may die. Leave them until it cools.",
    )


def cautions(situation: Situation) -> tuple[str, ...]:
    """Return the cautions for a situation, gravest first; the last is always that local rules come first."""
    water = situation.water
    said: list[str] = []
    if water.temperature_c >= STOP_C:
        said.append(
            f"Stop: at {qty(water.temperature_c, '°C', 1)} a played trout may die. Leave them until it cools."
        )
    judged = wading(depth_m=water.depth_m, mean_speed_m_s=water.mean_speed_m_s)
    if not situation.place.wading_allowed:
        said.append("No wading on this beat.")
    elif not judged.wade:
        why = (
            f"{qty(water.depth_m, 'm')} is over the waist"
            if water.depth_m >= DEPTH_LIMIT_M
            else f"depth × speed is {qty(judged.product_m2_s, 'm²/s')}, {judged.hazard} hazard"
        )
        said.append(f"Do not wade the lie itself: {why}.")
    elif judged.hazard == "moderate":
        said.append(
            f"Wade with a staff and a belt: depth × speed is {qty(judged.product_m2_s, 'm²/s')}, moderate hazard."
        )
    if water.flow_class in ("above_normal", "much_above_normal"):
        said.append("High water: never wade alone, and watch for a further rise.")
    if CAREFUL_C <= water.temperature_c < STOP_C:
        said.append(
            f"Warm at {qty(water.temperature_c, '°C', 1)}: play fish fast, keep them in the water, "
            f"stop at {qty(STOP_C, '°C', 0)}."
        )
    if water.temperature_c <= COLD_C:
        said.append(
            f"Water of {qty(water.temperature_c, '°C', 1)}: a swim here lasts minutes. Wear a belt, stay shallow."
        )
    said.append(LOCAL_RULES)
    return tuple(said)
