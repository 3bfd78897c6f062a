"""What the drift engine says of a setting in the water that was believed when it was fished."""

from dataclasses import dataclass
from typing import Literal

from deriva.core.choose.search import Advice
from deriva.core.coach.belief import begin
from deriva.core.coach.options import GROUPS, Gist
from deriva.core.model.rig import RigKind
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.rigs.resolve import resolve

ENGINE = 2
"""Raised when what is said here changes: what an earlier one said is then said anew."""


@dataclass(frozen=True, slots=True)
class Foretold:
    """The share of a drift in the zone, and the chances that a drift is logged as a tick and as a hang-up."""

    in_zone: float
    tick: float
    hung: float


Place = Literal["first", "behind"]
"""Where the rig that was fished stands among those that are advised in its water."""


def place(advice: Advice, kind: RigKind) -> Place:
    """Return where a kind of rig stands in an advice; what cannot be used there is behind whatever can."""
    return "first" if [one.kind for one in advice.usable[:1]] == [kind] else "behind"


def tuning_of(kind: RigKind, setup: Setup) -> Tuning:
    """Return what an angler said to have a rig as it is written down; the fly, its form and dressing, is chosen anew."""
    return Tuning(
        kind,
        setup.depth_setting_m,
        setup.point_bead_mm,
        flies=setup.flies,
        dropper_bead_mm=setup.dropper_bead_mm,
        dropper_spacing_m=setup.dropper_spacing_m,
        dropper_tag_m=setup.dropper_tag_m,
        tippet_x=setup.tippet_x,
        shot_g=setup.shot_g,
        float_=setup.float_,
        tip_pace=setup.tip_pace,
    )


def foretell(situation: Situation, kind: RigKind, setup: Setup) -> Foretold:
    """Return what a setting was to do, over the waters that the reading left open. Raises the core's errors for a rig that the
    rules forbid or its float does not carry: that was fished, but not as it is written down.
    """
    rig = resolve(tuning_of(kind, setup), situation)
    gist = Gist(situation, begin(situation, rig.kind).gist(GROUPS))
    there = gist.option(rig).there
    pairs = list(zip(gist.weights, there, strict=True))
    return Foretold(
        in_zone=sum(w * one.useful for w, one in pairs),
        tick=sum(w * one.tick for w, one in pairs),
        hung=sum(w * one.hung for w, one in pairs),
    )
