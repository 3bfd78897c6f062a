"""What all tests share: drawn examples are the same on every run, nothing is timed, and what takes long comes first."""

import pytest
from hypothesis import settings

settings.register_profile("deriva", deadline=None, derandomize=True)
settings.load_profile("deriva")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Begin with what takes long, so that no worker is left alone with it at the end."""
    items.sort(key=lambda one: one.get_closest_marker("long") is None)
