"""An outing on paper: what was fished, what it looked like from the side, and what came to hand."""

import io
from collections.abc import Sequence
from datetime import datetime
from xml.sax.saxutils import escape

from reportlab.graphics.shapes import Circle, Drawing, Line, Rect, String
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import Flowable, KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from deriva.core.model.logged import TOUCHES
from deriva.service.formats.book import Book, Drift, Setting, Stop, Wanted, Writer
from deriva.service.formats.measures import depth, length, speed, warmth, weight

INK, SOFT, LINE = HexColor("#14201c"), HexColor("#4d5a54"), HexColor("#b9b5a6")
WATER, BED, MARK = HexColor("#cfe0d8"), HexColor("#cbbfae"), HexColor("#a52814")
MARGIN = 48.0
WIDE = A4[0] - 2.0 * MARGIN
HIGH, SURFACE, FOOT = 130.0, 96.0, 8.0

TITLE = ParagraphStyle("title", fontName="Helvetica-Bold", fontSize=18, leading=22, textColor=INK)
HEAD = ParagraphStyle(
    "head", fontName="Helvetica-Bold", fontSize=11, leading=15, textColor=INK, spaceBefore=8
)
BODY = ParagraphStyle("body", fontName="Helvetica", fontSize=9.5, leading=13, textColor=INK)
SMALL = ParagraphStyle("small", fontName="Helvetica", fontSize=8, leading=11, textColor=SOFT)

ENDS = {
    "clean": "clean",
    "tick": "tick",
    "hung": "hung up",
    "missed": "missed a take",
    "lost_fly": "lost the fly",
}
RIGS = {"euro": "euro", "indicator": "indicator", "dry_dropper": "dry-dropper", "dry": "single dry"}


def _clock(at: datetime, wanted: Wanted) -> str:
    return f"{at.astimezone(wanted.zone):%H:%M}"


def _set(setting: Setting, wanted: Wanted) -> str:
    """Return a setting in words."""
    parts = [RIGS.get(setting.rig, setting.rig), setting.fly]
    if setting.point_bead_mm is not None:
        parts.append(f"{setting.point_bead_mm:.1f} mm")
    if setting.depth_setting_m is not None:
        parts.append(f"set to {depth(setting.depth_setting_m, wanted.units)}")
    return ", ".join(part for part in parts if part)


def _ended(drifts: Sequence[Drift]) -> str:
    counts = {name: sum(one.outcome == key for one in drifts) for key, name in ENDS.items()}
    return ", ".join(f"{n} {name}" for name, n in counts.items() if n) or "no drift"


def _fish(drift: Drift, wanted: Wanted) -> list[str]:
    found: list[str] = []
    for fish in drift.fish:
        said = f"{_clock(drift.at, wanted)}: {fish.species}"
        if fish.length_mm is not None:
            by_eye = " by eye" if fish.length_how == "eye" else ""
            said += f", {length(fish.length_mm / 1000.0, wanted.units)}{by_eye}"
        if fish.weight_g is not None:
            said += f", about {weight(fish.weight_g, wanted.units)} by its length"
        found.append(f"{said}, on the {fish.fly}")
    return found


def _until(stop: Stop) -> datetime:
    return max((drift.at for drift in stop.drifts), default=stop.at)


def _from_the_side(stops: Sequence[Stop]) -> Drawing | None:
    """Return the depth of each lie as it was fished, and every drift down to where the rig was set."""
    fished = [stop for stop in stops if any(True for _ in stop.drifts)]
    if not fished:
        return None
    first, last = fished[0].at, max(map(_until, fished))
    span = max(60.0, (last - first).total_seconds())
    deepest = max((stop.depth_m or 0.0 for stop in fished), default=0.0) or 1.0
    drawing = Drawing(WIDE, HIGH)

    def x(at: datetime) -> float:
        return 6.0 + (WIDE - 12.0) * (at - first).total_seconds() / span

    def y(depth_m: float) -> float:
        return SURFACE - (SURFACE - FOOT) * min(1.0, depth_m / (1.15 * deepest))

    for stop in fished:
        left, right = x(stop.at), max(x(_until(stop)), x(stop.at) + 3.0)
        bed = y(stop.depth_m or 0.0)
        for low, high, colour in ((bed, SURFACE, WATER), (0.0, bed, BED)):
            box = Rect(left, low, right - left, high - low)
            box.fillColor, box.strokeColor = colour, None
            drawing.add(box)
        drawing.add(String(left, SURFACE + 22.0, stop.lie, fontName="Helvetica", fontSize=8, fillColor=INK))
        for setting in stop.settings:
            to = y(min(setting.depth_setting_m or 0.0, stop.depth_m or 0.0))
            for drift in setting.drifts:
                at = x(drift.at)
                drawing.add(Line(at, SURFACE, at, to, strokeColor=SOFT, strokeWidth=0.5))
                if drift.outcome in TOUCHES:
                    drawing.add(Circle(at, bed, 1.8, fillColor=INK, strokeColor=None))
                if drift.outcome in ("fish", "missed"):
                    hollow = drift.outcome == "missed"
                    drawing.add(
                        Circle(at, SURFACE + 10.0, 3.2, fillColor=None if hollow else MARK, strokeColor=MARK)
                    )
    return drawing


