"""A fair trial of two things that are tied on: fished in turns, so that neither has the better water.

Turns of ten drifts go first, second, second, first, and on so: a day that gets steadily better or worse favours neither. What
it needs to say whose turn it is needs no library, so that it is said without signal too.
"""

import math
from dataclasses import dataclass
from typing import Annotated, Literal, get_args

from deriva.core.check import Checked
from deriva.core.errors import Impossible
from deriva.core.ranges import BEAD_MM, DRIFTS, Text
from deriva.core.tackle.flies import HOOK

TiedOn = Literal["rig", "bead", "fly", "hook"]

OF_A_TRIAL: tuple[TiedOn, ...] = get_args(TiedOn)

TURN = 10
"""Drifts of a turn: fewer, and more time goes into knots than into fishing (stated here)."""

ORDER = (0, 1, 1, 0)


@dataclass(frozen=True, slots=True)
class Trial(Checked):
    """Two parts of something that is tied on, to be fished in turns."""

    by: TiedOn
    first: Annotated[str, Text(least=1)]
    second: Annotated[str, Text(least=1)]

    def __post_init__(self) -> None:
        """Check the fields, and that there are two."""
        Checked.__post_init__(self)
        if self.first == self.second:
            raise Impossible(f"second = {self.second}: a trial is of two that differ", field="second")


def turn(first: int, second: int) -> tuple[int, int]:
    """Return whose turn it is (0 or 1) after so many drifts of each, and how many are left of it.

    >>> [turn(*had) for had in ((0, 0), (4, 0), (10, 0), (10, 15), (10, 20), (30, 20))]
    [(0, 10), (0, 6), (1, 20), (1, 5), (0, 20), (1, 20)]
    """
    had, due = (first, second), [0, 0]
    place = 0
    while True:
        side = ORDER[place % len(ORDER)]
        due[side] += TURN
        if had[side] < due[side]:
            # two turns of the same in a row are one
            while ORDER[(place + 1) % len(ORDER)] == side:
                place += 1
                due[side] += TURN
            return side, due[side] - had[side]
        place += 1


@dataclass(frozen=True, slots=True)
class TiedSo(Checked):
    """What was on for a drift: the kind of rig, its point fly or its single dry, that one's hook and bead."""

    rig: Annotated[str, Text(least=1)]
    fly: Annotated[str, Text()] | None = None
    hook: Annotated[int, HOOK] | None = None
    bead_mm: Annotated[float, BEAD_MM] | None = None

    def part(self, by: TiedOn) -> str | None:
        """Return what the log knows this by; None where there is nothing of the kind.

        >>> [TiedSo("euro", "dubbed nymph", 14, 2.75).part(by) for by in OF_A_TRIAL]
        ['euro', '2.8', 'dubbed nymph', '14']
        """
        if by == "bead":
            return None if self.bead_mm is None else f"{math.floor(10.0 * self.bead_mm + 0.5) / 10.0:.1f}"
        if by == "hook":
            return None if self.hook is None else str(self.hook)
        return self.fly if by == "fly" else self.rig


@dataclass(frozen=True, slots=True)
class Going(Checked):
    """A trial, the drifts that each side was known to have had, and what was on for those since."""

    trial: Trial
    first: Annotated[int, DRIFTS]
    second: Annotated[int, DRIFTS]
    since: tuple[TiedSo, ...] = ()

    def whose(self) -> tuple[str, int]:
        """Return whose turn it is, and for how many drifts more."""
        sides = (self.trial.first, self.trial.second)
        parts = [one.part(self.trial.by) for one in self.since]
        which, left = turn(self.first + parts.count(sides[0]), self.second + parts.count(sides[1]))
        return sides[which], left
