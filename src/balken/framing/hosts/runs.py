"""What a foundation run is framed from besides its own record: its lines, sides, heights, ground
and neighbours."""

from itertools import pairwise

import msgspec

from balken.framing.ground.lines import PATH, part_name, path_lines, wall_of, widened
from balken.framing.ground.runs import RunSite, frame_run, stems_of, ways_of
from balken.framing.member import Framed
from balken.geometry.plane import (
    TOUCH,
    Point,
    Ring,
    add,
    distance,
    holds,
)
from balken.model.catalogue import catalogue_of
from balken.model.foundations import WITH_STEM, FoundationRun, RunSpan
from balken.model.names import HostName, ThingName, step_part, whole
from balken.model.project import Change, Project, level
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
        keys = tuple(w.id for w in project.walls if w.base == base)
        walls = walls_of(project, keys)
        found.update(outer_sides(walls, storey_outline(walls)))
    free = tuple(w for w in lines if whole(w.id) == PATH)
    found.update(outer_sides(free, storey_outline(free)))
    for line in free:
        if line.id not in found and not _inside_walls(project, line):
            found[line.id] = 0
    named = ((w.id, found.get(w.id, found.get(wall_of(w.id)))) for w in lines)
    return tuple((key, side) for key, side in named if side is not None)


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
    outside = sides_of(project, run)
    ground = next((x.elevation for x in project.levels if x.role == "ground"), None)
    bases = {w.base for w in lines if w.base}
    others = [r for r in project.runs if r.id != run.id and r.kind in WITH_STEM]
    beside: tuple[Wall, ...] = ()
    deeper: list[tuple[Ring, float]] = []
    bottom = heights_of(project, run)[0]
    for other in others:
        theirs = run_lines(project, other)
        stems = stems_of(other, theirs, dict(sides_of(project, other)))
        if bases & {w.base for w in theirs if w.base}:
            beside += tuple(msgspec.structs.replace(w, id=f"{other.id}|{w.id}") for w in stems)
        lower = heights_of(project, other)[0]
        if lower < bottom - TOUCH:
            footings = bodies(widened(stems, other.footing_width))
            deeper += [(b.ring, lower) for b in footings.values()]
    return RunSite(
        lines,
        outside,
        beside,
        *heights_of(project, run),
        ground,
        project.site.frost_depth,
        project.site.steps,
        catalogue_of(project.system).sections.get(run.sill),
        project.system,
        tuple(deeper),
        tuple((name, s.start) for name, s in parts_of(run)),
    )


def steps_of(project: Project, run: FoundationRun, site: RunSite) -> tuple[Step, ...]:
    """The steps of a run's footings."""
    ways = ways_of(run, site, surface_under(project))
    stems = {w.id: w for w in stems_of(run, site.lines, dict(site.outside))}
    begins = dict(site.begins)
    found = []
    for key, plateaus in ways.plateaus:
        line = stems[key]
        way = direction_of(line)
        normal = (-way[1], way[0])
        middle = sum(reach(line)) / 2 + run.footing_shift * dict(site.outside).get(key, 0)
        for a, b in pairwise(plateaus):
            at = a.end + begins.get(key, 0.0)
            spot = add(add(line.start, way, a.end), normal, middle)
            half = run.footing_width / 2
            wall = wall_of(key)
            held = any(h.wall == wall and abs(h.at - at) < TOUCH for h in run.steps)
            found.append(
                Step(
                    run.id,
                    wall,
                    round(at, 4),
                    b.drop - a.drop,
                    held,
                    (add(spot, normal, -half), add(spot, normal, half)),
                )
            )
    return tuple(found)


def frame_one(project: Project, run: FoundationRun) -> Framed:
    """Frame one run as it stands in its project."""
    site = run_site(project, run)
    return frame_run(
        run,
        site,
        surface_under(project),
        changes_on(project, HostName("run", run.id)),
    )


def changes_on(project: Project, host: HostName) -> tuple[Change, ...]:
    """The changes by hand on the members of one host."""
    return tuple(c for c in project.changes if c.member.host == host)
