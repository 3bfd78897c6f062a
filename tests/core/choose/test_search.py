"""Truth: what the trade says of each water (common practice, no source), the rules of the beat, and consistency."""

import math
import re
from dataclasses import replace

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from deriva.core.choose import search
from deriva.core.choose.evaluate import evaluate, fishable_m
from deriva.core.choose.judge import NotHere, Usable, judge_rig
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.coach.next import coach
from deriva.core.coach.rule import rule_of_thumb
from deriva.core.errors import Impossible
from deriva.core.model.logged import LoggedDrift
from deriva.core.model.quantity import plain
from deriva.core.model.rig import RIG_KINDS, RigKind
from deriva.core.model.setup import Setup
from deriva.core.model.situation import Box, Fish, Place, Rules, School, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.rigs.limits import limits
from deriva.core.rigs.resolve import resolve
from deriva.core.say.why import explain
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.floats import DRIES, INDICATORS
from deriva.core.tackle.rod import Rod
from deriva.core.water.profile import BedKind
from tests.core.situations import CLEAR_FLAT, FAR_POOL, POCKETS, RUN, SITUATIONS, at_distance


def of(kind: RigKind, situation: Situation) -> Usable:
    judged = advise(situation, wide).of(kind)
    assert isinstance(judged, Usable)
    return judged


def tuning_of(judged: Usable) -> Tuning:
    return Tuning.of(judged.rig)


def said(judged: Usable, *, speaks_for: bool) -> str:
    return " ".join(plain(r.text) for r in judged.reasons if r.speaks_for is speaks_for)


def test_three_waters__three_rigs_for_reasons_of_the_trade() -> None:
    """Tight line: fast, broken, near. Float: distance, wind, deep, no wading. Dry-dropper: clear flats, two levels."""
    pockets, far, flat = (advise(situation, wide) for situation in (POCKETS, FAR_POOL, CLEAR_FLAT))
    assert [one.ranked[0].kind for one in (pockets, far, flat)] == ["euro", "indicator", "dry_dropper"]
    assert "does not touch it" in said(pockets.usable[0], speaks_for=True)
    assert "pulls the line two ways" in said(pockets.usable[-1], speaks_for=False)
    assert "out of the wind" in said(far.usable[0], speaks_for=True)
    last = far.ranked[-1]
    assert isinstance(last, NotHere) and "out of reach of a tight line" in last.why
    assert "more than one level" in said(flat.usable[0], speaks_for=True)


def _place(judged: Usable) -> tuple[bool, float]:
    """Put what gets down before what does not, each by its score."""
    return judged.evaluation.time_to_zone_s is None, -judged.score


@given(SITUATIONS)
@settings(max_examples=25)
def test_advice__holds_for_any_water(situation: Situation) -> None:
    advice = advise(situation, wide)
    assert {judged.kind for judged in advice.ranked} == set(RIG_KINDS)
    order = [_place(judged) for judged in advice.usable]
    assert order == sorted(order)
    assert all(judged.why for judged in advice.ranked if isinstance(judged, NotHere))
    assert advice.ranked[: len(advice.usable)] == advice.usable
    for judged in advice.usable:
        assert judged.reasons
        e, rules = judged.evaluation, situation.rules
        assert e.rig.flies <= rules.max_flies
        assert rules.added_weight or e.rig.shot_g == 0.0
        assert not e.steady.grounded
        assert e.carry >= 0.9
        assert 0.0 <= e.zone_share_low <= e.zone_share + 1e-9 <= e.zone_share_high + 2e-9 <= 1.0 + 3e-9
        assert 0.0 <= e.hang_chance <= 1.0
        assert all(0.0 <= c.value <= 1.0 for c in judged.criteria)
        product = math.prod(c.value ** (0.8 if c.name == "zone" else 1.0) for c in judged.criteria)
        assert judged.score == pytest.approx(product)


@pytest.mark.parametrize("depth", [0.05, 0.2, 4.0])
@pytest.mark.parametrize("speed", [0.01, 0.5, 4.0])
@pytest.mark.parametrize("bed", ["sand", "boulder"])
def test_edges__of_what_may_come_in_still_get_an_answer(depth: float, speed: float, bed: BedKind) -> None:
    for undertow in (False, True):
        water = Water(depth, speed, bed=bed, depth_sd_m=0.5 * depth, undertow=undertow)
        advice = advise(Situation(water, Place(3.0), rules=Rules(max_flies=3)), wide)
        assert len(advice.ranked) == 3
        assert all(judged.reasons for judged in advice.usable)


