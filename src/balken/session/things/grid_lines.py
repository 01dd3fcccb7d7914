"""A grid line: label, place, heads, extents; the row it belongs to, and the whole grid."""

import math
from collections.abc import Callable, Sequence
from functools import partial
from itertools import pairwise
from typing import Any

from balken.geometry.plane import Point, add, direction_or, left, rotate, sub
from balken.model.edits.grids import (
    label_line,
    label_row,
    move_lines,
    remove_grid,
    set_grid,
    set_line,
)
from balken.model.edits.supports import crossings_of
from balken.model.grids import Grid, GridLine, grid_ends, grid_line, row_of
from balken.model.labels import rule_from
from balken.model.names import Name, ThingName, as_thing, things_of
from balken.model.project import Project, grid
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Field, Heading, Line, Options, Rows, Title
from balken.session.things.fields import various
from balken.units import format_length, format_run, parse_angle, parse_length
from balken.units.number import parse_number
from balken.works.building import Checked

HEADS = [
    ("at the left or top", "start"),
    ("at the right or bottom", "end"),
    ("at both ends", "both"),
    ("nowhere", "none"),
]


WAYS = {"x": "along the grid", "y": "across the grid", "ring": "ring", "ray": "ray"}


def _one(desk: Desk, thing: Name) -> Rows:
    name = as_thing(thing)
    key, line_key = name.key, name.part
    of = grid(desk.project, key)
    line = grid_line(of, line_key)
    yield Title(line.label, "grid line", WAYS[line.runs])
    yield Field(
        "label",
        line.label,
        lambda t: desk.edit("label line", partial(label_line, key=key, line=line_key, label=t)),
    )
    yield from _place(desk, of, line)
    yield from _several(desk, (name,))
    yield Heading("Crossings")
    count = len(crossings_of(desk.project, lines=[name]))
    yield Line(f"{count} with other lines. P puts posts, pads or piers on them.", quiet=True)
    yield from _row(desk, of, line)
    yield from _whole(desk, of)


def _place(desk: Desk, of: Grid, line: GridLine) -> Rows:
    system = desk.system

    def show(value: float) -> str:
        return f"{value:g}°" if line.runs == "ray" else format_length(value, system)

    def read(text: str) -> float:
        if line.runs == "ray":
            return parse_angle(text)
        return parse_length(text, system, negative=True)

    def move(to: float) -> object:
        return desk.edit(
            f"move line {line.label}",
            partial(move_lines, key=of.id, lines=[line.id], by=to - line.offset),
        )

    yield Field("from origin", show(line.offset), lambda t: move(read(t)))
    row = row_of(of, line.runs)
    here = row.index(line)
    if here:
        before = row[here - 1]
        yield Field(
            f"from line {before.label}",
            show(line.offset - before.offset),
            lambda t: move(before.offset + read(t)),
        )
    if here < len(row) - 1:
        after = row[here + 1]
        yield Field(
            f"to line {after.label}",
            show(after.offset - line.offset),
            lambda t: move(after.offset - read(t)),
        )
    yield Line("Walls, posts and pads on the line go along.", quiet=True, small=True)


def _several(desk: Desk, names: tuple[Name, ...]) -> Rows:
    """The fields that grid lines share, per grid."""
    by_grid: dict[str, list[str]] = {}
    for name in things_of(names, "grid"):
        g, line = name.key, name.part
        by_grid.setdefault(g, []).append(line)
    for key, lines in by_grid.items():
        yield from _shared(desk, key, lines)


def _shared(desk: Desk, key: str, lines: list[str]) -> Rows:
    system = desk.system
    of = grid(desk.project, key)
    items = [grid_line(of, k) for k in lines]

    def edit(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(set_line, key=key, lines=lines, **fields))

    def move(text: str) -> object:
        by = parse_length(text, system, negative=True)
        return desk.edit("move lines", partial(move_lines, key=key, lines=lines, by=by))

    if len(lines) > 1 and len({x.runs for x in items}) == 1:
        yield Field("move by", format_run(0.0, system), move)
    held = various(x.held for x in items)
    places = [("can be moved", False), ("held where it is", True)]
    yield Options("place", places, bool(held), lambda v: edit("hold line", held=v))
    yield Options(
        "heads", HEADS, various(x.heads for x in items) or "start", lambda v: edit("heads", heads=v)
    )
    for word, field in (("begins at", "start"), ("ends at", "end")):
        value = various(getattr(x, field) for x in items)
        if items[0].runs != "ring":
            text = "various" if value is None else format_length(value, system)
            yield Field(word, text, partial(_length, desk, edit, field))
    elbow = various(x.elbow for x in items)
    yield Field(
        "head aside by",
        "various" if elbow is None else f"{elbow:g} mm of paper",
        partial(_elbow, edit),
    )


