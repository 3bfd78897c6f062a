"""The casts by name: when each is made, how, and the fault that most make. Common practice, no source."""

from dataclasses import dataclass

from deriva.core.model.quantity import qty
from deriva.core.model.situation import Situation


@dataclass(frozen=True, slots=True)
class CastNamed:
    """A cast by its name."""

    name: str
    title: str
    when: str
    how: str
    fault: str


CASTS: tuple[CastNamed, ...] = (
    CastNamed(
        "lob", "Water-loaded lob", "Two flies and a float, no room behind, or wind.",
        "Let the line swing below you until it is tight on the water: that loads the rod. One smooth throw upstream, high.",
        "A jerk at the start: the flies leave the water late and tangle.",
    ),
    CastNamed(
        "roll", "Roll", "Trees behind, and slack water to lay the line on.",
        "Draw the line slowly back until it hangs behind the rod, wait, and throw a loop along the water.",
        "Begun while the line still moves: the loop falls in a heap.",
    ),
    CastNamed(
        "tuck", "Tuck", "Flies are to be down at once: deep, fast, near, or over a drop-off.",
        "Stop the rod high and hard, and let the tip bounce: the flies swing under and go in first.",
        "The rod follows down, and lays the line straight.",
    ),
    CastNamed(
        "reach", "Reach", "Other water between you and the lane.",
        "While the line is in the air lay the rod over upstream, so that it lands as if it had been mended.",
        "Reached after it fell: that drags the float it was to save.",
    ),
    CastNamed(
        "oval", "Oval", "Heavy flies or long tippet, past the working arc.",
        "Take the flies back low and to the side, bring them over the top without a stop between.",
        "A straight back cast: the bead jerks at its end, and hits the rod.",
    ),
    CastNamed(
        "bow", "Bow-and-arrow", "Under branches, at a rod's length or two.",
        "Hold the fly by the bend of its hook, point away from your fingers; bend the rod with it, aim, let go. Glasses on.",
        "Held by the point or the eye: the hook goes into the finger.",
    ),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class CastHere:
    """A cast that a place asks for, and why."""

    name: str
    title: str
    why: str


MOST = 2
"""Cast names that are told of one place: more is a lesson."""

WINDY_M_S = 5.0
DEEP_M, FAST_M_S = 0.9, 0.6
FAR_M = 8.0
NEAR_M = 5.0
ACROSS = 0.2
"""From these on a place asks for another cast (common practice, no source)."""


def casts_for(situation: Situation) -> tuple[CastHere, ...]:
    """Return the casts that a place asks for by name, the most pressing first; none where any will do."""
    water, place = situation.water, situation.place
    asked: list[tuple[str, str]] = []
    branches = "branches" in place.cover
    if branches and place.distance_m <= NEAR_M:
        asked.append(("bow", "branches over a lie that is near"))
    elif branches or place.tight_casting:
        asked.append(("roll", "no room for a back cast"))
    if place.wind_m_s >= WINDY_M_S:
        asked.append(("lob", f"a wind of {qty(place.wind_m_s, 'm/s air', 0)}: one throw, no false casts"))
    under = water.under_line_ratio
    if under is not None and abs(under - 1.0) >= ACROSS:
        asked.append(("reach", f"{'faster' if under > 1.0 else 'slower'} water under the line"))
    if water.kind == "drop_off" or (water.depth_m >= DEEP_M and water.surface_speed_m_s >= FAST_M_S):
        asked.append(("tuck", f"{qty(water.depth_m, 'm')} to sink through, and little time"))
    if place.distance_m >= FAR_M:
        asked.append(("oval", f"a long throw of {qty(place.distance_m, 'm', 0)} with weight on it"))
    titles = {one.name: one.title for one in CASTS}
    return tuple(CastHere(name, titles[name], why) for name, why in asked[:MOST])
