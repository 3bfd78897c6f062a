"""A change of rig, two rigs compared, and a build, as they go over the wire and on to a card."""

from collections.abc import Iterator, Sequence
from dataclasses import asdict

from deriva.core.choose.change import Change, Changes
from deriva.core.choose.compare import BETTER
from deriva.core.coach.card import Step
from deriva.core.model.caution import LOCAL_RULES
from deriva.core.model.quantity import plain
from deriva.core.model.rig import NAMES, RigKind
from deriva.core.model.setup import Setup
from deriva.core.water.properties import GRAVITY_M_S2
from deriva.service.formats.build_pdf import Card, Row
from deriva.service.formats.measures import length, load
from deriva.service.schemas.plan import (
    BuildIn,
    BuildOut,
    ChangeOut,
    ChangesOut,
    CompareOut,
    SectionOut,
    TiedOut,
)
from deriva.service.usecases.planning import Compared, Written


def _change_out(change: Change) -> ChangeOut:
    return ChangeOut(
        kind=change.kind,
        words=change.words,
        rig=change.rig.kind,
        setup=Setup.of(change.rig, lead_m=change.judged.evaluation.lead_m),
        seconds=change.seconds,
        gain=change.gain,
        worth=change.worth,
    )


def changes_out(found: Changes) -> ChangesOut:
    """Return the wire form of the changes that could be made."""
    return ChangesOut(
        score=found.now.score,
        drifts=found.drifts,
        options=[_change_out(one) for one in found.options],
        advised=None if found.advised is None else found.options.index(found.advised),
        reason=found.reason,
    )


def compare_out(found: Compared) -> CompareOut:
    """Return the wire form of two rigs compared."""
    water = found.situation.water
    depths, speeds = sorted(water.depths()), sorted(water.speeds())
    return CompareOut(
        depths_m=list(found.first.depths_m),
        speeds_m_s=list(found.first.speeds_m_s),
        first=[list(row) for row in found.first.shares],
        second=[list(row) for row in found.second.shares],
        depth_m=water.depth_m,
        depth_p10_m=depths[0],
        depth_p90_m=depths[-1],
        speed_m_s=water.surface_speed_m_s,
        speed_p10_m_s=speeds[0],
        speed_p90_m_s=speeds[-1],
        margin=BETTER,
        words=list(found.words),
    )


def build_out(written: Written) -> BuildOut:
    """Return the wire form of a build."""
    rig, made = written.rig, written.build
    return BuildOut(
        rig=rig.kind,
        name=NAMES[rig.kind],
        answer=plain(written.answer),
        said=written.answer,
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
        background=written.background,
        colour=made.colour,
        notes=list(made.notes),
    )


TOPS: dict[RigKind, str] = {"euro": "sighter", "indicator": "float", "dry_dropper": "dry"}


def _head(asked: BuildIn, units: str) -> str:
    """Return what a card is for: the lie, its beat, how deep it was, and the day."""
    depth = f"{length(asked.situation.water.depth_m, units)} deep"
    day = None if asked.on is None else f"{asked.on.day} {asked.on:%B %Y}"
    return " · ".join(part for part in (asked.lie, asked.beat, depth, day) if part)


def _back(steps: Sequence[Step], units: str, depth: int = 0) -> Iterator[tuple[int, str]]:
    """Lay the steps of a search card out as lines, each with how far it is set in."""
    for step in steps:
        yield depth, step.words(length(step.depth_setting_m, units))
        yield from _back(step.then, units, depth + 1)


def card_of(made: BuildOut, asked: BuildIn, steps: Sequence[Step], *, units: str) -> Card:
    """Lay a build out as a card: each piece and what is tied at its lower end; on its back what the coach will say."""
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
    foot = (*made.notes, made.colour, LOCAL_RULES.text)
    return Card(made.name, _head(asked, units), answer, tuple(rows), foot, tuple(_back(steps, units)))
