"""A caution: what could hurt the angler or the fish, or is forbidden, as data."""

from dataclasses import dataclass
from typing import Literal

Level = Literal["stop", "caution", "note"]
"""``stop``: do not, whatever else is said. ``caution``: mind it. ``note``: true always, or good to know."""

Code = Literal[
    "closed", "no_wading", "warm_stop", "do_not_wade", "wade_with_staff", "way_round", "storm", "spate", "rising", "high",
    "warm", "cold", "gauge_silent", "local_rules",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class Caution:
    """One thing to mind: how grave, which, and the sentence that says it (with marked quantities)."""

    level: Level
    code: Code
    text: str


LOCAL_RULES = Caution("note", "local_rules", "Local rules and the fishery's word come first.")

ORDER: tuple[Level, ...] = ("stop", "caution", "note")


def gravest_first(cautions: list[Caution]) -> tuple[Caution, ...]:
    """Return cautions in the order of their levels, each level in the order given."""
    return tuple(sorted(cautions, key=lambda one: ORDER.index(one.level)))
