"""Edits of foundations: placing one of a kind along walls or a path, its differences per wall, its
steps, the ground."""

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Any, Final

from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, add, cross, distance, dot, left, meet, sub, unit
from balken.model.edits.basements import basement_levels
from balken.model.edits.common import EditError, checked, fresh, known, with_
from balken.model.edits.levels import move_level
from balken.model.foundations import (
    KIND_WORDS,
    PART_WORDS,
    PARTS,
    WITH_STEM,
    Chosen,
    FoundationKind,
    FoundationRun,
    HeldStep,
    Pocket,
    RunPart,
    RunSpan,
    Shelf,
    parts_missing,
    walls_on,
)
from balken.model.named import named
from balken.model.project import Level, Project, Spot, column, level
from balken.model.usual import USUAL
from balken.model.walls import Wall, direction_of, reach, wall_length
from balken.units import format_length

SHORTEST = 200.0
"""A part of a wall shorter than this stands on no foundation of its own, mm."""
SAME_HEIGHT = 0.5
"""A footing as thick as its levels lie apart, to this, follows the levels, mm."""

MEANT_ALONG: Final = math.sin(math.radians(3))
"""A side drawn along a wall, its ends caught at one face and at the other, is meant to run along
the wall."""


def usual_parts(project: Project, kind: FoundationKind) -> Chosen:
    """Usual sizes for a kind: 20 × 10 in footing, 8 in wall, 10 in round a basement, 4 in
    slab, 12 × 24 in edge and beam; common practice, no source."""
    usual = USUAL[project.system].ground
    wide, thick = usual.footing
    wall = usual.basement_wall if kind == "basement" else usual.stem
    footing = (wide, _between(project) or thick)
    return Chosen(footing, wall, usual.slab, usual.edge, usual.edge, usual.sill)


def _between(project: Project) -> float:
    levels = footing_levels(project)
    return levels[1].elevation - levels[0].elevation if levels else 0.0


def footing_levels(project: Project, top: Level | None = None) -> tuple[Level, Level] | None:
    """The outside footing's bottom and top level: the lowest bottom, and the next top above
    it."""
    up = [x for x in column(project) if top is None or x.elevation < top.elevation]
    bottom = next((x for x in up if x.role == "footing_bottom"), None)
    base = next(
        (x for x in up if x.role == "footing_top" and bottom and x.elevation > bottom.elevation),
        None,
    )
    return (bottom, base) if bottom and base else None


def place_foundation(
    project: Project,
    kind: FoundationKind,
    chosen: Chosen,
    walls: Sequence[str] = (),
    path: Sequence[Point] = (),
    *,
    top: str = "",
    base: str = "",
    slab_level: str = "",
    offset: float = 0.0,
) -> Project:
    """Place a foundation of a kind under walls, or along a path drawn freely.

    Where the path runs along walls of the lowest storey, the foundation stands under that part of
    them; other foundations of its sort give up what it takes.

    Raises:
        EditError: a part of its kind is not chosen, a level is missing, nothing was chosen to stand
            on it, or the path crosses itself.
    """
    missing = parts_missing(kind, chosen)
    if missing:
        words = " and ".join(PART_WORDS[p] for p in missing)
        raise EditError(
            f"A {KIND_WORDS[kind]} is not complete: {words} {'is' if len(missing) == 1 else 'are'}"
            " not chosen yet."
        )
    if not walls and len(path) < 2:
        raise EditError(
            f"A {KIND_WORDS[kind]} needs walls to run under, or a path of at least two places."
        )
    crossed = crossing_of(path)
    if crossed:
        x, y = (format_length(c, project.system) for c in crossed)
        raise EditError(
            f"The path crosses itself at {x}, {y}. A foundation runs along without crossing."
        )
    spans, paths = along_walls(project, path)
    over = (*walls, *(s.wall for s in spans))
    top_level = level(project, top) if top else _top_for(project, kind, over)
    if kind == "basement":
        project, base, slab_level = basement_levels(
            project, top_level, chosen.slab or 0.0, base, slab_level
        )
    sill = (chosen.sill or "") if "sill" in PARTS[kind] else ""
    run = FoundationRun(
        "",
        "",
        tuple(walls),
        top_level.id,
        "",
        "",
        0.0,
        0.0,
        offset=offset,
        kind=kind,
        paths=paths,
        spans=spans,
        sill=sill,
        slab_level=slab_level,
    )
    if kind in WITH_STEM:
        run = _with_footing(project, run, chosen, base, top_level)
    if kind in ("basement", "slab", "slab edge"):
        run = replace(run, slab_thickness=chosen.slab or 0.0)
    sized = chosen.edge if kind == "slab edge" else chosen.beam if kind == "grade beam" else None
    if sized:
        run = replace(run, edge_width=sized[0], edge_depth=sized[1])
    left = _without(project, run)
    key = fresh((r.id for r in left), "G")
    same = next(
        (r for r in project.runs if replace(r, id=key, name=key) == replace(run, id=key, name=key)),
        None,
    )
    if same is not None:
        raise EditError(
            f"Just such a foundation is there already: {same.name}. Choose other walls, or change"
            " it on its own slip."
        )
    key = fresh((r.id for r in project.runs), "G")
    return checked(project, runs=(*left, replace(run, id=key, name=key)))


