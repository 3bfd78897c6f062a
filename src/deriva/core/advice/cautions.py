"""What could hurt the angler or the fish, said where a decision is made."""

from deriva.core.advice.situation import Situation
from deriva.core.advice.wording import qty
from deriva.core.water.wading import DEPTH_LIMIT_M, wading

STOP_C = 20.0
CAREFUL_C = 18.0
COLD_C = 4.0
"""Stop trout fishing at 20 °C, care from 18 °C (common practice of fishery authorities; the beat's rule overrides)."""

LOCAL_RULES = "Local rules and the fishery's word come first."


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
        said.append(f"Do not wade the lie itself: {why} ({judged.rule}).")
    elif judged.hazard == "moderate":
        said.append(
            f"Wade with a staff and a belt: depth × speed is {qty(judged.product_m2_s, 'm²/s')}, moderate hazard "
            f"({judged.rule})."
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
