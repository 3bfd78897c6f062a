"""The criteria that a rig is judged by, each with its value from 0 to 1 and the sentence that says it.

What is computed (zone, carrying, hanging up) comes from the drift; the rest are the trade's judgements, stated as
numbers so that they can be read and argued with: common practice, no source.
"""

from dataclasses import dataclass
from typing import Literal

from deriva.core.choose.evaluate import Evaluation
from deriva.core.model.quantity import percent, qty
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.water import WaterKind, roughness
from deriva.core.rigs.offers import likeness, wanted_fly
from deriva.core.rigs.parts import DROWNS
from deriva.core.rigs.rules import broken
from deriva.core.water.warmth import NO_RISE_C

ZONE_WEIGHT = 0.8
"""Exponent of the zone share in the score: the last tenth of a good share matters less than the first of a bad one."""

GOOD = 0.9

TIGHT_LINE_M_S = (2.5, 10.0)
"""Wind that a tight line does not notice, and that ends its control, m/s (common practice, no source)."""

SEEN_FLOAT_M = (15.0, 26.0)
SEEN_DRY_M = (6.0, 16.0)
"""Distances up to which a take is seen well enough to strike, and at which not at all, m: a float anywhere and a dry on smooth
water, and a dry in broken water (common practice, no source)."""

LONG_DROPPER_M, LATE = (1.0, 1.6), 0.10
"""Line below a dry from which on it is awkward and shows takes late, and at which it costs this much (common practice: over
about a metre; no source)."""

SEEN_AT: dict[Literal["day", "dusk", "dark"], dict[RigKind, float]] = {
    "day": {"euro": 1.0, "indicator": 1.0, "dry_dropper": 1.0},
    "dusk": {"euro": 0.95, "indicator": 0.85, "dry_dropper": 0.8},
    "dark": {"euro": 0.6, "indicator": 0.3, "dry_dropper": 0.3},
}
"""What a take is worth by the light: a tight line is felt, a float and a dry must be seen (common practice, no source)."""

ROCKS = 0.75
"""What a float is worth among rocks that split the current (common practice, no source)."""

OUTRUN = 0.5
"""What a dry is worth where the bottom outruns the top (common practice, no source)."""

TOWED_FROM, TOWED_TO = 1.5, 4.0
"""Pace of the fly over that of its water at which it begins to look towed, and at which it is of no use. A line in the
faster water above always tows a little: 1.4 a tenth of the depth up (log law). Common practice, no source."""


