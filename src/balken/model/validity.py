"""What a project must satisfy beyond the types of its records. One sentence per fault, with its
place."""

from collections.abc import Iterable, Mapping
from itertools import pairwise
from typing import Final

from balken.errors import BalkenError
from balken.geometry.plane import EXACT, TOUCH, distance
from balken.model.beams import BeamKind
from balken.model.catalogue import Catalogue, catalogue_of, sections_of
from balken.model.foundations import KIND_WORDS, WITH_STEM, faults_of
from balken.model.names import MemberName
from balken.model.project import FORMAT, Project
from balken.model.sections import Section, faults_of_product
from balken.model.walls import core_of, thickness_of, wall_length

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
    for i, grid in enumerate(project.grids):
        for k, line in enumerate(grid.lines):
            if line.end - line.start < TOUCH:
                yield f"$.grids[{i}].lines[{k}] “{line.label}” has no length."


def _twice(project: Project) -> Iterable[str]:
    kinds = (
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
    )
    for kind in kinds:
        seen: set[str] = set()
        for i, record in enumerate(getattr(project, kind)):
            if record.id in seen:
                yield f"$.{kind}[{i}].id “{record.id}” is there twice."
            seen.add(record.id)
    members: set[MemberName] = set()
    for i, change in enumerate(project.changes):
        if change.member in members:
            yield f"$.changes[{i}].member “{change.member}” is changed twice."
        members.add(change.member)
    for i, wall in enumerate(project.walls):
        inside = [o.id for o in wall.openings]
        if len(set(inside)) != len(inside):
            yield f"$.walls[{i}].openings names one opening twice."
    for i, grid in enumerate(project.grids):
        labels = [(line.runs, line.label) for line in grid.lines]
        if len(set(labels)) != len(labels):
            yield f"$.grids[{i}].lines has one label twice."


def _missing(project: Project) -> Iterable[str]:
    levels = {level.id for level in project.levels}
    walls = {wall.id for wall in project.walls}
    build_ups = {item.id for item in project.build_ups}
    fields = {
        "walls": ("base", "top"),
        "runs": ("top",),
        "floors": ("level", "bears_on"),
        "roofs": ("plate",),
        "point_supports": ("base", "top"),
    }
    for kind, names in fields.items():
        for i, record in enumerate(getattr(project, kind)):
            for name in names:
                if getattr(record, name) not in levels:
                    yield f"$.{kind}[{i}].{name}: there is no level “{getattr(record, name)}”."
            for k, key in enumerate(getattr(record, "walls", ())):
                if key not in walls:
                    yield f"$.{kind}[{i}].walls[{k}]: there is no wall “{key}”."
    for i, run in enumerate(project.runs):
        for k, span in enumerate(run.spans):
            if span.wall not in walls:
                yield f"$.runs[{i}].spans[{k}]: there is no wall “{span.wall}”."
        for name in ("base", "bottom", "slab_level"):
            if getattr(run, name) and getattr(run, name) not in levels:
                yield f"$.runs[{i}].{name}: there is no level “{getattr(run, name)}”."
    for i, drawing in enumerate(project.backgrounds):
        if drawing.level and drawing.level not in levels:
            yield f"$.backgrounds[{i}].level: there is no level “{drawing.level}”."
    lines = {(g.id, line.id) for g in project.grids for line in g.lines}
    for i, floor in enumerate(project.floors):
        if floor.build_up not in build_ups:
            yield f"$.floors[{i}].build_up: there is no build-up “{floor.build_up}”."
        for key in (*(e.wall for e in floor.edges), *(o.wall for o in floor.openings if o.wall)):
            if key not in walls:
                yield f"$.floors[{i}]: there is no wall “{key}”."
        for cut in floor.cuts:
            if cut.grid and (cut.grid, cut.line) not in lines:
                yield f"$.floors[{i}] is cut along a grid line that is not there."
        if len({o.id for o in floor.openings}) != len(floor.openings):
            yield f"$.floors[{i}].openings names one opening twice."