def _with_footing(
    project: Project, run: FoundationRun, chosen: Chosen, base: str, top: Level
) -> FoundationRun:
    """A run on its footing: between the two levels that lie as far apart as it is thick,
    else hung under the upper."""
    assert chosen.footing is not None
    assert chosen.wall is not None
    width, thick = chosen.footing
    levels = footing_levels(project, top)
    standing = level(project, base) if base else levels[1] if levels else None
    if standing is None:
        raise EditError("A footing lies between bottom and top of footing; add those levels first.")
    bottom = next(
        (
            x
            for x in project.levels
            if x.role == "footing_bottom"
            and abs(standing.elevation - x.elevation - thick) < SAME_HEIGHT
        ),
        None,
    )
    return replace(
        run,
        base=standing.id,
        bottom=bottom.id if bottom else "",
        stem_thickness=chosen.wall,
        footing_width=width,
        footing_thickness=0.0 if bottom else thick,
    )


def along_walls(
    project: Project, path: Sequence[Point]
) -> tuple[tuple[RunSpan, ...], tuple[tuple[Point, ...], ...]]:
    """The parts of walls of the lowest storey that a path runs along, and what is left of it
    where no wall is."""
    if len(path) < 2:
        return (), ()
    lowest = min(
        (level(project, w.base) for w in project.walls), key=lambda x: x.elevation, default=None
    )
    walls = [w for w in project.walls if lowest is not None and w.base == lowest.id and not w.bulge]
    spans: list[RunSpan] = []
    free: list[list[Point]] = []
    for a, b in pairwise(path):
        if distance(a, b) < TOUCH:
            continue
        way, length = unit(sub(b, a)), distance(a, b)
        taken: list[tuple[float, float]] = []
        for wall in walls:
            stretch = _beside(wall, a, way, length)
            if stretch is None:
                continue
            low, high = stretch
            for c, d in taken:  # one part of the path runs along one wall
                low, high = (
                    (max(low, d), high)
                    if c <= low < d
                    else (low, min(high, c))
                    if c < high <= d
                    else (low, high)
                )
            if high - low < 1.5 * wall.thickness:
                continue
            taken.append((low, high))
            along = direction_of(wall)
            at = sorted(dot(sub(add(a, way, s), wall.start), along) for s in (low, high))
            spans.append(RunSpan(wall.id, *_to_the_ends(at, wall_length(wall))))
        here = 0.0
        for low, high in [*sorted(taken), (length, length)]:
            if low - here > 100.0 or (not taken and low > here):
                p, q = add(a, way, here), add(a, way, low)
                if free and distance(free[-1][-1], p) < TOUCH:
                    free[-1].append(_tidy(q))
                else:
                    free.append([_tidy(p), _tidy(q)])
            here = max(here, high)
    return tuple(spans), tuple(tuple(f) for f in free)


def _beside(wall: Wall, a: Point, way: Point, length: float) -> tuple[float, float] | None:
    """The stretch of a path's piece that runs along a wall, mm from its start; None where it
    does not."""
    along = direction_of(wall)
    if abs(cross(along, way)) > MEANT_ALONG:
        return None
    low, high = sorted((dot(sub(wall.start, a), way), dot(sub(wall.end, a), way)))
    far, near = reach(wall)
    for s in (max(0.0, low), min(length, high)):
        off = dot(sub(add(a, way, s), wall.start), left(along))
        if not near - wall.thickness / 2 - TOUCH <= off <= far + wall.thickness / 2 + TOUCH:
            return None
    # A wall that ends at the face of the next one is meant to its corner.
    low, high = (
        (0.0 if abs(low) < 2 * wall.thickness else low),
        (length if abs(high - length) < 2 * wall.thickness else high),
    )
    low, high = max(0.0, low), min(length, high)
    return (low, high) if high - low > TOUCH else None


