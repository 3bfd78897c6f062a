"""What all tests share: drawn examples are the same on every run, nothing is timed, and what takes long comes first."""

import gc
import os

import pytest
from hypothesis import settings

settings.register_profile("deriva", deadline=None, derandomize=True)
settings.load_profile("deriva")

TAKES = {"e2e": (13.0, 60.0), "crash": (35.0, 35.0), "service": (1.4, 65.0), "": (0.3, 16.0)}
"""About how long a test of a folder takes, and one that is marked as long, in any unit; the last are all others."""

MOMENT = TAKES[""][0]


def _folder(one: pytest.Item) -> str:
    parts = one.path.parts
    folder = parts[parts.index("tests") + 1] if "tests" in parts else ""
    return folder if folder in TAKES else ""


def _takes(one: pytest.Item) -> float:
    return TAKES[_folder(one)][one.get_closest_marker("long") is not None]


def dealt(items: list[pytest.Item], workers: int) -> list[pytest.Item]:
    """Return tests in the order in which each worker is given one stretch of them, as many in each.

    What is of one folder stays together: a browser, an app and databases are not started by every worker. Each begins with its
    longest and ends with what takes a moment, so that little is left to be taken over from who is late.
    """
    folders = list(TAKES)
    moments = [one for one in items if _takes(one) == MOMENT]
    longer = sorted(
        (one for one in items if _takes(one) > MOMENT), key=lambda one: folders.index(_folder(one))
    )
    share = sum(_takes(one) - MOMENT for one in longer) / workers
    stretches: list[list[pytest.Item]] = [[] for _ in range(workers)]
    given = 0.0
    for one in longer:
        stretches[min(int(given / share), workers - 1)].append(one)
        given += _takes(one) - MOMENT  # in each stretch it stands where one of a moment would
    left = len(items)
    for k, stretch in enumerate(stretches):
        stretch.sort(key=_takes, reverse=True)
        more = max(0, left // (workers - k) - len(stretch))
        stretch.extend(moments[:more])
        del moments[:more]
        left -= len(stretch)
    return [*(one for stretch in stretches for one in stretch), *moments]


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Deal out what is to be run."""
    items[:] = dealt(items, int(os.environ.get("PYTEST_XDIST_WORKER_COUNT", "1")))


def pytest_collection_finish() -> None:
    """Look no more through what is there for good: half a million objects, each time that garbage is looked for."""
    gc.collect()
    gc.freeze()
