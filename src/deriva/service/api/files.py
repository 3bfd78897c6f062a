"""Files on their way in or out."""

import tempfile
from pathlib import Path


def new_file() -> Path:
    """Return a new empty file that nobody else can read."""
    with tempfile.NamedTemporaryFile(prefix="deriva-", delete=False) as file:
        return Path(file.name)
