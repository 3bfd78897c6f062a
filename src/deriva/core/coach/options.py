"""Settings that could be fished next, and what each is worth: time in the zone over the drifts to come, what it teaches, less
what it costs to make and to lose flies.
"""

from collections import Counter
from collections.abc import Iterable, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from itertools import product
from operator import mul
from typing import Literal

from deriva.core.choose.candidates import settings
from deriva.core.choose.change import CYCLE_S, SECONDS
from deriva.core.choose.search import splash
from deriva.core.coach.belief import Cell, Response, lies_on_the_bed, respond
from deriva.core.coach.evidence import (
    LATELY,
    TWICE,
    drifts_here,
    hangs_often,
    hung_lately,
    touched_each,
    touched_within,
)
from deriva.core.errors import DerivaError
from deriva.core.model.column import Column
from deriva.core.model.logged import HANGS, TOUCHES, LoggedDrift
from deriva.core.model.rig import Rig, RigKind
from deriva.core.model.situation import Situation
from deriva.core.model.tuning import Tuning
from deriva.core.ranges import DEPTH_SETTING_M
from deriva.core.rigs.offers import points
from deriva.core.rigs.parts import DRY_LONGEST_M, outweighed
from deriva.core.rigs.resolve import resolve
from deriva.core.tackle.beads import LADDER_MM

Action = Literal["hold", "deeper", "shallower", "heavier", "lighter", "change_fly", "change_rig", "move_on"]

UP: tuple[Action, ...] = ("shallower", "lighter")

STEPS_M = (0.05, 0.10, 0.15, 0.20, 0.30, 0.45, 0.65, 0.90, 1.30)

BEAD_STEPS_M = (0.0, 0.15, 0.35)

GROUPS = 11

TIME_SHARE = 0.3
"""What a drift's time is worth that is lost to knots or stones: about the share in the zone of an ordinary drift, fished by the
rule of thumb on a misjudged water (see `deriva bench`)."""

SWITCH_DRIFTS = 0.5
"""Drifts that going on to a better rig afterwards is reckoned to cost."""

LEARNING = 2.0
"""What knowing better is worth beside one step of looking ahead: the drifts after the next one teach as well (stated here)."""

LEAST_TO_COME, MOST_TO_COME = 6, 20

AS_RECKONED = 0.5
"""Hang-ups that the reckoned rate of a bed is worth beside those that were seen: no two beds of a class are alike (stated
here)."""

LOST_S = 50.0
"""What a hang-up costs beside the rest of its drift, s: six in ten are lifted out of at once, three are freed in 20 s, one
costs the fly and two and a half minutes: 21 s (common practice, no source); the rest is the fly, and fish that a pulled line
puts down (stated here, between 40 and 60: decision 11)."""

WORTH_SHARE, NEAR_SHARE = 0.05, 0.02
"""What a change must bring of each drift to come, as a share in the zone: less is noise, and no reason to cut a knot; and how
much less than the best a smaller change may bring."""

ALIKE = 2
"""Drifts that end alike before something is changed (common practice: after two identical drifts change something)."""

CALM = 5
"""So many drifts a setting is given where it looks right, or has touched (common practice: no touch in about six)."""

INCHES_M = 0.3
"""The most that a setting which touches is changed by at once, m: inches, or double that (common practice, no source)."""

LEAST_M = 0.08
"""The least by which a line that ticks is shortened, m: no knot is tied for less (common practice: inches, 8 to 15 cm)."""

UP_M: dict[RigKind, float] = {"euro": 0.2, "indicator": INCHES_M, "dry_dropper": 0.2}
"""The most that a line which touches is shortened by at once, m: a knot is not untied, and what was cut off too much is tied on
again; a float is slid back as quickly as it was slid down (stated here; decision 11 has what it is worth)."""

SURE = 0.6
"""A fly that is in the zone for this share of the drift, over the belief, is where it should be."""


@dataclass(frozen=True, slots=True)
class Option:
    """A rig that could be fished next, what it does in each of the likely waters, and the drifts that tying it costs.

    ``nets`` are its shares of a drift in the zone in each, less what its splash and its hang-ups cost in drifts; ``chances``
    those of a clean drift, a tick and a hang-up, each in all waters.
    """

    rig: Rig
    there: tuple[Response, ...]
    cost: float
    nets: tuple[float, ...]
    chances: tuple[tuple[float, ...], ...]

    def mean(self, weights: Sequence[float]) -> float:
        """Return the net share over the belief."""
        share: float = sum(map(mul, weights, self.nets))
        return share

    def useful(self, weights: Sequence[float]) -> float:
        """Return the share of the drift in the zone over the belief."""
        return sum(w * one.useful for w, one in zip(weights, self.there, strict=True))


