"""A change of rig, two rigs compared, and how one is tied: worked out, and as plain data that any face writes out."""

from dataclasses import asdict, dataclass

from deriva.core.check import Checked
from deriva.core.choose.background import seen_against
from deriva.core.choose.change import DRIFTS_TO_COME, Changes, changes
from deriva.core.choose.compare import BETTER, FINE, Map, Steps, better_over, turning_depth, zone_map
from deriva.core.choose.judge import judge_rig
from deriva.core.choose.search import Search
from deriva.core.model.quantity import percent, plain, qty
from deriva.core.model.rig import NAMES, Rig
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.read import write_noun
from deriva.core.rigs.build import Background, Build, build
from deriva.core.rigs.offers import on_bead
from deriva.core.rigs.resolve import resolve
from deriva.core.tackle.rod import Leader
from deriva.core.water.properties import GRAVITY_M_S2

Plain = dict[str, object]


def change(situation: Situation, tuning: Tuning, search: Search, drifts: int | None = None) -> Changes:
    """Say what could be changed about the rig that is on, and what should be; raises the core's errors."""
    return changes(resolve(tuning, situation), situation, search, drifts=drifts or DRIFTS_TO_COME)


def written_changes(found: Changes) -> Plain:
    """Return the changes that could be made as plain data; ``advised`` is the place of the one to make."""
    return {
        "score": found.now.score,
        "drifts": found.drifts,
        "options": [
            {
                "kind": one.kind,
                "words": one.words,
                "rig": one.rig.kind,
                "setup": write_noun(Setup.of(one.rig, lead_m=one.judged.evaluation.lead_m)),
                "seconds": one.seconds,
                "gain": one.gain,
                "worth": one.worth,
            }
            for one in found.options
        ],
        "advised": None if found.advised is None else found.options.index(found.advised),
        "reason": found.reason,
    }


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


def compare(situation: Situation, one: Tuning, other: Tuning, steps: Steps = FINE) -> Compared:
    """Map two rigs over depth and speed; raises the core's errors for one that cannot hang."""
    first, second = (resolve(tuning, situation) for tuning in (one, other))
    a, b = zone_map(first, situation, steps), zone_map(second, situation, steps)
    return Compared(situation, a, b, _words(first, second, a, b, situation))


def written_comparison(found: Compared) -> Plain:
    """Return two rigs compared as plain data."""
    water = found.situation.water
    depths, speeds = sorted(water.depths()), sorted(water.speeds())
    return {
        "depths_m": list(found.first.depths_m),
        "speeds_m_s": list(found.first.speeds_m_s),
        "first": [list(row) for row in found.first.shares],
        "second": [list(row) for row in found.second.shares],
        "depth_m": water.depth_m,
        "depth_p10_m": depths[0],
        "depth_p90_m": depths[-1],
        "speed_m_s": water.surface_speed_m_s,
        "speed_p10_m_s": speeds[0],
        "speed_p90_m_s": speeds[-1],
        "margin": BETTER,
        "words": list(found.words),
    }


@dataclass(frozen=True, slots=True)
class ToTie(Checked):
    """A rig to tie, what it will be seen against (None: as the light says), and on which leader (None: the one on the rod)."""

    situation: Situation
    tuning: Tuning
    background: Background | None = None
    leader: Leader | None = None


@dataclass(frozen=True, slots=True)
class Tied:
    """A rig, how it is tied, what it is seen against, and its answer in one line (with marked quantities)."""

    rig: Rig
    build: Build
    background: Background
    answer: str


def tie(asked: ToTie) -> Tied:
    """Return how a rig is tied; raises the core's errors for one that cannot hang."""
    situation = asked.situation
    rig = resolve(asked.tuning, situation)
    against = asked.background or seen_against(situation)
    made = build(rig, background=against, leader=asked.leader or situation.rod.leader)
    return Tied(rig, made, against, judge_rig(rig, situation).answer)


def written_build(tied: Tied) -> Plain:
    """Return a build as plain data."""
    rig, made = tied.rig, tied.build
    return {
        "format": "deriva-build/1",
        "rig": rig.kind,
        "name": NAMES[rig.kind],
        "answer": plain(tied.answer),
        "said": tied.answer,
        "sections": [
            {
                "name": one.name,
                "material": one.material,
                "diameter_mm": round(1000.0 * one.diameter_m, 3),
                "length_m": one.length_m,
                "cut_m": one.cut_m,
                "breaks_at_kg": one.breaks_at_n / GRAVITY_M_S2,
                "note": one.note,
            }
            for one in made.sections
        ],
        "tied": [asdict(one) for one in made.tied],
        "length_m": made.length_m,
        "background": tied.background,
        "colour": made.colour,
        "notes": list(made.notes),
    }
