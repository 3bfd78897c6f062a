"""Changing a rig, comparing two, and how one is tied: the core's work."""

from dataclasses import dataclass

from deriva.core.choose.background import seen_against
from deriva.core.choose.change import DRIFTS_TO_COME, Changes, changes
from deriva.core.choose.compare import BETTER, Map, better_over, turning_depth, zone_map
from deriva.core.choose.judge import judge_rig
from deriva.core.choose.sweep import wide
from deriva.core.model.quantity import percent, qty
from deriva.core.model.rig import NAMES, Rig
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.rigs.build import Background, Build, build
from deriva.core.rigs.offers import on_bead
from deriva.core.rigs.resolve import resolve
from deriva.core.tackle.rod import Leader


def change(situation: Situation, tuning: Tuning, drifts: int | None) -> Changes:
    """Say what could be changed about the rig that is on, and what should be."""
    return changes(resolve(tuning, situation), situation, wide, drifts=drifts or DRIFTS_TO_COME)


@dataclass(frozen=True, slots=True)
class Compared:
    """Two rigs over all the water that they might meet, and what that says of this lie."""

    situation: Situation
    first: Map
    second: Map
    words: tuple[str, ...]


def _called(rig: Rig) -> str:
    return f"{NAMES[rig.kind].lower()}, {on_bead(rig.point)} at {qty(rig.depth_setting_m, 'm')}"


def _words(first: Rig, second: Rig, a: Map, b: Map, situation: Situation) -> tuple[str, ...]:
    ours, theirs = better_over(a, b)
    one, other = _called(first), _called(second)
    turns = turning_depth(a, b, speed_m_s=situation.water.surface_speed_m_s)
    if turns is not None:
        shallow, deep = (one, other) if turns.first_above else (other, one)
        rule = f"At this speed: up to about {qty(turns.depth_m, 'm')} deep the {shallow}; deeper, the {deep}."
    elif abs(ours - theirs) < BETTER:
        rule = f"As good as each other in this water: the {one} and the {other}."
    else:
        rule = f"At this speed the {one if ours > theirs else other} is the better at any depth."
    return (
        rule,
        f"Of all the water on the map the first is longer in the zone over {percent(ours)}, the second over {percent(theirs)}.",
    )


def compare(situation: Situation, one: Tuning, other: Tuning) -> Compared:
    """Map two rigs over depth and speed."""
    first, second = (resolve(tuning, situation) for tuning in (one, other))
    a, b = zone_map(first, situation), zone_map(second, situation)
    return Compared(situation, a, b, _words(first, second, a, b, situation))


@dataclass(frozen=True, slots=True)
class Written:
    """A rig, how it is tied, what it is seen against, and its answer in one line (with marked quantities)."""

    rig: Rig
    build: Build
    background: Background
    answer: str


def write_build(
    situation: Situation, tuning: Tuning, *, background: Background | None, leader: Leader | None
) -> Written:
    """Write out how a rig is tied."""
    rig = resolve(tuning, situation)
    against = background or seen_against(situation)
    made = build(rig, background=against, leader=leader or situation.rod.leader)
    return Written(rig, made, against, judge_rig(rig, situation).answer)
