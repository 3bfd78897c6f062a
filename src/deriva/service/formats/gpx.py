"""Lies as waypoints of GPX 1.1, to be found again with anything that shows a map: written, and read."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import IO
from uuid import UUID
from xml.etree.ElementTree import Element, ParseError, SubElement, indent, tostring

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import iterparse

from deriva.service.formats.book import Book, Wanted, Writer
from deriva.service.formats.samples import Malformed, shown

NS = "http://www.topografix.com/GPX/1/1"
MOST = 400
LONGEST_NAME, LONGEST_TEXT = 80, 2000


@dataclass(frozen=True, slots=True)
class Waypoint:
    """A place with a name, in degrees; which of the file it is, the first is 1."""

    n: int
    name: str
    text: str
    latitude: float
    longitude: float


class Gpx(Writer):
    """The lies of some outings that are on the map, each once, where they are: a waypoint that is rounded leads nowhere."""

    def __init__(self, wanted: Wanted) -> None:
        super().__init__(wanted)
        self.found: dict[UUID, Waypoint] = {}

    def add(self, books: Sequence[Book]) -> bytes:
        """Take the lies of some outings in."""
        for book in books:
            for stop in book.stops:
                if stop.place is not None:
                    text = f"{stop.kind or 'water'}, {book.beat}, {book.river}"
                    self.found[stop.lie_id] = Waypoint(len(self.found) + 1, stop.lie, text, *stop.place)
        return b""

    def foot(self) -> bytes:
        """Return the file."""
        root = Element("gpx", version="1.1", creator="Deriva", xmlns=NS)
        for one in self.found.values():
            element = SubElement(root, "wpt", lat=f"{one.latitude:.7f}", lon=f"{one.longitude:.7f}")
            SubElement(element, "name").text = one.name
            SubElement(element, "desc").text = one.text
        indent(root)
        text: bytes = tostring(root, encoding="utf-8", xml_declaration=True)
        return text + b"\n"


def _words(element: Element, name: str, most: int) -> str:
    found = next((child.text for child in element if child.tag.rpartition("}")[2] == name), None)
    return "".join(filter(str.isprintable, (found or "").strip()))[:most]


def _degrees(element: Element, name: str, most: float, n: int) -> float:
    text = element.get(name, "")
    try:
        value = float(text)
    except ValueError:
        value = float("nan")
    if not -most <= value <= most:
        raise Malformed(
            0, f"waypoint {n}", f"{name} = {shown(text)}: {-most:g} to {most:g} degrees are wanted"
        )
    return value


def read(file: IO[bytes]) -> Iterator[Waypoint]:
    """Yield the waypoints of a file. Raises Malformed for one that is not GPX, that has entities of its own, or too many."""
    n, root = 0, None
    try:
        for event, element in iterparse(file, events=("start", "end"), forbid_dtd=True):
            tag = element.tag.rpartition("}")[2]
            if root is None:
                root = tag
                if root != "gpx":
                    raise Malformed(1, 1, f"this is {shown(root)}, not GPX")
            if event == "start":
                continue
            if tag == "wpt":
                n += 1
                if n > MOST:
                    raise Malformed(
                        0, f"waypoint {n}", f"there are more than {MOST}, and a beat has no more lies"
                    )
                name = _words(element, "name", LONGEST_NAME) or f"Waypoint {n}"
                text = _words(element, "desc", LONGEST_TEXT) or _words(element, "cmt", LONGEST_TEXT)
                yield Waypoint(
                    n, name, text, _degrees(element, "lat", 90.0, n), _degrees(element, "lon", 180.0, n)
                )
            if tag in ("wpt", "trk", "rte", "trkpt"):
                element.clear()
    except ParseError as error:
        raise Malformed(error.position[0], error.position[1] + 1, "this is not well-formed XML") from None
    except DefusedXmlException:
        raise Malformed(1, 1, "a file that declares entities of its own is not read") from None
    if n == 0:
        raise Malformed(0, "the file", "there is no waypoint in it")
