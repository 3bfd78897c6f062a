"""What the river does today, in one sentence, and what to mind."""

from deriva.core.advice.cautions import CAREFUL_C, COLD_C, LOCAL_RULES, STOP_C
from deriva.core.advice.lies import COLD_C as COLD_FISH_C
from deriva.core.advice.lies import WARM_C as WARM_FISH_C
from deriva.core.advice.wording import qty
from deriva.core.water.flow import AgainstNormal, Trend

FLOW_WORDS = {
    "much_below_normal": "very low",
    "below_normal": "low",
    "normal": "at its normal height",
    "above_normal": "high",
    "much_above_normal": "in spate",
}

MEANING = {
    "much_below_normal": "fish are in the little depth that is left, and wary: thin tippet, small flies, slow feet",
    "below_normal": "fish are spread thin and wary: finer tippet, smaller flies, stay low",
    "normal": "fish are where they should be",
    "above_normal": "fish leave the main current for the edges: try the soft strip along the bank first",
    "much_above_normal": "fish lie along the edges, within a few metres of the bank: do not wade through them",
}
"""What each class of flow means for where fish are (common practice, no source)."""

COLD_MEANING = "the water is cold, so look in soft deep water and put it on the nose, early to mid afternoon"
WARM_MEANING = "the water is warm, so look in broken water, and early in the day"
"""What temperature adds (common practice, no source)."""

CLEARING = "falling and clearing fishes better than rising and dirty"
COLOURED_M = 0.6

STALE_H = 6.0
"""After so long a gauge's word is history (common practice, no source)."""


def sentence(
    normal: AgainstNormal | None, trend: Trend | None, *, clarity_m: float | None, temperature_c: float | None
) -> str:
    """Say in one sentence what the river does and what that means for where fish are."""
    if normal is None and trend is None:
        return "No gauge says how the river stands: read it at the lie."
    river = FLOW_WORDS[normal.flow_class] if normal else "of no known rank"
    way = f" and {trend.direction}" if trend else ""
    meaning = MEANING[normal.flow_class] if normal else "there are too few years to say what is normal"
    if (
        trend
        and trend.direction == "falling"
        and normal
        and normal.flow_class in ("above_normal", "much_above_normal")
    ):
        meaning += f"; {CLEARING}"
    if temperature_c is not None and temperature_c <= COLD_FISH_C:
        meaning = f"{COLD_MEANING}; {meaning}" if normal and normal.flow_class != "normal" else COLD_MEANING
    elif temperature_c is not None and temperature_c >= WARM_FISH_C:
        meaning = f"{WARM_MEANING}; {meaning}" if normal and normal.flow_class != "normal" else WARM_MEANING
    seen = ""
    if clarity_m is not None:
        colour = "coloured, seen through for" if clarity_m < COLOURED_M else "clear to"
        seen = f", {colour} {qty(clarity_m, 'm', 1)}"
    return f"The river is {river}{way}{seen}: {meaning}."


def day_cautions(
    normal: AgainstNormal | None, trend: Trend | None, *, temperature_c: float | None, age_h: float | None
) -> tuple[str, ...]:
    """Return what to mind today, gravest first; the last is always that local rules come first."""
    said: list[str] = []
    if temperature_c is not None and temperature_c >= STOP_C:
        said.append(
            f"Stop: at {qty(temperature_c, '°C', 1)} a played trout may die. Leave them until it cools."
        )
    if normal and normal.flow_class == "much_above_normal":
        said.append("Spate: stay out of the water, and off banks that it undercuts.")
    if trend and trend.direction == "rising":
        said.append(f"Rising by {100.0 * trend.per_h:.0f} % an hour: know your way out before you go in.")
    if normal and normal.flow_class == "above_normal":
        said.append("High water: never wade alone, and watch for a further rise.")
    if temperature_c is not None and CAREFUL_C <= temperature_c < STOP_C:
        said.append(
            f"Warm at {qty(temperature_c, '°C', 1)}: fish the morning, play them fast, stop at {qty(STOP_C, '°C', 0)}."
        )
    if temperature_c is not None and temperature_c <= COLD_C:
        said.append(
            f"Water of {qty(temperature_c, '°C', 1)}: a swim here lasts minutes. Wear a belt, stay shallow."
        )
    if age_h is not None and age_h > STALE_H:
        said.append(f"The gauge was last heard {age_h:.0f} hours ago: the river may have changed.")
    said.append(LOCAL_RULES)
    return tuple(said)
