"""The least change that is worth it, two rigs compared over all waters, and the build of one to tie."""

import re
from collections.abc import Callable
from dataclasses import replace

import pytest

from deriva.core.choose.background import seen_against
from deriva.core.choose.change import CYCLE_S, SAME_M, SECONDS, WORTH_DRIFTS, changes
from deriva.core.choose.compare import better_over, turning_depth, zone_map
from deriva.core.choose.evaluate import evaluate
from deriva.core.choose.judge import Usable
from deriva.core.choose.presentations import WAYS, presentations
from deriva.core.choose.schools import DISAGREEMENTS
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.model.quantity import plain
from deriva.core.model.rig import RIG_KINDS, Rig, RigKind
from deriva.core.model.situation import Fish, Place, Rules, School, Situation
from deriva.core.model.water import Water
from deriva.core.read import read_noun
from deriva.core.rigs.build import KNOT_M, Background, breaking_load, build
from deriva.core.tackle.rod import Leader
from tests.core.situations import CLEAR_FLAT, FAR_POOL, POCKETS, RUN


def best(kind: RigKind, situation: Situation) -> Rig:
    return next(one for one in advise(situation, wide).usable if one.kind == kind).rig


def too_short(rig: Rig, share: float = 0.7) -> Rig:
    one = replace(rig, dropper=None, dropper_spacing_m=None, dropper_tag_m=0.0)
    return replace(one, depth_setting_m=round(share * rig.depth_setting_m, 2))


@pytest.mark.parametrize(
    ("kind", "words"), [("indicator", "Slide the float up"), ("euro", "Lengthen the tippet")]
)
def test_change__depth_comes_before_weight(kind: RigKind, words: str) -> None:
    """Change depth first, then weight, then fly, then water (common practice, no source)."""
    found = changes(too_short(best(kind, RUN)), RUN, wide)
    assert found.advised is not None
    assert found.advised.kind == "depth"
    assert words in found.advised.words
    assert found.advised.judged.score > found.now.score


@pytest.mark.parametrize("situation", [POCKETS, FAR_POOL, CLEAR_FLAT, RUN])
def test_change__the_advised_rig_is_left_alone(situation: Situation) -> None:
    winner = advise(situation, wide).usable[0]
    found = changes(winner.rig, situation, wide)
    assert found.advised is None or found.advised.gain < 0.06, found.advised
    if found.advised is None:
        assert "Leave it" in found.reason


def test_change__another_rig_where_this_one_cannot_do_it() -> None:
    found = changes(best("euro", RUN), replace(RUN, place=Place(12.0)), wide)
    assert found.advised is not None
    assert found.advised.kind == "rig"
    assert found.advised.rig.kind == "indicator"


def test_changes__are_sorted_by_cost_and_reckoned_as_they_say() -> None:
    found = changes(too_short(best("indicator", RUN)), RUN, wide, drifts=12)
    assert found.options
    assert [one.seconds for one in found.options] == sorted(one.seconds for one in found.options)
    for one in found.options:
        assert one.gain == pytest.approx(one.judged.score - found.now.score)
        left = max(0.0, 12 - one.seconds / CYCLE_S)
        assert one.worth == pytest.approx(one.judged.score * left - found.now.score * 12)
        assert one.words.endswith(".")
    worthwhile = [one for one in found.options if one.worth >= WORTH_DRIFTS]
    assert found.advised in worthwhile
    cheaper = [one for one in worthwhile if found.advised and one.seconds < found.advised.seconds]
    assert all(one.worth < 0.7 * max(w.worth for w in worthwhile) for one in cheaper)


def test_change__with_one_drift_left_nothing_is_worth_a_knot() -> None:
    found = changes(too_short(best("euro", RUN), 0.85), RUN, wide, drifts=1)
    assert found.advised is None


TOLD: dict[str, tuple[Callable[[Rig], object], str]] = {
    "bead": (lambda one: one.point, "er: a |Another fly"),
    "flies": (lambda one: (one.dropper, one.dropper_spacing_m), "dropper"),
    "tippet": (lambda one: one.tippet_x, " tippet, "),
    "shot": (lambda one: one.shot_g, "of tin|shot off"),
    "float": (lambda one: one.float_, "Take the|Tie on the"),
    "depth": (lambda one: one.depth_setting_m, "Lengthen|Shorten|Slide"),
}
"""Every part of a rig, and the words that say that it is changed."""

SLOW, DEEP, FAST = (
    Situation(water, Place(6.0))
    for water in (Water(0.7, 0.3, "glide"), Water(2.0, 0.6, "pool"), Water(0.7, 1.0, "pocket"))
)


