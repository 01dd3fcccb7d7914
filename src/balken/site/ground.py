"""The ground: measured heights made into a surface of triangles, its height at a place, and its
contours."""

import math
from typing import Any, Final

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.errors import BalkenError
from balken.geometry.plane import EXACT, Point
from balken.model.project import Spot
from balken.recall import remembered
from balken.units import FOOT, System

Floats = NDArray[np.float64]
SAME: Final = 1.0
"""Two heights measured nearer to each other than this are of one place; the later one counts,
mm."""
ON_EDGE: Final = 1e-4
"""A place this share of a triangle outside it lies on its edge: rounding, a millimetre on ten
metres."""
BEYOND_STEP: Final = 500.0
"""Along a line the ground is looked up at least this often, mm."""
CONTOUR_UNIT: Final = {"us": FOOT / 4, "metric": 50.0}
"""Contours are a round multiple of this apart, mm."""
LINES: Final = 12
"""About so many contours are drawn."""


class Surface(msgspec.Struct, frozen=True, eq=False):
    """Triangles over measured places: ``points`` (n, 3) in mm, ``triangles`` (m, 3) of their
    numbers.

    Two surfaces are the same only where they are one object, so that what follows from one is
    remembered cheaply.
    """

    points: Floats
    triangles: NDArray[np.intp]
    net: Any = None
    """The triangles as SciPy finds places in them, about ``middle``; None where they span
    nothing."""
    middle: tuple[float, float] = (0.0, 0.0)
    sides: Any = None
    """The sides of the triangles, each once: (k, 2) numbers of points; None where there are
    none."""


@remembered
def surface_of(spots: tuple[Spot, ...]) -> Surface:
    """The surface through measured heights (Delaunay triangles, SciPy).

    Places that lie in one line span no triangle; then there are none, and heights come from the
    nearest place.
    """
    kept: dict[tuple[int, int], tuple[float, float, float]] = {}
    for s in spots:
        kept[round(s.at[0] / SAME), round(s.at[1] / SAME)] = (*s.at, s.height)
    points = np.array(list(kept.values()), dtype=float).reshape(-1, 3)
    if len(points) < 3 or _in_line(points):
        return Surface(points, np.zeros((0, 3), dtype=np.intp))
    from scipy.spatial import Delaunay

    # About their own middle, so that survey coordinates lose nothing.
    middle = points[:, :2].mean(axis=0)
    net = Delaunay(points[:, :2] - middle)
    t = np.asarray(net.simplices, dtype=np.intp)
    sides = np.unique(
        np.sort(np.concatenate([t[:, [0, 1]], t[:, [1, 2]], t[:, [2, 0]]]), axis=1), axis=0
    )
    return Surface(points, t, net, (float(middle[0]), float(middle[1])), sides)


def _in_line(points: Floats) -> bool:
    away = points[:, :2] - points[:, :2].mean(axis=0)
    spread = np.linalg.svd(away, compute_uv=False)
    return bool(spread[-1] < SAME or len(spread) < 2)


def height_at(surface: Surface, p: Point) -> float:
    """The height of the ground at a place, mm: on its triangle, or of the nearest measured
    place outside them.

    Raises:
        BalkenError: nothing was measured.
    """
    return float(heights_at(surface, np.array([p], dtype=float))[0])


def heights_at(surface: Surface, places: Floats) -> Floats:
    """The heights of the ground at places (n, 2), mm.

    Raises:
        BalkenError: nothing was measured.
    """
    points = surface.points
    if not len(points):
        raise BalkenError("No heights of the ground were measured.")
    found = np.full(len(places), np.nan)
    if surface.net is not None:
        own = places - np.array(surface.middle)
        tri = surface.net.find_simplex(own, tol=ON_EDGE)
        on = tri >= 0
        frame = surface.net.transform[tri[on]]
        part = np.einsum("nij,nj->ni", frame[:, :2], own[on] - frame[:, 2])
        corners = points[surface.triangles[tri[on]], 2]
        found[on] = (part * corners[:, :2]).sum(axis=1) + (1 - part.sum(axis=1)) * corners[:, 2]
    outside = np.isnan(found)
    if outside.any():
        found[outside] = points[_nearest(points[:, :2], places[outside]), 2]
    return found


