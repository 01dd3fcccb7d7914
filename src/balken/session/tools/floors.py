"""Tools for floors: placed by a click in a room or by an outline, cut in two, opened; joists added
one by one."""

from functools import partial
from typing import Final

from balken.drawing.marks import Drawing, Stroke, rectangle
from balken.framing.hosts.floor_bearing import area_of, bearings_of_floor
from balken.framing.hosts.twice import floor_under
from balken.geometry.plane import TOUCH, Point, distance, holds
from balken.model.edits.common import EditError
from balken.model.edits.floors import add_floor, add_opening, bears_under, cut_floor, walls_under
from balken.model.edits.hosts import add_member
from balken.model.floors import FloorArea
from balken.model.names import HostName, ThingName
from balken.model.project import Project
from balken.session.tools.asking import Bench, Do, Steps, Tool, around_place, ask, two_places
from balken.units import format_area

FROM: Final = ("this room", "all walls here", "its corners")
HOLES: Final = {
    "stair": "a stair",
    "shaft": "a shaft",
    "chimney": "a chimney",
    "atrium": "an open space",
}


def place(bench: Bench) -> Tool:
    """Place floors: a click in a room, over all walls of the storey, or corner by corner."""
    if not bench.floor_level:
        raise EditError("A floor needs a level for its top. Add a level first.")
    if bench.kit.floor_from == "all walls here":
        yield from ask("Enter places a floor over all walls under it.", ends=True, free=True)
        yield Do("place a floor", partial(_over_walls, bench=bench))
        return
    while True:
        if bench.kit.floor_from == "its corners":
            corners = yield from corners_of(
                "Click the corners of the floor one after another; Enter closes it."
            )
            if corners is None:
                return
            yield Do("place a floor", partial(_by_corners, bench=bench, corners=corners))
        else:
            answer = yield from ask("Click inside a room. Enter ends.", ends=True, free=True)
            if answer.finished:
                return
            yield Do("place a floor", partial(_in_room, bench=bench, at=answer.point))


def corners_of(words: str) -> Steps[tuple[Point, ...] | None]:
    """Ask for corners until Enter; None where there are too few."""
    corners: list[Point] = []
    while True:

        def ghost(p: Point) -> Drawing:
            way = (*corners, p, corners[0]) if len(corners) > 1 else (*corners, p)
            return (Stroke(way, "mark"),) if corners else ()

        anchor = corners[-1] if corners else None
        answer = yield from ask(words, anchor=anchor, ghost=ghost, ends=True)
        if answer.finished or (
            len(corners) > 2 and distance(answer.point, corners[0]) < TOUCH * 20
        ):
            return tuple(corners) if len(corners) > 2 else None
        corners.append(answer.point)


def _fields(bench: Bench) -> dict[str, object]:
    kit = bench.kit
    fields: dict[str, object] = {"edge": kit.edge} if kit.edge else {}
    if kit.floor_build_up and any(b.id == kit.floor_build_up for b in bench.project.build_ups):
        fields["build_up"] = kit.floor_build_up
    return fields


def _over_walls(project: Project, bench: Bench) -> Project:
    walls = walls_under(project, bears_under(project, bench.floor_level))
    return _alone(*add_floor(project, bench.floor_level, walls, **_fields(bench)))


def _by_corners(project: Project, bench: Bench, corners: tuple[Point, ...]) -> Project:
    return _alone(*add_floor(project, bench.floor_level, (), corners=corners, **_fields(bench)))


def _alone(project: Project, key: str) -> Project:
    """The project with a floor that was added, where no other lies in its place.

    Raises:
        EditError: one does.
    """
    under = floor_under(project, key)
    if under is None:
        return project
    floor, area = under
    raise EditError(
        f"{floor.name} lies there already: {format_area(area, project.system)} would be floored"
        " twice. Cut that floor or move its edges, or take it away first."
    )


def _in_room(project: Project, bench: Bench, at: Point) -> Project:
    walls = walls_under(project, bears_under(project, bench.floor_level))
    if not walls:
        raise EditError("There are no walls here to lay a floor on. Draw its corners instead.")
    at = (round(at[0], 3), round(at[1], 3))
    project, key = add_floor(project, bench.floor_level, walls, room=at, **_fields(bench))
    if bearings_of_floor(project, next(f for f in project.floors if f.id == key)) is None:
        raise EditError(
            "No walls enclose that place. Click inside a room, or draw the corners of the floor."
        )
    return _alone(project, key)


