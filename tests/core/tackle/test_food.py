"""Rises and the net. Truth: the trade's table (common practice, no source)."""

from dataclasses import replace

import pytest

from deriva.core.choose.candidates import families
from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.errors import OutOfRange
from deriva.core.model.situation import Box, Fish, School, Situation
from deriva.core.model.water import Water
from deriva.core.rigs.offers import beads, dropper_fly, likeness, point_fly, wanted_pair
from deriva.core.rigs.parts import season_dry
from deriva.core.tackle.flies import Fly, shank_mm
from deriva.core.tackle.food import Feeding, Found, Rises, Stage, Where, hook_for_body, netted, signs


def found(*finds: tuple[Stage, float, Where]) -> tuple[Found, ...]:
    return tuple(Found(*find) for find in finds)


BED: tuple[Stage, float, Where] = ("cased_caddis", 11.0, "bed")
MID: tuple[Stage, float, Where] = ("mayfly_nymph", 7.0, "mid")


@pytest.mark.parametrize(
    ("rises", "finds", "level"),
    [
        ("none", (), "bottom"),
        ("none", (BED,), "bottom"),
        ("none", (MID,), "mid"),
        ("none", (("winged_mayfly", 9.0, "bed"),), "mid"),
        ("none", (BED, MID), "mixed"),
        ("bubbles", (), "surface"),
        ("bubbles", (BED,), "mixed"),
        ("no_bubbles", (BED,), "surface"),
    ],
)
def test_level__by_rises_and_net(
    rises: Rises, finds: tuple[tuple[Stage, float, Where], ...], level: Feeding
) -> None:
    assert signs(rises, found(*finds)).level == level
    fish = Fish(rises=rises, found=found(*finds))
    assert fish.level == level
    assert replace(fish, feeding="mid").level == "mid"  # what the angler says stands


def test_hook__has_a_shank_about_as_long_as_the_body() -> None:
    for body in (5.0, 7.0, 9.0, 11.0, 14.0):
        assert shank_mm(hook=hook_for_body(body)) == pytest.approx(body, rel=0.3)
    assert hook_for_body(40.0) == 6


def test_offer__stands_for_the_find_of_the_level_that_is_fished() -> None:
    assert [one.form for one in netted("none", found(MID, BED))] == ["dubbed mayfly nymph", "cased caddis"]
    (bottom,) = netted("none", found(BED, BED))
    assert (bottom.form, bottom.hook) == ("cased caddis", 12)
    (emerger,) = netted("no_bubbles", found(MID))
    assert emerger.form == "low-riding emerger"
    assert netted("none", ()) == ()


HERE = Situation(water=Water(depth_m=0.9, surface_speed_m_s=0.6))


def there(*, fish: Fish | None = None, school: School | None = None, **water: object) -> Situation:
    changed = replace(HERE.water, **water)  # type: ignore[arg-type]
    return replace(HERE, water=changed, fish=fish or Fish(), school=school or School())


@pytest.mark.parametrize(
    ("situation", "point", "hooks", "dropper"),
    [
        (there(flow_class="above_normal", clarity_m=2.0), "stonefly nymph", (6, 10), "worm"),
        (there(flow_class="much_above_normal", clarity_m=0.2), "bright stonefly nymph", (6, 10), "bright worm"),
        (there(temperature_c=3.0), "stonefly nymph", (6, 10), "egg"),
        (there(temperature_c=3.0, school=School(winter="small")), "midge larva", (18, 26), "midge pupa"),
        (there(fish=Fish(species="grayling")), "shrimp", (12, 16), "with a bright tag"),
        (there(fish=Fish(spawning=True)), "nymph", (12, 18), "egg"),
        (there(fish=Fish(refusing=True)), "dark slim varnished nymph", (16, 20), "midge pupa"),
        (there(fish=Fish(rises="no_bubbles")), "soft-hackle pupa", (16, 18), "low-riding emerger"),
        (there(clarity_m=0.3), "bright", (10, 14), "with a bright tag"),
        (there(fish=Fish(found=found(("winged_mayfly", 7.0, "mid")))), "dubbed mayfly nymph", (14, 18), "low-riding emerger"),
        (there(fish=Fish(found=found(("shrimp", 12.0, "bed"), ("midge_larva", 4.0, "bed")))), "shrimp", (12, 12), "larva"),
        (there(fish=Fish(found=found(("stonefly_nymph", 25.0, "bed")))), "stonefly nymph", (6, 8), "pupa"),
    ],
)  # fmt: skip
def test_fly__is_what_the_signs_ask_for(
    situation: Situation, point: str, hooks: tuple[int, int], dropper: str
) -> None:
    """The handbook's table of signs: common practice, no source."""
    lower, upper = point_fly(situation, 2.0), dropper_fly(situation)
    assert upper is not None
    assert point in lower.words
    assert hooks[0] <= lower.hook <= hooks[1]
    assert dropper in upper.words
    assert (upper.form, upper.hook) != (lower.form, lower.hook)  # two sizes, or two forms


