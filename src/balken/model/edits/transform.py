"""Moving, turning, mirroring and repeating whatever is selected: walls, supports, grid lines and
openings alike."""

import math
from collections.abc import Iterator, Sequence
from itertools import product
from typing import Literal, NamedTuple

import msgspec
from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, add, cross, dot, left, rotate, sub, unit
from balken.model.edits.beams import move_beams, remove_beams
from balken.model.edits.common import EditError, checked, fresh_many
from balken.model.edits.grids import move_grid, move_lines, remove_lines
from balken.model.edits.openings import copy_opening, find_opening, move_opening, remove_openings
from balken.model.edits.supports import remove_supports
from balken.model.edits.walls import remove_walls, slide_walls
from balken.model.names import HostName, Name, ThingName, hosts_in, keys_of, things_of
from balken.model.project import PointSupport, Project, grid, wall
from balken.model.supports import spot_of
from balken.model.walls import Wall, direction_of, reach


class Motion(msgspec.Struct, frozen=True):
    """A move in the plan: mirrored first (about the x axis), then turned by radians about
    ``centre``, then shifted."""

    shift: Point = (0.0, 0.0)
    turn: float = 0.0
    mirrored: bool = False
    centre: Point = (0.0, 0.0)

    def __call__(self, p: Point) -> Point:
        """Where a place goes."""
        x, y = sub(p, self.centre)
        q = rotate((x, -y if self.mirrored else y), self.turn)
        return (
            round(q[0] + self.centre[0] + self.shift[0], 6) + 0.0,
            round(q[1] + self.centre[1] + self.shift[1], 6) + 0.0,
        )


def mirror_motion(a: Point, b: Point) -> Motion:
    """The motion that mirrors in the line through two places.

    Raises:
        EditError: they are one place.
    """
    if math.dist(a, b) < TOUCH:
        raise EditError("A line to mirror in needs two places that lie apart.")
    angle = math.atan2(b[1] - a[1], b[0] - a[0])
    return Motion(turn=2 * angle, mirrored=True, centre=a)


class Chosen(NamedTuple):
    """What of a selection can be moved, copied or taken away, by its kind."""

    walls: list[str]
    supports: list[str]
    beams: list[HostName]
    """Beams and bays."""
    openings: list[ThingName]
    lines: list[ThingName]
    """Of grids."""


def chosen(names: Sequence[Name]) -> Chosen:
    """Sort a selection by kind."""
    return Chosen(
        keys_of(names, "wall"),
        keys_of(names, "support"),
        hosts_in(names, "beam", "bay"),
        things_of(names, "opening"),
        things_of(names, "grid"),
    )


def move(project: Project, names: Sequence[Name], by: Point) -> Project:
    """Move what is selected by a vector, mm. Walls that meet moved ones stretch; grid lines take
    along what stands there.

    Raises:
        EditError: something stands in the way, or nothing of the selection can be moved.
    """
    if math.hypot(*by) < 1e-6:
        return project
    there = chosen(names)
    if not any(there):
        raise EditError("Nothing of what is selected can be moved here.")
    for g, lines in _lines(there.lines).items():
        project = _move_grid_lines(project, g, lines, by)
    project = slide_walls(project, there.walls, by)
    if there.supports:
        project = _transformed(project, [], there.supports, Motion(by))
    project = move_beams(project, there.beams, by)
    for name in there.openings:
        item, _ = find_opening(project, name)
        if item.id not in there.walls:
            project = move_opening(project, name, dot(by, direction_of(item)))
    return project


def _lines(names: Sequence[ThingName]) -> dict[str, list[str]]:
    """Lines by the key of their grid."""
    found: dict[str, list[str]] = {}
    for name in names:
        found.setdefault(name.key, []).append(name.part)
    return found


def _move_grid_lines(project: Project, key: str, lines: list[str], by: Point) -> Project:
    of = grid(project, key)
    if len(lines) == len(of.lines):
        return move_grid(project, key, by)
    x, y = rotate(by, -math.radians(of.angle))
    for runs, distance in (("x", y), ("y", x)):
        row = [k for k in lines if any(line.id == k and line.runs == runs for line in of.lines)]
        if row and abs(distance) > 1e-6:
            project = move_lines(project, key, row, distance)
    return project


def apply(project: Project, names: Sequence[Name], motion: Motion) -> Project:
    """Turn or mirror what is selected; other walls do not stretch."""
    there = chosen(names)
    return _transformed(project, there.walls, there.supports, motion)


def copies(
    project: Project, names: Sequence[Name], motions: Sequence[Motion]
) -> tuple[Project, tuple[HostName, ...]]:
    """Add a copy of what is selected for each motion; return the project and the names of the
    copies.

    Raises:
        EditError: nothing of the selection can be copied, or there would be too many.
    """
    there = chosen(names)
    if len(motions) * max(1, len(names)) > 5000:
        raise EditError("That would be more than 5000 copies at once.")
    walls = [w for w in project.walls if w.id in there.walls]
    supports = [s for s in project.point_supports if s.id in there.supports]
    if not walls and not supports:
        return _copy_openings(project, there.openings, motions)
    new_walls = tuple(_copied_walls(project, walls, motions))
    new_supports = tuple(_copied_supports(project, supports, motions))
    made = checked(
        project,
        walls=project.walls + new_walls,
        point_supports=project.point_supports + new_supports,
    )
    return made, (
        *(HostName("wall", w.id) for w in new_walls),
        *(HostName("support", s.id) for s in new_supports),
    )


