"""Fish as a Darwin Core archive (TDWG): a sampling event a stop, with its effort, and an occurrence a fish.

A stop without a fish is an event without an occurrence: who counts fish from such files needs to know what was fished in vain.
"""

import csv
import io
import json
import zipfile
from collections.abc import Sequence
from datetime import UTC, datetime
from xml.sax.saxutils import escape

from deriva.core.record.species import scientific
from deriva.service.formats.book import Book, Fish, Stop, Wanted, Writer
from deriva.service.formats.places import point

DWC = "http://rs.tdwg.org/dwc/terms/"

EVENT = (
    "eventID", "parentEventID", "eventDate", "samplingProtocol", "sampleSizeValue", "sampleSizeUnit", "habitat", "waterBody",
    "locality", "decimalLatitude", "decimalLongitude", "geodeticDatum", "coordinateUncertaintyInMeters",
    "dataGeneralizations",
)  # fmt: skip
OCCURRENCE = (
    "eventID", "occurrenceID", "basisOfRecord", "occurrenceStatus", "eventDate", "scientificName", "taxonRank",
    "vernacularName", "individualCount", "dynamicProperties",
)  # fmt: skip

HIDDEN = "Coordinates are the middle of a cell of 0.1 degrees; the lie is not named."


def _table(columns: Sequence[str]) -> tuple[io.StringIO, "csv.DictWriter[str]"]:
    text = io.StringIO()
    writer = csv.DictWriter(text, columns, dialect="excel-tab", lineterminator="\n")
    writer.writeheader()
    return text, writer


def _fields(columns: Sequence[str]) -> str:
    return "".join(
        f'<field index="{k}" term="{DWC}{name}"/>' for k, name in enumerate(columns) if name != "eventID"
    )


def _meta() -> str:
    shape = 'encoding="UTF-8" fieldsTerminatedBy="\\t" linesTerminatedBy="\\n" fieldsEnclosedBy="&quot;" ignoreHeaderLines="1"'
    event_id = f'<field index="0" term="{DWC}eventID"/>'
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<archive xmlns="http://rs.tdwg.org/dwc/text/" metadata="eml.xml">'
        f'<core {shape} rowType="{DWC}Event"><files><location>event.txt</location></files><id index="0"/>'
        f"{event_id}{_fields(EVENT)}</core>"
        f'<extension {shape} rowType="{DWC}Occurrence"><files><location>occurrence.txt</location></files>'
        f'<coreid index="0"/>{_fields(OCCURRENCE)}</extension></archive>\n'
    )


def _eml(said: str, at: datetime) -> str:
    party = "<organizationName>The log of an angler, written by Deriva</organizationName>"
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n'
        '<eml:eml xmlns:eml="https://eml.ecoinformatics.org/eml-2.2.0" packageId="deriva-log" system="deriva"><dataset>'
        f"<title>Trout and other fish caught on nymphs</title><creator>{party}</creator>"
        f"<pubDate>{at:%Y-%m-%d}</pubDate><language>en</language>"
        f"<abstract><para>Fish brought to hand, with the drifts that were fished for them. {escape(said)}</para></abstract>"
        f"<contact>{party}</contact></dataset></eml:eml>\n"
    )


class DarwinCore(Writer):
    """The archive, made in memory: a line a stop and one a fish."""

    def __init__(self, wanted: Wanted) -> None:
        super().__init__(wanted)
        self.events, self.event = _table(EVENT)
        self.occurrences, self.occurrence = _table(OCCURRENCE)

    def add(self, books: Sequence[Book]) -> bytes:
        """Take some outings in."""
        for book in books:
            for stop in book.stops:
                self._stop(book, stop)
        return b""

    def _stop(self, book: Book, stop: Stop) -> None:
        drifts = list(stop.drifts)
        at = point(stop.place or book.river_place, exact=self.wanted.exact)
        where = {}
        if at is not None:
            where = {
                "decimalLatitude": at.latitude, "decimalLongitude": at.longitude, "geodeticDatum": "EPSG:4326",
                "coordinateUncertaintyInMeters": at.within_m,
            }  # fmt: skip
        self.event.writerow(
            {
                "eventID": stop.id,
                "parentEventID": book.id,
                "eventDate": stop.at.isoformat(),
                "samplingProtocol": "angling with nymphs: "
                + ", ".join(sorted({one.rig for one in stop.settings})),
                "sampleSizeValue": len(drifts),
                "sampleSizeUnit": "drifts",
                "habitat": stop.kind,
                "waterBody": book.river,
                "locality": f"{book.beat}, {stop.lie}" if self.wanted.exact else "",
                "dataGeneralizations": "" if self.wanted.exact else HIDDEN,
                **where,
            }
        )
        for drift in drifts:
            for fish in drift.fish:
                self._fish(stop, fish)

    def _fish(self, stop: Stop, fish: Fish) -> None:
        name, rank = scientific(fish.species)
        length = {"length_mm": fish.length_mm, "length_how": fish.length_how}
        self.occurrence.writerow(
            {
                "eventID": stop.id,
                "occurrenceID": fish.id,
                "basisOfRecord": "HumanObservation",
                "occurrenceStatus": "present",
                "eventDate": fish.at.isoformat(),
                "scientificName": name,
                "taxonRank": rank,
                "vernacularName": fish.species,
                "individualCount": 1,
                "dynamicProperties": json.dumps(length) if fish.length_mm is not None else "",
            }
        )

    def foot(self) -> bytes:
        """Return the archive."""
        out = io.BytesIO()
        said = "Places are as they were entered." if self.wanted.exact else HIDDEN
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("meta.xml", _meta())
            archive.writestr("eml.xml", _eml(said, datetime.now(UTC)))
            archive.writestr("event.txt", self.events.getvalue())
            archive.writestr("occurrence.txt", self.occurrences.getvalue())
        return out.getvalue()