def _length(desk: Desk, edit: Callable[..., object], field: str, text: str) -> object:
    return edit("extent of line", **{field: parse_length(text, desk.system, negative=True)})


def _elbow(edit: Callable[..., object], text: str) -> object:
    return edit("elbow", elbow=_paper(text))


def _paper(text: str) -> float:
    return parse_number(text, "mm of paper")


def _row(desk: Desk, of: Grid, line: GridLine) -> Rows:
    row = row_of(of, line.runs)
    yield Heading("Its row", f"{len(row)} lines")

    def relabel(text: str) -> object:
        return desk.edit(
            "label lines", partial(label_row, key=of.id, runs=line.runs, names=rule_from(text))
        )

    yield Field("labels", " ".join(x.label for x in row), relabel)
    yield Line(
        "One word begins a row by rule (A, 1, P1, 10+10, Z down); several are the labels.",
        quiet=True,
        small=True,
    )
    for i, (a, b) in enumerate(pairwise(row) if line.runs in ("x", "y") else ()):
        after = [x.id for x in row[i + 1 :]]

        def bay(text: str, now: float = b.offset - a.offset, after: list[str] = after) -> object:
            wider = parse_length(text, desk.system) - now
            return desk.edit("width of bay", partial(move_lines, key=of.id, lines=after, by=wider))

        width = format_length(b.offset - a.offset, desk.system)
        yield Field(f"bay {a.label} to {b.label}", width, bay)
    yield Button(
        "Hold all the others",
        lambda: desk.edit(
            "hold lines",
            partial(set_line, key=of.id, lines=[x.id for x in row if x.id != line.id], held=True),
        ),
    )


def _whole(desk: Desk, of: Grid) -> Rows:
    system = desk.system
    yield Heading("Whole grid", of.name or of.id)

    def edit(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(set_grid, key=of.id, **fields))

    yield Field(
        "origin east",
        format_length(of.origin[0], system),
        lambda t: edit("move grid", origin=(parse_length(t, system, negative=True), of.origin[1])),
    )
    yield Field(
        "origin north",
        format_length(of.origin[1], system),
        lambda t: edit("move grid", origin=(of.origin[0], parse_length(t, system, negative=True))),
    )
    yield Field("turned by", f"{of.angle:g}°", lambda t: edit("turn grid", angle=parse_angle(t)))
    yield Field(
        "string at",
        f"{of.string:g} mm of paper",
        lambda t: edit("dimension string", string=_paper(t)),
    )
    yield Field(
        "overall at",
        f"{of.overall:g} mm of paper",
        lambda t: edit("overall string", overall=_paper(t)),
    )
    yield Line(
        "Distances of the dimension strings from the building; 0 for none.", quiet=True, small=True
    )
    yield Button(
        "Take the whole grid away",
        lambda: desk.edit("take grid away", partial(remove_grid, key=of.id)),
    )


def _found(project: Project, name: Name) -> GridLine | None:
    thing = as_thing(name)
    lines = (x for g in project.grids if g.id == thing.key for x in g.lines)
    return next((x for x in lines if x.id == thing.part), None)


def _called(project: Project, name: Name) -> str:
    found = _found(project, name)
    return f"grid line {found.label}" if found else ""


def _alike(checked: Checked, name: Name) -> Sequence[Name]:
    """The lines of its grid that run the same way."""
    of, one = grid(checked.project, as_thing(name).key), _found(checked.project, name)
    return [ThingName("grid", of.id, x.id) for x in of.lines if one and x.runs == one.runs]


def _here(desk: Desk) -> Sequence[Name]:
    return [ThingName("grid", g.id, x.id) for g in desk.project.grids for x in g.lines]


def _across(checked: Checked, name: Name, at: Point) -> DragWay | None:
    """A line is dragged across itself, a ring by its radius; a ray not at all."""
    of = grid(checked.project, as_thing(name).key)
    line = grid_line(of, as_thing(name).part)
    if line.runs == "ray":
        return None
    if line.runs == "ring":
        return DragWay(direction_or(sub(at, of.origin), (1.0, 0.0)))
    a, b = grid_ends(of, line)
    return DragWay(left(direction_or(sub(b, a), (1.0, 0.0))))


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    of = grid(base, as_thing(name).key)
    key = as_thing(name).part
    runs = grid_line(of, key).runs
    if runs == "ring":
        a, b = sub(pull.at, of.origin), sub(add(pull.at, pull.by), of.origin)
        return move_lines(base, of.id, [key], math.hypot(*b) - math.hypot(*a))
    x, y = rotate(pull.by, -math.radians(of.angle))
    return move_lines(base, of.id, [key], y if runs == "x" else x)


LINE = Thing(
    "grid",
    "grid line",
    _one,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    alike=_alike,
    here=_here,
    ways=_across,
    moved=_moved,
    several=_several,
)
