"""Edits of walls: draw, move, offset, flip, trim, extend, split, join, copy to another storey, take
away.

Floors, roofs and foundations name the walls they stand on; edits keep those names right.
"""

import math
from collections.abc import Iterable, Mapping, Sequence
from itertools import pairwise
from typing import Any, Literal

from msgspec.structs import replace

from balken.geometry.plane import (
    TOUCH,
    Point,
    add,
    cross,
    distance,
    distance_to_segment,
    dot,
    left,
    meet,
    parallel,
    sub,
    unit,
)
from balken.model.edits.common import EditError, checked, fresh_many, known
from balken.model.edits.follow_walls import Became, Keys, follow, follow_floor, follow_roof
from balken.model.project import Project, column, level, levels_of, wall
from balken.model.stacked import stacked
from balken.model.wall_frames import SetStud
from balken.model.walls import (
    Opening,
    PlacedBy,
    Wall,
    WallBuildUp,
    along_by,
    built,
    direction_of,
    outside_of,
    wall_length,
)
from balken.units import format_length


class WallKind:
    """How new walls are made: what they are built up of, which part their line marks, and the
    levels between."""

    def __init__(
        self,
        base: str,
        top: str,
        *,
        build_up: str = "",
        thickness: float = 0.0,
        by: PlacedBy = "outer face",
        outside: Literal["left", "right"] = "right",
    ) -> None:
        self.base, self.top, self.build_up, self.thickness = base, top, build_up, thickness
        self.by, self.outside = by, outside


def make_wall(
    project: Project, kind: WallKind, key: str, start: Point, end: Point, bulge: float = 0.0
) -> Wall:
    """A wall of a kind; it is not in the project yet.

    Raises:
        EditError: the build-up is unknown, or no thickness was given.
    """
    side: Side = "left" if kind.outside == "right" else "right"
    name = f"wall {key.removeprefix('W')}"
    plain = Wall(
        key, name, start, end, kind.thickness or 1.0, side, kind.base, kind.top, bulge=bulge
    )
    if kind.build_up:
        body = next((b for b in project.wall_build_ups if b.id == kind.build_up), None)
        if body is None:
            raise EditError(f"There is no build-up “{kind.build_up}”.")
        by: PlacedBy = "outer face" if kind.by == "free" else kind.by
        return built(plain, body, by, outside=kind.outside)
    if kind.thickness < TOUCH:
        raise EditError("A wall without a build-up needs a thickness.")
    return replace(plain, side=_side_without_layers(kind, side))


Side = Literal["left", "right", "centre"]


def _side_without_layers(kind: WallKind, inside: Side) -> Side:
    """The side of its line that a wall lies on which has no layers: its whole thickness is the
    core."""
    if kind.by == "core centre":
        return "centre"
    if kind.by == "inner face":
        return "right" if inside == "left" else "left"
    return inside


def draw_walls(
    project: Project,
    kind: WallKind,
    points: Sequence[Point],
    *,
    closed: bool = False,
    bulges: Sequence[float] = (),
) -> Project:
    """Add a chain of walls through points; ``bulges`` curve its pieces, in order.

    Raises:
        EditError: two points are one, or the chain is too short.
    """
    chain = [*points, points[0]] if closed and points else list(points)
    if len(chain) < 2:
        raise EditError("A wall runs between two places; only one was given.")
    for a, b in pairwise(chain):
        if distance(a, b) < TOUCH:
            raise EditError("A wall of no length cannot be drawn; its ends must lie apart.")
    keys = fresh_many((w.id for w in project.walls), "W", len(chain) - 1)
    curved = [*bulges, *([0.0] * len(chain))]
    made = [
        make_wall(project, kind, key, _tidy(a), _tidy(b), bulge)
        for key, a, b, bulge in zip(keys, chain, chain[1:], curved)
    ]
    return checked(project, walls=project.walls + tuple(made))


def _tidy(p: Point) -> Point:
    """Drop what arithmetic leaves behind the sixth decimal of a millimetre."""
    return (round(p[0], 6) + 0.0, round(p[1], 6) + 0.0)


def rectangle_of(a: Point, b: Point, turn: float = 0.0) -> list[Point]:
    """The corners of a rectangle on a diagonal, counter-clockwise, its sides turned by
    radians."""
    way = (math.cos(turn), math.sin(turn))
    diagonal = sub(b, a)
    along, up = dot(diagonal, way), cross(way, diagonal)
    corners = [a, add(a, way, along), b, add(a, left(way), up)]
    return corners if along * up > 0 else [corners[0], corners[3], corners[2], corners[1]]


