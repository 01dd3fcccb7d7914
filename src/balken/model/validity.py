"""What a project must satisfy beyond the types of its records. One sentence per fault, with its
place."""

from collections.abc import Hashable, Iterable, Iterator, Mapping
from itertools import pairwise
from typing import Final

from balken.errors import BalkenError
from balken.geometry.plane import EXACT, TOUCH, distance
from balken.model.beams import BeamKind
from balken.model.catalogue import Catalogue, catalogue_of, sections_of
from balken.model.drawn_loads import fault_of
from balken.model.fasteners import fault_of as fault_of_fastener
from balken.model.floors import BuildUp
from balken.model.foundations import KIND_WORDS, WITH_STEM, FoundationRun, faults_of
from balken.model.project import FORMAT, Project
from balken.model.roofs import RoofArea
from balken.model.sections import Section, faults_of_product
from balken.model.walls import Wall, WallBuildUp, core_of, thickness_of, wall_length

LONGEST: Final = 1e6
"""Of walls, mm: what is longer is drawn in another unit."""


class ProjectError(BalkenError):
    """A project that contradicts itself; its text says where and why."""


def validate(project: Project) -> Project:
    """The project when it holds together.

    Raises:
        ProjectError: the first fault, with its place in the file.
    """
    for fault in _faults(project):
        raise ProjectError(fault)
    return project


def _faults(project: Project) -> Iterable[str]:
    if project.format != FORMAT:
        yield f"$.format is {project.format}; this program reads format {FORMAT}."
    yield from _twice(project)
    yield from _missing(project)
    yield from _sections(project, catalogue_of(project.system))
    yield from _beams(project, catalogue_of(project.system))
    yield from _walls(project)
    yield from _runs(project)
    yield from _supports(project)
    for i, fastener in enumerate(project.fasteners):
        if fault := fault_of_fastener(fastener):
            yield f"$.fasteners[{i}] “{fastener.name}”: {fault}."
    for i, load in enumerate(project.loads):
        if fault := fault_of(load):
            yield f"$.loads[{i}] “{load.id}”: {fault}."
    for i, grid in enumerate(project.grids):
        for k, line in enumerate(grid.lines):
            if line.end - line.start < TOUCH:
                yield f"$.grids[{i}].lines[{k}] “{line.label}” has no length."


KEYED: Final = (
    "levels",
    "grids",
    "walls",
    "runs",
    "build_ups",
    "floors",
    "roofs",
    "wall_build_ups",
    "point_supports",
    "backgrounds",
    "references",
    "products",
    "beams",
    "bays",
    "added",
    "loads",
)
"""Lists whose records have a key of their own."""


def _twice(project: Project) -> Iterable[str]:
    for kind in KEYED:
        for i, key in _repeated(record.id for record in getattr(project, kind)):
            yield f"$.{kind}[{i}].id “{key}” is there twice."
    for i, member in _repeated(change.member for change in project.changes):
        yield f"$.changes[{i}].member “{member}” is changed twice."
    yield from _twice_within(project)


def _twice_within(project: Project) -> Iterable[str]:
    """What is there twice within one record."""
    for i, wall in enumerate(project.walls):
        if any(_repeated(o.id for o in wall.openings)):
            yield f"$.walls[{i}].openings names one opening twice."
    for i, grid in enumerate(project.grids):
        if any(_repeated((line.runs, line.label) for line in grid.lines)):
            yield f"$.grids[{i}].lines has one label twice."


def _repeated(keys: Iterable[Hashable]) -> Iterator[tuple[int, Hashable]]:
    """The keys that were there before, with their numbers."""
    seen: set[Hashable] = set()
    for i, key in enumerate(keys):
        if key in seen:
            yield i, key
        seen.add(key)


LEVELS: Final = {
    "walls": ("base", "top"),
    "runs": ("top",),
    "floors": ("level", "bears_on"),
    "roofs": ("plate",),
    "point_supports": ("base", "top"),
    "loads": ("level",),
}
"""Fields that name a level, by the list of their records."""


MAYBE_LEVELS: Final = {"runs": ("base", "bottom", "slab_level"), "backgrounds": ("level",)}
"""The same, of those that may be empty."""


def _missing(project: Project) -> Iterable[str]:
    yield from _missing_levels(project)
    yield from _missing_walls(project)
    build_ups = {item.id for item in project.build_ups}
    lines = _grid_lines(project)
    for i, floor in enumerate(project.floors):
        if floor.build_up not in build_ups:
            yield f"$.floors[{i}].build_up: there is no build-up “{floor.build_up}”."
        for cut in floor.cuts:
            if cut.grid and (cut.grid, cut.line) not in lines:
                yield f"$.floors[{i}] is cut along a grid line that is not there."
        if any(_repeated(o.id for o in floor.openings)):
            yield f"$.floors[{i}].openings names one opening twice."


def _grid_lines(project: Project) -> set[tuple[str, str]]:
    return {(g.id, line.id) for g in project.grids for line in g.lines}


