"""The examples run as they stand, and say what their first lines promise."""

import subprocess
import sys
from pathlib import Path

import pytest

EXAMPLES = sorted((Path(__file__).parents[1] / "examples").glob("*.py"))


@pytest.mark.parametrize("example", EXAMPLES, ids=lambda one: one.stem)
def test_example__runs(example: Path) -> None:
    done = subprocess.run([sys.executable, example], capture_output=True, text=True, check=True)
    assert len(done.stdout.splitlines()) >= 3
    assert "nan" not in done.stdout
