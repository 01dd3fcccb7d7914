"""What closes a rafter roof: barge rafters with the lookouts that carry them, headers, and the
joists of flat tops."""

import math
from collections.abc import Iterable, Iterator, Sequence
from typing import Final

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.layout import net_area, run_angle, to_local, to_plan
from balken.framing.member import Member, Support, carrying
from balken.framing.pieces import HANGER_SEAT, Cut, level_piece
from balken.framing.roofs.parts import cut_from
from balken.framing.roofs.rafters import run_of
from balken.framing.roofs.shape import Edge, Placed, RoofShape
from balken.framing.roofs.sticks import Stick
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    box,
    crossings,
    distance,
    distance_to_segment,
    dot,
    left,
    sub,
    unit,
)
from balken.geometry.roof_lines import RoofLine
from balken.geometry.roof_planes import Face
from balken.geometry.solid import Extrusion, side_profile
from balken.model.names import HostName, MemberName, piece_letters
from balken.model.roofs import RoofArea
from balken.model.sections import Section

LOOKOUTS: Final = 609.6
"""Between lookouts along the rake, mm (24 in; common practice, no source)."""


def barge_rafters(
    roof: RoofArea,
    shape: RoofShape,
    lines: Sequence[RoofLine],
    sticks: Sequence[Stick],
    rafter: Section,
    sections: dict[str, Section],
) -> list[Member]:
    """The barge rafters along rakes that reach out over their wall, with a ladder of
    lookouts behind each."""
    found: list[Member] = []
    counts: dict[str, int] = {}
    section, behind = (
        cut_from(roof, part, rafter, sections) for part in ("barge rafters", "lookouts")
    )
    for n, line in enumerate(x for x in lines if x.kind == "rake"):
        face = shape.roof.faces[line.faces[0]]
        low, high = sorted((line.start, line.end), key=lambda p: p[2])
        out = _overhang_at(shape, low[:2], high[:2])
        if out > 2 * section.breadth:
            edge = _edge_at(shape, low[:2], high[:2])
            over = f"{shape.edges[face.side].name}+{edge.name}"
            counts[over] = (
                counts.get(over, 0) + 1
            )  # a plane that breaks has a rake over the same edge for each part
            name = over if counts[over] == 1 else f"{over}{'bcdefgh'[min(counts[over] - 2, 6)]}"
            found += _barge(
                roof, face, edge, (low[:2], high[:2]), (n, name), out, (section, behind), sticks
            )
    return found


def _overhang_at(shape: RoofShape, a: Point, b: Point) -> float:
    """How far the rake stands out of the wall under it; nothing where it stands over
    none."""
    way = unit(sub(b, a))
    for e in shape.edges:
        along = unit(sub(e.b, e.a))
        if e.slope is None and e.rule.kind == "gable" and abs(dot(way, left(along))) < 1e-3:
            off = abs(dot(sub(a, e.a), left(along)))
            if abs(off - e.out) < TOUCH:
                return e.out
    return 0.0


def _edge_at(shape: RoofShape, a: Point, b: Point) -> Edge:
    """The side that a rake lies over or along."""
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    return min(shape.edges, key=lambda e: distance_to_segment(middle, e.a, e.b))


def _barge(
    roof: RoofArea,
    face: Face,
    edge: Edge,
    rake: tuple[Point, Point],
    called: tuple[int, str],
    out: float,
    cut_of: tuple[Section, Section],
    sticks: Sequence[Stick],
) -> Iterable[Member]:
    (a, b), (n, name), (section, behind) = rake, called, cut_of
    slope = face.pitch
    way = (face.plane[0] / slope, face.plane[1] / slope)
    inward = left(way)
    if dot(inward, left(unit(sub(edge.b, edge.a)))) < 0:
        inward = (-inward[0], -inward[1])
    half = section.breadth / 2
    start = add(a, inward, half)
    cut = max(
        (
            s.section.breadth / 2
            for s in sticks
            if distance_to_segment(b, s.low[:2], s.high[:2]) < 2.0
        ),
        default=0.0,
    )
    run = distance(a, b) - cut
    plumb = section.depth * math.hypot(1.0, slope)
    base = face.height(a)
    ring = (
        (0.0, base - plumb),
        (run, base + slope * run - plumb),
        (run, base + slope * run),
        (0.0, base),
    )
    host, steep = HostName("roof", roof.id), math.hypot(1.0, slope)
    plumb_words = f"plumb {math.degrees(math.atan(slope)):.1f}°"
    end = add(start, way, run)
    yield Member(
        MemberName(host, "barge rafter", name),
        f"{roof.id}-G{n + 1:02d}",
        kinds.BARGE_RAFTER,
        host,
        roof.plate,
        section.name,
        f"{roof.species} {roof.grade}",
        side_profile(start, way, ring, section.breadth),
        (*start, base - plumb / 2),
        (*end, base + slope * run - plumb / 2),
        run * steep,
        run * steep + section.depth * slope,
        (plumb_words, plumb_words),
        slope=slope,
    )
    length = out - section.breadth
    count = max(1, int(run * steep / LOOKOUTS))
    for k in range(count):
        at = (k + 0.5) * run / count
        spot = add(add(a, way, at), inward, section.breadth)
        yield _tilted(
            MemberName(host, "lookout", name, f"{k + 1:02d}"),
            f"{roof.id}-L{n + 1}{k + 1:02d}",
            kinds.LOOKOUT,
            roof,
            behind,
            spot,
            inward,
            way,
            slope,
            face.height(spot),
            length,
        )


