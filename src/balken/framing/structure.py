"""The whole structure of a project: every host framed from the few records it reads."""

import msgspec

from balken.framing.floors import frame_floor
from balken.framing.ground import flush_lines, frame_run
from balken.framing.member import Framed, Member, Size, Strip
from balken.framing.roofs import frame_roof
from balken.framing.supports import frame_supports
from balken.geometry.plane import Ring
from balken.model.bodies import bodies, outer_sides, storey_outline
from balken.model.catalogue import Section, catalogue_of
from balken.model.grids import Grid
from balken.model.memo import Memo
from balken.model.project import (
    FORMAT,
    BuildUp,
    Change,
    FloorArea,
    FoundationRun,
    GableRoof,
    Level,
    PointSupport,
    Project,
    level,
)
from balken.model.start import is_rectangle
from balken.model.walls import Wall, straightened
from balken.units import System


class Bed(msgspec.Struct, frozen=True):
    """What a floor or roof lies on: the outline, the strips it can bear on, and their height and width, mm."""

    outline: Ring
    strips: tuple[Strip, ...]
    height: float
    width: float


class Structure(msgspec.Struct, frozen=True):
    """All members, in a lasting order, and what could not be framed."""

    members: tuple[Member, ...]
    gone: tuple[str, ...]
    """Changes by hand whose member is no longer there."""
    unframed: tuple[tuple[str, str], ...]
    """Hosts that could not be framed, and why."""


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


def walls_of(project: Project, keys: tuple[str, ...]) -> tuple[Wall, ...]:
    """Return walls by their keys, openings left out: they do not change where members stand."""
    by_id = {w.id: w for w in project.walls}
    return straightened(tuple(msgspec.structs.replace(by_id[k], openings=(), name="", source="") for k in keys))


def run_under(project: Project, floor: FloorArea) -> FoundationRun | None:
    """Return the foundation run whose top a floor bears on, if any."""
    return next((r for r in project.runs if r.top == floor.bears_on and set(r.walls) & set(floor.walls)), None)


def bed_of_floor(project: Project, floor: FloorArea, memo: Memo) -> Bed | None:
    """Return what a floor lies on: sills where its walls stand on a foundation, else wall plates."""
    if not floor.walls:
        return None
    plates = memo(_plates, walls_of(project, floor.walls), project.system, memo)
    if plates is None:
        return None
    outline, strips, width = plates
    height = level(project, floor.bears_on).elevation
    run = run_under(project, floor)
    if run is None:
        return Bed(outline, strips, height, width)
    sill = catalogue_of(project.system).sections.get(run.sill)
    framed = memo(frame_run, *_run_args(project, run), memo)
    wanted = "sill" if sill else "stem"
    outer = {s.on.removeprefix("wall:") for s in strips if s.outer}
    pieces = tuple(
        Strip(m.id, m.solid.plan(), m.id.rsplit(":", 1)[1].split(".")[0] in outer)
        for m in framed.members
        if m.role == wanted
    )
    return Bed(outline, pieces, height + (sill.breadth if sill else 0.0), sill.depth if sill else run.stem_thickness)


def bed_of_roof(project: Project, roof: GableRoof, memo: Memo) -> Bed | None:
    """Return what a roof lies on; None where its walls are no rectangle."""
    if not roof.walls:
        return None
    plates = memo(_plates, walls_of(project, roof.walls), project.system, memo)
    if plates is None or not is_rectangle(plates[0]):
        return None
    return Bed(plates[0], plates[1], level(project, roof.plate).elevation, plates[2])


def _run_args(
    project: Project, run: FoundationRun
) -> tuple[FoundationRun, tuple[Wall, ...], tuple[float, float, float], Section | None, System, tuple[Change, ...]]:
    heights = tuple(level(project, k).elevation for k in (run.bottom, run.base, run.top))
    sill = catalogue_of(project.system).sections.get(run.sill)
    return run, walls_of(project, run.walls), heights, sill, project.system, _mine(project, f"run:{run.id}/")  # type: ignore[return-value]


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
    for run in project.runs:
        if run.walls:
            framed.append(memo(frame_run, *_run_args(project, run), memo))
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
    return Structure(tuple(m for f in framed for m in f.members), tuple(gone), tuple(unframed))


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
