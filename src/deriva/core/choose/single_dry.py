"""The single dry: no nymph, one fly on the surface, where fish rise steadily, at dusk, or where one fly is allowed.

Nothing of it sinks, so there is nothing to set by computation; what it is worth is the trade's judgement (common practice, no
source), by the same measures as the other rigs where they apply.
"""

from dataclasses import dataclass

from deriva.core.choose.criteria import SEEN_AT, dry_seen, wind_value
from deriva.core.choose.judge import Reason
from deriva.core.model.quantity import qty
from deriva.core.model.situation import Situation
from deriva.core.model.water import roughness
from deriva.core.rigs.parts import floats, season_dry, tippet_x
from deriva.core.tackle.floats import Float
from deriva.core.water.warmth import NO_RISE_C

STEADY, BULGING, DUSK, LOOKING = 0.85, 0.4, 0.6, 0.5
"""How far fish are to be had on the surface alone: where rises leave bubbles (some of those still take just under), where they
leave none, at dusk, and where they are said to feed at the top or at several levels (common practice, no source)."""

TAKE = 0.92
"""What a take on a dry is worth, as under a dry-dropper (common practice, no source)."""

LARGE_MM = 12.0
SMALL_IN_DUSK = 0.5
"""A dry as long as this is seen at dusk by fish and angler; a smaller one half as well (common practice, no source)."""

WORTH_OFFERING = 0.1


@dataclass(frozen=True, slots=True)
class SingleDry:
    """A dry fly alone: which, on what tippet, what it is worth beside the three rigs, and why."""

    dry: Float
    tippet_x: int
    score: float
    reasons: tuple[Reason, ...]


def _rise(situation: Situation) -> tuple[float, str] | None:
    """Return how far fish are to be had on the surface, and the reason; None where nothing says so."""
    fish = situation.fish
    if fish.rises == "bubbles":
        # where they are said to feed lower, the rises are those of a few
        steady = fish.feeding in (None, "surface", "mixed")
        return STEADY if steady else LOOKING, "They rise and leave bubbles: they take from the surface."
    if situation.water.temperature_c < NO_RISE_C:
        return None
    if fish.rises == "no_bubbles":
        return BULGING, "They bulge and leave no bubbles: most take just under the dry."
    if situation.light == "dusk":
        return DUSK, "At dusk fish come up, to what they and you can see."
    if fish.level in ("surface", "mixed"):
        return LOOKING, "Some of them look to the surface."
    return None


def _which(situation: Situation) -> Float | None:
    """Return the dry to tie on: at dusk a large one, else that of the season, else the smallest that rides and is seen."""
    there = floats(situation, "dry_dropper")
    if situation.light != "day":
        return next((one for one in there if one.size_mm >= LARGE_MM), there[-1] if there else None)
    of_season = season_dry(situation)
    return next((one for one in there if one.name == of_season), there[0] if there else None)


def single_dry(situation: Situation) -> SingleDry | None:
    """Return the single dry where it is worth offering, None where it is not."""
    rising, dry = _rise(situation), _which(situation)
    if rising is None or dry is None:
        return None
    worth, why = rising
    seen = dry_seen(situation)
    light = SEEN_AT[situation.light]["dry_dropper"]
    if situation.light == "dusk":
        light = 1.0 if dry.size_mm >= LARGE_MM else SMALL_IN_DUSK
    drowns = roughness(situation.water) * (1.0 - dry.rides)
    score = worth * TAKE * seen * light * wind_value("dry_dropper", situation.place.wind_m_s) * (1.0 - drowns)
    if score < WORTH_OFFERING:
        return None
    reasons = [
        Reason(True, why),
        Reason(True, "No nymph below it: nothing to tangle, and a cast every few seconds."),
    ]
    if situation.rules.max_flies == 1:
        reasons.insert(1, Reason(True, "The rules here allow one fly: a dry with a nymph counts as two."))
    if situation.light == "dusk" and dry.size_mm >= LARGE_MM:
        reasons.append(Reason(True, "Large enough to be seen when the light goes."))
    if seen < 1.0:
        reasons.append(
            Reason(
                False, f"{qty(situation.place.distance_m, 'm', 1)} is a long way to see a dry and to strike."
            )
        )
    if situation.fish.rises != "bubbles":
        reasons.append(Reason(False, "It shows nothing to fish that stay down."))
    return SingleDry(dry, tippet_x(situation, dry.hook or 12), score, tuple(reasons))
