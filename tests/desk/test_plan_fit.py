"""How a plan is brought on the board: hand-worked scales and shifts."""

import pytest

from balken.desk.plan_fit import (
    LEAST_BESIDE,
    LEAST_ROOM,
    beside_strings,
    extent_of_plan,
    fitted,
)
from balken.drawing.marks import Stroke
from balken.model.grids import Grid, GridLine


def test_a_box_fills_what_is_left_beside_it() -> None:
    """1000 by 500 mm on a board with 400 by 300 px to fill: 0.4 px a mm by its width; 200 px high, so 50 px
    lie over and under it."""
    left, right, over, under = LEAST_BESIDE
    size = (400.0 + left + right, 300.0 + over + under)
    scale, offset = fitted((100.0, 200.0, 1100.0, 700.0), size)
    assert scale == pytest.approx(0.4)
    assert offset.x() + 100.0 * scale == pytest.approx(left)
    assert offset.x() + 1100.0 * scale == pytest.approx(left + 400.0)
    assert offset.y() - 700.0 * scale == pytest.approx(over + 50.0)
    assert offset.y() - 200.0 * scale == pytest.approx(over + 250.0)


def test_a_small_board_still_shows_something() -> None:
    scale, _ = fitted((0.0, 0.0, 1000.0, 1000.0), (10.0, 10.0))
    assert scale == pytest.approx(LEAST_ROOM / 1000.0)


def test_strings_get_the_room_they_take() -> None:
    box, strings = (0.0, 0.0, 1000.0, 1000.0), (-1000.0, -10.0, 1010.0, 1010.0)
    left, right, over, under = beside_strings(box, strings, 0.2)
    assert left == pytest.approx(226.0)
    assert (right, over, under) == (LEAST_BESIDE[1], LEAST_BESIDE[2], LEAST_BESIDE[3])


def test_a_plan_reaches_to_the_crossings_of_its_grid() -> None:
    lines = (
        GridLine("A", "A", "x", 0.0, -5000.0, 9000.0),
        GridLine("B", "B", "x", 4000.0, -5000.0, 9000.0),
        GridLine("N1", "1", "y", 0.0, -5000.0, 9000.0),
        GridLine("N2", "2", "y", 6000.0, -5000.0, 9000.0),
    )
    grid = Grid("G1", (0.0, 0.0), 0.0, lines)
    assert extent_of_plan((), (grid,)) == (0.0, 0.0, 6000.0, 4000.0)
    wall = Stroke(((-200.0, 100.0), (300.0, 4300.0)), "cut")
    assert extent_of_plan((wall,), (grid,)) == (-200.0, 0.0, 6000.0, 4300.0)
    assert extent_of_plan((), ()) is None
