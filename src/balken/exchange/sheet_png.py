"""Sheets as pictures: PNG, drawn twice as fine and made smaller, so that edges are soft."""

import io
from functools import cache
from itertools import pairwise
from typing import Any, Final

from balken.drawing.marks import DASHES, PEN_WIDTH, Disc, Drawing, Label, Patch, Stroke
from balken.drawing.paper.records import Sheet
from balken.exchange.inks import BLACK, PAPER, Ink, Inks, inks_of
from balken.exchange.pdf import FONTS
from balken.geometry.plane import Point

FINER: Final = 2
MM_INCH: Final = 25.4


def sheet_png(sheet: Sheet, dpi: int = 100) -> bytes:
    """A sheet as the bytes of a picture, grey where it is of one colour.

    Args:
        sheet: laid.
        dpi: dots to the inch.
    """
    from PIL import Image

    px = dpi * FINER / MM_INCH
    size = (round(sheet.width * px), round(sheet.height * px))
    mode, inks = "RGB" if sheet.colour else "L", inks_of(sheet)
    picture = Image.new(mode, size, _level(PAPER, mode))
    for view in sheet.views:
        _paint(picture, view.drawing, (view.scale, view.origin), px, inks)
    _paint(picture, sheet.block, (1.0, (0.0, 0.0)), px, inks)
    small = picture.resize((size[0] // FINER, size[1] // FINER), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    small.save(out, "PNG", dpi=(dpi, dpi), optimize=False)
    return out.getvalue()


def _level(ink: Ink, mode: str) -> Any:
    """An ink in a picture: one level of grey, or three of colours."""
    levels = tuple(round(255 * x) for x in ink)
    return levels[0] if mode == "L" else levels


def _paint(
    picture: Any, drawing: Drawing, lies: tuple[float, Point], px: float, inks: Inks
) -> None:
    from PIL import ImageDraw

    draw, mode = ImageDraw.Draw(picture), picture.mode
    scale, origin = lies

    def at(p: Point) -> Point:
        x, y = origin[0] + p[0] / scale, origin[1] + p[1] / scale
        return x * px, picture.height - y * px

    for mark in drawing:
        if isinstance(mark, Label):
            if mark.text:
                ink = inks.quiet if mark.quiet else BLACK
                _words(picture, mark, at(mark.at), px, ink)
        elif isinstance(mark, Disc):
            (x, y), r = at(mark.centre), mark.radius * px
            box = (x - r, y - r, x + r, y + r)
            paper, black = _level(PAPER, mode), _level(BLACK, mode)
            draw.ellipse(box, fill=paper, outline=black, width=_wide(mark.pen, px))
        elif isinstance(mark, Patch):
            ring = [at(p) for p in mark.ring]
            if mark.fill != "none" and len(ring) > 2:
                draw.polygon(ring, fill=_level(inks.fill(mark.fill), mode))
            _line(draw, [*ring, ring[0]], mark.pen, px)
        elif isinstance(mark, Stroke):
            _line(draw, [at(p) for p in mark.points], mark.pen, px)


def _wide(pen: str, px: float) -> int:
    return max(1, round(PEN_WIDTH[pen] * px))


def _line(draw: Any, points: list[Point], pen: str, px: float) -> None:
    if pen == "none" or len(points) < 2:
        return
    if pen not in DASHES:
        draw.line(points, fill=0, width=_wide(pen, px), joint="curve")
        return
    for a, b in pairwise(points):
        for part in _dashed(a, b, [d * px for d in DASHES[pen]]):
            draw.line(part, fill=0, width=_wide(pen, px))


def _dashed(a: Point, b: Point, dashes: list[float]) -> list[list[Point]]:
    """The drawn parts of a dashed line."""
    long = ((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) ** 0.5
    found, at, k = [], 0.0, 0
    while at < long:
        end = min(long, at + dashes[k % len(dashes)])
        if k % 2 == 0:
            found.append([_part(a, b, at / long), _part(a, b, end / long)])
        at, k = end, k + 1
    return found


def _part(a: Point, b: Point, t: float) -> Point:
    return a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t


@cache
def _font(bold: bool, size: int) -> Any:
    from PIL import ImageFont

    return ImageFont.truetype(FONTS / f"Barlow-{'SemiBold' if bold else 'Regular'}.ttf", size)


def _words(picture: Any, label: Label, at: Point, px: float, ink: Ink) -> None:
    from PIL import Image, ImageDraw

    font = _font(label.bold, max(4, round(label.size * px)))
    wide, size = font.getlength(label.text), label.size * px
    pad = round(size)
    tile = Image.new("LA", (round(wide) + 2 * pad, 3 * pad), (255, 0))
    draw = ImageDraw.Draw(tile)
    base = 2 * pad
    if label.boxed:
        draw.rectangle((pad - 2, base - size, pad + wide + 2, base + 0.25 * size), fill=(255, 255))
    level = round(255 * ink[0])
    draw.text((pad, base), label.text, font=font, fill=(level, 255), anchor="ls")
    shift = {"start": 0.0, "middle": wide / 2, "end": wide}[label.anchor]
    centre = (pad + shift, float(base))
    if label.angle:
        tile, centre = _turned(tile, centre, label.angle)
    spot = (round(at[0] - centre[0]), round(at[1] - centre[1]))
    picture.paste(tile.getchannel("L"), spot, tile.getchannel("A"))


def _turned(tile: Any, centre: Point, angle: float) -> tuple[Any, Point]:
    """A tile turned about a place, on ground large enough for it."""
    from PIL import Image

    reach = round((tile.width**2 + tile.height**2) ** 0.5) + 2
    ground = Image.new("LA", (2 * reach, 2 * reach), (255, 0))
    ground.paste(tile, (round(reach - centre[0]), round(reach - centre[1])))
    turned = ground.rotate(angle, Image.Resampling.BICUBIC, fillcolor=(255, 0))
    return turned, (float(reach), float(reach))
