"""Where rafters lie on the planes of a roof, before they are cut: their lines on the surface, and what they run between."""

import math
from collections.abc import Iterable
from typing import Final, Literal

import msgspec

from balken.geometry.plane import Point, Ring, distance_to_segment, dot, left
from balken.geometry.roof_lines import Kind as LineKind
from balken.geometry.roof_lines import RoofLine, roof_lines
from balken.geometry.roof_planes import Face, Roof

RafterKind = Literal["common", "hip jack", "valley jack", "cripple jack"]
ON: Final = 1.0
"""A rafter ends at the line this near to its end, mm."""
SHORTEST: Final = 50.0
"""In the corner of a plane a rafter shorter than this in plan is left out, mm."""
LOW: Final[tuple[LineKind, ...]] = ("eave", "break")
"""What a rafter stands on at its foot, where it does not start in a valley."""


class RafterLine(msgspec.Struct, frozen=True, gc=False):
    """One rafter as a line on the roof surface, from its foot up."""

    kind: RafterKind
    face: int
    row: int
    """Its number along the eave of its side, from the left as one looks up the roof."""
    start: tuple[float, float, float]
    end: tuple[float, float, float]
    foot: LineKind
    head: LineKind

    @property
    def length(self) -> float:
        """Its length on the slope, mm."""
        return math.dist(self.start, self.end)

    @property
    def run(self) -> float:
        """Its length in plan, mm."""
        return math.dist(self.start[:2], self.end[:2])


def rafter_lines(roof: Roof, spacing: float, first: float | None = None) -> tuple[RafterLine, ...]:
    """Return the lines of all commons and jacks.

    Args:
        roof: its planes.
        spacing: between rafters, in plan along the eaves, mm.
        first: how far the first stands from the left end of each side's lowest edge, mm; a spacing where nothing is said.

    Raises:
        ValueError: a spacing of nothing.
    """
    if spacing < ON:
        raise ValueError(f"a spacing of {spacing:g} mm sets no rafters out")
    lines = roof_lines(roof)
    found: list[RafterLine] = []
    for n, face in enumerate(roof.faces):
        if face.pitch > 1e-9:
            mine = [line for line in lines if n in line.faces]
            found += _on_face(n, face, mine, spacing, spacing if first is None else first)
    return tuple(found)


def _on_face(n: int, face: Face, lines: list[RoofLine], spacing: float, first: float) -> Iterable[RafterLine]:
    steep = face.pitch
    up: Point = (face.plane[0] / steep, face.plane[1] / steep)
    along = left((-up[0], -up[1]))  # to the right as one looks up the roof
    lowest = [line for line in lines if line.kind in LOW and _is_low(line, face)]
    corners = [p for line in lowest for p in (line.start, line.end)] or [(*p, 0.0) for p in face.outline]
    begin = min(dot((p[0], p[1]), along) for p in corners)
    places = [dot(p, along) for p in face.outline]
    row = math.ceil((min(places) - begin - first) / spacing + 1e-9)
    while (at := begin + first + row * spacing) < max(places) - 1e-6:
        for low, high in _cuts((face.outline, *face.holes), along, up, at):
            if high - low < SHORTEST:
                continue
            a, b = _spot(along, up, at, low), _spot(along, up, at, high)
            foot, head = _line_at(lines, a), _line_at(lines, b)
            yield RafterLine(_kind(foot, head), n, row + 1, (*a, face.height(a)), (*b, face.height(b)), foot, head)
        row += 1


def _is_low(line: RoofLine, face: Face) -> bool:
    """Tell whether a line lies at the foot of a face, as seen from the middle of it."""
    heights = [face.height(p) for p in face.outline]
    return (line.start[2] + line.end[2]) / 2 < (min(heights) + max(heights)) / 2


def _spot(along: Point, up: Point, at: float, rise: float) -> Point:
    return along[0] * at + up[0] * rise, along[1] * at + up[1] * rise


def _cuts(rings: tuple[Ring, ...], along: Point, up: Point, at: float) -> list[tuple[float, float]]:
    """Return the stretches of a line up the slope that lie inside a face."""
    marks = []
    for ring in rings:
        for p, q in zip(ring, [*ring[1:], ring[0]]):
            u, v = dot(p, along) - at, dot(q, along) - at
            if (u <= 0) != (v <= 0):
                share = u / (u - v)
                marks.append(dot(p, up) + share * (dot(q, up) - dot(p, up)))
    marks.sort()
    return list(zip(marks[::2], marks[1::2]))


def _line_at(lines: list[RoofLine], p: Point) -> LineKind:
    """Return what kind of line lies at a place of a face's edge. Where two hips meet, that is the end of the ridge."""
    away = [(distance_to_segment(p, line.start[:2], line.end[:2]), line.kind) for line in lines]
    here = [kind for distance, kind in away if distance < ON]
    if here.count("hip") > 1:
        return "ridge"
    return here[0] if len(here) == 1 else min(away)[1]


def _kind(foot: LineKind, head: LineKind) -> RafterKind:
    if foot == "valley":
        return "cripple jack" if head == "hip" else "valley jack"
    return "hip jack" if head == "hip" else "common"
