"""What a foundation run is framed from besides its own record: its lines, sides, heights, ground
and neighbours."""

from collections.abc import Iterator
from itertools import pairwise

import msgspec

from balken.framing.ground.lines import PATH, part_name, path_lines, wall_of, widened
from balken.framing.ground.runs import RunSite, frame_run, stems_of, ways_of
from balken.framing.hosts.walls import ON_TOP, rule_of
from balken.framing.member import Framed
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    distance,
    holds,
    left,
)
from balken.model.catalogue import catalogue_of
from balken.model.foundations import WITH_STEM, FoundationRun, RunSpan, walls_on
from balken.model.names import HostName, ThingName, step_part, whole
from balken.model.project import Change, Project, changes_on, level, wall_base
from balken.model.usual import WOOD
from balken.model.walls import Wall, direction_of, reach, straightened
from balken.recall import remembered, remembered_piece
from balken.site.bodies import bodies, outer_sides, storey_outline
from balken.site.ground import Surface, surface_of


class Step(msgspec.Struct, frozen=True, gc=False):
    """A step of a footing: its run and line, how far along its wall it stands, how far down it goes
    in the wall's way, mm, and the line across the footing where it stands."""

    run: str
    line: str
    at: float
    drop: float
    held: bool
    across: tuple[Point, Point]

    @property
    def key(self) -> ThingName:
        """What it is called on the desk."""
        return ThingName("step", self.run, step_part(self.line, self.at))


def walls_of(project: Project, keys: tuple[str, ...]) -> tuple[Wall, ...]:
    """Walls by their keys, openings left out: they do not change where members stand."""
    by_id = {w.id: w for w in project.walls}
    return straightened(tuple(_bare(by_id[k]) for k in keys))


@remembered_piece
def _bare(wall: Wall) -> Wall:
    return msgspec.structs.replace(wall, openings=(), name="", source="")


def surface_under(project: Project) -> Surface | None:
    """The surface of the ground; None where only its level is known."""
    return surface_of(project.spots) if project.spots else None


def parts_of(run: FoundationRun) -> list[tuple[str, RunSpan]]:
    """The parts of walls that stand on a run with the names of their lines."""
    counts: dict[str, int] = dict.fromkeys(run.walls, 1)
    found = []
    for span in sorted(run.spans, key=lambda s: (s.wall, s.start)):
        counts[span.wall] = counts.get(span.wall, 0) + 1
        found.append((part_name(span.wall, counts[span.wall]), span))
    return found


def run_lines(project: Project, run: FoundationRun) -> tuple[Wall, ...]:
    """What a run stands under: its walls, the parts of walls it takes, and the pieces of its
    path."""
    parts = []
    for name, span in parts_of(run):
        for wall in walls_of(project, (span.wall,)):
            way = direction_of(wall)
            end = min(span.end, distance(wall.start, wall.end))
            if span.wall != wall.id or end - span.start < TOUCH:
                continue  # a curved wall is taken whole or not at all
            parts.append(
                msgspec.structs.replace(
                    wall,
                    id=name,
                    start=add(wall.start, way, span.start),
                    end=add(wall.start, way, end),
                )
            )
    return walls_of(project, run.walls) + tuple(parts) + path_lines(run)


def sides_of(project: Project, run: FoundationRun) -> tuple[tuple[str, int], ...]:
    """Which side of a run's lines is outside, 1 left and -1 right: as the whole storey lies,
    not its walls alone.

    A piece of a free path outside the building has 0: the ground lies on both its sides.
    """
    lines = run_lines(project, run)
    found: dict[str, int] = {}
    for base in dict.fromkeys(w.base for w in lines if w.base):
        found |= _outer_sides_of(project, base)
    found |= _sides_of_path(project, tuple(w for w in lines if whole(w.id) == PATH))
    named = ((w.id, found.get(w.id, found.get(wall_of(w.id)))) for w in lines)
    return tuple((key, side) for key, side in named if side is not None)


def _outer_sides_of(project: Project, base: str) -> dict[str, int]:
    walls = walls_of(project, tuple(w.id for w in project.walls if w.base == base))
    return outer_sides(walls, storey_outline(walls))


def _sides_of_path(project: Project, free: tuple[Wall, ...]) -> dict[str, int]:
    found = outer_sides(free, storey_outline(free))
    open_ones = [w.id for w in free if w.id not in found and not _inside_walls(project, w)]
    return found | dict.fromkeys(open_ones, 0)


def _inside_walls(project: Project, line: Wall) -> bool:
    """Whether the middle of a line lies inside the lowest storey's outline."""
    if not project.walls:
        return False
    lowest = min((level(project, w.base) for w in project.walls), key=lambda x: x.elevation).id
    walls = walls_of(project, tuple(w.id for w in project.walls if w.base == lowest))
    outline = storey_outline(walls)
    middle = ((line.start[0] + line.end[0]) / 2, (line.start[1] + line.end[1]) / 2)
    return outline is not None and holds(outline, middle)


def heights_of(project: Project, run: FoundationRun) -> tuple[float, float, float, float]:
    """Bottom and top of a run's footing before it steps, its top, and the top of its slab,
    mm."""
    z = {x.id: x.elevation for x in project.levels}
    top = z[run.top]
    base = z.get(run.base, top)
    bottom = base - run.footing_thickness if run.footing_thickness else z.get(run.bottom, base)
    return bottom, base, top, z.get(run.slab_level, top)


