"""Edits of how walls are framed: of a build-up, of single walls, of all stud walls at once."""

from collections.abc import Callable, Iterator, Sequence
from typing import Any

from msgspec.structs import replace

from balken.model.edits.common import EditError, checked, fresh, with_
from balken.model.project import Project, wall
from balken.model.wall_frames import Panels, SetStud, StudRule
from balken.model.walls import Wall, WallBuildUp, wall_length
from balken.units import INCH, System, format_length

USUAL = {"us": StudRule(spacing=16 * INCH), "metric": StudRule(spacing=600.0)}
"""How walls are framed until something else is typed (common practice)."""


NAILS = {"6d": (0.113, 2.0), "8d": (0.131, 2.5), "10d": (0.148, 3.0)}
"""Common nails: diameter and length, in."""
BOARDS = (("3/8", 0.375), ("7/16", 0.4375), ("15/32", 0.46875), ("19/32", 0.59375))
EDGES: dict[System, tuple[float, ...]] = {
    "us": tuple(e * INCH for e in (6, 4, 3, 2)),
    "metric": (150.0, 100.0, 75.0, 50.0),
}
"""Between nails along the edges of panels, the widest first, mm."""


def _us_panels() -> Iterator[Panels]:
    thick = dict(BOARDS)
    for panel, nail in (
        ("3/8", "6d"),
        ("3/8", "8d"),
        ("7/16", "8d"),
        ("15/32", "8d"),
        ("15/32", "10d"),
        ("19/32", "10d"),
    ):
        d, long = NAILS[nail]
        yield Panels(panel, nail, thick[panel] * INCH, d * INCH, long * INCH, 6 * INCH)


OFFERED: dict[System, tuple[Panels, ...]] = {
    "us": tuple(_us_panels()),
    "metric": tuple(
        Panels(f"OSB {t:g}", f"{d:g} × {long:g}", t, d, long, 150.0)
        for t, d, long in (
            (9.0, 2.8, 50.0),
            (12.0, 2.8, 63.0),
            (15.0, 3.1, 70.0),
            (18.0, 3.1, 75.0),
        )
    ),
}
"""Panels with their nails that are offered."""


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
        replace(b, studs=_with_sheathing(project, rule, b))
        if b.studs is None and not is_solid(b)
        else b
        for b in project.wall_build_ups
    )
    walls = tuple(
        replace(w, studs=rule) if not w.build_up and w.studs is None and not w.bulge else w
        for w in project.walls
    )
    if (bodies, walls) == (project.wall_build_ups, project.walls):
        raise EditError("No wall of studs is left to be framed: block and concrete are not.")
    return checked(project, wall_build_ups=bodies, walls=walls)


def _with_sheathing(project: Project, rule: StudRule, body: WallBuildUp) -> StudRule:
    """The rule with panels that brace where a layer of the build-up is sheathing."""
    if not any(x.role == "sheathing" for x in body.layers):
        return rule
    return replace(rule, panels=OFFERED[project.system][USUAL_PANELS[project.system]])


USUAL_PANELS: dict[System, int] = {"us": 2, "metric": 1}
"""Which of those offered: 7/16 in with 8d nails; 12 mm."""


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


def set_stud(project: Project, key: str, at: float) -> tuple[Project, str]:
    """Set a stud by hand into a framed wall; return the project and the stud's key.

    Args:
        project: the building.
        key: the wall.
        at: the stud's middle along the wall, mm.

    Raises:
        EditError: the place lies past the ends of the wall.
    """
    item = wall(project, key)
    length = wall_length(item)
    if not 0.0 <= at <= length:
        raise EditError(
            f"The stud would stand past the end of the wall: it is"
            f" {format_length(length, project.system)} long."
        )
    name = fresh((s.id for s in item.set_studs), "N")
    made = replace(item, set_studs=(*item.set_studs, SetStud(name, round(at, 3))))
    return checked(project, walls=with_(project.walls, key, set_studs=made.set_studs)), name


def move_set_stud(project: Project, key: str, stud: str, by: float) -> Project:
    """Move a stud that was set by hand along its wall, mm."""
    item = wall(project, key)
    studs = tuple(replace(s, at=round(s.at + by, 3)) if s.id == stud else s for s in item.set_studs)
    return checked(project, walls=with_(project.walls, key, set_studs=studs))


def let_brace(project: Project, key: str, stretch: tuple[float, float], *, braces: bool) -> Project:
    """Let a stretch of a wall between openings brace the building, or not.

    Args:
        project: the building.
        key: the wall.
        stretch: from, to along it, mm.
        braces: whether it is to.
    """
    low, high = stretch
    rest = tuple(x for x in wall(project, key).slack if not low <= x <= high)
    slack = rest if braces else tuple(sorted((*rest, round((low + high) / 2, 3))))
    return checked(project, walls=with_(project.walls, key, slack=slack))


def as_build_up(project: Project, keys: Sequence[str]) -> Project:
    """Let walls be framed as their build-up says."""
    return checked(
        project, walls=tuple(replace(w, studs=None) if w.id in keys else w for w in project.walls)
    )
