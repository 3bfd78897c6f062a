"""A build card as PDF: the front and back of an A6, to read through a waterproof pocket."""

import io

from reportlab.lib.colors import HexColor
from reportlab.lib.enums import TA_LEFT
from reportlab.lib.pagesizes import A6
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import PageBreak, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from deriva.service.formats.card import Card

INK, SOFT, LINE = HexColor("#14201c"), HexColor("#4d5a54"), HexColor("#b9b5a6")
MARGIN = 18.0


def _style(size: float, *, bold: bool = False, soft: bool = False) -> ParagraphStyle:
    return ParagraphStyle(
        name=f"s{size}{bold}{soft}",
        fontName="Helvetica-Bold" if bold else "Helvetica",
        fontSize=size,
        leading=1.2 * size,
        textColor=SOFT if soft else INK,
        alignment=TA_LEFT,
    )


def _safe(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")


def _table(card: Card) -> Table:
    body, small, bold = _style(8.5), _style(7.0, soft=True), _style(8.5, bold=True)
    cells = [[Paragraph("from the rod end down", small), Paragraph("fishes", small), Paragraph("cut", small)]]
    for row in card.rows:
        if row.tied:
            cells.append(
                [Paragraph(_safe(row.what), bold), Paragraph(_safe(row.length), small), Paragraph("", body)]
            )
            continue
        said = f'{_safe(row.what)}<br/><font size="7" color="#4d5a54">{_safe(row.note)}</font>'
        cells.append(
            [Paragraph(said, body), Paragraph(_safe(row.length), body), Paragraph(_safe(row.cut), bold)]
        )
    wide = A6[0] - 2 * MARGIN
    table = Table(cells, colWidths=[wide - 104.0, 52.0, 52.0])
    table.setStyle(
        TableStyle(
            [
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, LINE),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LEFTPADDING", (0, 0), (-1, -1), 2),
                ("RIGHTPADDING", (0, 0), (-1, -1), 2),
            ]
        )
    )
    return table


def build_pdf(card: Card) -> bytes:
    """Return the card as a PDF: one page, and one for its back where something stands on it."""
    out = io.BytesIO()
    page = SimpleDocTemplate(
        out,
        pagesize=A6,
        leftMargin=MARGIN,
        rightMargin=MARGIN,
        topMargin=MARGIN,
        bottomMargin=MARGIN,
        title=card.title,
    )
    small = _style(7.0, soft=True)
    back = (
        [PageBreak(), Paragraph("What comes next", _style(14.0, bold=True)), Spacer(1, 5)]
        if card.back
        else []
    )
    back += [
        Table([["", Paragraph(_safe(line), _style(9.0, bold=depth == 0))]], colWidths=[14.0 * depth, None])
        for depth, line in card.back
    ]
    page.build([
        Paragraph(_safe(card.title), _style(14.0, bold=True)),
        Paragraph(_safe(card.place), _style(8.5, bold=True)),
        Paragraph(_safe(card.answer), _style(8.5)),
        Spacer(1, 5),
        _table(card),
        Spacer(1, 5),
        *(Paragraph(_safe(line), small) for line in card.foot),
        *back,
    ])  # fmt: skip
    return out.getvalue()
