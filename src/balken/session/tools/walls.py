"""Tools for walls: chains, rectangles, arcs, offsets, corners and tees, splitting."""

from collections.abc import Callable, Sequence
from functools import partial
from itertools import pairwise

from balken.drawing.marks import Drawing, Label, Mark, Stroke
from balken.geometry.plane import TOUCH, Point, add, distance, dot, left, rotate, sub, unit
from balken.model.edits.walls import (
    WallKind,
    arc_through,
    draw_walls,
    make_wall,
    meet_at,
    offset_walls,
    rectangle_of,
    split_wall,
    trim_to,
)
from balken.model.masonry import nearest
from balken.model.names import Name, keys_of
from balken.model.project import Project, wall
from balken.model.walls import Wall, arc_points, direction_of, straightened, wall_length
from balken.session.tools.asking import Bench, Do, Steps, Tool, ask, clicked, wall_kind
from balken.site.bodies import bodies
from balken.units import format_length, parse_length


def draw(bench: Bench, turn: float, step: Callable[[float], float]) -> Tool:
    """Draw walls in the shape the kit says, one after another, until Enter or Esc."""
    while True:
        shape = bench.kit.shape
        if shape == "rectangle":
            done = yield from _rectangle(bench, turn)
        elif shape == "arc":
            done = yield from _arc(bench, step)
        else:
            done = yield from _chain(bench, step)
        if done:
            return


def _chain(bench: Bench, step: Callable[[float], float]) -> Steps[bool]:
    start = yield from ask("Click or type where the wall begins. Enter ends.", ends=True)
    if start.finished:
        return True
    first = last = start.point
    drawn = 0
    while True:
        words = (
            "Click where it goes, or type a length, Tab, an angle. Arrows lock a way. Enter ends."
        )
        answer = yield from ask(
            words,
            anchor=last,
            ghost=partial(ghost_walls, bench, last),
            ends=True,
            step=_stepping(bench, step),
        )
        if answer.finished:
            return False
        end = first if drawn > 1 and distance(answer.point, first) < 5 * TOUCH else answer.point
        made = yield Do("draw wall", partial(draw_walls, kind=wall_kind(bench), points=(last, end)))
        if made:
            last, drawn = end, drawn + 1
            if end == first:
                return False


def _stepping(bench: Bench, step: Callable[[float], float]) -> Callable[[float], float]:
    """How free lengths are rounded: to the block module where the walls have one."""
    body = next((b for b in bench.project.wall_build_ups if b.id == bench.kit.build_up), None)
    if body is None or body.module is None:
        return step
    module = body.module
    return lambda length: nearest(length, "outside", module)


def _rectangle(bench: Bench, turn: float) -> Steps[bool]:
    start = yield from ask("Click or type one corner. Enter ends.", ends=True)
    if start.finished:
        return True
    a = start.point

    def read(pointer: Point, numbers: Sequence[float]) -> Point:
        across, up = (*numbers, 0.0)[:2]
        way = rotate((1.0, 0.0), turn)
        diagonal = sub(pointer, a)
        signs = [-1.0 if dot(diagonal, w) < 0 else 1.0 for w in (way, left(way))]
        return add(
            add(a, way, across * signs[0]),
            left(way),
            (up or abs(dot(diagonal, left(way)))) * signs[1],
        )

    def corners(p: Point) -> list[Point]:
        found = rectangle_of(a, p, turn)
        return found if bench.kit.outside == "right" else found[::-1]

    def ghost(p: Point) -> Drawing:
        return _outline(bench, corners(p), closed=True)

    other = yield from ask(
        "Click the corner across, or type length, Tab, width.",
        anchor=a,
        fields=("length", "width"),
        read=read,
        ghost=ghost,
    )
    kind = wall_kind(bench)
    yield Do("draw walls", partial(draw_walls, kind=kind, points=corners(other.point), closed=True))
    return False


def _arc(bench: Bench, step: Callable[[float], float]) -> Steps[bool]:
    start = yield from ask("Click or type where the curved wall begins. Enter ends.", ends=True)
    if start.finished:
        return True
    a = start.point
    end = yield from ask(
        "… and where it ends.", anchor=a, ghost=lambda p: (Stroke((a, p), "hidden"),), step=step
    )
    b = end.point

    def ghost(p: Point) -> Drawing:
        return (Stroke(tuple(arc_points(a, b, arc_through(a, b, p))), "mark"),)

    through = yield from ask("Click a place it runs through.", anchor=a, ghost=ghost)
    middle = through.point

    def change(project: Project) -> Project:
        return draw_walls(project, wall_kind(bench), (a, b), bulges=(arc_through(a, b, middle),))

    yield Do("draw curved wall", change)
    return False