def _missing_levels(project: Project) -> Iterable[str]:
    levels = {level.id for level in project.levels}
    for fields, least in ((LEVELS, levels), (MAYBE_LEVELS, levels | {""})):
        for kind, names in fields.items():
            for i, record in enumerate(getattr(project, kind)):
                for name in names:
                    key = getattr(record, name)
                    if key not in least:
                        yield f"$.{kind}[{i}].{name}: there is no level “{key}”."


def _missing_walls(project: Project) -> Iterable[str]:
    walls = {wall.id for wall in project.walls}
    for where, key in _walls_named(project):
        if key not in walls:
            yield f"{where}: there is no wall “{key}”."


def _walls_named(project: Project) -> Iterator[tuple[str, str]]:
    """The walls that records name, and where."""
    for kind in ("runs", "floors", "roofs"):
        for i, record in enumerate(getattr(project, kind)):
            yield from ((f"$.{kind}[{i}].walls[{k}]", key) for k, key in enumerate(record.walls))
    for i, run in enumerate(project.runs):
        yield from ((f"$.runs[{i}].spans[{k}]", s.wall) for k, s in enumerate(run.spans))
    for i, floor in enumerate(project.floors):
        yield from ((f"$.floors[{i}]", e.wall) for e in floor.edges)
        yield from ((f"$.floors[{i}]", o.wall) for o in floor.openings if o.wall)


def _sections(project: Project, catalogue: Catalogue) -> Iterable[str]:
    sections = sections_of(project.system, project.products)
    for i, item in enumerate(project.products):
        fault = faults_of_product(item)
        if fault:
            yield f"$.products[{i}] “{item.id}” {fault}."
    for kind, record in _offering(project):
        yield from _offers(f"$.{kind} “{record.id}”", record, sections, catalogue)
    for i, body in enumerate(project.build_ups):
        if body.kind == "slab" and not body.slab:
            yield f"$.build_ups[{i}] “{body.id}” is a slab without a thickness."
    for where, names in _named_in(project):
        yield from _named_sections(where, names, sections)
    for i, run in enumerate(project.runs):
        if run.sill and run.sill not in catalogue.sections:
            yield f"$.runs[{i}].sill: there is no section “{run.sill}” in this catalogue."


def _offering(project: Project) -> Iterator[tuple[str, BuildUp | RoofArea]]:
    """What offers sizes and spacings to choose from."""
    yield from (("build_ups", b) for b in project.build_ups if b.kind == "joists")
    yield from (("roofs", r) for r in project.roofs)


def _offers(
    where: str,
    record: BuildUp | RoofArea,
    sections: Mapping[str, Section],
    catalogue: Catalogue,
) -> Iterable[str]:
    if not record.sizes or not record.spacings:
        yield f"{where} offers no sizes or no spacings."
    yield from _named_sections(where, record.sizes, sections)
    if (record.species, record.grade) not in catalogue.grades:
        yield f"{where}: there is no grade “{record.grade}” of “{record.species}”."


def _named_in(project: Project) -> Iterator[tuple[str, tuple[str, ...]]]:
    """The sections that records name, and where."""
    for roof in project.roofs:
        typed = (*roof.trusses.chords, *roof.trusses.webs, *(s for _, s in roof.rafters.sections))
        fascia = (roof.rafters.fascia,) if roof.rafters.fascia else ()
        yield f"$.roofs “{roof.id}”", (*typed, *fascia)
    for kind in ("floors", "roofs", "changes", "added"):
        for i, owner in enumerate(getattr(project, kind)):
            if owner.section is not None:
                yield f"$.{kind}[{i}].section", (owner.section,)
    for i, post in enumerate(project.point_supports):
        if post.section:
            yield f"$.point_supports[{i}].section", (post.section,)


def _named_sections(
    where: str, names: tuple[str, ...], sections: Mapping[str, Section]
) -> Iterable[str]:
    for name in names:
        if name not in sections:
            yield f"{where}: there is no section “{name}” in this catalogue."


def _beams(project: Project, catalogue: Catalogue) -> Iterable[str]:
    levels = {x.id for x in project.levels}
    fits: set[BeamKind] = set()  # most beams are of a few kinds
    for kind in ("beams", "bays"):
        for i, item in enumerate(getattr(project, kind)):
            where = f"$.{kind}[{i}] “{item.id}”"
            if item.level not in levels:
                yield f"{where}: there is no level “{item.level}”."
            if item.kind not in fits:
                yield from _beam_kind(where, item.kind, project, catalogue)
                fits.add(item.kind)  # had it a fault, the first beam of the kind has told
    yield from _beam_places(project)


def _beam_kind(where: str, kind: BeamKind, project: Project, catalogue: Catalogue) -> Iterable[str]:
    sections = sections_of(project.system, project.products)
    names = (*kind.sizes, *((kind.section,) if kind.section else ()))
    if not names:
        yield f"{where} offers no sizes."
    yield from _named_sections(where, names, sections)
    sawn = any(sections[n].family == "sawn" for n in names if n in sections)
    if sawn and (kind.species, kind.grade) not in catalogue.grades:
        yield f"{where}: there is no grade “{kind.grade}” of “{kind.species}”."


