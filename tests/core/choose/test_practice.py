"""Truth: what practitioners do in thirty waters (common practice, no source).

Where the computation disagreed, `docs/decisions/0010-advice-against-practice.md` says why.
"""

from dataclasses import dataclass, replace

import pytest

from deriva.core.choose.candidates import families
from deriva.core.choose.judge import Usable
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.drift.steady import steady_drift
from deriva.core.model.rig import RigKind
from deriva.core.model.situation import Fish, Place, Rules, School, Situation
from deriva.core.model.water import Water
from deriva.core.rigs.assemble import assemble

EURO: RigKind = "euro"
FLOAT: RigKind = "indicator"
DRY: RigKind = "dry_dropper"


@dataclass(frozen=True)
class Practice:
    """A water, the rigs of which one should win, and what it should be set to: bead in mm, line below float or sighter as a
    share of the depth.
    """

    says: str
    situation: Situation
    wins: tuple[RigKind, ...]
    bead_mm: tuple[float, float] = (2.0, 4.0)
    line: tuple[float, float] = (0.4, 2.0)


def at(water: Water, distance: float, **place: float | bool) -> Situation:
    return Situation(water, Place(distance, **place))  # type: ignore[arg-type]


TABLE = (
    Practice(
        "pockets at the rod's end: tight line",
        at(Water(0.7, 1.0, "pocket", 0.1, "cobble", 1.5, 12.0), 4.0), (EURO,), (3.0, 4.0),
    ),
    Practice(
        "pockets between boulders, one drift behind each stone",
        at(Water(0.6, 0.95, "pocket", 0.1, "boulder", 1.5, 11.0), 3.5), (EURO,),
    ),
    Practice(
        "fast, deep and near: tight line, the heavy end of the ladder",
        at(Water(1.2, 0.9, "pool_head", 0.2, "cobble", 1.2, 11.0), 5.0), (EURO,), (3.0, 4.0),
    ),
    Practice(
        "a deep seam within two rods: tight line",
        at(Water(1.5, 0.7, "seam", 0.2, "gravel", 1.2, 11.0), 6.0), (EURO,), (3.0, 4.0),
    ),
    Practice(
        "a riffle to the knee: tight line, nothing heavy",
        at(Water(0.4, 0.8, "riffle", 0.05, "gravel", 1.5, 13.0), 5.0), (EURO,), (2.0, 3.0),
    ),
    Practice(
        "an ordinary run within reach: tight line",
        at(Water(1.0, 0.7, "run", 0.15, "cobble", 1.5, 11.0), 5.0), (EURO,), (2.5, 4.0), (0.9, 1.5),
    ),
    Practice(
        "under branches: a short line is flicked, a float wants room",
        at(Water(0.8, 0.6, "undercut", 0.15, "gravel", 1.3, 12.0), 5.0, tight_casting=True), (EURO,),
    ),
    Practice(
        "a slow deep pool across water that may not be waded, in a wind: float",
        at(Water(1.9, 0.45, "pool", 0.3, "gravel", 1.0, 9.0), 14.0, wading_allowed=False, wind_m_s=5.0), (FLOAT,),
        (2.0, 4.0), (0.8, 1.4),
    ),
    Practice(
        "steady broken water twelve metres off: float",
        at(Water(1.0, 0.7, "run", 0.15, "cobble", 1.2, 11.0), 12.0), (FLOAT,),
    ),
    Practice(
        "a gale takes the sighter: float",
        at(Water(1.1, 0.75, "run", 0.15, "cobble", 1.4, 11.0), 6.0, wind_m_s=9.0), (FLOAT,),
    ),
    Practice(
        "winter, a slow deep pool: float, the dry sees nothing rise",
        at(Water(1.8, 0.25, "pool", 0.3, "gravel", 1.5, 3.0), 9.0), (FLOAT,),
    ),
    Practice(
        "two metres deep: past the dry's depth",
        at(Water(2.1, 0.4, "pool", 0.3, "gravel", 1.5, 12.0), 10.0), (FLOAT,), (2.0, 4.0), (0.8, 1.3),
    ),
    Practice(
        "a wide slow river: float, the tight line does not reach",
        at(Water(1.6, 0.5, "glide", 0.25, "gravel", 1.2, 10.0), 16.0), (FLOAT,),
    ),
    Practice(
        "fast and a metre and a half: never a dry",
        at(Water(1.5, 1.1, "run", 0.2, "cobble", 1.2, 11.0), 6.0), (EURO, FLOAT), (3.5, 4.0),
    ),
    Practice(
        "a clear low flat, fish at two levels: dry-dropper",
        replace(at(Water(0.6, 0.25, "glide", 0.1, "gravel", 2.8, 14.0, "below_normal"), 10.0), fish=Fish("mixed")),
        (DRY,), (2.0, 2.5), (0.5, 1.2),
    ),
    Practice(
        "a slow glide a metre deep: dry-dropper, a small bead",
        at(Water(1.1, 0.3, "glide", 0.2, "gravel", 1.5, 12.0), 9.0), (DRY,), (2.0, 2.5), (0.65, 1.1),
    ),
    Practice(
        "a thin clear tail, twelve metres off: dry-dropper",
        at(Water(0.5, 0.4, "tail_out", 0.08, "gravel", 2.2, 14.0), 12.0), (DRY,), (2.0, 2.5), (0.4, 1.2),
    ),
    Practice(
        "a channel between weed, clear: dry-dropper",
        at(Water(0.6, 0.3, "weed_channel", 0.1, "gravel", 2.5, 14.0), 10.0), (DRY,), (2.0, 2.5),
    ),
    Practice(
        "spooky fish in a low pool: dry-dropper on fine tippet",
        at(Water(0.7, 0.2, "pool", 0.1, "gravel", 3.0, 15.0, "much_below_normal"), 11.0), (DRY,), (2.0, 2.5),
    ),
    Practice(
        "rises that leave bubbles on a flat: dry-dropper",
        replace(at(Water(0.9, 0.3, "glide", 0.15, "gravel", 2.0, 14.0), 9.0), fish=Fish("surface")),
        (DRY,), (2.0, 2.5), (0.15, 0.8),
    ),
    Practice(
        "a small stream, shallow and overgrown: no float",
        at(Water(0.45, 0.4, "run", 0.08, "gravel", 1.8, 13.0), 6.0, tight_casting=True), (EURO, DRY), (2.0, 2.5),
    ),
    Practice(
        "an eddy runs upstream: a hung fly holds, a tight line cannot",
        at(Water(1.1, 0.15, "eddy", 0.2, "sand", 1.5, 12.0), 7.0), (FLOAT, DRY),
    ),
    Practice(
        "dead slow and deep: nothing to lead against",
        at(Water(1.2, 0.1, "pool", 0.2, "sand", 1.5, 12.0), 8.0), (FLOAT, DRY), (2.0, 2.5),
    ),
    Practice(
        "the edge of a drop-off, nine metres off: the fly hangs",
        at(Water(1.4, 0.5, "drop_off", 0.25, "gravel", 1.8, 12.0), 9.5), (FLOAT, DRY),
    ),
    Practice(
        "a coloured spate: the soft edge at your feet, no dry",
        at(Water(0.8, 0.4, "bank_edge", 0.2, "gravel", 0.25, 9.0, "much_above_normal"), 3.5), (EURO, FLOAT),
    ),
    Practice(
        "insects come up over deep water: 60-90 cm below a small float, 2.5 mm at most",
        replace(at(Water(1.7, 0.4, "pool", 0.3, "gravel", 1.5, 13.0), 10.0), fish=Fish("mid")), (FLOAT, DRY),
        (2.0, 2.5), (0.25, 0.75),
    ),
    Practice(
        "an undertow: the nymph outruns its dry",
        at(Water(1.8, 0.5, "pool", 0.3, "gravel", 1.5, 12.0, undertow=True), 7.0), (EURO, FLOAT),
    ),
    Practice(
        "one fly by rule: no dry-dropper, which counts as two",
        replace(at(Water(0.6, 0.25, "glide", 0.1, "gravel", 2.8, 14.0), 10.0), rules=Rules(max_flies=1)), (FLOAT, EURO),
    ),
    Practice(
        "pocket water out of a tight line's reach: the dry swims where a float is swirled off",
        at(Water(0.6, 0.7, "pocket", 0.1, "cobble", 1.5, 12.0), 11.0), (FLOAT, DRY),
    ),
    Practice(
        "cold fast run near: tight line, not the dry",
        at(Water(1.0, 0.8, "run", 0.15, "cobble", 1.5, 4.0), 5.0), (EURO,), (3.0, 4.0),
    ),
)  # fmt: skip