def _sections(project: Project, catalogue: Catalogue) -> Iterable[str]:
    sections = sections_of(project.system, project.products)
    for i, item in enumerate(project.products):
        fault = faults_of_product(item)
        if fault:
            yield f"$.products[{i}] “{item.id}” {fault}."
    joisted = [b for b in project.build_ups if b.kind == "joists"]
    for kind, record in [("build_ups", b) for b in joisted] + [("roofs", r) for r in project.roofs]:
        where = f"$.{kind} “{record.id}”"
        if not record.sizes or not record.spacings:
            yield f"{where} offers no sizes or no spacings."
        yield from _named_sections(where, record.sizes, sections)
        if (record.species, record.grade) not in catalogue.grades:
            yield f"{where}: there is no grade “{record.grade}” of “{record.species}”."
    for roof in project.roofs:
        typed = (*roof.trusses.chords, *roof.trusses.webs, *(s for _, s in roof.rafters.sections))
        fascia = (roof.rafters.fascia,) if roof.rafters.fascia else ()
        yield from _named_sections(f"$.roofs “{roof.id}”", (*typed, *fascia), sections)
    for i, body in enumerate(project.build_ups):
        if body.kind == "slab" and not body.slab:
            yield f"$.build_ups[{i}] “{body.id}” is a slab without a thickness."
    for kind in ("floors", "roofs", "changes", "added"):
        for i, owner in enumerate(getattr(project, kind)):
            if owner.section is not None:
                yield from _named_sections(f"$.{kind}[{i}].section", (owner.section,), sections)
    for i, run in enumerate(project.runs):
        if run.sill and run.sill not in catalogue.sections:
            yield f"$.runs[{i}].sill: there is no section “{run.sill}” in this catalogue."
    for i, post in enumerate(project.point_supports):
        if post.section:
            yield from _named_sections(f"$.point_supports[{i}].section", (post.section,), sections)


def _named_sections(
    where: str, names: tuple[str, ...], sections: Mapping[str, Section]
) -> Iterable[str]:
    for name in names:
        if name not in sections:
            yield f"{where}: there is no section “{name}” in this catalogue."


def _beams(project: Project, catalogue: Catalogue) -> Iterable[str]:
    sections = sections_of(project.system, project.products)
    levels = {x.id for x in project.levels}
    lines = {(g.id, line.id) for g in project.grids for line in g.lines}
    fits: set[BeamKind] = set()  # most beams are of a few kinds
    for kind in ("beams", "bays"):
        for i, item in enumerate(getattr(project, kind)):
            if item.level in levels and item.kind in fits:
                continue
            where = f"$.{kind}[{i}] “{item.id}”"
            if item.level not in levels:
                yield f"{where}: there is no level “{item.level}”."
            if not item.kind.section and not item.kind.sizes:
                yield f"{where} offers no sizes."
            names = (*item.kind.sizes, *((item.kind.section,) if item.kind.section else ()))
            yield from _named_sections(where, names, sections)
            sawn = any(sections[n].family == "sawn" for n in names if n in sections)
            if sawn and (item.kind.species, item.kind.grade) not in catalogue.grades:
                yield f"{where}: there is no grade “{item.kind.grade}” of “{item.kind.species}”."
            fits.add(item.kind)  # had it a fault, the first beam of the kind has told
    for i, beam in enumerate(project.beams):
        for end in (beam.start, beam.end):
            if end.grid and not lines.issuperset([(end.grid, key) for key in end.lines]):
                yield f"$.beams[{i}] “{beam.id}” ends at a grid line that is not there."
    for i, bay in enumerate(project.bays):
        if bay.grid and any((bay.grid, key) not in lines for key in (*bay.first, *bay.second)):
            yield f"$.bays[{i}] “{bay.id}” lies between grid lines that are not there."
        if not bay.grid and len(bay.corners) < 3:
            yield f"$.bays[{i}] “{bay.id}” has no outline."


