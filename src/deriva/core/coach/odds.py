"""Refused or empty: whether a fish that feeds is there, whether it takes the fly that is on, and what other water would bring.

A fish that is there takes a given fly if it is shown well, or does not, whatever it is shown: so drifts in the zone without a
take say first that the fly is not wanted, and only with other flies shown that nobody is at home.
"""

import math
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from deriva.core.choose.change import CYCLE_S, SECONDS
from deriva.core.model.logged import LoggedDrift
from deriva.core.model.rig import Rig

THERE, THERE_AFTER_TAKE, TAKES = 0.5, 0.7, 0.12
"""The chance that a fish which feeds is at a lie that is worth fishing, and that another is once one has taken; and the chance
that it takes in a whole drift in the zone, of a fly that it wants: one in eight (common practice, no source)."""

WANTS, WANTS_AFTER_TAKE = 0.7, 0.9
"""The chance that a fish which feeds takes a given fly that is shown well, and that the next one does once one has taken it
(common practice, no source: two other flies are shown before a lie is taken to be empty)."""

A_WHILE_S = 900.0
"""What is compared is a quarter of an hour ..."""

WALK_S = 240.0
"""... of which other water costs the way to it (common practice, no source) ..."""

FIRST_SHARE = 0.6
"""... and is fished at first with a setting that has this share of what the right one does (`deriva bench`: 0.52-0.63 for first
settings)."""

SAID_FROM = 4.0
"""Whole drifts in the zone without a take from which the odds are worth saying: fewer have not moved them (stated here)."""


@dataclass(frozen=True, slots=True)
class Odds:
    """How a lie stands: whole drifts in the zone since the last take, the chance that a fish which feeds is there, that one is
    which takes the fly that is on; and the chance of a take in the next quarter of an hour by going on so, with another fly,
    and in other water.
    """

    in_vain: float
    there: float
    takes: float
    go_on: float
    other_fly: float
    other_water: float

    @property
    def words(self) -> str | None:
        """Say what they come to; None while they say little."""
        if self.in_vain < SAID_FROM:
            return None
        so, fly, water = (
            f"{100.0 * chance:.0f}" for chance in (self.go_on, self.other_fly, self.other_water)
        )
        return (
            f"{self.in_vain:.0f} whole drifts in the zone without a take: a fish that feeds is there {in_ten(self.there)}."
            f" A take in the next quarter of an hour: {so} in 100 so, {fly} with another fly, {water} in other water."
        )


def in_ten(chance: float) -> str:
    """Return a chance as people say it.

    >>> in_ten(0.42)
    '4 times in 10'
    """
    return f"{max(1, round(10.0 * chance))} times in 10"


def _wanted_still(in_vain: float, wants: float) -> float:
    """Return the chance of a fly's drifts in vain, a fish being there."""
    return wants * math.pow(1.0 - TAKES, in_vain) + 1.0 - wants


def odds(drifts: Sequence[LoggedDrift], useful: Mapping[Rig, float], on: str | None, in_zone: float) -> Odds:
    """Return how a lie stands after its drifts, oldest first. ``useful``: the share of a drift in the zone by rig; ``on``: the
    fly that is on, ``in_zone``: the share of a drift that it is in the zone.
    """
    took = [k for k, one in enumerate(drifts) if one.outcome in ("fish", "missed")]
    since = drifts[took[-1] + 1 :] if took else drifts
    in_vain: defaultdict[str | None, float] = defaultdict(float)
    for one in since:
        in_vain[one.pattern] += useful[one.rig]
    taken = {drifts[k].pattern for k in took[-1:]}
    wants = {fly: WANTS_AFTER_TAKE if fly in taken else WANTS for fly in (*in_vain, on)}
    prior = THERE_AFTER_TAKE if took else THERE
    silent = 1.0
    for fly, drifted in in_vain.items():
        silent *= _wanted_still(drifted, wants[fly])
    there = prior * silent / (prior * silent + 1.0 - prior)
    of_this = in_vain.get(on, 0.0)
    takes = there * wants[on] * (1.0 - TAKES) ** of_this / _wanted_still(of_this, wants[on])

    def take(seconds: float, share: float) -> float:
        return 1.0 - math.pow(1.0 - TAKES, seconds / CYCLE_S * share)

    return Odds(
        in_vain=sum(in_vain.values()),
        there=there,
        takes=takes,
        go_on=takes * take(A_WHILE_S, in_zone),
        other_fly=there * WANTS * take(A_WHILE_S - SECONDS["bead"], in_zone),
        other_water=THERE * WANTS * take(A_WHILE_S - WALK_S, FIRST_SHARE * in_zone),
    )
