"""Sixty situations drawn from a seed, with the drifts of an outing at each: what pinned figures are taken of."""

import random
from typing import Any

SEED, COUNT = 1311, 60

KINDS = (
    "riffle", "run", "pool_head", "pool", "tail_out", "glide", "pocket", "seam", "eddy", "drop_off", "undercut",
    "weed_channel", "bank_edge",
)  # fmt: skip
OUTCOMES = ("clean", "clean", "clean", "tick", "hung", "missed", "fish")


def situations(count: int = COUNT) -> list[dict[str, Any]]:
    """Return the situations, as they come in over the wire; the same ones wherever this runs."""
    draw = random.Random(SEED)
    return [_situation(draw, k) for k in range(count)]


def _situation(draw: random.Random, k: int) -> dict[str, Any]:
    depth = round(draw.uniform(0.35, 2.4), 2)
    found: dict[str, Any] = {
        "water": {
            "kind": KINDS[k % len(KINDS)],
            "depth_m": depth,
            "depth_sd_m": round(depth * draw.choice([0.05, 0.1, 0.25, 0.35]), 3),
            "surface_speed_m_s": round(draw.uniform(0.08, 1.5), 2),
            "bed": draw.choice(["sand", "gravel", "cobble", "boulder"]),
            "clarity_m": round(draw.uniform(0.2, 3.5), 1),
            "temperature_c": round(draw.uniform(2.0, 21.0), 1),
            "flow_class": draw.choice(["much_below_normal", "below_normal", "normal", "above_normal"]),
            "undertow": draw.random() < 0.1,
        },
        "place": {
            "distance_m": round(draw.uniform(3.0, 14.0), 1),
            "wading_allowed": draw.random() < 0.8,
            "wind_m_s": round(draw.uniform(0.0, 9.0), 1),
            "tight_casting": draw.random() < 0.2,
        },
        "fish": {"feeding": draw.choice(["bottom", "bottom", "mid", "surface", "mixed", None])},
        "rules": {"max_flies": draw.choice([1, 2, 2, 3]), "added_weight": draw.random() < 0.7},
        "school": {
            "depth": draw.choice(["long", "depth"]),
            "flies": draw.choice(["two", "two", "one"]),
            "heavy": draw.choice(["point", "point", "first"]),
            "weight": draw.choice(["flies", "flies", "shot"]),
            "pace": draw.choice(["dead", "lead"]),
            "bottom": draw.choice(["touch", "near"]),
            "tied": draw.choice(["tag", "line"]),
        },
    }
    if draw.random() < 0.3:
        found["box"] = {"beads_mm": [2.0, 2.5, 3.0, 4.0], "floats_mm": [9.0, 13.0, 16.0]}
    return found


def drifts(k: int, rig: str, depth_setting_m: float, point_bead_mm: float) -> list[dict[str, Any]]:
    """Return six drifts at the situation ``k`` with a rig as set."""
    draw = random.Random(SEED + k)
    return [
        {
            "depth_setting_m": depth_setting_m,
            "point_bead_mm": point_bead_mm,
            "outcome": draw.choice(OUTCOMES),
            "pace": None if rig == "euro" else draw.choice(["slower", "same", "faster", None]),
        }
        for _ in range(6)
    ]
