"""Those who fish beside you: the rule of thumb, a plain sounder, the coach, and one who knows the water.

Each changes the rig after a drift by what was logged of the drifts so far, and by nothing that the water hides, but for the
last, whose rig is tried in the river itself.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from deriva.core.choose.candidates import COARSE_SHARES
from deriva.core.choose.customary import customary_setting
from deriva.core.choose.evaluate import tried
from deriva.core.coach.next import coach
from deriva.core.coach.rule import rule_of_thumb
from deriva.core.errors import DerivaError
from deriva.core.model.logged import TOUCHES, LoggedDrift
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.practice.world import Hidden, bed_as_it_is
from deriva.core.ranges import DEPTH_SETTING_M
from deriva.core.rigs.assemble import SIGHTER_CLEARANCE_M
from deriva.core.rigs.parts import DRY_LONGEST_M
from deriva.core.rigs.resolve import resolve
from deriva.core.tackle.beads import LADDER_MM

START_BEAD_MM: dict[RigKind, float] = {"euro": 3.0, "indicator": 3.0, "dry_dropper": 2.5}
"""What a rule of thumb ties on first (common practice, no source)."""

SOUND_M = 0.2

TRIED = 4
"""Settings that one who knows the water tries in the river itself."""

Player = Callable[[Situation, Rig, Sequence[LoggedDrift]], Rig]


def reset(rig: Rig, setting: float, bead: float | None, situation: Situation) -> Rig:
    """Return the rig with another setting and bead; the rig itself where that cannot hang."""
    if (setting, bead) == (rig.depth_setting_m, rig.point.bead_mm):
        return rig
    try:
        wanted = replace(Tuning.of(rig), depth_setting_m=setting, point_bead_mm=bead, float_=None)
        return resolve(wanted, situation)
    except DerivaError:
        return rig


def coached(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    """Do what the coach says of length and bead."""
    advice = coach(judged, rig, drifts).advice
    return reset(rig, advice.depth_setting_m, advice.point_bead_mm, judged)


def by_thumb(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    """Do what the rule of thumb says."""
    said = rule_of_thumb(drifts)
    return reset(rig, said.depth_setting_m, said.point_bead_mm, judged)


def sounding(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    """Longer by 20 cm a drift until it touches, half of that back, then the rule of thumb."""
    touched = [k for k, one in enumerate(drifts) if one.outcome in TOUCHES]
    if not touched:
        return reset(rig, round(rig.depth_setting_m + SOUND_M, 2), rig.point.bead_mm, judged)
    if touched[0] == len(drifts) - 1:
        return reset(rig, round(rig.depth_setting_m - 0.5 * SOUND_M, 2), rig.point.bead_mm, judged)
    return by_thumb(judged, rig, drifts)


def as_is(judged: Situation, rig: Rig, drifts: Sequence[LoggedDrift]) -> Rig:
    """Change nothing."""
    del judged, drifts
    return rig


def tied_by_thumb(judged: Situation, kind: RigKind) -> Rig:
    """Return what a rule of thumb ties on first, with one fly; raises the core's errors where that cannot hang."""
    low, high = customary_setting(judged, kind)
    setting = DEPTH_SETTING_M.clamp(round(0.5 * (low + high), 2))
    tied = resolve(Tuning(kind, setting, START_BEAD_MM[kind]), judged)
    return replace(tied, dropper=None, dropper_spacing_m=None, dropper_tag_m=0.0)


def likeliest(hidden: Hidden, kind: RigKind, *, drift_m: float) -> Iterator[Rig]:
    """Yield the rigs that computation gives most to in the water as it is, best first."""
    truth = hidden.truth
    column = bed_as_it_is(truth.water.column(), hidden)
    longest = DRY_LONGEST_M if kind == "dry_dropper" else DEPTH_SETTING_M.hi
    clearance = SIGHTER_CLEARANCE_M if kind == "euro" else 0.0
    found: list[tuple[float, int, Rig]] = []
    for bead in LADDER_MM:
        for share in COARSE_SHARES:
            setting = round(share * truth.water.depth_m + clearance, 2)
            if not DEPTH_SETTING_M.lo <= setting <= longest:
                continue
            try:
                rig = resolve(Tuning(kind, setting, bead), truth)
                one = tried(rig, truth, column, drift_m=drift_m)
            except DerivaError:
                continue
            if not one.steady.grounded:
                found.append((one.worth.useful, len(found), rig))
    yield from (rig for _, _, rig in sorted(found, reverse=True)[:TRIED])