def winner(situation: Situation) -> Usable:
    return advise(situation, wide).usable[0]


@pytest.mark.parametrize("practice", TABLE, ids=lambda one: one.says)
def test_practice__the_rig_that_is_taken_there_wins(practice: Practice) -> None:
    best = winner(practice.situation)
    assert best.kind in practice.wins, best.answer
    heaviest = max(fly.bead_mm or 0.0 for fly in (best.rig.point, best.rig.dropper) if fly is not None)
    lo, hi = practice.bead_mm
    assert lo <= heaviest <= hi, best.answer
    share = best.rig.depth_setting_m / practice.situation.water.depth_m
    lo, hi = practice.line
    assert lo <= share <= hi, best.answer


def test_table__covers_every_rig_and_most_kinds_of_water() -> None:
    assert len(TABLE) >= 25
    assert {rig for one in TABLE for rig in one.wins} == {EURO, FLOAT, DRY}
    assert len({one.situation.water.kind for one in TABLE}) >= 11


@pytest.mark.parametrize("practice", TABLE[::4], ids=lambda one: one.says)
@pytest.mark.parametrize(
    "school", [School(flies="one"), School(heavy="first"), School(weight="shot"), School(bottom="near")]
)
def test_schools__change_the_rig_and_keep_to_what_they_say(practice: Practice, school: School) -> None:
    for judged in advise(replace(practice.situation, school=school), wide).usable:
        rig = judged.rig
        if school.flies == "one":
            assert rig.dropper is None
        if school.heavy == "first" and rig.dropper is not None:
            assert (rig.dropper.bead_mm or 0.0) >= (rig.point.bead_mm or 0.0)
        if school.weight == "shot" and rig.kind == "indicator" and practice.situation.rules.added_weight:
            assert rig.shot_g > 0.0
            assert (rig.point.bead_mm or 0.0) <= 2.5


@pytest.mark.parametrize(("bead_mm", "shortest", "longest"), [(2.0, 1.4, 2.0), (4.0, 0.88, 1.0)])
def test_length__one_and_a_half_to_twice_the_depth_is_right_for_light_flies_in_fast_water(
    bead_mm: float, shortest: float, longest: float
) -> None:
    """And for a heavy one it is the depth itself: both schools are right (common practice, no source)."""
    fast = at(Water(1.0, 1.0, "run", 0.1, "gravel", 1.4, 11.0), 6.0)
    family = next(one for one in families(fast, FLOAT, fine=False) if one.point.bead_mm == bead_mm)
    alone = replace(family, dropper=None, dropper_spacing_m=None, dropper_tag_m=0.0, tippet_x=5)
    lengths = [0.6 + 0.02 * k for k in range(90)]
    reaches = next(
        length
        for length in lengths
        if steady_drift(assemble(replace(alone, depth_setting_m=length), fast.water.column())).body_depth_m[0]
        >= 0.88
    )
    assert shortest <= reaches <= longest
