"""Which questions a log can answer: those with at least two parts that were fished enough."""

from collections.abc import Mapping

from deriva.core.learn.dimensions import DIMENSIONS, DimensionName
from deriva.core.learn.question import Only, Question

ENOUGH_DRIFTS = 40
"""Fewer drifts with a part say next to nothing of it (common practice, no source)."""

ENOUGH_FISH = 8
"""The same of fish, where they alone say which part it was (common practice, no source)."""

COMMON: tuple[Question, ...] = (
    Question("bead"),
    Question("rig"),
    Question("kind"),
    Question("flow", per="hour"),
    Question("setting"),
    Question("fly"),
    Question("hour", per="hour"),
    Question("bead", measure="hung"),
    Question("lie", measure="fish", per="hour"),
    Question("temperature", per="hour"),
    Question("hook"),
    Question("light", per="hour"),
    Question("moment", measure="fish"),
    Question("took", measure="fish"),
)

IN_LOW_WATER = ("below_normal", "much_below_normal")


def suggested(drifts: Mapping[DimensionName, Mapping[str, int]]) -> tuple[Question, ...]:
    """Return the common questions that can be answered, given the drifts of every part (the fish, where they alone say which
    it was); first of all, one for low water.
    """

    def enough(name: DimensionName) -> bool:
        least = ENOUGH_FISH if DIMENSIONS[name].of_fish else ENOUGH_DRIFTS
        return sum(count >= least for count in drifts.get(name, {}).values()) >= 2

    found = [one for one in COMMON if enough(one.by)]
    low = next(
        (flow for flow in IN_LOW_WATER if drifts.get("flow", {}).get(flow, 0) >= 2 * ENOUGH_DRIFTS), None
    )
    if low is not None and enough("bead"):
        found.insert(0, Question("bead", only=(Only("flow", low),)))
    return tuple(found)
