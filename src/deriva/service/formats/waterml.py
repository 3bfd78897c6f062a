"""OGC WaterML 2.0 Part 1, Timeseries (document 10-126r4): observations of measurement time series."""

import math
import re
from collections.abc import Iterator
from datetime import UTC, datetime
from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from deriva.service.formats.samples import FOOT_M, MISSING, Malformed, Parameter, Sample, Worth

NS = {
    "wml2": "http://www.opengis.net/waterml/2.0",
    "om": "http://www.opengis.net/om/2.0",
    "swe": "http://www.opengis.net/swe/2.0",
}
XLINK = "{http://www.w3.org/1999/xlink}"

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
        raise Malformed(0, place, f"{text!r} is not a time like 2026-05-01T14:15:00Z") from None
    return (at if at.tzinfo else at.replace(tzinfo=UTC)).astimezone(UTC)


def _series(observation: Element, number: int) -> Iterator[Sample]:
    property_ = observation.find("om:observedProperty", NS)
    said = _said(property_).replace("_", " ")
    parameter = next((name for pattern, name in PROPERTIES if re.search(pattern, said, re.I)), None)
    if parameter is None:
        return
    for series in observation.iterfind(".//wml2:MeasurementTimeseries", NS):
        default = series.find("wml2:defaultPointMetadata/wml2:DefaultTVPMeasurementMetadata", NS)
        uom = series.find(".//wml2:uom", NS)
        code = "" if uom is None else uom.get("code") or uom.get(XLINK + "title") or ""
        scale = UNITS[parameter].get(code.strip().lower())
        if scale is None:
            known = ", ".join(UNITS[parameter])
            raise Malformed(
                0, f"observation {number}, uom", f"{code!r} is not a unit of {parameter}: one of {known}"
            )
        usual, _ = _worth(default, "good")
        for k, point in enumerate(series.iterfind("wml2:point/wml2:MeasurementTVP", NS), 1):
            place = f"observation {number}, point {k}"
            at = _time(point.findtext("wml2:time", "", NS), place)
            worth, mark = _worth(point.find("wml2:metadata/wml2:TVPMeasurementMetadata", NS), usual)
            text = point.findtext("wml2:value", "", NS).strip()
            try:
                value = float(text) if text else None
            except ValueError:
                raise Malformed(0, place, f"{text!r} is not a number") from None
            if value is None or value == MISSING or not math.isfinite(value) or worth == "missing":
                yield Sample(parameter, at, None, "missing", mark)
            else:
                yield Sample(parameter, at, value * scale[0] + scale[1], worth, mark)


def parse_waterml(text: bytes) -> list[Sample]:
    """Return the samples of a WaterML 2.0 document. Raises Malformed; entities and external references are refused."""
    try:
        root = fromstring(text)
    except ParseError as error:
        line, column = error.position
        raise Malformed(line, column + 1, f"this is not well-formed XML: {error.msg}") from None
    except (DefusedXmlException, ValueError) as error:
        raise Malformed(1, 1, f"this XML is not read: {error}") from None
    observations = list(root.iter(f"{{{NS['om']}}}OM_Observation"))
    if not observations:
        raise Malformed(1, 1, "no observation (om:OM_Observation) in this document")
    return [sample for k, one in enumerate(observations, 1) for sample in _series(one, k)]
