"""Sheets to PDF: vector lines, words that can be searched, one page a sheet (reportlab)."""

import io
import math
from collections.abc import Sequence
from functools import cache
from pathlib import Path
from typing import Any, Final, get_args

from balken.drawing.marks import DASHES, PEN_WIDTH, Disc, Drawing, Fill, Label, Patch, Stroke
from balken.drawing.paper.records import Sheet
from balken.exchange.inks import BLACK, Ink, Inks, inks_of
from balken.geometry.plane import Point

MM: Final = 72 / 25.4
FONTS: Final = Path(__file__).parents[1] / "desk" / "fonts"


def pdf(sheets: tuple[Sheet, ...], title: str) -> bytes:
    """A PDF with one page a sheet, and a bookmark for each title."""
    from reportlab import rl_config
    from reportlab.pdfgen.canvas import Canvas

    rl_config.useA85 = 0  # pages as bytes, not as letters: a quarter smaller, and no time for it
    _fonts()
    out = io.BytesIO()
    canvas = Canvas(out, invariant=1, pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("Balken")
    canvas.setProducer("Balken")
    before = ""
    for sheet in sheets:
        if sheet.title != before:  # of what goes on over several pages, the first
            canvas.bookmarkPage(sheet.number)
            canvas.addOutlineEntry(f"{sheet.number}  {sheet.title}", sheet.number)
        before = sheet.title
        canvas.setPageSize((sheet.width * MM, sheet.height * MM))
        canvas.scale(MM, MM)
        for view in sheet.views:
            _paint(canvas, view.drawing, (view.scale, view.origin), inks_of(sheet))
        _paint(canvas, sheet.block, (1.0, (0.0, 0.0)), inks_of(sheet))
        canvas.showPage()
    canvas.save()
    return out.getvalue()


@cache
def _fonts() -> None:
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    for style in ("Regular", "SemiBold"):
        pdfmetrics.registerFont(TTFont(f"Barlow-{style}", str(FONTS / f"Barlow-{style}.ttf")))


def _paint(
    canvas: Any, drawing: Drawing, lies: tuple[float, tuple[float, float]], inks: Inks
) -> None:
    """Lines and areas are written as operators of PDF (ISO 32000-1 8.4, 8.5), many at once: through the
    library's own path they take five times as long."""
    scale, (left, low) = lies
    pens = {pen: _pen(pen) for pen in PEN_WIDTH}
    fills = {fill: _ink(inks.fill(fill)) for fill in get_args(Fill)}
    lines: list[str] = []
    pen_now = fill_now = ""

    def outline(points: Sequence[Point], pen: str) -> None:
        nonlocal pen_now
        if pen != pen_now:
            lines.append(pens[pen])
            pen_now = pen
        where = [f"{left + x / scale:.2f} {low + y / scale:.2f}" for x, y in points]
        lines.append(" l ".join([f"{where[0]} m {where[1]}", *where[2:], ""]))

    for mark in drawing:
        if isinstance(mark, Stroke):
            if len(mark.points) > 1 and mark.pen != "none":
                outline(mark.points, mark.pen)
                lines.append("S")
        elif isinstance(mark, Patch):
            if len(mark.ring) > 1:
                if mark.fill != fill_now:
                    lines.append(fills[mark.fill])
                    fill_now = mark.fill
                outline(mark.ring, mark.pen)
                lines.append(_PAINTED[mark.pen != "none", mark.fill != "none"])
        else:
            canvas.addLiteral("\n".join(lines))
            lines, pen_now, fill_now = [], "", ""
            x, y = mark.centre if isinstance(mark, Disc) else mark.at
            at = (left + x / scale, low + y / scale)
            if isinstance(mark, Disc):
                canvas.addLiteral(f"{pens[mark.pen]} 1 g")
                canvas.circle(*at, mark.radius, stroke=1, fill=1)
            else:
                _words(canvas, mark, at, inks)
    canvas.addLiteral("\n".join(lines))


_PAINTED: Final = {(True, True): "b*", (True, False): "s", (False, True): "f*", (False, False): "n"}
"""How a closed path is painted, by whether it has a pen and a fill."""


def _pen(pen: str) -> str:
    dashes = " ".join(f"{d:g}" for d in DASHES.get(pen, ()))
    return f"{PEN_WIDTH[pen]:g} w 0 G [{dashes}] 0 d 0 J"


def _ink(ink: Ink) -> str:
    """Fill with an ink; greys as greys, so that nothing else is asked of a printer."""
    red, green, blue = ink
    if red == green == blue:
        return f"{red:.3f} g"
    return f"{red:.3f} {green:.3f} {blue:.3f} rg"


def _words(canvas: Any, label: Label, at: Point, inks: Inks) -> None:
    from reportlab.pdfbase.pdfmetrics import stringWidth

    font = "Barlow-SemiBold" if label.bold else "Barlow-Regular"
    width = stringWidth(label.text, font, label.size)
    shift = {"middle": -width / 2, "start": 0.0, "end": -width}[label.anchor]
    across, up = math.cos(math.radians(label.angle)), math.sin(math.radians(label.angle))

    def turned(x: float, y: float) -> Point:
        return at[0] + x * across - y * up, at[1] + x * up + y * across

    if label.boxed:
        low, high = -0.25 * label.size, 0.95 * label.size
        corners = [(shift - 0.5, low), (shift + width + 0.5, low)]
        corners += [(shift + width + 0.5, high), (shift - 0.5, high)]
        box = " l ".join(f"{x:.2f} {y:.2f}" for x, y in (turned(*c) for c in corners))
        canvas.addLiteral(f"1 g {box.replace(' l ', ' m ', 1)} l f")
    canvas.addLiteral(_ink(inks.quiet if label.quiet else BLACK))
    text = canvas.beginText()
    text.setTextTransform(across, up, -up, across, *turned(shift, 0.0))
    text.setFont(font, label.size)
    text.textOut(label.text)
    canvas.drawText(text)
