"""What could hurt the angler or the fish, or is forbidden: as data, said where a decision is made."""

from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.day.hours import THUNDER
from deriva.core.model.beat import MonthDay, Season
from deriva.core.model.caution import LOCAL_RULES, Caution, gravest_first
from deriva.core.model.quantity import qty
from deriva.core.model.situation import Situation
from deriva.core.model.water import Water
from deriva.core.water.flow import AgainstNormal, FlowClass, Trend
from deriva.core.water.profile import BedKind
from deriva.core.water.wading import DEPTH_LIMIT_M, wading, wading_speeds
from deriva.core.water.warmth import CAREFUL_C, STOP_C, SWIM_C

NO_WADING = Caution("stop", "no_wading", "No wading on this beat.")

STORM = Caution(
    "stop",
    "storm",
    "Thunder is likely: a long rod is a lightning rod. Leave the water when flash and bang are under 30 s apart, "
    "and come back 30 min after the last.",
)
"""The 30-30 rule of the US National Weather Service."""

STALE_H = 6.0
"""After so long a gauge's word is history (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Heed:
    """What to mind at a lie whatever is read there next, as a table that is looked up where nothing can be computed.

    Row by row: up to this depth, from this surface speed on with a staff, from that one on not at all. Deeper than the last row
    is not waded. ``stop_c``: water from which on fish are left alone. The cautions are said as they stand.
    """

    depths_m: tuple[float, ...]
    staff_m_s: tuple[float, ...]
    never_m_s: tuple[float, ...]
    stop_c: float
    staff: Caution
    never: Caution
    stop: Caution
    always: Caution = LOCAL_RULES


TABLE_STEP_M = 0.05


def heed(bed: BedKind, *, wading_allowed: bool) -> Heed:
    """Return the table of a lie; where wading is not allowed it says so for every water."""
    rows = [k * TABLE_STEP_M for k in range(1, round(DEPTH_LIMIT_M / TABLE_STEP_M) + 1)]
    staff: list[float] = []
    never: list[float] = []
    for depth_m in rows:
        ratio = Water(depth_m=depth_m, surface_speed_m_s=1.0, bed=bed).mean_speed_m_s
        for column, limit in zip((staff, never), wading_speeds(depth_m=depth_m), strict=True):
            column.append(limit / ratio if wading_allowed else 0.0)
    deep = "Do not wade the lie itself: too deep, or too fast for its depth, as read just now."
    return Heed(
        depths_m=tuple(rows),
        staff_m_s=tuple(staff),
        never_m_s=tuple(never),
        stop_c=STOP_C,
        staff=Caution(
            "caution", "wade_with_staff", "Wade with a staff and a belt: moderate hazard, as read just now."
        ),
        never=Caution("stop", "do_not_wade", deep) if wading_allowed else NO_WADING,
        stop=Caution(
            "stop", "warm_stop", "Stop: in water this warm a played trout may die. Leave them until it cools."
        ),
    )


def _of_warmth(temperature_c: float | None, warm: str) -> list[Caution]:
    """Return what the water's temperature asks for; ``warm`` is what to do while it is warm but not too warm."""
    if temperature_c is None:
        return []
    degrees = qty(temperature_c, "°C", 1)
    if temperature_c >= STOP_C:
        text = f"Stop: at {degrees} a played trout may die. Leave them until it cools."
        return [Caution("stop", "warm_stop", text)]
    if temperature_c >= CAREFUL_C:
        return [Caution("caution", "warm", f"Warm at {degrees}: {warm}, stop at {qty(STOP_C, '°C', 0)}.")]
    if temperature_c <= SWIM_C:
        text = f"Water of {degrees}: a swim here lasts minutes. Wear a belt, stay shallow."
        return [Caution("caution", "cold", text)]
    return []


def _of_height(flow: FlowClass | None) -> list[Caution]:
    if flow not in ("above_normal", "much_above_normal"):
        return []
    return [Caution("caution", "high", "High water: never wade alone, and watch for a further rise.")]


def _of_wading(water: Water) -> list[Caution]:
    judged = wading(depth_m=water.depth_m, mean_speed_m_s=water.mean_speed_m_s)
    product = f"depth × speed is {qty(judged.product_m2_s, 'm²/s')}"
    if not judged.wade:
        why = (
            f"{qty(water.depth_m, 'm')} is over the waist"
            if water.depth_m >= DEPTH_LIMIT_M
            else f"{product}, {judged.hazard} hazard"
        )
        return [Caution("stop", "do_not_wade", f"Do not wade the lie itself: {why}.")]
    if judged.hazard == "moderate":
        text = f"Wade with a staff and a belt: {product}, moderate hazard."
        return [Caution("caution", "wade_with_staff", text)]
    return []


def cautions(situation: Situation) -> tuple[Caution, ...]:
    """Return the cautions for a situation, gravest first; the last is always that local rules come first."""
    water = situation.water
    return gravest_first(
        [
            *(_of_wading(water) if situation.place.wading_allowed else [NO_WADING]),
            *_of_height(water.flow_class),
            *_of_warmth(water.temperature_c, "play fish fast, keep them in the water"),
            LOCAL_RULES,
        ]
    )


@dataclass(frozen=True, slots=True)
class Crossing:
    """A lie that a wader might cross on the way: its name, depth and mean speed."""

    name: str
    depth_m: float
    mean_speed_m_s: float


def way_caution(crossings: Sequence[Crossing]) -> tuple[Caution, ...]:
    """Name the lies that nobody should wade through on the way to another, by the stricter of two published rules."""
    over = [
        one for one in crossings if not wading(depth_m=one.depth_m, mean_speed_m_s=one.mean_speed_m_s).wade
    ]
    if not over:
        return ()
    named = ", ".join(f"{one.name} ({qty(one.depth_m, 'm', 1)})" for one in over)
    return (Caution("caution", "way_round", f"Go round by the bank, do not wade through: {named}."),)


def rules_cautions(season: Season | None, day: MonthDay, *, wading_allowed: bool) -> tuple[Caution, ...]:
    """Return what the rules of a beat, as entered, forbid on a day; a closed day first."""
    said: list[Caution] = []
    if season is not None and not season.is_open(day):
        text = f"Closed today: the season entered for this beat is {season.words}."
        said.append(Caution("stop", "closed", text))
    if not wading_allowed:
        said.append(NO_WADING)
    return tuple(said)


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
    beat: Sequence[Caution] = (),
) -> tuple[Caution, ...]:
    """Return what to mind today, gravest first; the last is always that local rules come first.

    ``beat`` holds what the rules and the wading of the beat add: of equals they come first.
    """
    said: list[Caution] = list(beat)
    if sky is not None and sky.thunder >= THUNDER:
        said.append(STORM)
    if normal and normal.flow_class == "much_above_normal":
        text = "Spate: stay out of the water, and off banks that it undercuts."
        said.append(Caution("stop", "spate", text))
    elif normal:
        said += _of_height(normal.flow_class)
    if trend and trend.direction == "rising":
        text = f"Rising by {100.0 * trend.per_h:.0f} % an hour: know your way out before you go in."
        said.append(Caution("caution", "rising", text))
    said += _of_warmth(temperature_c, "fish the morning, play them fast")
    if age_h is not None and age_h > STALE_H:
        text = f"The gauge was last heard {age_h:.0f} hours ago: the river may have changed."
        said.append(Caution("caution", "gauge_silent", text))
    said.append(LOCAL_RULES)
    return gravest_first(said)
