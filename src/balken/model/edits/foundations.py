"""Edits of foundations: placing one of a kind along walls or a path, its differences per wall, its
steps, the ground."""

import math
from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise
from typing import Any, Final

from msgspec.structs import replace

from balken.geometry.plane import (
    EXACT,
    TOUCH,
    Point,
    add,
    cross,
    distance,
    dot,
    left,
    meet,
    sub,
    unit,
)
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
from balken.model.project import Level, Project, Spot, column, level, levels_of
from balken.model.usual import USUAL
from balken.model.walls import Wall, direction_of, reach, wall_length
from balken.units import format_length

SHORTEST = 200.0
"""A part of a wall shorter than this stands on no foundation of its own, mm."""
LEAST_FREE: Final = 100.0
"""A shorter piece of a path between walls is none, mm."""
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
    bottom = next(iter(levels_of(up, "footing_bottom")), None)
    if bottom is None:
        return None
    tops = levels_of(up, "footing_top")
    base = next((x for x in tops if x.elevation > bottom.elevation), None)
    return (bottom, base) if base else None


def place_foundation(
    project: Project,
    kind: FoundationKind,
    chosen: Chosen,
    walls: Sequence[str] = (),
    path: Sequence[Point] = (),
    *,
    parts: Sequence[RunSpan] = (),
    top: str = "",
    base: str = "",
    slab_level: str = "",
    offset: float = 0.0,
) -> Project:
    """Place a foundation of a kind under walls or stretches of them, or along a path drawn freely.

    Where the path runs along walls of the lowest storey, the foundation stands under that part of
    them; other foundations of its sort give up what it takes.

    Raises:
        EditError: a part of its kind is not chosen, a level is missing, nothing was chosen to stand
            on it, or the path crosses itself.
    """
    _refuse_incomplete(kind, chosen)
    _refuse_path(project, kind, (*walls, *(s.wall for s in parts)), path)
    spans, paths = along_walls(project, path)
    spans = (*parts, *spans)
    over = (*walls, *(s.wall for s in spans))
    top_level = level(project, top) if top else _top_for(project, kind, over)
    if kind == "basement":
        project, base, slab_level = basement_levels(
            project, top_level, chosen.slab or 0.0, base, slab_level
        )
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
        sill=(chosen.sill or "") if "sill" in PARTS[kind] else "",
        slab_level=slab_level,
    )
    if kind in WITH_STEM:
        run = _with_footing(project, run, chosen, base, top_level)
    run = _with_slab_and_edge(run, chosen)
    left = _without(project, run)
    _refuse_double(project, run)
    key = fresh((r.id for r in project.runs), "G")
    return checked(project, runs=(*left, replace(run, id=key, name=key)))


def not_founded(
    project: Project, kind: FoundationKind, walls: Sequence[str]
) -> tuple[tuple[str, ...], tuple[RunSpan, ...]]:
    """Of walls, those that stand on no foundation of a kind's sort yet, and the stretches of others
    that do not."""
    lengths = {w.id: wall_length(w) for w in project.walls}
    taken: dict[str, list[tuple[float, float]]] = {}
    for run in project.runs:
        if (run.kind in WITH_STEM) == (kind in WITH_STEM):
            for key in run.walls:
                taken.setdefault(key, []).append((0.0, lengths[key]))
            for s in run.spans:
                taken.setdefault(s.wall, []).append((s.start, s.end))
    free = tuple(k for k in walls if k not in taken)
    parts = tuple(
        RunSpan(k, a, b)
        for k in walls
        if k in taken
        for a, b in _left_of((0.0, lengths[k]), taken[k])
    )
    return free, parts


def given_up(before: Project, after: Project) -> str:
    """What foundations gave up to one that was placed over them, in words; empty where none did."""
    now = {r.id: r for r in after.runs}
    words = []
    for run in before.runs:
        left = now.get(run.id)
        if left is None:
            words.append(f"{run.name} is gone: the new foundation took all it stood under")
        elif (left.walls, left.spans) != (run.walls, run.spans) and len(now) > len(before.runs):
            words.append(f"{run.name} gave up what the new foundation runs under")
    return f"{'; '.join(words)}. Ctrl+Z takes it back." if words else ""


def _refuse_incomplete(kind: FoundationKind, chosen: Chosen) -> None:
    missing = parts_missing(kind, chosen)
    if missing:
        words = " and ".join(PART_WORDS[p] for p in missing)
        are = "is" if len(missing) == 1 else "are"
        raise EditError(f"A {KIND_WORDS[kind]} is not complete: {words} {are} not chosen yet.")


def _refuse_path(
    project: Project, kind: FoundationKind, walls: Sequence[str], path: Sequence[Point]
) -> None:
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


def _refuse_double(project: Project, run: FoundationRun) -> None:
    wanted = replace(run, id="G", name="G")
    same = next((r for r in project.runs if replace(r, id="G", name="G") == wanted), None)
    if same is not None:
        raise EditError(
            f"Just such a foundation is there already: {same.name}. Choose other walls, or change"
            " it on its own slip."
        )


def _with_slab_and_edge(run: FoundationRun, chosen: Chosen) -> FoundationRun:
    if run.kind in ("basement", "slab", "slab edge"):
        run = replace(run, slab_thickness=chosen.slab or 0.0)
    sized = {"slab edge": chosen.edge, "grade beam": chosen.beam}.get(run.kind)
    return replace(run, edge_width=sized[0], edge_depth=sized[1]) if sized else run


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
    wanted = standing.elevation - thick
    bottoms = levels_of(project.levels, "footing_bottom")
    bottom = next((x for x in bottoms if abs(wanted - x.elevation) < SAME_HEIGHT), None)
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
    walls = _lowest_walls(project) if len(path) > 1 else []
    spans: list[RunSpan] = []
    free: list[list[Point]] = []
    for a, b in pairwise(path):
        if distance(a, b) < TOUCH:
            continue
        way, length = unit(sub(b, a)), distance(a, b)
        taken: list[tuple[float, float]] = []
        for wall in walls:
            stretch = _beside(wall, a, way, length)
            if stretch is not None:
                spans += _span_along(wall, a, way, stretch, taken)
        for low, high in _left_over(taken, length):
            _go_on(free, add(a, way, low), add(a, way, high))
    return tuple(spans), tuple(tuple(f) for f in free)