@dataclass(frozen=True, slots=True)
class Gist:
    """A few waters that stand for the belief, and what a rig does in them."""

    situation: Situation
    cells: tuple[Cell, ...]
    snags: float = 1.0

    @property
    def weights(self) -> list[float]:
        """How much each is believed."""
        return [cell.weight for cell in self.cells]

    def _column(self, cell: Cell) -> Column:
        return self.situation.water.column(cell.depth_m, cell.surface_speed_m_s)

    def option(self, rig: Rig, cost: float = 0.0) -> Option:
        """Return a rig with what it does in each."""
        there = tuple(respond(rig, self.situation, self._column(cell), cell.runs_off) for cell in self.cells)
        hangs = (self._hangs(one) * LOST_S / CYCLE_S * TIME_SHARE for one in there)
        loud = splash(rig, self.situation)
        nets = tuple(one.useful - loud - lost for one, lost in zip(there, hangs, strict=True))
        chances = tuple(zip(*((one.clean, one.tick, one.hung) for one in there), strict=True))
        return Option(rig, there, cost, nets, chances)

    def _hangs(self, there: Response) -> float:
        return min(1.0, self.snags * there.hung)

    def hung(self, option: Option) -> float:
        """Return the chance that a drift with a rig hangs up over the belief, as often as this bed has shown."""
        return sum(w * self._hangs(one) for w, one in zip(self.weights, option.there, strict=True))

    def with_snags(self, drifts: Sequence[LoggedDrift]) -> "Gist":
        """Return it with how much oftener than reckoned this bed hangs a fly up, as far as the drifts have shown."""
        hung = sum(one.outcome in HANGS for one in drifts)
        reckoned = 0.0
        for rig, count in Counter(one.rig for one in drifts).items():
            there = self.option(rig).there
            reckoned += count * sum(w * one.hung for w, one in zip(self.weights, there, strict=True))
        return replace(self, snags=(hung + AS_RECKONED) / (reckoned + AS_RECKONED))

    def hangs_free(self, rig: Rig) -> bool:
        """Return whether a rig is clear of the bed in the middle one: nobody sets it to lie there."""
        middle = self.cells[len(self.cells) // 2]
        return not lies_on_the_bed(rig, self.situation, self._column(middle), middle.runs_off)


def worth_of(option: Option, options: Sequence[Option], weights: Sequence[float], to_come: float) -> float:
    """Return the drifts in the zone that a rig brings if it is fished from now on, and what its first drift teaches.

    What it teaches is worth what the best rig after knowing its outcome brings more than the best rig without: a drift that
    may touch tells more than one that cannot.
    """
    later = max(0.0, to_come - 1.0 - SWITCH_DRIFTS)
    knowing = 0.0
    for chances in option.chances:
        after = list(map(mul, weights, chances))
        knowing += max(other.mean(after) for other in options)
    blind = max(other.mean(weights) for other in options)
    return to_come * option.mean(weights) + LEARNING * later * max(0.0, knowing - blind) - option.cost


_CARRIER = {"indicator": "float", "dry": "dry"}


def tying(rig: Rig, after: Rig) -> float:
    """Return the drifts in the zone that making one rig into another costs; a float or dry that still carries it stays on."""
    cost = 0.0
    if after.depth_setting_m != rig.depth_setting_m:
        longer = after.depth_setting_m > rig.depth_setting_m
        cost += SECONDS["slide"] if rig.kind == "indicator" else SECONDS["lengthen" if longer else "shorten"]
    if after.point.bead_mm != rig.point.bead_mm:
        cost += SECONDS["bead"]
    if rig.float_ and after.float_ and after.float_.carries_n > rig.float_.carries_n:
        cost += SECONDS[_CARRIER[rig.float_.kind]]
    return cost / CYCLE_S * TIME_SHARE


def _set_so(on: Rig, situation: Situation, wanted: Iterable[tuple[float, float | None]]) -> list[Rig]:
    """Return a rig with other lengths and beads, where it hangs: the float is chosen anew for the weight, and the heaviest fly
    stays where the angler has it.
    """
    found: list[Rig] = []
    so_already = outweighed(on, situation)
    for setting, mm in wanted:
        tuning = replace(Tuning.of(on), depth_setting_m=setting, point_bead_mm=mm, float_=None)
        with suppress(DerivaError):  # no float carries it, or the flies do not fit
            anew = resolve(tuning, situation)
            if so_already or not outweighed(anew, situation):
                found.append(anew)
    return found


def settings_near(rig: Rig, situation: Situation) -> list[Rig]:
    """Return the rigs a change of depth, of one bead, or of both away."""
    bead = rig.point.bead_mm
    near = [b for b in points(situation) if b != bead]
    wanted: list[tuple[float, float | None]] = [(d * sign, bead) for d in STEPS_M for sign in (1, -1)]
    wanted += [(d * sign, b) for b in near for d in BEAD_STEPS_M for sign in ((1, -1) if d else (1,))]
    longest = DRY_LONGEST_M if rig.kind == "dry_dropper" else DEPTH_SETTING_M.hi
    steps = ((round(rig.depth_setting_m + by, 2), mm) for by, mm in wanted)
    return _set_so(
        rig,
        situation,
        (one for one in steps if DEPTH_SETTING_M.lo <= one[0] <= max(longest, rig.depth_setting_m)),
    )


def settings_here(rig: Rig, situation: Situation) -> list[Rig]:
    """Return the rig as it might be set for this water, whatever it was set for before."""
    return _set_so(rig, situation, product(settings(situation, rig.kind, fine=False), points(situation)))


def change_to(rig: Rig, after: Rig) -> Action:
    """Name a change by its depth, which comes first in the hand too, and by its weight where the depth stays."""
    if after.depth_setting_m != rig.depth_setting_m:
        return "deeper" if after.depth_setting_m > rig.depth_setting_m else "shallower"
    return "heavier" if (after.point.bead_mm or 0.0) > (rig.point.bead_mm or 0.0) else "lighter"


def is_asked_for(rig: Rig, after: Rig, drifts: Sequence[LoggedDrift], in_zone: float = 0.0) -> bool:
    """Return whether a change has been asked for.

    A rig that is where it should be, or has just touched, is not sent deeper for a few clean drifts, and one that hangs every
    second or third drift not at all.

    One touch is no reason to fish higher or lighter yet, and what touches is changed by inches: only a fly that never came
    down tells of a misread depth.
    """
    up = change_to(rig, after) in UP
    touches = sum(one.outcome in TOUCHES for one in drifts[-LATELY:])
    by_inches = round(abs(after.depth_setting_m - rig.depth_setting_m), 2) <= INCHES_M
    beads = sorted((rig.point.bead_mm or 0.0, after.point.bead_mm or 0.0))
    rungs = sum(beads[0] < rung <= beads[1] for rung in LADDER_MM)
    if drifts and rungs > (1 if touches else 2):
        return False
    if not drifts:
        return by_inches
    reaches = touched_within(CALM, drifts) or hangs_often(drifts)
    if not up and (reaches or (in_zone >= SURE and drifts_here(drifts) < CALM)):
        return False
    if up:
        return round(rig.depth_setting_m - after.depth_setting_m, 2) <= UP_M[rig.kind] and touches >= TWICE
    return by_inches or touches == 0


def best_among(now: Option, others: Sequence[Option], weights: Sequence[float], to_come: float) -> Option:
    """Return the rig to fish on with: the one that is on, unless another is worth a change.

    Of those that are worth as much as the best, but for the noise, the smallest step is made.
    """
    options = [now, *others]
    worth = [worth_of(one, options, weights, to_come) for one in others]
    stays = worth_of(now, options, weights, to_come)
    if max(worth, default=stays) <= stays + WORTH_SHARE * to_come:
        return now
    return _smallest_step(now, others, worth, max(stays, max(worth) - NEAR_SHARE * to_come))


def _smallest_step(now: Option, others: Sequence[Option], worth: Sequence[float], least: float) -> Option:
    """Return, of those that are worth more than the least, what is nearest to the rig that is on."""
    enough = (one for one, its in zip(others, worth, strict=True) if its > least)
    return min(enough, key=lambda one: _step(now.rig, one.rig))


def _step(rig: Rig, after: Rig) -> tuple[bool, float]:
    """Order changes as they are made: the depth before the bead, and by inches."""
    return after.point.bead_mm != rig.point.bead_mm, abs(after.depth_setting_m - rig.depth_setting_m)


def best_setting(
    now: Option, drifts: Sequence[LoggedDrift], gist: Gist, in_zone: float, to_come: float
) -> Option:
    """Return the rig to fish on with: the one that is on, unless another is asked for and worth it.

    One clean drift is what most settings begin with: it changes nothing.
    """
    if drifts[-1].outcome == "clean" and drifts_here(drifts) < ALIKE:
        return now
    rig, weights = now.rig, gist.weights
    others = [
        one
        for one in settings_near(rig, gist.situation)
        if is_asked_for(rig, one, drifts, in_zone) and (change_to(rig, one) in UP or gist.hangs_free(one))
    ]
    options = [gist.option(one, tying(rig, one)) for one in others]
    best = best_among(now, options, weights, to_come)
    ups = [one for one in options if change_to(rig, one.rig) in UP]
    if best is now and ups and hung_lately(drifts):
        return max(ups, key=lambda one: worth_of(one, [now, *ups], weights, to_come))
    if best is now and touched_each(drifts):
        return _a_little_less(now, ups, weights, to_come)
    return best


def _a_little_less(now: Option, ups: Sequence[Option], weights: Sequence[float], to_come: float) -> Option:
    """Return what is a little shorter or lighter, or the rig that is on where all of it is reckoned to cost more than noise."""
    inches = [one for one in ups if not 0.0 < _step(now.rig, one.rig)[1] < LEAST_M]
    stays, *worth = (worth_of(one, [now, *inches], weights, to_come) for one in (now, *inches))
    if not worth or max(worth) <= stays - WORTH_SHARE * to_come:
        return now
    return _smallest_step(now, inches, worth, max(worth) - NEAR_SHARE * to_come)
