"""What all tests share: drawn examples are the same on every run, nothing is timed, and what takes long comes first."""

import gc
import os

import pytest
from hypothesis import settings

settings.register_profile("deriva", deadline=None, derandomize=True)
settings.load_profile("deriva")

SLOWEST_FIRST = ("e2e", "crash", "service")
"""Folders of tests, by how long one takes."""


def _place(one: pytest.Item) -> int:
    if one.get_closest_marker("long"):
        return 0
    folder = one.path.parts[one.path.parts.index("tests") + 1] if "tests" in one.path.parts else ""
    return 1 + (SLOWEST_FIRST.index(folder) if folder in SLOWEST_FIRST else len(SLOWEST_FIRST))


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Begin with what takes long, and deal it out: each worker is given one stretch of the list, and at the end only what takes
    a moment is left to be taken over from the other.
    """
    workers = int(os.environ.get("PYTEST_XDIST_WORKER_COUNT", "1"))
    items.sort(key=_place)
    items[:] = [one for worker in range(workers) for one in items[worker::workers]]


def pytest_collection_finish() -> None:
    """Look no more through what is there for good: half a million objects, each time that garbage is looked for."""
    gc.collect()
    gc.freeze()
