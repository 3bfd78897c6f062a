"""The published numbers against a second copy, typed apart; what must add up does."""

import csv
from pathlib import Path

import pytest

from deriva.core.data import tables
from deriva.core.data.tables import published, rows

COPY = Path(__file__).parents[1] / "reference" / "coefficients.csv"
TABLES = [file.stem for file in Path(tables.__file__).parent.glob("*.csv")]


def test_coefficients__are_those_of_the_second_copy() -> None:
    with COPY.open(encoding="utf-8", newline="") as file:
        copy = {(row["table"], row["name"]): float(row["value"]) for row in csv.DictReader(file)}
    ours = {
        (table, name): value
        for table in TABLES
        if table
        != "standard_weight"  # its rows are read against published weights, in the tests of the record
        for name, value in published(table).items()
    }
    assert ours == copy


def test_exponents__of_depth_speed_and_width_add_up_to_one() -> None:
    """Their product is the flow (Leopold & Maddock 1953)."""
    water = published("water")
    assert sum(water[f"{name}_exponent"] for name in ("depth", "speed", "width")) == pytest.approx(1.0)


@pytest.mark.parametrize("table", TABLES)
def test_table__names_a_source_for_every_row_and_says_what_is_from_memory(table: str) -> None:
    for row in rows(table):
        assert row["source"], row
        assert row["memory"] in ("yes", "no"), row
