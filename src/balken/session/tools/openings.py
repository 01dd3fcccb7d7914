"""The tool for doors, windows and plain openings: shown in the wall under the pointer, placed by
click or by distance."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Final

from balken.drawing.marks import Drawing, Label, Mark, Stroke
from balken.errors import BalkenError
from balken.geometry.plane import Point, add, distance_to_segment, dot, left, sub
from balken.model.edits.openings import FIRST, add_opening, rough
from balken.model.project import Project
from balken.model.walls import Opening, Wall, direction_of, reach, wall_length
from balken.session.tools.asking import Bench, Do, Tool, ask
from balken.units import format_length

NEAR: Final = 600.0
"""A wall further away than this is not the one that is meant, mm."""


def opening_of(bench: Bench, at: float) -> Opening:
    """An opening of the kit, its near edge at a distance from the wall's start."""
    kit = bench.kit
    first = FIRST[bench.project.system][kit.opening]
    unit = kit.unit if kit.unit[0] > 0 and kit.unit[1] > 0 else (first[0], first[1])
    width, height = rough(kit.opening, unit, bench.project.system)
    sill = first[2] if kit.sill is None else kit.sill
    return Opening("new", kit.opening, round(at, 6), width, height, sill, unit)


def wall_near(bench: Bench, p: Point) -> Wall | None:
    """The straight wall of the plan that a place lies on or near."""
    walls = [w for w in bench.project.walls if w.base == bench.base and not w.bulge]
    away = [
        (distance_to_segment(p, *_middle_line(w)) - w.thickness / 2, i) for i, w in enumerate(walls)
    ]
    if not away:
        return None
    nearest, i = min(away)
    return walls[i] if nearest <= NEAR else None


def _middle_line(w: Wall) -> tuple[Point, Point]:
    normal = left(direction_of(w))
    shift = sum(reach(w)) / 2
    return add(w.start, normal, shift), add(w.end, normal, shift)


def place(bench: Bench, step: Callable[[float], float]) -> Tool:
    """Place openings one after another until Esc."""

    def at(p: Point) -> tuple[Wall, float] | None:
        """The wall of a place, and where an opening with its middle there begins."""
        item = wall_near(bench, p)
        if item is None:
            return None
        return item, dot(sub(p, item.start), direction_of(item)) - opening_of(bench, 0.0).width / 2

    def middle(item: Wall, edge: float) -> Point:
        return add(item.start, direction_of(item), edge + opening_of(bench, 0.0).width / 2)

    def catch(p: Point) -> Point:
        found = at(p)
        if found is None:
            return p
        item, edge = found
        free = max(0.0, wall_length(item) - opening_of(bench, 0.0).width)
        return middle(item, min(free, max(0.0, step(edge))))

    def read(pointer: Point, numbers: Sequence[float]) -> Point:
        item = wall_near(bench, pointer)
        return pointer if item is None else middle(item, numbers[0])

    def ghost(p: Point) -> Drawing:
        found = at(p)
        return _ghost(bench, *found) if found else ()

    while True:
        answer = yield from ask(
            "Click a wall, or point at one and type the distance from its start to the near edge.",
            fields=("from start",),
            read=read,
            ghost=ghost,
            catch=catch,
        )
        found = at(answer.point)
        if found is None:
            yield Do("place opening", _no_wall)
            continue
        item, edge = found
        new = opening_of(bench, edge)
        yield Do(f"place {new.kind}", partial(add_opening, key=item.id, opening=new))


def _no_wall(project: Project) -> Project:
    raise BalkenError("There is no wall there. Openings go into walls of this plan.")


def _ghost(bench: Bench, item: Wall, at: float) -> Drawing:
    way = direction_of(item)
    normal = left(way)
    high, low = reach(item)
    hole = opening_of(bench, at)
    p, q = add(item.start, way, at), add(item.start, way, at + hole.width)
    ring = (add(p, normal, low), add(q, normal, low), add(q, normal, high), add(p, normal, high))
    rest = wall_length(item) - at - hole.width
    marks: list[Mark] = [Stroke((*ring, ring[0]), "mark")]
    for a, b, length in ((item.start, p, at), (q, item.end, rest)):
        middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        marks.append(
            Label(
                format_length(length, bench.project.system),
                add(middle, normal, high + 60),
                2.6,
                boxed=True,
            )
        )
    return tuple(marks)
