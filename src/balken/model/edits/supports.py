"""Edits of posts, pads and piers: put at crossings by all, by lines, by an area, one by one; lost
the same way."""

from collections.abc import Iterable, Sequence
from typing import Any, Final, Literal

from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point
from balken.model.edits.common import EditError, checked, fresh_many, known
from balken.model.edits.groups import with_group
from balken.model.grids import grid_crossings
from balken.model.names import ThingName
from balken.model.project import Level, PointSupport, Project, Role, column, level, levels_of
from balken.units import INCH

SupportKind = Literal["post", "pad", "pier"]
Crossing = tuple[str, str, str]
"""A grid, and the two lines of it that cross."""

SIZES = {
    "us": {
        "post": (5.5 * INCH, 5.5 * INCH),
        "pad": (56 * INCH, 56 * INCH),
        "pier": (12 * INCH, 12 * INCH),
    },
    "metric": {"post": (140.0, 140.0), "pad": (1400.0, 1400.0), "pier": (300.0, 300.0)},
}
"""First sizes: a 6x6 post, a 4 ft 8 in pad, a 12 in pier; common practice, no source."""


def crossings_of(
    project: Project, *, lines: Iterable[ThingName] = (), inside: Sequence[Point] = ()
) -> list[Crossing]:
    """Crossings: all, or those on chosen lines, or those inside an outline."""
    from shapely import Polygon, contains_xy, prepare

    wanted = set(lines)
    area = Polygon(inside).buffer(1.0) if inside else None
    if area is not None:
        prepare(area)
    found = []
    for g in project.grids:
        for a, b, p in grid_crossings(g):
            if (
                wanted
                and not {ThingName("grid", g.id, a.id), ThingName("grid", g.id, b.id)} & wanted
            ):
                continue
            if area is None or contains_xy(area, *p):
                found.append((g.id, a.id, b.id))
    return found


STEMS: Final[dict[SupportKind, str]] = {"post": "C", "pad": "P", "pier": "Q"}
"""What keys of each kind begin with: none as those of beams."""
SPANS: Final[dict[SupportKind, tuple[Role, Role]]] = {
    "pad": ("footing_bottom", "footing_top"),
    "pier": ("footing_top", "foundation_top"),
    "post": ("floor", "plate"),
}
"""The levels that each kind of support usually stands between."""


SPAN_WORDS: Final[dict[SupportKind, str]] = {
    "pad": "bottom and top of footing",
    "pier": "top of footing and of foundation",
    "post": "a floor and a plate",
}


def levels_for(project: Project, kind: SupportKind) -> tuple[Level, Level]:
    """The levels a support of a kind usually spans: a pad its footing, a pier up to the
    foundation's top, a post a storey.

    Raises:
        EditError: the building has no such levels.
    """
    up = column(project)
    foot, head = SPANS[kind]
    low = next(iter(levels_of(up, foot)), None)
    above = [x for x in up if low and x.elevation > low.elevation]
    high = levels_of(above, head) or (above if kind == "post" else [])
    if low is None or not high:
        raise EditError(f"A {kind} stands between {SPAN_WORDS[kind]}; add those levels first.")
    return low, high[0]


def put_supports(
    project: Project, kind: SupportKind, at: Sequence[Crossing], **fields: Any
) -> Project:
    """Put supports of one kind at crossings; where one of the kind stands already in these heights,
    that one stays.

    Raises:
        EditError: no crossing was named, or the levels are missing.
    """
    if not at:
        raise EditError("No grid lines cross there.")
    known(PointSupport, fields)
    if "base" not in fields or "top" not in fields:
        low, high = levels_for(project, kind)
        fields = {"base": low.id, "top": high.id, **fields}
    fields.setdefault("size", SIZES[project.system][kind])
    free = _free(project, kind, at, fields["base"], fields["top"])
    keys = fresh_many((s.id for s in project.point_supports), STEMS[kind], len(free))
    made = tuple(
        PointSupport(id=key, kind=kind, grid=g, lines=(a, b), **fields)
        for key, (g, a, b) in zip(keys, free)
    )
    return checked(project, point_supports=project.point_supports + made)


def _free(
    project: Project, kind: SupportKind, at: Sequence[Crossing], base: str, top: str
) -> list[Crossing]:
    """The crossings where no support of a kind stands between these levels."""
    there = {
        (s.grid, *s.lines)
        for s in project.point_supports
        if s.kind == kind and _in_heights(project, s, base, top)
    }
    return [c for c in at if c not in there]


def _in_heights(project: Project, item: PointSupport, base: str, top: str) -> bool:
    """Whether a support stands between the same heights as one from level to level, or
    partly."""
    heights = {x.id: x.elevation for x in project.levels}
    if base not in heights or top not in heights:
        return True  # the gate will say so
    return bool(
        min(heights[item.top], heights[top]) - max(heights[item.base], heights[base]) > TOUCH
    )


def put_support(project: Project, kind: SupportKind, at: Point, **fields: Any) -> Project:
    """Put one support on a free spot."""
    known(PointSupport, fields)
    low, high = levels_for(project, kind)
    key = fresh_many((s.id for s in project.point_supports), STEMS[kind], 1)[0]
    fields = {"base": low.id, "top": high.id, "size": SIZES[project.system][kind], **fields}
    return checked(
        project,
        point_supports=(*project.point_supports, PointSupport(id=key, kind=kind, at=at, **fields)),
    )


def lose_supports(project: Project, kind: SupportKind | None, at: Sequence[Crossing]) -> Project:
    """Take the supports of a kind (or all) away from crossings."""
    gone = set(at)
    rest = tuple(
        s
        for s in project.point_supports
        if not ((kind is None or s.kind == kind) and (s.grid, *s.lines) in gone)
    )
    return checked(project, point_supports=rest)


def set_supports(project: Project, keys: Sequence[str], **fields: Any) -> Project:
    """Change fields of supports together; a size is that of all their group."""
    known(PointSupport, fields)
    changed = with_group(project, keys, fields)
    return checked(
        project,
        point_supports=tuple(
            replace(s, **fields) if s.id in changed else s for s in project.point_supports
        ),
    )


def size_supports(
    project: Project, keys: Sequence[str], *, width: float | None = None, depth: float | None = None
) -> Project:
    """Give supports a width or a depth, mm; each keeps the other measure of its own. It is that of all
    their group."""
    changed = with_group(project, keys, ("size",))
    return checked(
        project,
        point_supports=tuple(
            replace(
                s,
                size=(s.size[0] if width is None else width, s.size[1] if depth is None else depth),
            )
            if s.id in changed
            else s
            for s in project.point_supports
        ),
    )


def remove_supports(project: Project, keys: Sequence[str]) -> Project:
    """Take supports away."""
    return checked(
        project, point_supports=tuple(s for s in project.point_supports if s.id not in keys)
    )


def merge_with_footing(project: Project, pad: str, run: str, low: float, high: float) -> Project:
    """Let a pad lie between two heights, mm, with the top of a run's footing.

    Raises:
        EditError: the run has no level at the top of its footing.
    """
    record = next(r for r in project.runs if r.id == run)
    if not record.base:
        raise EditError("That foundation has no top of footing to merge with.")
    shift = round(high - level(project, record.base).elevation, 6) + 0.0
    return set_supports(
        project,
        [pad],
        base=record.bottom or record.base,
        top=record.base,
        base_offset=0.0,
        top_offset=shift,
        thickness=round(high - low, 6),
    )
