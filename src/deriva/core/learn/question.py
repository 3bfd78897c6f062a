"""A question to the log, as it is asked: how many of what, for what effort, by what, and of which drifts."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Annotated, Literal

from deriva.core.check import Checked
from deriva.core.errors import Impossible
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

    def __post_init__(self) -> None:
        """Check the fields, and that there may be such a part."""
        Checked.__post_init__(self)
        DIMENSIONS[self.dimension].check(self.part, field="part")


@dataclass(frozen=True, slots=True)
class Question(Checked):
    """How many of what there were for an effort, by what, among which drifts."""

    by: DimensionName
    measure: Measure = "takes"
    per: Per = "drift"
    only: Annotated[tuple[Only, ...], Most(6)] = ()

    @property
    def dimensions(self) -> tuple[DimensionName, ...]:
        """Everything that is asked by, or narrowed to."""
        return (self.by, *(one.dimension for one in self.only))

    def __post_init__(self) -> None:
        """Check the fields, and that what is known of fish to hand alone is asked of fish."""
        Checked.__post_init__(self)
        asked = [
            ("by", self.by),
            *((f"only.{k}.dimension", one.dimension) for k, one in enumerate(self.only)),
        ]
        for field, name in asked:
            if DIMENSIONS[name].of_fish and self.measure != "fish":
                words = DIMENSIONS[name].words
                raise Impossible(
                    f"measure = {self.measure}: {words} is known of fish to hand alone: ask for fish",
                    field=field,
                )

    def words(self, names: Mapping[str, str] = MappingProxyType({})) -> str:
        """Return the question in words; ``names`` says what lies and beats are called."""
        _, many = WORDS[self.measure]
        asked = f"How many {many} {PER_WORDS[self.per]}, by {DIMENSIONS[self.by].words}"
        narrowed = [
            f"{DIMENSIONS[one.dimension].words} {DIMENSIONS[one.dimension].label(one.part, names)}"
            for one in self.only
        ]
        return ", ".join([asked, *narrowed]) + "?"
