"""Every door refuses the same things with the same words: the core's nouns as they are made, as the phone reads them, and as
the command line, the service and the log read them. A table of every field of every noun that comes in from outside.
"""

from dataclasses import MISSING, fields, is_dataclass
from typing import Annotated, Any, Literal, get_args, get_origin

import pytest
from pydantic import TypeAdapter, ValidationError, create_model

from deriva.core.check import Field, fields_of
from deriva.core.coach.ask import Asked
from deriva.core.day.plan import DayAsked, Due, Made
from deriva.core.errors import DerivaError
from deriva.core.learn.question import Only, Question
from deriva.core.model.beat import BeatRules
from deriva.core.model.logged import Fished
from deriva.core.model.setup import DrySetup, Setup
from deriva.core.model.situation import Box, Fish, Place, Rules, School, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.practice.cast import Cast
from deriva.core.ranges import Most, Range, Text
from deriva.core.read import read_noun, write_noun
from deriva.core.record.turns import Trial
from deriva.core.tackle.flies import Fly
from deriva.core.tackle.food import Found
from deriva.core.water.bottom import Bottom
from deriva.service.schemas.base import faults_of_validation
from deriva.service.schemas.nouns import Noun

SITUATION = Situation(Water(1.0, 0.6))
GOOD: dict[Any, Any] = {
    Water: SITUATION.water,
    Place: Place(),
    Fish: Fish(),
    Rules: Rules(),
    BeatRules: BeatRules(season_first="03-15", season_last="09-30"),
    School: School(),
    Box: Box(beads_mm=(2.0, 3.0)),
    Fly: Fly("dubbed mayfly nymph", 14),
    Found: Found("shrimp", 12.0, "bed"),
    Bottom: Bottom(2, 1, 1.2, 0.1),
    DrySetup: DrySetup(float_="size 10 foam hopper", tippet_x=4),
    Situation: SITUATION,
    Tuning: Tuning("euro", 1.2, 3.0),
    Setup: Setup(
        flies=1, point_bead_mm=3.0, point_form="shrimp", point_hook=14, point_dressing="dubbed", dropper_form=None,
        dropper_hook=None, dropper_bead_mm=None, depth_setting_m=1.2, dropper_spacing_m=None, tippet_x=5, shot_g=0.0,
        float_=None, tip_pace=0.8, lead_m=None,
    ),
    Fished: Fished(1.2, 3.0, "clean"),
    Asked: Asked(SITUATION, "euro"),
    Question: Question("rig"),
    Only: Only("flow", "normal"),
    Trial: Trial("bead", "2.5", "3.0"),
    Cast: Cast("euro", 1.0, 3.0),
    Due: Due("lie", "Seam", 0.9, 20),
    Made: Made("lie", 12.0),
    DayAsked: DayAsked((Due("lie", "Seam", 0.9, 20),), (Made("lie", 12.0),), "lie", ends_min=180.0),
}  # fmt: skip


def wrong(one: Field) -> list[Any]:
    """Return values that a field does not take: of the wrong kind, and past each of its bounds."""
    bad: list[Any] = [{}] if not is_dataclass(one.kind) else ["one"]
    if get_origin(one.kind) is Literal:
        bad = ["none of these", 7]
    elif get_origin(one.kind) is tuple:
        bad = ["not a list"]
    elif one.kind in (int, float):
        bad = ["many", True, {}]
    elif one.kind is bool:
        bad = ["yes", 1]
    for bound in one.bounds:
        if isinstance(bound, Range):
            bad += [bound.lo - 1, bound.hi + 1]
        elif isinstance(bound, Text):
            bad += ["x" * (bound.most + 1), "a\x00b"[: bound.most], *([""] if bound.least else [])]
            bad += ["13-40"] if bound.pattern else []
        else:
            assert isinstance(bound, Most)
            value = get_args(one.kind)[0]
            if get_origin(value) is Literal:
                filler: Any = get_args(value)[0]
            else:
                inner = value if is_dataclass(value) else get_args(value)[0]
                filler = write_noun(GOOD[inner]) if inner in GOOD else 3.0 if inner is float else "x"
            bad.append([filler] * (bound.count + 1))
    if not one.optional:
        bad.append(None)
    return bad


TABLE = [
    (noun, one.wire_name, value) for noun in GOOD for one in fields_of(noun) for value in wrong(one)
]  # fmt: skip


def adapter(kind: Any) -> TypeAdapter[Any]:  # noqa: ANN401 - a type that is made here
    return TypeAdapter(kind)


def on_the_wire(noun: Any) -> Any:  # noqa: ANN401
    return Annotated[noun, Noun()]


def by_the_core(noun: type[Any], given: Any) -> str:  # noqa: ANN401
    with pytest.raises(DerivaError) as told:
        read_noun(noun, given, "sent")
    return told.value.message


def by_the_service(noun: type[Any], given: Any) -> str:  # noqa: ANN401
    with pytest.raises(ValidationError) as told:
        create_model("Sent", sent=(on_the_wire(noun), ...)).model_validate({"sent": given})
    (fault,) = faults_of_validation(told.value)
    return fault.message


@pytest.mark.parametrize(("noun", "name", "value"), TABLE)
def test_field__is_refused_alike_at_every_door(noun: type[Any], name: str, value: Any) -> None:  # noqa: ANN401
    given = write_noun(GOOD[noun]) | {name: value}
    said = by_the_core(noun, given)
    assert said == by_the_service(noun, given)
    assert said.startswith(f"sent.{name}")


@pytest.mark.parametrize("noun", GOOD)
def test_noun__comes_back_as_it_was_written(noun: type[Any]) -> None:
    good = GOOD[noun]
    plain = write_noun(good)
    wire = adapter(on_the_wire(noun))
    assert read_noun(noun, plain) == good
    assert wire.validate_python(plain) == good
    assert wire.dump_python(good, by_alias=True, mode="json") == plain


@pytest.mark.parametrize("noun", GOOD)
def test_noun__knows_its_fields_and_no_other(noun: type[Any]) -> None:
    plain = write_noun(GOOD[noun])
    unknown = by_the_core(noun, plain | {"colour": "red"})
    assert unknown == by_the_service(noun, plain | {"colour": "red"}) == "sent.colour is not a field here"
    for one in fields(noun):
        if one.default is MISSING and one.default_factory is MISSING:
            name = one.name.rstrip("_")
            less = {key: value for key, value in plain.items() if key != name}
            assert by_the_core(noun, less) == by_the_service(noun, less) == f"sent.{name} is missing"


def test_noun__checks_itself_where_it_is_made() -> None:
    for noun, good in GOOD.items():
        for one in fields_of(noun):
            for bound in one.bounds:
                if isinstance(bound, Range):
                    values = {each.name: getattr(good, each.name) for each in fields(noun)}
                    with pytest.raises(DerivaError, match=f"^{one.wire_name} = "):
                        noun(**(values | {one.name: bound.hi + 1}))
