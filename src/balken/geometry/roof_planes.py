"""Roof planes over any outline: what rises from its sides, each with a pitch of its own, until the
planes meet.

A weighted straight skeleton: the front of the roof (:mod:`balken.geometry.roof_front`) moves up
from change to change, and what a side sweeps in plan is its plane.
"""

from collections.abc import Iterable, Sequence
from itertools import pairwise
from typing import Any

import msgspec
import numpy as np

from balken.geometry.plane import Point, Ring, signed_area, simplify
from balken.geometry.roof_front import (
    LITTLE,
    NEAR,
    Line,
    Loop,
    RoofError,
    Side,
    Swept,
    absorbed,
    advanced,
    front_of,
    mended,
    next_step,
)


class Face(msgspec.Struct, frozen=True, gc=False):
    """A plane of the roof in plan: of which ring and side, its outline, and its height as ``a x + b
    y + c``."""

    ring: int
    side: int
    outline: Ring
    plane: tuple[float, float, float]
    holes: tuple[Ring, ...] = ()

    def height(self, p: Point) -> float:
        """Its height over a place, mm."""
        a, b, c = self.plane
        return a * p[0] + b * p[1] + c

    @property
    def pitch(self) -> float:
        """Rise over run."""
        return float(np.hypot(self.plane[0], self.plane[1]))


class Roof(msgspec.Struct, frozen=True, gc=False):
    """All planes of a roof, the flat ones at its cut-off top among them (they are of side -1)."""

    faces: tuple[Face, ...]
    top: float
    """The greatest height, mm."""


def roof_planes(
    rings: Sequence[Ring], sides: Sequence[Sequence[Side]], top: float | None = None
) -> Roof:
    """The planes that rise from the sides of an outline.

    Args:
        rings: the outline counter-clockwise, then its courtyards clockwise, mm.
        sides: how the roof rises from each side of each ring, the first from the first corner to
            the second.
        top: height at which it is cut off flat, mm.

    Raises:
        RoofError: the planes never meet, two sides in one line rise differently, or the outline
            crosses itself.
    """
    lines, loops = front_of(rings, sides)
    rising = [x.rule.height for x in lines if x.rule.pitch is not None]
    if not rising:
        raise RoofError("no side of the roof rises: every one is a gable. Let at least one rise")
    z = min(rising)
    swept = Swept({}, {})
    most = 60 * len(lines) + 200
    for _ in range(most):
        if not loops:
            return Roof(tuple(_faces(lines, swept)), z)
        if top is not None and z >= top - NEAR:
            return Roof((*_faces(lines, swept), *_flat(loops, z)), z)
        for line in lines:
            line.part = line.rule.part_at(z)
            line.speed = 1.0 / line.rule.parts()[line.part][1] if line.part >= 0 else 0.0
        loops = [absorbed(lines, loop) for loop in loops]
        step = next_step(lines, loops, z, top)
        moved = advanced(lines, loops, step, swept)
        z += step
        loops = mended(lines, moved)
    raise RoofError("the planes of this roof do not close")


def _faces(lines: list[Line], swept: Swept) -> Iterable[Face]:
    from shapely import Polygon

    for key, pairs in swept.going.items():
        swept.keep(key, *pairs)
    for (i, part), pieces in sorted(swept.done.items()):
        shapes = [p if p.is_valid else p.buffer(0) for p in map(Polygon, pieces)]
        for one in _joined(shapes):
            if one.geom_type == "Polygon" and one.area > LITTLE:
                yield Face(
                    lines[i].ring,
                    lines[i].side,
                    _ring(one.exterior),
                    _plane(lines[i], part),
                    tuple(_ring(h) for h in one.interiors),
                )


def _joined(shapes: list[Any]) -> list[Any]:
    """The pieces of a plane as one where they meet.

    Corners were rounded, and what meets may stand apart by a hair: of some grids the one counts
    that leaves the fewest.
    """
    from shapely import union_all

    best: list[Any] = []
    for grid in (NEAR / 10, NEAR, 10 * NEAR):
        shape = union_all(shapes, grid_size=grid)
        parts = list(getattr(shape, "geoms", [shape]))
        if not best or len(parts) < len(best):
            best = parts
        if len(best) == 1:
            break
    return best


def _plane(line: Line, part: int) -> tuple[float, float, float]:
    """The plane of one part of a side."""
    parts = line.rule.parts()
    run = sum((high - low) / pitch for (low, pitch), (high, _) in pairwise(parts[: part + 1]))
    begins, pitch = parts[part]
    return line.normal[0] * pitch, line.normal[1] * pitch, begins - pitch * (line.first + run)


def _ring(line: Any) -> Ring:
    ring = [(float(x), float(y)) for x, y in line.coords[:-1]]
    return simplify(ring if signed_area(ring) > 0 else ring[::-1], 10 * NEAR)


def _flat(loops: list[Loop], z: float) -> Iterable[Face]:
    from shapely import Polygon

    outer = [
        Polygon([p for _, p in loop]) for loop in loops if signed_area([p for _, p in loop]) > 0
    ]
    inner = [
        Polygon([p for _, p in loop]) for loop in loops if signed_area([p for _, p in loop]) < 0
    ]
    for shape in outer:
        part = shape
        for hole in inner:
            part = part.difference(hole)
        yield Face(
            -1, -1, _ring(part.exterior), (0.0, 0.0, z), tuple(_ring(h) for h in part.interiors)
        )
