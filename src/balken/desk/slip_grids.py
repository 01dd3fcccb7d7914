"""Slips of grid lines: label, place, heads, extents; the row they belong to, and the whole grid."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Any

from balken.desk.slip_many import various
from balken.model.edits.grids import (
    label_line,
    label_row,
    move_lines,
    remove_grid,
    set_grid,
    set_line,
)
from balken.model.edits.supports import crossings_of
from balken.model.grids import Grid, GridLine, grid_line, row_of
from balken.model.labels import rule_from
from balken.model.names import ThingName
from balken.model.project import grid
from balken.units import format_length, format_run, parse_angle, parse_length, parse_number

if TYPE_CHECKING:
    from balken.desk.window import Window

HEADS = [
    ("at the left or top", "start"),
    ("at the right or bottom", "end"),
    ("at both ends", "both"),
    ("nowhere", "none"),
]
WAYS = {"x": "along the grid", "y": "across the grid", "ring": "ring", "ray": "ray"}


def one(w: "Window", name: ThingName) -> None:
    """Fill the slip for one grid line."""
    slip = w.slip
    key, line_key = name.key, name.part
    of = grid(w.building.project, key)
    line = grid_line(of, line_key)
    slip.title(line.label, "grid line", WAYS[line.runs])
    slip.field(
        "label",
        line.label,
        lambda t: w.edit("label line", partial(label_line, key=key, line=line_key, label=t)),
    )
    _place(w, of, line)
    several(w, (name,))
    slip.heading("Crossings")
    count = len(crossings_of(w.building.project, lines=[name]))
    slip.line(f"{count} with other lines. P puts posts, pads or piers on them.", quiet=True)
    _row(w, of, line)
    _whole(w, of)


def _place(w: "Window", of: Grid, line: GridLine) -> None:
    system = w.building.project.system

    def show(value: float) -> str:
        return f"{value:g}°" if line.runs == "ray" else format_length(value, system)

    def read(text: str) -> float:
        if line.runs == "ray":
            return parse_angle(text)
        return parse_length(text, system, negative=True)

    def move(to: float) -> object:
        return w.edit(
            f"move line {line.label}",
            partial(move_lines, key=of.id, lines=[line.id], by=to - line.offset),
        )

    w.slip.field("from origin", show(line.offset), lambda t: move(read(t)))
    row = row_of(of, line.runs)
    here = row.index(line)
    if here:
        before = row[here - 1]
        w.slip.field(
            f"from line {before.label}",
            show(line.offset - before.offset),
            lambda t: move(before.offset + read(t)),
        )
    if here < len(row) - 1:
        after = row[here + 1]
        w.slip.field(
            f"to line {after.label}",
            show(after.offset - line.offset),
            lambda t: move(after.offset - read(t)),
        )
    w.slip.line("Walls, posts and pads on the line go along.", quiet=True, small=True)


def several(w: "Window", names: tuple[ThingName, ...]) -> None:
    """Add the fields that grid lines share, per grid."""
    by_grid: dict[str, list[str]] = {}
    for name in names:
        g, line = name.key, name.part
        by_grid.setdefault(g, []).append(line)
    for key, lines in by_grid.items():
        _shared(w, key, lines)


def _shared(w: "Window", key: str, lines: list[str]) -> None:
    slip, system = w.slip, w.building.project.system
    of = grid(w.building.project, key)
    items = [grid_line(of, k) for k in lines]

    def edit(words: str, **fields: Any) -> object:
        return w.edit(words, partial(set_line, key=key, lines=lines, **fields))

    def move(text: str) -> object:
        by = parse_length(text, system, negative=True)
        return w.edit("move lines", partial(move_lines, key=key, lines=lines, by=by))

    if len(lines) > 1 and len({x.runs for x in items}) == 1:
        slip.field("move by", format_run(0.0, system), move)
    held = various(x.held for x in items)
    places = [("can be moved", False), ("held where it is", True)]
    slip.options("place", places, bool(held), lambda v: edit("hold line", held=v))
    slip.options(
        "heads", HEADS, various(x.heads for x in items) or "start", lambda v: edit("heads", heads=v)
    )
    for word, field in (("begins at", "start"), ("ends at", "end")):
        value = various(getattr(x, field) for x in items)
        if items[0].runs != "ring":
            text = "various" if value is None else format_length(value, system)
            slip.field(word, text, partial(_length, w, edit, field))
    elbow = various(x.elbow for x in items)
    slip.field(
        "head aside by",
        "various" if elbow is None else f"{elbow:g} mm of paper",
        partial(_elbow, edit),
    )


def _length(w: "Window", edit: Callable[..., object], field: str, text: str) -> object:
    return edit(
        "extent of line", **{field: parse_length(text, w.building.project.system, negative=True)}
    )


def _elbow(edit: Callable[..., object], text: str) -> object:
    return edit("elbow", elbow=_paper(text))


def _paper(text: str) -> float:
    return parse_number(text, "mm of paper")


def _row(w: "Window", of: Grid, line: GridLine) -> None:
    row = row_of(of, line.runs)
    w.slip.heading("Its row", f"{len(row)} lines")

    def relabel(text: str) -> object:
        return w.edit(
            "label lines", partial(label_row, key=of.id, runs=line.runs, names=rule_from(text))
        )

    w.slip.field("labels", " ".join(x.label for x in row), relabel)
    w.slip.line(
        "One word begins a row by rule (A, 1, P1, 10+10, Z down); several are the labels.",
        quiet=True,
        small=True,
    )
    w.slip.button(
        "Hold all the others",
        lambda: w.edit(
            "hold lines",
            partial(set_line, key=of.id, lines=[x.id for x in row if x.id != line.id], held=True),
        ),
    )


def _whole(w: "Window", of: Grid) -> None:
    slip, system = w.slip, w.building.project.system
    slip.heading("Whole grid", of.name or of.id)

    def edit(words: str, **fields: Any) -> object:
        return w.edit(words, partial(set_grid, key=of.id, **fields))

    slip.field(
        "origin east",
        format_length(of.origin[0], system),
        lambda t: edit("move grid", origin=(parse_length(t, system, negative=True), of.origin[1])),
    )
    slip.field(
        "origin north",
        format_length(of.origin[1], system),
        lambda t: edit("move grid", origin=(of.origin[0], parse_length(t, system, negative=True))),
    )
    slip.field("turned by", f"{of.angle:g}°", lambda t: edit("turn grid", angle=parse_angle(t)))
    slip.field(
        "string at",
        f"{of.string:g} mm of paper",
        lambda t: edit("dimension string", string=_paper(t)),
    )
    slip.field(
        "overall at",
        f"{of.overall:g} mm of paper",
        lambda t: edit("overall string", overall=_paper(t)),
    )
    slip.line(
        "Distances of the dimension strings from the building; 0 for none.", quiet=True, small=True
    )
    slip.button(
        "Take the whole grid away",
        lambda: w.edit("take grid away", partial(remove_grid, key=of.id)),
    )
