"""What the river does today, in one sentence, and what to mind."""

from deriva.core.model.quantity import qty
from deriva.core.water.flow import AgainstNormal, Trend
from deriva.core.water.warmth import COLD_FISH_C, WARM_FISH_C

TREND_H, RECESSION_H = 6, 18
"""Over how many of the last hours the way of the flow is told, and its fall fitted (stated here)."""

WARM_DAYS = 3
"""Days of the water's temperature that tell the course of a day (stated here)."""

AHEAD_H, STORM_H = 24, 6
"""So many hours to come are told, and thunder is minded in so many: an outing (common practice, no source)."""

FRESH_H = 6.0
"""So long a reading of the day stands before what the flow says (common practice, no source)."""

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

WARMING_C = 0.3
"""Change of the daily mean, °C, from which a day is said to warm or to cool (common practice, no source)."""


def _temperature_meaning(temperature_c: float | None, warming_c: float | None) -> str | None:
    if temperature_c is None:
        return None
    if temperature_c <= COLD_FISH_C:
        if warming_c is not None and warming_c >= WARMING_C:
            return f"{COLD_MEANING}; it warms by {qty(warming_c, '°C apart', 1)} a day, which they answer to"
        return COLD_MEANING
    return WARM_MEANING if temperature_c >= WARM_FISH_C else None


def sentence(
    normal: AgainstNormal | None,
    trend: Trend | None,
    *,
    clarity_m: float | None,
    temperature_c: float | None,
    warming_c: float | None = None,
    years_lacking: int = 0,
) -> str:
    """Say in one sentence what the river does and what that means for where fish are.

    ``years_lacking``: of the gauge's past, for what is normal to be known.
    """
    if normal is None and trend is None:
        return "No gauge says how the river stands: read it at the lie."
    said = [FLOW_WORDS[normal.flow_class] if normal else "", trend.direction if trend else ""]
    river = " and ".join(word for word in said if word)
    years = "year" if years_lacking == 1 else "years"
    meaning = (
        MEANING[normal.flow_class]
        if normal
        else f"{max(1, years_lacking)} more {years} of its past would say what is normal"
    )
    falling = trend is not None and trend.direction == "falling"
    if falling and normal and normal.flow_class in ("above_normal", "much_above_normal"):
        meaning += f"; {CLEARING}"
    warmth = _temperature_meaning(temperature_c, warming_c)
    if warmth is not None:
        meaning = f"{warmth}; {meaning}" if normal and normal.flow_class != "normal" else warmth
    seen = ""
    if clarity_m is not None:
        colour = "coloured, seen through for" if clarity_m < COLOURED_M else "clear to"
        seen = f", {colour} {qty(clarity_m, 'm', 1)}"
    return f"The river is {river}{seen}: {meaning}."
