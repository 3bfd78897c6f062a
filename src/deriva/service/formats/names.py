"""What a file that is taken away is called: by what is in it, in letters that every system takes."""

import re
import unicodedata


def named(*parts: object) -> str:
    """Return the parts that there are, joined: `ash-run-2026-05-01`. Marks are taken off letters, the rest becomes a hyphen."""
    text = "-".join(str(part) for part in parts if part is not None)
    plain = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:80] or "deriva"
