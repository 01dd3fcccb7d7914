"""Where trusses stand along a roof: set out like rafters, each under its own line of the planes; at hip ends
step-down trusses up to a girder."""

import math
from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

import msgspec

from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.layout import Layout, LayoutError, Stand, net_area, stands, to_local, to_plan
from balken.framing.member import Bearings, Size
from balken.framing.pieces import bearings_on, strip_under
from balken.framing.roofs.rafters import main_run
from balken.framing.roofs.shape import RoofShape
from balken.framing.trusses.lines import Asked, Cut, Profile, beside_on_chord, truss_under
from balken.framing.trusses.shapes import Truss
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    box,
    cross,
    distance,
    distance_to_segment,
    edges,
    sub,
    unit,
)
from balken.geometry.roof_planes import Face
from balken.model.names import HostName, MemberName
from balken.model.project import Change
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.site.proposals import is_rectangle

BREADTH: Final = 38.1
"""Of a truss of one ply, for setting it out, mm."""
MOVABLE: Final = ("common", "gable")
"""Trusses whose joints people move."""
GIRDER_PLIES: Final = 2
SETBACK: Final = 0.25
"""Of the girder of a hip end from its wall, by the span, where none is typed; common practice, no
source."""
LEAST_BEARING: Final = 89.0
"""Of a truss on what carries it where the plate's width is not known, mm."""

TrussUse = str
"""``common``, ``gable``, ``step`` (cut off flat under a hip end) or ``girder``."""


