"""The why of a number: what went in, how it was made, where that comes from, and what would change it."""

from dataclasses import dataclass

from deriva.core.choose.evaluate import Evaluation, cross_shear
from deriva.core.drift.sinking import RESIDUAL_SD
from deriva.core.model.quantity import grams, percent, qty
from deriva.core.model.situation import Situation
from deriva.core.tackle.flies import fly_body
from deriva.core.water.profile import BED_KS, is_shallow_for_stones, stone_height


@dataclass(frozen=True, slots=True)
class Why:
    """An explanation that a person can check. Texts carry marked quantities (see ``wording``)."""

    number: str
    title: str
    inputs: tuple[str, ...]
    how: str
    source: str
    change: str


STEADY = (
    "Steady drift of the rig: drag of spheres (Schiller & Naumann 1933) and of line (Sucker & Brauer 1975)."
)
LOG_LAW = "Log law of the current over a rough bed (Nikuradse)."
PRACTICE = "Common practice, no source."


def explain(evaluation: Evaluation, situation: Situation) -> tuple[Why, ...]:
    """Return the why of every number that the rig's card shows."""
    e, water = evaluation, situation.water
    kind = "tip" if e.rig.float_ is None else "float"
    sd = qty(water.spread_m, "m")
    depth = f"Depth {qty(water.depth_m, 'm')} ± {sd}"
    speed = f"Surface speed {qty(water.surface_speed_m_s, 'm/s')}"
    bed = f"{water.bed.capitalize()} bed, roughness {qty(BED_KS[water.bed], 'm')}"
    shallow = is_shallow_for_stones(depth_m=water.depth_m, bed_ks_m=BED_KS[water.bed])
    loose = " The water is thin over its stones, so speeds near the bed are guesses." if shallow else ""
    fly = fly_body(e.rig.point, along_m=1.0)
    fly_g = qty(1000.0 * fly.mass_kg, "g")
    result = [
        Why(
            "zone_share",
            "Share of the drift in the strike zone",
            (depth, speed, bed, f"Zone {qty(e.zone.low_m, 'm')} to {qty(e.zone.high_m, 'm')} above the bed"),
            f"The drift of {qty(e.drift_m, 'm', 1)} takes {qty(e.drift_s, 's', 1)}; time before the fly is down, and time "
            f"lost to hang-ups, is taken off. Averaged over five equally likely depths, each with a speed"
            f"{' and three paces of the tip' if kind == 'tip' else ''}: {percent(e.zone_share)}, from "
            f"{percent(e.zone_share_low)} to {percent(e.zone_share_high)}.{loose}",
            f"{STEADY} {LOG_LAW} The height of the zone is common practice.",
            "Knowing the depth better, a longer drift, landing further up, or a fly that sinks faster.",
        ),
        Why(
            "fly_depth",
            "Depth at which the point fly settles",
            (
                depth,
                speed,
                f"Fly {fly_g}",
                f"{e.rig.tippet_x}X tippet, {qty(e.rig.depth_setting_m, 'm')} set",
            ),
            f"Weight, drag of fly and line, and the current at every depth are brought into balance; the line then leans "
            f"{e.steady.top_angle_deg:.0f}° at the top.",
            f"{STEADY} {LOG_LAW}",
            "A heavier bead or finer tippet hangs straighter; more line hangs deeper.",
        ),
        Why(
            "depth_setting",
            "Depth setting",
            (depth, speed, f"Fly {fly_g}"),
            "Settings from half to nearly twice the depth were tried with every bead; this one scores best over the "
            "depths and speeds that the lie may have, long enough to reach and short enough not to hang up.",
            STEADY,
            "Touches: none in about six drifts says longer, hanging up says shorter.",
        ),
        Why(
            "lead",
            "How far above the fish to land",
            (speed, f"Time to the zone {qty(e.time_to_zone_s or 0.0, 's', 1)}"),
            "What the fly travels downstream before it is in the zone."
            + (" It lands upstream of its float and swings in under it." if kind == "float" else ""),
            f"Sinking curve fitted to the transient drift; good to {percent(RESIDUAL_SD)} in time.",
            "A heavier or slimmer fly needs less room; so does slower water.",
        ),
        Why(
            "pace",
            "Pace against the bubbles",
            (speed, bed),
            "The speed at which the pulls on line and flies cancel."
            if kind == "float"
            else "The tip's share of the surface speed that leaves the line plumb, so that the flies hang deepest.",
            f"{STEADY} {LOG_LAW}"
            if kind == "float"
            else "Mean of the log law, plus 0.03 found by steady drifts over paces.",
            "A float faster than this says that the flies are not down.",
        ),
        Why(
            "hang_chance",
            "Chance that a drift hangs up",
            (depth, bed),
            f"A drift touches {percent(e.touch_chance)} of the time, over the depths that the lie may have. Where the fly runs "
            f"among the stones, which stand up {qty(stone_height(bed_ks_m=e.scenario.water.bed_ks_m), 'm')}, it hangs with a "
            "fixed chance a metre, the greater the deeper among them.",
            PRACTICE,
            "A shorter setting, a lighter fly, or knowing the depth better.",
        ),
        Why(
            "drift_m",
            "Length of drift that can be fished",
            (
                f"Lane of a {water.kind.replace('_', ' ')}",
                f"Distance {qty(situation.place.distance_m, 'm', 1)}",
            ),
            "The shortest of: the lane itself, "
            + (
                "the arc of a tight line from 45° upstream to 45° downstream."
                if kind == "tip"
                else f"and what mending gives before line in water {percent(cross_shear(water))} faster or slower drags."
            ),
            PRACTICE,
            "Standing where fewer currents lie between you and the fish.",
        ),
    ]
    if e.rig.float_ is not None:
        result.append(
            Why(
                "carry",
                "What the float carries",
                (
                    f"{e.rig.float_.name}: lifts {grams(e.rig.float_.carries_n)}",
                    f"Pull of the settled rig {grams(e.load_n)}",
                ),
                f"Lift over pull: {e.carry:.1f}. Lift is volume above its weight"
                f"{' and surface tension along its hackle' if e.rig.float_.kind == 'dry' else ''}; 1.4 is asked for, so that "
                "a touch does not take it under.",
                "Archimedes; surface tension after IAPWS; sizes by common practice.",
                "A lighter fly, a bigger float, or a dry that is dried.",
            )
        )
    return tuple(result)


