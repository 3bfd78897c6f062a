"""A file that is handed over to a process of its own, to be taken in."""

import json
from dataclasses import dataclass
from pathlib import Path
from uuid import UUID

from deriva.service.formats.read import Format


@dataclass(frozen=True, slots=True)
class Handed:
    """A file, and the import and gauge that it is for."""

    database_url: str
    angler_id: UUID
    import_id: UUID
    gauge_id: UUID
    path: Path
    kind: Format

    def to_json(self) -> bytes:
        """Return the job as it is handed over."""
        return json.dumps({name: str(getattr(self, name)) for name in self.__slots__}).encode()

    @staticmethod
    def from_json(text: bytes) -> "Handed":
        """Return the job that was handed over."""
        told = json.loads(text)
        angler, import_, gauge = (UUID(told[name]) for name in ("angler_id", "import_id", "gauge_id"))
        return Handed(told["database_url"], angler, import_, gauge, Path(told["path"]), told["kind"])