def _copied_walls(
    project: Project, walls: Sequence[Wall], motions: Sequence[Motion]
) -> Iterator[Wall]:
    """A copy of each wall with its openings for each motion."""
    keys = fresh_many((w.id for w in project.walls), "W", len(walls) * len(motions))
    for key, (motion, w) in zip(keys, product(motions, walls)):
        holes = tuple(replace(o, id=f"{key}-{i}") for i, o in enumerate(w.openings, 1))
        name = f"wall {key[1:]}"
        yield replace(_wall(w, motion), id=key, name=name, openings=holes, source="")


def _copied_supports(
    project: Project, supports: Sequence[PointSupport], motions: Sequence[Motion]
) -> Iterator[PointSupport]:
    keys = fresh_many((s.id for s in project.point_supports), "C", len(supports) * len(motions))
    for key, (motion, s) in zip(keys, product(motions, supports)):
        yield replace(_support(project, s, motion), id=key)


def _copy_openings(
    project: Project, names: list[ThingName], motions: Sequence[Motion]
) -> tuple[Project, tuple[HostName, ...]]:
    if not names:
        raise EditError("Nothing of what is selected can be copied here.")
    for name in names:
        for motion in motions:
            item, _ = find_opening(project, name)
            project = copy_opening(project, name, dot(motion.shift, direction_of(item)))
    return project, ()


def _transformed(
    project: Project, walls: Sequence[str], supports: Sequence[str], motion: Motion
) -> Project:
    return checked(
        project,
        walls=tuple(_wall(w, motion) if w.id in walls else w for w in project.walls),
        point_supports=tuple(
            _support(project, s, motion) if s.id in supports else s for s in project.point_supports
        ),
    )


def _wall(item: Wall, motion: Motion) -> Wall:
    moved = replace(item, start=motion(item.start), end=motion(item.end))
    if not motion.mirrored:
        return moved
    side: Literal["left", "right", "centre"]
    side = {"left": "right", "right": "left", "centre": "centre"}[item.side]  # type: ignore[assignment]
    return replace(moved, side=side, shift=-item.shift + 0.0, bulge=-item.bulge + 0.0)


def _support(project: Project, item: PointSupport, motion: Motion) -> PointSupport:
    spot = spot_of(project, item)
    if spot is None:
        return item
    lean = item.turn + (grid(project, item.grid).angle if item.grid else 0.0)
    turn = (-lean if motion.mirrored else lean) + math.degrees(motion.turn)
    return replace(
        item, at=motion(spot), grid="", lines=("", ""), turn=math.remainder(turn, 360.0) + 0.0
    )


def array_motions(by: Point, count: int) -> list[Motion]:
    """The motions of a row of copies, each ``by`` from the last.

    Raises:
        EditError: no step, or a count that cannot be.
    """
    if math.hypot(*by) < TOUCH:
        raise EditError("A row of copies needs a step other than zero.")
    if not 1 <= count <= 500:
        raise EditError("A row holds 1 to 500 copies.")
    return [Motion((by[0] * i, by[1] * i)) for i in range(1, count + 1)]


def turned_motions(centre: Point, step: float, count: int) -> list[Motion]:
    """The motions of copies round a place, ``step`` degrees apart."""
    if abs(step) < 1e-6 or not 1 <= count <= 500:
        raise EditError("Copies round a place need a step of angle and a count of 1 to 500.")
    return [Motion(turn=math.radians(step * i), centre=centre) for i in range(1, count + 1)]


Face = Literal["outer face", "inner face", "centre"]


def align_walls(
    project: Project, keys: Sequence[str], place: Point, along: Point, face: Face
) -> Project:
    """Move walls square to themselves until a face lies on a line through ``place`` along
    ``along``.

    Raises:
        EditError: a wall does not run along that line.
    """
    way = unit(along)
    for key in keys:
        item = wall(project, key)
        if abs(cross(direction_of(item), way)) > 0.01:
            raise EditError(
                f"Wall “{item.name}” does not run along that line, so it cannot be brought onto it."
            )
        high, low = reach(item)
        outer, inner = (high, low) if item.side == "right" else (low, high)
        lateral = {"outer face": outer, "inner face": inner, "centre": (high + low) / 2}[face]
        normal = left(direction_of(item))
        by = dot(sub(place, add(item.start, normal, lateral)), normal)
        project = slide_walls(project, [key], (normal[0] * by, normal[1] * by))
    return project


def remove(project: Project, names: Sequence[Name]) -> Project:
    """Take what is selected away.

    Raises:
        EditError: nothing of it can be taken away.
    """
    there = chosen(names)
    if not any(there):
        raise EditError("Nothing of what is selected can be taken away here.")
    if there.openings:
        project = remove_openings(project, there.openings)
    if there.walls:
        project = remove_walls(project, there.walls)
    if there.supports:
        project = remove_supports(project, there.supports)
    if there.beams:
        project = remove_beams(project, there.beams)
    for g, lines in _lines(there.lines).items():
        project = remove_lines(project, g, lines)
    return project