def ghost_walls(bench: Bench, start: Point, end: Point) -> Drawing:
    """The outline of a wall that would be drawn."""
    return _outline(bench, [start, end])


def _outline(bench: Bench, points: list[Point], *, closed: bool = False) -> Drawing:
    chain = [*points, points[0]] if closed else points
    kind: WallKind = wall_kind(bench)
    walls = tuple(
        make_wall(bench.project, kind, f"ghost{i}", a, b)
        for i, (a, b) in enumerate(pairwise(chain))
        if distance(a, b) > TOUCH
    )
    marks: list[Mark] = [Stroke((*b.ring, b.ring[0]), "mark") for b in bodies(walls).values()]
    if closed and len(points) == 4:
        marks += [_length(bench, points[0], points[1]), _length(bench, points[1], points[2])]
    return tuple(marks)


def _length(bench: Bench, a: Point, b: Point) -> Label:
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    return Label(
        format_length(distance(a, b), bench.project.system), middle, 2.8, boxed=True, bold=True
    )


def offset(bench: Bench, keys: tuple[Name, ...]) -> Tool:
    """Add walls beside the selected ones, at a typed distance, on the side that is clicked."""
    chosen = tuple(keys_of(keys, "wall"))
    if not chosen:
        picked = yield from ask(
            "Click the wall the new one follows.", kind="thing", things=("wall",)
        )
        chosen = (clicked(picked, "wall"),)
    far = yield from ask(
        "How far beside it?", kind="text", check=partial(parse_length, system=bench.project.system)
    )
    if far.finished:
        return
    by = parse_length(far.text, bench.project.system)
    item = wall(bench.project, chosen[0])

    def signed(p: Point) -> float:
        return by if dot(sub(p, item.start), left(direction_of(item))) > 0 else -by

    def ghost(p: Point) -> Drawing:
        after = offset_walls(bench.project, chosen, signed(p))
        new = straightened(after.walls[len(bench.project.walls) :])
        return tuple(Stroke((*b.ring, b.ring[0]), "mark") for b in bodies(new).values())

    side = yield from ask("Click the side it goes to.", ghost=ghost, free=True)
    yield Do("offset walls", partial(offset_walls, keys=chosen, by=signed(side.point)))


def corner(bench: Bench) -> Tool:
    """Bring two walls to a corner."""
    a = yield from ask("Click the first wall of the corner.", kind="thing", things=("wall",))
    b = yield from ask("Click the wall that meets it.", kind="thing", things=("wall",))
    yield Do("join at a corner", partial(meet_at, key=clicked(a, "wall"), other=clicked(b, "wall")))


def tee(bench: Bench) -> Tool:
    """Trim or extend a wall to another: a tee."""
    a = yield from ask(
        "Click the wall to trim or extend, on the part that stays.", kind="thing", things=("wall",)
    )
    b = yield from ask("Click the wall it ends at.", kind="thing", things=("wall",))
    yield Do(
        "trim or extend",
        partial(trim_to, key=clicked(a, "wall"), other=clicked(b, "wall"), keep=a.point),
    )


def split(bench: Bench) -> Tool:
    """Split a wall at a clicked place, or at a typed distance from its start."""
    picked = yield from ask("Click the wall to split.", kind="thing", things=("wall",))
    key = clicked(picked, "wall")
    item = wall(bench.project, key)

    def read(pointer: Point, numbers: Sequence[float]) -> Point:
        return add(item.start, direction_of(item), numbers[0])

    def ghost(p: Point) -> Drawing:
        on = add(item.start, direction_of(item), _along(item, p))
        across = left(direction_of(item))
        return (
            Stroke((add(on, across, -item.thickness), add(on, across, item.thickness)), "mark"),
        )

    where = yield from ask(
        "Click where, or type the distance from its start.",
        fields=("from start",),
        read=read,
        ghost=ghost,
    )
    yield Do("split wall", partial(split_wall, key=key, at=_along(item, where.point)))


def _along(item: Wall, p: Point) -> float:
    if item.bulge:
        return wall_length(item) / 2
    return dot(sub(p, item.start), unit(sub(item.end, item.start)))
