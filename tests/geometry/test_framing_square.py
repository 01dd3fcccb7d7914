"""The figures stamped on a framing square, and whole roofs measured another way."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.geometry import framing_square as square
from balken.geometry import roof_shapes as shapes

# Length of common rafter per foot of run, as stamped on framing squares (from memory, to 0.01 in).
STAMPED = {3: 12.37, 4: 12.65, 5: 13.00, 6: 13.42, 7: 13.89, 8: 14.42, 9: 15.00, 10: 15.62, 12: 16.97}
# Length of hip or valley per foot of common run, as stamped (from memory).
STAMPED_HIP = {4: 17.44, 5: 17.69, 6: 18.00, 8: 18.76, 12: 20.78}


@pytest.mark.parametrize(("rise", "length"), STAMPED.items())
def test_common_rafter(rise: int, length: float) -> None:
    assert square.common_length(rise / 12) == pytest.approx(length, abs=0.005)


@pytest.mark.parametrize(("rise", "length"), STAMPED_HIP.items())
def test_hip(rise: int, length: float) -> None:
    assert square.hip_length(rise / 12) == pytest.approx(length, abs=0.0055)


@given(st.floats(0.05, 3.0), st.floats(0.05, 3.0))
def test_backing_planes_meet_in_the_hip(a: float, b: float) -> None:
    """The two backing angles and the angle between the roof planes must agree: π − their sum is the dihedral angle."""
    normal_a, normal_b = (0.0, -a, 1.0), (-b, 0.0, 1.0)  # eaves along x for roof a, along y for roof b
    lengths = math.hypot(a, 1) * math.hypot(b, 1)
    between = math.acos(sum(p * q for p, q in zip(normal_a, normal_b)) / lengths)
    assert square.backing_angle(a, b) + square.backing_angle(b, a) == pytest.approx(between, abs=1e-9)


@given(st.floats(20, 80), st.floats(10, 60), st.floats(0.1, 2.0), st.floats(0.1, 2.0))
def test_hip_roof_area_by_cutting_it_up(length: float, width: float, side: float, end: float) -> None:
    """Integrate the lower of the two slopes over a grid and compare with the closed form."""
    measured = shapes.hip_on_rectangle(length, width, side, end)
    n = 220
    total = 0.0
    for i in range(n):
        x = (i + 0.5) / n * length
        for j in (0.5 / 7, 1.5 / 7, 2.5 / 7, 3.5 / 7, 4.5 / 7, 5.5 / 7, 6.5 / 7):
            y = j * width
            on_side = min(y, width - y) * side < min(x, length - x) * end
            total += math.hypot(1, side if on_side else end)
    assert total / (n * 7) * length * width == pytest.approx(measured.area, rel=0.06)


def test_gable_is_a_hip_roof_with_upright_ends() -> None:
    steep = shapes.hip_on_rectangle(40, 20, 0.5, 1e6)
    assert steep.ridges[0] == pytest.approx(40, abs=1e-3)
    assert shapes.gable(40, 20, 0.5).area == pytest.approx(40 * 20 * math.hypot(1, 0.5))
    assert shapes.gable_triangle(20, 0.5) == pytest.approx(20 * 5 / 2)


def test_an_l_whose_wing_is_as_wide_has_no_broken_hip() -> None:
    ell = shapes.hipped_l(40, 20, 20, 10, 0.5)
    assert len(ell.hips) == 5
    with pytest.raises(ValueError, match="wider"):
        shapes.hipped_l(40, 20, 24, 10, 0.5)
