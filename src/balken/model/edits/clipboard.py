"""Copy and paste of walls and supports, within a project and between projects."""

from collections.abc import Container, Iterator
from typing import Annotated, Final

from msgspec import Meta
from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, box, sub
from balken.model.edits.common import EditError, checked, fresh_many
from balken.model.edits.transform import Motion, chosen
from balken.model.names import Name
from balken.model.project import PointSupport, Project, column, level, wall_base, wall_top
from balken.model.record import Place, Record, Shift, Size
from balken.model.supports import heights, spot_of
from balken.model.walls import Wall, WallBuildUp

FORMAT: Final = 1


class Clip(Record, frozen=True):
    """Walls and supports cut loose from their project: heights from the level they stood on, places
    in the plan."""

    balken_clip: int
    origin: Place
    walls: Annotated[tuple[Wall, ...], Meta(max_length=5000)]
    wall_heights: Annotated[tuple[tuple[Shift, Size], ...], Meta(max_length=5000)]
    """Of each wall: its foot over its level, and its height, mm."""
    build_ups: Annotated[tuple[WallBuildUp, ...], Meta(max_length=500)]
    supports: Annotated[tuple[PointSupport, ...], Meta(max_length=20000)]
    support_heights: Annotated[tuple[tuple[Shift, Size], ...], Meta(max_length=20000)]


def clip_of(project: Project, names: tuple[Name, ...]) -> Clip:
    """What is selected as a clip.

    Raises:
        EditError: nothing of it can be copied.
    """
    there = chosen(names)
    walls = tuple(w for w in project.walls if w.id in there.walls)
    loose = tuple(_standing_free(project, there.supports))
    if not walls and not loose:
        raise EditError(
            "Nothing of what is selected can be copied: choose walls, posts, pads or piers."
        )
    used = {w.build_up for w in walls}
    return Clip(
        FORMAT,
        _corner(walls, loose),
        walls,
        tuple((w.base_offset, wall_top(project, w) - wall_base(project, w)) for w in walls),
        tuple(b for b in project.wall_build_ups if b.id in used),
        loose,
        tuple(_stands(project, s) for s in loose),
    )


def _corner(walls: tuple[Wall, ...], loose: tuple[PointSupport, ...]) -> Point:
    """The lower left corner of what is copied, which is laid under the pointer."""
    points = [p for w in walls for p in (w.start, w.end)] + [s.at for s in loose]
    x0, y0, _, _ = box(points)
    return x0, y0


def _stands(project: Project, item: PointSupport) -> tuple[float, float]:
    """How far over its level a support begins, and how high it is, mm."""
    low, high = heights(project, item)
    return item.base_offset, high - low


def _standing_free(project: Project, keys: Container[str]) -> Iterator[PointSupport]:
    """Supports where they stand, away from their grid."""
    for item in (s for s in project.point_supports if s.id in keys):
        spot = spot_of(project, item)
        if spot is not None:
            yield replace(item, at=spot, grid="", lines=("", ""))


def paste(project: Project, clip: Clip, base: str, at: Point) -> Project:
    """Add a clip's walls and supports on a level; build-ups that are the same are not added twice.

    Raises:
        EditError: the clip contradicts itself, or there is no level above.
    """
    if len(clip.walls) != len(clip.wall_heights) or len(clip.supports) != len(clip.support_heights):
        raise EditError("What was copied is damaged; copy it again.")
    by = Motion(sub(at, clip.origin))
    names, build_ups = _build_ups(project, clip)
    keys = fresh_many((w.id for w in project.walls), "W", len(clip.walls))
    walls = []
    for key, w, (foot, height) in zip(keys, clip.walls, clip.wall_heights):
        top, offset = _top(project, base, foot + height)
        holes = tuple(replace(o, id=f"{key}-{i}") for i, o in enumerate(w.openings, 1))
        walls.append(
            replace(
                w,
                id=key,
                name=f"wall {key[1:]}",
                start=by(w.start),
                end=by(w.end),
                base=base,
                base_offset=foot,
                top=top,
                top_offset=offset,
                build_up=names.get(w.build_up, ""),
                openings=holes,
                source="",
            )
        )
    marks = fresh_many((s.id for s in project.point_supports), "C", len(clip.supports))
    supports = []
    for key, s, (foot, height) in zip(marks, clip.supports, clip.support_heights):
        top, offset = _top(project, base, foot + height)
        supports.append(
            replace(
                s,
                id=key,
                at=by(s.at),
                base=base,
                base_offset=foot,
                top=top,
                top_offset=offset,
                grid="",
                lines=("", ""),
            )
        )
    return checked(
        project,
        wall_build_ups=build_ups,
        walls=(*project.walls, *walls),
        point_supports=(*project.point_supports, *supports),
    )


def _build_ups(project: Project, clip: Clip) -> tuple[dict[str, str], tuple[WallBuildUp, ...]]:
    names: dict[str, str] = {}
    found = list(project.wall_build_ups)
    for body in clip.build_ups:
        same = next((b for b in found if (b.layers, b.module) == (body.layers, body.module)), None)
        if same is None:
            same = replace(body, id=fresh_many((b.id for b in found), "X", 1)[0])
            found.append(same)
        names[body.id] = same.id
    return names, tuple(found)


def _top(project: Project, base: str, height: float) -> tuple[str, float]:
    """The level nearest to a height over a level, and how far it is off."""
    foot = level(project, base).elevation
    above = [x for x in column(project) if x.elevation > foot + TOUCH]
    if not above:
        raise EditError("There is no level above this one for the copies to reach; add one first.")
    best = min(above, key=lambda x: (abs(x.elevation - foot - height), x.id))
    offset = round(foot + height - best.elevation, 6)
    return best.id, offset + 0.0