def move_wall(project: Project, key: str, by: float, *, stack: bool = True) -> Project:
    """Move a wall square to itself, mm to its left; ends of walls that meet it stretch along.

    Args:
        project: the building.
        key: the wall.
        by: distance to the left of the wall's line (negative: right).
        stack: move the walls that stand over and under it as well.
    """
    chosen = wall(project, key)
    direction = direction_of(chosen)
    shift = (left(direction)[0] * by, left(direction)[1] * by)
    moving = [chosen.id, *([w.id for w in stacked(project, chosen)] if stack else [])]
    return slide_walls(project, moving, shift)


def slide_walls(project: Project, keys: Iterable[str], by: Point) -> Project:
    """Move walls by a vector; ends of other walls that meet them stretch along.

    Raises:
        EditError: a wall between would have no length left.
    """
    moving = set(keys)
    if not moving:
        return project
    movers = [w for w in project.walls if w.id in moving]
    return checked(project, walls=tuple(_moved(w, moving, movers, by) for w in project.walls))


def _moved(item: Wall, moving: set[str], movers: Sequence[Wall], shift: Point) -> Wall:
    if item.id in moving:
        return replace(item, start=_tidy(add(item.start, shift)), end=_tidy(add(item.end, shift)))
    ends = [item.start, item.end]
    for i, end in enumerate(ends):
        for other in movers:
            if other.base != item.base:
                continue
            near = max(other.thickness, item.thickness) + TOUCH
            square = not parallel(direction_of(item), direction_of(other))
            if square and distance_to_segment(end, other.start, other.end) <= near:
                # Only the part of the move square to the moving wall pulls at those that meet it.
                across = left(direction_of(other))
                ends[i] = add(end, across, dot(shift, across))
                break
    if distance(*ends) < TOUCH:
        raise EditError(f"Wall “{item.name}” would have no length left.")
    return _keep_openings(item, replace(item, start=_tidy(ends[0]), end=_tidy(ends[1])))


def _keep_openings(old: Wall, new: Wall) -> Wall:
    """Leave openings where they are in the building when a wall's start moves."""
    direction = direction_of(new)
    by = dot(sub(old.start, new.start), direction)
    if abs(by) < TOUCH / 100:
        return new
    return along_by(new, by)


def set_ends(project: Project, key: str, start: Point, end: Point) -> Project:
    """Put a wall's ends somewhere else; its openings stay where they are in the building.

    Raises:
        EditError: the ends are one place, or an opening would lie outside.
    """
    old = wall(project, key)
    if distance(start, end) < TOUCH:
        raise EditError(f"Wall “{old.name}” would have no length left.")
    return _put(project, _keep_openings(old, replace(old, start=_tidy(start), end=_tidy(end))))


def _put(project: Project, *made: Wall) -> Project:
    by_id = {w.id: w for w in made}
    return checked(project, walls=tuple(by_id.get(w.id, w) for w in project.walls))


def set_length(
    project: Project, key: str, length: float, end: Literal["start", "end"] = "end"
) -> Project:
    """Make a straight wall as long as typed by moving one end; walls that meet it there go
    along."""
    old = wall(project, key)
    if old.bulge:
        raise EditError("A curved wall is changed by its ends, not by its length.")
    by = length - wall_length(old)
    way = direction_of(old)
    shift = (way[0] * by, way[1] * by) if end == "end" else (-way[0] * by, -way[1] * by)
    corner = old.end if end == "end" else old.start
    there = [
        w.id
        for w in project.walls
        if w.id != key and _meets(w, corner, old) and not parallel(direction_of(w), way)
    ]
    if there:
        return slide_walls(project, there, shift)
    return set_ends(
        project,
        key,
        *((old.start, add(old.end, shift)) if end == "end" else (add(old.start, shift), old.end)),
    )


def _meets(other: Wall, corner: Point, item: Wall) -> bool:
    if other.base != item.base:
        return False
    return (
        distance_to_segment(corner, other.start, other.end)
        <= max(other.thickness, item.thickness) + TOUCH
    )


def flip_walls(project: Project, keys: Sequence[str]) -> Project:
    """Turn walls inside out about their line: what was the outer face looks to the other side."""
    return _put(project, *(_flipped(w) for w in project.walls if w.id in keys))


