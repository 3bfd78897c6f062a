"""The fly box: what is in it, how many are left, and what it lacks."""

from dataclasses import replace
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, field_validator

from deriva.core import ranges as r
from deriva.core.drift.tank import TANK_DEPTH_M, TANK_TIME_S, tank_factor
from deriva.core.errors import Impossible
from deriva.core.ranges import Range
from deriva.core.tackle.flies import HOOK, BeadMaterial, DressingClass, Fly, Mark, Tone
from deriva.core.tackle.floats import DRIES, INDICATORS
from deriva.service.schemas.base import Name, Wire, Within, Words
from deriva.service.schemas.nouns import FlyNoun

COUNT = Range(0, 999, "flies", "more is a shop")


class TankIn(Wire):
    """A fly let go in still water, timed over a known depth."""

    depth_m: Annotated[float, Within(TANK_DEPTH_M)]
    time_s: Annotated[float, Within(TANK_TIME_S)]
    temperature_c: Annotated[float, Within(r.TEMPERATURE_C)] = 15.0


class NymphIn(Wire):
    """A kind of nymph and how many of it; a tank test takes the place of its dressing's class."""

    kind: Literal["nymph"]
    form: Name
    hook: Annotated[int, Within(HOOK)]
    bead_mm: Annotated[float, Within(r.BEAD_MM)] | None = None
    material: BeadMaterial = "tungsten"
    dressing: DressingClass = "dubbed"
    tone: Tone = "natural"
    mark: Mark = "none"
    count: Annotated[int, Within(COUNT)]
    tank: TankIn | None = None

    def fly(self) -> Fly:
        """Return the core's fly; raises Impossible for a tank test that no dressing makes."""
        fly = Fly(
            self.form,
            self.hook,
            self.bead_mm,
            self.dressing,
            material=self.material,
            tone=self.tone,
            mark=self.mark,
        )
        if self.tank is None:
            return fly
        try:
            factor = tank_factor(
                fly, depth_m=self.tank.depth_m, time_s=self.tank.time_s, temperature_c=self.tank.temperature_c
            )
        except Impossible as error:
            raise Impossible(error.message, field="tank.time_s") from None
        return replace(fly, drag_factor=factor)


class DryIn(Wire):
    """A kind of dry and how many of it."""

    kind: Literal["dry"]
    form: Words
    count: Annotated[int, Within(COUNT)]

    @field_validator("form")
    @classmethod
    def known(cls, form: str) -> str:
        """Refuse a dry whose carrying is not known."""
        names = [one.name for one in DRIES]
        if form not in names:
            raise ValueError(f"is not one of: {', '.join(names)}")
        return form


class FloatIn(Wire):
    """A size of float and how many of it."""

    kind: Literal["float"]
    size_mm: float
    count: Annotated[int, Within(COUNT)]

    @field_validator("size_mm")
    @classmethod
    def known(cls, size_mm: float) -> float:
        """Refuse a size that is not among the floats known."""
        sizes = [one.size_mm for one in INDICATORS]
        if size_mm not in sizes:
            raise ValueError(f"is not one of: {', '.join(f'{size:g}' for size in sizes)} mm")
        return size_mm


BoxItemIn = Annotated[NymphIn | DryIn | FloatIn, Field(discriminator="kind")]


class BoxItemOut(Wire):
    """What is in the box: ``left`` is the count less the flies lost on the water since.

    ``sinks_m_s`` is how fast a nymph sinks in still water at 10 °C, ``mass_g`` what it weighs; ``shank_mm`` and
    ``dressed_mm`` are how long and how thick it is.
    """

    id: UUID
    kind: Literal["nymph", "dry", "float"]
    form: str
    words: str
    """What it is called in full: bright or dark, and with what mark."""
    hook: int | None
    bead_mm: float | None
    material: BeadMaterial
    dressing: DressingClass | None
    tone: Tone
    mark: Mark
    size_mm: float | None
    count: int
    lost: int
    left: int
    counted_at: datetime
    tank: TankIn | None
    drag_factor: float | None
    sinks_m_s: float | None
    mass_g: float | None
    shank_mm: float | None
    dressed_mm: float | None
    carries_g: float | None


class BoxOut(Wire):
    """The whole box, and the forms, beads, hooks, dries and floats there are to put in it."""

    items: list[BoxItemOut]
    beads_mm: list[float]
    hooks: list[int]
    forms: list[str]
    dries: list[str]
    floats_mm: list[float]


class MissingOut(Wire):
    """A fly that the box lacks at a lie, and what the best score there would gain with it."""

    fly: FlyNoun
    gain: float
