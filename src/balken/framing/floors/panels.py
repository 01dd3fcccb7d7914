"""Panels of subfloor laid out across the joists in a staggered bond, with what is bought and what
is cut."""

import math
from typing import Any, Final

import msgspec
import shapely

from balken.framing.layout import to_local
from balken.framing.member import Member
from balken.geometry.plane import Ring, box
from balken.units import FOOT, System

SHEET: Final[dict[System, tuple[float, float]]] = {
    "us": (8 * FOOT, 4 * FOOT),
    "metric": (2400.0, 1200.0),
}
"""Length, laid across the joists, and width of a sheet, mm."""
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
    local = [to_local(p, angle) for p in panel.solid.plan()]
    shape: Any = shapely.Polygon(local)
    for void in panel.voids:
        shape = shape.difference(shapely.Polygon([to_local(p, angle) for p in void.plan()]))
    long, wide = SHEET[system]
    x0, y0, x1, y1 = box(local)
    pieces: list[Ring] = []
    whole = cut = 0
    lengths: list[float] = []
    for row in range(math.ceil((y1 - y0) / wide - 1e-9)):
        low = y0 + row * wide
        begin = x0 - (long / 2 if row % 2 else 0.0)
        for k in range(math.ceil((x1 - begin) / long - 1e-9)):
            cell = shapely.box(begin + k * long, low, begin + (k + 1) * long, low + wide)
            part = shape.intersection(cell)
            for piece in getattr(part, "geoms", [part]):
                if piece.geom_type != "Polygon" or piece.area < 1.0:
                    continue
                pieces.append(tuple(piece.exterior.coords[:-1]))
                if piece.area >= WHOLE * long * wide:
                    whole += 1
                else:
                    cut += 1
                    bx0, _, bx1, _ = piece.bounds
                    lengths.append(bx1 - bx0)
    sheets = whole + _from_offcuts(lengths, long)
    bought = sheets * long * wide
    waste = 1 - shape.area / bought if bought else 0.0
    return Laid(tuple(pieces), whole, cut, sheets, max(0.0, float(waste)), angle)


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
