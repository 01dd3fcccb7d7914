"""Purlins under rafters, and the struts that carry them down to walls inside: IRC 2021 R802.4.5."""

import math
from collections.abc import Iterable, Sequence
from typing import Any, Final, NamedTuple

from balken.framing import kinds
from balken.framing.member import Bearings, Member, Strip, Support, carrying
from balken.framing.pieces import Cut, level_piece, strip_under
from balken.framing.roofs.parts import cut_from
from balken.framing.roofs.shape import RoofShape
from balken.framing.roofs.sticks import SectionFor
from balken.geometry.plane import TOUCH, Point, add, box, cross, distance, dot, sub, unit
from balken.geometry.roof_planes import Face
from balken.geometry.solid import side_profile
from balken.model.names import HostName, MemberName, Rest, wall_key
from balken.model.roofs import RoofArea
from balken.model.sections import Section

SHORTEST: Final = 600.0
"""A shorter purlin is left out, mm."""
FROM_END: Final = 150.0
"""Of the first strut from the end of its purlin, mm; common practice, no source."""
FROM_HIP: Final = 100.0
"""Between a purlin and the middle of a hip or valley, square to the purlin's end, mm."""
STRUT: Final = {"us": "2x4", "metric": "38x89"}
"""What struts are cut from (IRC 2021 R802.4.5: 2 by 4 at least)."""
FLATTEST: Final = 1.0
"""A strut rises no less over its run: 45° (IRC 2021 R802.4.5)."""


class UnderPurlin(NamedTuple):
    """A purlin under the rafters of a plane: its lasting name, the line where they touch it, and
    its section."""

    face: int
    name: MemberName
    mark: str
    a: Point
    b: Point
    top: float
    section: Section

    def meets(self, start: Point, way: Point) -> float | None:
        """The run at which a rafter reaches it, from a place in plan along a direction; None
        where it passes beside."""
        along = unit(sub(self.b, self.a))
        turn = cross(way, along)
        if abs(turn) < TOUCH / 100:
            return None
        rel = sub(self.a, start)
        run = cross(rel, along) / turn
        at = dot(sub(add(start, way, run), self.a), along)
        return run if -TOUCH <= at <= distance(self.a, self.b) + TOUCH else None


def purlins_of(
    roof: RoofArea, shape: RoofShape, bearings: Bearings, rafter: Section, choose: SectionFor
) -> tuple[UnderPurlin, ...]:
    """The purlins under the planes of a roof, as high over the plate as is asked for; none
    where nothing is."""
    if not roof.rafters.purlin_up:
        return ()
    found: list[UnderPurlin] = []
    counts: dict[str, int] = {}
    for n, face in enumerate(shape.roof.faces):
        if face.side < 0 or face.pitch < 1e-9 or shape.edges[face.side].slope is None:
            continue
        side = shape.edges[face.side]
        top = side.plate + roof.rafters.purlin_up
        height = top + rafter.depth * math.hypot(
            1.0, face.pitch
        )  # of the roof where the rafters touch it
        section = choose(kinds.PURLIN, f"under {side.name}", rafter)
        for a, b in _within(face, height, shape, bearings.width, section.breadth):
            counts[side.name] = counts.get(side.name, 0) + 1
            more = "" if counts[side.name] == 1 else "bcdefgh"[min(counts[side.name] - 2, 6)]
            name = MemberName(HostName("roof", roof.id), "purlin", f"under {side.name}{more}")
            section = choose(kinds.PURLIN, f"under {side.name}{more}", rafter)
            found.append(
                UnderPurlin(n, name, f"{roof.id}-Q{len(found) + 1:02d}", a, b, top, section)
            )
    return tuple(found)


def _within(
    face: Face, height: float, shape: RoofShape, width: float, breadth: float
) -> Iterable[tuple[Point, Point]]:
    """Where a level line of a plane lies inside the walls, clear of hips and valleys."""
    from shapely import LineString, Polygon

    k = face.pitch
    up = (face.plane[0] / k, face.plane[1] / k)
    along = (up[1], -up[0])
    x0, y0, x1, y1 = box(face.outline)
    middle = ((x0 + x1) / 2, (y0 + y1) / 2)
    spot = add(middle, up, (height - face.height(middle)) / k)
    reach = math.hypot(x1 - x0, y1 - y0)
    # Clear of the lines beside it by half its own body as well, which lies up the slope from the
    # line.
    plane = Polygon(face.outline, face.holes).buffer(-FROM_HIP, join_style="mitre")
    inside = Polygon(shape.rings[0], shape.rings[1:]).buffer(-max(width, 1.0), join_style="mitre")
    room = plane.intersection(inside)
    lines: Any = [
        LineString(
            [add(add(spot, up, off), along, -reach), add(add(spot, up, off), along, reach)]
        ).intersection(room)
        for off in (0.0, breadth)
    ]
    parts = [[g for g in getattr(x, "geoms", [x]) if g.length > SHORTEST] for x in lines]
    for g in parts[0]:
        a, b = (dot(sub(p, spot), along) for p in (g.coords[0], g.coords[-1]))
        low, high = min(a, b), max(a, b)
        for other in parts[1]:
            c, d = sorted(dot(sub(p, spot), along) for p in (other.coords[0], other.coords[-1]))
            if min(high, d) - max(low, c) > SHORTEST:
                yield add(spot, along, max(low, c)), add(spot, along, min(high, d))
                break


