"""Finding an outing by words, and the parts that a question goes by. Truth: what each word says, and arithmetic."""

import math
from collections.abc import Mapping

import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.core.learn.dimensions import DIMENSIONS, MONTHS, DimensionName
from deriva.core.learn.find import ALSO, COUNTED, LITTLE, MOST_WORDS, Field, words
from deriva.core.model.quantity import plain

NAMES: Mapping[Field, list[tuple[str, str]]] = {
    "beat": [("b1", "Cinder Weir"), ("b2", "Long Shelf")],
    "lie": [("l1", "Alder tail Fish drop back here at dusk."), ("l2", "Weir apron "), ("l3", "Big bend ")],
    "fly": [("dubbed mayfly nymph", "dubbed mayfly nymph")],
    "species": [("grayling", "grayling")],
}


def means(asked: str) -> list[set[tuple[str, str]]]:
    return [set(one.means) for one in words(asked, NAMES)]


@pytest.mark.parametrize(
    ("asked", "found"),
    [
        ("weir", [{("beat", "b1"), ("lie", "l2")}]),  # whatever is called so
        ("CINDER weir", [{("beat", "b1")}, {("beat", "b1"), ("lie", "l2")}]),
        ("alders", [set()]),  # nothing begins so
        ("alder", [{("lie", "l1")}]),
        ("dusk", [{("light", "dusk"), ("lie", "l1")}]),  # a word in its note, too
        (
            "fish",
            [{("fish", "")}],
        ),  # what was counted, and not a lie of which somebody noted that fish drop back
        ("blank", [{("blank", "")}]),
        ("big", [{("big", ""), ("lie", "l3")}]),
        ("the may of 2026", [{("month", "5"), ("fly", "dubbed mayfly nymph")}, {("year", "2026")}]),
        ("1826", [set()]),  # before there was a log
        ("gray", [{("species", "grayling")}]),
        ("", []),
    ],
)
def test_words__mean_whatever_is_called_so(asked: str, found: list[set[tuple[str, str]]]) -> None:
    if asked == "the may of 2026":  # words begin names, and "mayfly" begins so
        assert means(asked)[0] >= {("month", "5")}
        assert means(asked)[1] == found[1]
    else:
        assert means(asked) == found


@given(st.text(max_size=200))
def test_words__of_anything_typed_are_few_and_none_is_little(asked: str) -> None:
    found = words(asked, NAMES)
    assert len(found) <= MOST_WORDS
    for one in found:
        assert one.text == one.text.lower()
        assert one.text not in LITTLE
        assert len(set(one.means)) == len(one.means)


def test_words__that_count_mean_nothing_else() -> None:
    everything: Mapping[Field, list[tuple[str, str]]] = {"lie": [(one, f"{one} here") for one in ALSO]}
    for text, meant in ALSO.items():
        (found,) = words(text, everything)
        alone = any(field in COUNTED for field, _ in meant)
        assert (("lie", text) in found.means) == (not alone)


@pytest.mark.parametrize("month", range(1, 13))
def test_months__are_found_by_their_beginning(month: int) -> None:
    (found,) = words(MONTHS[month - 1][:4], {})
    assert ("month", str(month)) in found.means


MEASURED: list[DimensionName] = [name for name, one in DIMENSIONS.items() if one.edges]


@pytest.mark.parametrize("name", MEASURED)
@given(share=st.floats(-0.5, 1.5))
def test_parts__of_what_is_measured_hold_their_values_and_say_so(name: DimensionName, share: float) -> None:
    """Each value is in one part; parts are in order; a part's label names the edges that the value lies between."""
    one = DIMENSIONS[name]
    low, high = one.edges[0], one.edges[-1]
    value = low + share * (high - low)
    part = int(one.part(value))
    below = -math.inf if part == 0 else one.edges[part - 1]
    above = math.inf if part == len(one.edges) else one.edges[part]
    assert below <= value < above
    label = plain(one.label(str(part), {}))
    for edge in (below, above):
        if math.isfinite(edge):
            assert f"{edge:.{one.places}f}" in label or f"{edge:g}" in label
    keys = [str(k) for k in range(len(one.edges) + 1)]
    assert list(one.ordered(reversed(keys))) == keys
