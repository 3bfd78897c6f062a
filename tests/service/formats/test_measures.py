"""Measures on a card. Truth: an inch is 2.54 cm and a pound 0.45359237 kg, by definition."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from deriva.service.formats.measures import length, load


@pytest.mark.parametrize(
    ("metres", "metric", "us"),
    [
        (0.12, "12 cm", "5 in"),
        (0.3048, "30 cm", "1 ft 0 in"),
        (0.60, "60 cm", "2 ft 0 in"),
        (1.49, "149 cm", "4 ft 11 in"),
        (1.5, "150 cm", "4 ft 11 in"),
        (8.0, "800 cm", "26 ft 3 in"),
    ],
)
def test_length__as_a_hand_measures_it(metres: float, metric: str, us: str) -> None:
    assert length(metres, "metric") == metric
    assert length(metres, "us") == us


@given(st.floats(0.01, 15.0))
def test_length__in_feet_is_right_to_half_an_inch_and_never_twelve(metres: float) -> None:
    words = length(metres, "us").split()
    numbers = [int(word) for word in words if word.isdigit()]
    inches = numbers[-1] + 12 * (numbers[0] if len(numbers) == 2 else 0)
    assert numbers[-1] < 12
    assert abs(0.0254 * inches - metres) <= 0.0127 + 1e-9


def test_load__five_x_in_both() -> None:
    assert load(1.7, "metric") == "1.7 kg"
    assert load(0.45359237, "us") == "1.0 lb"