def _stop(stop: Stop, wanted: Wanted) -> list[Flowable]:
    units = wanted.units
    water: list[str] = []
    if stop.depth_m is not None and stop.surface_speed_m_s is not None:
        water.append(f"{depth(stop.depth_m, units)} deep, {speed(stop.surface_speed_m_s, units)} at the top")
    if stop.temperature_c is not None:
        water.append(warmth(stop.temperature_c, units))
    if stop.clarity_m is not None:
        water.append(f"clear to {depth(stop.clarity_m, units)}")
    rows = [
        [Paragraph(text, SMALL) for text in ("from", "set", "drifts", "how they ended", "fish")],
        *(
            [
                Paragraph(_clock(setting.at, wanted), BODY),
                Paragraph(escape(_set(setting, wanted)), BODY),
                Paragraph(str(len(setting.drifts)), BODY),
                Paragraph(_ended(setting.drifts), BODY),
                Paragraph(
                    "<br/>".join(escape(line) for one in setting.drifts for line in _fish(one, wanted))
                    or "none",
                    BODY,
                ),
            ]
            for setting in stop.settings
            if setting.drifts
        ),
    ]
    table = Table(rows, colWidths=[36.0, 130.0, 36.0, 120.0, WIDE - 322.0], repeatRows=1)
    table.setStyle(
        TableStyle([("LINEBELOW", (0, 0), (-1, -1), 0.4, LINE), ("VALIGN", (0, 0), (-1, -1), "TOP")])
    )
    return [
        KeepTogether([Paragraph(escape(stop.lie), HEAD), Paragraph("; ".join(water), SMALL)]),
        Spacer(1, 3),
        table,
    ]


class OutingPdf(Writer):
    """A report of one outing, or of a few, one behind the other."""

    def __init__(self, wanted: Wanted) -> None:
        super().__init__(wanted)
        self.story: list[Flowable] = []

    def add(self, books: Sequence[Book]) -> bytes:
        """Take some outings in."""
        for book in books:
            drifts = [drift for stop in book.stops for drift in stop.drifts]
            fish = sum(len(drift.fish) for drift in drifts)
            ended = f" to {_clock(book.ended_at, self.wanted)}" if book.ended_at else ""
            began = book.started_at.astimezone(self.wanted.zone)
            self.story += [
                Paragraph(escape(f"{book.beat}, {began:%-d %B %Y}"), TITLE),
                Paragraph(
                    escape(f"{book.river} · {began:%H:%M}{ended} · {len(drifts)} drifts · {fish} fish"),
                    BODY,
                ),
                Spacer(1, 8),
            ]
            side = _from_the_side(book.stops)
            if side is not None:
                self.story += [
                    side,
                    Paragraph(
                        "Each stroke a drift, down to where the rig was set. At the bed: a touch. Above: a fish, a ring for a "
                        "missed take.",
                        SMALL,
                    ),
                ]
            self.story += [Paragraph(escape(note), BODY) for note in book.notes]
            for stop in book.stops:
                if any(setting.drifts for setting in stop.settings):
                    self.story += _stop(stop, self.wanted)
            self.story.append(Spacer(1, 24))
        return b""

    def foot(self) -> bytes:
        """Return the report."""
        out = io.BytesIO()
        page = SimpleDocTemplate(
            out, pagesize=A4, leftMargin=MARGIN, rightMargin=MARGIN, topMargin=MARGIN, bottomMargin=MARGIN,
            title="Outing",
        )  # fmt: skip
        page.build(self.story or [Paragraph("Nothing was fished.", BODY)])
        return out.getvalue()
