"""A piece is as long as its body, and no longer than what it is cut from."""

import math
from collections.abc import Callable

import pytest
from msgspec.structs import replace

from balken.design.building import work_out
from balken.framing.member import CONCRETE_ROLES
from balken.model.catalogue import sections_of
from balken.model.edits.roofs import set_roof
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.cutting import OF_TRUSSES, cutting_list
from buildings import two_storeys


def scissors() -> Project:
    """Trusses whose bottom chords rise."""
    project = two_storeys()
    return set_roof(
        project, "R1", framing="trusses", trusses=replace(project.roofs[0].trusses, bottom_rise=3.0)
    )


def hung() -> Project:
    """Trusses that bear on their top chords."""
    project = two_storeys()
    return set_roof(
        project,
        "R1",
        framing="trusses",
        trusses=replace(project.roofs[0].trusses, bearing="top chord"),
    )


BUILDINGS = (shown_demo, ferry_hall, scissors, hung)


@pytest.mark.parametrize("building", BUILDINGS)
def test_no_piece_is_longer_than_its_blank_nor_its_blank_than_its_stock(
    building: Callable[[], Project],
) -> None:
    lines = cutting_list(work_out(building()))
    assert len(lines) > 10
    for line in lines:
        assert line.length <= line.blank + 0.5, line
        assert line.stock is None or line.blank <= line.stock + 0.5, line


@pytest.mark.parametrize("building", BUILDINGS)
def test_a_piece_is_as_long_as_its_body_and_holds_its_wood(building: Callable[[], Project]) -> None:
    """By the body itself: the farthest two of its corners, and its volume."""
    checked = work_out(building())
    sections = sections_of(checked.project.system, checked.project.products)
    for m in checked.structure.members:
        section = sections.get(m.section)
        if m.role in (*CONCRETE_ROLES, "subfloor") or section is None or section.family != "sawn":
            continue
        farthest = max(math.dist(a, b) for a in m.solid.outline for b in m.solid.outline)
        assert m.sawn <= math.hypot(farthest, m.solid.depth) + section.depth, (
            m.id,
            m.sawn,
            farthest,
        )
        plies = (
            round(m.solid.depth / section.breadth) if m.role in OF_TRUSSES else 1
        )  # of a girder, each a truss
        assert plies * m.sawn * section.breadth * section.depth >= 0.98 * m.solid.volume, m.id


def test_members_of_trusses_are_each_as_long_as_drawn() -> None:
    """The piece that carries a truss in the way of loads keeps its own length on the list."""
    checked = work_out(scissors())
    chords = [m for m in checked.structure.members if m.role == "bottom chord"]
    assert chords
    widest = max(abs(m.end[0] - m.start[0]) + abs(m.end[1] - m.start[1]) for m in chords)
    longest = max(line.length for line in cutting_list(checked) if line.role == "bottom chord")
    assert longest <= widest * 1.2
