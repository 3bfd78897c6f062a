"""What this angler had here before, in water like today's: the narrowest likeness that was fished enough to say something."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product

from deriva.core.learn.answer import Row, Tally
from deriva.core.learn.dimensions import DIMENSIONS, DimensionName, within
from deriva.core.learn.pooled import Between, counted, pooled
from deriva.core.learn.question import Only, Question

ENOUGH_DRIFTS = 40
"""Fewer drifts in similar water are widened to less like water (common practice, no source)."""

LIKENESS: tuple[tuple[DimensionName, ...], ...] = (
    ("flow", "temperature", "light"),
    ("flow", "light"),
    ("flow",),
)
"""Most alike first."""


@dataclass(frozen=True, slots=True)
class Here:
    """What the log says of a place in water like today's, and the question that asks it which bead did best."""

    sentence: str
    drifts: int
    outings: int
    takes: int
    rate: Between
    question: Question


def here(
    places: Sequence[tuple[Only, Tally]], now: Mapping[DimensionName, str], names: Mapping[str, str]
) -> Here | None:
    """Return what the log says, of the first place and likeness that has enough drifts, else of the one that has most.

    ``places``: what counts as here, nearest first, each with what was fished there by rig; ``now``: the part of flow,
    temperature and light that holds today. None where nothing was fished in water like it.
    """
    order = within("rig")
    found: list[tuple[Only, tuple[Only, ...], list[Row]]] = []
    fished = [(place, tally.rows()) for place, tally in places]
    for (place, rows), alike in product(fished, LIKENESS):
        wanted = tuple(Only(name, now[name]) for name in alike if name in now)
        like = [
            row for row in rows if all(row.water[order.index(one.dimension)] == one.part for one in wanted)
        ]
        found.append((place, wanted, like))
        if sum(row.drifts for row in like) >= ENOUGH_DRIFTS:
            break
    place, wanted, like = max(found, key=lambda one: min(sum(row.drifts for row in one[2]), ENOUGH_DRIFTS))
    if not like:
        return None
    fit = pooled(
        counted(
            [row.hits for row in like], [row.drifts for row in like], [row.outing for row in like],
            [0] * len(like), levels=1,
        )
    )  # fmt: skip
    rate, drifts, outings = fit.rate(0), sum(row.drifts for row in like), len({row.outing for row in like})
    said = ", ".join(_said(one, names) for one in wanted)
    sentence = (
        f"{_said(place, names)}, {said}: {100 * rate.median:.0f} takes in 100 drifts ({100 * rate.low:.0f} to "
        f"{100 * rate.high:.0f}, 9 times in 10), from {drifts} drift{'' if drifts == 1 else 's'} on {outings} "
        f"outing{'' if outings == 1 else 's'} of yours."
    )
    return Here(
        sentence[:1].upper() + sentence[1:], drifts, outings, sum(row.hits for row in like), rate,
        Question("bead", only=(place, *wanted)),
    )  # fmt: skip


def _said(one: Only, names: Mapping[str, str]) -> str:
    dimension = DIMENSIONS[one.dimension]
    return dimension.of.format(dimension.label(one.part, names))
