"""Where the repository is."""

from pathlib import Path

ROOT = Path(__file__).parent.parent