def _tilted(
    name: MemberName,
    mark: str,
    kind: MemberKind,
    roof: RoofArea,
    section: Section,
    spot: Point,
    along: Point,
    way: Point,
    slope: float,
    top: float,
    length: float,
) -> Member:
    """A level piece across the slope, square to the roof, its top in the plane of the
    rafters."""
    steep = math.hypot(1.0, slope)
    up = (-way[0] * slope / steep, -way[1] * slope / steep, 1.0 / steep)  # square to the roof
    run = (way[0] / steep, way[1] / steep, slope / steep)
    u = (along[0], along[1], 0.0)
    d, half = section.depth, section.breadth / 2
    # u × up points along the slope, up or down it, by which hand ``along`` lies on.
    turn = 1.0 if along[0] * way[1] - along[1] * way[0] > 0 else -1.0
    origin = (
        spot[0] - turn * half * run[0],
        spot[1] - turn * half * run[1],
        top - turn * half * run[2],
    )
    normal = (u[1] * up[2], -u[0] * up[2], u[0] * up[1] - u[1] * up[0])
    if normal[0] * run[0] + normal[1] * run[1] + normal[2] * run[2] < 0:
        origin = (spot[0] + half * run[0], spot[1] + half * run[1], top + half * run[2])
    else:
        origin = (spot[0] - half * run[0], spot[1] - half * run[1], top - half * run[2])
    ring = ((0.0, -d), (length, -d), (length, 0.0), (0.0, 0.0))
    end = add(spot, along, length)
    return Member(
        name,
        mark,
        kind,
        name.host,
        roof.plate,
        section.name,
        f"{roof.species} {roof.grade}",
        Extrusion(origin, u, up, ring, section.breadth),
        (*spot, top - d / 2),
        (*end, top - d / 2),
        length,
        length,
        ("square", "square"),
    )


def headers(
    roof: RoofArea,
    shape: RoofShape,
    openings: Sequence[Placed],
    section: Section,
    sections: dict[str, Section],
    plies: dict[str, int],
    parts: dict[int, str],
) -> list[Member]:
    """The headers below and above openings, plumb, hung between the doubled rafters beside
    them."""
    found = []
    host, section = HostName("roof", roof.id), cut_from(roof, "headers", section, sections)
    for item in openings:
        face = shape.roof.faces[item.face]
        up = (face.plane[0] / face.pitch, face.plane[1] / face.pitch)
        low_left, low_right, high_right, high_left = item.ring
        for which, (a, b), shift in (
            ("a", (low_left, low_right), -0.5),
            ("b", (high_left, high_right), 0.5),
        ):
            count = plies.get(f"{item.key}{which}", 1)
            cut = sections.get(f"{count}-{section.name}", section) if count > 1 else section
            a, b = add(a, up, shift * section.breadth), add(b, up, shift * section.breadth)
            top = face.height(a) - section.breadth / 2 * face.pitch
            length, way = distance(a, b), unit(sub(b, a))
            supports = tuple(
                Support(
                    at,
                    HANGER_SEAT,
                    _trimmer_at(p, item, face, host, parts[item.face]),
                    p,
                    hung=True,
                )
                for at, p in ((0.0, a), (length, b))
            )
            ring = ((0.0, top - cut.depth), (length, top - cut.depth), (length, top), (0.0, top))
            z = top - cut.depth / 2
            sawn = Member(
                MemberName(host, "header", item.key, which),
                f"{roof.id}-H{item.key}{which}",
                kinds.HEADER,
                host,
                roof.plate,
                cut.name,
                f"{roof.species} {roof.grade}",
                side_profile(a, way, ring, section.breadth),
                (*a, z),
                (*b, z),
                length,
                length,
                ("square", "square"),
            )
            found.append(carrying(sawn, supports))
    return found


