"""Nouns as plain data and back. Truth: what was written is read again, whatever is in it, and by JSON in between."""

import json
from dataclasses import is_dataclass
from typing import Any, Literal, get_args, get_origin

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from deriva.core.check import bare, fields_of
from deriva.core.errors import DerivaError
from deriva.core.learn.dimensions import DIMENSIONS
from deriva.core.learn.question import Only, Question
from deriva.core.model.situation import Fish, Place, Rules, School, Situation
from deriva.core.model.tuning import Tuning
from deriva.core.model.water import Water
from deriva.core.practice.cast import Cast
from deriva.core.ranges import Bound, Most, Range, Text
from deriva.core.read import read_noun, write_noun
from deriva.core.record.turns import Trial
from deriva.core.tackle.flies import Fly
from deriva.core.water.bottom import Bottom

LETTERS = st.characters(min_codepoint=32, max_codepoint=0x24F, exclude_characters="\x7f")


def values(kind: Any, bounds: tuple[Bound, ...], *, optional: bool) -> st.SearchStrategy[Any]:  # noqa: ANN401
    """Return anything that a field may hold, by what it declares."""
    ranges = [one for one in bounds if isinstance(one, Range)]
    texts = [one for one in bounds if isinstance(one, Text)]
    if is_dataclass(kind):
        found: st.SearchStrategy[Any] = nouns(kind)
    elif get_origin(kind) is Literal:
        found = st.sampled_from(get_args(kind))
    elif get_origin(kind) is tuple:
        inner, inside, null = bare(get_args(kind)[0])
        most = min([3, *(one.count for one in bounds if isinstance(one, Most))])
        found = st.lists(values(inner, inside, optional=null), max_size=most).map(tuple)
    elif kind is bool:
        found = st.booleans()
    elif kind is int:
        found = st.integers(int(ranges[0].lo), int(ranges[0].hi)) if ranges else st.integers(-9, 9)
    elif kind is float:
        low, high = (ranges[0].lo, ranges[0].hi) if ranges else (-9.0, 9.0)
        found = st.floats(low, high)
    else:
        assert kind is str
        pattern = next((one.pattern for one in texts if one.pattern), None)
        least, most = (texts[0].least, texts[0].most) if texts else (0, 20)
        found = (
            st.from_regex(pattern, fullmatch=True)
            if pattern
            else st.text(LETTERS, min_size=least, max_size=most)
        )
    return st.none() | found if optional else found


@st.composite
def nouns(draw: st.DrawFn, noun: Any) -> Any:  # noqa: ANN401
    """Draw a noun; what its fields forbid each other is not drawn."""
    given_ = {one.name: draw(values(one.kind, one.bounds, optional=one.optional)) for one in fields_of(noun)}
    if noun is Only:  # of most dimensions hardly any text is a part
        dimension = DIMENSIONS[given_["dimension"]]
        parts = ("2", "3.5") if dimension.counts else dimension.parts() or (given_["part"],)
        given_["part"] = draw(st.sampled_from(parts))
    try:
        return noun(**given_)
    except DerivaError:
        assume(False)


NOUNS = (Water, Place, Fish, Rules, School, Fly, Bottom, Tuning, Only, Question, Trial, Cast)


@pytest.mark.parametrize("noun", NOUNS)
@settings(max_examples=40)
@given(data=st.data())
def test_noun__that_was_written_is_read_as_it_was(noun: Any, data: st.DataObject) -> None:  # noqa: ANN401
    made = data.draw(nouns(noun))
    through = json.loads(json.dumps(write_noun(made)))
    assert read_noun(noun, through) == made


@settings(max_examples=40)
@given(nouns(Water), nouns(Place), nouns(School))
def test_situation__is_read_as_it_was_with_all_that_is_in_it(
    water: Water, place: Place, school: School
) -> None:
    made = Situation(water, place, school=school)
    assert read_noun(Situation, json.loads(json.dumps(write_noun(made)))) == made


@pytest.mark.parametrize("noun", NOUNS)
@settings(max_examples=10)
@given(data=st.data())
def test_noun__refuses_a_field_that_is_misspelt_and_one_that_is_missing(
    noun: Any,  # noqa: ANN401 - the class of any noun
    data: st.DataObject,
) -> None:
    written = write_noun(data.draw(nouns(noun)))
    with pytest.raises(DerivaError, match="is not a field here"):
        read_noun(noun, {**written, "dpeth": 1.0})
    for one in fields_of(noun):
        rest = {name: value for name, value in written.items() if name != one.wire_name}
        if one.required:
            with pytest.raises(DerivaError, match=f"{one.wire_name} is missing"):
                read_noun(noun, rest)
        else:
            try:  # what is left out is as usual, unless the rest forbids that
                assert isinstance(read_noun(noun, rest), noun)
            except DerivaError as error:
                assert "is missing" not in str(error)
