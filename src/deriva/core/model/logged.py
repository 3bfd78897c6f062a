"""A drift as it is logged, and what is noted of a fish."""

from dataclasses import dataclass
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.model.rig import Rig
from deriva.core.model.water import AsRead, Earlier
from deriva.core.ranges import BEAD_MM, DEPTH_SETTING_M, LANE, STANCE, Text
from deriva.core.water.bottom import FIRST, Spot

Outcome = Literal["clean", "tick", "hung", "missed", "fish", "lost_fly"]
HANGS: tuple[Outcome, ...] = ("hung", "lost_fly")
TOUCHES: tuple[Outcome, ...] = ("tick", *HANGS)
"""Outcomes that tell of the bed."""

Pace = Literal["slower", "same", "faster"]
"""Float or sighter against the bubbles."""

Phase = Literal["drop", "drift", "swing"]
"""When a fish took."""

Direction = Literal["up", "down"]
"""Cast upstream, or fed downstream."""

FlyOnRig = Literal["point", "dropper", "dry"]
Lost = Literal["point", "dropper", "both"]
"""Which flies went; nothing said, it was the point: it is what meets the stones."""

LengthHow = Literal["eye", "measured", "none"]
Condition = Literal["strong", "tired", "hurt"]


@dataclass(frozen=True, slots=True)
class Fished(Checked):
    """A drift as it comes in: depth and bead as set, how it ended, the pace if it was seen; of a fish, which fly and when."""

    depth_setting_m: Annotated[float, DEPTH_SETTING_M]
    point_bead_mm: Annotated[float, BEAD_MM] | None
    outcome: Outcome
    pace: Pace | None = None
    fly: FlyOnRig | None = None
    phase: Phase | None = None
    direction: Direction = "up"
    dried: bool = False
    """Whether the dry was dried before it."""
    dry: Annotated[str, Text()] | None = None
    """The dry that was on, where that is known."""
    lane: Annotated[int, LANE] | None = None
    stance: Annotated[int, STANCE] | None = None
    pattern: Annotated[str, Text()] | None = None
    """The point fly's form and size: what was shown, where that is known."""
    weed: bool = False
    """Whether a hook came back with weed: what it touched was no stone, and what a fish saw was no fly."""
    in_bottom: bool = False
    """Whether the depth as it is told was found from it, among others: it says nothing more of that, of all else it does."""
    read: AsRead | None = None
    """What the lie was when it was fished, where it has been read otherwise since, or has gone with the flow."""

    @property
    def spot(self) -> Spot:
        """Where it was fished: the first spot of the lie, where nothing is said."""
        return Spot(self.lane or FIRST.lane, self.stance or FIRST.stance)

    @property
    def held_back(self) -> bool:
        """Whether it was slower than the bubbles because it was fed downstream too slowly: the line holds it back."""
        return self.direction == "down" and self.pace == "slower"

    @property
    def told(self) -> Pace | None:
        """What the pace tells of the water: nothing, where the line holds it back."""
        return None if self.held_back else self.pace


@dataclass(frozen=True, slots=True)
class LoggedDrift:
    """The same with the whole rig that was on."""

    rig: Rig
    outcome: Outcome
    pace: Pace | None = None
    fly: FlyOnRig | None = None
    phase: Phase | None = None
    pattern: str | None = None
    dried: bool = False
    dry: str | None = None
    spot: Spot = FIRST
    in_bottom: bool = False
    then: Earlier | None = None
    """How its water was read, over what it is read now, where that is otherwise."""
