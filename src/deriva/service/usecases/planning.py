"""Changing a rig, comparing two, and how one is tied: the core's work."""

from dataclasses import dataclass
from typing import Literal

from deriva.core.choose.change import DRIFTS_TO_COME, Changes, changes
from deriva.core.choose.compare import Map, better_over, turning_depth, zone_map
from deriva.core.choose.judge import judge_rig
from deriva.core.choose.sweep import wide
from deriva.core.model.quantity import percent, qty
from deriva.core.model.rig import NAMES, Rig
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.rigs.build import Background, Build, build
from deriva.core.rigs.resolve import resolve


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
    return f"{NAMES[rig.kind].lower()}, {rig.point.bead_mm or 0.0:g} mm at {qty(rig.depth_setting_m, 'm')}"


def _words(first: Rig, second: Rig, a: Map, b: Map, situation: Situation) -> tuple[str, ...]:
    ours, theirs = better_over(a, b)
    said = [
        f"The {_called(first)} is longer in the zone over {percent(ours)} of this water, "
        f"the {_called(second)} over {percent(theirs)}."
    ]
    turns = turning_depth(a, b, speed_m_s=situation.water.surface_speed_m_s)
    if turns is not None:
        said.append(
            f"At the speed of this lie the better of the two changes at a depth of about {qty(turns, 'm')}."
        )
    return tuple(said)


def compare(situation: Situation, one: Tuning, other: Tuning) -> Compared:
    """Map two rigs over depth and speed."""
    first, second = (resolve(tuning, situation) for tuning in (one, other))
    a, b = zone_map(first, situation), zone_map(second, situation)
    return Compared(situation, a, b, _words(first, second, a, b, situation))


@dataclass(frozen=True, slots=True)
class Written:
    """A rig, how it is tied, and its answer in one line (with marked quantities)."""

    rig: Rig
    build: Build
    answer: str


def write_build(
    situation: Situation, tuning: Tuning, *, background: Background, leader: Literal["level", "line"]
) -> Written:
    """Write out how a rig is tied."""
    rig = resolve(tuning, situation)
    made = build(rig, background=background, leader_school=leader)
    return Written(rig, made, judge_rig(rig, situation).answer)