@pytest.mark.parametrize("there", [SLOW, DEEP, FAST, FAR_POOL], ids=["slow", "deep", "fast", "far"])
@pytest.mark.parametrize("here", [RUN, SLOW, DEEP], ids=["from a run", "from a glide", "from a pool"])
@pytest.mark.parametrize("kind", RIG_KINDS)
def test_change__says_every_part_that_it_touches_and_brings_as_much_as_the_advice(
    kind: RigKind, here: Situation, there: Situation
) -> None:
    """From lie to lie with what is on: a part, the float that its weight asks for and the line; or more, which is a new rig."""
    rig = best(kind, here)
    found = changes(rig, there, wide)
    for one in found.options:
        if one.rig.kind != rig.kind:
            assert one.kind == "rig"
            continue
        touched = {part for part, (what, _) in TOLD.items() if what(one.rig) != what(rig)}
        if abs(one.rig.depth_setting_m - rig.depth_setting_m) < SAME_M:
            touched -= {"depth"}
        assert {part for part, (_, words) in TOLD.items() if re.search(words, one.words)} == touched, (
            one.words
        )
        parts = touched - {"depth"}
        asked = parts - {"float"} if parts & {"bead", "flies", "shot"} else parts
        assert one.kind == ("rig" if len(asked) > 1 else next(iter(asked), "depth"))
    brings = max([0.0, *(one.worth for one in found.options)])
    wanted = advise(there, wide)
    for best_ in (
        wanted.of(kind),
        wanted.usable[0],
    ):  # of all that could be tied on, though it take as long as a new rig
        if isinstance(best_, Usable):
            left = found.drifts - SECONDS["rig"] / CYCLE_S
            assert brings >= best_.score * left - found.now.score * found.drifts - 1e-9


def test_map__is_the_share_of_each_water_and_none_of_it_is_made_up() -> None:
    rig = best("indicator", RUN)
    here = zone_map(rig, RUN)
    assert (len(here.depths_m), len(here.speeds_m_s)) == (12, 15)
    assert here.depths_m[0] == 0.3
    assert here.depths_m[-1] == 2.5
    assert all(len(row) == 15 for row in here.shares)
    assert all(share is None or 0.0 <= share <= 1.0 for row in here.shares for share in row)
    # a sure lie of that depth and speed promises the same
    d, s = 4, 6
    sure = replace(
        RUN,
        water=replace(
            RUN.water,
            depth_m=here.depths_m[d],
            surface_speed_m_s=here.speeds_m_s[s],
            depth_sd_m=0.0,
            speed_sd_m_s=0.0,
        ),
    )
    assert evaluate(rig, sure).zone_share == pytest.approx(here.shares[d][s], abs=1e-6)


def test_map__a_longer_line_is_better_where_it_is_deeper() -> None:
    short = best("indicator", RUN)
    long = replace(short, depth_setting_m=round(1.5 * short.depth_setting_m, 2))
    a, b = zone_map(short, RUN), zone_map(long, RUN)
    turns = turning_depth(a, b, speed_m_s=0.75)
    assert turns is not None
    assert 0.3 < turns.depth_m < 2.2
    assert turns.first_above
    deep = [(x or 0.0, y or 0.0) for x, y in zip(a.shares[-1], b.shares[-1], strict=True)]
    assert all(y >= x - 1e-9 for x, y in deep)
    first, second = better_over(a, b)
    assert first > 0.05
    assert second > 0.2
    assert better_over(a, a) == (0.0, 0.0)
    assert turning_depth(a, a, speed_m_s=0.5) is None


@pytest.mark.parametrize("kind", RIG_KINDS)
@pytest.mark.parametrize(
    "school", [School(), School(heavy="first"), School(weight="shot"), School(tied="line")]
)
def test_build__adds_up_to_the_rig(kind: RigKind, school: School) -> None:
    situation = replace(RUN, rules=Rules(max_flies=3), school=school)
    rig = best(kind, situation)
    made = build(rig)
    names = [one.name for one in made.sections]
    below = [one for one in made.sections if "tippet" in one.name]
    assert sum(one.length_m for one in below) == pytest.approx(rig.depth_setting_m)
    assert ("tag" in names) == (rig.dropper_tag_m > 0.0)
    assert ("sighter" in names) == (kind == "euro")
    assert made.length_m > 2.0 + rig.depth_setting_m
    for one in made.sections:
        assert one.cut_m >= one.length_m + KNOT_M - 0.006
        assert one.breaks_at_n == pytest.approx(breaking_load(diameter_m=one.diameter_m))
    tied = [one.part for one in made.tied]
    assert tied[-1] == "point"
    assert ("shot" in tied) == (rig.shot_g > 0.0)
    places = [one.above_point_m for one in made.tied]
    assert places == sorted(places, reverse=True)
    leader = made.sections[0]
    if kind != "euro":
        assert leader.diameter_m >= below[0].diameter_m
    if kind == "indicator":
        assert leader.diameter_m > below[0].diameter_m  # a snag costs the flies and not the float


def test_strength__of_5x_is_what_spools_say() -> None:
    """Spools of 5X are sold at 1.5 to 2.3 kg (common practice, no source)."""
    assert 1.5 < breaking_load(diameter_m=0.1524e-3) / 9.81 < 2.3