@given(SITUATIONS)
@settings(max_examples=15)
def test_texts__mark_every_quantity_once_and_read_as_sentences(situation: Situation) -> None:
    for judged in advise(situation, wide).usable:
        texts = [r.text for r in judged.reasons] + [judged.answer, judged.thumb_note, *judged.warnings]
        for why in explain(judged.evaluation, situation):
            texts += [*why.inputs, why.how, why.source, why.change]
        for text in texts:
            assert text.count("⟦") == text.count("⟧")
            assert not re.search(r"(?<![⟦\d.])\d+\.\d+ (m|s|mm|g|m/s)\b", text), text
            assert "⟦" not in plain(text)
            assert " air" not in plain(text)
            assert "nan" not in text and "inf " not in text


@pytest.mark.parametrize(
    "school", [School(), School(heavy="first"), School(weight="shot"), School(flies="one")]
)
@pytest.mark.parametrize("situation", [RUN, FAR_POOL])
def test_tuning__the_advised_setting_is_the_advised_rig(situation: Situation, school: School) -> None:
    mine = replace(situation, school=school)
    for judged in advise(mine, wide).usable:
        again = resolve(tuning_of(judged), mine)
        assert again == judged.rig
        assert judge_rig(again, mine).score == judged.score


@pytest.mark.parametrize(("flies", "allowed"), [(1, {"euro", "indicator"}), (2, set(RIG_KINDS))])
def test_rules__bind_the_number_of_flies(flies: int, allowed: set[str]) -> None:
    """A dry-dropper counts as two flies."""
    usable = advise(replace(RUN, rules=Rules(max_flies=flies)), wide).usable
    assert {j.kind for j in usable} == allowed
    assert all(j.rig.flies <= flies for j in usable)


def test_rules__no_added_weight_means_no_shot() -> None:
    school = School(weight="shot")
    free, bound = (
        of("indicator", replace(RUN, school=school, rules=Rules(added_weight=allowed)))
        for allowed in (True, False)
    )
    assert free.rig.shot_g > 0.0
    assert bound.rig.shot_g == 0.0


def test_shot__is_the_weight_of_flies_without_a_bead() -> None:
    """One school fishes bare flies under shot (common practice, no source). What is written of a rig sets it anew."""
    shot = [replace(one, school=School(weight="shot")) for one in (RUN, FAR_POOL, CLEAR_FLAT, POCKETS)]
    mine = Box((), flies=(Fly("dubbed mayfly nymph", 14, None), Fly("shrimp", 14, 3.0), Fly("pupa", 16, 2.0)))
    shot += [replace(one, box=mine) for one in shot[:2]]
    rigs = [(one, rig.rig) for one in shot for rig in advise(one, wide).usable if rig.kind != "dry_dropper"]
    bare = [(one, rig) for one, rig in rigs if rig.point.bead_mm is None]
    assert {one.box is None for one, _ in bare} == {True, False}
    for one, rig in bare:
        assert rig.shot_g > 0.0
        assert Setup.of(rig).point_bead_mm is None
        assert resolve(Tuning.of(rig), one) == rig
        assert judge_rig(rig, one).answer.split(" · ")[1] == "no bead"
        drifts = [LoggedDrift(rig, "clean") for _ in range(12)]
        advice = coach(one, rig, drifts).advice
        assert advice.action in {"deeper", "heavier", "hold", "move_on", "change_fly", "change_rig"}
        assert rule_of_thumb(drifts).point_bead_mm is None
    ruled = (RUN, replace(shot[0], rules=Rules(added_weight=False)))
    assert all(None not in limits(one, kind).beads_mm for one in ruled for kind in RIG_KINDS)


@given(SITUATIONS, st.sampled_from(RIG_KINDS), st.booleans())
def test_limits__are_the_rules_and_what_there_is(one: Situation, kind: RigKind, boxed: bool) -> None:
    """What can be set by hand is what can be tied: as many flies as are allowed, floats of the rig, flies that are there."""
    own = (Fly("shrimp", 14, 3.0), Fly("midge pupa", 20), Fly("shrimp", 14, 3.0))
    by_hand = limits(replace(one, box=Box((3.0,), flies=own)) if boxed else one, kind)
    assert all(n <= one.rules.max_flies for n in by_hand.flies)
    carriers = {"euro": (), "indicator": INDICATORS, "dry_dropper": DRIES}[kind]
    assert set(by_hand.floats) <= {carrier.name for carrier in carriers}
    assert bool(by_hand.floats) == (kind != "euro")
    if boxed:
        assert set(by_hand.point_flies) == set(own)
    else:
        assert {fly.bead_mm for fly in by_hand.point_flies} == {None}  # any bead
        assert len(by_hand.point_flies) > 2
    assert len({(fly.words, fly.hook) for fly in by_hand.point_flies}) == len(by_hand.point_flies)


