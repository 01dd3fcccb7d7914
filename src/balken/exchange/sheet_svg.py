"""Sheets as SVG 1.1: one file a sheet, in mm, words as text."""

from collections.abc import Callable
from typing import Final
from xml.sax.saxutils import escape, quoteattr

from balken.drawing.marks import DASHES, PEN_WIDTH, Disc, Drawing, Label, Mark, Patch, Stroke
from balken.drawing.paper.records import Sheet
from balken.exchange.inks import BLACK, Ink, Inks, inks_of

At = Callable[[tuple[float, float]], tuple[float, float]]
"""Turns a place of a drawing into one of the page."""
ANCHORS: Final = {"start": "start", "middle": "middle", "end": "end"}


def sheet_svg(sheet: Sheet) -> str:
    """A sheet as the text of an SVG file."""
    parts = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{sheet.width:.2f}mm"'
        f' height="{sheet.height:.2f}mm" viewBox="0 0 {sheet.width:.2f} {sheet.height:.2f}"'
        ' font-family="Barlow, sans-serif">',
        f"<title>{escape(f'{sheet.number} {sheet.title}')}</title>",
    ]
    for view in sheet.views:
        parts.append(f"<g id={quoteattr(view.key)}>")
        parts += _marks(view.drawing, (view.scale, view.origin), sheet)
        parts.append("</g>")
    parts.append('<g id="sheet">')
    parts += _marks(sheet.block, (1.0, (0.0, 0.0)), sheet)
    parts += ["</g>", "</svg>", ""]
    return "\n".join(parts)


def _marks(drawing: Drawing, lies: tuple[float, tuple[float, float]], sheet: Sheet) -> list[str]:
    (scale, origin), inks = lies, inks_of(sheet)

    def at(p: tuple[float, float]) -> tuple[float, float]:
        return origin[0] + p[0] / scale, sheet.height - origin[1] - p[1] / scale

    found = (_mark(mark, at, inks) for mark in drawing)
    return [m for m in found if m]


def _mark(mark: Mark, at: At, inks: Inks) -> str:
    if isinstance(mark, Label):
        return _words(mark, at, inks)
    if isinstance(mark, Disc):
        x, y = at(mark.centre)
        return f'<circle cx="{x:.3f}" cy="{y:.3f}" r="{mark.radius:.2f}" fill="#fff" {_pen(mark.pen)}/>'
    places = mark.ring if isinstance(mark, Patch) else mark.points
    if len(places) < 2:
        return ""
    points = " ".join(f"{x:.3f},{y:.3f}" for x, y in map(at, places))
    if isinstance(mark, Stroke):
        return f'<polyline points="{points}" fill="none" {_pen(mark.pen)}/>'
    fill = "none" if mark.fill == "none" else _ink(inks.fill(mark.fill))
    return f'<polygon points="{points}" fill="{fill}" {_pen(mark.pen)}/>'


def _ink(ink: Ink) -> str:
    return "#" + "".join(f"{round(255 * x):02x}" for x in ink)


def _pen(pen: str) -> str:
    if pen == "none":
        return 'stroke="none"'
    dashes = (
        f' stroke-dasharray="{" ".join(f"{d:g}" for d in DASHES[pen])}"' if pen in DASHES else ""
    )
    return f'stroke="#000" stroke-width="{PEN_WIDTH[pen]:g}"{dashes}'


def _words(label: Label, at: At, inks: Inks) -> str:
    if not label.text:
        return ""
    x, y = at(label.at)
    ink = _ink(inks.quiet if label.quiet else BLACK)
    turned = f' transform="rotate({-label.angle:g} {x:.3f} {y:.3f})"' if label.angle else ""
    weight = ' font-weight="600"' if label.bold else ""
    return (
        f'<text x="{x:.3f}" y="{y:.3f}" font-size="{label.size:g}" text-anchor="{ANCHORS[label.anchor]}"'
        f' fill="{ink}"{weight}{turned}>{escape(label.text)}</text>'
    )
