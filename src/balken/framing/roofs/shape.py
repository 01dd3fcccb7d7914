"""The shape of a roof over its walls: how each side rises, where its eaves lie, its planes, and
what of it is seen."""

import math
from collections.abc import Sequence
from itertools import accumulate
from typing import Any, Final, NamedTuple

import msgspec
from msgspec.structs import replace

from balken.framing.member import Bearings
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    dot,
    edges,
    left,
    signed_area,
    simplify,
    sub,
    unit,
)
from balken.geometry.roof_eaves import over_walls
from balken.geometry.roof_front import RoofError, Side
from balken.geometry.roof_lines import RoofLine, roof_lines
from balken.geometry.roof_planes import Face, Roof, roof_planes
from balken.model.roofs import RoofArea, RoofOpening, RoofSide, overhang_of, side_of
from balken.recall import remembered_piece
from balken.units import INCH

COMMON_SEAT: Final = 3.5 * INCH
"""Level seat of a birdsmouth where none is typed, at most the plate; common practice, no source."""
QUARTER: Final = 0.25
"""Depth of a birdsmouth over that of the rafter (IRC 2021 R802.7.1, from memory)."""
BUTT: Final = 0.25 * INCH
"""Of a truss's heel under its top chord, at the outer face of the wall; common practice, no
source."""
CLOSE: Final = 0.01
"""A held ridge is met this near, mm."""
SLIVER: Final = 100.0
"""What two roofs leave of a face that is smaller is nothing, mm²."""


