"""The near look: rigs that were worked out for a lie already, set anew on other beads and lengths, by the marches kept of them.

What a device can search without signal when the water has been read again: the flies stay those that were advised or tied.
"""

import heapq
from collections.abc import Iterator, Sequence
from dataclasses import replace

from deriva.core.choose.candidates import settings
from deriva.core.choose.criteria import ZONE_WEIGHT, bed_value
from deriva.core.choose.evaluate import READ_OFF, fishable_m, worth_in
from deriva.core.choose.search import Search, coarse, price
from deriva.core.errors import DerivaError
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.rigs.offers import points
from deriva.core.rigs.packed import along
from deriva.core.rigs.parts import outweighed
from deriva.core.rigs.resolve import resolve

CLOSE_LOOKS = 3
"""Settings of a kind that are looked at closely afterwards."""


def _set_anew(tuning: Tuning, situation: Situation) -> Iterator[Rig]:
    """Yield a rig on every bead at every coarse setting that it hangs on, the heaviest fly where the angler has it."""
    for bead in dict.fromkeys((tuning.point_bead_mm, *points(situation))):
        for setting in settings(situation, tuning.rig, fine=False):
            try:
                anew = resolve(
                    replace(tuning, depth_setting_m=setting, point_bead_mm=bead, float_=None), situation
                )
            except DerivaError:
                continue  # no float carries it, or the flies do not fit
            if not outweighed(anew, situation):
                yield anew


def _promise(rig: Rig, situation: Situation) -> float | None:
    """Return what a rig promises over the likely waters by time in the zone, bed and price: the rest is for the close look.

    None where it lies on the bed at the depth believed: nobody sets a rig so.
    """
    water, drift_m = situation.water, fishable_m(situation, rig.kind)
    if READ_OFF(rig, water, water.column()).grounded:
        return None
    seen = []
    for depth, speed in zip(water.depths(), water.speeds(), strict=True):
        column = water.column(depth, speed)
        seen.append(worth_in(rig, situation, column, READ_OFF(rig, water, column), drift_m=drift_m))
    useful, hung, touch = (sum(of) / len(seen) for of in zip(*seen, strict=True))
    return float(useful**ZONE_WEIGHT) * bed_value(hung, touch, situation) - price(rig, situation)


def around(tunings: Sequence[Tuning], read_as: Situation | None = None) -> Search:
    """Return a search among these rigs on other beads and lengths; of a kind that is not among them, the coarse one.

    ``read_as`` is the situation that their marches were packed for: what would have to be marched first is left, where
    something else travelled for the water at hand. That goes by what was packed, not by what is still kept: a device forgets.
    """

    def find(kind: RigKind, situation: Situation) -> Sequence[Rig]:
        of_kind = [one for one in tunings if one.rig == kind]
        if not of_kind:
            return coarse.find(kind, situation)
        rigs = dict.fromkeys(rig for tuning in of_kind for rig in _set_anew(tuning, situation))
        sent = along(read_as, tuple(tunings)) if read_as else None
        known = [rig for rig in rigs if sent and sent.has(rig, situation.water)]
        found: dict[Rig, float] = {}
        for rig in known or rigs:
            try:
                promise = _promise(rig, situation)
            except DerivaError:
                continue  # a rig that cannot be worked out is none to advise
            if promise is not None:
                found[rig] = promise
        return heapq.nlargest(CLOSE_LOOKS, found, key=found.__getitem__)

    return Search(find, READ_OFF)
