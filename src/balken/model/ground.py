"""The ground: measured heights made into a surface of triangles, its height at a place, and its contours."""

import math
from typing import Final

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.geometry.plane import EXACT, Point
from balken.model.project import Spot
from balken.units import FOOT, System

Floats = NDArray[np.float64]
SAME: Final = 1.0
"""Two heights measured nearer to each other than this are of one place; the later one counts, mm."""
ON_EDGE: Final = 1e-4
"""A place this share of a triangle outside it lies on its edge: rounding, a millimetre on ten metres."""
LINES: Final = 12
"""About so many contours are drawn."""


class Surface(msgspec.Struct, frozen=True):
    """Triangles over measured places: ``points`` (n, 3) in mm, ``triangles`` (m, 3) of their numbers."""

    points: Floats
    triangles: NDArray[np.intp]


def surface_of(spots: tuple[Spot, ...]) -> Surface:
    """Return the surface through measured heights (Delaunay triangles, SciPy).

    Places that lie in one line span no triangle; then there are none, and heights come from the nearest place.
    """
    kept: dict[tuple[int, int], tuple[float, float, float]] = {}
    for s in spots:
        kept[round(s.at[0] / SAME), round(s.at[1] / SAME)] = (*s.at, s.height)
    points = np.array(list(kept.values()), dtype=float).reshape(-1, 3)
    if len(points) < 3 or _in_line(points):
        return Surface(points, np.zeros((0, 3), dtype=np.intp))
    from scipy.spatial import Delaunay

    # About their own middle, so that survey coordinates lose nothing.
    return Surface(points, np.asarray(Delaunay(points[:, :2] - points[:, :2].mean(axis=0)).simplices, dtype=np.intp))


def _in_line(points: Floats) -> bool:
    away = points[:, :2] - points[:, :2].mean(axis=0)
    spread = np.linalg.svd(away, compute_uv=False)
    return bool(spread[-1] < SAME or len(spread) < 2)


def height_at(surface: Surface, p: Point) -> float:
    """Return the height of the ground at a place, mm: on its triangle, or of the nearest measured place outside them.

    Raises:
        ValueError: nothing was measured.
    """
    if not len(surface.points):
        raise ValueError("No heights of the ground were measured.")
    for a, b, c in surface.points[surface.triangles]:
        whole = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])
        if abs(whole) < EXACT:
            continue
        u = ((p[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (p[1] - a[1])) / whole
        v = ((b[0] - a[0]) * (p[1] - a[1]) - (p[0] - a[0]) * (b[1] - a[1])) / whole
        if u >= -ON_EDGE and v >= -ON_EDGE and u + v <= 1 + ON_EDGE:
            return float(a[2] + u * (b[2] - a[2]) + v * (c[2] - a[2]))
    away = np.hypot(surface.points[:, 0] - p[0], surface.points[:, 1] - p[1])
    return float(surface.points[int(away.argmin()), 2])


def contour_step(spots: tuple[Spot, ...], system: System) -> float:
    """Return a round distance between contours so that about a dozen are drawn, mm."""
    heights = [s.height for s in spots]
    spread = max(heights) - min(heights) if heights else 0.0
    unit = FOOT / 4 if system == "us" else 50.0
    wanted = max(spread / LINES, EXACT)
    return next((unit * k for k in (1, 2, 4, 8, 20, 40, 80, 200, 400) if unit * k >= wanted), unit * 1000)


def contours(spots: tuple[Spot, ...], step: float) -> list[tuple[float, list[tuple[Point, ...]]]]:
    """Return for each height of whole steps the lines along which the ground has it, joined end to end."""
    surface = surface_of(spots)
    if not len(surface.triangles):
        return []
    low, high = float(surface.points[:, 2].min()), float(surface.points[:, 2].max())
    found = []
    for k in range(math.ceil(low / step), math.floor(high / step) + 1):
        pieces = _pieces(surface, k * step)
        if pieces:
            found.append((k * step, _joined(pieces)))
    return found


def _pieces(surface: Surface, height: float) -> list[tuple[Point, Point]]:
    """Return the pieces of a contour, one a triangle; a place exactly at the height counts as above."""
    found = []
    for corners in surface.points[surface.triangles]:
        cut: list[Point] = []
        for i in range(3):
            a, b = corners[i], corners[(i + 1) % 3]
            if (a[2] >= height) != (b[2] >= height):
                t = (height - a[2]) / (b[2] - a[2])
                cut.append((round(float(a[0] + t * (b[0] - a[0])), 4), round(float(a[1] + t * (b[1] - a[1])), 4)))
        if len(cut) == 2 and cut[0] != cut[1]:
            found.append((cut[0], cut[1]))
    return found


def _joined(pieces: list[tuple[Point, Point]]) -> list[tuple[Point, ...]]:
    ends: dict[Point, list[int]] = {}
    for i, (a, b) in enumerate(pieces):
        ends.setdefault(a, []).append(i)
        ends.setdefault(b, []).append(i)
    free = set(range(len(pieces)))
    lines = []
    while free:
        i = free.pop()
        line = list(pieces[i])
        for forward in (True, False):
            while True:
                tip = line[-1] if forward else line[0]
                nxt = next((k for k in ends[tip] if k in free), None)
                if nxt is None:
                    break
                free.discard(nxt)
                a, b = pieces[nxt]
                other = b if a == tip else a
                line.append(other) if forward else line.insert(0, other)
        lines.append(tuple(line))
    return lines
