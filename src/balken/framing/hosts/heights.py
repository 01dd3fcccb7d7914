"""How high floors lie: their build-up, what they bear on, and the tops of beams set to them."""

import math

from balken.model.catalogue import catalogue_of
from balken.model.floors import BuildUp, FloorArea
from balken.model.foundations import WITH_STEM, FoundationRun, walls_on
from balken.model.project import Level, Project, level


def runs_under(project: Project, floor: FloorArea) -> tuple[FoundationRun, ...]:
    """The foundations whose top a floor bears on."""
    mine = set(floor.walls)
    return tuple(
        r
        for r in project.runs
        if r.top == floor.bears_on and r.kind in WITH_STEM and mine & set(walls_on(r))
    )


def run_under(project: Project, floor: FloorArea) -> FoundationRun | None:
    """The first foundation whose top a floor bears on, if any."""
    return next(iter(runs_under(project, floor)), None)


def build_up_of(project: Project, floor: FloorArea) -> BuildUp:
    """A floor's build-up."""
    return next(b for b in project.build_ups if b.id == floor.build_up)


def bearing_height(project: Project, floor: FloorArea) -> float:
    """The height a floor's joists bear at, mm: its level, and the sill where it lies on a
    foundation.

    A slab hangs by its thickness under its top.
    """
    body = build_up_of(project, floor)
    if body.kind == "slab":
        return level(project, floor.level).elevation - body.slab
    run = run_under(project, floor)
    sill = catalogue_of(project.system).sections.get(run.sill) if run else None
    return level(project, floor.bears_on).elevation + (sill.breadth if sill else 0.0)


def level_tops(project: Project, key: str) -> tuple[float, float, float]:
    """The tops of beams set under the joists, flush with them, and at a level, mm; all alike
    where no floor lies."""
    top = level(project, key).elevation
    floors = [
        f for f in project.floors if f.level == key and build_up_of(project, f).use == "floor"
    ]
    if not floors:
        return top, top, top
    joists = [f for f in floors if build_up_of(project, f).kind == "joists"]
    floor = (joists or floors)[0]
    body = build_up_of(project, floor)
    return (
        bearing_height(project, floor),
        top - (body.subfloor if body.kind == "joists" else 0.0),
        top,
    )


def depth_allowed(project: Project, floor: FloorArea, bearing: float) -> float:
    """The depth joists that bear at a height may have, mm; infinite for a ceiling, and where a
    level follows from what is built."""
    if build_up_of(project, floor).use == "ceiling" or free_of_depth(project, floor):
        return math.inf
    return depth_between(project, floor, bearing)


def depth_between(project: Project, floor: FloorArea, bearing: float) -> float:
    """The depth the levels leave for joists between bearing and subfloor, mm."""
    return level(project, floor.level).elevation - bearing - build_up_of(project, floor).subfloor


def free_of_depth(project: Project, floor: FloorArea) -> Level | None:
    """The level of a floor's two that follows from its depth: the one that is not held, the
    upper before the lower."""
    for key in (floor.level, floor.bears_on):
        item = level(project, key)
        locked = [x for x in project.levels if x.lock and x.lock == item.lock]
        if not item.held and not any(x.held for x in locked):
            return item
    return None
