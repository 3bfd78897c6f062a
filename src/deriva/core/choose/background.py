"""What float and sighter will be seen against: from the light, and from how shy fish are of colour."""

from deriva.core.choose.criteria import wariness
from deriva.core.model.situation import Situation
from deriva.core.rigs.build import Background

SHY = 0.5
"""Wariness from which fish are taken to be shy of colour (stated here)."""


def seen_against(situation: Situation) -> Background:
    """Return the background to choose colours for: dark when the light goes, else bright water, unless the fish are shy."""
    if situation.light != "day":
        return "dark"
    return "shy" if wariness(situation) >= SHY else "bright"