def run_site(project: Project, run: FoundationRun) -> RunSite:
    """What a run is framed from besides its own record."""
    return _run_site(project, run)


@remembered
def _run_site(project: Project, run: FoundationRun) -> RunSite:
    lines = run_lines(project, run)
    others = [r for r in project.runs if r.id != run.id and r.kind in WITH_STEM]
    heights = heights_of(project, run)
    return RunSite(
        lines,
        sides_of(project, run),
        _beside(project, lines, others),
        *heights,
        next((x.elevation for x in project.levels if x.role == "ground"), None),
        project.site.frost_depth,
        project.site.steps,
        catalogue_of(project.system).sections.get(run.sill),
        WOOD[project.code].sill,
        project.system,
        tuple(_deeper(project, heights[0], others)),
        tuple((name, s.start) for name, s in parts_of(run)),
        _plated(project, run, heights),
    )


def _plated(
    project: Project, run: FoundationRun, heights: tuple[float, float, float, float]
) -> tuple[str, ...]:
    """The framed walls that stand right on a run, on no floor: their bottom plates are its sills."""
    drops = {p.wall: p.top_drop for p in run.parts}
    top = heights[3] if run.kind == "slab edge" else heights[2]
    mine = set(walls_on(run))
    return tuple(
        w.id
        for w in project.walls
        if w.id in mine
        and rule_of(project, w) is not None
        and abs(wall_base(project, w) - top + drops.get(w.id, 0.0)) < ON_TOP
    )


def _stems(project: Project, run: FoundationRun) -> tuple[Wall, ...]:
    return stems_of(run, run_lines(project, run), dict(sides_of(project, run)))


def _beside(
    project: Project, lines: tuple[Wall, ...], others: list[FoundationRun]
) -> tuple[Wall, ...]:
    """The stems of other runs under walls of the same storeys."""
    bases = {w.base for w in lines if w.base}
    return tuple(
        msgspec.structs.replace(stem, id=f"{other.id}|{stem.id}")
        for other in others
        if bases & {w.base for w in run_lines(project, other)}
        for stem in _stems(project, other)
    )


def _deeper(
    project: Project, bottom: float, others: list[FoundationRun]
) -> Iterator[tuple[Ring, float]]:
    """The footings of other runs that lie deeper: their outlines and bottoms."""
    for other in others:
        lower = heights_of(project, other)[0]
        if lower < bottom - TOUCH:
            footings = bodies(widened(_stems(project, other), other.footing_width))
            for body in footings.values():
                yield body.ring, lower


class Site(msgspec.Struct, frozen=True):
    """What one foundation run is framed from: its place among walls, levels and other runs, the
    surface of the ground where heights were measured, and the doors of walls that stand on it."""

    run: FoundationRun
    place: RunSite
    surface: Surface | None
    changes: tuple[Change, ...]
    doors: tuple[tuple[str, Point, Point], ...]

    @property
    def host(self) -> HostName:
        """The name its members bear."""
        return HostName("run", self.run.id)


def site(project: Project, run: FoundationRun) -> Site:
    """What a run is framed from."""
    changes = changes_on(project, HostName("run", run.id))
    doors = tuple(_doors(project, run)) if run.kind == "slab edge" else ()
    return Site(run, run_site(project, run), surface_under(project), changes, doors)


def frame(site: Site) -> Framed:
    """The members of a run."""
    return frame_run(site.run, site.place, site.surface, site.changes)


def frame_one(project: Project, run: FoundationRun) -> Framed:
    """The members of one run as it stands in its project."""
    return frame(site(project, run))


def _doors(project: Project, run: FoundationRun) -> Iterator[tuple[str, Point, Point]]:
    """The openings down to the floor of walls whose sill is their bottom plate."""
    mine = set(walls_on(run))
    for wall in project.walls:
        if wall.id in mine and not wall.bulge:
            way = direction_of(wall)
            for hole in (h for h in wall.openings if h.sill <= 0):
                a = add(wall.start, way, hole.at)
                yield wall.id, a, add(a, way, hole.width)


def steps_of(site: Site) -> Iterator[Step]:
    """The steps of a run's footings."""
    stems = {w.id: w for w in stems_of(site.run, site.place.lines, dict(site.place.outside))}
    for key, plateaus in ways_of(site.run, site.place, site.surface).plateaus:
        for upper, lower in pairwise(plateaus):
            yield _step(site, stems[key], upper.end, lower.drop - upper.drop)


def _step(site: Site, line: Wall, along: float, drop: float) -> Step:
    run, wall = site.run, wall_of(line.id)
    way = direction_of(line)
    middle = sum(reach(line)) / 2 + run.footing_shift * dict(site.place.outside).get(line.id, 0)
    at = along + dict(site.place.begins).get(line.id, 0.0)
    spot = add(add(line.start, way, along), left(way), middle)
    half = run.footing_width / 2
    return Step(
        run.id,
        wall,
        round(at, 4),
        drop,
        any(h.wall == wall and abs(h.at - at) < TOUCH for h in run.steps),
        (add(spot, left(way), -half), add(spot, left(way), half)),
    )
