"""A drift in a game as it was fished, and the game itself: what an angler says, and nothing of what the water hides."""

from dataclasses import dataclass
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.errors import Impossible
from deriva.core.model.logged import Direction, Outcome, Pace
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Box, School
from deriva.core.practice.river import Mend
from deriva.core.ranges import BEAD_MM, DEPTH_SETTING_M, LANE, Most, Range

DrillName = Literal[
    "free", "first_depth", "weight_or_length", "pace", "tick_or_take", "mend", "drop_off", "undertow", "hatch", "cold",
    "high_water", "clock", "first_hour",
]  # fmt: skip

LandsHow = Literal["straight", "tuck", "heap"]

UP_M = Range(0.0, 12.0, "m", "a flick at one's feet to the longest cast upstream")
STRIKE_S = Range(0.0, 30.0, "s", "no drift lasts longer")
SEED = Range(0, 999_999, "", "six figures can be said over a telephone")
MOST_CASTS = 60
"""More drifts than any drill gives."""


@dataclass(frozen=True, slots=True)
class Cast(Checked):
    """One drift: the rig, where its flies land above the fish and how, when the angler struck (None: not at all), and what was
    logged of it.
    """

    rig: RigKind
    depth_setting_m: Annotated[float, DEPTH_SETTING_M]
    point_bead_mm: Annotated[float, BEAD_MM] | None
    up_m: Annotated[float, UP_M] = 3.0
    lane: Annotated[int, LANE] = 1
    entry: LandsHow = "straight"
    mend: Mend = "none"
    direction: Direction = "up"
    strike_s: Annotated[float, STRIKE_S] | None = None
    outcome: Outcome | None = None
    pace: Pace | None = None


@dataclass(frozen=True, slots=True)
class Game(Checked):
    """A water to be fished, and how it was so far. ``school`` and ``box``: the angler's own, in free practice alone, so that a
    drill is the same for whoever is sent it.
    """

    drill: DrillName
    seed: Annotated[int, SEED]
    casts: Annotated[tuple[Cast, ...], Most(MOST_CASTS)] = ()
    school: School | None = None
    box: Box | None = None

    def __post_init__(self) -> None:
        """Check the fields, and that a drill is fished with what it gives."""
        Checked.__post_init__(self)
        if self.drill != "free" and (self.school is not None or self.box is not None):
            raise Impossible(
                f"drill = {self.drill}: a drill is the same for everybody: box and school are of free practice",
                field="drill",
            )
