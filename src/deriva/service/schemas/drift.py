"""`deriva drift`: one rig in one column, as the headless contract has it."""

from typing import Annotated, Literal

from pydantic import Field

from deriva.core import ranges as r
from deriva.core.drift.scenario import MAX_BODIES, LineSection, Scenario, Top
from deriva.core.model.column import Column
from deriva.core.ranges import TAG_M
from deriva.core.tackle.body import Body
from deriva.core.tackle.materials import FLUOROCARBON
from deriva.core.water.profile import profile_over
from deriva.service.schemas.base import Wire, Within


class WaterIn(Wire):
    """The column of water."""

    depth_m: Annotated[float, Within(r.DEPTH_M)]
    surface_speed_m_s: Annotated[float, Within(r.SURFACE_SPEED_M_S)]
    bed_ks_m: Annotated[float, Within(r.BED_KS_M)] = 0.04
    temperature_c: Annotated[float, Within(r.TEMPERATURE_C)] = 10.0
    profile: Literal["log", "power", "uniform", "undertow"] = "log"


class FloatTop(Wire):
    """A float or dry on the surface."""

    kind: Literal["float"]
    mass_g: Annotated[float, Within(r.FLOAT_MASS_G)]
    drag_area_cm2: Annotated[float, Within(r.FLOAT_AREA_CM2)]


class TipTop(Wire):
    """A rod tip above the water."""

    kind: Literal["tip"]
    height_m: Annotated[float, Within(r.TIP_HEIGHT_M)]
    speed_m_s: Annotated[float, Within(r.TIP_SPEED_M_S)]


class FreeTop(Wire):
    """Nothing holds the line."""

    kind: Literal["free"]


class LineIn(Wire):
    """A level section of line, from the top end down."""

    length_m: Annotated[float, Within(r.LINE_LENGTH_M)]
    diameter_mm: Annotated[float, Within(r.LINE_DIAMETER_MM)]
    density_kg_m3: Annotated[float, Within(r.LINE_DENSITY)]


class BodyIn(Wire):
    """A fly or shot as an equivalent sphere, on the line or on a tag tied in at ``along_m``."""

    along_m: Annotated[float, Within(r.LINE_LENGTH_M)]
    mass_g: Annotated[float, Within(r.BODY_MASS_G)]
    diameter_mm: Annotated[float, Within(r.BODY_DIAMETER_MM)]
    tag_m: Annotated[float, Within(TAG_M)] = 0.0
    tag_diameter_mm: Annotated[float, Within(r.LINE_DIAMETER_MM)] = 0.15
    tag_density_kg_m3: Annotated[float, Within(r.LINE_DENSITY)] = FLUOROCARBON

    def body(self) -> Body:
        """Return the core's body, SI."""
        return Body(
            self.along_m,
            self.mass_g / 1e3,
            self.diameter_mm / 1e3,
            tag_m=self.tag_m,
            tag_diameter_m=self.tag_diameter_mm / 1e3,
            tag_density_kg_m3=self.tag_density_kg_m3,
        )


class DriftIn(Wire):
    """What `deriva drift` reads."""

    water: WaterIn
    top: Annotated[FloatTop | TipTop | FreeTop, Field(discriminator="kind")]
    line: Annotated[list[LineIn], Field(min_length=1, max_length=8)]
    bodies: Annotated[list[BodyIn], Field(min_length=1, max_length=MAX_BODIES)]
    duration_s: Annotated[float, Within(r.DURATION_S)] = 10.0

    def scenario(self) -> Scenario:
        """Return the scenario in SI; raises the core's errors for numbers that cannot be true together."""
        water = Column(
            self.water.depth_m,
            self.water.surface_speed_m_s,
            self.water.bed_ks_m,
            self.water.temperature_c,
            profile_over(depth_m=self.water.depth_m, bed_ks_m=self.water.bed_ks_m)
            if self.water.profile == "log"
            else self.water.profile,
        )
        if isinstance(self.top, FloatTop):
            top = Top("float", mass_kg=self.top.mass_g / 1e3, drag_area_m2=self.top.drag_area_cm2 / 1e4)
        elif isinstance(self.top, TipTop):
            top = Top("tip", height_m=self.top.height_m, speed_m_s=self.top.speed_m_s)
        else:
            top = Top("free")
        line = tuple(LineSection(s.length_m, s.diameter_mm / 1e3, s.density_kg_m3) for s in self.line)
        return Scenario(water, top, line, tuple(body.body() for body in self.bodies))


class SteadyOut(Wire):
    """The settled rig; a ratio is null where the water at that depth stands still."""

    body_depth_m: list[float]
    top_speed_ratio: float
    body_speed_ratio: list[float | None]
    offset_m: float
    tension_n: float
    grounded: bool
    lifted: bool
    entry_offset_m: float
    sinking_speed_m_s: float | None


class TransientOut(Wire):
    """The drift from the flies landing; lists of bodies hold one list a body."""

    t_s: list[float]
    top_x_m: list[float]
    body_x_m: list[list[float]]
    body_depth_m: list[list[float]]
    t50_s: float | None
    t80_s: float | None
    t95_s: float | None
    touch_s: list[float | None]


class DriftOut(Wire):
    """What `deriva drift` writes; ``notes`` says what is loose about it."""

    steady: SteadyOut
    transient: TransientOut
    notes: list[str]
