"""Sheets to PDF: vector lines, words that can be searched, one page a sheet (reportlab)."""

import io
from functools import cache
from pathlib import Path
from typing import Any, Final

from balken.drawing.marks import DASHES, PEN_WIDTH, Disc, Drawing, Label, Patch, Stroke
from balken.drawing.paper.records import Sheet
from balken.exchange.inks import BLACK, Ink, Inks, inks_of

MM: Final = 72 / 25.4
FONTS: Final = Path(__file__).parents[1] / "desk" / "fonts"


def pdf(sheets: tuple[Sheet, ...], title: str) -> bytes:
    """A PDF with one page a sheet, and a bookmark for each title."""
    from reportlab.pdfgen.canvas import Canvas

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
    scale, origin = lies

    def at(p: tuple[float, float]) -> tuple[float, float]:
        return origin[0] + p[0] / scale, origin[1] + p[1] / scale

    for mark in drawing:
        if isinstance(mark, Patch):
            _ink(canvas, inks.fill(mark.fill))
            _path(
                canvas,
                [at(p) for p in mark.ring],
                mark.pen,
                filled=mark.fill != "none",
                closed=True,
            )
        elif isinstance(mark, Stroke):
            _path(canvas, [at(p) for p in mark.points], mark.pen, filled=False, closed=False)
        elif isinstance(mark, Disc):
            _pen(canvas, mark.pen)
            canvas.setFillGray(1.0)
            canvas.circle(*at(mark.centre), mark.radius, stroke=1, fill=1)
        else:
            _words(canvas, mark, at(mark.at), inks)


def _pen(canvas: Any, pen: str) -> None:
    canvas.setLineWidth(PEN_WIDTH[pen])
    canvas.setStrokeGray(0.0)
    canvas.setDash(*([list(DASHES[pen])] if pen in DASHES else []))
    canvas.setLineCap(0)


def _ink(canvas: Any, ink: Ink) -> None:
    """Fill with an ink; greys as greys, so that nothing else is asked of a printer."""
    red, green, blue = ink
    if red == green == blue:
        canvas.setFillGray(red)
    else:
        canvas.setFillColorRGB(red, green, blue)


def _path(
    canvas: Any, points: list[tuple[float, float]], pen: str, *, filled: bool, closed: bool
) -> None:
    if len(points) < 2:
        return
    path = canvas.beginPath()
    path.moveTo(*points[0])
    for p in points[1:]:
        path.lineTo(*p)
    if closed:
        path.close()
    _pen(canvas, pen)
    canvas.drawPath(path, stroke=int(pen != "none"), fill=int(filled))


def _words(canvas: Any, label: Label, at: tuple[float, float], inks: Inks) -> None:
    from reportlab.pdfbase.pdfmetrics import stringWidth

    font = "Barlow-SemiBold" if label.bold else "Barlow-Regular"
    width = stringWidth(label.text, font, label.size)
    shift = {"middle": -width / 2, "start": 0.0, "end": -width}[label.anchor]
    canvas.saveState()
    canvas.translate(*at)
    canvas.rotate(label.angle)
    if label.boxed:
        canvas.setFillGray(1.0)
        canvas.rect(
            shift - 0.5, -0.25 * label.size, width + 1.0, 1.2 * label.size, stroke=0, fill=1
        )
    _ink(canvas, inks.quiet if label.quiet else BLACK)
    canvas.setFont(font, label.size)
    canvas.drawString(shift, 0, label.text)
    canvas.restoreState()
