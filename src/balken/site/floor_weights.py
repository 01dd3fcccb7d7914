"""What floors weigh, layer by layer: joists, subfloor, ceiling, insulation, and partitions where an
allowance is made for them. N/mm²."""

from typing import Final

from msgspec.structs import replace

from balken.model.catalogue import sections_of, weight_of
from balken.model.floors import BuildUp, FloorArea
from balken.model.project import Project
from balken.units import PCF

PANEL: Final = 38.4 * PCF
"""Plywood and OSB (ASCE 7-16 table C3.1-2, from memory)."""
BOARD: Final = 52.8 * PCF
"""Gypsum: 0.55 psf an eighth of an inch (ASCE 7-16 table C3.1-1, from memory)."""
LOOSE: Final = 2.0 * PCF
"""Insulation between joists."""


def with_dead_of_layers(project: Project) -> Project:
    """A project whose floors that weigh what their layers do have that; the same where none does."""
    if all(f.dead_from == "typed" for f in project.floors):
        return project
    floors = (
        replace(f, dead=round(floor_dead(project, f), 9)) if f.dead_from == "layers" else f
        for f in project.floors
    )
    return replace(project, floors=tuple(floors))


def floor_dead(project: Project, floor: FloorArea) -> float:
    """What a floor's layers weigh, with what was typed for finishes and the allowance for
    partitions; a solid slab weighs itself where it lies.

    Joists are counted at the heaviest they may be chosen, so that their choice does not change what
    it rests on.
    """
    body = next(b for b in project.build_ups if b.id == floor.build_up)
    layers = body.ceiling * BOARD + body.insulation * LOOSE + floor.finishes
    if body.kind != "slab":
        layers += body.subfloor * PANEL + _joists(project, floor, body)
    return layers + (floor.partitions or 0.0)


def _joists(project: Project, floor: FloorArea, body: BuildUp) -> float:
    sections = sections_of(project.system, project.products)
    names = (floor.section,) if floor.section else body.sizes
    gap = floor.spacing or min(body.spacings)
    return max(weight_of(sections[n]) for n in names) / gap