def purlin_members(
    roof: RoofArea,
    shape: RoofShape,
    bearings: Bearings,
    purlins: Sequence[UnderPurlin],
    sections: dict[str, Section],
    usual: Section,
) -> Iterable[Member]:
    """Purlins with their struts: each from the purlin down to the nearest wall inside, no
    flatter than 45°."""
    strut = cut_from(roof, "struts", usual, sections)
    for p in purlins:
        face = shape.roof.faces[p.face]
        up = (face.plane[0] / face.pitch, face.plane[1] / face.pitch)
        way, length = unit(sub(p.b, p.a)), distance(p.a, p.b)
        middle = p.section.breadth / 2
        a, b = add(p.a, up, middle), add(p.b, up, middle)
        bottom = p.top - p.section.depth
        spans = max(1, math.ceil((length - 2 * FROM_END) / roof.rafters.strut_gap))
        supports, struts = [], []
        for k in range(spans + 1):
            # A little to its left, so that struts from both sides of a wall stand beside one
            # another on its plate.
            at = FROM_END + strut.breadth * 0.55 + (length - 2 * FROM_END) * k / spans
            spot = add(a, way, at)
            name = MemberName(p.name.host, "strut", p.name.row, f"{k + 1:02d}")
            foot = _foot(spot, bottom - bearings.height, bearings.strips)
            supports.append(Support(at, strut.depth, name if foot else None, spot))
            if foot is not None:
                struts.append(
                    _strut(
                        roof,
                        strut,
                        name,
                        f"{p.mark}S{k + 1:02d}",
                        (spot, bottom),
                        (foot, bearings.height),
                        way,
                    )
                )
        yield level_piece(
            p.name,
            p.mark,
            kinds.PURLIN,
            p.name.host,
            roof.plate,
            Cut(p.section.name, f"{roof.species} {roof.grade}", p.section.breadth),
            a,
            b,
            bottom,
            p.top,
            tuple(supports),
        )
        yield from struts


def props(
    roof: RoofArea,
    bearings: Bearings,
    carried: Sequence[Member],
    sections: dict[str, Section],
    usual: Section,
) -> Iterable[Member]:
    """The upright props under the ends of ridge beams, down to the walls and beams that lie
    at the plates."""
    section = cut_from(roof, "struts", usual, sections)
    n = 0
    for m in carried:
        bottom = min(z for *_, z in m.solid.points())
        for s in m.carrier.supports:
            if isinstance(s.on, MemberName) and s.on.family == "strut":
                under = strip_under(s.point, bearings.strips)
                n += 1
                along = unit(sub(m.end[:2], m.start[:2]))
                yield _strut(
                    roof,
                    section,
                    s.on,
                    f"{roof.id}-U{n:02d}",
                    (s.point, bottom),
                    ((under, s.point), bearings.height),
                    along,
                )


Foot = tuple[Rest | None, Point]


def _foot(spot: Point, rise: float, strips: Sequence[Strip]) -> Foot | None:
    """The wall inside that a strut reaches from a place over it, the nearest, and where on
    it; None where all lie too far aside."""
    from shapely import Point as Dot
    from shapely import Polygon

    best: tuple[float, Rest, Point] | None = None
    for s in strips:
        if s.outer or not wall_key(s.on):
            continue
        ring = Polygon(s.ring)
        short = min(math.dist(*e) for e in zip(s.ring, [*s.ring[1:], s.ring[0]]))
        core = ring.buffer(-short * 0.45, join_style="mitre")  # on the middle of the plate
        if core.is_empty:
            continue
        near = (
            core.exterior.interpolate(core.exterior.project(Dot(spot)))
            if not core.contains(Dot(spot))
            else Dot(spot)
        )
        aside = near.distance(Dot(spot))
        if aside * FLATTEST <= rise and (best is None or aside < best[0] - TOUCH):
            best = (aside, s.on, (near.x, near.y))
    return None if best is None else (best[1], best[2])


def _strut(
    roof: RoofArea,
    section: Section,
    name: MemberName,
    mark: str,
    head: tuple[Point, float],
    foot: tuple[Foot, float],
    along: Point,
) -> Member:
    """One strut, cut level at its foot and its head."""
    (top, high), ((on, base), low) = head, foot
    aside = distance(top, base)
    way = unit(sub(top, base)) if aside > TOUCH else (-along[1], along[0])
    run, rise = (aside if aside > TOUCH else 0.0), high - low
    length = math.hypot(run, rise)
    half = section.depth / 2 * length / rise
    ring = ((-half, low), (half, low), (run + half, high), (run - half, high))
    angle = math.degrees(math.atan2(run, rise))
    words = "square" if run == 0.0 else f"{angle:.1f}°"
    sawn = Member(
        name,
        mark,
        kinds.STRUT,
        name.host,
        roof.plate,
        section.name,
        f"{roof.species} {roof.grade}",
        side_profile(base, way, ring, section.breadth),
        (*base, low),
        (*add(base, way, run), high),
        length,
        length + 2 * half * math.sin(math.radians(angle)),
        (words, words),
    )
    return carrying(sawn, (Support(0.0, section.depth, on, base),))