def test_reach__a_tight_line_ends_at_eight_to_ten_metres() -> None:
    scores = [of("euro", at_distance(RUN, d)).score for d in (5.0, 8.0, 9.5)]
    assert scores == sorted(scores, reverse=True)
    assert scores[0] > 0.3
    assert isinstance(advise(at_distance(RUN, 11.0), wide).of("euro"), NotHere)


def test_reach__goes_with_the_rod_and_an_ordinary_line_sags() -> None:
    """A longer rod holds more line off the water; out of the tip ring an ordinary line pulls a tight one down (common
    practice, no source).
    """
    far = at_distance(RUN, 7.5)

    def score(rod: Rod) -> float:
        judged = advise(replace(far, rod=rod), wide).of("euro")
        return judged.score if isinstance(judged, Usable) else 0.0

    usual = score(Rod())
    assert score(Rod(length_m=2.4)) < usual < score(Rod(length_m=3.6))
    assert score(Rod(line_weight=5, leader="tapered")) < score(Rod(line_weight=5, leader="long")) < usual
    assert score(Rod(line_weight=0, leader="tapered")) == usual == score(Rod(line_weight=5, leader="level"))
    sags = advise(replace(at_distance(RUN, 6.0), rod=Rod(leader="tapered")), wide).of("euro")
    assert isinstance(sags, Usable)
    assert "loop on level monofilament" in said(sags, speaks_for=False)
    with_float = [of("indicator", replace(far, rod=rod)).score for rod in (Rod(), Rod(leader="tapered"))]
    assert with_float[0] == with_float[1]


def test_wind__takes_the_tight_line_first() -> None:
    calm, gale = (advise(replace(RUN, place=Place(6.0, wind_m_s=w)), wide).ranked for w in (1.0, 9.0))
    assert calm[0].kind == "euro"
    assert gale[0].kind == "indicator"


def test_eddy__a_hung_fly_holds_where_a_tight_line_cannot() -> None:
    eddy = replace(RUN, water=Water(1.1, 0.15, "eddy", 0.2, "sand", 1.5, 12.0))
    assert advise(eddy, wide).ranked[-1].kind == "euro"
    assert "cannot hold" in said(of("euro", eddy), speaks_for=False)


def test_deeper_and_faster__wants_more_weight() -> None:
    def bead(depth: float, speed: float) -> float:
        judged = of("euro", replace(RUN, water=replace(RUN.water, depth_m=depth, surface_speed_m_s=speed)))
        return judged.rig.point.bead_mm or 0.0

    assert bead(0.5, 0.3) < bead(1.1, 0.75) <= bead(1.6, 1.0)


def test_feeding_level__overrides_the_bed() -> None:
    bed, mid = (of("indicator", replace(RUN, fish=Fish(level))).evaluation for level in ("bottom", "mid"))
    assert mid.rig.depth_setting_m < bed.rig.depth_setting_m
    assert mid.zone.low_m > 0.0


@pytest.mark.parametrize(
    "water",
    [
        Water(1.0, 0.5, "weed_channel", bed="gravel", temperature_c=8.0),
        Water(1.2, 0.7, "run", bed="gravel", temperature_c=8.0),
        Water(0.8, 0.7, "seam", bed="gravel", temperature_c=8.0),
        Water(1.5, 0.9, "run", bed="gravel", temperature_c=8.0),
    ],
)
def test_grayling__are_fished_with_3_to_4_mm_and_closer_to_the_bed_than_trout(water: Water) -> None:
    """Common practice, no source."""
    trout = Situation(water, Place(7.0))
    grayling = replace(trout, fish=Fish(species="grayling"))
    one, other = (of("euro", situation).evaluation for situation in (grayling, trout))
    assert one.rig.point.bead_mm is not None
    assert 3.0 <= one.rig.point.bead_mm <= 4.0
    assert one.zone.high_m < other.zone.high_m


@given(st.floats(0.4, 2.0), st.floats(0.2, 1.2))
@settings(max_examples=20)
def test_advised_fly__hangs_clear_of_the_stones_and_goes_with_its_water(depth: float, speed: float) -> None:
    """No rig may be set to skim the bed faster than the water there: that is drag, and the fly hangs up."""
    situation = replace(RUN, water=replace(RUN.water, depth_m=depth, surface_speed_m_s=speed))
    usable = advise(situation, wide).usable
    assume(usable)
    assert usable[0].evaluation.fly_pace < 2.2
    assert usable[0].evaluation.hang_chance < 0.4


