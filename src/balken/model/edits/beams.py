"""Edits of beams and bays: placing them from crossing to crossing or free, filling bays, changing
and losing them."""

from collections.abc import Iterable, Sequence
from itertools import pairwise
from typing import Any, Final, TypeVar

from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, distance, holds
from balken.model.beams import Beam, BeamBay, BeamEnd, BeamKind
from balken.model.edits.common import EditError, checked, fresh, fresh_many, known
from balken.model.edits.groups import with_beam_group
from balken.model.grids import crossing, row_of
from balken.model.names import HostName, keys_of
from balken.model.project import Project, grid
from balken.model.usual import WOOD, limits
from balken.units import System

Cell = tuple[str, tuple[str, str], tuple[str, str]]
"""A bay of a grid: the grid, two neighbouring lines that run one way, and two that run the
other."""

SIZES: Final[dict[System, tuple[str, ...]]] = {
    "us": (
        "2-2x8",
        "2-2x10",
        "3-2x10",
        "2-2x12",
        "3-2x12",
        "4-2x12",
        "2-LVL 1-3/4x9-1/2",
        "2-LVL 1-3/4x11-7/8",
        "3-LVL 1-3/4x11-7/8",
        "GL 5-1/8x12",
        "GL 5-1/8x15",
        "GL 5-1/8x18",
        "GL 5-1/8x21",
        "GL 5-1/8x24",
    ),
    "metric": (
        "2-38x184",
        "2-38x235",
        "3-38x235",
        "3-38x286",
        "2-LVL 45x240",
        "2-LVL 45x300",
        "3-LVL 45x300",
        "GL 140x320",
        "GL 140x360",
        "GL 140x400",
        "GL 140x440",
        "GL 160x480",
        "GL 160x520",
        "GL 160x560",
        "GL 160x600",
        "GL 200x680",
        "GL 200x760",
    ),
}
"""What a beam is chosen from at first; a list of one's own replaces it."""


def usual_kind(project: Project, **fields: Any) -> BeamKind:
    """How a beam is made when nothing is said: chosen by calculation, under the joists."""
    known(BeamKind, fields)
    wood = WOOD[project.code]
    begun = {"sizes": SIZES[project.system], **wood.cut_from(), **limits(wood.floor)}
    return BeamKind(**{**begun, **fields})


def put_beam(
    project: Project,
    level: str,
    start: BeamEnd,
    end: BeamEnd,
    kind: BeamKind | None = None,
    **fields: Any,
) -> tuple[Project, str]:
    """Put a beam between two places; return the project and its key.

    Raises:
        EditError: both ends lie at one place.
    """
    known(Beam, fields)
    if (start.grid, start.lines) == (end.grid, end.lines) and distance(start.at, end.at) < TOUCH:
        raise EditError("Both ends of the beam lie at one place; it needs a length.")
    key = fresh((b.id for b in project.beams), "B")
    made = Beam(
        id=key, level=level, start=start, end=end, kind=kind or usual_kind(project), **fields
    )
    return checked(project, beams=(*project.beams, made)), key


def beams_on_line(
    project: Project,
    level: str,
    grid_key: str,
    line: str,
    kind: BeamKind | None = None,
    *,
    whole: bool = False,
) -> tuple[Project, tuple[str, ...]]:
    """Put beams along a grid line from crossing to crossing, or one over all of it; return the
    project and their keys.

    Raises:
        EditError: the line crosses fewer than two others.
    """
    ends = _crossings_on(project, grid_key, line)
    pairs = [(ends[0], ends[-1])] if whole else list(pairwise(ends))
    keys = fresh_many((b.id for b in project.beams), "B", len(pairs))
    body = kind or usual_kind(project)
    made = tuple(
        Beam(id=k, level=level, start=a, end=b, kind=body) for k, (a, b) in zip(keys, pairs)
    )
    return checked(project, beams=project.beams + made), tuple(keys)


