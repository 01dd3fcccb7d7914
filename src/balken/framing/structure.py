"""The whole structure of a project: every host framed from the few records it reads."""

from itertools import pairwise

import msgspec

from balken.framing.anchors import CLEAR, Bolts, place_bolts
from balken.framing.concrete import Concrete, trim_concrete
from balken.framing.floors import frame_floor
from balken.framing.foundation_lines import PATH, flush_lines, part_name, path_lines, wall_of, widened
from balken.framing.ground import RunSite, frame_run, stems_of, ways_of
from balken.framing.member import Framed, Member, Size, Strip
from balken.framing.roofs import frame_roof
from balken.framing.supports import frame_supports
from balken.geometry.plane import TOUCH, Point, Ring, add, direction_or, distance, dot, holds, simplify, sub
from balken.model.bodies import bodies, outer_sides, storey_outline
from balken.model.catalogue import catalogue_of
from balken.model.foundations import WITH_STEM, FoundationRun, RunSpan, walls_on
from balken.model.grids import Grid
from balken.model.ground import Surface, surface_of
from balken.model.memo import Memo
from balken.model.project import FORMAT, BuildUp, Change, FloorArea, GableRoof, Level, PointSupport, Project, level
from balken.model.start import is_rectangle
from balken.model.walls import Wall, direction_of, reach, straightened, whole
from balken.units import System


class Bed(msgspec.Struct, frozen=True):
    """What a floor or roof lies on: the outline, the strips it can bear on, and their height and width, mm."""

    outline: Ring
    strips: tuple[Strip, ...]
    height: float
    width: float


class Step(msgspec.Struct, frozen=True):
    """A step of a footing: its run and line, how far along its wall it stands, how far down it goes in the wall's way, mm,
    and the line across the footing where it stands."""

    run: str
    line: str
    at: float
    drop: float
    held: bool
    across: tuple[Point, Point]

    @property
    def key(self) -> str:
        """What it is called on the desk."""
        return f"step:{self.run}/{self.line}@{self.at:.1f}"


class Structure(msgspec.Struct, frozen=True):
    """All members, in a lasting order, and what could not be framed."""

    members: tuple[Member, ...]
    gone: tuple[str, ...]
    """Changes by hand whose member is no longer there."""
    unframed: tuple[tuple[str, str], ...]
    """Hosts that could not be framed, and why."""
    concrete: Concrete = Concrete({}, {})
    """What is left of concrete that meets other concrete."""
    bolts: dict[str, Bolts] = {}
    """Anchor bolts per piece of sill."""
    steps: tuple[Step, ...] = ()
    """Steps of all footings."""

    def volume(self, member: Member) -> float:
        """Return a member's volume, concrete counted once, mm³."""
        mesh = self.concrete.meshes.get(member.id)
        return member.solid.volume if mesh is None else mesh.volume


def plate_width(wall: Wall, system: System) -> float:
    """Return the widest plate of dressed lumber no wider than a wall, mm."""
    widths = sorted({s.depth for s in catalogue_of(system).sections.values() if s.nominal[0] == 2})
    return max((w for w in widths if w <= wall.thickness + 0.5), default=widths[0])


def _plates(walls: tuple[Wall, ...], system: System, memo: Memo) -> tuple[Ring, tuple[Strip, ...], float] | None:
    outline = memo(storey_outline, walls, memo)
    if outline is None:
        return None
    outside = memo(outer_sides, walls, outline)
    widths = [plate_width(wall, system) for wall in walls]
    flush = {width: flush_lines(walls, width, outside=outside) for width in set(widths)}
    lines = tuple(flush[width][i] for i, width in enumerate(widths))
    strips = tuple(Strip(f"wall:{k}", body.ring, k in outside) for k, body in bodies(lines).items())
    return outline, strips, max(w for wall, w in zip(walls, widths) if wall.id in outside)


def walls_of(project: Project, keys: tuple[str, ...], memo: Memo) -> tuple[Wall, ...]:
    """Return walls by their keys, openings left out: they do not change where members stand."""
    by_id = {w.id: w for w in project.walls}
    bare = memo.small
    return straightened(tuple(bare(_bare, by_id[k]) for k in keys))


def _bare(wall: Wall) -> Wall:
    return msgspec.structs.replace(wall, openings=(), name="", source="")


def runs_under(project: Project, floor: FloorArea) -> tuple[FoundationRun, ...]:
    """Return the foundations whose top a floor bears on."""
    mine = set(floor.walls)
    return tuple(r for r in project.runs if r.top == floor.bears_on and r.kind in WITH_STEM and mine & set(walls_on(r)))


