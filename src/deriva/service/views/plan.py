"""A build as it goes on to a card."""

from collections.abc import Iterator, Sequence

from deriva.core.coach.card import Step
from deriva.core.model.caution import LOCAL_RULES
from deriva.core.model.rig import RigKind
from deriva.service.formats.card import Card, Row
from deriva.service.formats.measures import length, load
from deriva.service.schemas.plan import BuildIn, BuildOut

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
