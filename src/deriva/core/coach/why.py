"""Why a change is worth making, in one sentence of the trade."""

from collections.abc import Iterable, Sequence

from deriva.core.coach.belief import COUNTED_S, Belief, counts_all
from deriva.core.coach.evidence import HUNG_OF, TICK_RUN, drifts_here, touched_within
from deriva.core.coach.options import CALM, SURE, UP, Action, change_to
from deriva.core.model.logged import HANGS, TOUCHES, LoggedDrift
from deriva.core.model.quantity import percent, qty
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Situation
from deriva.core.model.water import Earlier

SAME_SHARE = 0.03

OFTENER = 0.05
"""Hang-ups a drift that a better setting may bring unsaid: beyond it, it is said what is paid for the time in the zone (stated
here)."""


def part_counted(situation: Situation, rig: Rig) -> str:
    """Name what shares in the zone are shares of."""
    return "the drift" if counts_all(situation, rig.kind) else f"the drift's first {COUNTED_S:g} s"


def why_up(drifts: Sequence[LoggedDrift], then: float, part: str) -> str:
    """Say why a rig that hangs is fished higher or lighter."""
    here = drifts[-min(HUNG_OF, drifts_here(drifts)) :]
    hung = sum(one.outcome in HANGS for one in here)
    share = percent(then)
    too = f"Hung on {hung} of the last {len(here)}: too heavy or too long."
    return f"{too} So set, the fly is in the zone for {share} of {part}."


def why_less(then: float, part: str) -> str:
    """Say why a rig that touches on every drift is fished higher or lighter."""
    return (
        f"A touch on each of the last {TICK_RUN}: a little too heavy or too long. So set, the fly is in the zone for "
        f"{percent(then)} of {part}."
    )


def why_counted_then(changed: Iterable[Earlier]) -> str | None:
    """Say for which water counts what was fished before the lie was another; None where it counts for that of now."""
    deeper = [one.depth < 1.0 for one in changed]
    if not deeper:
        return None
    was = "lower" if all(deeper) else "other" if any(deeper) else "higher"
    return f"Earlier drifts here count for {was} water."


def why_not_deeper(drifts: Sequence[LoggedDrift], in_zone: float) -> str | None:
    """Say why a rig that could fish deeper is held: so set, it has just touched. None where it has not, or fishes well."""
    if in_zone >= SURE or not touched_within(CALM, drifts):
        return None
    since = next(k for k, one in enumerate(reversed(drifts)) if one.outcome in TOUCHES)
    when = "on the last drift" if since == 0 else f"{since} drift{'s' if since > 1 else ''} ago"
    return f"Touched {when}: so set, it reaches the bed. Hold; deeper only after {CALM} without a touch."


def why_back(rig: Rig, drifts: Sequence[LoggedDrift], action: Action, then: float, part: str) -> str | None:
    """Say why a rig goes back the way that it came; None where it does not."""
    before = next((one.rig for one in reversed(drifts) if one.rig != rig), None)
    if before is None or drifts[-1].rig != rig or (change_to(before, rig) in UP) == (action in UP):
        return None
    here = drifts[-drifts_here(drifts) :]
    touched = sum(one.outcome in TOUCHES for one in here)
    share = percent(then)
    return f"Back again, since {touched or 'none'} of {len(here)} so set touched: the fly is in the zone for {share} of {part}."


def _span(belief: Belief) -> str:
    return f"It looks {qty(belief.depth(0.1), 'm')} to {qty(belief.depth(0.9), 'm')} deep"


def why_changed(belief: Belief, then: float, now: float, action: Action, part: str) -> str:
    """Say why a change is worth making: it fishes better, or it finds the bottom."""
    if then > now + SAME_SHARE:
        return f"{_span(belief)}: so set, the fly is in the zone for {percent(then)} of {part}, not {percent(now)}."
    does = "clears the stones" if action in ("shallower", "lighter") else "finds the bottom"
    return f"{_span(belief)}: this {does}, and what it says is worth more than what it costs."


def why_begun(belief: Belief, then: float, now: float, action: Action, part: str) -> str:
    """Say why to begin with another setting than the rig was told of with: its share in the zone there is of the water alone,
    and less is left of it where hand and fly err too.
    """
    if then <= now + SAME_SHARE:
        return why_changed(belief, then, now, action, part)
    shares = f"in the zone for {percent(then)} of {part}, not {percent(now)}"
    return f"{_span(belief)}, and the fly may run higher or lower than reckoned: so set, it is {shares}."


def why_dearer(then: float, now: float) -> str:
    """Say, as one more sentence, what a change costs in hang-ups; nothing where it is no dearer than what is on."""
    return f" It hangs up on {percent(then)} of drifts, not {percent(now)}." if then > now + OFTENER else ""
