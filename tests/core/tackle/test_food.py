"""Rises and the net. Truth: the trade's table (common practice, no source)."""

from dataclasses import replace

import pytest

from deriva.core.choose.search import advise
from deriva.core.choose.sweep import wide
from deriva.core.errors import OutOfRange
from deriva.core.model.situation import Fish, Situation
from deriva.core.model.water import Water
from deriva.core.rigs.parts import point_fly
from deriva.core.tackle.flies import shank_mm
from deriva.core.tackle.food import Feeding, Found, Rises, Stage, Where, hook_for_body, offer, signs


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
    assert hook_for_body(40.0) == 8


def test_offer__stands_for_the_find_of_the_level_that_is_fished() -> None:
    by_net = offer("none", found(MID, BED))
    assert by_net is not None
    assert by_net.form == "dubbed mayfly nymph"
    bottom = offer("none", found(BED))
    assert bottom is not None
    assert (bottom.form, bottom.hook) == ("cased caddis", 12)
    emerger = offer("no_bubbles", found(MID))
    assert emerger is not None
    assert emerger.form == "low-riding emerger"
    bulging = offer("no_bubbles", ())
    assert bulging is not None
    assert bulging.form == "soft-hackle pupa"
    assert offer("none", ()) is None


def test_rig__takes_form_and_size_from_the_net_with_a_bead_that_its_hook_takes() -> None:
    plain = Situation(water=Water(depth_m=0.9, surface_speed_m_s=0.6))
    netted = replace(plain, fish=Fish(found=found(("shrimp", 12.0, "bed"))))
    for bead in (2.0, 3.0, 4.0):
        fly = point_fly(netted, bead)
        assert (fly.form, fly.hook) == ("shrimp", 12)  # size by the net, weight by the depth
    large = replace(plain, fish=Fish(found=found(("stonefly_nymph", 25.0, "bed"))))
    assert point_fly(large, 2.0).hook == 8
    midge = replace(plain, fish=Fish(found=found(("midge_larva", 4.0, "bed"))))
    assert point_fly(midge, 2.0).hook > point_fly(midge, 4.0).hook  # a small hook takes no large bead
    best = advise(netted, wide).ranked[0].evaluation
    assert best is not None
    assert best.rig.point.form == "shrimp"


def test_found__a_body_of_no_length_is_refused() -> None:
    with pytest.raises(OutOfRange, match="body_mm = 0"):
        Found("egg", 0.0, "bed")