KIND_WORDS: dict[WaterKind, str] = {
    "riffle": "riffle", "run": "run", "pool_head": "head of the pool", "pool": "pool", "tail_out": "tail", "glide": "glide",
    "pocket": "pocket", "seam": "seam", "eddy": "eddy", "drop_off": "drop-off", "undercut": "undercut",
    "weed_channel": "channel in the weed", "bank_edge": "edge",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Criterion:
    """One judgement: ``value`` 1 is ideal, 0 rules the rig out; ``text`` says it in the trade's words."""

    name: str
    value: float
    text: str

    @property
    def speaks_for(self) -> bool:
        """Return whether this is a reason for the rig."""
        return self.value >= GOOD


def ramp(x: float, at_one: float, at_zero: float) -> float:
    """Return 1 at ``at_one``, 0 at ``at_zero``, a straight line between, and no more beyond."""
    return min(1.0, max(0.0, (x - at_zero) / (at_one - at_zero)))


def wariness(situation: Situation) -> float:
    """Return 0..1: how easily fish are put down here; clear, slow, smooth, shallow water is the worst."""
    water = situation.water
    clear = ramp(water.clarity_m, 2.0, 0.3)
    slow = ramp(water.surface_speed_m_s, 0.2, 0.8)
    thin = ramp(water.depth_m, 0.5, 2.0)
    return clear * slow * (0.5 + 0.5 * thin)


AT_ONCE_S = 0.05
"""Sooner than this is at once: a tenth of a second is the least that is said."""


def _soon(seconds: float, after: str) -> str:
    return "at once" if seconds < AT_ONCE_S else f"{qty(seconds, 's', 1)} {after}"


def _zone(e: Evaluation) -> Criterion:
    value = e.zone_share
    if e.time_to_zone_s is None:
        text = f"The fly settles at {qty(e.steady.body_depth_m[0], 'm')} and does not reach the fish at the depth believed."
    elif e.rig.kind == "dry_dropper" and e.zone.reaches(e.scenario.water.depth_m):
        later = _soon(e.time_to_zone_s, "later")
        text = f"The dry fishes from where it lands; the nymph is with the fish {later}."
    else:
        text = (
            f"Down in the zone {_soon(e.time_to_zone_s, 'after landing')}, and there for {percent(value)} "
            f"of a drift of {qty(e.drift_m, 'm', 1)}."
        )
    return Criterion("zone", value, text)


NEVER_TOUCHES, TOUCHES_ENOUGH = 0.9, 0.15
"""What a rig that never touches is worth to who wants to feel the bottom, and the chance to touch in a drift that is enough
(common practice: once in every few drifts; no source)."""


def bed_value(hang_chance: float, touch_chance: float, s: Situation) -> float:
    """Return what a chance to hang up, and to feel the bottom now and then, is worth."""
    if s.school.bottom == "near":
        return 1.0 - hang_chance
    felt = 1.0
    if s.fish.level == "bottom":
        felt = NEVER_TOUCHES + (1.0 - NEVER_TOUCHES) * min(1.0, touch_chance / TOUCHES_ENOUGH)
    return felt * (1.0 - 0.6 * hang_chance)


def pace_value(fly_pace: float) -> float:
    """Return what a fly's pace over that of its water is worth."""
    return 0.2 + 0.8 * ramp(fly_pace, TOWED_FROM, TOWED_TO)


def carry_value(carry: float) -> float:
    """Return what it is worth that a float carries so many times its load."""
    return ramp(carry, 1.4, 0.9)


def _bed(e: Evaluation, s: Situation) -> Criterion:
    value = bed_value(e.hang_chance, e.touch_chance, s)
    if e.hang_chance >= 0.01:
        snags = " and these roots" if "roots" in s.place.cover else ""
        text = f"Hangs up on {percent(e.hang_chance)} of drifts over this {s.water.bed} bed{snags}."
    elif e.touch_chance >= 0.05:
        text = f"Touches the {s.water.bed} now and then, and hardly ever hangs."
    else:
        text = f"Rides clear of the {s.water.bed} at every depth that this lie may have."
    return Criterion("bed", value, text)


def _pace(e: Evaluation) -> Criterion:
    """A dead drift goes with the water around the fly; what the fly is towed faster by is drag that a fish sees."""
    value = pace_value(e.fly_pace)
    text = (
        "The fly goes with the water around it."
        if value >= GOOD
        else f"Towed at {e.fly_pace:.1f} times the pace of the water around the fly."
    )
    return Criterion("pace", value, text)


def dry_seen(s: Situation) -> float:
    """Return how well a take on a dry is seen from where the angler stands, in water as broken as this."""
    broken = roughness(s.water)
    well, never = (
        smooth + broken * (rough - smooth) for smooth, rough in zip(SEEN_FLOAT_M, SEEN_DRY_M, strict=True)
    )
    return ramp(s.place.distance_m, well, never)


def _reach(e: Evaluation, s: Situation) -> Criterion:
    distance = s.place.distance_m
    if e.rig.kind == "euro":
        held, ends = s.rod.tight_m
        value = ramp(distance, held, ends)
        text = (
            "Near enough to hold every bit of line off the water."
            if value >= GOOD
            else f"At {qty(distance, 'm', 1)} the line sags on to the water: a tight line ends by {qty(ends, 'm', 1)}."
            if value > 0.0
            else f"{qty(distance, 'm', 1)} is out of reach of a tight line."
        )
        if s.rod.sags and value < GOOD:
            text += " An ordinary line sags from the tip ring: loop on level monofilament."
    else:
        value = dry_seen(s) if e.rig.kind == "dry_dropper" else ramp(distance, *SEEN_FLOAT_M)
        text = (
            f"Fishes at {qty(distance, 'm', 1)} without wading closer."
            if value >= GOOD
            else f"{qty(distance, 'm', 1)} is a long way to see a take and to strike."
        )
    return Criterion("reach", value, text)


def _land(e: Evaluation) -> Criterion | None:
    """Whether the flies, cast as far above the fish as can be from here, are down before it."""
    if e.in_time >= GOOD:
        return None
    text = f"Not down in time: {qty(e.castable_m, 'm', 1)} above the fish is as far as can be cast and kept in hand."
    return Criterion("land", e.in_time, text)


WIND: dict[RigKind, tuple[float, float, float]] = {
    "euro": (*TIGHT_LINE_M_S, 0.1),
    "indicator": (6.0, 16.0, 0.4),
    "dry_dropper": (4.0, 12.0, 0.3),
}
"""Wind that a rig does not notice, wind that leaves least of it, m/s, and how much that is (common practice, no source)."""


def wind_value(kind: RigKind, wind_m_s: float) -> float:
    """Return what a kind of rig is worth in a wind."""
    at_one, at_zero, floor = WIND[kind]
    return floor + (1.0 - floor) * ramp(wind_m_s, at_one, at_zero)


def _wind(e: Evaluation, s: Situation) -> Criterion:
    wind = s.place.wind_m_s
    value = wind_value(e.rig.kind, wind)
    calm = value >= GOOD
    if e.rig.kind == "euro":
        text = (
            "Air still enough to hold the sighter on line."
            if calm
            else (f"Wind of {qty(wind, 'm/s air', 0)} blows the sighter off its line.")
        )
    else:
        text = (
            "The float lies in the water, out of the wind."
            if calm
            else (f"Wind of {qty(wind, 'm/s air', 0)} makes the loop hard to turn over.")
        )
    return Criterion("wind", value, text)


def _hold(e: Evaluation, s: Situation) -> Criterion:
    """How well the rig stays with its lane: lines across currents drag a float, slack water lets a tight line sag."""
    water = s.water
    if e.rig.kind == "euro":
        value = 0.25 + 0.75 * ramp(water.surface_speed_m_s, 0.35, 0.1)
        if water.kind == "eddy":
            return Criterion(
                "hold", 0.15, "The eddy runs back upstream: a tight line cannot hold its flies there."
            )
        text = (
            f"Only the tippet is in the water: the {KIND_WORDS[water.kind]} between you and the fish does not touch it."
            if value >= GOOD
            else "Water this slow leaves nothing to lead against: the flies hang back or are towed."
        )
        return Criterion("hold", value, text)
    if e.rig.kind == "dry_dropper" and water.undertow:
        text = "The bottom runs faster than the top: the nymph outruns its dry and is lifted."
        return Criterion("hold", OUTRUN, text)
    swirl = {"pocket": 0.55, "eddy": 0.8 if e.rig.kind == "dry_dropper" else 0.65, "seam": 0.9}.get(
        water.kind, 1.0
    )
    if "rocks" in s.place.cover:
        swirl = min(swirl, ROCKS)
    text = (
        f"One current from rod to float in this {KIND_WORDS[water.kind]}: it drifts {qty(e.drift_m, 'm', 1)} before it drags."
        if swirl >= GOOD and water.kind != "seam"
        else f"The {KIND_WORDS[water.kind]} pulls the line two ways: {qty(e.drift_m, 'm', 1)} at most before the float drags."
    )
    return Criterion("hold", swirl, text)


def _stealth(e: Evaluation, s: Situation) -> Criterion:
    wary = wariness(s)
    if e.rig.kind == "euro":
        near = ramp(s.place.distance_m, 3.0, 9.6)
        value = 1.0 - 0.6 * wary * near
        text = (
            "The water hides you at this range."
            if value >= GOOD
            else f"Clear slow water: at {qty(s.place.distance_m, 'm', 1)} the fish sees you before the fly."
        )
        return Criterion("stealth", value, text)
    if e.rig.kind == "indicator":
        size = e.rig.float_.size_mm if e.rig.float_ else 0.0
        value = 1.0 - 0.5 * wary * ramp(size, 16.0, 4.0)
        text = (
            "A float goes unnoticed here."
            if value >= GOOD
            else f"A {qty(size, 'mm', 0)} float lands hard on clear slow water."
        )
        return Criterion("stealth", value, text)
    return Criterion("stealth", 1.0 - 0.08 * wary, "A dry lands like food and alarms nothing.")


def _take(e: Evaluation, s: Situation) -> Criterion:
    speed = s.water.surface_speed_m_s
    if e.rig.kind == "euro":
        value = 0.85 + 0.15 * ramp(speed, 0.4, 0.1)
        text = "Takes are felt and seen at once on a line that is already tight."
    elif e.rig.kind == "indicator":
        value = 0.93 - 0.08 * ramp(speed, 1.2, 0.5) - 0.10 * ramp(speed, 0.25, 0.5)
        text = (
            "In water this slow a take is a mere hesitation, and a round float rides over it."
            if speed <= 0.3
            else "The float shows the drift first and the take second; slack below it hides quick takes."
        )
    else:
        long = ramp(e.rig.depth_setting_m, LONG_DROPPER_M[1], LONG_DROPPER_M[0])
        drowns = roughness(s.water) * (1.0 - (e.rig.float_.rides if e.rig.float_ else 0.0))
        value = 0.92 - 0.5 * drowns - LATE * long
        text = (
            "The dry rides low and dips at a hesitation."
            if drowns < DROWNS and long <= 0.0
            else f"{qty(e.rig.depth_setting_m, 'm')} below a dry is awkward to cast, and shows a take late."
            if drowns < DROWNS
            else "In water this broken the dry drowns and is lost to the eye."
        )
    if s.light != "day":
        value *= SEEN_AT[s.light][e.rig.kind]
        if s.light == "dark":
            text = "Too dark to see sighter, float or dry."
        elif e.rig.kind == "euro":
            text = "The light goes: takes are still felt, though the sighter fades."
        else:
            text = "The light goes: only what is large or white on the water is seen."
    return Criterion("take", value, text)


def _level(e: Evaluation, s: Situation) -> Criterion:
    feeding = s.fish.level
    cold = s.water.temperature_c < NO_RISE_C and feeding not in (
        "surface",
        "mixed",
    )  # they rise, whatever it is
    if e.rig.kind == "dry_dropper":
        if cold:
            return Criterion("level", 0.7, "Too cold for fish to rise: the dry is only a float.")
        text = (
            "Fish feed at more than one level, and the dry is a fly of its own."
            if feeding in ("mixed", "surface")
            else ("The dry is a fly of its own if one looks up.")
        )
        return Criterion("level", 1.0 if feeding in ("mixed", "surface") else 0.97, text)
    if feeding == "surface":
        return Criterion("level", 0.6, "Fish are taking at the top, where this rig shows them nothing.")
    if feeding == "mixed":
        return Criterion("level", 0.85, "Shows nothing to the fish that are rising.")
    where = "by the bed" if feeding == "bottom" else "off the bed"
    return Criterion(
        "level", 1.0, f"{'Both flies fish' if e.rig.dropper else 'The fly fishes'} {where}, where they feed."
    )


def _casting(e: Evaluation, s: Situation) -> Criterion:
    if not (s.place.tight_casting or "branches" in s.place.cover):
        return Criterion("casting", 1.0, "Room to cast.")
    value = {"euro": 0.95, "indicator": 0.7, "dry_dropper": 0.85}[e.rig.kind]
    text = (
        "A short line can be flicked or shot under branches."
        if value >= GOOD
        else "A float and flies want a wider loop than the branches leave."
    )
    return Criterion("casting", value, text)


def _fly(e: Evaluation, s: Situation) -> Criterion | None:
    """How well the point fly stands for the one that the water asks for, where the choice is bound to a box."""
    if s.box is None or s.box.flies is None:
        return None
    fly = e.rig.point
    if s.school.heavy == "first" and e.rig.dropper is not None:
        fly = e.rig.dropper
    wanted = wanted_fly(s, fly.bead_mm)
    value = likeness(fly, wanted)
    text = (
        f"The {fly.words} in your box is what this water asks for."
        if value >= GOOD
        else f"The water asks for a {wanted.words}, size {wanted.hook}; the closest in your box is a {fly.words}, "
        f"size {fly.hook}."
    )
    return Criterion("fly", value, text)


def _rules(e: Evaluation, s: Situation) -> Criterion:
    flies = "One fly" if e.rig.flies == 1 else f"{e.rig.flies} flies"
    shot = f" and {qty(e.rig.shot_g, 'g', 1)} of shot" if e.rig.shot_g > 0.0 else " and no shot"
    allowed = f"the beat allows {s.rules.max_flies}" + (
        "" if s.rules.added_weight else " and no added weight"
    )
    return Criterion("rules", 0.0 if broken(e.rig, s.rules) else 1.0, f"{flies}{shot}: {allowed}.")


def _carry(e: Evaluation) -> Criterion | None:
    if e.rig.float_ is None:
        return None
    value = carry_value(e.carry)
    name = e.rig.float_.name
    text = (
        f"The {name} carries {e.carry:.1f} times this load."
        if value >= GOOD
        else f"The {name} carries only {e.carry:.1f} times this load: a touch pulls it under."
    )
    return Criterion("carry", value, text)


def judge(evaluation: Evaluation, situation: Situation) -> tuple[tuple[Criterion, ...], float]:
    """Return every criterion and the score: their product, the zone share to the power of ``ZONE_WEIGHT``."""
    criteria = [
        _zone(evaluation),
        _bed(evaluation, situation),
        _pace(evaluation),
        _hold(evaluation, situation),
        _reach(evaluation, situation),
        _wind(evaluation, situation),
        _stealth(evaluation, situation),
        _take(evaluation, situation),
        _level(evaluation, situation),
        _casting(evaluation, situation),
    ]
    criteria.append(_rules(evaluation, situation))
    land = _land(evaluation)
    if land is not None:
        criteria.append(land)
    carry, fly = _carry(evaluation), _fly(evaluation, situation)
    if carry is not None:
        criteria.insert(1, carry)
    if fly is not None:
        criteria.insert(-1, fly)
    score = 1.0
    for criterion in criteria:
        score *= criterion.value ** (ZONE_WEIGHT if criterion.name == "zone" else 1.0)
    return tuple(criteria), score
