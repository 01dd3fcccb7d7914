"""Tools for grids: a whole grid from typed runs, rings and rays, one more line beside another."""

import math
from collections.abc import Callable, Sequence
from functools import partial

from balken.drawing.marks import Drawing, Stroke
from balken.geometry.plane import Point, add, distance, rotate, sub
from balken.model.edits.grids import BEYOND, add_line, add_next_line, radial_grid, straight_grid
from balken.model.grids import Grid, Runs, grid_line, line_points
from balken.model.labels import rule_from
from balken.model.names import Name, things_of
from balken.model.project import FORMAT, Project, grid
from balken.model.usual import USUAL
from balken.session.tools.asking import Bench, Do, Steps, Tool, ask, clicked_thing
from balken.units import parse_angles, parse_length, parse_runs

EXAMPLE = {"us": "18' 24'x2 16'", "metric": "5400 7200*2 4800"}


def straight(bench: Bench) -> Tool:
    """Make a grid of lines both ways: bays, origin, direction, labels."""
    runs = partial(parse_runs, system=bench.project.system)
    across = yield from _text(
        f"Bays from left to right, such as {EXAMPLE[bench.project.system]}", check=runs
    )
    if not across:
        return
    bays = parse_runs(across, bench.project.system)
    along = yield from _text("Bays from the bottom up", across, runs)
    if not along:
        return
    rows = parse_runs(along, bench.project.system)
    first = yield from _text(
        "Labels from left to right: 1, A, P1, 10+10, Z down, or each typed", "1", rule_from
    )
    last = yield from _text("Labels from the bottom up", "A", rule_from)
    names = rule_from(first or "1"), rule_from(last or "A")

    def change(project: Project, origin: Point, angle: float) -> Project:
        return straight_grid(project, origin, angle, bays, rows, *names)

    yield from _place(bench, "make grid", change)


def radial(bench: Bench) -> Tool:
    """Make a grid of rings and rays: steps of radius, steps of angle, origin, direction, labels."""
    runs = partial(parse_runs, system=bench.project.system)
    rings = yield from _text(
        f"Steps of radius, such as {EXAMPLE[bench.project.system]}", check=runs
    )
    if not rings:
        return
    steps = parse_runs(rings, bench.project.system)
    rays = yield from _text(
        "Steps of angle in degrees, such as 15*6 or 30*12", "15*6", parse_angles
    )
    if not rays:
        return
    turns = parse_angles(rays)
    first = yield from _text("Labels of the rings from the inside", "A", rule_from)
    last = yield from _text("Labels of the rays", "1", rule_from)
    names = rule_from(first or "A"), rule_from(last or "1")

    def change(project: Project, origin: Point, angle: float) -> Project:
        return radial_grid(project, origin, angle, steps, turns, *names)

    yield from _place(bench, "make radial grid", change)


def _text(words: str, first: str = "", check: Callable[[str], object] | None = None) -> Steps[str]:
    answer = yield from ask(words, kind="text", first=first, check=check)
    return answer.text


def _place(bench: Bench, words: str, change: Callable[[Project, Point, float], Project]) -> Tool:
    empty = Project(FORMAT, "", bench.project.system, USUAL[bench.project.system].code)

    def ghost(origin: Point, p: Point) -> Drawing:
        angle = _angle(origin, p)
        made: Project = change(empty, origin, angle)
        return _strokes(made.grids[-1])

    origin = yield from ask(
        "Click the origin, or type x, Tab, y; Enter for the origin of the plan.",
        ghost=lambda p: ghost(p, (p[0] + 1000.0, p[1])),
        ends=True,
    )
    at = (0.0, 0.0) if origin.finished else origin.point
    towards = yield from ask(
        "Click a second point for its direction, or type an angle after Tab; Enter for straight"
        " along.",
        anchor=at,
        ghost=partial(ghost, at),
        ends=True,
    )
    angle = 0.0 if towards.finished else _angle(at, towards.point)
    yield Do(words, lambda project: change(project, at, angle))


def _angle(origin: Point, p: Point) -> float:
    if distance(origin, p) < 1.0:
        return 0.0
    away = sub(p, origin)
    return round(math.degrees(math.atan2(away[1], away[0])), 9) + 0.0


