"""A stay at a hidden lie: many drifts at one setting, and which of them a fish took."""

from dataclasses import dataclass

import numpy as np

from deriva.core.model.logged import Outcome, Pace
from deriva.core.model.rig import Rig
from deriva.core.practice.river import Luck, Presented, came_to, course, met, pace_seen
from deriva.core.practice.seen import Take, takes
from deriva.core.practice.world import Hidden


@dataclass(frozen=True)
class Stayed:
    """A drift of a stay. ``outcome``: how it ended but for the take, which came before any stone held it."""

    outcome: Outcome
    pace: Pace | None
    take: Take | None
    lasted_s: float


def stay(
    rig: Rig, hidden: Hidden, random: np.random.Generator, *, drifts: int, drift_m: float
) -> list[Stayed]:
    """Fish a setting; empty for a rig that cannot be fished there at all.

    All its casts land in the same water, so that a season is made in seconds: stones, current, hand and fish differ from drift
    to drift. Who was hooked has neighbours that were not: the shoal stays as it is.
    """
    way = course(rig, hidden, Luck.of(random), Presented(drift_m))
    if way is None:
        return []
    found = []
    for _ in range(drifts):
        luck = Luck.of(random)
        ran = met(way, luck)
        where = np.ones(len(ran.t_s), dtype=np.bool_)
        take = takes(ran, hidden.shoal.there, hidden.shoal.keen, where, random)
        if take is not None and ran.hung_s is not None and ran.hung_s <= take.at_s:
            take = None
        ended = take.at_s if take is not None else ran.until_s
        found.append(Stayed(came_to(ran, luck), pace_seen(rig, ran, luck), take, ended))
    return found
