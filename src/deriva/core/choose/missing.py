"""What a box lacks: the flies that the advisor would take from a full one, and what they would gain."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from deriva.core.choose.judge import NotHere, Usable
from deriva.core.choose.search import Search, advise
from deriva.core.model.situation import Situation
from deriva.core.rigs.offers import likeness
from deriva.core.tackle.flies import Fly

CLOSE_ENOUGH = 0.9
"""Likeness at which a fly of the box does for the one wanted."""

BEAD_STEP_MM = 0.26
"""Beads within half a step of the ladder are one."""

WORTH_SAYING = 0.02


@dataclass(frozen=True, slots=True)
class Missing:
    """A fly that a box lacks, and by how much the best score at the lie would rise with a full box."""

    fly: Fly
    gain: float


def _held(fly: Fly, box: Iterable[Fly]) -> bool:
    return any(
        abs((one.bead_mm or 0.0) - (fly.bead_mm or 0.0)) < BEAD_STEP_MM and likeness(one, fly) >= CLOSE_ENOUGH
        for one in box
    )


def missing(situation: Situation, search: Search) -> tuple[Missing, ...]:
    """Return the flies that a box lacks at a lie; none where the box has them, or would do no worse without."""
    box = situation.box
    if box is None or box.flies is None:
        return ()
    full, own = (advise(one, search).ranked[0] for one in (replace(situation, box=None), situation))
    if isinstance(full, NotHere):
        return ()
    gain = full.score - (own.score if isinstance(own, Usable) else 0.0)
    if gain < WORTH_SAYING:
        return ()
    wanted = (full.rig.point, full.rig.dropper)
    return tuple(Missing(fly, gain) for fly in wanted if fly is not None and not _held(fly, box.flies))
