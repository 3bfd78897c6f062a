"""What `deriva bench` measures: speed and skill, each figure a ratio to something measured in the same run, with the raw ones
beside it. One subject a file. Never a test: machines differ and are shared.
"""

from typing import Any


def rows() -> list[dict[str, Any]]:
    """Run every bench; return its rows: what, ratio, raw."""
    from deriva.bench.coach import skill  # noqa: PLC0415 - only who runs the bench needs what it needs
    from deriva.bench.growth import growth  # noqa: PLC0415
    from deriva.bench.learners import answered, teaching  # noqa: PLC0415
    from deriva.bench.load import load  # noqa: PLC0415
    from deriva.bench.planners import planners  # noqa: PLC0415
    from deriva.bench.pocket import pocket  # noqa: PLC0415
    from deriva.bench.shell import shell  # noqa: PLC0415
    from deriva.bench.speed import speed  # noqa: PLC0415
    from deriva.bench.taking_in import taking_in  # noqa: PLC0415

    return [
        *speed(),
        *pocket(),
        *taking_in(),
        *skill(),
        *answered(),
        *teaching(),
        *load(),
        *growth(),
        *planners(),
        *shell(),
    ]
