"""Edits of grids: make them from typed runs, move lines with all that stands on them, call them,
take them out."""

from collections.abc import Sequence
from itertools import accumulate, pairwise
from typing import Any, Final

from msgspec.structs import replace

from balken.errors import BalkenError
from balken.geometry.plane import TOUCH, Point, cross, left, parallel, sub, unit
from balken.model.edits.beams import without_lines
from balken.model.edits.common import EditError, checked, fresh, known, with_
from balken.model.edits.walls import slide_walls
from balken.model.grids import Grid, GridLine, Runs, grid_ends, row_of
from balken.model.labels import LabelRule, labels, rule_from
from balken.model.project import PointSupport, Project, grid
from balken.model.supports import spot_of
from balken.model.walls import Wall, direction_of, reach
from balken.units import format_length

BEYOND: Final = 1500.0
"""Grid lines reach this far past the last crossing, mm."""


def straight_grid(
    project: Project,
    origin: Point,
    angle: float,
    across: Sequence[float],
    along: Sequence[float],
    names_across: LabelRule | Sequence[str],
    names_along: LabelRule | Sequence[str],
    name: str = "",
) -> Project:
    """Add a grid of lines both ways.

    Args:
        project: the building.
        origin: where the first two lines cross.
        angle: degrees to the left.
        across: bays between the lines that run along the grid's y, in the direction of its x, mm.
        along: bays between the lines that run along x, in the direction of y, mm.
        names_across: labels of the lines along y, by rule or typed.
        names_along: labels of the lines along x.
        name: of the grid.

    Raises:
        EditError: a bay is nothing, or labels are not enough or not unique.
    """
    xs, ys = _places(across), _places(along)
    first, last = _words(names_across, len(xs)), _words(names_along, len(ys))
    lines = [
        GridLine(f"N{i}", word, "y", x, -BEYOND, ys[-1] + BEYOND)
        for i, (x, word) in enumerate(zip(xs, first), 1)
    ]
    lines += [
        GridLine(f"A{i}", word, "x", y, -BEYOND, xs[-1] + BEYOND)
        for i, (y, word) in enumerate(zip(ys, last), 1)
    ]
    return _add(project, Grid("", origin, angle, tuple(lines), name))


def radial_grid(
    project: Project,
    origin: Point,
    angle: float,
    rings: Sequence[float],
    rays: Sequence[float],
    names_rings: LabelRule | Sequence[str],
    names_rays: LabelRule | Sequence[str],
    name: str = "",
) -> Project:
    """Add a grid of rings and rays: ``rings`` are the steps of radius from the origin, mm, ``rays``
    the steps of angle from the grid's direction, degrees; a ray lies at the direction itself.

    Raises:
        EditError: a step is nothing, or labels are not enough or not unique.
    """
    radii = _places(rings)[1:]
    angles = _places(rays)
    if angles[-1] > 360 + 1e-9:
        raise EditError(f"The rays turn through {angles[-1]:g} degrees; a whole turn is 360.")
    if abs(angles[-1] - 360) < 1e-9:
        angles = angles[:-1]
        span = (0.0, 360.0)
    else:
        span = (angles[0], angles[-1])
    first, last = _words(names_rings, len(radii)), _words(names_rays, len(angles))
    lines = [
        GridLine(f"C{i}", word, "ring", r, *span)
        for i, (r, word) in enumerate(zip(radii, first), 1)
    ]
    lines += [
        GridLine(f"D{i}", word, "ray", a, 0.0, radii[-1] + BEYOND, "end")
        for i, (a, word) in enumerate(zip(angles, last), 1)
    ]
    return _add(project, Grid("", origin, angle, tuple(lines), name))


def _places(bays: Sequence[float]) -> list[float]:
    for i, bay in enumerate(bays, 1):
        if bay < TOUCH / 1000:
            raise EditError(f"Bay {i} has no width; a bay is more than zero.")
    return [round(v, 6) for v in accumulate(bays, initial=0.0)]


def _words(names: LabelRule | Sequence[str], count: int) -> list[str]:
    if isinstance(names, LabelRule):
        try:
            return labels(names, count)
        except BalkenError as error:
            raise EditError(str(error)) from error
    if len(names) != count:
        raise EditError(f"{len(names)} labels were typed for {count} lines.")
    return list(names)


def _add(project: Project, made: Grid) -> Project:
    key = fresh((g.id for g in project.grids), "G")
    _own_labels(made)
    return checked(project, grids=(*project.grids, replace(made, id=key)))


