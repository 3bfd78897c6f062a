"""What a row of drifts says by itself, before anything is reckoned: how many there were, what touched, what was taken."""

from collections.abc import Sequence

from deriva.core.model.logged import HANGS, TOUCHES, Fished, LoggedDrift
from deriva.core.model.quantity import qty
from deriva.core.model.rig import RigKind
from deriva.core.rigs.parts import weight_n
from deriva.core.tackle.floats import DRIES, soaked
from deriva.core.water.properties import GRAVITY_M_S2

TAKES_HOLD = 8
"""So many drifts after a take with the setting that is on, nothing about it is changed (common practice: a fish or a take
says that the setting is right)."""

LATELY, TWICE = 6, 2
"""Touches of so many of the last drifts that are a reason to go up or lighter (common practice: hung every two or three)."""

HUNG_OF, HUNG_EVERY = 6, 3
"""Of so many drifts two that hang up ask for a shorter line; and where one in so many did, it is not lengthened (common
practice: hung every two or three casts)."""

TICK_RUN = 4
"""So many drifts in a row that each touch say that it is fished a little too heavy or too long (common practice: a tick on
every drift does; how many are every drift is stated here)."""

REFUSED = 3
"""Missed takes that say to look at the hook (common practice, no source)."""

GOES_UNDER = 1.1
"""A dry that carries no more than this over what hangs still under it goes under at every pull of the water (stated here)."""

FAST_AND_TOUCHING = 3

HIGH_TAKES = 2
"""So many fish on the upper fly, on the drop or on the swing say that they feed higher (common practice, no source)."""


def notes_on(drifts: Sequence[LoggedDrift]) -> tuple[str, ...]:
    """Say what the evidence points to beside depth."""
    said: list[str] = []
    fast_and_low = sum(one.pace == "faster" and one.outcome in TOUCHES for one in drifts)
    if fast_and_low >= FAST_AND_TOUCHING:
        said.append(
            "Faster than the bubbles and touching: the bottom may outrun the top here. Fish mid-water, or the edge."
        )
    takes = [one for one in drifts if one.fly is not None]
    high = sum(one.fly in ("dropper", "dry") or one.phase in ("drop", "swing") for one in takes)
    if high >= HIGH_TAKES and 2 * high > len(takes):
        said.append(
            f"{high} of {len(takes)} fish took the upper fly, or on the drop or the swing: they feed higher than the bed."
        )
    wet = why_dry_it(drifts)
    return (*([wet] if wet else ()), *said)


WEEDED, OF_THE_LAST = 2, 3
"""So many of the last drifts with weed on a hook say that it stands where the flies pass (common practice, no source)."""


def why_over_weed(drifts: Sequence[Fished]) -> str | None:
    """Say what to do where weed comes up again and again; None where it does not."""
    weeded = sum(one.weed for one in drifts[-OF_THE_LAST:])
    if weeded < WEEDED:
        return None
    return f"Weed on {weeded} of the last {OF_THE_LAST} drifts: shorter, so that it passes over, or the channel between."


HELD_RUN = 2
"""So many drifts in a row that their line held back ask for faster feeding before anything is changed (common practice: feed
faster before judging depth; how many are enough is stated here)."""


def lifted(one: Fished, kind: RigKind) -> bool:
    """Return whether a float's line held it back, so that the flies ran higher than they hang, and touched nothing."""
    return kind != "euro" and one.held_back and one.outcome == "clean"


FEED_FASTER = "Its line holds it back: feed faster."
"""The same in the one line that there is between two drifts."""


def why_feed_faster(drifts: Sequence[Fished], kind: RigKind) -> str | None:
    """Say that the last drifts tell nothing of the depth, since the line held them back; None where it did not."""
    if len(drifts) < HELD_RUN or not all(lifted(one, kind) for one in drifts[-HELD_RUN:]):
        return None
    return (
        "Fed downstream and slower than the bubbles: the line holds it back and lifts the flies. Feed faster before you judge "
        "the depth."
    )


