"""Published numbers, each once: a table a subject, with value, unit, source and place; ``memory`` says where a number was
quoted from memory. Modules give them their names.
"""

import csv
from functools import cache
from importlib.resources import files


@cache
def rows(table: str) -> tuple[dict[str, str], ...]:
    """Return the rows of a table as text, by column."""
    text = files("deriva.core.data").joinpath(f"{table}.csv").read_text(encoding="utf-8")
    return tuple(csv.DictReader(text.splitlines()))


@cache
def published(table: str) -> dict[str, float]:
    """Return the numbers of a table by their names; raises KeyError for one that is not there when it is asked for."""
    return {row["name"]: float(row["value"]) for row in rows(table)}
