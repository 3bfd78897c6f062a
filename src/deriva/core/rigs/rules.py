"""What the rules of a beat forbid of a rig."""

from deriva.core.model.quantity import qty
from deriva.core.model.rig import Rig
from deriva.core.model.situation import Rules


def broken(rig: Rig, rules: Rules) -> tuple[str, str] | None:
    """Return which part of a rig breaks the rules, by the name of its field, and why in words; None where none does."""
    if rig.flies > rules.max_flies:
        return "flies", f"the rules here allow {rules.max_flies}"
    if rig.shot_g > 0.0 and not rules.added_weight:
        return (
            "shot_g",
            f"the rules here allow no added weight, and {qty(rig.shot_g, 'g', 1)} of shot is on it",
        )
    return None
