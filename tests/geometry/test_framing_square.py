"""The figures stamped on a framing square."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.geometry import framing_square as square

# Length of common rafter per foot of run, as stamped on framing squares (from memory, to 0.01 in).
STAMPED = {
    3: 12.37,
    4: 12.65,
    5: 13.00,
    6: 13.42,
    7: 13.89,
    8: 14.42,
    9: 15.00,
    10: 15.62,
    12: 16.97,
}
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
    """The two backing angles and the angle between the roof planes must agree: π − their sum is the
    dihedral angle."""
    normal_a, normal_b = (
        (0.0, -a, 1.0),
        (-b, 0.0, 1.0),
    )  # eaves along x for roof a, along y for roof b
    lengths = math.hypot(a, 1) * math.hypot(b, 1)
    between = math.acos(sum(p * q for p, q in zip(normal_a, normal_b)) / lengths)
    assert square.backing_angle(a, b) + square.backing_angle(b, a) == pytest.approx(
        between, abs=1e-9
    )
