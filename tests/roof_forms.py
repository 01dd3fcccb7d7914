"""Whole roofs in closed form, from their eaves: areas and lengths to check outlines and lists
against; outlines to try.

Lengths in one unit, areas in its square; slopes are rise over run.
"""

import math
import random
from itertools import pairwise

import msgspec
from shapely import Polygon, box, union_all
from shapely.geometry.polygon import orient

from balken.geometry.plane import Ring


class RoofMeasures(msgspec.Struct, frozen=True):
    """What a roof measures."""

    area: float
    """Sloping area of all planes."""
    ridges: tuple[float, ...]
    hips: tuple[float, ...]
    valleys: tuple[float, ...] = ()


def gable(length: float, width: float, slope: float) -> RoofMeasures:
    """Return a gable roof over a rectangle of eaves, ridge along the length."""
    return RoofMeasures(length * width * math.hypot(1.0, slope), (length,), ())


def gable_triangle(width: float, slope: float) -> float:
    """Return the area of the wall between eaves height and a gable roof."""
    return width * width * slope / 4


def hip_on_rectangle(length: float, width: float, side: float, end: float) -> RoofMeasures:
    """Return a hip roof over a rectangle of eaves with one slope at the sides and one at the ends.

    Where the ends are so flat that they meet before the sides do, the ridge turns the other way.
    """
    inset = width / 2 * side / end
    if 2 * inset > length * (1 + 1e-12):
        return hip_on_rectangle(width, length, end, side)
    height = width / 2 * side
    hip = math.hypot(width / 2, inset, height)
    ends = 2 * (width * inset / 2) * math.hypot(1.0, end)
    sides = (length * width - width * inset) * math.hypot(1.0, side)
    return RoofMeasures(ends + sides, (max(0.0, length - 2 * inset),), (hip,) * 4)


def hipped_l(
    length: float, width: float, wing: float, projects: float, slope: float
) -> RoofMeasures:
    """Return an L-shaped roof of equal pitch, hipped at every end, its wing flush with one end of
    the main part.

    Args:
        length: of the main part at the eaves.
        width: of the main part.
        wing: width of the wing, at most the width of the main part.
        projects: how far the wing reaches out of the main part.
        slope: of every plane.

    Returns:
        Ridges: main, wing. Hips: three of the main part, two of the wing, and the broken hip from
            the inner end of the wing's ridge to the main ridge (left out where the wing is as wide
            as the main part). One valley.

    Raises:
        ValueError: the wing is wider than the main part, or the main part is shorter than wide.
    """
    if wing > width or length < width:
        raise ValueError(
            "the wing must be no wider than the main part, and the main part no shorter than wide"
        )
    diagonal = math.hypot(math.sqrt(2.0), slope)
    broken = (width - wing) / 2 * diagonal
    hips = (
        (width / 2 * diagonal,) * 3 + (wing / 2 * diagonal,) * 2 + ((broken,) if broken > 0 else ())
    )
    area = (length * width + wing * projects) * math.hypot(1.0, slope)
    return RoofMeasures(area, (length - width, projects), hips, (wing / 2 * diagonal,))


def rectangle(length: float, width: float) -> Ring:
    """Return the outline of :func:`gable` and :func:`hip_on_rectangle`."""
    return ((0.0, 0.0), (length, 0.0), (length, width), (0.0, width))


def l_outline(length: float, width: float, wing: float, projects: float) -> Ring:
    """Return the outline of :func:`hipped_l`."""
    return (
        (0.0, 0.0),
        (length, 0.0),
        (length, width),
        (wing, width),
        (wing, width + projects),
        (0.0, width + projects),
    )


RECTANGLE: Ring = ((0.0, 0.0), (10000.0, 0.0), (10000.0, 6000.0), (0.0, 6000.0))
ELL: Ring = (
    (0.0, 0.0),
    (12000.0, 0.0),
    (12000.0, 6000.0),
    (6000.0, 6000.0),
    (6000.0, 14000.0),
    (0.0, 14000.0),
)
TEE: Ring = (
    (0.0, 0.0),
    (12000.0, 0.0),
    (12000.0, 5000.0),
    (8000.0, 5000.0),
    (8000.0, 9000.0),
    (4000.0, 9000.0),
    (4000.0, 5000.0),
    (0.0, 5000.0),
)
CROSS: Ring = (
    (4000.0, 0.0),
    (8000.0, 0.0),
    (8000.0, 4000.0),
    (12000.0, 4000.0),
    (12000.0, 8000.0),
    (8000.0, 8000.0),
    (8000.0, 12000.0),
    (4000.0, 12000.0),
    (4000.0, 8000.0),
    (0.0, 8000.0),
    (0.0, 4000.0),
    (4000.0, 4000.0),
)
YOU: Ring = (
    (0.0, 0.0),
    (14000.0, 0.0),
    (14000.0, 9000.0),
    (9000.0, 9000.0),
    (9000.0, 5000.0),
    (5000.0, 5000.0),
    (5000.0, 9000.0),
    (0.0, 9000.0),
)


def rectilinear(chance: random.Random) -> Polygon:
    """Return rectangles on a module put together: steps, wings, courtyards, many things that happen
    at once."""
    while True:
        parts = []
        for _ in range(chance.randint(1, 6)):
            x, y = chance.randint(0, 30) * 500.0, chance.randint(0, 30) * 500.0
            parts.append(
                box(x, y, x + chance.randint(4, 20) * 500.0, y + chance.randint(4, 20) * 500.0)
            )
        shape = union_all(parts)
        if shape.geom_type == "Polygon":
            return orient(shape.simplify(0))


def rings_of(shape: Polygon) -> list[Ring]:
    return [tuple(shape.exterior.coords[:-1]), *(tuple(i.coords[:-1]) for i in shape.interiors)]


def irregular(chance: random.Random) -> list[tuple[float, float]]:
    """Return an outline as old towns have them: corners at any angle, in and out, none too sharp,
    flat or near another."""
    while True:
        turns = sorted(chance.uniform(0, 2 * math.pi) for _ in range(chance.randint(4, 9)))
        shape = Polygon(
            [
                (r * math.cos(t), r * math.sin(t))
                for t, r in [(t, chance.uniform(4000, 8000)) for t in turns]
            ]
        )
        sides = list(pairwise(shape.exterior.coords))
        if not shape.is_valid or shape.area < 2e7 or min(math.dist(a, b) for a, b in sides) < 1500:
            continue
        corners = list(orient(shape).exterior.coords[:-1])
        bends = [
            _bend(corners[k - 1], p, corners[(k + 1) % len(corners)]) for k, p in enumerate(corners)
        ]
        if all(12 <= abs(b) <= 130 for b in bends):
            return [(round(x, 1), round(y, 1)) for x, y in corners]


def _bend(a: tuple[float, float], b: tuple[float, float], c: tuple[float, float]) -> float:
    (ux, uy), (vx, vy) = (b[0] - a[0], b[1] - a[1]), (c[0] - b[0], c[1] - b[1])
    return math.degrees(math.atan2(ux * vy - uy * vx, ux * vx + uy * vy))