AS_NEAR: Final = 4
"""So many measured places may lie as near to one: of those the first counts."""


def _nearest(points: Floats, places: Floats) -> NDArray[np.intp]:
    """The number of the measured place nearest to each place."""
    from scipy.spatial import cKDTree

    count = min(AS_NEAR, len(points))
    away, which = cKDTree(points).query(places, k=count)
    away, which = away.reshape(-1, count), which.reshape(-1, count)
    ties = away <= away[:, :1] * (1 + 1e-12)
    return np.asarray(np.where(ties, which, len(points)).min(axis=1), dtype=np.intp)


def ground_along(
    surface: Surface, a: Point, b: Point
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """The ground along a straight line as stations from ``a`` and heights, mm: exact,
    straight between stations.

    A station stands wherever the line crosses the side of a triangle; beyond the triangles heights
    are taken at steps.
    """
    start, way = np.array(a), np.array(b) - np.array(a)
    length = float(np.hypot(*way))
    if length < EXACT:
        return (0.0,), (height_at(surface, a),)
    shares = [np.linspace(0.0, 1.0, 2 + int(length // BEYOND_STEP))]
    if surface.sides is not None:
        p, q = surface.points[surface.sides[:, 0], :2], surface.points[surface.sides[:, 1], :2]
        e = q - p
        turn = way[0] * e[:, 1] - way[1] * e[:, 0]
        off = p - start
        with np.errstate(divide="ignore", invalid="ignore"):
            u = (off[:, 0] * e[:, 1] - off[:, 1] * e[:, 0]) / turn
            v = (off[:, 0] * way[1] - off[:, 1] * way[0]) / turn
            hit = (np.abs(turn) > EXACT) & (u > 0) & (u < 1) & (v >= 0) & (v <= 1)
        shares.append(u[hit])
    share = np.unique(np.round(np.concatenate(shares), 12))
    heights = heights_at(surface, start + share[:, None] * way)
    return tuple((share * length).tolist()), tuple(heights.tolist())


def contour_step(spots: tuple[Spot, ...], system: System) -> float:
    """A round distance between contours so that about a dozen are drawn, mm."""
    heights = [s.height for s in spots]
    spread = max(heights) - min(heights) if heights else 0.0
    unit = CONTOUR_UNIT[system]
    wanted = max(spread / LINES, EXACT)
    return next(
        (unit * k for k in (1, 2, 4, 8, 20, 40, 80, 200, 400) if unit * k >= wanted), unit * 1000
    )


@remembered
def contours(spots: tuple[Spot, ...], step: float) -> list[tuple[float, list[tuple[Point, ...]]]]:
    """For each height of whole steps the lines along which the ground has it, joined end to
    end."""
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
    """The pieces of a contour, one a triangle; a place exactly at the height counts as
    above."""
    found = []
    for corners in surface.points[surface.triangles]:
        cut: list[Point] = []
        for i in range(3):
            a, b = corners[i], corners[(i + 1) % 3]
            if (a[2] >= height) != (b[2] >= height):
                t = (height - a[2]) / (b[2] - a[2])
                cut.append(
                    (
                        round(float(a[0] + t * (b[0] - a[0])), 4),
                        round(float(a[1] + t * (b[1] - a[1])), 4),
                    )
                )
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
        start, end = pieces[free.pop()]
        ahead = _onward(end, pieces, ends, free)
        back = _onward(start, pieces, ends, free)
        lines.append((*reversed(back), start, end, *ahead))
    return lines


def _onward(
    tip: Point, pieces: list[tuple[Point, Point]], ends: dict[Point, list[int]], free: set[int]
) -> list[Point]:
    """The points that follow one along pieces that are free yet, which are so no more."""
    found: list[Point] = []
    while True:
        following = next((k for k in ends[tip] if k in free), None)
        if following is None:
            return found
        free.discard(following)
        a, b = pieces[following]
        tip = b if a == tip else a
        found.append(tip)
