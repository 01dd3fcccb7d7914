"""Loads that were drawn, in pieces as they go down."""

import math
from collections.abc import Iterable
from itertools import pairwise
from typing import Final

import numpy as np
import shapely

from balken.geometry.plane import Point, distance
from balken.loads.parcels import Parcel
from balken.model.cases import Cases
from balken.model.drawn_loads import DrawnLoad
from balken.model.names import HostName
from balken.recall import remembered_piece

ALONG: Final = 100.0
"""Lines go down in pieces no longer than this, mm: shorter than joists are apart."""
SMALLEST: Final = 100.0
LARGEST: Final = 300.0
"""Areas go down in squares between these sides, mm."""
SQUARES: Final = 4000
"""About so many of them."""
TOGETHER: Final = 600.0
"""What lies this near on one carrier goes down as one, mm: the moment of a beam of 12 ft is right
to a fiftieth, on the safe side."""


@remembered_piece
def pieces_of(load: DrawnLoad) -> tuple[Parcel, ...]:
    """A load in pieces small enough that each has one carrier."""
    name = HostName("load", load.id)
    if load.shape == "point":
        return (_parcel(load, name, load.places[0], load.amount),)
    cut = _along(load) if load.shape == "line" else _over(load)
    return tuple(_parcel(load, name, spot, load.amount * size) for spot, size in cut)


def _parcel(load: DrawnLoad, name: HostName, spot: Point, force: float) -> Parcel:
    return Parcel(*spot, Cases(**{load.case: force}), name)


def _along(load: DrawnLoad) -> Iterable[tuple[Point, float]]:
    for a, b in pairwise(load.places):
        count = max(1, math.ceil(distance(a, b) / ALONG))
        for i in range(count):
            t = (i + 0.5) / count
            spot = (a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t)
            yield spot, distance(a, b) / count


def _over(load: DrawnLoad) -> Iterable[tuple[Point, float]]:
    shape = shapely.make_valid(shapely.Polygon(load.places))
    x0, y0, x1, y1 = shape.bounds
    side = min(LARGEST, max(SMALLEST, math.sqrt(shape.area / SQUARES)))
    xs = np.linspace(x0, x1, max(1, math.ceil((x1 - x0) / side)) + 1)
    ys = np.linspace(y0, y1, max(1, math.ceil((y1 - y0) / side)) + 1)
    left, low = (c.ravel() for c in np.meshgrid(xs[:-1], ys[:-1]))
    squares = shapely.box(left, low, left + (xs[1] - xs[0]), low + (ys[1] - ys[0]))
    pieces = shapely.intersection(squares, shape)
    for piece in pieces[shapely.area(pieces) > 0]:
        middle = piece.centroid
        yield (middle.x, middle.y), float(piece.area)


def size_of(load: DrawnLoad) -> float:
    """What its amount is multiplied by: 1, its length in mm, or its area in mm²."""
    if load.shape == "point":
        return 1.0
    if load.shape == "line":
        return math.fsum(distance(a, b) for a, b in pairwise(load.places))
    return float(shapely.make_valid(shapely.Polygon(load.places)).area)


def put_together(parcels: Iterable[Parcel]) -> tuple[Parcel, ...]:
    """Pieces on one carrier that lie near one another as one."""
    tiles: dict[tuple[int, int], list[Parcel]] = {}
    for p in parcels:
        tiles.setdefault((math.floor(p.x / TOGETHER), math.floor(p.y / TOGETHER)), []).append(p)
    return tuple(map(_one, tiles.values()))


def _one(parcels: list[Parcel]) -> Parcel:
    forces = Cases(*map(math.fsum, zip(*(p.forces for p in parcels))))
    weights = [sum(p.forces) for p in parcels]
    whole = math.fsum(weights)
    x = math.fsum(w * p.x for w, p in zip(weights, parcels)) / whole
    y = math.fsum(w * p.y for w, p in zip(weights, parcels)) / whole
    return Parcel(x, y, forces, parcels[0].source)
