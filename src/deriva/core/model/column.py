"""A column of moving water, as the solvers take it."""

from dataclasses import dataclass
from typing import Annotated

from deriva.core.check import Checked
from deriva.core.ranges import BED_KS_M, DEPTH_M, SURFACE_SPEED_M_S, TEMPERATURE_C
from deriva.core.water.profile import ProfileKind


@dataclass(frozen=True, slots=True)
class Column(Checked):
    """A column of moving water."""

    depth_m: Annotated[float, DEPTH_M]
    surface_speed_m_s: Annotated[float, SURFACE_SPEED_M_S]
    bed_ks_m: Annotated[float, BED_KS_M]
    temperature_c: Annotated[float, TEMPERATURE_C] = 10.0
    profile: ProfileKind = "log"
