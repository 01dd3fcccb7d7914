"""Fascia: the boards along the eaves, at the ends of the rafters, mitred or butted at the
corners."""

import math
from collections.abc import Iterable
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.roofs.parts import cut_from
from balken.framing.roofs.shape import Edge, RoofShape
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    cross,
    distance,
    distance_to_segment,
    dot,
    edges,
    sub,
    unit,
)
from balken.geometry.roof_planes import Face
from balken.geometry.solid import Extrusion
from balken.model.names import HostName, MemberName
from balken.model.roofs import RoofArea
from balken.model.sections import Section

ALL_SQUARE: Final = 1e-3
"""Corners whose sides lie this near to square are square: cosine of the angle."""
LEVEL: Final = 1e-9
"""A plane that rises less has no eave."""
SHORTEST: Final = 100.0
"""A shorter piece of eave has no board, mm."""


class Run(NamedTuple):
    """A straight eave: its side, its ends in plan, the roof to its left, its slope, and the height
    of the roof over it."""

    side: Edge
    a: Point
    b: Point
    slope: float
    z: float


def fascias(roof: RoofArea, shape: RoofShape, sections: dict[str, Section]) -> Iterable[Member]:
    """The fascia along the eaves of a roof, its top in the plane of the roof."""
    if roof.rafters.fascia is None:
        return
    section = cut_from(roof, "fascia", sections[roof.rafters.fascia], sections)
    counts: dict[str, int] = {}
    n = 0
    for ring in (shape.eaves, *shape.court_eaves):
        runs = [run for a, b in edges(ring) for run in _runs(shape, a, b)]
        for k, run in enumerate(runs):
            side = run.side.name
            counts[side] = counts.get(side, 0) + 1
            more = "" if counts[side] == 1 else "bcdefgh"[min(counts[side] - 2, 6)]
            n += 1
            yield _board(roof, section, runs, k, f"{side}{more}", f"{roof.id}-F{n:02d}")


def _runs(shape: RoofShape, a: Point, b: Point) -> list[Run]:
    """The pieces of a side of the eaves from which a plane rises; none of a rake, and none
    where another roof runs into it."""
    if distance(a, b) < SHORTEST:
        return []
    way = unit(sub(b, a))
    found: list[tuple[float, Run]] = []
    for face in shape.roof.faces:
        edge = shape.edge_of(face)
        if edge is None or edge.slope is None or not _rises_square(face, way):
            continue
        for p, q in edges(face.outline):
            if _lies_on(p, q, a, b):
                low, high = sorted((p, q), key=lambda x: dot(sub(x, a), way))
                run = Run(edge, low, high, face.pitch, face.height(low))
                found.append((dot(sub(low, a), way), run))
    return [run for _, run in sorted(found, key=lambda f: f[0])]


def _rises_square(face: Face, way: Point) -> bool:
    """Whether a plane rises square from a side, to its left."""
    up = face.plane[:2]
    is_square = abs(dot(way, up)) <= ALL_SQUARE * face.pitch
    return face.pitch >= LEVEL and is_square and cross(way, up) >= 0


def _lies_on(p: Point, q: Point, a: Point, b: Point) -> bool:
    """Whether a side of a plane lies on a side of the eaves."""
    apart = max(distance_to_segment(p, a, b), distance_to_segment(q, a, b))
    return apart < TOUCH and distance(p, q) > SHORTEST


def _board(
    roof: RoofArea, section: Section, runs: list[Run], k: int, name: str, mark: str
) -> Member:
    """One board: plumb, or square to the slope as the rafters are cut."""
    run = runs[k]
    way = unit(sub(run.b, run.a))
    out = (way[1], -way[0])
    length, thick, depth = distance(run.a, run.b), section.breadth, section.depth
    slope = math.atan(run.slope)
    tilt = slope if roof.eave_cut == "square" else 0.0
    top = -thick * math.tan(slope - tilt)  # its outer edge lies in the plane of the roof
    joints = roof.rafters.joints if tilt == 0.0 else "mitred"
    first, last = (_end(runs, k, joints, thick, start=start) for start in (True, False))

    def ring(y: float) -> Ring:
        def reach(end: End, z: float) -> float:
            return end.by + end.mitre * (math.sin(tilt) * z + math.cos(tilt) * y)

        low, high = top - depth, top
        return (
            (-reach(first, low), low),
            (length + reach(last, low), low),
            (length + reach(last, high), high),
            (-reach(first, high), high),
        )

    inner, outer = ring(0.0), ring(thick)
    up = (out[0] * math.sin(tilt), out[1] * math.sin(tilt), math.cos(tilt))
    solid = Extrusion(
        (*run.a, run.z), (*way, 0.0), up, inner, thick, ((thick, outer),) if inner != outer else ()
    )
    stations = [s for s, _ in (*inner, *outer)]
    a, b = (add(run.a, way, s) for s in (min(stations), max(stations)))
    z = run.z + top - depth / 2
    host = HostName("roof", roof.id)
    words = tuple(
        "square" if e.mitre == 0.0 else f"mitred {math.degrees(math.atan(abs(e.mitre))):.1f}°"
        for e in (first, last)
    )
    return Member(
        MemberName(host, "fascia", name),
        mark,
        kinds.FASCIA,
        host,
        roof.plate,
        section.name,
        f"{roof.species} {roof.grade}",
        solid,
        (*a, z),
        (*b, z),
        distance(a, b),
        distance(a, b),
        words,
    )


class End(NamedTuple):
    """How far a board reaches past the corner of its eave, mm: ``by`` always, and ``mitre`` per mm
    outward of it."""

    by: float = 0.0
    mitre: float = 0.0


def _end(runs: list[Run], k: int, joints: str, thick: float, *, start: bool) -> End:
    """How a board ends: mitred with the one beside it, past its end, or at its face; square
    where none is there."""
    j = (k - 1 if start else k + 1) % len(runs)
    run, other = runs[k], runs[j]
    corner, there = (run.a, other.b) if start else (run.b, other.a)
    if j == k or distance(corner, there) > TOUCH:
        return End()
    one, two = unit(sub(run.b, run.a)), unit(sub(other.b, other.a))
    turn, facing = cross(one, two) * (-1.0 if start else 1.0), dot(one, two)
    sign = 1.0 if turn > 0 else -1.0
    if joints == "mitred" or abs(facing) > ALL_SQUARE:
        return End(mitre=sign * math.tan(math.atan2(abs(turn), facing) / 2))
    through = not start if joints == "butt" else (k % 2, k) < (j % 2, j)
    # At an outside corner the board that goes through covers the other's end; at an inside one it
    # is the other that stops short.
    return End(sign * thick if through == (turn > 0) else 0.0)
