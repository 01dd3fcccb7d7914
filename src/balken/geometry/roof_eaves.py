"""From walls to eaves: the outline of a roof that reaches out over its walls."""

from collections.abc import Sequence

from msgspec.structs import replace

from balken.geometry.plane import Point, Ring, cross, dot, left, sub, unit
from balken.geometry.roof_front import ALIKE, NEAR, RoofError, Side


def over_walls(
    rings: Sequence[Ring], sides: Sequence[Sequence[Side]], out: Sequence[Sequence[float]]
) -> tuple[list[Ring], list[list[Side]]]:
    """The outline at the eaves and the sides that rise from it.

    Each plane stays where it is over the wall: its eave lies as much lower as its overhang rises. A
    gable's overhang carries the neighbouring planes out with it.

    Args:
        rings: the outline at the walls counter-clockwise, courtyards clockwise, mm.
        sides: how the roof rises from the walls, with its height there.
        out: how far each side reaches out of its wall, mm; in where negative.

    Raises:
        RoofError: two sides in one line reach out unlike, or an outline folds over: the overhang is
            too long for its side.
    """
    eaves = [_moved(ring, reach) for ring, reach in zip(rings, out)]
    lower = [
        [
            replace(s, height=s.height - s.pitch * o) if s.pitch is not None else s
            for s, o in zip(rules, reach)
        ]
        for rules, reach in zip(sides, out)
    ]
    _check(rings, eaves)
    return eaves, lower


def _moved(ring: Ring, out: Sequence[float]) -> Ring:
    lines = []
    for (a, b), reach in zip(zip(ring, [*ring[1:], ring[0]]), out):
        normal = left(unit(sub(b, a)))
        lines.append((normal, dot(normal, a) - reach))
    return tuple(_corner(lines[n - 1], lines[n], ring[n], n, len(ring)) for n in range(len(ring)))


def _corner(
    one: tuple[Point, float], other: tuple[Point, float], near: Point, n: int, count: int
) -> Point:
    (u, c), (v, d) = one, other
    turn = cross(u, v)
    if abs(turn) < ALIKE:
        if abs(c - d) > NEAR:
            raise RoofError(
                f"sides {(n - 1) % count + 1} and {n + 1} run in one line and reach out"
                f" {abs(c - d):.0f} mm unlike, at"
                f" {near[0]:.0f}, {near[1]:.0f}: give them one overhang"
            )
        away = c - dot(u, near)
        return near[0] + u[0] * away, near[1] + u[1] * away
    return (c * v[1] - d * u[1]) / turn, (d * u[0] - c * v[0]) / turn


def _check(rings: Sequence[Ring], eaves: Sequence[Ring]) -> None:
    """Refuse eaves whose sides turned round, or that cross each other."""
    from shapely import Polygon

    for ring, moved in zip(rings, eaves):
        for n, (a, b, p, q) in enumerate(
            zip(ring, [*ring[1:], ring[0]], moved, [*moved[1:], moved[0]])
        ):
            if dot(sub(b, a), sub(q, p)) <= 0:
                raise RoofError(
                    f"the overhangs beside side {n + 1} are longer than it has room for, at"
                    f" {a[0]:.0f}, {a[1]:.0f}:"
                    " make them shorter"
                )
    if not Polygon(eaves[0], eaves[1:]).is_valid:
        raise RoofError("the eaves cross each other: make the overhangs shorter")
