"""The rod and what is on it: how far a tight line reaches with it, and the leader that a rig is built on."""

from dataclasses import dataclass
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.ranges import LINE_WEIGHT, ROD_M

Leader = Literal["any", "level", "line", "tapered", "long"]
"""What is between the line and the rig: whatever the rig wants, level monofilament, a thin line with little leader, the common
tapered leader, or a long tapered one."""

USUAL_ROD_M = 3.2
"""A rod for nymphs is 3.0 to 3.4 m long (common practice, no source); what is said of reach is said for such a one."""

TAPERED_M: dict[Leader, float] = {"tapered": 2.7, "long": 4.3}
"""Lengths of tapered leaders: 9 ft, and 13 to 15 ft (common practice, no source)."""

THIN_LINE = 2
"""Lines up to this weight are thin enough to be held off the water like a leader (common practice, no source)."""

HELD_M, ENDS_M = 6.5, 10.5
"""From where a tight line begins to sag on to the water, and where none is left of it, m (common practice, no source)."""

TIGHT_CAST_M = 9.0
"""Longest tight line that is cast and kept in hand, m: to 8-10 m, gathered as it comes back (common practice, no source)."""

ARM_M = 1.0
"""What an outstretched arm adds to a rod (stated here)."""


@dataclass(frozen=True, slots=True)
class Rod(Checked):
    """The rod in hand: ``line_weight`` None where it is not said."""

    length_m: Annotated[float, ROD_M] = USUAL_ROD_M
    line_weight: Annotated[int, LINE_WEIGHT] | None = None
    leader: Leader = "any"

    @property
    def sags(self) -> bool:
        """Whether ordinary line comes out of the tip ring and pulls the leader down, so that its length is all there is."""
        return self.leader in TAPERED_M and (self.line_weight is None or self.line_weight > THIN_LINE)

    @property
    def tight_m(self) -> tuple[float, float]:
        """Distances from which a tight line begins to sag on to the water, and at which it ends."""
        more = self.length_m - USUAL_ROD_M
        if not self.sags:
            return HELD_M + more, ENDS_M + more
        ends = min(ENDS_M + more, self.length_m + TAPERED_M[self.leader] + ARM_M)
        return min(HELD_M + more, ends - 0.5 * (ENDS_M - HELD_M)), ends

    @property
    def tight_cast_m(self) -> float:
        """Longest tight line that is cast with it and kept in hand."""
        longest = TIGHT_CAST_M + self.length_m - USUAL_ROD_M
        return min(longest, self.tight_m[1]) if self.sags else longest
