"""Drawn loads on a plan: where they lie, what they are called, how much they are."""

from collections.abc import Callable, Iterator, Sequence
from typing import Final

from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke, rectangle
from balken.drawing.tiers import Tier
from balken.geometry.plane import Point
from balken.model.cases import CASE_WORDS
from balken.model.drawn_loads import DrawnLoad, Shape
from balken.model.names import HostName
from balken.model.project import Project
from balken.units import (
    System,
    format_area_load,
    format_force,
    format_length,
    format_line_load,
)
from balken.works.building import Checked

SHOW: Final[dict[Shape, Callable[[float, System], str]]] = {
    "point": format_force,
    "line": format_line_load,
    "area": format_area_load,
}
"""How an amount is written, by the shape of its load."""
POINT: Final = 150.0
"""Half the side of the square a point load is drawn as, mm."""


def loads_on(project: Project, tier: Tier) -> list[DrawnLoad]:
    """The drawn loads that lie on a tier."""
    floors = {f.level for f in project.floors if tier.holds(HostName("floor", f.id))}
    roofs = {r.plate for r in project.roofs if tier.holds(HostName("roof", r.id))}
    levels = {tier.walls_on} if tier.kind == "walls" else floors | roofs
    return [x for x in project.loads if x.level in levels]


def load_marks(project: Project, tier: Tier) -> list[Mark]:
    """The shapes of the loads of a tier."""
    return [mark for load in loads_on(project, tier) for mark in _shape(load)]


def _shape(load: DrawnLoad) -> Iterator[Mark]:
    key = HostName("load", load.id)
    if load.shape == "point":
        (x, y) = load.places[0]
        ring = rectangle(x - POINT, y - POINT, x + POINT, y + POINT)
        yield Patch(ring, "shade", "seen", key)
        yield Stroke((ring[0], ring[2]), "seen", key)
        yield Stroke((ring[1], ring[3]), "seen", key)
    elif load.shape == "line":
        yield Stroke(load.places, "cut", key)
    else:
        yield Patch(load.places, "shade", "none", key)
        yield Stroke((*load.places, load.places[0]), "hidden", key)


def heap_marks(checked: Checked, tier: Tier) -> list[Mark]:
    """Snow heaped up on the roofs of a tier: the darker strip by strip."""
    return [
        Stroke((*ring, ring[0]), "hidden", heap.lower)
        for heap in checked.path.heaped
        if tier.holds(heap.lower)
        for ring, _ in heap.strips
    ]


def heap_notes(checked: Checked, tier: Tier) -> Drawing:
    """How much snow is heaped up, at the wall, and how far it reaches."""
    system = checked.project.system
    return tuple(
        Label(
            f"heaped snow {format_area_load(heap.most, system)} {heap.where},"
            f" to nothing in {format_length(heap.reach, system)}",
            _middle(heap.strips[len(heap.strips) // 2][0]),
            2.2,
            boxed=True,
            key=heap.lower,
        )
        for heap in checked.path.heaped
        if tier.holds(heap.lower)
    )


def _middle(ring: Sequence[Point]) -> Point:
    return sum(x for x, _ in ring) / len(ring), sum(y for _, y in ring) / len(ring)


def load_notes(project: Project, tier: Tier, paper: float) -> Drawing:
    """What the loads of a tier are called, and how much they are."""
    return tuple(
        Label(
            f"{x.name}: {amount_words(x, project.system)}",
            _beside(x, paper),
            2.2,
            boxed=True,
            key=HostName("load", x.id),
        )
        for x in loads_on(project, tier)
    )


def _beside(load: DrawnLoad, paper: float) -> Point:
    """Where a load's words stand: over a point, over a line's higher end, in an area."""
    if load.shape == "area":
        return _middle(load.places)
    x, y = max(load.places, key=lambda p: p[1])
    return x, y + POINT + 3.0 * paper


def amount_words(load: DrawnLoad, system: System) -> str:
    """How much a load is, and of what."""
    return f"{SHOW[load.shape](load.amount, system)} {CASE_WORDS[load.case]}"
