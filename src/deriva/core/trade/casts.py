"""The casts by name: when each is made, how, and the fault that most make. Common practice, no source."""

from dataclasses import dataclass


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
