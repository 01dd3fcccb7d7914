"""The column of levels: what each floor is built up to, and levels that follow from it.

A floor's level is where its joists bear, plus sill where they lie on a foundation, plus joist
depth, plus subfloor. Of the two levels between which a floor lies, the one that is not held
follows; where both are held and the sum does not come out, the fit list says by how much.
"""

from typing import Final

import msgspec
from msgspec.structs import replace

from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.hosts.heights import build_up_of, free_of_depth
from balken.geometry.plane import TOUCH
from balken.model.catalogue import sections_of
from balken.model.edits.common import EditError, checked
from balken.model.edits.levels import moves_along
from balken.model.floors import FloorArea
from balken.model.names import HostName
from balken.model.project import Level, Project, column, level
from balken.units import INCH
from balken.works.sizes import sizes_of


class Part(msgspec.Struct, frozen=True):
    """One thing in the sum from one level up to the next, mm."""

    name: str
    depth: float


class ColumnSum(msgspec.Struct, frozen=True):
    """What is built up from one level to another: the sum of the parts against the distance between
    the levels, mm."""

    floor: str
    under: str
    top: str
    parts: tuple[Part, ...]
    over: float
    """How much the levels leave over what is built: a gap where positive, an overlap where
    negative."""


def column_sums(project: Project) -> tuple[ColumnSum, ...]:
    """The sum for each joist floor, from the lowest up."""
    sizes = sizes_of(project)
    found = []
    for floor in project.floors:
        parts = _parts(project, floor, sizes.get(HostName("floor", floor.id)))
        if parts:
            distance = (
                level(project, floor.level).elevation - level(project, floor.bears_on).elevation
            )
            over = distance - sum(p.depth for p in parts)
            found.append(
                ColumnSum(floor.id, floor.bears_on, floor.level, parts, round(over, 6) + 0.0)
            )
    return tuple(sorted(found, key=lambda s: level(project, s.under).elevation))


PLATES: Final = 3
"""One plate under the studs and two over them; common practice, no source."""
PLATE: Final = {"us": 1.5 * INCH, "metric": 38.0}
"""A dressed 2-inch piece laid flat (PS 20); metric lumber is 38."""


def storey_sums(project: Project) -> tuple[ColumnSum, ...]:
    """For each storey of framed walls what is built up from its floor to the plate: plates,
    and studs between."""
    found = []
    for base in column(project):
        walls = [w for w in project.walls if w.base == base.id]
        tops = {w.top for w in walls if level(project, w.top).role == "plate"}
        for top in sorted(tops, key=lambda k: level(project, k).elevation):
            height = level(project, top).elevation - base.elevation
            plate = PLATE[project.system]
            studs = height - PLATES * plate
            if studs > 0:
                parts = (
                    Part("bottom plate", plate),
                    Part("studs", round(studs, 6)),
                    Part("two top plates", 2 * plate),
                )
                found.append(ColumnSum("", base.id, top, parts, 0.0))
    return tuple(found)


def _parts(project: Project, floor: FloorArea, sized: object) -> tuple[Part, ...]:
    from balken.design.sizing import Sized

    build_up = build_up_of(project, floor)
    bearings = bearings_of_floor(project, floor)
    if build_up.kind == "slab" and bearings is not None:
        return (Part("solid slab", build_up.slab),)
    if build_up.use == "ceiling" or bearings is None or not isinstance(sized, Sized):
        return ()
    sill = bearings.height - level(project, floor.bears_on).elevation
    depth = sections_of(project.system, project.products)[sized.size.section].depth
    parts = [Part("sill plate", sill)] if sill > TOUCH / 1000 else []
    parts.append(Part(f"{sized.size.section} joists", depth))
    if build_up.subfloor:
        parts.append(Part("subfloor", build_up.subfloor))
    return tuple(parts)


def follow(project: Project) -> Project:
    """Move the levels that are not held to what is built up to them; where that cannot be, all stay
    as they are."""
    if all(x.held for x in project.levels):
        return project
    after = project
    done: set[str] = set()
    for item in column_sums(project):
        free = _free(after, item)
        if free is None or free.id in done:
            continue
        done.add(free.id)
        to = _for_the_deepest(after, free)
        if to is not None and abs(to - free.elevation) >= TOUCH / 1000:
            try:
                after = _with_locked(after, free, round(to, 6))
            except EditError:
                return project
    return after


def _free(project: Project, item: ColumnSum) -> Level | None:
    """The level of a sum's floor that follows from its depth."""
    return free_of_depth(project, next(f for f in project.floors if f.id == item.floor))


def _for_the_deepest(project: Project, free: Level) -> float | None:
    """Where a level goes that floors hang on: to the deepest of them, so that none reaches
    past it. What a shallower one leaves over is told as a gap."""
    wanted = []
    for item in column_sums(project):
        mine = _free(project, item)
        if mine is not None and mine.id == free.id:
            depth = sum(p.depth for p in item.parts)
            is_top = free.id == item.top
            other = level(project, item.under if is_top else item.top).elevation
            wanted.append(other + depth if is_top else other - depth)
    over = any(free.id == f.level for f in project.floors)
    return (max if over else min)(wanted, default=None)


def _with_locked(project: Project, item: Level, to: float) -> Project:
    """Move a level that follows, with those that move along with it."""
    by, along = to - item.elevation, moves_along(project, item)
    return checked(
        project,
        levels=tuple(
            replace(x, elevation=round(x.elevation + by, 6)) if x.id in along else x
            for x in project.levels
        ),
    )
