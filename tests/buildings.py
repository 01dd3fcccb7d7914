"""Plain buildings for tests."""

from collections.abc import Sequence
from typing import Any

from balken.fit.finding import Finding
from balken.framing.structure import Structure
from balken.geometry.plane import Point, rotate
from balken.geometry.trim import Body, union
from balken.model.edits import set_floor
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.grids import straight_grid
from balken.model.edits.openings import add_opening
from balken.model.edits.roofs import set_roof
from balken.model.edits.walls import WallKind, draw_walls, rectangle_of
from balken.model.labels import LabelRule
from balken.model.new import empty_building, new_building
from balken.model.project import FORMAT, Level, Project, Wall
from balken.model.walls import Layer, Module, Opening
from balken.site.proposals import propose_structure
from balken.units import FOOT
from balken.works.settling import settle


def house(
    length: float = 36 * FOOT, width: float = 26 * FOOT, storeys: int = 1, system: str = "us"
) -> Project:
    """A plain rectangular building with its structure."""
    project, said = propose_structure(new_building("House", length, width, storeys, system))  # type: ignore[arg-type]
    assert said == ()
    return settle(project)


def misfits(found: Sequence[Finding]) -> list[Finding]:
    """Findings that can be mended here: without those that tell which checks are lacking."""
    return [f for f in found if f.kind != "unchecked"]


def union_volume(structure: Structure) -> float:
    """Volume of all concrete as one body, by another road than the sum of its pieces: manifold3d's
    union, mm³."""
    return union([Body(m.solid, m.voids) for m in structure.members if m.kind.concrete]).volume


def two_storeys(length: float = 9000.0, width: float = 4800.0) -> Project:
    """A metric building of two storeys with floors; the joists of Floor 2 run across, on walls
    alone."""
    project, said = propose_structure(new_building("House", length, width, 2, "metric"))
    assert not said
    return set_floor(project, "F2", section="38x286", spacing=400.0)


def walled(corners: Sequence[Point], turn: float = 0.0, **roof: Any) -> Project:
    """A one-storey building round corners, turned, with what can be proposed for it, and its roof
    changed."""
    levels = (Level("L1", "Floor 1", "floor", 0.0), Level("P1", "Plate 1", "plate", 2500.0))
    ends = zip(corners, [*corners[1:], corners[0]])
    walls = tuple(
        Wall(f"W{i}", f"W{i}", rotate(a, turn), rotate(b, turn), 165.1, "left", "L1", "P1")
        for i, (a, b) in enumerate(ends)
    )
    project = propose_structure(Project(FORMAT, "Walled", "us", "us", levels, (), walls))[0]
    return set_roof(project, "R1", **roof) if roof else project


def block_hall() -> Project:
    """The walls of the invented ferry hall as somebody drew them, in blocks and not yet on
    their module."""

    layers = (
        Layer("block", 190.0, "core"),
        Layer("mineral wool", 60.0, "insulation"),
        Layer("board", 12.5, "lining"),
    )
    project, key = add_build_up(
        empty_building("Ferry hall", "metric"), layers, Module(200.0, 200.0, 10.0)
    )
    project = draw_walls(
        project, WallKind("L1", "P1", build_up=key), rectangle_of((0, 0), (9130, 6410)), closed=True
    )
    south, _, north, _ = (w.id for w in project.walls)
    project = add_opening(project, south, Opening("1", "door", 1500, 1030, 2125, 0, (20, 15)))
    project = add_opening(project, south, Opening("2", "window", 4600, 1210, 1300, 900))
    project = add_opening(project, north, Opening("3", "window", 3000, 1810, 1300, 900))
    names = LabelRule("numbers", "1"), LabelRule("letters", "A")
    return straight_grid(project, (0, 0), 0.0, (4565, 4565), (6410,), *names)