def floor_at(project: Project, key: str, p: Point) -> FloorArea | None:
    """The floor at a level that holds a place; of several the smallest."""
    found = []
    for floor in project.floors:
        bearings = bearings_of_floor(project, floor)
        if floor.level == key and bearings is not None and holds(bearings.outline, p):
            found.append((len(floor.cuts) == 0, floor.room is None, floor))
    return min(found, key=lambda f: f[:2])[2] if found else None


def opening(bench: Bench) -> Tool:
    """Leave openings out of a floor: of a typed size round a click, or between two corners."""
    while True:
        words = HOLES[bench.kit.hole]
        length, width = bench.kit.hole_size
        if length > TOUCH and width > TOUCH:

            def around(p: Point, size: tuple[float, float] = (length, width)) -> Drawing:
                ring = around_place(p, size)
                return (Stroke((*ring, ring[0]), "mark"),)

            answer = yield from ask(
                f"Click the middle of {words}. Enter ends.", ghost=around, ends=True
            )
            if answer.finished:
                return
            yield Do(
                f"leave out {words}",
                partial(_hole, bench=bench, at=answer.point, size=(length, width)),
            )
            continue
        first = yield from ask(f"Click one corner of {words}. Enter ends.", ends=True)
        if first.finished:
            return
        a = first.point

        def ghost(p: Point, a: Point = a) -> Drawing:
            ring = rectangle(*a, *p)
            return (Stroke((*ring, ring[0]), "mark"),)

        second = yield from ask(
            "Click the corner across, or type how far it lies east, Tab, north.",
            anchor=a,
            ghost=ghost,
        )
        b = second.point
        middle, size = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), (abs(b[0] - a[0]), abs(b[1] - a[1]))
        yield Do(f"leave out {words}", partial(_hole, bench=bench, at=middle, size=size))


def _hole(project: Project, bench: Bench, at: Point, size: tuple[float, float]) -> Project:
    floor = floor_at(project, bench.floor_level, at)
    if floor is None:
        raise EditError("No floor lies there. Place a floor first, or click inside one.")
    at = (round(at[0], 3), round(at[1], 3))
    return add_opening(
        project, floor.id, bench.kit.hole, at=at, size=(round(size[0], 3), round(size[1], 3))
    )[0]


def cut(bench: Bench) -> Tool:
    """Cut a floor in two along a line, so that its parts can differ; a click on a grid line cuts
    along that."""
    first = yield from ask("Click a grid line to cut along, or one end of the line.", ends=True)
    if first.finished:
        return
    if isinstance(first.key, ThingName) and first.key.kind == "grid":
        g, line = first.key.key, first.key.part
        yield Do(
            "cut a floor",
            partial(_cut, bench=bench, a=first.point, b=first.point, grid=g, line=line),
        )
        return
    a = first.point

    def ghost(p: Point) -> Drawing:
        return (Stroke((a, p), "mark"),)

    second = yield from ask("Click the other end of the line.", anchor=a, ghost=ghost)
    yield Do("cut a floor", partial(_cut, bench=bench, a=a, b=second.point))


def _cut(
    project: Project, bench: Bench, a: Point, b: Point, grid: str = "", line: str = ""
) -> Project:
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    floor = floor_at(project, bench.floor_level, middle) or floor_at(project, bench.floor_level, a)
    if floor is None:
        raise EditError("No floor lies under that line. Draw the line across a floor.")
    made, new = cut_floor(project, floor.id, a, b, grid=grid, line=line)
    for key in (floor.id, new):
        part = next(f for f in made.floors if f.id == key)
        bearings = bearings_of_floor(made, part)
        if bearings is None or area_of(made, part, bearings.outline) is None:
            raise EditError("That line does not divide the floor: all of it lies on one side.")
    return made


def joist(bench: Bench) -> Tool:
    """Add joists to a floor by hand, from one place to another."""
    while True:
        ends = yield from two_places(
            "Click where the piece begins. Enter ends.",
            "Click where it ends, or type a length, Tab, an angle.",
        )
        if ends is None:
            return
        yield Do("add a joist", partial(_add, bench=bench, a=ends[0], b=ends[1]))


def _add(project: Project, bench: Bench, a: Point, b: Point) -> Project:
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    floor = floor_at(project, bench.floor_level, middle)
    if floor is None:
        raise EditError("No floor lies there; a joist belongs to one.")
    return add_member(project, HostName("floor", floor.id), a, b)[0]
