"""Gable roofs: true rafters, against measures worked by hand and the framing square."""

import math

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from balken.design.building import work_out
from balken.framing.member import Member
from balken.framing.rafters import RafterShape
from balken.geometry.plane import signed_area
from balken.model.catalogue import catalogue_of
from balken.model.edits import set_roof
from balken.model.project import Project
from balken.units import FOOT, INCH
from buildings import house


def of_roof(project: Project, role: str) -> list[Member]:
    return [m for m in work_out(project).structure.members if m.role == role]


def test_lengths_by_the_framing_square(plain: Project) -> None:
    """6 in 12 over half of 26 ft: 13.416 in along the slope per foot of run, half a ridge board taken off."""
    rafter = of_roof(plain, "rafter")[5]
    run = 13 * 12 - 0.75 + 12
    assert rafter.length == pytest.approx(run * 13.41641 / 12 * INCH, rel=1e-6)


def test_rafters_stand_in_pairs_against_the_ridge(plain: Project) -> None:
    rafters = of_roof(plain, "rafter")
    assert len(rafters) % 2 == 0
    ridge = of_roof(plain, "ridge")[0]
    low, high = ridge.solid.bounds()
    assert high[1] - low[1] == pytest.approx(1.5 * INCH)
    for m in rafters:
        touch = low[1] if m.id.endswith("a") else high[1]
        assert m.end[1] == pytest.approx(touch, abs=1e-6)
        assert m.solid.bounds()[1][2] == pytest.approx(high[2], abs=1e-6)


def test_ridge_board_is_as_deep_as_the_plumb_cut(plain: Project) -> None:
    """IRC 2021 R802.3: the ridge board is not less in depth than the cut end of the rafter."""
    sections = catalogue_of("us").sections
    for rise in (3.0, 6.0, 9.0, 12.0):
        steep = set_roof(plain, "R1", rise=rise)
        ridge, rafter = of_roof(steep, "ridge")[0], of_roof(steep, "rafter")[0]
        cut = sections[rafter.section].depth * math.hypot(1, rise / 12)
        assert sections[ridge.section].depth >= cut - 1.0 or ridge.section == "2x14"


def test_rafter_sits_on_the_plate(plain: Project) -> None:
    plate = next(x.elevation for x in plain.levels if x.role == "plate")
    rafter = of_roof(plain, "rafter")[4]
    seat = [p for p in rafter.solid.outline if abs(p[1] - plate) < 1e-6]
    assert len(seat) == 2
    assert abs(seat[0][0] - seat[1][0]) == pytest.approx(3.5 * INCH)
    assert min(p[0] for p in rafter.solid.outline) == pytest.approx(-12 * INCH)


shapes = st.builds(
    RafterShape,
    slope=st.floats(0.1, 2.0),
    depth=st.floats(80, 320),
    seat=st.floats(20, 140),
    overhang=st.floats(5, 900),
    reach=st.floats(1500, 8000),
)


@given(shapes)
def test_volume_of_a_rafter_by_hand(shape: RafterShape) -> None:
    """A parallelogram of run times plumb cut, less the triangle of the birdsmouth."""
    area = (shape.overhang + shape.reach) * shape.plumb - shape.seat * shape.seat * shape.slope / 2
    assert abs(signed_area(shape.outline())) == pytest.approx(area, rel=1e-9)


@given(shapes)
def test_the_piece_can_be_cut_from_its_blank(shape: RafterShape) -> None:
    """Turned to lie along the slope, the outline fits a rectangle of the blank's length and the section's depth."""
    assume(shape.notch <= shape.depth / 2)
    c, s = math.cos(shape.angle), math.sin(shape.angle)
    along = [x * c + z * s for x, z in shape.outline()]
    across = [-x * s + z * c for x, z in shape.outline()]
    assert max(along) - min(along) == pytest.approx(shape.blank, rel=1e-9)
    assert max(across) - min(across) == pytest.approx(shape.depth, rel=1e-9)


def test_no_overhang_no_tail(plain: Project) -> None:
    short = set_roof(plain, "R1", overhang=0.0)
    rafter = of_roof(short, "rafter")[4]
    assert min(p[0] for p in rafter.solid.outline) == pytest.approx(0.0, abs=1e-9)
    checked = work_out(short)
    assert sum(checked.path.applied) == pytest.approx(sum(checked.path.soil_total), abs=1.0)


def test_turned_ridge() -> None:
    project = set_roof(house(30 * FOOT, 24 * FOOT), "R1", ridge="y")
    ridge = of_roof(project, "ridge")[0]
    assert ridge.start[0] == pytest.approx(ridge.end[0])
    assert ridge.length == pytest.approx(24 * FOOT)
    checked = work_out(project)
    assert sum(checked.path.applied) == pytest.approx(sum(checked.path.soil_total), abs=1.0)