def run_under(project: Project, floor: FloorArea) -> FoundationRun | None:
    """Return the first foundation whose top a floor bears on, if any."""
    return next(iter(runs_under(project, floor)), None)


def bed_of_floor(project: Project, floor: FloorArea, memo: Memo) -> Bed | None:
    """Return what a floor lies on: sills where its walls stand on a foundation, else wall plates."""
    return memo(_bed_of_floor, project, floor, memo)


def _bed_of_floor(project: Project, floor: FloorArea, memo: Memo) -> Bed | None:
    if not floor.walls:
        return None
    plates = memo(_plates, walls_of(project, floor.walls, memo), project.system, memo)
    if plates is None:
        return None
    outline, strips, width = plates
    height = level(project, floor.bears_on).elevation
    runs = runs_under(project, floor)
    if not runs:
        return Bed(outline, strips, height, width)
    run = runs[0]
    sill = catalogue_of(project.system).sections.get(run.sill)
    wanted = "sill" if sill else "stem"
    outer = {s.on.removeprefix("wall:") for s in strips if s.outer}
    members = [m for r in runs for m in frame_one(project, r, run_site(project, r, memo), memo).members]
    pieces = tuple(
        Strip(m.id, m.solid.plan(), m.id.rsplit(":", 1)[1].split(".")[0] in outer) for m in members if m.role == wanted
    )
    if any(s.kind == "ledge" for r in runs for s in r.shelves):
        outline = _behind_ledges(outline, members)
    return Bed(outline, pieces, height + (sill.breadth if sill else 0.0), sill.depth if sill else run.stem_thickness)


def _behind_ledges(outline: Ring, members: list[Member]) -> Ring:
    """Return the outline a floor fills where brick stands on ledges of the foundation: it ends behind them."""
    from shapely import Polygon, union_all

    whole_area = Polygon(outline)
    voids = [Polygon(v.plan()) for m in members if m.role == "stem" for v in m.voids]
    ledges = [v.buffer(0.5, join_style="mitre") for v in voids if whole_area.exterior.distance(v) < TOUCH]
    rest = whole_area.difference(union_all(ledges))
    inner = max(getattr(rest, "geoms", [rest]), key=lambda g: g.area)
    return simplify([(round(x, 3), round(y, 3)) for x, y in inner.exterior.coords[:-1]])


def bed_of_roof(project: Project, roof: GableRoof, memo: Memo) -> Bed | None:
    """Return what a roof lies on; None where its walls are no rectangle."""
    if not roof.walls:
        return None
    plates = memo(_plates, walls_of(project, roof.walls, memo), project.system, memo)
    if plates is None or not is_rectangle(plates[0]):
        return None
    return Bed(plates[0], plates[1], level(project, roof.plate).elevation, plates[2])


def surface_under(project: Project, memo: Memo) -> Surface | None:
    """Return the surface of the ground; None where only its level is known."""
    return memo(surface_of, project.spots) if project.spots else None


def parts_of(run: FoundationRun) -> list[tuple[str, RunSpan]]:
    """Return the parts of walls that stand on a run with the names of their lines."""
    counts: dict[str, int] = dict.fromkeys(run.walls, 1)
    found = []
    for span in sorted(run.spans, key=lambda s: (s.wall, s.start)):
        counts[span.wall] = counts.get(span.wall, 0) + 1
        found.append((part_name(span.wall, counts[span.wall]), span))
    return found


def run_lines(project: Project, run: FoundationRun, memo: Memo) -> tuple[Wall, ...]:
    """Return what a run stands under: its walls, the parts of walls it takes, and the pieces of its path."""
    parts = []
    for name, span in parts_of(run):
        for wall in walls_of(project, (span.wall,), memo):
            way = direction_of(wall)
            end = min(span.end, distance(wall.start, wall.end))
            if span.wall != wall.id or end - span.start < TOUCH:
                continue  # a curved wall is taken whole or not at all
            parts.append(
                msgspec.structs.replace(
                    wall, id=name, start=add(wall.start, way, span.start), end=add(wall.start, way, end)
                )
            )
    return walls_of(project, run.walls, memo) + tuple(parts) + path_lines(run)