TRANSIENT = (
    "Transient drift: the rig as weights on line that does not stretch, drag as in the steady drift; times good to 3 % "
    "against an independent solver."
)


def explain_drift(evaluation: Evaluation, situation: Situation) -> tuple[Why, ...]:
    """Return the why of every number that is read off a drift as it runs."""
    e, water = evaluation, situation.water
    speed = f"Surface speed {qty(water.surface_speed_m_s, 'm/s')}"
    depth = f"Depth {qty(water.depth_m, 'm')}, the one believed"
    tops = qty(stone_height(bed_ks_m=e.scenario.water.bed_ks_m), "m")
    tip = e.rig.float_ is None
    found = [
        Why(
            "top_pace",
            "Pace against the bubbles at this moment",
            (speed,),
            "How fast the rod tip is led."
            if tip
            else "How fast the float goes, over how fast the surface does.",
            TRANSIENT,
            "A float as fast as the bubbles says that the flies are not down yet.",
        ),
        Why(
            "fly_pace",
            "The point fly against the water around it",
            (speed, depth),
            "Its speed downstream over the current's at its own depth. 100 % is a dead drift; more, and the line tows it.",
            f"{TRANSIENT} {LOG_LAW}",
            "Finer tippet, a slower tip or a float nearer to plumb.",
        ),
        Why(
            "pull",
            "Pull of the line on float or tip",
            (f"Fly {qty(1000.0 * fly_body(e.rig.point, along_m=1.0).mass_kg, 'g')}", speed),
            "What a balance would read there: weight in water and drag together, the mean since the picture before.",
            TRANSIENT,
            "A heavier fly, thicker line, or a tip that holds back.",
        ),
        Why(
            "touches",
            "Touches of the bed so far",
            (depth, f"Stones about {tops} high"),
            "Each time that the underside of a fly is lower than the stone it passes; touches closer together than a hand "
            "can tell are one. The stones are the same every time; luck and turbulence are left out.",
            PRACTICE,
            "A shorter setting, a lighter fly, or a deeper lie than believed.",
        ),
    ]
    if tip:
        found.append(
            Why(
                "sighter",
                "Lean of the sighter",
                (f"Tip to bubbles {percent(e.rig.tip_pace)}",),
                "Its angle from plumb. It hangs plumb where the tip goes as fast as the line is carried.",
                TRANSIENT,
                "Leading faster puts the tip ahead; holding back lets the sighter pass.",
            )
        )
    return tuple(found)