def _own_labels(made: Grid) -> None:
    seen: dict[str, GridLine] = {}
    for line in made.lines:
        if line.label in seen:
            raise EditError(
                f"Two lines would be called “{line.label}”; each needs a label of its own in its"
                " grid."
            )
        seen[line.label] = line


def _with_grid(project: Project, made: Grid) -> Project:
    return checked(project, grids=tuple(made if g.id == made.id else g for g in project.grids))


def label_line(project: Project, key: str, line: str, label: str) -> Project:
    """Call a grid line something else.

    Raises:
        EditError: the label is empty or another line's.
    """
    old = grid(project, key)
    label = label.strip()
    if not label:
        raise EditError("A grid line needs a label.")
    if any(x.label == label and x.id != line for x in old.lines):
        raise EditError(f"Another line of this grid is called “{label}” already.")
    return _with_grid(project, replace(old, lines=with_(old.lines, line, label=label)))


def label_row(project: Project, key: str, runs: Runs, names: LabelRule | Sequence[str]) -> Project:
    """Call all lines that run one way anew, in the order of their place."""
    old = grid(project, key)
    row = row_of(old, runs)
    words = dict(zip((x.id for x in row), _words(names, len(row))))
    made = replace(old, lines=tuple(replace(x, label=words.get(x.id, x.label)) for x in old.lines))
    _own_labels(made)
    return _with_grid(project, made)


def set_line(project: Project, key: str, lines: Sequence[str], **fields: Any) -> Project:
    """Change fields of grid lines: heads, extents, elbow, held."""
    known(GridLine, fields)
    old = grid(project, key)
    return _with_grid(
        project,
        replace(old, lines=tuple(replace(x, **fields) if x.id in lines else x for x in old.lines)),
    )


def set_grid(project: Project, key: str, **fields: Any) -> Project:
    """Change fields of a whole grid: origin, angle, name, distances of its dimension strings."""
    known(Grid, fields)
    return checked(project, grids=with_(project.grids, key, **fields))


def add_line(project: Project, key: str, runs: Runs, offset: float, label: str = "") -> Project:
    """Add a line to a grid, as long as its neighbours.

    Raises:
        EditError: a line lies there already, or the label is another's.
    """
    old = grid(project, key)
    row = row_of(old, runs)
    if not row:
        raise EditError("This grid has no lines that run that way.")
    near = min(row, key=lambda x: abs(x.offset - offset))
    if abs(near.offset - offset) < TOUCH / 10:
        raise EditError(f"Line {near.label} lies there already.")
    taken = {x.label for x in old.lines}
    label = label.strip() or next(
        w for w in (f"{near.label}.{n}" for n in range(1, 10_000)) if w not in taken
    )
    new = replace(
        near,
        id=fresh((x.id for x in old.lines), near.id.rstrip("0123456789") or "A"),
        label=label,
        offset=offset,
        held=False,
        elbow=0.0,
    )
    made = replace(old, lines=(*old.lines, new))
    _own_labels(made)
    return _with_grid(project, made)


def remove_lines(project: Project, key: str, lines: Sequence[str]) -> Project:
    """Take lines out of a grid, and the whole grid with its last line.

    Supports at their crossings stay where they are, standing free.
    """
    old = grid(project, key)
    rest = tuple(x for x in old.lines if x.id not in lines)
    supports = tuple(_off_lines(project, s, key, lines) for s in project.point_supports)
    kept = [g for g in project.grids if g.id != key or rest]
    grids = tuple(replace(g, lines=rest) if g.id == key else g for g in kept)
    return checked(
        project, grids=grids, point_supports=supports, **without_lines(project, key, lines)
    )


def _off_lines(
    project: Project, item: PointSupport, key: str, lines: Sequence[str]
) -> PointSupport:
    """A support that stands free where it was at a crossing of these lines."""
    at_them = item.grid == key and set(item.lines) & set(lines)
    spot = spot_of(project, item) if at_them else None
    return replace(item, grid="", lines=("", ""), at=spot) if spot else item