def test_build__goes_on_from_the_leader_on_the_rod() -> None:
    leaders: dict[Leader, tuple[float, float, float]] = {
        "any": (8.0, 2.7, 2.4), "level": (8.0, 2.7, 2.4), "line": (2.0, 2.7, 2.4),
        "tapered": (8.0, 2.7, 2.7), "long": (8.0, 4.3, 4.3),
    }  # fmt: skip
    rigs = [best(kind, RUN) for kind in RIG_KINDS]
    for leader, long_m in leaders.items():
        made = [build(rig, leader=leader) for rig in rigs]
        assert tuple(one.sections[0].length_m for one in made) == long_m
    assert "sags" in build(rigs[0], leader="tapered").notes[0]
    assert any("lob it" in note for note in build(rigs[2], leader="level").notes)


BACKGROUNDS: tuple[Background, ...] = ("dark", "bright", "shy")


def test_colour__goes_by_what_it_is_seen_against() -> None:
    rig = best("indicator", RUN)
    said = {build(rig, background=against).colour for against in BACKGROUNDS}
    assert len(said) == 3
    assert all("Others carry three colours" in words for words in said)  # both schools
    clear = replace(CLEAR_FLAT, water=replace(CLEAR_FLAT.water, surface_speed_m_s=0.15, clarity_m=3.0))
    assert seen_against(clear) == "shy"
    assert seen_against(RUN) == "bright"
    assert seen_against(replace(RUN, light="dusk")) == "dark"


WINS = {
    "Short line, led": POCKETS,
    "Inverted drift": Situation(Water(1.2, 0.6, "seam", 0.2, "gravel", 1.5, 11.0), Place(6.0)),
    "Lifted nymph": Situation(Water(1.2, 0.1, "pool", 0.2, "sand", 1.5, 11.0), Place(7.0)),
    "Sighter on the water": Situation(Water(1.0, 0.4, "glide", 0.2, "gravel", 1.5, 11.0), Place(9.0)),
    "Two dries": replace(CLEAR_FLAT, fish=Fish("surface")),
    "Pupa under the dry": replace(CLEAR_FLAT, fish=Fish(rises="no_bubbles")),
    "Weighted bugs, followed round": Situation(
        Water(0.9, 0.6, "bank_edge", 0.2, "gravel", 0.3, 9.0, "much_above_normal"), Place(4.0)
    ),
    "Light nymphs, upstream": CLEAR_FLAT,
    "Small streamer, jigged": Situation(Water(1.4, 0.7, "pool_head", 0.3, "cobble", 1.2, 11.0), Place(6.0)),
    "Two wet flies, down and across": Situation(Water(0.7, 0.6, "run", 0.2, "gravel", 1.5, 12.0), Place(8.0)),
    "Small streamer, swung": Situation(Water(1.4, 0.4, "pool", 0.3, "cobble", 1.2, 12.0), Place(8.0)),
}


@pytest.mark.parametrize("name", [way[0] for way in WAYS])
def test_presentation__is_offered_where_it_wins_with_a_reason(name: str) -> None:
    here = next(one for one in presentations(WINS[name]) if one.name == name)
    assert plain(here.why)[0].isupper()
    assert here.why.endswith(".")
    elsewhere = [
        other for other, situation in WINS.items() if name not in {p.name for p in presentations(situation)}
    ]
    assert len(elsewhere) >= 5  # it is not offered everywhere


def test_presentations__are_none_of_a_rig_that_is_of_no_use_there() -> None:
    name = "Light nymphs, upstream"
    assert name in {p.name for p in presentations(WINS[name])}
    assert name not in {p.name for p in presentations(WINS[name], ["indicator", "dry_dropper"])}


def test_presentations__keep_to_the_rules() -> None:
    one_fly = replace(WINS["Two dries"], rules=Rules(max_flies=1))
    assert "Two dries" not in {p.name for p in presentations(one_fly)}
    of_two = "Two wet flies, down and across"
    assert of_two not in {p.name for p in presentations(replace(WINS[of_two], rules=Rules(max_flies=1)))}
    spate = replace(WINS[of_two].water, clarity_m=0.2)
    assert of_two not in {
        p.name for p in presentations(replace(WINS[of_two], water=spate))
    }  # nobody sees it come
    no_weight = replace(WINS["Weighted bugs, followed round"], rules=Rules(added_weight=False))
    assert "Weighted bugs, followed round" not in {p.name for p in presentations(no_weight)}


def test_schools__every_side_is_a_value_the_setting_takes_and_the_first_is_the_default() -> None:
    for one in DISAGREEMENTS:
        assert one.sides[0].value == getattr(School(), one.question)
        for side in one.sides:
            taken = read_noun(School, {one.question: side.value})
            assert getattr(taken, one.question) == side.value
            assert side.belief.endswith(".")
    assert {one.question for one in DISAGREEMENTS} == set(School.__dataclass_fields__)
