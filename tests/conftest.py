"""What all tests share: drawn examples are the same on every run, and nothing is timed."""

from hypothesis import settings

settings.register_profile("deriva", deadline=None, derandomize=True)
settings.load_profile("deriva")