def test_hang_chance__rises_as_the_rig_is_set_deeper() -> None:
    rig = of("indicator", RUN).rig
    chances = [
        evaluate(replace(rig, depth_setting_m=rig.depth_setting_m + more), RUN).hang_chance
        for more in (-0.2, 0.1, 0.5)
    ]
    assert chances == sorted(chances)
    assert chances[0] < 0.05 < chances[-1]


def test_lead__is_time_to_the_zone_at_the_pace_of_the_float_and_the_swing_under_it() -> None:
    e = of("indicator", RUN).evaluation
    assert e.time_to_zone_s is not None
    assert e.lead_m is not None
    travelled = e.time_to_zone_s * e.steady.top_speed_ratio * RUN.water.surface_speed_m_s
    assert travelled < e.lead_m < travelled + e.rig.depth_setting_m


def test_fishable__line_across_currents_shortens_a_float_s_drift() -> None:
    glide, pocket = (replace(RUN, water=replace(RUN.water, kind=kind)) for kind in ("glide", "pocket"))
    assert fishable_m(pocket, "indicator") < fishable_m(glide, "indicator")
    assert fishable_m(glide, "euro") < fishable_m(glide, "indicator")


def test_overload__says_which_bead_or_float_would_do() -> None:
    dry = DRIES[0].name
    tuning = Tuning("dry_dropper", 0.8, 4.0, float_=dry)
    with pytest.raises(
        Impossible, match=rf"weighs 0\.\d+ g in water and the {dry} carries.*Take a bead up to 2.5 mm or the"
    ):
        resolve(tuning, RUN)
    carried = resolve(replace(tuning, float_=None), RUN)
    assert carried.float_ is not None
    assert evaluate(carried, RUN).carry >= 1.0


@pytest.mark.parametrize(
    ("tuning", "field", "words"),
    [
        (Tuning("euro", 1.2, 3.0, flies=3), "tuning.flies", "has 1 or 2"),
        (Tuning("dry_dropper", 0.8, 2.0, flies=3), "tuning.flies", "allow 2"),
        (Tuning("indicator", 1.0, 3.0, float_="a cork"), "tuning.float", "is not one of: 9 mm float"),
    ],
)
def test_tuning__names_what_is_wrong(tuning: Tuning, field: str, words: str) -> None:
    with pytest.raises(Impossible, match=words) as caught:
        resolve(tuning, RUN)
    assert caught.value.field == field


def test_box__limits_and_says_what_is_missing() -> None:
    small = replace(RUN, box=Box((2.0, 2.5), (9.0,), (DRIES[0].name,)))
    advice = advise(small, wide)
    assert all((j.rig.point.bead_mm or 0.0) <= 2.5 for j in advice.usable)
    hidden = advice.of("indicator")  # fast water hides a 9 mm float
    assert isinstance(hidden, NotHere) and "a larger one is needed" in hidden.why
    empty = advise(replace(RUN, box=Box((), (), ())), wide).ranked
    assert all(isinstance(j, NotHere) and "No weighted fly" in j.why for j in empty)


@pytest.mark.parametrize(
    "school", [School(), School(heavy="first")], ids=["at the point", "first on the line"]
)
@pytest.mark.parametrize("situation", [RUN, FAR_POOL, POCKETS])
@pytest.mark.parametrize("beads", [(3.0, 3.5), (2.5, 4.0)])
def test_box__holds_whatever_is_advised(
    beads: tuple[float, ...], situation: Situation, school: School
) -> None:
    """Any fly on its beads, or on none; or no fly but its own: at the point, above it, and behind it."""
    own = tuple(Fly("tungsten nymph", 14, mm) for mm in beads)
    for box in (Box(beads), Box((), flies=own)):
        mine = replace(situation, box=box, school=school, rules=Rules(max_flies=3))
        for one in advise(mine, wide).usable:
            for fly in (one.rig.point, one.rig.dropper):
                assert fly is None or (fly.bead_mm in (None, *beads) if box.flies is None else fly in own)


def test_ties__are_said_to_the_angler(monkeypatch: pytest.MonkeyPatch) -> None:
    """A rig as good as the one that leads is named with it, and one that is not is not."""
    said = {}
    for share in (0.0, 1.0):
        monkeypatch.setattr(search, "AS_GOOD", share)
        first, *others = advise(RUN, wide).usable
        said[share] = " ".join(reason.text for reason in first.reasons)
        assert not any(reason.text.startswith("As good") for one in others for reason in one.reasons)
    assert "As good here" not in said[0.0]
    assert said[1.0].startswith("As good here: ")