def _crossings_on(project: Project, grid_key: str, line: str) -> list[BeamEnd]:
    """The crossings along a grid line."""
    of = grid(project, grid_key)
    mine = next(x for x in of.lines if x.id == line)
    others = row_of(of, "y" if mine.runs == "x" else "x")
    across = [x for x in others if crossing(of, mine, x)]
    if len(across) < 2:
        raise EditError(f"Line {mine.label} crosses fewer than two others; a beam needs two ends.")
    return [BeamEnd(grid=grid_key, lines=(line, x.id)) for x in across]


def cells_of(project: Project, grid_key: str) -> list[Cell]:
    """The bays of a straight grid, row by row."""
    of = grid(project, grid_key)
    xs, ys = row_of(of, "x"), row_of(of, "y")
    return [
        (grid_key, (a.id, b.id), (c.id, d.id)) for a, b in pairwise(xs) for c, d in pairwise(ys)
    ]


def cell_corners(project: Project, cell: Cell) -> list[Point]:
    """The corners of a bay."""
    of = grid(project, cell[0])
    by_id = {x.id: x for x in of.lines}
    (p, q), (r, s) = cell[1], cell[2]
    found = [crossing(of, by_id[a], by_id[b]) for a, b in ((p, r), (p, s), (q, s), (q, r))]
    return [c for c in found if c is not None]


def cell_at(project: Project, place: Point) -> Cell | None:
    """The bay of a grid that holds a place."""
    for g in project.grids:
        for cell in cells_of(project, g.id):
            corners = cell_corners(project, cell)
            if len(corners) == 4 and holds(corners, place):
                return cell
    return None


def fill_bays(
    project: Project,
    level: str,
    cells: Sequence[Cell],
    kind: BeamKind | None = None,
    *,
    alternate: bool = False,
    **fields: Any,
) -> tuple[Project, tuple[str, ...]]:
    """Fill bays of a grid with beams; return the project and the keys of the bays.

    Args:
        project: the building.
        level: whose floor they carry.
        cells: the bays.
        kind: what the beams are.
        alternate: turn every second bay, as on a chessboard.
        fields: of :class:`BeamBay`: rule, spacing, count, begin, along.

    Raises:
        EditError: no bay was chosen, or one is filled already.
    """
    known(BeamBay, fields)
    if not cells:
        raise EditError("Choose a bay between grid lines first.")
    taken = {(b.level, b.grid, b.first, b.second) for b in project.bays}
    for cell in cells:
        if (level, *cell) in taken:
            raise EditError(
                "This bay is filled with beams already; change those, or take them away first."
            )
    keys = fresh_many((b.id for b in project.bays), "Y", len(cells))
    body = kind or usual_kind(project)
    along = fields.pop("along", 0)
    made = []
    for key, cell in zip(keys, cells):
        turned = alternate and (_step(project, cell, 0) + _step(project, cell, 1)) % 2
        made.append(
            BeamBay(
                id=key,
                level=level,
                kind=body,
                grid=cell[0],
                first=cell[1],
                second=cell[2],
                along=(along + 1) % 2 if turned else along,
                **fields,
            )
        )
    return checked(project, bays=(*project.bays, *made)), tuple(keys)


def _step(project: Project, cell: Cell, way: int) -> int:
    """Which bay of its row a cell is, either way."""
    row = [x.id for x in row_of(grid(project, cell[0]), "x" if way == 0 else "y")]
    return row.index(cell[1 + way][0])


def fill_outline(
    project: Project,
    level: str,
    corners: Sequence[Point],
    kind: BeamKind | None = None,
    **fields: Any,
) -> tuple[Project, str]:
    """Fill an outline of any shape with beams; return the project and the bay's key.

    Raises:
        EditError: it has fewer than three corners.
    """
    known(BeamBay, fields)
    if len(corners) < 3:
        raise EditError("A bay needs three corners or more.")
    key = fresh((b.id for b in project.bays), "Y")
    made = BeamBay(
        id=key, level=level, kind=kind or usual_kind(project), corners=tuple(corners), **fields
    )
    return checked(project, bays=(*project.bays, made)), key


