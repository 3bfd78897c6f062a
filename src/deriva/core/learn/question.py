"""A question to the log, as it is asked: how many of what, for what effort, by what, and of which drifts."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.learn.dimensions import DIMENSIONS, DimensionName
from deriva.core.ranges import Most, Text

Measure = Literal["takes", "fish", "hung"]
"""Takes are fish and missed takes; hung are hang-ups, lost flies among them."""

Per = Literal["drift", "hour", "zone_hour"]
"""Of drifts, of hours, or of hours in which the fly was in the zone, as the drift engine reckons it."""

PER_WORDS: dict[Per, str] = {"drift": "a drift", "hour": "an hour", "zone_hour": "an hour in the zone"}

WORDS: dict[Measure, tuple[str, str]] = {
    "takes": ("take", "takes"),
    "fish": ("fish", "fish"),
    "hung": ("hang-up", "hang-ups"),
}


@dataclass(frozen=True, slots=True)
class Only(Checked):
    """One part of something: only its drifts are looked at."""

    dimension: DimensionName
    part: Annotated[str, Text(least=1)]


@dataclass(frozen=True, slots=True)
class Question(Checked):
    """How many of what there were for an effort, by what, among which drifts."""

    by: DimensionName
    measure: Measure = "takes"
    per: Per = "drift"
    only: Annotated[tuple[Only, ...], Most(6)] = ()

    def words(self, names: Mapping[str, str] = MappingProxyType({})) -> str:
        """Return the question in words; ``names`` says what lies and beats are called."""
        _, many = WORDS[self.measure]
        asked = f"How many {many} {PER_WORDS[self.per]}, by {DIMENSIONS[self.by].words}"
        narrowed = [
            f"{DIMENSIONS[one.dimension].words} {DIMENSIONS[one.dimension].label(one.part, names)}"
            for one in self.only
        ]
        return ", ".join([asked, *narrowed]) + "?"
