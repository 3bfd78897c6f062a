"""A stay at a lie told again: what was believed of the bottom after each drift, and what the coach said then.

The coach is a function of the drifts and of what was known of the bottom: what it said on the bank is what it says of the same
now, by the same engine.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from deriva.core.choose.search import Search
from deriva.core.coach.ask import Asked, word
from deriva.core.coach.options import Action
from deriva.core.errors import DerivaError
from deriva.core.learn.foretell import tuning_of
from deriva.core.model.logged import Fished
from deriva.core.model.rig import RigKind
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.water.bottom import FIRST, Bottom, Spot

MOST = 120
"""So many drifts of a stay are told of, the first ones: each is thought about anew."""


@dataclass(frozen=True, slots=True)
class Told:
    """A drift as it was logged, with the rig that was on."""

    rig: RigKind
    setup: Setup
    drift: Fished


@dataclass(frozen=True, slots=True)
class Kept:
    """What was kept of the bottom at a spot, when so many drifts of the stay had been fished; 0: before it."""

    after: int
    bottom: Bottom


@dataclass(frozen=True, slots=True)
class Stay:
    """A stay at a lie since it was last read: its water as read, and the drifts, oldest first, as ``kept`` is.

    ``before`` of the drifts were fished before the lie was read, and its depth as read was found from ``learned`` of them: they
    are known of, and not told of.
    """

    situation: Situation
    drifts: Sequence[Told]
    kept: Sequence[Kept] = ()
    before: int = 0
    learned: int = 0

    def asked(self, count: int) -> Asked:
        """Return what the coach was asked when so many drifts had been fished."""
        now = self.drifts[count - 1]
        known = {one.bottom.spot: one for one in self.kept if one.after < count}
        bottom = tuple(one.bottom for one in known.values())
        # a rig of another kind is begun anew, as on the bank
        so_far = tuple(
            replace(
                one.drift,
                in_bottom=self._is_in(k, {one.drift.spot, now.drift.spot}, known),
                read=one.drift.read if k >= self.learned else None,  # found from them, it is of their water
            )
            for k, one in enumerate(self.drifts[:count])
            if one.rig == now.rig
        )
        return Asked(self.situation, now.rig, so_far, tuning_of(now.rig, now.setup), bottom=bottom)

    def _is_in(self, k: int, spots: set[Spot], known: Mapping[Spot, Kept]) -> bool:
        """Return whether a drift is in what is known of its own spot or of that where one stands."""
        learned = self.learned if FIRST in spots else 0
        return k < max(learned, *(known[one].after for one in spots if one in known), 0)


@dataclass(frozen=True, slots=True)
class Said:
    """What was believed after a drift (the depth, 8 times in 10 between its ends, m), the setting that was on, and the coach's
    word: what to do, to what setting and bead, why.
    """

    low_m: float
    middle_m: float
    high_m: float
    set_m: float
    action: Action
    to_m: float
    bead_mm: float | None
    reason: str


def story(stay: Stay, search: Search) -> tuple[Said, ...]:
    """Return what was believed and said after each drift of a stay, oldest first. It ends where a rig cannot hang as it is
    written down.
    """
    found: list[Said] = []
    for count, now in enumerate(stay.drifts[stay.before :][:MOST], stay.before + 1):
        try:
            done = word(stay.asked(count), search)
        except DerivaError:
            break
        low, middle, high = (done.belief.depth(p) for p in (0.1, 0.5, 0.9))
        advice = done.advice
        found.append(
            Said(
                low, middle, high, now.setup.depth_setting_m, advice.action, advice.depth_setting_m,
                advice.point_bead_mm, advice.reason,
            )
        )  # fmt: skip
    return tuple(found)