def test_fly__of_a_season_turns_with_the_hemisphere() -> None:
    late, early = replace(HERE, month=9), replace(HERE, month=4)
    assert wanted_pair(late)[0].hook > wanted_pair(early)[0].hook  # what drifts late in the year is smaller
    assert wanted_pair(replace(HERE, month=3, hemisphere="south")) == wanted_pair(late)
    bank = replace(HERE, water=replace(HERE.water, kind="bank_edge", temperature_c=15.0))
    assert season_dry(replace(bank, month=8)) == "size 10 foam hopper"
    assert season_dry(replace(bank, month=2, hemisphere="south")) == "size 10 foam hopper"
    assert season_dry(replace(bank, month=6)) == "size 8 foam stonefly"
    assert season_dry(bank) is None
    assert season_dry(replace(bank, month=8, fish=Fish(refusing=True))) is None


def test_weight__is_chosen_apart_from_the_fly() -> None:
    """Two heavy flies where the depth asks for it, a midge on the smallest bead or none (common practice, no source)."""
    deep = replace(HERE, water=replace(HERE.water, depth_m=1.8))
    uppers = {rig.dropper.bead_mm for rig in families(deep, "euro") if rig.dropper is not None}
    assert max(bead or 0.0 for bead in uppers) >= 3.0
    midges = there(temperature_c=3.0, school=School(winter="small"))
    assert min(beads(midges)) == 1.5
    assert min(beads(HERE)) == 2.0
    light = dropper_fly(midges)
    assert light is not None
    assert light.bead_mm is None
    own = Box(beads_mm=(3.0, 5.5))
    assert 5.5 in beads(replace(HERE, box=own))
    assert likeness(Fly("worm", 10, 2.0, tone="bright"), Fly("worm", 10, 2.0)) < 1.0


def test_rig__takes_form_and_size_from_the_net_with_a_bead_that_its_hook_takes() -> None:
    plain = Situation(water=Water(depth_m=0.9, surface_speed_m_s=0.6))
    netted = replace(plain, fish=Fish(found=found(("shrimp", 12.0, "bed"))))
    for bead in (2.0, 3.0, 4.0):
        fly = point_fly(netted, bead)
        assert (fly.form, fly.hook) == ("shrimp", 12)  # size by the net, weight by the depth
    large = replace(plain, fish=Fish(found=found(("stonefly_nymph", 25.0, "bed"))))
    assert point_fly(large, 2.0).hook == 6
    midge = replace(plain, fish=Fish(found=found(("midge_larva", 4.0, "bed"))))
    assert point_fly(midge, 2.0).hook > point_fly(midge, 4.0).hook  # a small hook takes no large bead
    best = advise(netted, wide).usable[0].evaluation
    assert best is not None
    assert best.rig.point.form == "shrimp"


def test_found__a_body_of_no_length_is_refused() -> None:
    with pytest.raises(OutOfRange, match="body_mm = 0"):
        Found("egg", 0.0, "bed")
