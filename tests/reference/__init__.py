"""Reference results as the tests read them; see README.md for where they come from."""

import csv
import json
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent


def float_cases() -> list[dict[str, Any]]:
    """Return the drifts under a float."""
    cases: list[dict[str, Any]] = json.loads((HERE / "drift_under_a_float.json").read_text())
    return cases


def tip_cases() -> list[dict[str, str]]:
    """Return the drifts under a rod tip."""
    with (HERE / "rod_tip.csv").open(newline="") as file:
        return list(csv.DictReader(file))
