"""What a log can be written as and read from: one format a file of this folder, and what each keeps and loses."""

from collections.abc import Callable
from dataclasses import dataclass

from deriva.service.formats.book import Wanted, Writer
from deriva.service.formats.darwin_core import DarwinCore
from deriva.service.formats.geojson import GeoJson
from deriva.service.formats.gpx import Gpx
from deriva.service.formats.log_csv import LogCsv


def _outing_pdf(wanted: Wanted) -> Writer:
    from deriva.service.formats.outing_pdf import OutingPdf  # noqa: PLC0415 - slow to load

    return OutingPdf(wanted)


@dataclass(frozen=True, slots=True)
class Format:
    """A format: what it is called, what it holds and what it does not; ``many``: whether it is for more than an outing."""

    name: str
    title: str
    suffix: str
    media: str
    holds: str
    loses: str
    writer: Callable[[Wanted], Writer] | None
    reads: bool = False
    hides: bool = False
    """Whether places are hidden unless they are asked for."""
    many: bool = True


FORMATS: dict[str, Format] = {
    one.name: one
    for one in (
        Format(
            "csv", "CSV", "csv", "text/csv; charset=utf-8",
            "A row a drift, with the water, the rig and the fish: for any spreadsheet.",
            "Flies but the point, notes, and what was found of the bottom.", LogCsv, reads=True,
        ),
        Format(
            "pdf", "Report (PDF)", "pdf", "application/pdf",
            "An outing on paper, drawn from the side.",
            "Each drift by itself.", _outing_pdf, many=False,
        ),
        Format(
            "geojson", "GeoJSON", "geojson", "application/geo+json",
            "A point a stop, with water, drifts and fish: for a map.",
            "Each drift by itself. Without exact places every point is within about ten kilometres.", GeoJson, hides=True,
        ),
        Format(
            "gpx", "GPX", "gpx", "application/gpx+xml",
            "The lies that are on the map, where they are: for a watch or a hand-held.",
            "All but the lies. Their places are exact: keep it to yourself.", Gpx, reads=True,
        ),
        Format(
            "darwin-core", "Darwin Core", "zip", "application/zip",
            "Fish, and the effort that was fished in vain too: for those who count them.",
            "Rigs but their kind, flies, the bottom. Places are within about ten kilometres.", DarwinCore, hides=True,
        ),
        Format(
            "json", "Everything (JSON)", "json", "application/json",
            "All that is yours, to be taken in here or by another account.",
            "Passwords are not in it; shares and the history of corrections are not taken in again.", None, reads=True,
        ),
    )
}  # fmt: skip
