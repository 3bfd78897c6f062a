"""A log as GeoJSON (RFC 7946): a feature a stop."""

import json
from collections.abc import Sequence
from typing import Any

from deriva.service.formats.book import Book, Stop, Wanted, Writer
from deriva.service.formats.places import point


def _feature(book: Book, stop: Stop, *, exact: bool) -> dict[str, Any]:
    at = point(stop.place or book.river_place, exact=exact)
    drifts = list(stop.drifts)
    geometry = None if at is None else {"type": "Point", "coordinates": [at.longitude, at.latitude]}
    return {
        "type": "Feature",
        "id": str(stop.id),
        "geometry": geometry,
        "properties": {
            "outing": str(book.id),
            "time": stop.at.isoformat(),
            "river": book.river,
            "beat": book.beat,
            "lie": stop.lie,
            "place_of": None if at is None else "lie" if stop.place else "river",
            "within_m": None if at is None else at.within_m,
            "kind": stop.kind,
            "depth_m": stop.depth_m,
            "surface_speed_m_s": stop.surface_speed_m_s,
            "clarity_m": stop.clarity_m,
            "temperature_c": stop.temperature_c,
            "rigs": sorted({setting.rig for setting in stop.settings}),
            "drifts": len(drifts),
            "missed": sum(drift.outcome == "missed" for drift in drifts),
            "fish": [
                {"time": fish.at.isoformat(), "species": fish.species, "length_mm": fish.length_mm}
                for drift in drifts
                for fish in drift.fish
            ],
        },
    }


class GeoJson(Writer):
    """A collection of features."""

    def __init__(self, wanted: Wanted) -> None:
        super().__init__(wanted)
        self.before = ""

    def head(self) -> bytes:
        """Return how the collection begins."""
        return b'{"type": "FeatureCollection", "features": ['

    def add(self, books: Sequence[Book]) -> bytes:
        """Return a feature a stop."""
        found = ""
        for book in books:
            for stop in book.stops:
                feature = json.dumps(_feature(book, stop, exact=self.wanted.exact), ensure_ascii=False)
                found, self.before = f"{found}{self.before}\n{feature}", ","
        return found.encode()

    def foot(self) -> bytes:
        """Return how it ends."""
        return b"\n]}\n"
