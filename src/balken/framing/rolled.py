"""Pieces of rolled steel as they are bought: I and hollow sections along their axis. Members are framed,
loaded and listed by the box round them; what is drawn and handed on has this shape."""

import math
from itertools import permutations
from typing import Final, NamedTuple

from balken.framing.member import Member
from balken.geometry.plane import Point, Ring
from balken.geometry.solid import Extrusion, Vector, cross3
from balken.model.sections import STEEL, Product, Section
from balken.recall import remembered_piece

NEAR: Final = 1.0
"""A side of a body has the length of what it is cut from within this, mm."""
CUT_OFF: Final = math.sqrt((4 - math.pi) / 2)
"""A corner cut off by so much of its radius lacks as much as the rounded one: areas stay."""
SIDES: Final = 24
"""Of a round pipe; it is drawn so wide that its area is that of the circle."""


class Lie(NamedTuple):
    """Where a square piece lies: the middle of one end, the ways of its axis and its depth, its length."""

    start: Vector
    along: Vector
    up: Vector
    length: float


def is_rolled(section: Section | None) -> bool:
    """Whether a section is rolled of steel."""
    return section is not None and section.family in STEEL


def shape_of(m: Member, section: Section | None) -> Extrusion:
    """The body of a piece: of rolled steel that is cut square its own shape; of all others as they are
    cut."""
    if section is None or section.product is None or not is_rolled(section):
        return m.solid
    lie = lie_of(m, section)
    return _pushed(lie, section.product) if lie is not None else m.solid


@remembered_piece
def _pushed(lie: Lie, item: Product) -> Extrusion:
    across = cross3(lie.up, lie.along)
    return Extrusion(lie.start, across, lie.up, outline_of(item), lie.length)


def outline_of(item: Product) -> Ring:
    """The outline of a rolled section about its middle, breadth to the right and depth up,
    counter-clockwise. A hollow one goes round outside and, through a slit, back inside.

    Fillets and round corners are straight, of the same area.
    """
    if item.family == "steel i":
        return _i_shape(item)
    t = item.web
    if item.round:
        return _hollow(_circle(item.depth / 2), _circle(item.depth / 2 - t))
    inner = _corners_off(item.breadth / 2 - t, item.depth / 2 - t, max(0.0, item.radius - t))
    return _hollow(_corners_off(item.breadth / 2, item.depth / 2, item.radius), inner)


def _i_shape(item: Product) -> Ring:
    b, h, w = item.breadth / 2, item.depth / 2, item.web / 2
    inner, c = h - item.flange, item.radius * CUT_OFF
    quarter = [(w, inner - c), (w + c, inner), (b, inner), (b, h)]
    half = [*quarter, *((-x, y) for x, y in reversed(quarter))]
    return _once([*half, *((-x, -y) for x, y in half)])


def _corners_off(x: float, y: float, radius: float) -> list[Point]:
    """A rectangle about the middle with its corners cut off."""
    c = radius * CUT_OFF
    return list(
        _once(
            [(x, -y + c), (x, y - c), (x - c, y), (-x + c, y)]
            + [(-x, y - c), (-x, -y + c), (-x + c, -y), (x - c, -y)]
        )
    )


def _circle(radius: float) -> list[Point]:
    turn = 2 * math.pi / SIDES
    r = radius * math.sqrt(turn / math.sin(turn))
    return [(r * math.cos(k * turn), r * math.sin(k * turn)) for k in range(SIDES)]


def _hollow(outer: list[Point], inner: list[Point]) -> Ring:
    return (*outer, outer[0], inner[0], *reversed(inner[1:]), inner[0])


def _once(ring: list[Point]) -> Ring:
    """A ring without corners that are one with those before."""
    return tuple(p for k, p in enumerate(ring) if math.dist(p, ring[k - 1]) > 1e-6)


def lie_of(m: Member, section: Section) -> Lie | None:
    """Where a square piece lies; None where its body is no box of its section."""
    solid = m.solid
    if solid.across or len(solid.outline) != 4:
        return None
    xs, ys = [x for x, _ in solid.outline], [y for _, y in solid.outline]
    if {(round(x, 3), round(y, 3)) for x, y in solid.outline} != {
        (round(x, 3), round(y, 3)) for x in (min(xs), max(xs)) for y in (min(ys), max(ys))
    }:
        return None
    ends = ((min(xs), max(xs)), (min(ys), max(ys)), (0.0, solid.depth))
    ways = (solid.u, solid.v, solid.normal)
    wanted = (m.length, section.depth, section.breadth)
    for order in permutations(range(3)):
        sides = [ends[n][1] - ends[n][0] for n in order]
        if any(abs(a - b) > NEAR for a, b in zip(sides, wanted)):
            continue
        along, up, _ = order
        middle = [(low + high) / 2 for low, high in ends]
        middle[along] = ends[along][0]
        x, y, z = (
            o + sum(far * way[axis] for far, way in zip(middle, ways))
            for axis, o in enumerate(solid.origin)
        )
        return Lie((x, y, z), ways[along], ways[up], sides[0])
    return None
