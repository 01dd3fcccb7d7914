"""A piece is as long as its body, and no longer than what it is cut from."""

import json
import math
import random
from collections.abc import Callable

import pytest
from msgspec.structs import replace

from balken.exchange.native import ReadError, from_text, to_text
from balken.framing import kinds
from balken.model.catalogue import sections_of
from balken.model.edits.roofs import set_roof
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.cutting import cutting_list
from balken.works.building import work_out
from buildings import two_storeys
from test_any_project import changed
from test_nothing_silent import ORDINARY


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
def test_no_piece_is_longer_than_its_blank_nor_than_its_share_of_boards(
    building: Callable[[], Project],
) -> None:
    lines = cutting_list(work_out(building()))
    assert len(lines) > 10
    for line in lines:
        assert line.length <= line.blank + 0.5, line
        assert not line.bought or line.count * line.blank <= line.bought + 0.5 * line.count, line


@pytest.mark.parametrize("building", BUILDINGS)
def test_a_piece_is_as_long_as_its_body_and_holds_its_wood(building: Callable[[], Project]) -> None:
    """By the body itself: the farthest two of its corners, and its volume."""
    checked = work_out(building())
    sections = sections_of(checked.project.system, checked.project.products)
    for m in checked.structure.members:
        section = sections.get(m.section)
        if (
            m.kind.concrete
            or m.kind is kinds.SUBFLOOR
            or section is None
            or section.family != "sawn"
        ):
            continue
        farthest = max(math.dist(a, b) for a in m.solid.outline for b in m.solid.outline)
        assert m.length <= math.hypot(farthest, m.solid.depth) + section.depth, (
            m.id,
            m.length,
            farthest,
        )
        plies = (
            round(m.solid.depth / section.breadth) if m.kind.of_truss else 1
        )  # of a girder, each a truss
        assert plies * m.length * section.breadth * section.depth >= 0.98 * m.solid.volume, m.id


def assert_as_long_as_their_bodies(project: Project) -> None:
    """Each piece is as long as the corners of its body lie apart along it, or shorter by its end
    cuts; what it is cut from is exactly so long."""
    for m in work_out(project).structure.members:
        if m.kind.concrete or m.kind is kinds.SUBFLOOR:
            continue
        axis = [b - a for a, b in zip(m.start, m.end)]
        places = [sum(a * q for a, q in zip(axis, p)) / math.hypot(*axis) for p in m.solid.points()]
        body = max(places) - min(places)
        assert 0.0 < m.length <= m.blank + 1e-3, (m.id, m.length, m.blank)
        assert m.blank == pytest.approx(body, abs=1e-3), (m.id, m.blank, body)


@pytest.mark.parametrize("building", [*BUILDINGS, *ORDINARY])
def test_every_piece_is_as_long_as_its_body(building: Callable[[], Project]) -> None:
    assert_as_long_as_their_bodies(building())


@pytest.mark.parametrize("seed", range(12))
def test_every_piece_of_a_changed_building_is_as_long_as_its_body(seed: int) -> None:
    base = json.loads(to_text(ORDINARY[seed % len(ORDINARY)]()))
    chance = random.Random(seed)
    for _ in range(40):
        try:
            project = from_text(json.dumps(changed(base, chance)).encode())
        except ReadError:
            continue
        assert_as_long_as_their_bodies(project)
        return
    pytest.fail("no change of this seed gave a valid project")


def test_a_truss_is_analysed_from_bearing_to_bearing_and_its_chord_is_its_own_length() -> None:
    """The carrier is the whole truss; the first bottom chord that brings it is a piece like any."""
    members = work_out(scissors()).structure.members
    chords = [m for m in members if m.kind is kinds.BOTTOM_CHORD and m.carrier.supports]
    assert chords
    for m in chords:
        assert m.carrier.run == pytest.approx(m.carrier.length)
        assert m.carrier.length > 1.5 * m.length, "a scissors truss has two bottom chords"
        assert m.length == pytest.approx(math.dist(m.start, m.end), rel=1e-3)
        assert m.carrier.slope > 0.0
        assert m.slope == 0.0


def test_members_of_trusses_are_each_as_long_as_drawn() -> None:
    """The piece that carries a truss in the way of loads keeps its own length on the list."""
    checked = work_out(scissors())
    chords = [m for m in checked.structure.members if m.kind is kinds.BOTTOM_CHORD]
    assert chords
    widest = max(abs(m.end[0] - m.start[0]) + abs(m.end[1] - m.start[1]) for m in chords)
    longest = max(line.length for line in cutting_list(checked) if line.role == "bottom chord")
    assert longest <= widest * 1.2