def sides_of(project: Project, run: FoundationRun, memo: Memo) -> tuple[tuple[str, int], ...]:
    """Return which side of a run's lines is outside, 1 left and -1 right: as the whole storey lies, not its walls alone.

    A piece of a free path outside the building has 0: the ground lies on both its sides.
    """
    lines = run_lines(project, run, memo)
    found: dict[str, int] = {}
    for base in dict.fromkeys(w.base for w in lines if w.base):
        keys = tuple(w.id for w in project.walls if w.base == base)
        walls = walls_of(project, keys, memo)
        found.update(memo(outer_sides, walls, memo(storey_outline, walls, memo)))
    free = tuple(w for w in lines if whole(w.id) == PATH)
    found.update(outer_sides(free, storey_outline(free)))
    for line in free:
        if line.id not in found and not _inside_walls(project, line, memo):
            found[line.id] = 0
    named = ((w.id, found.get(w.id, found.get(wall_of(w.id)))) for w in lines)
    return tuple((key, side) for key, side in named if side is not None)


def _inside_walls(project: Project, line: Wall, memo: Memo) -> bool:
    """Tell whether the middle of a line lies inside the lowest storey's outline."""
    if not project.walls:
        return False
    lowest = min((level(project, w.base) for w in project.walls), key=lambda x: x.elevation).id
    walls = walls_of(project, tuple(w.id for w in project.walls if w.base == lowest), memo)
    outline = memo(storey_outline, walls, memo)
    middle = ((line.start[0] + line.end[0]) / 2, (line.start[1] + line.end[1]) / 2)
    return outline is not None and holds(outline, middle)


def heights_of(project: Project, run: FoundationRun) -> tuple[float, float, float, float]:
    """Return bottom and top of a run's footing before it steps, its top, and the top of its slab, mm."""
    z = {x.id: x.elevation for x in project.levels}
    top = z[run.top]
    base = z.get(run.base, top)
    bottom = base - run.footing_thickness if run.footing_thickness else z.get(run.bottom, base)
    return bottom, base, top, z.get(run.slab_level, top)


def run_site(project: Project, run: FoundationRun, memo: Memo) -> RunSite:
    """Return what a run is framed from besides its own record."""
    return memo(_run_site, project, run, memo)


def _run_site(project: Project, run: FoundationRun, memo: Memo) -> RunSite:
    lines = run_lines(project, run, memo)
    outside = sides_of(project, run, memo)
    ground = next((x.elevation for x in project.levels if x.role == "ground"), None)
    bases = {w.base for w in lines if w.base}
    others = [r for r in project.runs if r.id != run.id and r.kind in WITH_STEM]
    beside: tuple[Wall, ...] = ()
    deeper: list[tuple[Ring, float]] = []
    bottom = heights_of(project, run)[0]
    for other in others:
        theirs = run_lines(project, other, memo)
        stems = stems_of(other, theirs, dict(sides_of(project, other, memo)), memo)
        if bases & {w.base for w in theirs if w.base}:
            beside += tuple(msgspec.structs.replace(w, id=f"{other.id}|{w.id}") for w in stems)
        lower = heights_of(project, other)[0]
        if lower < bottom - TOUCH:
            footings = memo(bodies, widened(stems, other.footing_width))
            deeper += [(b.ring, lower) for b in footings.values()]
    return RunSite(
        lines, outside, beside, *heights_of(project, run),
        ground, project.site.frost_depth, project.site.steps, catalogue_of(project.system).sections.get(run.sill),
        project.system, tuple(deeper), tuple((name, s.start) for name, s in parts_of(run)),
    )  # fmt: skip


def steps_of(project: Project, run: FoundationRun, site: RunSite, memo: Memo) -> tuple[Step, ...]:
    """Return the steps of a run's footings."""
    ways = ways_of(run, site, surface_under(project, memo), memo)
    stems = {w.id: w for w in stems_of(run, site.lines, dict(site.outside), memo)}
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


def frame_one(project: Project, run: FoundationRun, site: RunSite, memo: Memo) -> Framed:
    """Frame one run as it stands in its project."""
    surface = surface_under(project, memo)
    return memo(frame_run, run, site, surface, _mine(project, f"run:{run.id}/"), memo)


def _mine(project: Project, prefix: str) -> tuple[Change, ...]:
    return tuple(c for c in project.changes if c.member.startswith(prefix))


def build_up_of(project: Project, floor: FloorArea) -> BuildUp:
    """Return a floor's build-up."""
    return next(b for b in project.build_ups if b.id == floor.build_up)