def _walls(project: Project) -> Iterable[str]:
    heights = {x.id: x.elevation for x in project.levels}
    build_ups = {b.id: b for b in project.wall_build_ups}
    for i, wall in enumerate(project.walls):
        if distance(wall.start, wall.end) < TOUCH:
            yield f"$.walls[{i}] “{wall.name}” has both ends at one place."
        elif wall_length(wall) > LONGEST:
            yield (
                f"$.walls[{i}] “{wall.name}” is {wall_length(wall) / 1e6:.1f} km long: a kilometre"
                " is the most."
            )
        elif heights[wall.top] + wall.top_offset - heights[wall.base] - wall.base_offset < TOUCH:
            yield (
                f"$.walls[{i}] “{wall.name}” ends below its own foot: its top must lie above its"
                " base."
            )
        if wall.bulge and wall.openings:
            yield (
                f"$.walls[{i}] “{wall.name}” is curved and has openings, which only straight walls"
                " can have."
            )
        for k, opening in enumerate(wall.openings):
            if opening.at < -TOUCH or opening.at + opening.width > wall_length(wall) + TOUCH:
                yield f"$.walls[{i}].openings[{k}] reaches past the end of wall “{wall.name}”."
        if wall.build_up and wall.build_up not in build_ups:
            yield f"$.walls[{i}].build_up: there is no build-up “{wall.build_up}”."
        elif wall.build_up and abs(thickness_of(build_ups[wall.build_up]) - wall.thickness) > EXACT:
            yield (
                f"$.walls[{i}] “{wall.name}” has another thickness than its build-up"
                f" “{wall.build_up}”."
            )
    for i, body in enumerate(project.wall_build_ups):
        try:
            core_of(body)
        except BalkenError as error:
            yield f"$.wall_build_ups[{i}]: {error}"


def _runs(project: Project) -> Iterable[str]:
    heights = {x.id: x.elevation for x in project.levels}
    for i, run in enumerate(project.runs):
        for fault in faults_of(run):
            yield f"$.runs[{i}] “{run.name}” is a {KIND_WORDS[run.kind]}, and {fault}."
        for span in run.spans:
            if span.end - span.start < TOUCH:
                yield (
                    f"$.runs[{i}] “{run.name}” takes a part of wall “{span.wall}” that has no"
                    " length."
                )
        if any(distance(a, b) < TOUCH for path in run.paths for a, b in pairwise(path)):
            yield f"$.runs[{i}] “{run.name}” follows a path with two places at one spot."
        if run.kind in WITH_STEM:
            if not run.base or not (run.bottom or run.footing_thickness):
                yield (
                    f"$.runs[{i}] “{run.name}” stands on no level: it needs a top of footing and a"
                    " bottom."
                )
                continue
            base, top = heights[run.base], heights[run.top]
            bottom = (
                heights[run.bottom]
                if run.bottom and not run.footing_thickness
                else base - run.footing_thickness
            )
            lowest = min((top - p.top_drop for p in run.parts), default=top)
            if base - bottom < TOUCH or lowest - base < TOUCH:
                yield (
                    f"$.runs[{i}] “{run.name}” runs from bottom of footing up through top of"
                    " footing to top of foundation,"
                    " and would have no height left."
                )


def _supports(project: Project) -> Iterable[str]:
    heights = {x.id: x.elevation for x in project.levels}
    lines = {(g.id, line.id) for g in project.grids for line in g.lines}
    for i, item in enumerate(project.point_supports):
        if item.grid and not lines.issuperset([(item.grid, key) for key in item.lines]):
            yield f"$.point_supports[{i}] stands on a grid line that is not there."
        if item.kind == "pad" and item.thickness:
            continue
        if heights[item.top] + item.top_offset - heights[item.base] - item.base_offset < TOUCH:
            yield (
                f"$.point_supports[{i}] “{item.id}” ends below its own foot: its top must lie"
                " above its base."
            )
