"""Regression: what is pinned of sixty seeded situations. A change that is meant to change them takes them anew
(scripts/pin.py) and says in its message what changed and why.
"""

import json
import os
from typing import Any

import pytest

from tests.pinned import PINNED, figures
from tests.seeded import COUNT

EVERY = 1 if os.environ.get("DERIVA_PINNED") else 3
"""Every third in an ordinary run; all with DERIVA_PINNED=1, which is for whoever moves the house about."""

WANT: list[dict[str, Any]] = json.loads(PINNED.read_text())


@pytest.mark.parametrize("k", range(0, COUNT, EVERY))
def test_figures__are_those_pinned(k: int) -> None:
    assert _near(figures(k), WANT[k])


def _near(got: Any, want: Any) -> bool:  # noqa: ANN401 - as deep as JSON
    """Whether two documents are the same, numbers to a few parts in ten thousand: another machine rounds otherwise."""
    if isinstance(want, dict):
        return set(got) == set(want) and all(_near(got[name], want[name]) for name in want)
    if isinstance(want, list):
        return len(got) == len(want) and all(_near(a, b) for a, b in zip(got, want, strict=True))
    if isinstance(want, float):
        return got is not None and bool(got == pytest.approx(want, rel=5e-4, abs=2e-4))
    return bool(got == want)
