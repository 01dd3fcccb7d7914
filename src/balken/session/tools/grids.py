"""Tools for grids: a whole grid from typed runs, rings and rays, one more line beside another."""

import math
from collections.abc import Callable
from functools import partial

from balken.drawing.marks import Drawing, Stroke
from balken.geometry.plane import Point, distance, sub
from balken.model.edits.grids import add_line, radial_grid, straight_grid
from balken.model.grids import Grid, grid_line, line_points
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