def _lowest_walls(project: Project) -> list[Wall]:
    """The straight walls of the lowest storey."""
    bases = [level(project, w.base) for w in project.walls]
    lowest = min(bases, key=lambda x: x.elevation, default=None)
    return [w for w in project.walls if lowest and w.base == lowest.id and not w.bulge]


def _span_along(
    wall: Wall,
    a: Point,
    way: Point,
    stretch: tuple[float, float],
    taken: list[tuple[float, float]],
) -> list[RunSpan]:
    """The part of a wall that a stretch of path from ``a`` runs along, where no other wall took it;
    what it takes is added to what is taken."""
    low, high = stretch
    for c, d in taken:  # one part of the path runs along one wall
        if c <= low < d:
            low = max(low, d)
        elif c < high <= d:
            high = min(high, c)
    if high - low < 1.5 * wall.thickness:
        return []
    taken.append((low, high))
    along = direction_of(wall)
    at = sorted(dot(sub(add(a, way, s), wall.start), along) for s in (low, high))
    return [RunSpan(wall.id, *_to_the_ends(at, wall_length(wall)))]


def _left_over(
    taken: Sequence[tuple[float, float]], length: float
) -> Iterator[tuple[float, float]]:
    """What of a stretch of path no wall took; shorter pieces between walls are none."""
    here = 0.0
    for low, high in [*sorted(taken), (length, length)]:
        if low - here > LEAST_FREE or (not taken and low > here):
            yield here, low
        here = max(here, high)


def _go_on(free: list[list[Point]], p: Point, q: Point) -> None:
    """Add a piece to what is free: it goes on from the last one, or begins another."""
    if free and distance(free[-1][-1], p) < TOUCH:
        free[-1].append(_tidy(q))
    else:
        free.append([_tidy(p), _tidy(q)])


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
        same_sort = (other.kind in WITH_STEM) == (run.kind in WITH_STEM)
        if not same_sort or not set(taken) & set(walls_on(other)):
            found.append(other)
            continue
        left = _left_to(other, taken, lengths)
        if left.walls or left.spans or left.paths:
            found.append(left)
    return tuple(found)


def _left_to(
    run: FoundationRun,
    taken: Mapping[str, Sequence[tuple[float, float]]],
    lengths: Mapping[str, float],
) -> FoundationRun:
    """A run with what is left of its walls."""
    whole = tuple(k for k in run.walls if k not in taken)
    mine = [RunSpan(k, 0.0, lengths[k]) for k in run.walls if k in taken] + list(run.spans)
    spans = tuple(
        RunSpan(s.wall, a, b)
        for s in mine
        for a, b in _left_of((s.start, s.end), list(taken.get(s.wall, ())))
    )
    return replace(run, walls=whole, spans=spans)


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
    wanted = levels_of(reversed(up), "foundation_top") or levels_of(up, "floor", "ground")
    if not wanted:
        raise EditError("A foundation needs a level to reach; add the top of foundation first.")
    return wanted[0]


def crossing_of(path: Sequence[Point]) -> Point | None:
    """Where a path crosses itself; None where it does not. Its ends may meet."""
    pairs = list(pairwise(path))
    for i, (a, b) in enumerate(pairs):
        for k in range(i + 2, len(pairs)):
            c, d = pairs[k]
            closes = i == 0 and k == len(pairs) - 1 and distance(a, d) < TOUCH
            hit = None if closes else _meet_between((a, b), (c, d))
            if hit:
                return hit
    return None


def _meet_between(one: tuple[Point, Point], other: tuple[Point, Point]) -> Point | None:
    """Where two stretches meet; None where they do not, or one has no length."""
    if min(distance(*one), distance(*other)) < TOUCH:
        return None
    hit = meet(one[0], unit(sub(one[1], one[0])), other[0], unit(sub(other[1], other[0])))
    if hit and all(
        distance(p, hit) + distance(hit, q) <= distance(p, q) + EXACT for p, q in (one, other)
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
    rise = _step_rise(project, drop)
    item = next((w for w in project.walls if w.id == wall), None)
    if item is not None and not TOUCH < at < distance(item.start, item.end) - TOUCH:
        raise EditError("A step stands between the ends of its wall.")
    gone = [at] if instead is None else [at, instead]
    steps = [s for s in run.steps if s.wall != wall or all(abs(s.at - x) >= TOUCH for x in gone)]
    steps.append(HeldStep(wall, round(at, 4), round(rise, 6)))
    return set_foundation(project, key, steps=tuple(sorted(steps, key=lambda s: (s.wall, s.at))))


def _step_rise(project: Project, drop: float) -> float:
    """The rise of a step to the module, within the limit."""
    rule, system = project.site.steps, project.system
    rise = round(drop / rule.module) * rule.module
    if not rise:
        raise EditError(
            f"A step rises by at least one module, {format_length(rule.module, system)}."
        )
    if abs(rise) > rule.rise + TOUCH:
        raise EditError(
            f"A step of {format_length(abs(rise), system)} is higher than the limit of"
            f" {format_length(rule.rise, system)}. Put two, or raise the limit."
        )
    return rise


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