class Edge(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """One side of a roof as it is built: its names, its line at the walls, how it rises and reaches
    out."""

    name: str
    rule: RoofSide
    slope: float | None
    """Rise over run; None where the roof ends upright."""
    out: float
    plate: float
    """Height of its plate, mm."""
    a: Point
    b: Point


class RoofShape(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A roof over its walls. Heights are the building's, mm."""

    edges: tuple[Edge, ...]
    eaves: Ring
    roof: Roof
    """Its planes, whole."""
    heel: float
    """Plumb height of the planes over the plates at the outer face of the walls."""
    court_eaves: tuple[Ring, ...] = ()
    """Of courtyards, clockwise."""
    counts: tuple[int, ...] = ()
    """Sides of the outline, then of each courtyard: ``edges`` holds them one after another."""

    @property
    def runs_on(self) -> bool:
        """Whether a side of it runs on to another roof."""
        return any(e.rule.kind == "runs on" for e in self.edges)

    @property
    def rings(self) -> tuple[Ring, ...]:
        """The outline at the outer face of the walls, then the courtyards, clockwise."""
        found, first = [], 0
        for count in self.counts or (len(self.edges),):
            found.append(tuple(e.a for e in self.edges[first : first + count]))
            first += count
        return tuple(found)

    @property
    def ring(self) -> Ring:
        """The outline at the outer face of the walls."""
        return self.rings[0]

    def before(self, n: int) -> Edge:
        """The side before one, by its number, round the same outline or courtyard."""
        first = 0
        for count in self.counts or (len(self.edges),):
            if n < first + count:
                return self.edges[first + (n - first - 1) % count]
            first += count
        raise IndexError(n)

    def edge_of(self, face: Face) -> Edge | None:
        """The side a plane rises from; None for a flat top."""
        return self.edges[face.side] if face.side >= 0 else None


def slope_of(rise: float) -> float:
    """Rise over run."""
    return rise / 12


def heel_of(roof: RoofArea, depth: float, plate_width: float, rises: Sequence[float]) -> float:
    """The plumb height of a roof over its plates: typed, or left by the birdsmouth of the
    common rafters, mm.

    All plates of a roof have one, so that hips stand over the corners whatever the pitches: the
    highest that any side asks for. The seats of the others are shorter for it.
    """
    if roof.heel is not None:
        return roof.heel
    return max(_heel_at(roof, depth, plate_width, slope_of(rise)) for rise in rises)


def _heel_at(roof: RoofArea, depth: float, plate_width: float, slope: float) -> float:
    plumb = depth * math.hypot(1.0, slope)
    if roof.framing == "trusses":
        return plumb + (BUTT if roof.trusses.bearing == "bottom chord" else 0.0)
    seat = min(plate_width or COMMON_SEAT, COMMON_SEAT) if roof.seat is None else roof.seat
    # Left to itself a birdsmouth goes no deeper than a quarter of the rafter, and never past its
    # half.
    deepest = depth * (QUARTER if roof.seat is None else 0.5) / math.sin(math.atan(slope))
    return plumb - min(seat, deepest) * slope


def shape_of(roof: RoofArea, bearings: Bearings, depth: float, runs_on: float = 0.0) -> RoofShape:
    """The shape of a roof.

    Args:
        roof: the roof.
        bearings: its walls: outline, the names of its sides, height and width of the plates.
        depth: of its rafters or top chords, square to the slope, mm.
        runs_on: how far it goes on past a side where it runs into another roof, mm.

    Raises:
        RoofError: there is no such roof; the text says where and why.
    """
    if roof.ridge is None:
        return _shape(roof, bearings, depth, roof.rise, runs_on)
    return _held(roof, bearings, depth, roof.ridge, runs_on)


def _held(
    roof: RoofArea, bearings: Bearings, depth: float, ridge: float, runs_on: float
) -> RoofShape:
    """The shape whose ridge is as high as it is held, by the pitch of the sides without
    their own (regula falsi)."""

    def over(rise: float) -> tuple[float, RoofShape]:
        made = _shape(roof, bearings, depth, rise, runs_on)
        return made.roof.top - bearings.height - ridge, made

    low, high = 0.25, 60.0
    (below, shape), (above, _) = over(low), over(high)
    if below > 0 or above < 0:
        raise RoofError(
            f"a ridge {ridge:.0f} mm over the plate asks for a pitch under {low:g} or over"
            f" {high:g} in 12: hold another height,"
            " or hold the pitch"
        )
    for _ in range(60):
        rise = low + (high - low) * min(0.9, max(0.1, -below / (above - below)))
        miss, shape = over(rise)
        if abs(miss) < CLOSE:
            break
        low, below, high, above = (
            (rise, miss, high, above) if miss < 0 else (low, below, rise, miss)
        )
    return shape


class _Rising(NamedTuple):
    """An outline of a roof - the outer one, or a courtyard - with its sides: as they lie, and as
    planes rise from them."""

    ring: Ring
    edges: list[Edge]
    sides: list[Side]


def _shape(
    roof: RoofArea, bearings: Bearings, depth: float, rise: float, runs_on: float
) -> RoofShape:
    outlines = _outlines(roof, bearings)
    said = [_said_of(roof, names, outer=k == 0) for k, (_, names) in enumerate(outlines)]
    heel = heel_of(roof, depth, bearings.width, _rises(said, rise))
    how = (heel, rise, runs_on)
    rising = [
        _rising(roof, bearings, outline, sides, how) for outline, sides in zip(outlines, said)
    ]
    rings, made = _planes(rising, None if roof.top is None else bearings.height + heel + roof.top)
    found = tuple(e for r in rising for e in r.edges)
    counts = tuple(len(r.ring) for r in rising)
    return RoofShape(found, rings[0], made, heel, tuple(rings[1:]), counts)


def _rises(said: list[list[RoofSide]], usual: float) -> list[float]:
    """The rises of all sides that slope; the usual one where none does."""
    return [s.rise or usual for sides in said for s in sides if s.kind == "slope"] or [usual]


def _planes(rising: list[_Rising], top: float | None) -> tuple[list[Ring], Roof]:
    """The eaves of a roof, and its planes, the sides counted from the outer outline's first."""
    out = [[e.out for e in r.edges] for r in rising]
    rings, sides = over_walls([r.ring for r in rising], [r.sides for r in rising], out)
    made = roof_planes(rings, sides, top)
    firsts = [0, *accumulate(len(r.ring) for r in rising)]
    faces = tuple(
        replace(f, ring=0, side=firsts[f.ring] + f.side) if f.side >= 0 else f for f in made.faces
    )
    return rings, Roof(faces, made.top)


def _outlines(roof: RoofArea, bearings: Bearings) -> list[tuple[Ring, tuple[str, ...]]]:
    """The outline of a roof, then its courtyards clockwise, each with the names of its sides."""
    outer = bearings.sides or tuple(str(n) for n in range(1, len(bearings.outline) + 1))
    found: list[tuple[Ring, tuple[str, ...]]] = [(bearings.outline, outer)]
    for k, court in enumerate(roof.courts, 1):
        ring = simplify(court)
        ring = ring if signed_area(ring) < 0 else ring[::-1]
        found.append((ring, tuple(f"c{k}.{n}" for n in range(1, len(ring) + 1))))
    return found


def _said_of(roof: RoofArea, names: tuple[str, ...], *, outer: bool) -> list[RoofSide]:
    """What is said of the sides of an outline; those of the outer one are also known by number."""
    return [side_of(roof, name, *((str(n),) if outer else ())) for n, name in enumerate(names, 1)]


def _rising(
    roof: RoofArea,
    bearings: Bearings,
    outline: tuple[Ring, tuple[str, ...]],
    said: list[RoofSide],
    how: tuple[float, float, float],
) -> _Rising:
    """An outline with its sides, by the heel, the usual rise and how far sides run on."""
    ring, names = outline
    heel, rise, runs_on = how
    found, sides = [], []
    for name, side, (a, b) in zip(names, said, edges(ring)):
        edge = _edge(roof, bearings, side, name, a, b, rise, runs_on)
        foot = edge.plate + heel
        breaks = edge.rule.breaks if edge.slope else ()
        steeper = tuple((foot + x.height, slope_of(x.rise)) for x in breaks)
        found.append(edge)
        sides.append(Side(edge.slope, foot, steeper))
    return _Rising(ring, found, sides)


def _edge(
    roof: RoofArea,
    bearings: Bearings,
    said: RoofSide,
    name: str,
    a: Point,
    b: Point,
    rise: float,
    runs_on: float,
) -> Edge:
    slope = slope_of(said.rise or rise) if said.kind == "slope" else None
    reach = overhang_of(roof, said) + (runs_on if said.kind == "runs on" else 0.0)
    return Edge(name, said, slope, reach, bearings.height + said.plate, a, b)


def lines_of_shape(shape: RoofShape) -> tuple[RoofLine, ...]:
    """The eaves, rakes, ridges, hips and valleys of a roof."""
    return roof_lines(shape.roof)


def soffit_area(shape: RoofShape, *, sloped: bool) -> float:
    """The area of the boards under the overhangs of a roof, mm²: level, or along the
    rafters."""
    from shapely import Polygon

    walls = Polygon(shape.ring, shape.rings[1:])
    parts = [(_polygon(f).difference(walls).area, f.pitch) for f in shape.roof.faces]
    return float(sum(a * (math.hypot(1.0, k) if sloped else 1.0) for a, k in parts))


class Placed(msgspec.Struct, frozen=True, gc=False):
    """An opening where it lies: on which plane by its number, and its outline in plan."""

    key: str
    face: int
    ring: Ring


def placed_opening(shape: RoofShape, item: RoofOpening) -> Placed | str:
    """Where an opening lies; in words why it lies nowhere: beside the roof, or across a hip,
    valley, ridge or eave."""
    from shapely import Point as Spot
    from shapely import Polygon

    for n, face in enumerate(shape.roof.faces):
        if face.pitch < 1e-9 or not _polygon(face).contains(Spot(item.at)):
            continue
        up = (face.plane[0] / face.pitch, face.plane[1] / face.pitch)
        side = left(up)
        w, h = item.size[0] / 2, item.size[1] / 2 / math.hypot(1.0, face.pitch)
        ring = tuple(
            add(add(item.at, up, j * h), side, i * w)
            for i, j in ((1, -1), (-1, -1), (-1, 1), (1, 1))
        )
        inside = _polygon(face).intersection(Polygon(shape.ring))
        past = Polygon(ring).difference(inside).area
        if past > SLIVER:
            edge = shape.edge_of(face)
            return (
                f"{past / 1e4:.0f} cm² of it reach past the plane over side"
                f" {edge.name if edge else 'top'}"
            )
        return Placed(item.id, n, ring)
    return "it lies on no plane of the roof"


@remembered_piece
def without(shape: RoofShape, rings: tuple[Ring, ...]) -> RoofShape:
    """A roof without what of it hangs over the walls of others: its tails end at its own
    wall there."""
    from shapely import Polygon, union_all

    away = union_all([Polygon(r) for r in rings])
    faces = [g for f in shape.roof.faces for g in _pieces_of(f, _polygon(f).difference(away))]
    return replace(shape, roof=Roof(tuple(faces), shape.roof.top))


def seen_faces(shapes: Sequence[RoofShape]) -> list[list[Face]]:
    """What is seen of the planes of each roof where some run into others: of two the higher,
    and of a roof that runs on only what hangs together with what lies over its own walls."""
    found: list[list[Face]] = [list(s.roof.faces) for s in shapes]
    # What runs on settles first how far it goes.
    for i in sorted(range(len(shapes)), key=lambda k: not shapes[k].runs_on):
        shape = shapes[i]
        others = [
            g
            for k, faces in enumerate(found)
            if k != i and (shape.runs_on or shapes[k].runs_on)
            for g in faces
        ]
        found[i] = [g for f in shape.roof.faces for g in _seen_of(f, shape, others)]
    return found


def _seen_of(face: Face, shape: RoofShape, others: list[Face]) -> list[Face]:
    """What is seen of one plane among those of other roofs."""
    area = _above(face, others, gives_way=shape.runs_on)
    return _pieces_of(face, _own(area, shape) if shape.runs_on else area)


def _polygon(face: Face) -> Any:
    from shapely import Polygon

    return Polygon(face.outline, face.holes)


def _above(face: Face, others: Sequence[Face], *, gives_way: bool) -> Any:
    """Where a face lies over all others, or beside them; in one plane with another it may
    give way to it."""
    shape = _polygon(face)
    for other in others:
        both = shape.intersection(_polygon(other))
        if both.area > SLIVER:
            shape = shape.difference(_lower(face, other, both, gives_way=gives_way))
    return shape


def _lower(face: Face, other: Face, area: Any, *, gives_way: bool) -> Any:
    """The part of an area where a face lies under another."""
    from shapely import Polygon

    a, b, c = (q - p for p, q in zip(face.plane, other.plane))
    steep = math.hypot(a, b)
    if steep < 1e-9:
        return area if c > (-TOUCH if gives_way else TOUCH) else Polygon()
    normal = (a / steep, b / steep)
    x, y = area.centroid.coords[0]
    foot = add((x, y), normal, -(a * x + b * y + c) / steep)
    way, far = left(normal), 1e6
    half = [add(foot, way, far), add(foot, way, -far)]
    return area.intersection(Polygon([*half, add(half[1], normal, far), add(half[0], normal, far)]))


def _own(area: Any, shape: RoofShape) -> Any:
    """Those parts of an area that reach over the roof's own walls or touch them."""
    from shapely import Polygon, union_all

    walls = Polygon(shape.ring).buffer(TOUCH)
    parts = [p for p in getattr(area, "geoms", [area]) if not p.is_empty and p.intersects(walls)]
    return union_all(parts) if parts else Polygon()


def _pieces_of(face: Face, area: Any) -> list[Face]:
    found = []
    for part in getattr(area, "geoms", [area]):
        if part.geom_type == "Polygon" and part.area > SLIVER:
            found.append(
                replace(
                    face,
                    outline=_ring(part.exterior),
                    holes=tuple(_ring(h) for h in part.interiors),
                )
            )
    return found


def _ring(line: Any) -> Ring:
    ring = [(float(x), float(y)) for x, y in line.coords[:-1]]
    return simplify(ring if signed_area(ring) > 0 else ring[::-1], 0.1)


def side_names(outline: Ring, walls: Sequence[tuple[str, Point, Point]]) -> tuple[str, ...]:
    """For each side of an outline the name of the wall (with its outer face from ``a`` to
    ``b``) along most of it; its number from 1 where none lies there."""
    found = []
    for n, (p, q) in enumerate(edges(outline), 1):
        way, normal = unit(sub(q, p)), left(unit(sub(q, p)))
        length = dot(sub(q, p), way)
        best, most = str(n), TOUCH
        for name, a, b in walls:
            if max(abs(dot(sub(a, p), normal)), abs(dot(sub(b, p), normal))) < 3 * TOUCH:
                s, e = sorted((dot(sub(a, p), way), dot(sub(b, p), way)))
                over = min(e, length) - max(s, 0.0)
                if over > most + TOUCH:
                    best, most = name, over
        found.append(best)
    return tuple(found)
