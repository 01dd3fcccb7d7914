"""Eaves that reach out over walls: planes stay where they are over the wall."""

import math

import pytest

from balken.geometry.plane import Ring
from balken.geometry.roof_eaves import over_walls
from balken.geometry.roof_front import RoofError, Side
from balken.geometry.roof_lines import measures, roof_lines
from balken.geometry.roof_planes import roof_planes

WALLS: Ring = ((0.0, 0.0), (10000.0, 0.0), (10000.0, 6000.0), (0.0, 6000.0))
PLATE = 2700.0


def test_the_ridge_does_not_rise_with_the_overhang() -> None:
    rise = Side(0.5, PLATE)
    rings, sides = over_walls([WALLS], [[rise] * 4], [[600.0] * 4])
    assert rings[0][0] == pytest.approx((-600.0, -600.0))
    assert {s.height for s in sides[0]} == {PLATE - 300.0}, "6 in 12: half of the overhang lower"
    roof = roof_planes(rings, sides)
    assert roof.top == pytest.approx(PLATE + 1500.0)
    south = next(f for f in roof.faces if f.side == 0)
    assert south.height((5000.0, 0.0)) == pytest.approx(PLATE), "over the wall as before"
    assert measures(roof).plan == pytest.approx(11200.0 * 7200.0)


def test_a_gable_carries_its_rakes_out() -> None:
    rise, gable = Side(0.5, PLATE), Side(None)
    rings, sides = over_walls([WALLS], [[rise, gable] * 2], [[600.0, 300.0] * 2])
    roof = roof_planes(rings, sides)
    ridge = next(line for line in roof_lines(roof) if line.kind == "ridge")
    assert ridge.length == pytest.approx(10600.0, abs=0.1)
    rakes = [line.length for line in roof_lines(roof) if line.kind == "rake"]
    assert rakes == pytest.approx([math.hypot(3600.0, 1800.0)] * 4, abs=0.1)


def test_unlike_overhangs_at_one_pitch_leave_the_planes_alone() -> None:
    rise = Side(0.5, PLATE)
    rings, sides = over_walls([WALLS], [[rise] * 4], [[900.0, 300.0, 300.0, 300.0]])
    roof = roof_planes(rings, sides)
    assert roof.top == pytest.approx(PLATE + 1500.0)
    eaves = sorted({round(line.start[2], 3) for line in roof_lines(roof) if line.kind == "eave"})
    assert eaves == [PLATE - 450.0, PLATE - 150.0]
    ridge = next(line for line in roof_lines(roof) if line.kind == "ridge")
    assert ridge.start[1] == pytest.approx(3000.0, abs=0.1)


def test_a_courtyards_eaves_reach_into_it() -> None:
    outer: Ring = ((0.0, 0.0), (12000.0, 0.0), (12000.0, 10000.0), (0.0, 10000.0))
    court: Ring = ((3000.0, 3000.0), (3000.0, 7000.0), (9000.0, 7000.0), (9000.0, 3000.0))
    rings, _ = over_walls([outer, court], [[Side(0.5)] * 4] * 2, [[400.0] * 4] * 2)
    assert rings[1][0] == pytest.approx((3400.0, 3400.0))


@pytest.mark.parametrize(
    ("ring", "out", "words"),
    [
        (
            ((0.0, 0.0), (5000.0, 0.0), (10000.0, 0.0), (10000.0, 6000.0), (0.0, 6000.0)),
            [300.0, 600.0, 0.0, 0.0, 0.0],
            "in one line and reach out 300 mm unlike, at 5000, 0",
        ),
        (WALLS, [-4000.0, 0.0, -4000.0, 0.0], "longer than it has room for"),
        (
            (
                (0.0, 0.0),
                (9000.0, 0.0),
                (9000.0, 8000.0),
                (5000.0, 8000.0),
                (5000.0, 4000.0),
                (4000.0, 4000.0),
                (4000.0, 8000.0),
                (0.0, 8000.0),
            ),
            [600.0] * 8,
            "longer than it has room for",
        ),
    ],
)
def test_overhangs_with_no_room_are_refused(ring: Ring, out: list[float], words: str) -> None:
    with pytest.raises(RoofError, match=words):
        over_walls([ring], [[Side(0.5)] * len(ring)], [out])
