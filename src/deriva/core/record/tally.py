"""Counting an outing."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

from deriva.core.model.logged import Outcome


@dataclass(frozen=True, slots=True)
class Tally:
    """Drifts by how they ended. ``touches`` are ticks and hang-ups: contacts with the bed."""

    drifts: int
    touches: int
    hung: int
    missed: int
    fish: int
    lost_flies: int


def tally(outcomes: Mapping[Outcome, int]) -> Tally:
    """Count drifts, by how many ended how; a lost fly is a hang-up too, a missed take and a fish are not touches."""
    n = Counter(outcomes)
    hung = n["hung"] + n["lost_fly"]
    return Tally(
        drifts=sum(n.values()),
        touches=n["tick"] + hung,
        hung=hung,
        missed=n["missed"],
        fish=n["fish"],
        lost_flies=n["lost_fly"],
    )