def frame(project: Project, sizes: dict[str, Size], memo: Memo) -> Structure:
    """Frame a whole project.

    Args:
        project: a valid project.
        sizes: section and spacing per host (``floor:F1``, ``roof:R1``).
        memo: what is remembered between edits.
    """
    framed: list[Framed] = []
    unframed: list[tuple[str, str]] = []
    sites = [(r, run_site(project, r, memo)) for r in project.runs if r.walls or r.spans or r.paths]
    framed += [frame_one(project, run, site, memo) for run, site in sites]
    for floor in project.floors:
        bed = bed_of_floor(project, floor, memo)
        size = sizes.get(f"floor:{floor.id}")
        if bed is None or size is None:
            unframed.append((f"floor:{floor.id}", f"the walls of {floor.name} enclose nothing"))
            continue
        framed.append(
            memo(_floor, floor, build_up_of(project, floor), bed, size, project.system,
                 _mine(project, f"floor:{floor.id}/"))
        )  # fmt: skip
    for roof in project.roofs:
        bed = bed_of_roof(project, roof, memo)
        size = sizes.get(f"roof:{roof.id}")
        if bed is None or size is None:
            unframed.append((f"roof:{roof.id}", f"the walls of roof {roof.name} are no closed rectangle"))
            continue
        framed.append(memo(_roof, roof, bed, size, project.system, _mine(project, f"roof:{roof.id}/")))
    framed.append(memo(_supports, *_support_args(project)))
    hosts = [f"run:{r.id}/" for r in project.runs] + [f"floor:{f.id}/" for f in project.floors]
    hosts += [f"roof:{r.id}/" for r in project.roofs]
    orphans = {c.member for c in project.changes if not c.member.startswith(tuple(hosts))}
    gone = sorted(orphans.union(*(f.gone for f in framed)))
    members = tuple(m for f in framed for m in f.members)
    concrete = trim_concrete(members, memo)
    steps = tuple(s for run, site in sites for s in steps_of(project, run, site, memo))
    return Structure(members, tuple(gone), tuple(unframed), concrete, anchors(project, members, memo), steps)


def anchors(project: Project, members: tuple[Member, ...], memo: Memo) -> dict[str, Bolts]:
    """Return the anchor bolts of every sill piece: clear of the joists over it, and of doors in walls that stand on it."""
    taken: dict[str, list[tuple[Point, float]]] = {}
    for m in members:
        for support in m.supports:
            if "/sill:" in support.on:
                taken.setdefault(support.on, []).append((support.point, m.solid.depth / 2 + CLEAR))
    doors = _doors_on_slabs(project)
    found = {}
    for m in members:
        if m.role == "sill":
            start = (m.start[0], m.start[1])
            way = direction_or(sub(m.end[:2], m.start[:2]), (1.0, 0.0))
            spans = [(dot(sub(p, start), way) - r, dot(sub(p, start), way) + r) for p, r in taken.get(m.id, ())]
            wall = whole(m.id.rsplit(":", 1)[1].split(".")[0])
            for a, b in doors.get((m.host, wall), ()):
                low, high = sorted((dot(sub(a, start), way), dot(sub(b, start), way)))
                spans.append((low - CLEAR, high + CLEAR))
            found[m.id] = memo.small(place_bolts, m.length, tuple(spans))
    return found


def _doors_on_slabs(project: Project) -> dict[tuple[str, str], list[tuple[Point, Point]]]:
    """Return the openings down to the floor of walls whose sill is their bottom plate: those on a slab's edge."""
    found: dict[tuple[str, str], list[tuple[Point, Point]]] = {}
    for run in project.runs:
        if run.kind == "slab edge":
            for wall in (w for w in project.walls if w.id in walls_on(run) and not w.bulge):
                way = direction_of(wall)
                for hole in wall.openings:
                    if hole.sill <= 0:
                        a = add(wall.start, way, hole.at)
                        found.setdefault((f"run:{run.id}", wall.id), []).append((a, add(a, way, hole.width)))
    return found


def _support_args(project: Project) -> tuple[object, ...]:
    return project.point_supports, project.grids if project.point_supports else (), project.levels, project.system


def _supports(
    supports: tuple[PointSupport, ...], grids: tuple[Grid, ...], levels: tuple[Level, ...], system: System
) -> Framed:
    return frame_supports(Project(FORMAT, "", system, levels, grids, point_supports=supports))


def _floor(
    floor: FloorArea, build_up: BuildUp, bed: Bed, size: Size, system: System, changes: tuple[Change, ...]
) -> Framed:
    sections = catalogue_of(system).sections
    return frame_floor(floor, build_up, bed.outline, bed.strips, bed.height, size, sections, changes)


def _roof(roof: GableRoof, bed: Bed, size: Size, system: System, changes: tuple[Change, ...]) -> Framed:
    sections = catalogue_of(system).sections
    return frame_roof(roof, bed.outline, bed.strips, bed.height, bed.width, size, sections, system, changes)