def _flipped(item: Wall) -> Wall:
    other = {"left": "right", "right": "left", "centre": "centre"}[item.side]
    return replace(item, side=other, shift=-item.shift + 0.0)


def offset_walls(
    project: Project, keys: Sequence[str], by: float, *, base: str = "", top: str = ""
) -> Project:
    """Add walls beside others, ``by`` mm to their left; where the others share corners, so do the
    new ones.

    Args:
        project: the building.
        keys: the walls to follow.
        by: to the left of their lines; negative to the right.
        base: the level the new ones stand on; as the others where empty.
        top: the level they reach.
    """
    chosen = [w for w in project.walls if w.id in keys]
    if not chosen:
        raise EditError("Choose the walls that the new ones follow.")
    if abs(by) < TOUCH and not base:
        raise EditError("An offset of nothing would put a wall inside another.")
    made = []
    for key, item in zip(fresh_many((w.id for w in project.walls), "W", len(chosen)), chosen):
        start, end = _offset_ends(item, chosen, by)
        made.append(
            replace(
                item,
                id=key,
                name=f"wall {key[1:]}",
                start=_tidy(start),
                end=_tidy(end),
                openings=(),
                source="",
                base=base or item.base,
                top=top or item.top,
            )
        )
    return checked(project, walls=project.walls + tuple(made))


def _offset_ends(item: Wall, chosen: Sequence[Wall], by: float) -> tuple[Point, Point]:
    if item.bulge:
        raise EditError(f"Wall “{item.name}” is curved; draw the one beside it.")
    start, end = (_offset_corner(item, p, chosen, by) for p in (item.start, item.end))
    if distance(start, end) < TOUCH or dot(sub(end, start), direction_of(item)) <= 0:
        raise EditError(f"Beside “{item.name}” nothing of a wall would be left at that distance.")
    return start, end


def _offset_corner(item: Wall, corner: Point, chosen: Sequence[Wall], by: float) -> Point:
    way = direction_of(item)
    mine = add(corner, left(way), by)
    for other in chosen:
        if other.id == item.id or parallel(direction_of(other), way):
            continue
        if min(distance(corner, other.start), distance(corner, other.end)) < TOUCH:
            along = direction_of(other)
            hit = meet(mine, way, add(other.start, left(along), by), along)
            return hit or mine
    return mine


def meet_at(project: Project, key: str, other: str) -> Project:
    """Trim or extend both walls so that their lines end where they cross: a corner.

    Raises:
        EditError: they run alike, or nothing of a wall would be left.
    """
    a, b = wall(project, key), wall(project, other)
    hit = _crossing(a, b)
    return checked(_end_nearest(_end_nearest(project, a, hit), b, hit))


def trim_to(project: Project, key: str, other: str, keep: Point | None = None) -> Project:
    """Trim or extend one wall to another's line: a tee. ``keep`` is a place on the part that
    stays."""
    a, b = wall(project, key), wall(project, other)
    return _end_nearest(project, a, _crossing(a, b), keep)


def _crossing(a: Wall, b: Wall) -> Point:
    if a.bulge or b.bulge:
        raise EditError("Curved walls are not trimmed yet; end them where they meet.")
    hit = meet(a.start, direction_of(a), b.start, direction_of(b))
    if hit is None or parallel(direction_of(a), direction_of(b)):
        raise EditError(f"Walls “{a.name}” and “{b.name}” run alike and never meet.")
    if distance(hit, a.start) > 1e6:
        raise EditError(f"Walls “{a.name}” and “{b.name}” meet more than a kilometre away.")
    return hit


def _end_nearest(project: Project, item: Wall, hit: Point, keep: Point | None = None) -> Project:
    keeps_start = (
        dot(sub(keep, hit), direction_of(item)) < 0
        if keep
        else distance(hit, item.end) <= distance(hit, item.start)
    )
    return set_ends(project, item.id, *((item.start, hit) if keeps_start else (hit, item.end)))