def move_lines(
    project: Project, key: str, lines: Sequence[str], by: float, *, walls: bool = True
) -> Project:
    """Move lines of one row along their grid, mm (degrees for rays); walls and supports on them go
    along.

    Args:
        project: the building.
        key: the grid.
        lines: keys of the lines; all must run the same way.
        by: towards greater offsets.
        walls: take the walls that stand on the lines along, on every level.

    Raises:
        EditError: a line is held, lines run different ways, or one would pass or meet another.
    """
    old = grid(project, key)
    moving = [x for x in old.lines if x.id in lines]
    if not moving or abs(by) < 1e-9:
        return project
    _refuse_moving(moving)
    moved = {x.id: replace(x, offset=round(x.offset + by, 6)) for x in moving}
    made = replace(old, lines=tuple(moved.get(x.id, x) for x in old.lines))
    _still_in_order(old, made, moving[0].runs, project)
    after = project
    for line in moving if walls and moving[0].runs in ("x", "y") else ():
        after = _with_walls_on(after, project, old, line, by)
    others = {g.id: g for g in after.grids} | {key: made}
    return checked(after, grids=tuple(others.values()))


def _refuse_moving(moving: Sequence[GridLine]) -> None:
    if len({x.runs for x in moving}) > 1:
        raise EditError("Lines that run different ways are moved one row at a time.")
    for line in moving:
        if line.held:
            raise EditError(f"Line {line.label} is held. Let go of it before moving it.")


def _with_walls_on(
    after: Project, before: Project, old: Grid, line: GridLine, by: float
) -> Project:
    """A project whose walls went along with the line they stood on."""
    standing = [w.id for w in before.walls if _stands_on(before, w, old, line)]
    a, b = grid_ends(old, line)
    across = left(unit(sub(b, a)))
    # An offset along y grows to the left of a line along x, and to the right of one along y.
    sign = 1.0 if line.runs == "x" else -1.0
    return slide_walls(after, standing, (across[0] * by * sign, across[1] * by * sign))


def _still_in_order(old: Grid, made: Grid, runs: Runs, project: Project) -> None:
    before = [x.id for x in row_of(old, runs)]
    row = row_of(made, runs)
    if runs == "ring" and row[0].offset <= 0:
        raise EditError(f"Ring {row[0].label} would have no radius left.")
    if [x.id for x in row] != before:
        raise EditError("A line would pass its neighbour. Move the neighbour too, or by less.")
    for a, b in pairwise(row):
        if b.offset - a.offset < TOUCH / 10:
            gap = (
                f"{b.offset - a.offset:g}°"
                if runs == "ray"
                else format_length(b.offset - a.offset, project.system)
            )
            raise EditError(
                f"Lines {a.label} and {b.label} would lie {gap} apart; a bay is more than zero."
            )


def _stands_on(project: Project, wall: Wall, of: Grid, line: GridLine) -> bool:
    """Whether a wall's body holds a straight grid line over its own length."""
    a, b = grid_ends(of, line)
    way = direction_of(wall)
    along = unit(sub(b, a))
    if wall.bulge or not parallel(way, along):
        return False
    high, low = reach(wall)
    away = cross(way, sub(a, wall.start))  # of the line, to the left of the wall's
    return low - TOUCH <= away <= high + TOUCH


def move_grid(project: Project, key: str, by: Point) -> Project:
    """Move a whole grid without the walls; supports at its crossings go along."""
    old = grid(project, key)
    return set_grid(project, key, origin=(old.origin[0] + by[0], old.origin[1] + by[1]))


def remove_grid(project: Project, key: str) -> Project:
    """Take a whole grid away; supports stay where they are."""
    return remove_lines(project, key, [x.id for x in grid(project, key).lines])


def add_next_line(project: Project, key: str, runs: Runs, offset: float) -> Project:
    """Add a line that is set out after the others: it is called by the next label of its row, and
    the lines across it reach to it.

    Raises:
        EditError: a line lies there already.
    """
    old = grid(project, key)
    row, others = row_of(old, runs), [x for x in old.lines if x.runs not in (runs, "ring", "ray")]
    outermost = row and (offset > row[-1].offset)
    label = _next_label(old, row[-1].label) if outermost else ""
    project = add_line(project, key, runs, offset, label)
    for line in others:
        start, end = min(line.start, offset - BEYOND), max(line.end, offset + BEYOND)
        if (start, end) != (line.start, line.end):
            project = set_line(project, key, [line.id], start=start, end=end)
    return project


def _next_label(of: Grid, last: str) -> str:
    """The label after the last of a row, where its row goes on by rule and nobody has it."""
    try:
        rule = rule_from(last)
        after = labels(rule, 2)[1] if isinstance(rule, LabelRule) else ""
    except BalkenError:
        return ""
    return "" if after in {x.label for x in of.lines} else after
