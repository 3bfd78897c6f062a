"""How often each number of the judgement turns the advice within its plausible range, over seeded situations.

    scripts/sensitivity.py [COUNT]

Prints, for each number: its value, the range tried, and the situations of COUNT (200) in which another rig leads, or the same
one with another bead or set 10 cm or more away; the most sensitive first. For 200 it takes some twenty minutes on two cores,
and tells on stderr what is done. The ranges are what the trade would still call reasonable (common practice, no source); the
search is the service's. The situations say nothing of what stands in the lie or what the net brought up, so that what hangs on
those moves nothing here.
"""

import sys
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from functools import lru_cache
from pathlib import Path
from typing import Any

from deriva.core.choose import candidates, criteria, evaluate, search
from deriva.core.choose.judge import Usable
from deriva.core.choose.search import AS_GOOD, advise
from deriva.core.choose.sweep import wide
from deriva.core.drift.steady import steady_drift
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Situation
from deriva.core.read import read_noun
from deriva.core.rigs import offers, parts
from deriva.core.tackle import rod

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.seeded import situations

FURTHER_M = 0.1


def _winds(factor: float) -> dict[RigKind, tuple[float, float, float]]:
    """Return the winds that rigs do not notice, and those that leave least of them, times a factor."""
    return {kind: (factor * one, factor * zero, floor) for kind, (one, zero, floor) in criteria.WIND.items()}


JUDGEMENTS: tuple[tuple[Any, str, Any, Any], ...] = (
    (search, "LEAST_WEIGHT", 0.01, 0.04),
    (search, "FINER_STEPS", 0.5, 2.0),
    (search, "CLOSER_STEPS_PER_M", 5.0, 20.0),
    (search, "PACE_STEPS", 0.25, 1.0),
    (search, "FLOAT_STEPS", 0.5, 2.0),
    (search, "KNOWN_SOON", 0.10, 0.25),
    (search, "SCHOOL_STEPS", 5.0, 20.0),
    (criteria, "ZONE_WEIGHT", 0.6, 1.0),
    (criteria, "WIND", _winds(0.7), _winds(1.4)),
    (criteria, "SEEN_FLOAT_M", (12.0, 22.0), (18.0, 30.0)),
    (criteria, "SEEN_DRY_M", (5.0, 13.0), (8.0, 19.0)),
    (criteria, "LATE", 0.05, 0.2),
    (criteria, "OUTRUN", 0.3, 0.8),
    (criteria, "NEVER_TOUCHES", 0.8, 1.0),
    (criteria, "TOUCHES_ENOUGH", 0.1, 0.25),
    (criteria, "ROCKS", 0.6, 0.9),
    (criteria, "TOWED_TO", 3.0, 5.0),
    (evaluate, "LEAST_SHEAR", 0.03, 0.08),
    (evaluate, "MENDED_SLACK_M", 1.5, 3.5),
    (rod, "TIGHT_CAST_M", 7.5, 10.5),
    (evaluate, "ASLANT_DEG", 30.0, 60.0),
    (evaluate, "FELT_FACTOR", 0.3, 0.8),
    (evaluate, "ROOTS_FACTOR", 1.0, 2.5),
    (parts, "DROWNS", 0.10, 0.25),
    (parts, "CARRY_MARGIN", 1.2, 1.7),
    (parts, "TWO_FLY_DEPTH_M", 0.45, 0.8),
    (offers, "RELATED", 0.9, 1.0),
    (candidates, "DROPPER_SPACING_M", 0.35, 0.55),
)  # fmt: skip

Led = tuple[str, float | None, float]


@contextmanager
def set_to(value: object, name: str, was: object) -> Iterator[None]:
    """Set a number wherever the core has it by this name and value, for a while."""
    rooms = [
        room
        for key, room in sys.modules.items()
        if key.startswith("deriva.core") and vars(room).get(name) == was
    ]
    for room in rooms:
        setattr(room, name, value)
    try:
        yield
    finally:
        for room in rooms:
            setattr(room, name, was)


def led(situation: Situation) -> Led:
    """Return what leads: the kind, its bead and its setting."""
    best = advise(situation, wide).ranked[0]
    rig = best.rig if isinstance(best, Usable) else None
    return best.kind, rig.point.bead_mm if rig else None, rig.depth_setting_m if rig else 0.0


def turned(asked: dict[str, Any]) -> tuple[bool, list[tuple[bool, bool]]]:
    """Return whether another rig is as good at a situation, and for each number whether it turns the rig, or only its setting.

    A rig settles in a water as it does whatever the judgement says of it, so that is worked out once a situation.
    """
    situation = read_noun(Situation, asked)
    with set_to(lru_cache(maxsize=None)(steady_drift), "steady_drift", steady_drift):
        usable = advise(situation, wide).usable
        before = led(situation)
        close = len(usable) > 1 and usable[1].score >= (1.0 - AS_GOOD) * usable[0].score
        found: list[tuple[bool, bool]] = []
        for room, name, low, high in JUDGEMENTS:
            was = getattr(room, name)
            after: list[Led] = []
            for value in (low, high):
                with set_to(value, name, was):
                    after.append(led(situation))
            other_rig = any(one[0] != before[0] for one in after)
            reset = any(one[1] != before[1] or abs(one[2] - before[2]) >= FURTHER_M for one in after)
            found.append((other_rig, reset and not other_rig))
    return close, found


def main(count: int) -> None:
    """Print how often each number turns the advice."""
    close, rigs, settings = 0, [0] * len(JUDGEMENTS), [0] * len(JUDGEMENTS)
    with ProcessPoolExecutor() as pool:
        for done, (near, found) in enumerate(pool.map(turned, situations(count)), start=1):
            close += near
            for k, (turns, resets) in enumerate(found):
                rigs[k] += turns
                settings[k] += resets
            print(f"{done} of {count}", file=sys.stderr, flush=True)
    print(f"{count} situations; in {close} another rig is within {100 * AS_GOOD:.0f} % of the first")
    texts = [
        f"{name} 0.7 to 1.4 times"
        if isinstance(low, dict)
        else f"{name} {getattr(room, name)}: {low} to {high}"
        for room, name, low, high in JUDGEMENTS
    ]
    for rig, setting, text in sorted(zip(rigs, settings, texts, strict=True), reverse=True):
        print(f"{rig:4d} another rig, {setting:4d} another bead or 10 cm   {text}")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
