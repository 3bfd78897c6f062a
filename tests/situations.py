"""Situations as JSON, as they come in at the command line and over HTTP."""

from typing import Any

CONTRACT: dict[str, Any] = {
    "water": {
        "kind": "glide", "depth_m": 1.1, "depth_sd_m": 0.2, "surface_speed_m_s": 0.3, "bed": "gravel", "clarity_m": 1.5,
        "temperature_c": 12, "flow_class": "normal", "undertow": False,
    },
    "place": {"distance_m": 9, "wading_allowed": True, "wind_m_s": 2, "tight_casting": False},
    "fish": {"feeding": "bottom", "species": "brown trout"},
    "rules": {"max_flies": 2, "added_weight": True, "barbless": True},
    "school": {},
    "box": None,
}  # fmt: skip

DRIFT: dict[str, Any] = {
    "water": {
        "depth_m": 1.0,
        "surface_speed_m_s": 0.8,
        "bed_ks_m": 0.08,
        "temperature_c": 10,
        "profile": "log",
    },
    "top": {"kind": "float", "mass_g": 2.0, "drag_area_cm2": 1.2},
    "line": [{"length_m": 1.2, "diameter_mm": 0.152, "density_kg_m3": 1780}],
    "bodies": [{"along_m": 1.2, "mass_g": 0.30, "diameter_mm": 5.0}],
    "duration_s": 10,
}


def water(**fields: Any) -> dict[str, Any]:  # noqa: ANN401
    """Return a run of 1.1 m at 0.75 m/s over cobble as JSON, with some fields of its water changed or taken out (None)."""
    plain = {"kind": "run", "depth_m": 1.1, "surface_speed_m_s": 0.75, "bed": "cobble", **fields}
    return {"water": {name: value for name, value in plain.items() if value is not None}}
