"""Changing a rig, comparing two, and writing out how one is tied: the core's work, in the wire's form. No database."""

from dataclasses import asdict

from deriva.core.advice.advisor import NAMES, judge_rig, tuned_rig
from deriva.core.advice.change import DRIFTS_TO_COME, Change, changes
from deriva.core.advice.hanging import setup
from deriva.core.advice.situation import Situation
from deriva.core.advice.wording import percent, plain, qty
from deriva.core.plan.compare import BETTER, Map, better_over, turning_depth, zone_map
from deriva.core.rigs.build import build
from deriva.core.rigs.spec import Rig, RigKind
from deriva.core.water.properties import GRAVITY_M_S2
from deriva.service.formats.build_pdf import Card, Row
from deriva.service.formats.measures import length, load
from deriva.service.schemas.advise import SetupOut
from deriva.service.schemas.plan import (
    BuildIn,
    BuildOut,
    ChangeOut,
    ChangesIn,
    ChangesOut,
    CompareIn,
    CompareOut,
    SectionOut,
    TiedOut,
)


def _change_out(change: Change) -> ChangeOut:
    assert change.judged.evaluation is not None  # noqa: S101 - a change to a rig that cannot be is never offered
    return ChangeOut(
        kind=change.kind,
        words=change.words,
        rig=change.rig.kind,
        setup=SetupOut.model_validate(asdict(setup(change.judged.evaluation))),
        seconds=change.seconds,
        gain=change.gain,
        worth=change.worth,
    )


def change(asked: ChangesIn) -> ChangesOut:
    """Say what could be changed about the rig that is on, and what should be."""
    situation = asked.situation.situation()
    found = changes(
        tuned_rig(asked.tuning.tuning(), situation), situation, drifts=asked.drifts or DRIFTS_TO_COME
    )
    return ChangesOut(
        score=found.now.score,
        drifts=found.drifts,
        options=[_change_out(one) for one in found.options],
        advised=None if found.advised is None else found.options.index(found.advised),
        reason=found.reason,
    )


def _called(rig: Rig) -> str:
    return f"{NAMES[rig.kind].lower()}, {rig.point.bead_mm or 0.0:g} mm at {qty(rig.depth_setting_m, 'm')}"


def _words(first: Rig, second: Rig, a: Map, b: Map, situation: Situation) -> list[str]:
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
    return said


def compare(asked: CompareIn) -> CompareOut:
    """Map two rigs over depth and speed."""
    situation = asked.situation.situation()
    first, second = (tuned_rig(one.tuning(), situation) for one in (asked.first, asked.second))
    a, b = zone_map(first, situation), zone_map(second, situation)
    depths, speeds = sorted(situation.water.depths()), sorted(situation.water.speeds())
    return CompareOut(
        depths_m=list(a.depths_m),
        speeds_m_s=list(a.speeds_m_s),
        first=[list(row) for row in a.shares],
        second=[list(row) for row in b.shares],
        depth_m=situation.water.depth_m,
        depth_p10_m=depths[0],
        depth_p90_m=depths[-1],
        speed_m_s=situation.water.surface_speed_m_s,
        speed_p10_m_s=speeds[0],
        speed_p90_m_s=speeds[-1],
        margin=BETTER,
        words=_words(first, second, a, b, situation),
    )


def write_build(asked: BuildIn) -> BuildOut:
    """Write out how a rig is tied."""
    situation = asked.situation.situation()
    rig = tuned_rig(asked.tuning.tuning(), situation)
    made = build(rig, background=asked.background, leader_school=asked.leader)
    answer = judge_rig(rig, situation).answer
    return BuildOut(
        rig=rig.kind,
        name=NAMES[rig.kind],
        answer=plain(answer),
        said=answer,
        sections=[
            SectionOut(
                name=one.name,
                material=one.material,
                diameter_mm=round(1000.0 * one.diameter_m, 3),
                length_m=one.length_m,
                cut_m=one.cut_m,
                breaks_at_kg=one.breaks_at_n / GRAVITY_M_S2,
                note=one.note,
            )
            for one in made.sections
        ],
        tied=[TiedOut(**asdict(one)) for one in made.tied],
        length_m=made.length_m,
        colour=made.colour,
        notes=list(made.notes),
    )


TOPS: dict[RigKind, str] = {"euro": "sighter", "indicator": "float", "dry_dropper": "dry"}


def _head(asked: BuildIn, units: str) -> str:
    """Return what a card is for: the lie, its beat, how deep it was, and the day."""
    depth = f"{length(asked.situation.water.depth_m, units)} deep"
    day = None if asked.on is None else f"{asked.on.day} {asked.on:%B %Y}"
    return " · ".join(part for part in (asked.lie, asked.beat, depth, day) if part)


def card_of(made: BuildOut, asked: BuildIn, *, units: str) -> Card:
    """Lay a build out as the rows of a card: each piece, and what is tied at its lower end."""
    rows: list[Row] = []
    waiting = list(made.tied)
    left = sum(one.length_m for one in made.sections if one.name != "tag")
    for one in made.sections:
        strength = load(one.breaks_at_kg, units)
        note = f"{one.diameter_mm:.2f} mm {one.material}, about {strength} knotted · {one.note}"
        rows.append(
            Row(
                one.name.capitalize(), length(one.length_m, units), length(one.cut_m, units), note, tied=False
            )
        )
        if one.name == "tag":
            continue
        left -= one.length_m
        while waiting and waiting[0].above_point_m >= left - 1e-6:
            hung = waiting.pop(0)
            where = f"{length(hung.above_point_m, units)} up" if hung.above_point_m > 0.0 else ""
            rows.append(Row(f"{hung.part.capitalize()}: {hung.words}", where, "", "", tied=True))
    below = sum(one.length_m for one in made.sections if "tippet" in one.name)
    answer = f"{made.tied[-1].words}, {length(below, units)} below the {TOPS[made.rig]}"
    foot = (*made.notes, made.colour, "Local rules and the fishery's word come first.")
    return Card(made.name, _head(asked, units), answer, tuple(rows), foot)