class PlacedTruss(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """One truss where it stands."""

    row: str
    use: TrussUse
    truss: Truss
    profile: Profile
    start: Point
    """In plan, at the outer face of its left wall."""
    way: Point
    plate: float
    """Height of the plate, mm."""
    plies: int
    area: float
    """Of plan it carries, mm²."""
    true: float
    """The same on the slope, mm²."""
    wide: float
    """Of the strip it carries, mm: a girder's carries half of what its jacks span besides."""
    cut: Cut
    sections: tuple[str, str, str]
    """Of top chord, bottom chord and webs."""
    bears: tuple[float, float]
    """Where the middles of its bearings lie along it, mm."""


class Zone(NamedTuple):
    """A hip end: its side by number, where its girder stands across, and whether it lies at the low
    end of the layout."""

    side: int
    girder: float
    low: bool


def cut_of(size: Size, sections: dict[str, Section]) -> tuple[Cut, tuple[str, str, str]]:
    """The depths and names of what trusses are cut from."""
    chosen = dict(size.cut)
    names = (
        size.section,
        chosen.get(("bottom chord", ""), size.section),
        chosen.get(("web", ""), size.section),
    )
    return Cut(*(sections[n].depth for n in names)), names


def place_trusses(
    roof: RoofArea,
    shape: RoofShape,
    bearings: Bearings,
    size: Size,
    sections: dict[str, Section],
    changes: tuple[Change, ...] = (),
) -> tuple[tuple[PlacedTruss, ...], tuple[Zone, ...], float]:
    """The trusses of a roof, its hip ends, and the direction the trusses run in.

    Raises:
        LayoutError: the spacing sets nothing out, or a truss has no shape; the text says why.
    """
    if not is_rectangle(shape.ring) or len(shape.rings) > 1:
        raise LayoutError(
            f"trusses are set out over rectangles, and roof {roof.name} has {len(shape.edges)}"
            " sides: divide it into roofs over"
            " rectangles, one of which runs into the other, or frame it with rafters"
        )
    angle = main_run(shape)
    ring = tuple(to_local(p, angle) for p in shape.ring)
    x0, y0, x1, y1 = box(ring)
    zones = _zones(roof, shape, ring, (x0, x1), y1 - y0)
    rows = _rows(roof, ring, zones, size, changes)
    planes = [
        (f, tuple(tuple(to_local(p, angle) for p in r) for r in (f.outline, *f.holes)))
        for f in shape.roof.faces
    ]
    ground = Ground(roof, shape, bearings, angle, planes, zones, rows, (x0, x1))
    cut = cut_of(size, sections)
    return tuple(_placed(ground, row, *cut) for row in rows), tuple(zones), angle


class Ground(NamedTuple):
    """What the trusses of a roof stand on and under; planes and rows locally."""

    roof: RoofArea
    shape: RoofShape
    bearings: Bearings
    angle: float
    planes: list[tuple[Face, tuple[Ring, ...]]]
    zones: Sequence[Zone]
    rows: list[Stand]
    across: tuple[float, float]

    @property
    def eaves(self) -> tuple[float, float, float, float]:
        """The box round all planes."""
        return box([p for _, rings in self.planes for p in rings[0]])


def _rows(
    roof: RoofArea,
    ring: Ring,
    zones: list[Zone],
    size: Size,
    changes: tuple[Change, ...],
) -> list[Stand]:
    """The rows that trusses stand in, from the first edge, moved and taken away by hand."""
    layout = Layout(
        BREADTH,
        size.spacing,
        start=roof.rafters.begin,
        end_gap=roof.rafters.end_gap,
        least_clear=roof.rafters.least_clear,
    )
    places = _with_girders(stands((ring,), layout), zones, ring, size.spacing)
    by_name, host = {c.member: c for c in changes}, HostName("roof", roof.id)
    found = []
    for row, x, lo, hi in sorted(places, key=lambda p: (p[1], p[2])):
        change = by_name.get(MemberName(host, "bottom chord", row))
        if change is None or not change.removed:
            found.append((row, x + (change.shift if change else 0.0), lo, hi))
    return found


def _placed(ground: Ground, stand: Stand, cut: Cut, names: tuple[str, str, str]) -> PlacedTruss:
    """The truss of one row."""
    row, x, lo, hi = stand
    rule, eaves = ground.roof.trusses, ground.eaves
    left_x, right_x = _bounds(ground.rows, x, lo, hi, eaves, ground.zones)
    hang = rule.hang if rule.bearing == "top chord" else None
    profile = _profile(ground.planes, ground.shape, x, lo, hi, ground.angle, hang)
    area, true = _areas(ground.planes, left_x, right_x, eaves[1], eaves[3])
    zone = next((z for z in ground.zones if row == f"G{z.side + 1}"), None)
    use = _use(row, profile, zone)
    start, end = to_plan((x, lo), ground.angle), to_plan((x, hi), ground.angle)
    way = unit(sub(end, start))
    bears = _bearings(start, way, hi - lo, ground.bearings)
    asked = Asked(rule.panels, rule.moved if use in MOVABLE else (), bears)
    rise = 0.0 if use == "step" else rule.bottom_rise
    try:
        truss = truss_under(profile, rule.kind, cut, rise, asked)
    except BalkenError as error:
        raise LayoutError(
            f"truss {row} of roof {ground.roof.name} cannot be made: {error}"
        ) from error
    x0, x1 = ground.across
    reach = abs(zone.girder - (x0 if zone.low else x1)) / 2 if zone else 0.0
    return PlacedTruss(
        row,
        use,
        truss,
        profile,
        start,
        way,
        ground.bearings.height,
        GIRDER_PLIES if zone else 1,
        area,
        true,
        right_x - left_x + reach,
        cut,
        names,
        bears,
    )


def _bearings(start: Point, way: Point, span: float, bearings: Bearings) -> tuple[float, float]:
    """Where the middles of the bearings of a truss lie along it: under its ends, or on the
    first wall or beam it meets inside where nothing stands under an end."""
    half = (bearings.width or LEAST_BEARING) / 2
    first, last = (
        bool(strip_under(add(start, way, at), bearings.strips)) for at in (half, span - half)
    )
    if first and last:
        return half, span - half
    inside = [
        (low, high)
        for _, low, high, _ in bearings_on(start, add(start, way, span), bearings.strips)
        if high - low < span / 2
    ]
    near = [low + half for low, high in inside if (low + high) / 2 < span / 2]
    far = [high - half for low, high in inside if (low + high) / 2 >= span / 2]
    return (
        half if first or not near else near[0],
        span - half if last or not far else far[-1],
    )


def movable(t: PlacedTruss) -> list[int]:
    """The joints of a truss, by number, that can be moved along their chords: not its ends,
    bends and bearings."""
    if t.use not in MOVABLE or len(t.profile.points) > 3:
        return []
    truss = t.truss
    chord = truss.chord(kinds.BOTTOM_CHORD)
    ends = (*truss.bearings, chord[0].start, chord[-1].end)
    fixed = [truss.joints[n][0] for n in ends]
    return [
        n
        for n, here in enumerate(truss.joints)
        if not any(abs(here[0] - s) < 1.0 for s in fixed) and _runs_straight(truss, n)
    ]


def _runs_straight(truss: Truss, joint: int) -> bool:
    """Whether a chord runs straight through a joint."""
    beside = beside_on_chord(truss.pieces, joint)
    if beside is None:
        return False
    here, a, b = (truss.joints[n] for n in (joint, *beside))
    return abs(cross(sub(b, a), sub(here, a))) < 1.0 * distance(a, b)


def _zones(
    roof: RoofArea, shape: RoofShape, ring: Ring, across: tuple[float, float], span: float
) -> list[Zone]:
    """The hip ends of a roof: sides that slope, at the first or the last place of the
    layout."""
    found = []
    for n, (a, b) in enumerate(zip(ring, [*ring[1:], ring[0]])):
        edge = shape.edges[n]
        if edge.slope is None or abs(b[0] - a[0]) > TOUCH or edge.rule.kind != "slope":
            continue
        back = roof.trusses.hip_setback or round(span * SETBACK / 100) * 100.0
        if abs(a[0] - across[0]) < TOUCH:
            found.append(Zone(n, across[0] + back, True))
        elif abs(a[0] - across[1]) < TOUCH:
            found.append(Zone(n, across[1] - back, False))
    return found


def _with_girders(
    places: list[Stand], zones: list[Zone], ring: Ring, spacing: float
) -> list[Stand]:
    """The places with a girder at each hip end, without what stood between it and the wall
    or too near to it."""
    for zone in zones:
        sign = 1.0 if zone.low else -1.0
        places = [p for p in places if (p[1] - zone.girder) * sign > spacing / 2]
        ys = sorted(
            ay + (by - ay) * (zone.girder - ax) / (bx - ax)
            for (ax, ay), (bx, by) in zip(ring, [*ring[1:], ring[0]])
            if (ax <= zone.girder) != (bx <= zone.girder)
        )
        places += [(f"G{zone.side + 1}", zone.girder, lo, hi) for lo, hi in zip(ys[:1], ys[-1:])]
    return places


def _bounds(
    kept: Sequence[Stand],
    x: float,
    lo: float,
    hi: float,
    eaves: tuple[float, ...],
    zones: Sequence[Zone],
) -> tuple[float, float]:
    """The strip of plan a truss carries: halfway to its neighbours, to the eaves at gables,
    up to itself at a girder."""
    beside = [p[1] for p in kept if min(hi, p[3]) - max(lo, p[2]) > TOUCH]
    girders = {z.low for z in zones}
    before, after = [v for v in beside if v < x - 1e-6], [v for v in beside if v > x + 1e-6]
    first = x if True in girders else eaves[0]
    last = x if False in girders else eaves[2]
    return (
        (max(before) + x) / 2 if before else first,
        (min(after) + x) / 2 if after else last,
    )


def _areas(
    faces: Sequence[tuple[Face, tuple[Ring, ...]]],
    left_x: float,
    right_x: float,
    low: float,
    high: float,
) -> tuple[float, float]:
    """The plan area of a strip from eave to eave and the same on the slope."""
    parts = [(net_area(rings, left_x, right_x, low, high), f.pitch) for f, rings in faces]
    return sum(a for a, _ in parts), sum(a * math.hypot(1.0, k) for a, k in parts)


def _profile(
    faces: Sequence[tuple[Face, tuple[Ring, ...]]],
    shape: RoofShape,
    x: float,
    lo: float,
    hi: float,
    angle: float,
    hang: float | None,
) -> Profile:
    """The line of the roof over a row."""
    plate = min(e.plate for e in shape.edges)
    marks = [
        (y, face.height(to_plan((x, y), angle)) - plate)
        for face, rings in faces
        for y in _crossed(rings, x)
    ]
    points: list[Point] = []
    for y, z in sorted(marks):
        if not points or y - lo - points[-1][0] > TOUCH:
            points.append((round(y - lo, 6), round(z, 6)))
    points = [p for k, p in enumerate(points) if not _straight(points, k)]
    upright = (
        _stands_upright(shape, to_plan((x, lo), angle)),
        _stands_upright(shape, to_plan((x, hi), angle)),
    )
    return Profile(tuple(points), hi - lo, upright, hang)


def _crossed(rings: tuple[Ring, ...], x: float) -> Iterator[float]:
    """Where a row goes in under a plane and comes out, along it."""
    ys = sorted(
        ay + (by - ay) * (x - ax) / (bx - ax)
        for ring in rings
        for (ax, ay), (bx, by) in edges(ring)
        if (ax <= x) != (bx <= x)
    )
    for a, b in zip(ys[::2], ys[1::2]):
        if b - a > TOUCH:
            yield from (a, b)


def _straight(points: Sequence[Point], k: int) -> bool:
    if not 0 < k < len(points) - 1:
        return False
    (a, za), (b, zb), (c, zc) = points[k - 1 : k + 2]
    return abs((zb - za) * (c - a) - (zc - za) * (b - a)) < 1.0 * (c - a)


def _stands_upright(shape: RoofShape, place: Point) -> bool:
    """Whether the side under an end of a truss is one the roof does not rise from."""
    edge = min(shape.edges, key=lambda e: distance_to_segment(place, e.a, e.b))
    return edge.slope is None


def _use(row: str, profile: Profile, zone: Zone | None) -> TrussUse:
    if zone is not None:
        return "girder"
    if any(abs(k) < 1e-6 for k in profile.slopes()):
        return "step"
    return "gable" if row.startswith("E") else "common"
