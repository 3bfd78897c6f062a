"""What the river does today, in one sentence, and what to mind."""

from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.advice.cautions import CAREFUL_C, COLD_C, LOCAL_RULES, STOP_C
from deriva.core.advice.hours import THUNDER
from deriva.core.advice.lies import COLD_C as COLD_FISH_C
from deriva.core.advice.lies import WARM_C as WARM_FISH_C
from deriva.core.advice.wording import qty
from deriva.core.water.flow import AgainstNormal, Trend
from deriva.core.water.wading import wading

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


MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November",
    "December",
)  # fmt: skip

MonthDay = tuple[int, int]
"""Month and day of the month."""


@dataclass(frozen=True, slots=True)
class Season:
    """First and last day on which a beat may be fished; the last may lie in the next year."""

    first: MonthDay
    last: MonthDay

    def is_open(self, day: MonthDay) -> bool:
        """Return whether a day lies in the season."""
        if self.first <= self.last:
            return self.first <= day <= self.last
        return day >= self.first or day <= self.last

    @property
    def words(self) -> str:
        """The season in words."""
        (m0, d0), (m1, d1) = self.first, self.last
        return f"{d0} {MONTHS[m0 - 1]} to {d1} {MONTHS[m1 - 1]}"


@dataclass(frozen=True, slots=True)
class Crossing:
    """A lie that a wader might cross on the way: its name, depth and mean speed."""

    name: str
    depth_m: float
    mean_speed_m_s: float


def way_caution(crossings: Sequence[Crossing]) -> str | None:
    """Name the lies that nobody should wade through on the way to another, by the stricter of two published rules."""
    over = [
        one for one in crossings if not wading(depth_m=one.depth_m, mean_speed_m_s=one.mean_speed_m_s).wade
    ]
    if not over:
        return None
    named = ", ".join(f"{one.name} ({qty(one.depth_m, 'm', 1)})" for one in over)
    return f"Go round by the bank, do not wade through: {named}."


def rules_cautions(season: Season | None, day: MonthDay, *, wading_allowed: bool) -> tuple[str, ...]:
    """Return what the rules of a beat, as entered, forbid on a day."""
    said: list[str] = []
    if season is not None and not season.is_open(day):
        said.append(f"Closed today: the season entered for this beat is {season.words}.")
    if not wading_allowed:
        said.append("No wading on this beat.")
    return tuple(said)


STORM = (
    "Thunder is likely: a long rod is a lightning rod. Leave the water when flash and bang are under 30 s apart, "
    "and come back 30 min after the last."
)
"""The 30-30 rule of the US National Weather Service."""


@dataclass(frozen=True, slots=True)
class Sky:
    """The weather of the coming hours: the greatest chance of thunder in an hour."""

    thunder: float


def day_cautions(
    normal: AgainstNormal | None,
    trend: Trend | None,
    *,
    temperature_c: float | None,
    age_h: float | None,
    sky: Sky | None = None,
    beat: Sequence[str] = (),
) -> tuple[str, ...]:
    """Return what to mind today, gravest first; the last is always that local rules come first.

    ``beat`` holds what the rules and the wading of the beat add, in their place.
    """
    said: list[str] = list(beat)
    if temperature_c is not None and temperature_c >= STOP_C:
        said.append(
            f"Stop: at {qty(temperature_c, '°C', 1)} a played trout may die. Leave them until it cools."
        )
    if sky is not None and sky.thunder >= THUNDER:
        said.append(STORM)
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
