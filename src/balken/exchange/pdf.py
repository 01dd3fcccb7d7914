"""Sheets to PDF: vector lines, words that can be searched, one page a sheet (reportlab)."""

import io
import math
from collections.abc import Iterator, Sequence
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
    """Lines, areas and words are written as operators of PDF (ISO 32000-1 8.4, 8.5, 9.4), many at once:
    through the library's own paths and text they take five times as long."""
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
        elif isinstance(mark, Disc):
            pen_now, fill_now = mark.pen, "paper"
            x, y = mark.centre
            lines.append(f"{pens[mark.pen]} {fills['paper']}")
            lines.append(_circle(left + x / scale, low + y / scale, mark.radius))
        else:
            fill_now = ""
            x, y = mark.at
            lines += _words(canvas, mark, (left + x / scale, low + y / scale), inks)
    canvas.addLiteral("\n".join(lines))


KAPPA: Final = 0.5522847498
"""How far the handles of a quarter circle reach, of its radius: 4/3 (sqrt 2 - 1)."""


def _circle(x: float, y: float, r: float) -> str:
    """A circle with its line, filled: four curves."""
    k = KAPPA * r
    ways = (((r, k), (k, r), (0.0, r)), ((-k, r), (-r, k), (-r, 0.0)))
    quarters = [*ways, *(tuple((-dx, -dy) for dx, dy in way) for way in ways)]
    curves = [" ".join(f"{x + dx:.2f} {y + dy:.2f}" for dx, dy in quarter) for quarter in quarters]
    return f"{x + r:.2f} {y:.2f} m {' c '.join(curves)} c b"


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


def _words(canvas: Any, label: Label, at: Point, inks: Inks) -> Iterator[str]:
    from reportlab.pdfbase.pdfmetrics import getFont, stringWidth

    name = "Barlow-SemiBold" if label.bold else "Barlow-Regular"
    width = stringWidth(label.text, name, label.size)
    shift = {"middle": -width / 2, "start": 0.0, "end": -width}[label.anchor]
    across, up = math.cos(math.radians(label.angle)), math.sin(math.radians(label.angle))

    def turned(x: float, y: float) -> Point:
        return at[0] + x * across - y * up, at[1] + x * up + y * across

    if label.boxed:
        low, high = -0.25 * label.size, 0.95 * label.size
        corners = [(shift - 0.5, low), (shift + width + 0.5, low)]
        corners += [(shift + width + 0.5, high), (shift - 0.5, high)]
        box = " l ".join(f"{x:.2f} {y:.2f}" for x, y in (turned(*c) for c in corners))
        yield f"1 g {box.replace(' l ', ' m ', 1)} l f"
    x, y = turned(shift, 0.0)
    font = getFont(name)
    shown = " ".join(
        f"{font.getSubsetInternalName(subset, canvas._doc)} {label.size:g} Tf ({_escaped(letters)}) Tj"
        for subset, letters in font.splitString(label.text, canvas._doc)
    )
    ink = _ink(inks.quiet if label.quiet else BLACK)
    yield (f"{ink} BT {across:.4f} {up:.4f} {-up:.4f} {across:.4f} {x:.2f} {y:.2f} Tm {shown} ET")


def _escaped(letters: bytes) -> str:
    """What stands between the brackets of a string (ISO 32000-1 7.3.4.2): all but plain letters by their
    number."""
    return "".join(chr(c) if 32 <= c < 127 and c not in b"()\\" else f"\\{c:03o}" for c in letters)