def _to_the_ends(at: Sequence[float], length: float) -> tuple[float, float]:
    """A stretch of a wall; what is left beyond it is told from nothing only where it could
    stand alone."""
    low, high = at
    return (
        0.0 if low < SHORTEST else round(low, 4),
        round(length, 4) if length - high < SHORTEST else round(high, 4),
    )


def _tidy(p: Point) -> Point:
    return (round(p[0], 4) + 0.0, round(p[1], 4) + 0.0)


def _without(project: Project, run: FoundationRun) -> tuple[FoundationRun, ...]:
    """The other runs; what the new one takes of walls goes over to it, and a run left with
    nothing is gone."""
    lengths = {w.id: wall_length(w) for w in project.walls}
    taken: dict[str, list[tuple[float, float]]] = {key: [(0.0, lengths[key])] for key in run.walls}
    for s in run.spans:
        taken.setdefault(s.wall, []).append((s.start, s.end))
    found = []
    for other in project.runs:
        if (other.kind in WITH_STEM) != (run.kind in WITH_STEM) or not set(taken) & set(
            walls_on(other)
        ):
            found.append(other)
            continue
        whole_walls = tuple(k for k in other.walls if k not in taken)
        mine = [RunSpan(k, 0.0, lengths[k]) for k in other.walls if k in taken] + list(other.spans)
        spans = tuple(
            RunSpan(s.wall, a, b)
            for s in mine
            for a, b in _left_of((s.start, s.end), taken.get(s.wall, []))
        )
        if whole_walls or spans or other.paths:
            found.append(replace(other, walls=whole_walls, spans=spans))
    return tuple(found)


def _left_of(
    span: tuple[float, float], taken: Sequence[tuple[float, float]]
) -> list[tuple[float, float]]:
    left_over = [span]
    for c, d in taken:
        left_over = [
            piece
            for a, b in left_over
            for piece in ((a, min(b, c)), (max(a, d), b))
            if piece[1] - piece[0] > SHORTEST
        ]
    return left_over


def _top_for(project: Project, kind: FoundationKind, walls: Sequence[str]) -> Level:
    """The level a foundation reaches: top of foundation; a slab on which walls stand, their
    floor."""
    if kind in ("slab", "slab edge") and walls:
        return level(project, next(w.base for w in project.walls if w.id == walls[0]))
    up = column(project)
    wanted = next((x for x in reversed(up) if x.role == "foundation_top"), None)
    if wanted is None:
        wanted = next((x for x in up if x.role in ("floor", "ground")), None)
    if wanted is None:
        raise EditError("A foundation needs a level to reach; add the top of foundation first.")
    return wanted


def crossing_of(path: Sequence[Point]) -> Point | None:
    """Where a path crosses itself; None where it does not. Its ends may meet."""
    pairs = list(pairwise(path))
    for i, (a, b) in enumerate(pairs):
        for k in range(i + 2, len(pairs)):
            c, d = pairs[k]
            if i == 0 and k == len(pairs) - 1 and distance(a, d) < TOUCH:
                continue
            if distance(a, b) < TOUCH or distance(c, d) < TOUCH:
                continue
            hit = meet(a, unit(sub(b, a)), c, unit(sub(d, c)))
            if hit and all(
                distance(p, hit) + distance(hit, q) <= distance(p, q) + 1e-6
                for p, q in ((a, b), (c, d))
            ):
                return hit
    return None


def set_foundation(project: Project, key: str, **fields: Any) -> Project:
    """Change fields of a foundation."""
    known(FoundationRun, fields)
    return checked(project, runs=with_(project.runs, key, **fields))


def set_part(project: Project, key: str, wall: str, **fields: Any) -> Project:
    """Let a foundation differ under one wall; what is nothing is as everywhere."""
    known(RunPart, fields)
    run = named(project.runs, key, "foundation")
    if wall not in walls_on(run):
        raise EditError("That wall does not stand on this foundation.")
    old = next((p for p in run.parts if p.wall == wall), RunPart(wall))
    new = replace(old, **fields)
    rest = tuple(p for p in run.parts if p.wall != wall)
    parts = rest if new == RunPart(wall) else (*rest, new)
    return set_foundation(project, key, parts=tuple(sorted(parts, key=lambda p: p.wall)))


def add_shelf(project: Project, key: str, shelf: Shelf) -> Project:
    """Cut a ledge or a seat into the top of a foundation's walls, or let a corbel stand out of
    them.

    Raises:
        EditError: what is left of the wall beside it would be too thin to stand, less than 2 in.
    """
    run = named(project.runs, key, "foundation")
    if shelf.kind != "corbel":
        rest = run.stem_thickness - shelf.width
        if rest < 50.0:
            left = format_length(max(0.0, rest), project.system)
            raise EditError(
                f"A {shelf.kind} {format_length(shelf.width, project.system)} wide leaves {left}"
                " of a wall"
                f" {format_length(run.stem_thickness, project.system)} thick. Make the wall"
                " thicker first."
            )
    return set_foundation(project, key, shelves=(*run.shelves, shelf))


