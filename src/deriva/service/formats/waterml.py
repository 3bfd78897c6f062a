"""OGC WaterML 2.0 Part 1, Timeseries (document 10-126r4): observations of measurement time series."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import IO
from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import iterparse

from deriva.service.formats.samples import (
    FOOT_M,
    MISSING,
    Malformed,
    Parameter,
    Sample,
    Worth,
    moment,
    sample,
    shown,
)

NS = {
    "wml2": "http://www.opengis.net/waterml/2.0",
    "om": "http://www.opengis.net/om/2.0",
    "swe": "http://www.opengis.net/swe/2.0",
}
XLINK = "{http://www.w3.org/1999/xlink}"
OBSERVATION, PROPERTY = f"{{{NS['om']}}}OM_Observation", f"{{{NS['om']}}}observedProperty"
SERIES, UOM = f"{{{NS['wml2']}}}MeasurementTimeseries", f"{{{NS['wml2']}}}uom"
DEFAULTS = f"{{{NS['wml2']}}}DefaultTVPMeasurementMetadata"
POINT, POINT_AROUND = f"{{{NS['wml2']}}}MeasurementTVP", f"{{{NS['wml2']}}}point"

PROPERTIES: tuple[tuple[str, Parameter], ...] = (
    (r"00060|discharge|stream\s*flow|water\s*flow", "flow"),
    (r"00065|gage\s*height|gauge\s*height|stage|water\s*level", "stage"),
    (r"00010|temperature", "temperature"),
    (r"63680|turbidity", "turbidity"),
)

UNITS: dict[Parameter, dict[str, tuple[float, float]]] = {
    "flow": {
        "m3/s": (1.0, 0.0), "m3.s-1": (1.0, 0.0), "l/s": (1e-3, 0.0), "ft3/s": (FOOT_M**3, 0.0),
        "[cft_i]/s": (FOOT_M**3, 0.0),
    },
    "stage": {
        "m": (1.0, 0.0), "cm": (0.01, 0.0), "mm": (0.001, 0.0), "ft": (FOOT_M, 0.0), "[ft_i]": (FOOT_M, 0.0),
    },
    "temperature": {
        "cel": (1.0, 0.0), "degc": (1.0, 0.0), "deg c": (1.0, 0.0), "°c": (1.0, 0.0), "k": (1.0, -273.15),
        "[degf]": (5.0 / 9.0, -160.0 / 9.0),
    },
    "turbidity": {
        "fnu": (1.0, 0.0), "{fnu}": (1.0, 0.0), "_fnu": (1.0, 0.0), "ntu": (1.0, 0.0), "{ntu}": (1.0, 0.0),
    },
}  # fmt: skip
"""Unit codes (UCUM and what services write), as factor and offset to SI."""

QUALITY: dict[str, Worth] = {
    "good": "good", "suspect": "estimated", "estimate": "estimated", "estimated": "estimated", "poor": "estimated",
    "unchecked": "provisional", "provisional": "provisional", "missing": "missing",
}  # fmt: skip


def _said(element: Element | None) -> str:
    """Return everything that an element says of itself: link, title and text."""
    if element is None:
        return ""
    return " ".join((element.get(XLINK + "href", ""), element.get(XLINK + "title", ""), element.text or ""))


def _worth(metadata: Element | None, default: Worth) -> tuple[Worth, str]:
    if metadata is None:
        return default, ""
    nil = metadata.find("wml2:nilReason", NS)
    if nil is not None:
        return "missing", (nil.text or nil.get(XLINK + "href") or "missing").strip()
    marks = " ".join(_said(metadata.find(name, NS)) for name in ("wml2:quality", "wml2:qualifier")).strip()
    marks += " ".join(value.text or "" for value in metadata.iterfind(".//swe:value", NS))
    if re.search(r"\bice\b", marks, re.I):
        return "ice", "ice"
    for word, worth in QUALITY.items():
        if re.search(rf"\b{word}\b", marks, re.I):
            return worth, word
    return default, ""


def _time(text: str, place: str) -> datetime:
    try:
        at = datetime.fromisoformat(text.strip())
    except ValueError:
        raise Malformed(0, place, f"{shown(text)} is not a time like 2026-05-01T14:15:00Z") from None
    return moment(at if at.tzinfo else at.replace(tzinfo=UTC), 0, place)


def _known(observed: Element) -> Parameter | None:
    said = _said(observed).replace("_", " ")
    return next((name for pattern, name in PROPERTIES if re.search(pattern, said, re.I)), None)


def _scale(code: str, parameter: Parameter, number: int) -> tuple[float, float]:
    scale = UNITS[parameter].get(code.strip().lower())
    if scale is None:
        known = ", ".join(UNITS[parameter])
        text = f"{shown(code)} is not a unit of {parameter}: one of {known}"
        raise Malformed(0, f"observation {number}, uom", text)
    return scale


@dataclass(slots=True)
class _Series:
    """What holds for the points of the series that is being read."""

    number: int
    parameter: Parameter | None
    usual: Worth = "good"
    scale: tuple[float, float] | None = None
    points: int = 0

    def read(self, point: Element) -> Iterator[Sample]:
        """Yield the sample of one point."""
        self.points += 1
        if self.parameter is None:
            return
        if self.scale is None:
            self.scale = _scale("", self.parameter, self.number)
        place = f"observation {self.number}, point {self.points}"
        at = _time(point.findtext("wml2:time", "", NS), place)
        worth, mark = _worth(point.find("wml2:metadata/wml2:TVPMeasurementMetadata", NS), self.usual)
        text = point.findtext("wml2:value", "", NS).strip()
        try:
            value = float(text) if text else MISSING
        except ValueError:
            raise Malformed(0, place, f"{shown(text)} is not a number") from None
        yield sample(
            self.parameter,
            at,
            None if value == MISSING else value * self.scale[0] + self.scale[1],
            worth,
            mark,
        )


class _Reader:
    """Goes through the elements of a document as they open and close."""

    def __init__(self) -> None:
        self.number = 0
        self.series: _Series | None = None

    def opened(self, element: Element) -> None:
        """Note that an observation, or a series of it, begins."""
        if element.tag == OBSERVATION:
            self.number += 1
            self.series = _Series(self.number, None)
        elif element.tag == SERIES and self.series is not None:
            self.series = _Series(self.number, self.series.parameter)

    def closed(self, element: Element) -> Iterator[Sample]:
        """Take in what an element says; yield the sample of a point."""
        series = self.series
        if series is None:
            return
        if element.tag == PROPERTY:
            series.parameter = _known(element)
        elif element.tag == UOM and series.parameter is not None and series.scale is None:
            code = element.get("code") or element.get(XLINK + "title") or ""
            series.scale = _scale(code, series.parameter, series.number)
        elif element.tag == DEFAULTS:
            series.usual, _ = _worth(element, "good")
        elif element.tag == POINT:
            yield from series.read(element)
        if element.tag in (POINT, POINT_AROUND, OBSERVATION):
            element.clear()


def parse_waterml(file: IO[bytes]) -> Iterator[Sample]:
    """Yield the samples of a WaterML 2.0 document, which is never held whole. Raises Malformed; entities and external
    references are refused.
    """
    reader = _Reader()
    try:
        for event, element in iterparse(file, events=("start", "end"), forbid_dtd=True):
            if event == "start":
                reader.opened(element)
            else:
                yield from reader.closed(element)
    except ParseError as error:
        line, column = error.position
        raise Malformed(line, column + 1, f"this is not well-formed XML: {error.msg}") from None
    except Malformed:
        raise
    except (DefusedXmlException, ValueError) as error:
        raise Malformed(1, 1, f"this XML is not read: {error}") from None
    if reader.number == 0:
        raise Malformed(1, 1, "no observation (om:OM_Observation) in this document")
