"""Waters and rigs as they were written down once, read as they are meant now. What the first form meant: revision 0009."""

from dataclasses import replace

from deriva.core.model.setup import Setup
from deriva.core.model.situation import Box, School, Situation
from deriva.core.read import read_noun, write_noun
from deriva.core.record.forms import COLLARED, FORM, form_of, setup_now, situation_now
from deriva.core.tackle.flies import Fly
from tests.core.situations import RUN

BRIGHT = Fly("stonefly nymph", 8, 3.5, tone="bright", mark="collar")
NOW = Situation(
    RUN.water,
    school=School(flies="one"),
    box=Box((3.5,), flies=(BRIGHT, Fly("dubbed mayfly nymph", 14, 3.5))),
)
SETUP = Setup(
    flies=1, point_bead_mm=3.5, point_form=BRIGHT.words, point_hook=8, point_dressing="dubbed", dropper_form=None,
    dropper_hook=None, dropper_bead_mm=None, depth_setting_m=1.0, dropper_spacing_m=None, tippet_x=5, shot_g=0.0,
    float_=None, tip_pace=0.9, lead_m=None,
)  # fmt: skip


def test_first_form__is_read_as_it_was_meant() -> None:
    """A float as computed was called long; a collar was a form of fly; brightness and winters were not known."""
    old = write_noun(NOW)
    old["school"] = {name: value for name, value in old["school"].items() if name != "winter"} | {
        "depth": "long"
    }
    old["box"]["flies"][0] = {"form": COLLARED, "hook": 8, "bead_mm": 3.5}
    assert form_of(old) == 1
    assert read_noun(Situation, situation_now(old, 1)) == NOW
    rig = write_noun(SETUP) | {"point_form": COLLARED}
    assert read_noun(Setup, setup_now(rig, 1)) == SETUP


def test_this_form__is_read_as_it_stands() -> None:
    long = replace(NOW, school=School(depth="long"))
    assert form_of(write_noun(long)) == form_of({"water": {}}) == FORM
    assert read_noun(Situation, situation_now(write_noun(long), FORM)) == long
    assert setup_now(write_noun(SETUP), FORM) == write_noun(SETUP)