def _trimmer_at(p: Point, item: Placed, face: Face, host: HostName, part: str) -> MemberName:
    """The doubled rafter that an end of a header meets: ``a`` is the first in the layout of a
    plane."""
    angle = run_of(face)
    x = to_local(p, angle)[0]
    x0, _, x1, _ = box([to_local(q, angle) for q in item.ring])
    return MemberName(
        host, "trimmer", part, f"T{item.key}{'a' if abs(x - x0) < abs(x - x1) else 'b'}"
    )


def deck_joists(
    roof: RoofArea, shape: RoofShape, sticks: Sequence[Stick], section: Section, spacing: float
) -> Iterable[Member]:
    """The joists of a flat top, across its shorter way, hung between the purlins round
    it."""
    for n, face in enumerate((f for f in shape.roof.faces if f.pitch <= 1e-9), 1):
        angle = run_angle(face.outline, "short")
        ring = tuple(to_local(p, angle) for p in face.outline)
        x0, _, x1, _ = box(ring)
        count = max(1, round((x1 - x0) / spacing))
        step = (x1 - x0) / count
        for k in range(count):
            x = x0 + (k + 0.5) * step
            for j, (low, high, area) in enumerate(_deck_stretches(ring, x, step)):
                ends = (to_plan((x, low), angle), to_plan((x, high), angle))
                place = (f"D{n}", f"{k + 1:02d}{piece_letters(j) if j else ''}")
                mark = f"{roof.id}-D{n}{k + 1:02d}"
                top = face.height(ends[0])
                yield _deck_joist(roof, (place, mark), ends, top, sticks, section, area)


def _deck_stretches(ring: Ring, x: float, step: float) -> Iterator[tuple[float, float, float]]:
    """From where to where the joists of one row reach, and the plan each carries, mm²; what lies
    over no joist goes to the first."""
    ys = crossings(ring, x)
    spans = list(zip(ys[::2], ys[1::2]))
    areas = [net_area((ring,), x - step / 2, x + step / 2, low, high) for low, high in spans]
    whole = net_area((ring,), x - step / 2, x + step / 2, -math.inf, math.inf)
    for j, ((low, high), area) in enumerate(zip(spans, areas)):
        yield low, high, area + (whole - sum(areas) if j == 0 else 0.0)


def _deck_joist(
    roof: RoofArea,
    named: tuple[tuple[str, str], str],
    ends: tuple[Point, Point],
    top: float,
    sticks: Sequence[Stick],
    section: Section,
    area: float,
) -> Member:
    host, (place, mark) = HostName("roof", roof.id), named
    first, last = (_stick_at(p, sticks) for p in ends)
    way = unit(sub(ends[1], ends[0]))
    cut = [s.section.breadth / 2 if s else 0.0 for s in (first, last)]
    a, b = add(ends[0], way, cut[0]), add(ends[1], way, -cut[1])
    seat = HANGER_SEAT / 2
    far = distance(*ends) - sum(cut) - seat
    supports = (
        Support(seat, HANGER_SEAT, first.name if first else None, a, hung=True),
        Support(far, HANGER_SEAT, last.name if last else None, b, hung=True),
    )
    return level_piece(
        MemberName(host, "joist", *place),
        mark,
        kinds.JOIST,
        host,
        roof.plate,
        Cut(section.name, f"{roof.species} {roof.grade}", section.breadth),
        a,
        b,
        top - section.depth,
        top,
        supports,
        area,
        (0.0, distance(a, b)),
    )


def _stick_at(p: Point, sticks: Sequence[Stick]) -> Stick | None:
    near = [(distance_to_segment(p, s.low[:2], s.high[:2]), i) for i, s in enumerate(sticks)]
    best = min(near, default=None)
    return sticks[best[1]] if best is not None and best[0] < 10.0 else None