def why_dry_it(drifts: Sequence[LoggedDrift]) -> str | None:
    """Say that a dry has soaked so far that it no longer surely carries what hangs under it; None where it has not."""
    dry = next((one for one in DRIES if drifts and one.name == _dry_of(drifts[-1])), None)
    if dry is None:
        return None
    with_it = [one for one in drifts if _dry_of(one) == dry.name]
    since = next((k for k, one in enumerate(reversed(with_it), 1) if one.dried), len(with_it))
    rig = drifts[-1].rig
    hangs = weight_n(rig.point, rig.dropper, rig.shot_g)
    left = soaked(dry, drifts=since).carries_n
    if left >= GOES_UNDER * hangs or dry.carries_n < GOES_UNDER * hangs:
        return None
    grams = [qty(1000.0 * force / GRAVITY_M_S2, "g") for force in (left, dry.carries_n, hangs)]
    return (
        f"The dry has not been dried for {since} drifts here: it carries about {grams[0]} of {grams[1]}, and {grams[2]} hangs "
        "under it. Dry it, or go lighter."
    )


def _dry_of(drift: LoggedDrift) -> str | None:
    """Return the dry of a drift by its name: as logged, or else as the rig was hung."""
    return drift.dry or (None if drift.rig.float_ is None else drift.rig.float_.name)


def drifts_here(drifts: Sequence[LoggedDrift]) -> int:
    """Count the drifts at the rig that is on."""
    return next((k for k, one in enumerate(reversed(drifts)) if one.rig != drifts[-1].rig), len(drifts))


def drifts_shown(drifts: Sequence[LoggedDrift]) -> int:
    """Count the drifts at the rig that is on with the fly that is on."""
    here = drifts[len(drifts) - drifts_here(drifts) :]
    return next((k for k, one in enumerate(reversed(here)) if one.pattern != here[-1].pattern), len(here))


def hung_lately(drifts: Sequence[LoggedDrift]) -> bool:
    """Return whether every second or third drift hangs up: then it is up by a few centimetres, whatever is reckoned."""
    here = drifts[-min(HUNG_OF, drifts_here(drifts)) :]
    return sum(one.outcome in HANGS for one in here) >= TWICE


def touched_within(last: int, drifts: Sequence[LoggedDrift]) -> bool:
    """Return whether one of so many last drifts at the rig that is on touched: so set, it reaches the bed."""
    here = drifts[-min(last, drifts_here(drifts)) :] if drifts else ()
    return any(one.outcome in TOUCHES for one in here)


def hangs_often(drifts: Sequence[LoggedDrift]) -> bool:
    """Return whether every second or third drift of all that were fished so set hung up: nobody lengthens that."""
    here = drifts[-drifts_here(drifts) :] if drifts else ()
    hung = sum(one.outcome in HANGS for one in here)
    return hung >= TWICE and HUNG_EVERY * hung >= len(here)


def why_kept(drifts: Sequence[LoggedDrift]) -> str | None:
    """Say why the setting that is on is not touched, where fish have just taken on it."""
    here = drifts[-min(TAKES_HOLD, drifts_here(drifts)) :] if drifts else ()
    missed = sum(one.outcome == "missed" for one in here)
    if missed >= REFUSED:
        return f"{missed} takes missed: the depth is right. Look at the hook, strike sooner, then a size smaller."
    if any(one.outcome in ("fish", "missed") for one in here):
        return "Taken so: fish the same again."
    return None


def touched_each(drifts: Sequence[LoggedDrift]) -> bool:
    """Return whether every one of the last drifts at the rig that is on touched."""
    return drifts_here(drifts) >= TICK_RUN and all(one.outcome in TOUCHES for one in drifts[-TICK_RUN:])


def why_touching(drifts: Sequence[LoggedDrift]) -> str | None:
    """Say why a rig that touches on every drift is held all the same; None where it does not."""
    if not touched_each(drifts):
        return None
    return f"A touch on each of the last {TICK_RUN}, but nothing shorter or lighter is reckoned to fish as well here: hold."
