"""A stay at a lie told again: what was believed of the bottom after each drift, and what the coach said then.

The coach is a function of the drifts and of what was known of the bottom: what it said on the bank is what it says of the same
now, by the same engine.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from deriva.core.choose.search import Search
from deriva.core.coach.ask import Asked, coached
from deriva.core.coach.options import Action
from deriva.core.errors import DerivaError
from deriva.core.learn.foretell import tuning_of
from deriva.core.model.logged import Fished
from deriva.core.model.rig import RigKind
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.water.bottom import Bottom

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


def story(
    situation: Situation, drifts: Sequence[Told], search: Search, kept: Sequence[Kept] = ()
) -> tuple[Said, ...]:
    """Return what was believed and said after each drift of a stay, oldest first, as ``kept`` is. It ends where a rig cannot
    hang as it is written down.
    """
    found: list[Said] = []
    for k, now in enumerate(drifts[:MOST], 1):
        known = {one.bottom.spot: one for one in kept if one.after < k}
        # a rig of another kind is begun anew, as on the bank; in what was kept of a spot are the drifts that it was kept from
        so_far = tuple(
            one.drift
            for j, one in enumerate(drifts[:k])
            if one.rig == now.rig and not (one.drift.spot in known and j < known[one.drift.spot].after)
        )
        bottom = tuple(one.bottom for one in known.values())
        try:
            asked = Asked(situation, now.rig, so_far, tuning_of(now.rig, now.setup), bottom=bottom)
            done = coached(asked, search)
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