def split_wall(project: Project, key: str, at: float) -> Project:
    """Split a wall at a distance from its start, mm; openings go with their part, and what stands
    on it stands on both.

    Raises:
        EditError: the place is at an end, or inside an opening.
    """
    old = wall(project, key)
    length = wall_length(old)
    _refuse_split(project, old, at)
    spot = _tidy(add(old.start, direction_of(old), at))
    new = fresh_many((w.id for w in project.walls), "W", 1)[0]
    first = replace(
        old,
        end=spot,
        openings=tuple(o for o in old.openings if o.at < at),
        set_studs=tuple(s for s in old.set_studs if s.at < at),
        slack=tuple(x for x in old.slack if x < at),
    )
    second = replace(
        old,
        id=new,
        name=f"{old.name} b"[:200],
        start=spot,
        source="",
        openings=tuple(replace(o, at=o.at - at) for o in old.openings if o.at > at),
        set_studs=tuple(replace(s, at=s.at - at) for s in old.set_studs if s.at >= at),
        slack=tuple(x - at for x in old.slack if x >= at),
    )
    walls: list[Wall] = []
    for w in project.walls:
        walls += [first, second] if w.id == key else [w]
    became = {key: (Became(0.0, at, key), Became(at, length, new))}

    def change(keys: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(k for x in keys for k in ((x, new) if x == key else (x,)))

    return checked(project, walls=tuple(walls), **_hosts(project, change, became))


def _refuse_split(project: Project, old: Wall, at: float) -> None:
    length, system = wall_length(old), project.system
    if old.bulge:
        raise EditError("A curved wall is not split yet.")
    if not TOUCH < at < length - TOUCH:
        raise EditError(
            f"Split “{old.name}” between its ends: 0 to {format_length(length, system)}"
            " from its start."
        )
    for hole in old.openings:
        if hole.at - TOUCH < at < hole.at + hole.width + TOUCH:
            raise EditError(
                f"There is a {hole.kind} from {format_length(hole.at, system)} to"
                f" {format_length(hole.at + hole.width, system)}; split the wall beside it."
            )


def _hosts(
    project: Project, change: Keys, became: Mapping[str, Sequence[Became]] | None = None
) -> dict[str, Any]:
    return {
        "runs": tuple(follow(r, change, became or {}) for r in project.runs),
        "floors": tuple(follow_floor(f, change, became or {}) for f in project.floors),
        "roofs": tuple(follow_roof(r, change) for r in project.roofs),
    }


def join_walls(project: Project, key: str, other: str) -> Project:
    """Make one wall of two that lie in one line.

    Raises:
        EditError: they do not lie in one line, or differ in what they are.
    """
    a, b = wall(project, key), wall(project, other)
    _refuse_join(a, b)
    way = direction_of(a)
    spots = sorted((dot(sub(p, a.start), way), p) for p in (a.start, a.end, b.start, b.end))
    start, end = spots[0][1], spots[-1][1]
    turned = dot(direction_of(b), way) < 0
    openings = _joined_openings(a, b, start)
    studs = _joined_studs(a, b, start)
    made = replace(
        a, start=_tidy(start), end=_tidy(end), openings=openings, set_studs=studs, slack=()
    )
    became = {}
    for w, flip in ((a, False), (b, turned)):
        begins = min(dot(sub(p, start), way) for p in (w.start, w.end))
        became[w.id] = (Became(0.0, wall_length(w), key, begins, flip),)

    def change(keys: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(dict.fromkeys(key if k == other else k for k in keys))

    return checked(
        project,
        walls=tuple(made if w.id == key else w for w in project.walls if w.id != other),
        **_hosts(project, change, became),
    )


def _refuse_join(a: Wall, b: Wall) -> None:
    way = direction_of(a)
    off = max(abs(cross(way, sub(p, a.start))) for p in (b.start, b.end))
    if a.bulge or b.bulge or not parallel(way, direction_of(b)) or off > TOUCH:
        raise EditError(
            f"“{a.name}” and “{b.name}” do not lie in one line, so they stay two walls."
        )
    alike = (a.base, a.top, a.build_up) == (b.base, b.top, b.build_up)
    if not alike or abs(a.thickness - b.thickness) > TOUCH:
        raise EditError(f"“{a.name}” and “{b.name}” differ in levels or in what they are built of.")


def _joined_openings(a: Wall, b: Wall, start: Point) -> tuple[Opening, ...]:
    """The openings of two walls in one line, measured from the start of the wall they become."""
    way = direction_of(a)
    turned = dot(direction_of(b), way) < 0
    kept = [replace(o, at=o.at + dot(sub(a.start, start), way)) for o in a.openings]
    for o in b.openings:
        first = add(b.start, direction_of(b), o.at + (o.width if turned else 0.0))
        kept.append(replace(o, at=dot(sub(first, start), way)))
    names = fresh_many((), f"{a.id}-", len(kept))
    return tuple(replace(o, id=n) for n, o in zip(names, sorted(kept, key=lambda o: o.at)))


def _joined_studs(a: Wall, b: Wall, start: Point) -> tuple[SetStud, ...]:
    """The studs set by hand of two walls in one line."""
    way = direction_of(a)
    places = sorted(
        dot(sub(add(w.start, direction_of(w), s.at), start), way)
        for w in (a, b)
        for s in w.set_studs
    )
    keys = fresh_many((), "N", len(places))
    return tuple(SetStud(key, x) for key, x in zip(keys, places))


def remove_walls(project: Project, keys: Sequence[str]) -> Project:
    """Take walls away; floors, roofs and foundations no longer stand on them."""
    gone = set(keys)
    hosts = _hosts(project, lambda there: tuple(k for k in there if k not in gone))
    return checked(project, walls=tuple(w for w in project.walls if w.id not in gone), **hosts)


def set_walls(project: Project, keys: Sequence[str], **fields: Any) -> Project:
    """Change fields of walls together: levels, offsets, lap, name."""
    known(Wall, fields)
    return checked(
        project, walls=tuple(replace(w, **fields) if w.id in keys else w for w in project.walls)
    )


def set_wall_tops(project: Project, keys: tuple[str, ...], top: str) -> Project:
    """Let walls end at a level."""
    return set_walls(project, keys, top=top, top_offset=0.0)


def end_walls_at(project: Project, keys: tuple[str, ...], height: float, bears_on: str) -> Project:
    """Let walls end at a height, mm, said from the level that the joists over them bear on."""
    offset = round(height - level(project, bears_on).elevation, 6) + 0.0
    return set_walls(project, keys, top=bears_on, top_offset=offset)


def set_build_up_of(
    project: Project, keys: Sequence[str], build_up: str, by: PlacedBy | None = None
) -> Project:
    """Give walls a build-up; the part of them that their line marks stays where it is.

    A wall whose line marked no part of a build-up keeps its outer face.
    """
    body = next((b for b in project.wall_build_ups if b.id == build_up), None)
    if body is None:
        raise EditError(f"There is no build-up “{build_up}”.")
    return _put(project, *(_rebuilt(w, body, by) for w in project.walls if w.id in keys))


def _rebuilt(w: Wall, body: WallBuildUp, by: PlacedBy | None) -> Wall:
    part: PlacedBy = by or w.by
    if part != "free":
        return built(w, body, part, outside=outside_of(w))
    if w.side == "centre" and not w.shift:
        return built(w, body, "core centre", outside=outside_of(w))
    if w.side == "left" and w.shift:
        return _by_outer_face(w, body)
    return built(w, body, "outer face", outside=outside_of(w))


def _by_outer_face(item: Wall, body: Any) -> Wall:
    """A line that lies somewhere in its wall moves to the outer face, which stays."""
    normal = left(direction_of(item))
    moved = replace(
        item,
        start=_tidy(add(item.start, normal, item.shift)),
        end=_tidy(add(item.end, normal, item.shift)),
    )
    return built(replace(moved, shift=0.0), body, "outer face", outside="right")


def arc_through(start: Point, end: Point, middle: Point) -> float:
    """The bulge of the arc from start to end through a third place; 0 where the three lie in
    a line.

    Raises:
        EditError: more than half a circle.
    """
    chord = sub(end, start)
    if distance(start, end) < TOUCH:
        raise EditError("A wall of no length cannot be drawn; its ends must lie apart.")
    # The angle in which the chord is seen from the arc gives the angle it turns through.
    a, b = sub(start, middle), sub(end, middle)
    seen = math.atan2(cross(a, b), dot(a, b))
    turn = 2 * (math.pi - abs(seen))
    side = cross(unit(chord), sub(middle, start))
    if abs(side) < TOUCH / 10:
        return 0.0
    bulge = math.tan(turn / 4)
    if bulge > 1.0 + 1e-9:
        raise EditError("A curved wall turns through half a circle at most; draw two of them.")
    return min(1.0, bulge) * (-1.0 if side > 0 else 1.0)


def top_over(project: Project, base: str) -> str:
    """The level walls on a level usually reach: that of most walls there, else the next
    plate, else the next level."""
    tops = [w.top for w in project.walls if w.base == base]
    if tops:
        return max(sorted(set(tops)), key=tops.count)
    if not base:
        return ""
    foot = level(project, base)
    above = [x for x in column(project) if x.elevation > foot.elevation + 1.0]
    return next(iter(levels_of(above, "plate") or above), foot).id