def _beam_places(project: Project) -> Iterable[str]:
    lines = _grid_lines(project)
    for i, beam in enumerate(project.beams):
        for end in (beam.start, beam.end):
            if end.grid and not {(end.grid, key) for key in end.lines} <= lines:
                yield f"$.beams[{i}] “{beam.id}” ends at a grid line that is not there."
    for i, bay in enumerate(project.bays):
        where = f"$.bays[{i}] “{bay.id}”"
        if not bay.grid:
            if len(bay.corners) < 3:
                yield f"{where} has no outline."
        elif not {(bay.grid, key) for key in (*bay.first, *bay.second)} <= lines:
            yield f"{where} lies between grid lines that are not there."


def _walls(project: Project) -> Iterable[str]:
    heights = {x.id: x.elevation for x in project.levels}
    build_ups = {b.id: b for b in project.wall_build_ups}
    for i, wall in enumerate(project.walls):
        where = f"$.walls[{i}]"
        yield from _wall_shape(where, wall, heights)
        yield from _wall_openings(where, wall)
        if wall.build_up:
            yield from _wall_layers(where, wall, build_ups.get(wall.build_up))
    for i, body in enumerate(project.wall_build_ups):
        try:
            core_of(body)
        except BalkenError as error:
            yield f"$.wall_build_ups[{i}]: {error}"


def _wall_shape(where: str, wall: Wall, heights: Mapping[str, float]) -> Iterable[str]:
    if distance(wall.start, wall.end) < TOUCH:
        yield f"{where} “{wall.name}” has both ends at one place."
    elif wall_length(wall) > LONGEST:
        long = f"{wall_length(wall) / 1e6:.1f} km long"
        yield f"{where} “{wall.name}” is {long}: a kilometre is the most."
    elif heights[wall.top] + wall.top_offset - heights[wall.base] - wall.base_offset < TOUCH:
        yield f"{where} “{wall.name}” ends below its own foot: its top must lie above its base."


def _wall_openings(where: str, wall: Wall) -> Iterable[str]:
    if wall.bulge and wall.openings:
        yield (
            f"{where} “{wall.name}” is curved and has openings, which only straight walls can have."
        )
    for k, opening in enumerate(wall.openings):
        if opening.rise > opening.height + TOUCH:
            yield f"{where}.openings[{k}] has a round head that rises more than it is high."
        if opening.at < -TOUCH or opening.at + opening.width > wall_length(wall) + TOUCH:
            yield f"{where}.openings[{k}] reaches past the end of wall “{wall.name}”."


def _wall_layers(where: str, wall: Wall, build_up: WallBuildUp | None) -> Iterable[str]:
    if build_up is None:
        yield f"{where}.build_up: there is no build-up “{wall.build_up}”."
    elif abs(thickness_of(build_up) - wall.thickness) > EXACT:
        yield (f"{where} “{wall.name}” has another thickness than its build-up “{wall.build_up}”.")


def _runs(project: Project) -> Iterable[str]:
    heights = {x.id: x.elevation for x in project.levels}
    for i, run in enumerate(project.runs):
        where = f"$.runs[{i}] “{run.name}”"
        for fault in faults_of(run):
            yield f"{where} is a {KIND_WORDS[run.kind]}, and {fault}."
        for span in run.spans:
            if span.end - span.start < TOUCH:
                yield f"{where} takes a part of wall “{span.wall}” that has no length."
        if any(distance(a, b) < TOUCH for path in run.paths for a, b in pairwise(path)):
            yield f"{where} follows a path with two places at one spot."
        if run.kind in WITH_STEM:
            yield from _footing(where, run, heights)


def _footing(where: str, run: FoundationRun, heights: Mapping[str, float]) -> Iterable[str]:
    if not run.base or not (run.bottom or run.footing_thickness):
        yield f"{where} stands on no level: it needs a top of footing and a bottom."
        return
    base, top = heights[run.base], heights[run.top]
    bottom = base - run.footing_thickness if run.footing_thickness else heights[run.bottom]
    drops = [p.top_drop + max((s.down for s in p.top_steps), default=0.0) for p in run.parts]
    lowest = top - max(drops, default=0.0)
    if base - bottom < TOUCH or lowest - base < TOUCH:
        yield (
            f"{where} runs from bottom of footing up through top of footing to top of foundation,"
            " and would have no height left."
        )


def _supports(project: Project) -> Iterable[str]:
    heights = {x.id: x.elevation for x in project.levels}
    lines = _grid_lines(project)
    for i, item in enumerate(project.point_supports):
        where = f"$.point_supports[{i}]"
        if item.grid and not lines.issuperset([(item.grid, key) for key in item.lines]):
            yield f"{where} stands on a grid line that is not there."
        high = heights[item.top] + item.top_offset - heights[item.base] - item.base_offset
        if high < TOUCH and not (item.kind == "pad" and item.thickness):
            yield f"{where} “{item.id}” ends below its own foot: its top must lie above its base."
