"""Edits of how walls are framed: of a build-up, of single walls, of all stud walls at once."""

from collections.abc import Callable, Sequence
from typing import Any

from msgspec.structs import replace

from balken.model.edits.common import EditError, checked
from balken.model.project import Project
from balken.model.wall_frames import StudRule
from balken.model.walls import Wall, WallBuildUp
from balken.units import INCH

USUAL = {"us": StudRule(spacing=16 * INCH), "metric": StudRule(spacing=600.0)}
"""How walls are framed until something else is typed (common practice)."""


def frame_walls(project: Project, is_solid: Callable[[WallBuildUp], bool]) -> Project:
    """Frame every wall of studs: build-ups that are no masonry, and walls without one.

    Args:
        project: the building.
        is_solid: whether a build-up is of masonry or concrete.

    Raises:
        EditError: there is none, or all are framed.
    """
    rule = USUAL[project.system]
    bodies = tuple(
        replace(b, studs=rule) if b.studs is None and not is_solid(b) else b
        for b in project.wall_build_ups
    )
    walls = tuple(
        replace(w, studs=rule) if not w.build_up and w.studs is None and not w.bulge else w
        for w in project.walls
    )
    if (bodies, walls) == (project.wall_build_ups, project.walls):
        raise EditError("No wall of studs is left to be framed: block and concrete are not.")
    return checked(project, wall_build_ups=bodies, walls=walls)


def leave_unframed(project: Project) -> Project:
    """Take the frames of all walls away."""
    return checked(
        project,
        wall_build_ups=tuple(replace(b, studs=None) for b in project.wall_build_ups),
        walls=tuple(replace(w, studs=None) for w in project.walls),
    )


def rule_studs(project: Project, body: str, **fields: Any) -> Project:
    """Change how walls of a build-up are framed; ``framed`` no takes their frames away."""
    if fields.get("framed") is False:
        made: StudRule | None = None
    else:
        now = next(b.studs for b in project.wall_build_ups if b.id == body)
        made = replace(now or USUAL[project.system], **fields)
    return checked(
        project,
        wall_build_ups=tuple(
            replace(b, studs=made) if b.id == body else b for b in project.wall_build_ups
        ),
    )


def rule_studs_of(project: Project, keys: Sequence[str], **fields: Any) -> Project:
    """Change how single walls are framed, which have a rule of their own from then on."""
    by_id = {b.id: b.studs for b in project.wall_build_ups}

    def ruled(w: Wall) -> Wall:
        now = w.studs or by_id.get(w.build_up) or USUAL[project.system]
        return replace(w, studs=replace(now, **fields))

    return checked(project, walls=tuple(ruled(w) if w.id in keys else w for w in project.walls))


def as_build_up(project: Project, keys: Sequence[str]) -> Project:
    """Let walls be framed as their build-up says."""
    return checked(
        project, walls=tuple(replace(w, studs=None) if w.id in keys else w for w in project.walls)
    )
