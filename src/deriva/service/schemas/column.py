"""The water column of a lie, for drawing, and one drift as frames."""

from deriva.service.schemas.advise import SituationModel, TuningIn
from deriva.service.schemas.base import Wire


class SpeedAtOut(Wire):
    """The current at one height."""

    height_m: float
    speed_m_s: float


class ColumnOut(Wire):
    """A lie's column: likely depths, speed profile, strike zone, what it means."""

    depth_m: float
    depth_p10_m: float
    depth_p90_m: float
    bed_ks_m: float
    profile: list[SpeedAtOut]
    mean_speed_m_s: float
    mean_ratio: float
    zone_low_m: float
    zone_high_m: float
    zone_speed_m_s: float
    shallow: bool
    cautions: list[str]


class PathIn(Wire):
    """Which rig to run, where."""

    situation: SituationModel
    tuning: TuningIn


class PathOut(Wire):
    """A drift as frames at equal times; lines hold x downstream and height above the bed, node by node."""

    frame_s: float
    ends_s: float
    in_zone_share: float
    reached_s: float | None
    depth_m: float
    zone_low_m: float
    zone_high_m: float
    surface_speed_m_s: float
    line_x_m: list[list[float]]
    line_height_m: list[list[float]]
    body_nodes: list[int]
    body_depth_m: list[list[float]]
    touch_s: list[float | None]
    t50_s: float | None
    t80_s: float | None
