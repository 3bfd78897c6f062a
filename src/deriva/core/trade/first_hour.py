"""A first hour, for one who has never fished: one float, one fly, one length, twenty drifts from one stance, near to far.

Common practice, no source.
"""

from typing import Final

from deriva.core.model.logged import Outcome
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import School

STEPS: tuple[tuple[str, str], ...] = (
    ("One float, one fly", "An indicator, and one nymph with a bead of about 3 mm: nothing else in the hand."),
    ("One length", "Float to fly as long as the water is deep, or as Log says. Leave it so for twenty drifts."),
    ("One stance", "To the knee at most, below the water that you fish. Do not move your feet."),
    ("Near to far", "The first drift a rod's length away; each next one a step further out. Cast upstream, let it come down."),
    ("Watch one thing", "The float among the bubbles. A little slower is right. Whatever it does that they do not: strike."),
    ("One tap a drift", "Nothing, it stopped, stuck, fish: tap it as it ends. After twenty, ask the coach about the bottom."),
)  # fmt: skip

RIG: Final[RigKind] = "indicator"
SCHOOL = School(flies="one")
"""Whose advice it is, but for what an angler says otherwise: one fly."""

DRIFTS = 20
MOST_LANES = 4
"""A beginner's cast reaches no further."""


def turns(lanes: int) -> tuple[int, ...]:
    """Return how many of the drifts each lane has, from the near one; the first ones have what does not divide.

    >>> turns(3)
    (7, 7, 6)
    """
    lanes = max(1, min(MOST_LANES, lanes))
    return tuple(DRIFTS // lanes + (k < DRIFTS % lanes) for k in range(lanes))


BEGIN = "Near lane, a rod's length out. Cast upstream and watch the float come back to you."
FURTHER = "Now a step further out, from where you stand. The same again."
DONE = "Twenty drifts, near to far. Go two steps up and begin again, or show everything and hear the coach."

AFTER: dict[Outcome, str] = {
    "clean": "Nothing: lift it when it is past you, and cast again.",
    "tick": "A stone, or a fish: nobody can tell. Strike at every one.",
    "hung": "Face away, rod low, pull straight. Feel the point of the hook before you cast.",
    "missed": "It was there. Sooner, and low, to the side that the water goes.",
    "fish": "Wet hands, keep it in the water, let it go by itself.",
    "lost_fly": "Tie the same on again.",
}
"""What a beginner is told after a drift."""

KEYS: tuple[tuple[Outcome, str, str], ...] = (
    ("clean", "Nothing", "it went by"),
    ("tick", "It stopped", "or dipped, or twitched"),
    ("hung", "Stuck", "on the bottom"),
    ("fish", "Fish", "to hand"),
)
"""The keys that a beginner needs, and what they say; the rest is there when everything is shown."""
