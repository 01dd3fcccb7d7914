"""Panels, boards and batts on and between studs: laid in rows or columns whose joints fall on studs and are
staggered, cut out round openings; and how many sheets they are cut from. Flat, in the elevation of the
wall, mm."""

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, Literal, NamedTuple

from balken.geometry.plane import Point

Laid = Literal["upright", "lying"]
Rect = tuple[float, float, float, float]
"""From, foot, to, top."""
SAME: Final = 1.0
"""Sheets that lack less than this are whole, mm."""
SLIVER: Final = 40.0
"""A narrower strip is left to the sheet beside it, and one along the top to the plates, mm (common practice,
no source)."""


class Size(NamedTuple):
    """Of a sheet as it is sold, mm."""

    width: float
    length: float


class Piece(NamedTuple):
    """What of one sheet is on the wall."""

    name: str
    outlines: tuple[tuple[Point, ...], ...]
    """Its outer outline, then those of holes in it."""
    box: Rect
    area: float
    whole: bool
    spot: Point
    """A place on it."""


class Skin(NamedTuple):
    """A layer of sheets before it is laid."""

    outline: tuple[Point, ...]
    """Of the wall's face, with what rises over it."""
    holes: tuple[Rect, ...]
    size: Size
    laid: Laid
    begins: float
    """Where the layout of studs begins, along the wall."""
    backwards: bool
    """It begins at the wall's end."""
    spacing: float
    """Of the studs."""


def lay_sheets(skin: Skin) -> tuple[Piece, ...]:
    """All pieces of a layer, row by row from the foot up, or column by column."""
    from shapely import Polygon, box

    face = Polygon(skin.outline).buffer(0)
    for hole in skin.holes:
        face = face.difference(box(*hole))
    found: list[Piece] = []
    for name, cell in _cells(skin, face.bounds):
        part = face.intersection(box(*cell))
        for n, one in enumerate(_polygons(part)):
            suffix = "abcdefgh"[n] if n or part.geom_type != "Polygon" else ""
            found.append(_piece(f"{name}{suffix}", one, skin.size))
    return tuple(found)


def _piece(name: str, shape: object, size: Size) -> Piece:
    from shapely import Polygon

    assert isinstance(shape, Polygon)
    rings = [shape.exterior, *shape.interiors]
    outlines = tuple(tuple((x, z) for x, z in list(r.coords)[:-1]) for r in rings)
    low, foot, high, top = shape.bounds
    lacks = size.width * size.length - shape.area
    whole = lacks < SAME * (size.width + size.length)
    spot = shape.representative_point()
    return Piece(name, outlines, (low, foot, high, top), shape.area, whole, (spot.x, spot.y))


def _polygons(shape: object) -> Iterator[object]:
    for part in getattr(shape, "geoms", [shape]):
        if part.geom_type == "Polygon" and part.area > SAME * SLIVER:
            yield part


def _cells(skin: Skin, bounds: Rect) -> Iterator[tuple[str, Rect]]:
    """The room of each sheet, with its name: A1, A2 … along the lowest row, then B1."""
    low, foot, high, top = bounds
    upright = skin.laid == "upright"
    wide, tall = (
        (skin.size.width, skin.size.length) if upright else (skin.size.length, skin.size.width)
    )
    offset = 0.0 if upright else _stagger(wide, skin.spacing)
    rows = max(1, math.ceil((top - foot - SLIVER) / tall))
    for r in range(rows):
        from_foot = foot + r * tall, min(top, foot + (r + 1) * tall)
        places = _along(skin, low, high, wide, offset if r % 2 else 0.0)
        for n, (x0, x1) in enumerate(pairwise(places), 1):
            # Columns that need more than one sheet begin with the short piece every other time.
            turned = upright and rows > 1 and n % 2 == 0
            z0, z1 = _from_above(foot, top, tall, rows, r) if turned else from_foot
            yield f"{_row(r)}{n}", (x0, z0, x1, z1)


def _from_above(foot: float, top: float, tall: float, rows: int, r: int) -> tuple[float, float]:
    """The heights of a row that is counted from the top down: the short piece stands at the foot."""
    high = top - (rows - 1 - r) * tall
    return max(foot, high - tall), high


def _row(r: int) -> str:
    return "ABCDEFGHIJKLMNOPQRSTUVWXYZ"[min(r, 25)]


def _stagger(wide: float, spacing: float) -> float:
    """Half a sheet, on a stud."""
    return max(spacing, round(wide / 2 / spacing) * spacing)


def _along(skin: Skin, low: float, high: float, wide: float, offset: float) -> list[float]:
    """Where sheets begin and end along the wall: the first ends on the last stud that it reaches, and all
    others are whole sheets from there on, from the end where the studs are laid out."""
    if skin.backwards:
        turned = skin._replace(begins=-skin.begins, backwards=False)
        return [-x for x in reversed(_along(turned, -high, -low, wide, offset))]
    reach = low + wide - offset
    first = skin.begins + math.floor((reach - skin.begins + SAME) / skin.spacing) * skin.spacing
    if first < low + SLIVER:
        first = reach
    places = [low]
    while first < high - SLIVER:
        places.append(first)
        first += wide
    return [*places, high]


# -- how many sheets ------------------------------------------------------------------------------


def sheets_needed(pieces: Sequence[Piece], size: Size, laid: Laid) -> int:
    """How many sheets pieces are cut from: whole ones, and cut ones out of what others leave, the largest
    first, none turned."""
    wide, tall = (size.width, size.length) if laid == "upright" else (size.length, size.width)
    cut = sorted((p for p in pieces if not p.whole), key=lambda p: (-_long(p.box), p.name))
    left: list[tuple[float, float]] = []
    count = len(pieces) - len(cut)
    for p in cut:
        w, h = p.box[2] - p.box[0], p.box[3] - p.box[1]
        fits = [i for i, (a, b) in enumerate(left) if a >= w - SAME and b >= h - SAME]
        if fits:
            a, b = left.pop(min(fits, key=lambda i: left[i][0] * left[i][1]))
        else:
            a, b = wide, tall
            count += 1
        # What is left beside it stands the whole height, what is left over it is as wide as it.
        left += [(a - w, b), (w, b - h)]
    return count


def _long(box: Rect) -> float:
    return (box[2] - box[0]) * (box[3] - box[1])


# -- between studs --------------------------------------------------------------------------------


def lay_batts(
    outline: Sequence[Point], holes: Sequence[Rect], wood: Sequence[Rect]
) -> tuple[Piece, ...]:
    """The bays of a wall that insulation fills: its face without openings and without wood, which it gives
    way to."""
    from shapely import Polygon, box, union_all

    face = Polygon(outline).buffer(0)
    taken = union_all([box(*r) for r in (*holes, *wood)])
    found = []
    parts = sorted(_polygons(face.difference(taken)), key=lambda p: tuple(p.bounds[:2]))  # type: ignore[attr-defined]
    for n, part in enumerate(parts, 1):
        low, foot, high, top = part.bounds  # type: ignore[attr-defined]
        if high - low < SLIVER or top - foot < SLIVER:
            continue
        found.append(_piece(f"{n}", part, Size(high - low, top - foot)))
    return tuple(found)
