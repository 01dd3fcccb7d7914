"""Panels of subfloor laid out across the joists in a staggered bond, with what is bought and what
is cut."""

import math
from collections.abc import Iterator
from typing import Any, Final

import msgspec
import shapely

from balken.framing.layout import to_local
from balken.framing.member import Member
from balken.geometry.parts import polygons_in
from balken.geometry.plane import Ring
from balken.units import FOOT, System

SHEET: Final[dict[System, tuple[float, float]]] = {
    "us": (8 * FOOT, 4 * FOOT),
    "metric": (2400.0, 1200.0),
}
"""Length, laid across the joists, and width of a sheet, mm."""
SLIVER: Final = 1.0
"""Smaller pieces are none, mm²."""
ALL_BUT: Final = 1e-9
"""A row or sheet that would cover less of its own size is left out."""
WHOLE: Final = 0.999
"""A piece with this share of a sheet's area is a whole one."""


class Laid(msgspec.Struct, frozen=True):
    """Panels as they lie. ``pieces`` are local outlines: the joists run along +y, sheets along
    +x."""

    pieces: tuple[Ring, ...]
    whole: int
    cut: int
    sheets: int
    """Bought: offcuts of a row go on into the next where they are long enough."""
    waste: float
    """Share of what is bought that is thrown away."""
    angle: float


def lay_panels(panel: Member, joist: Member, system: System) -> Laid:
    """Lay sheets over a floor from its first corner: each row shifted by half a sheet against the
    last.

    Args:
        panel: the subfloor, with its openings.
        joist: one of the joists it lies on, for their direction.
        system: of measure.
    """
    angle = math.atan2(joist.end[1] - joist.start[1], joist.end[0] - joist.start[0])
    shape = _to_cover(panel, angle)
    long, wide = SHEET[system]
    pieces = [
        piece
        for cell in _cells(shape.bounds, long, wide)
        for piece in polygons_in(shape.intersection(cell), SLIVER)
    ]
    cut = [piece for piece in pieces if piece.area < WHOLE * long * wide]
    whole = len(pieces) - len(cut)
    sheets = whole + _from_offcuts([p.bounds[2] - p.bounds[0] for p in cut], long)
    bought = sheets * long * wide
    waste = 1 - shape.area / bought if bought else 0.0
    rings = tuple(tuple(piece.exterior.coords[:-1]) for piece in pieces)
    return Laid(rings, whole, len(cut), sheets, max(0.0, float(waste)), angle)


def _to_cover(panel: Member, angle: float) -> Any:
    """What a subfloor covers, square to its joists, without its openings."""
    shape: Any = shapely.Polygon([to_local(p, angle) for p in panel.solid.plan()])
    for void in panel.voids:
        shape = shape.difference(shapely.Polygon([to_local(p, angle) for p in void.plan()]))
    return shape


def _cells(around: tuple[float, float, float, float], long: float, wide: float) -> Iterator[Any]:
    """The places of sheets that cover a rectangle, row by row."""
    x0, y0, x1, y1 = around
    for row in range(math.ceil((y1 - y0) / wide - ALL_BUT)):
        low = y0 + row * wide
        begin = x0 - (long / 2 if row % 2 else 0.0)
        for k in range(math.ceil((x1 - begin) / long - ALL_BUT)):
            yield shapely.box(begin + k * long, low, begin + (k + 1) * long, low + wide)


def _from_offcuts(lengths: list[float], long: float) -> int:
    """How many sheets pieces of full width come from, the longest first into what is left of
    others."""
    rests: list[float] = []
    for length in sorted(lengths, reverse=True):
        i = next((n for n, rest in enumerate(rests) if rest >= length - 1e-6), None)
        if i is None:
            rests.append(long - length)
        else:
            rests[i] -= length
    return len(rests)
