"""What is handed to the process that takes a log in, so that asking for it does not load what does it."""

import json
from dataclasses import dataclass, fields
from pathlib import Path
from uuid import UUID


@dataclass(frozen=True, slots=True)
class LogJob:
    """A file, whose it is to be, and how it is to be read.

    ``columns``: which header each field of a table has, none: it is to be said which there are. ``rig``: where a row says none.
    """

    database_url: str
    angler_id: UUID
    job_id: UUID
    path: Path
    format: str
    dry: bool
    beat_id: UUID | None = None
    columns: dict[str, str] | None = None
    rig: str | None = None
    zone: str = "UTC"

    def to_json(self) -> bytes:
        """Return the job as it is handed over."""
        return json.dumps({one.name: getattr(self, one.name) for one in fields(self)}, default=str).encode()

    @staticmethod
    def from_json(text: bytes) -> "LogJob":
        """Return the job that was handed over."""
        told = json.loads(text)
        ids = {name: told[name] and UUID(told[name]) for name in ("angler_id", "job_id", "beat_id")}
        return LogJob(**(told | ids | {"path": Path(told["path"])}))