def set_beams(project: Project, hosts: Sequence[HostName], **fields: Any) -> Project:
    """Change beams and bays together; fields of their kind are taken as such. A section is that of
    all their group."""
    hosts = with_beam_group(project, hosts, fields)
    own = {k: v for k, v in fields.items() if k not in BeamKind.__struct_fields__}
    of_kind = {k: v for k, v in fields.items() if k in BeamKind.__struct_fields__}
    beams, bays = set(keys_of(hosts, "beam")), set(keys_of(hosts, "bay"))
    for kind, keys in ((Beam, beams), (BeamBay, bays)):
        if keys:
            known(kind, own)
    return checked(
        project,
        beams=_changed(project.beams, beams, own, of_kind),
        bays=_changed(project.bays, bays, own, of_kind),
    )


_Beams = TypeVar("_Beams", Beam, BeamBay)


def _changed(
    records: Iterable[_Beams], keys: set[str], own: dict[str, Any], of_kind: dict[str, Any]
) -> tuple[_Beams, ...]:
    return tuple(
        replace(r, kind=replace(r.kind, **of_kind), **own) if r.id in keys else r for r in records
    )


def remove_beams(project: Project, hosts: Sequence[HostName]) -> Project:
    """Take beams and bays away, with what was changed by hand on them."""
    gone = set(hosts)
    changes = tuple(c for c in project.changes if c.member.host not in gone)
    return checked(
        project,
        beams=tuple(b for b in project.beams if HostName("beam", b.id) not in gone),
        bays=tuple(b for b in project.bays if HostName("bay", b.id) not in gone),
        changes=changes,
    )


def move_beams(project: Project, hosts: Sequence[HostName], by: Point) -> Project:
    """Move beams by a vector in plan; ends at crossings keep their crossing, and their distance
    from it grows."""

    def end(e: BeamEnd) -> BeamEnd:
        return replace(e, at=(round(e.at[0] + by[0], 6), round(e.at[1] + by[1], 6)))

    beams, bays = set(keys_of(hosts, "beam")), set(keys_of(hosts, "bay"))
    return checked(
        project,
        beams=tuple(
            replace(b, start=end(b.start), end=end(b.end)) if b.id in beams else b
            for b in project.beams
        ),
        bays=tuple(
            replace(b, corners=tuple((x + by[0], y + by[1]) for x, y in b.corners))
            if b.id in bays and b.corners
            else b
            for b in project.bays
        ),
    )


def without_lines(project: Project, key: str, lines: Sequence[str]) -> dict[str, Any]:
    """The beams and bays after lines of a grid are gone: beams stay where they are, standing
    free; bays between lines that are gone become outlines."""
    gone = set(lines)
    beams = tuple(
        replace(
            b,
            start=_without_grid(project, b.start, key, gone),
            end=_without_grid(project, b.end, key, gone),
        )
        for b in project.beams
    )
    bays = [_as_outline(project, b, key, gone) for b in project.bays]
    floors = tuple(
        replace(f, cuts=tuple(c for c in f.cuts if c.grid != key or c.line not in gone))
        for f in project.floors
    )
    return {
        "beams": beams,
        "bays": tuple(b for b in bays if b.grid or len(b.corners) > 2),
        "floors": floors,
    }


def _without_grid(project: Project, end: BeamEnd, key: str, gone: set[str]) -> BeamEnd:
    """An end of a beam that stands free where it was at a crossing of lines that are gone."""
    if end.grid != key or not gone.intersection(end.lines):
        return end
    of = grid(project, key)
    by_id = {x.id: x for x in of.lines}
    point = crossing(of, by_id[end.lines[0]], by_id[end.lines[1]])
    return BeamEnd((point[0] + end.at[0], point[1] + end.at[1])) if point else BeamEnd(end.at)


def _as_outline(project: Project, bay: BeamBay, key: str, gone: set[str]) -> BeamBay:
    """A bay as an outline where it lay between lines that are gone."""
    if bay.grid != key or not gone.intersection((*bay.first, *bay.second)):
        return bay
    corners = tuple(cell_corners(project, (key, bay.first, bay.second)))
    return replace(bay, grid="", first=("", ""), second=("", ""), corners=corners)
