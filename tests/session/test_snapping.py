"""What a pointer means: corners before lines, feet of perpendiculars, locked directions, whole
steps."""

import math

import pytest

from balken.geometry.plane import Point
from balken.model.edits.others import add_background
from balken.model.project import Background, Project, TracedLayer
from balken.session.snapping import SnapField, axes, snap, snap_field, whole_steps
from balken.units import FOOT

WIDE, DEEP = 36 * FOOT, 26 * FOOT


@pytest.fixture(scope="module")
def field(demo: Project) -> SnapField:
    """What can be caught on the bakehouse's first floor."""
    return snap_field(demo, "L1")


@pytest.mark.parametrize(
    ("pointer", "place", "word"),
    [
        ((20.0, -15.0), (0.0, 0.0), "crossing"),
        ((WIDE + 5.0, DEEP - 8.0), (WIDE, DEEP), "crossing"),
        ((165.1 + 4.0, 165.1 - 3.0), (165.1, 165.1), "corner"),
        ((WIDE / 2 + 9.0, 4.0), (WIDE / 2, 0.0), "middle"),
        ((4 * FOOT + 3.0, 6.0), (4 * FOOT, 0.0), "jamb"),
    ],
)
def test_places_are_caught_with_their_word(
    field: SnapField, pointer: Point, place: Point, word: str
) -> None:
    found = snap(field, pointer, 50.0)
    assert found.point == pytest.approx(place, abs=1e-6)
    assert found.word == word


def test_nothing_near_is_where_the_pointer_is(field: SnapField) -> None:
    found = snap(field, (3000.0, 2000.0), 50.0)
    assert (found.point, found.word) == ((3000.0, 2000.0), "")


def test_lines_are_caught_by_their_foot(field: SnapField) -> None:
    found = snap(field, (2900.0, 175.0), 50.0)
    assert found.point == pytest.approx((2900.0, 165.1), abs=1e-6)
    assert found.word == "face"


def test_lines_that_cross_are_caught_where_they_do(field: SnapField) -> None:
    """A grid line over the inner face of a wall, where there is no corner."""
    found = snap(field, (40 / 3 * FOOT + 20.0, 165.1 + 20.0), 60.0)
    assert found.point == pytest.approx((40 / 3 * FOOT, 165.1), abs=1e-6)
    assert found.word == "crossing of lines"


def test_the_foot_of_a_perpendicular(field: SnapField) -> None:
    found = snap(field, (2520.0, 160.0), 50.0, anchor=(2500.0, 2000.0))
    assert found.point == pytest.approx((2500.0, 165.1), abs=1e-6)
    assert found.word.startswith("square to")


def test_nearly_straight_is_straight_and_in_whole_steps(field: SnapField) -> None:
    step = whole_steps(25.4)
    found = snap(field, (4021.0, 2090.0), 30.0, anchor=(2000.0, 2000.0), step=step)
    assert found.point[1] == pytest.approx(2000.0)
    assert (found.point[0] - 2000.0) / 25.4 == pytest.approx(
        round((found.point[0] - 2000.0) / 25.4)
    )
    assert found.word == "straight"
    free = snap(field, (3000.0, 3000.0), 30.0, anchor=(2000.0, 2000.0), step=step)
    length = math.dist(free.point, (2000.0, 2000.0))
    assert length / 25.4 == pytest.approx(round(length / 25.4))


def test_a_locked_direction_is_kept_and_takes_the_level_of_what_is_caught(field: SnapField) -> None:
    found = snap(field, (WIDE + 10.0, DEEP + 5.0), 60.0, anchor=(2000.0, 2000.0), lock=(1.0, 0.0))
    assert found.point == pytest.approx((WIDE, 2000.0), abs=1e-6)
    assert found.word == "level with crossing"
    face = snap(
        field, (WIDE - 165.1 + 20.0, 2900.0), 60.0, anchor=(2000.0, 2000.0), lock=(1.0, 0.0)
    )
    assert face.point == pytest.approx((WIDE - 165.1, 2000.0), abs=1e-6)
    back = snap(
        field,
        (1500.0, 2300.0),
        10.0,
        anchor=(2000.0, 2000.0),
        lock=(1.0, 0.0),
        step=whole_steps(100.0),
    )
    assert back.point == pytest.approx((1500.0, 2000.0))


def test_traced_lines_of_the_level_are_caught(demo: Project) -> None:
    layer = TracedLayer("A", (((3000.0, 3000.0), (5000.0, 3100.0)),))
    project = add_background(demo, Background("x", "d", (layer,), "L1"))
    assert snap(snap_field(project, "L1"), (3010.0, 3005.0), 30.0).word == "traced"
    assert snap(snap_field(project, "L2"), (3010.0, 3005.0), 30.0).word == ""
    off = add_background(demo, Background("x", "d", (TracedLayer("A", layer.lines, shown=False),)))
    assert snap(snap_field(off, "L1"), (3010.0, 3005.0), 30.0).word == ""


def test_an_empty_sheet_catches_nothing() -> None:
    from balken.model.new import empty_building

    found = snap(snap_field(empty_building("E", "us"), "L1"), (1.0, 2.0), 100.0, anchor=(0.0, 0.0))
    assert found.word == ""


def test_axes_turn_with_the_building() -> None:
    a, b, c, d = axes(math.radians(30))
    assert a == pytest.approx((math.cos(math.radians(30)), 0.5))
    assert b == pytest.approx((-0.5, math.cos(math.radians(30))))
    assert c == pytest.approx((-a[0], -a[1]))
    assert d == pytest.approx((-b[0], -b[1]))