def _strokes(of: Grid) -> Drawing:
    return tuple(Stroke(line_points(of, line), "mark") for line in of.lines)


def line_beside(bench: Bench, keys: tuple[Name, ...]) -> Tool:
    """Add a line beside another at a typed distance."""
    name = next(iter(things_of(keys, "grid")), None)
    if name is None:
        picked = yield from ask(
            "Click the grid line beside which the new one goes.", kind="thing", things=("grid",)
        )
        name = clicked_thing(picked, "grid")
    g, key = name.key, name.part
    line = grid_line(grid(bench.project, g), key)
    unit = "degrees" if line.runs == "ray" else "distance"
    read = (
        float
        if line.runs == "ray"
        else partial(parse_length, system=bench.project.system, negative=True)
    )
    far = yield from _text(
        f"How far from line {line.label}? A minus goes to the other side ({unit}).", check=read
    )
    if not far:
        return
    by = read(far)
    label = yield from _text("Its label; Enter for the next free one")
    yield Do(
        "add grid line",
        partial(add_line, key=g, runs=line.runs, offset=line.offset + by, label=label),
    )


def lines(bench: Bench) -> Tool:
    """Add lines to a grid one by one, each where it is clicked or at a typed distance from the last
    of its row; where there is no grid, the first click makes one of two lines."""
    if not any(_is_straight(g) for g in bench.project.grids):
        first = yield from ask(
            "Click where the first two lines cross, or type x, Tab, y; Enter for the origin.",
            ends=True,
        )
        at = (0.0, 0.0) if first.finished else first.point
        names = rule_from("1"), rule_from("A")
        yield Do("make grid", lambda p: straight_grid(p, at, 0.0, (), (), *names))
    while True:
        of = next((g for g in reversed(bench.project.grids) if _is_straight(g)), None)
        if of is None:
            return
        answer = yield from ask(
            "Click where the next line goes, or type how far it is from the last; right and up"
            " say which way it goes. Enter ends.",
            anchor=_corner(of),
            fields=("distance",),
            read=partial(_read_next, of),
            ghost=partial(_next_line, of),
            ends=True,
        )
        if answer.finished:
            return
        runs, offset = _meant(of, answer.point)
        yield Do("add grid line", partial(add_next_line, key=of.id, runs=runs, offset=offset))


def _is_straight(of: Grid) -> bool:
    return all(x.runs in ("x", "y") for x in of.lines)


def _last(of: Grid, runs: Runs) -> float:
    return max((x.offset for x in of.lines if x.runs == runs), default=0.0)


def _corner(of: Grid) -> Point:
    """Where the last two lines cross."""
    return _out(of, (_last(of, "y"), _last(of, "x")))


def _out(of: Grid, p: Point) -> Point:
    """A place of a grid on the plan."""
    return add(of.origin, rotate(p, math.radians(of.angle)))


def _meant(of: Grid, place: Point) -> tuple[Runs, float]:
    """Which way a line at a place runs, and its offset: across the way in which the place is
    further from the last crossing."""
    x, y = rotate(sub(place, of.origin), -math.radians(of.angle))
    across, along = x - _last(of, "y"), y - _last(of, "x")
    return ("y", round(x, 6)) if abs(across) >= abs(along) else ("x", round(y, 6))


def _read_next(of: Grid, pointer: Point, numbers: Sequence[float]) -> Point:
    """The place at a typed distance from the last line, in the way of the pointer."""
    runs, offset = _meant(of, pointer)
    last = _last(of, runs)
    to = last + math.copysign(numbers[0], offset - last)
    other = _last(of, "x" if runs == "y" else "y")
    return _out(of, (to, other) if runs == "y" else (other, to))


def _next_line(of: Grid, place: Point) -> Drawing:
    """The line that there would be."""
    runs, offset = _meant(of, place)
    row = [x for x in of.lines if x.runs != runs]
    low = min((x.offset for x in row), default=0.0) - BEYOND
    high = max((x.offset for x in row), default=0.0) + BEYOND
    ends = ((offset, low), (offset, high)) if runs == "y" else ((low, offset), (high, offset))
    return (Stroke(tuple(_out(of, p) for p in ends), "centre"),)
