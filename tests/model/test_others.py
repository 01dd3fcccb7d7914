"""Drawings of others: pairs of lines made into walls, layers shown and hidden, scaled and moved."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.geometry.plane import distance
from balken.model.edits import EditError
from balken.model.edits.others import (
    add_background,
    move_background,
    pairs_of,
    remove_background,
    remove_references,
    set_background,
    show_layer,
    walls_from_pairs,
)
from balken.model.new import empty_building
from balken.model.project import Background, Project, TracedLayer
from balken.site.bodies import storey_outline

OUTER = ((0.0, 0.0), (9000.0, 0.0), (9000.0, 6000.0), (0.0, 6000.0), (0.0, 0.0))
INNER = ((200.0, 200.0), (8800.0, 200.0), (8800.0, 5800.0), (200.0, 5800.0), (200.0, 200.0))


def traced(*lines: tuple[tuple[float, float], ...]) -> Project:
    return add_background(
        empty_building("T", "metric"), Background("x", "plan.dxf", (TracedLayer("WALLS", lines),))
    )


def test_two_rectangles_in_each_other_are_four_walls_with_closed_corners() -> None:
    project = walls_from_pairs(traced(OUTER, INNER), "U1", "L1", "P1")
    assert len(project.walls) == 4
    assert {w.thickness for w in project.walls} == {200.0}
    outline = storey_outline(project.walls)
    assert outline is not None
    assert {(round(x), round(y)) for x, y in outline} == {(round(x), round(y)) for x, y in OUTER}


def test_a_middle_wall_ends_at_the_faces_it_meets() -> None:
    middle = (((4000.0, 200.0), (4000.0, 5800.0)), ((4100.0, 200.0), (4100.0, 5800.0)))
    project = walls_from_pairs(traced(OUTER, INNER, *middle), "U1", "L1", "P1")
    thin = [w for w in project.walls if w.thickness == 100.0]
    assert len(thin) == 1
    ends = sorted((thin[0].start, thin[0].end), key=lambda p: p[1])
    assert [round(p[1]) for p in ends] == [100, 5900], (
        "carried on to the middle of the walls it meets"
    )
    assert ends[0][0] == pytest.approx(4050.0)


def test_lines_too_far_too_near_or_too_short_are_no_wall() -> None:
    far = (((0.0, 0.0), (5000.0, 0.0)), ((0.0, 700.0), (5000.0, 700.0)))
    near = (((0.0, 0.0), (5000.0, 0.0)), ((0.0, 20.0), (5000.0, 20.0)))
    short = (((0.0, 0.0), (250.0, 0.0)), ((0.0, 100.0), (250.0, 100.0)))
    square = (((0.0, 0.0), (5000.0, 0.0)), ((0.0, 100.0), (100.0, 5000.0)))
    for lines in (far, near, short, square):
        assert pairs_of(list(lines)) == []
    with pytest.raises(EditError, match="No two lines run side by side"):
        walls_from_pairs(traced(*far), "U1", "L1", "P1")


@settings(max_examples=40)
@given(
    st.floats(-1000, 1000),
    st.floats(-1000, 1000),
    st.floats(0, math.tau),
    st.floats(1000, 20000),
    st.floats(45, 450),
    st.booleans(),
)
def test_a_pair_at_any_place_and_turn(
    x: float, y: float, turn: float, length: float, apart: float, back: bool
) -> None:
    way, across = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
    a = (x, y)
    b = (x + way[0] * length, y + way[1] * length)
    c, d = ((p[0] + across[0] * apart, p[1] + across[1] * apart) for p in (a, b))
    found = pairs_of([(a, b), (d, c) if back else (c, d)])
    if length <= apart:
        return
    assert len(found) == 1
    start, end, thickness = found[0]
    assert thickness == pytest.approx(apart, abs=1e-6)
    assert distance(start, end) == pytest.approx(length, rel=1e-6)
    middle = ((a[0] + c[0]) / 2, (a[1] + c[1]) / 2)
    assert min(distance(start, middle), distance(end, middle)) < 1e-6 * length


def test_layers_levels_place_and_scale() -> None:
    project = traced(OUTER)
    hidden = show_layer(project, "U1", "WALLS", False)
    assert not hidden.backgrounds[0].layers[0].shown
    with pytest.raises(EditError):
        walls_from_pairs(hidden, "U1", "L1", "P1")
    assert set_background(project, "U1", level="L1").backgrounds[0].level == "L1"
    with pytest.raises(EditError, match="no level"):
        set_background(project, "U1", level="L9")
    big = move_background(project, "U1", (100.0, 0.0), 25.4)
    assert big.backgrounds[0].layers[0].lines[0][1] == pytest.approx((9000.0 * 25.4 + 100.0, 0.0))
    with pytest.raises(EditError, match="ten thousand"):
        move_background(project, "U1", (0.0, 0.0), 1e5)
    assert remove_background(project, "U1").backgrounds == ()
    assert remove_references(project) == project