def remove_shelf(project: Project, key: str, number: int) -> Project:
    """Take a ledge, seat or corbel away by its place in the list."""
    run = named(project.runs, key, "foundation")
    return set_foundation(
        project, key, shelves=tuple(s for i, s in enumerate(run.shelves) if i != number)
    )


def add_pocket(
    project: Project, key: str, wall: str, at: float, size: tuple[float, float, float]
) -> Project:
    """Leave a pocket for a beam in a foundation wall; ``size``: width, height and depth into the
    wall, mm.

    Raises:
        EditError: the wall is no deeper than the pocket, or does not stand on this foundation.
    """
    run = named(project.runs, key, "foundation")
    if wall not in walls_on(run):
        raise EditError("That wall does not stand on this foundation.")
    if size[2] > run.stem_thickness - 25.0:
        raise EditError(
            f"A pocket {format_length(size[2], project.system)} deep goes through a wall"
            f" {format_length(run.stem_thickness, project.system)} thick."
        )
    pocket = Pocket(fresh((p.id for p in run.pockets), "P"), wall, at, *size)
    return set_foundation(project, key, pockets=(*run.pockets, pocket))


def remove_pocket(project: Project, key: str, pocket: str) -> Project:
    """Fill a pocket again."""
    run = named(project.runs, key, "foundation")
    return set_foundation(project, key, pockets=tuple(p for p in run.pockets if p.id != pocket))


def hold_step(
    project: Project, key: str, wall: str, at: float, drop: float, instead: float | None = None
) -> Project:
    """Hold a step of a footing at a place along its wall; the rest is solved round it.

    Args:
        project: the project.
        key: of the foundation.
        wall: the wall's key.
        at: from the wall's start, mm.
        drop: how far the footing goes down there in the wall's way, mm.
        instead: place of the held step that moves here.

    Raises:
        EditError: it lies past an end of the wall, or is no step.
    """
    run = named(project.runs, key, "foundation")
    rule = project.site.steps
    rise = round(drop / rule.module) * rule.module
    if not rise:
        raise EditError(
            f"A step rises by at least one module, {format_length(rule.module, project.system)}."
        )
    if abs(rise) > rule.rise + TOUCH:
        raise EditError(
            f"A step of {format_length(abs(rise), project.system)} is higher than the limit of"
            f" {format_length(rule.rise, project.system)}. Put two, or raise the limit."
        )
    item = next((w for w in project.walls if w.id == wall), None)
    if item is not None and not TOUCH < at < distance(item.start, item.end) - TOUCH:
        raise EditError("A step stands between the ends of its wall.")
    gone = [at] if instead is None else [at, instead]
    steps = tuple(
        s for s in run.steps if s.wall != wall or all(abs(s.at - x) >= TOUCH for x in gone)
    )
    held = HeldStep(wall, round(at, 4), round(rise, 6))
    return set_foundation(
        project, key, steps=tuple(sorted((*steps, held), key=lambda s: (s.wall, s.at)))
    )


def let_step_go(project: Project, key: str, wall: str, at: float) -> Project:
    """Give a held step back to the calculation."""
    run = named(project.runs, key, "foundation")
    rest = tuple(s for s in run.steps if not (s.wall == wall and abs(s.at - at) < TOUCH))
    return set_foundation(project, key, steps=rest)


def lower_footing(project: Project, key: str, by: float) -> Project:
    """Lower both levels of a foundation's footing, the lower one first, so that it never has a
    negative height."""
    run = named(project.runs, key, "foundation")
    for name in (run.bottom, run.base):
        if name:
            project = move_level(project, name, level(project, name).elevation - by)
    return project


def move_ground(project: Project, key: str, elevation: float) -> Project:
    """Move the ground: its level, and every measured height with it by as much."""
    by = elevation - level(project, key).elevation
    spots = tuple(Spot(s.at, round(s.height + by, 6)) for s in project.spots)
    return replace(move_level(project, key, elevation), spots=spots)


def set_spot(project: Project, number: int, height: float) -> Project:
    """Change one measured height of the ground by its place in the list."""
    return checked(
        project,
        spots=tuple(Spot(s.at, height) if i == number else s for i, s in enumerate(project.spots)),
    )


def remove_spot(project: Project, number: int) -> Project:
    """Take one measured height away."""
    return checked(project, spots=tuple(s for i, s in enumerate(project.spots) if i != number))
