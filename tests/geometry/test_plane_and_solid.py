"""Points, outlines and extruded bodies."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.geometry.plane import (
    crossings,
    distance_to_segment,
    meet,
    rotate,
    signed_area,
    simplify,
)
from balken.geometry.solid import hull, side_profile, upright

SQUARE = ((0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0))


def test_simplify_drops_points_on_lines_and_turns_left() -> None:
    messy = [(0.0, 10.0), (5.0, 10.0), (10.0, 10.0), (10.0, 0.0), (5.0, 0.2), (0.0, 0.0)]
    clean = simplify(messy)
    assert len(clean) == 4
    assert clean[0] == (0.0, 0.0)
    assert signed_area(clean) == pytest.approx(100.0)


def test_crossings_pair_up_inside_an_l() -> None:
    ell = ((0.0, 0.0), (10.0, 0.0), (10.0, 4.0), (4.0, 4.0), (4.0, 10.0), (0.0, 10.0))
    assert crossings(ell, 2.0) == [0.0, 10.0]
    assert crossings(ell, 7.0) == [0.0, 4.0]


def test_lines_meet_once_or_never() -> None:
    assert meet((0, 0), (1, 0), (5, -3), (0, 1)) == (5.0, 0.0)
    assert meet((0, 0), (1, 0), (5, -3), (1, 0)) is None
    assert distance_to_segment((5, 5), (0, 0), (10, 0)) == 5.0
    assert distance_to_segment((-3, 4), (0, 0), (10, 0)) == 5.0


@given(st.floats(-math.pi, math.pi), st.floats(1, 500), st.floats(1, 500))
def test_volume_does_not_depend_on_the_way_it_lies(
    angle: float, run: float, thickness: float
) -> None:
    direction = (math.cos(angle), math.sin(angle))
    body = side_profile(
        (3.0, 4.0), direction, ((0.0, 0.0), (run, 0.0), (run, 7.0), (0.0, 7.0)), thickness
    )
    assert body.volume == pytest.approx(run * 7.0 * thickness, rel=1e-9)
    low, high = body.bounds()
    assert high[2] - low[2] == pytest.approx(7.0)
    middle = ((low[0] + high[0]) / 2, (low[1] + high[1]) / 2)
    assert middle == pytest.approx(
        (3.0 + run / 2 * direction[0], 4.0 + run / 2 * direction[1]), abs=1e-6
    )


def test_upright_turns_its_outline_the_right_way() -> None:
    body = upright(SQUARE[::-1], 5.0, 8.0)
    assert body.volume == pytest.approx(300.0)
    assert signed_area(body.plan()) > 0
    assert body.bounds() == ((0.0, 0.0, 5.0), (10.0, 10.0, 8.0))


def test_hull_of_a_cloud() -> None:
    assert set(hull([*SQUARE, (5.0, 5.0), (5.0, 0.0)])) == set(SQUARE)


@given(st.floats(-10, 10), st.floats(-1e5, 1e5), st.floats(-1e5, 1e5))
def test_turning_keeps_lengths(angle: float, x: float, y: float) -> None:
    assert math.hypot(*rotate((x, y), angle)) == pytest.approx(math.hypot(x, y), abs=1e-6)
