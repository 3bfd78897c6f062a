"""How the coach fares where the river is not as the bench's is: each spread of its world halved and doubled, depth misread
worse, drifts lifted early and late. One line a world: the coach's share in the zone of the oracle's, a kind of rig each, and
how often the true depth lay within p10 to p90 after twenty drifts.
"""

import argparse
from collections.abc import Iterator
from dataclasses import fields, replace

from deriva.bench.coach import skill
from deriva.core.model.rig import RIG_KINDS
from deriva.core.practice.world import WORLD, World

SHARES = ("pace_seen", "unfelt", "unfelt_slow", "felt_hung", "hung_ends")
"""Chances, which twice over may be no more than one."""


def _times(world: World, name: str, by: float) -> World:
    if name == "hung_per_m":  # of each kind of bed
        return replace(world, hung_per_m=tuple((bed, by * often) for bed, often in world.hung_per_m))
    value = by * getattr(world, name)
    return replace(world, **{name: min(1.0, value) if name in SHARES else value})


def worlds() -> Iterator[tuple[str, World]]:
    """Return the bench's world, and each that differs from it in one thing, with its name."""
    yield "as in the bench", WORLD
    yield "depth misread by 50 %", replace(WORLD, depth_error_ln=0.5)
    for one in fields(World):
        for by in (0.5, 2.0):
            yield f"{one.name} x {by:g}", _times(WORLD, one.name, by)


def main() -> None:
    """Print a line a world."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("waters", type=int, nargs="?", default=8)
    asked.add_argument("seed", type=int, nargs="?", default=52)
    asked.add_argument("--only", nargs="*", default=[""], help="beginnings of the worlds' names")
    given = asked.parse_args()
    for name, world in worlds():
        if not name.startswith(tuple(given.only)):
            continue
        rows = skill(given.waters, given.seed, world=world, judged=1)  # changes are not told of here
        said = (
            f"{kind} {row['ratio']:.2f} within {row['within'][-1]:.2f}"
            for kind, row in zip(RIG_KINDS, rows, strict=True)
        )
        print(f"{name:28}", "   ".join(said), flush=True)


if __name__ == "__main__":
    main()
