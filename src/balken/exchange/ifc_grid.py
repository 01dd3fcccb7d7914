"""Grids of an IFC file: straight lines both ways, lines that lie askew in a grid of their own,
rings and rays."""

import math
from collections.abc import Iterator
from typing import Any, Final

import msgspec
import numpy as np

from balken.exchange.ifc_curve import ShapeError, arc_of_curve, curve_points, straight_ends
from balken.exchange.ifc_shape import Matrix, placement
from balken.geometry.plane import ANGLE, Point, cross, distance, meet, rotate, sub, unit
from balken.model.grids import Grid, GridLine
from balken.model.project import ReadNote

ROUND: Final = 5.0
"""Arcs whose middles lie this near share one; a line this near to the middle runs through it,
mm."""
Named = tuple[str, Point, Point]
Arc = tuple[str, Point, float, float, float]
"""Label, centre, radius, first and last angle in degrees."""


def read_grid(product: Any, number: int, scale: float, notes: list[ReadNote]) -> list[Grid]:
    """The grids that an IfcGrid is here."""
    guid = str(product.GlobalId or "")[:200]
    try:
        matrix = placement(product.ObjectPlacement, scale)
    except Exception:
        notes.append(ReadNote(guid, "grid", "its placement cannot be read"))
        return []
    lines: list[Named] = []
    arcs: list[Arc] = []
    for axis in _axes(product):
        label = str(axis.AxisTag or "?")[:20] or "?"
        try:
            _take(axis, label, scale, matrix, lines, arcs)
        except Exception as error:
            why = str(error) if isinstance(error, ShapeError) else "it is damaged"
            notes.append(ReadNote(guid, f"grid line {label}", why[:500]))
    round_, lines = _radial(arcs, lines)
    return [
        msgspec.structs.replace(g, id=f"G{number}" if i == 0 else f"G{number}-{i + 1}")
        for i, g in enumerate([*round_, *_straight(lines)])
    ]


def _axes(product: Any) -> Iterator[Any]:
    for axes in (product.UAxes, product.VAxes, product.WAxes):
        yield from axes or ()


def _take(
    axis: Any, label: str, scale: float, matrix: Matrix, lines: list[Named], arcs: list[Arc]
) -> None:
    arc = arc_of_curve(axis.AxisCurve, scale)
    if arc is not None:
        centre, radius, a, b = arc
        x, y = _world(matrix, centre)
        turn = math.degrees(math.atan2(matrix[1, 0], matrix[0, 0]))
        arcs.append((label, (x, y), radius, a + turn, b + turn))
        return
    p, q = straight_ends([_world(matrix, p) for p in curve_points(axis.AxisCurve, scale)])
    lines.append((label, p, q) if axis.SameSense else (label, q, p))


def _world(matrix: Matrix, p: Point) -> Point:
    x, y, _, _ = matrix @ np.array([p[0], p[1], 0.0, 1.0])
    return float(x), float(y)


def _radial(arcs: list[Arc], lines: list[Named]) -> tuple[list[Grid], list[Named]]:
    """A grid for each common middle of arcs, with the lines that run through it, and the
    lines left over."""
    found = []
    rest = list(lines)
    open_ = list(arcs)
    while open_:
        centre = open_[0][1]
        mine = [a for a in open_ if distance(a[1], centre) <= ROUND]
        open_ = [a for a in open_ if a not in mine]
        rays = [x for x in rest if _runs_through(x, centre)]
        rest = [x for x in rest if x not in rays]
        made = [
            GridLine(f"C{i}", label, "ring", _round(r), *_turns(a, b))
            for i, (label, _, r, a, b) in enumerate(mine, 1)
        ]
        made += [_ray(f"D{i}", ray, centre) for i, ray in enumerate(rays, 1)]
        found.append(Grid("G", (_round(centre[0]), _round(centre[1])), 0.0, _own_labels(made)))
    return found, rest


def _runs_through(line: Named, centre: Point) -> bool:
    _, p, q = line
    return abs(cross(unit(sub(q, p)), sub(centre, p))) <= ROUND


def _ray(key: str, line: Named, centre: Point) -> GridLine:
    label, p, q = line
    near, far = sorted((p, q), key=lambda e: distance(e, centre))
    angle = math.degrees(math.atan2(far[1] - centre[1], far[0] - centre[0])) % 360
    ends = (_round(distance(near, centre)), _round(distance(far, centre)))
    return GridLine(key, label, "ray", round(angle, 9), *ends, "end")


def _turns(a: float, b: float) -> tuple[float, float]:
    """The angles of an arc with the first between 0 and 360 and the last above it."""
    span = b - a
    start = a % 360
    return round(start, 9), round(start + span, 9)


def _straight(lines: list[Named]) -> list[Grid]:
    """A grid for each way that lines lie, square ones together."""
    found = []
    rest = list(lines)
    while rest:
        angle = _lean(unit(sub(rest[0][2], rest[0][1])))
        mine: list[Named] = []
        left_over: list[Named] = []
        for item in rest:
            way = rotate(unit(sub(item[2], item[1])), -angle)
            (mine if min(abs(way[0]), abs(way[1])) <= math.sin(ANGLE) else left_over).append(item)
        rest = left_over
        origin = _origin(mine, angle)
        made = []
        for i, (label, a, b) in enumerate(mine, 1):
            p, q = (rotate(sub(end, origin), -angle) for end in (a, b))
            along_x = abs(q[1] - p[1]) <= abs(q[0] - p[0])
            offset = (p[1] + q[1]) / 2 if along_x else (p[0] + q[0]) / 2
            ends = (p[0], q[0]) if along_x else (p[1], q[1])
            made.append(
                GridLine(
                    f"A{i}",
                    label,
                    "x" if along_x else "y",
                    _round(offset),
                    _round(min(ends)),
                    _round(max(ends)),
                )
            )
        found.append(Grid("G", origin, math.degrees(angle), _own_labels(made)))
    return found


def _origin(lines: list[Named], angle: float) -> Point:
    """Where the lowest and the leftmost line cross; the first line's start where all run one
    way."""
    local = [(rotate(a, -angle), rotate(b, -angle)) for _, a, b in lines]
    xs = [(a, b) for a, b in local if abs(b[1] - a[1]) <= abs(b[0] - a[0])]
    ys = [(a, b) for a, b in local if abs(b[1] - a[1]) > abs(b[0] - a[0])]
    if not xs or not ys:
        return lines[0][1]
    a, b = min(xs, key=lambda s: s[0][1])
    c, d = min(ys, key=lambda s: s[0][0])
    hit = meet(a, unit(sub(b, a)), c, unit(sub(d, c)))
    x, y = rotate(hit, angle) if hit else lines[0][1]
    return _round(x), _round(y)


def _lean(direction: Point) -> float:
    """The turn of a grid: the angle of its first line brought between -45° and 45°."""
    angle = math.atan2(direction[1], direction[0])
    while angle > math.pi / 4 + 1e-9:
        angle -= math.pi / 2
    while angle < -math.pi / 4 - 1e-9:
        angle += math.pi / 2
    return 0.0 if abs(math.sin(angle)) < 1e-9 else angle


def _round(value: float) -> float:
    return round(value, 6) + 0.0


def _own_labels(lines: list[GridLine]) -> tuple[GridLine, ...]:
    seen: set[tuple[str, str]] = set()
    found = []
    for line in lines:
        label, k = line.label, 2
        while (line.runs, label) in seen:
            label, k = f"{line.label[:15]}.{k}", k + 1
        seen.add((line.runs, label))
        found.append(msgspec.structs.replace(line, label=label))
    return tuple(found)
