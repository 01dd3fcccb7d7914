"""What is remembered, what is proposed, and what the catalogue holds."""

import msgspec
import pytest

from balken.exchange.native import to_text
from balken.model.catalogue import catalogue_of, dressed, price_per_mm, stock_length
from balken.model.edits import move_level
from balken.model.grids import grid_ends
from balken.model.new import new_building
from balken.model.project import column, level
from balken.recall import Recall
from balken.site.bodies import storey_outline, storey_walls
from balken.site.proposals import (
    bearing_walls,
    is_rectangle,
    place,
    propose_levels,
    propose_structure,
)
from balken.units import FOOT, INCH
from balken.works.building import work_out
from buildings import house
from named import the


def test_an_edit_reframes_only_what_it_touches() -> None:
    project = house(30 * FOOT, 24 * FOOT, 2)
    recall = Recall()
    before = {m.id: m for m in work_out(project, recall).structure.members}
    after = {
        m.id: m
        for m in work_out(
            move_level(project, "P2", level(project, "P2").elevation + 100), recall
        ).structure.members
    }
    same = [k for k in before if after.get(k) is before[k]]
    assert any(k.host.kind == "run" for k in same), "the foundation is the very same object"
    assert any(k.host == the("floor:F1") for k in same)
    assert not any(k.host.kind == "roof" for k in same)


@pytest.mark.parametrize(
    ("nominal", "inches"),
    [
        ((2, 4), (1.5, 3.5)),
        ((2, 8), (1.5, 7.25)),
        ((2, 12), (1.5, 11.25)),
        ((4, 6), (3.5, 5.5)),
        ((6, 8), (5.5, 7.5)),
    ],
)
def test_dressed_sizes(nominal: tuple[int, int], inches: tuple[float, float]) -> None:
    """American Softwood Lumber Standard PS 20, table 3, dry (from memory)."""
    assert dressed(nominal) == pytest.approx((inches[0] * INCH, inches[1] * INCH), abs=1e-3)


def test_stock_lengths() -> None:
    us = catalogue_of("us")
    assert stock_length(us, 12 * FOOT) == pytest.approx(12 * FOOT)
    assert stock_length(us, 12 * FOOT + 2) == pytest.approx(14 * FOOT)
    assert stock_length(us, 25 * FOOT) is None


def test_larger_and_better_lumber_costs_more() -> None:
    sections = catalogue_of("us").sections
    prices = [price_per_mm(sections[n], "No.2") for n in ("2x4", "2x6", "2x8", "2x10", "2x12")]
    assert prices == sorted(prices)
    assert price_per_mm(sections["2x10"], "SS") > price_per_mm(sections["2x10"], "No.2")


def test_proposed_levels_stand_in_their_order() -> None:
    levels = column(propose_levels(new_building("x", 36 * FOOT, 26 * FOOT, 2, "us")))
    roles = [x.role for x in levels]
    assert roles == [
        "footing_bottom",
        "footing_top",
        "ground",
        "foundation_top",
        "floor",
        "plate",
        "floor",
        "plate",
    ]


def test_proposing_twice_changes_nothing() -> None:
    once = house(36 * FOOT, 26 * FOOT, 2)
    twice, said = propose_structure(once)
    assert (to_text(twice), said) == (to_text(once), ())
    for kind in ("foundation", "floors", "roof"):
        assert place(once, kind)[0] == once  # type: ignore[arg-type]


def test_walls_that_enclose_nothing_are_said() -> None:
    open_walls = new_building("x", 9000.0, 6000.0, 1, "metric")
    cut = msgspec.structs.replace(open_walls, walls=open_walls.walls[:2])
    project, said = propose_structure(cut)
    assert (project.runs, project.floors, project.roofs) == ((), (), ())
    assert any("enclose nothing" in s for s in said)


def test_short_inside_walls_carry_no_floor() -> None:
    project = new_building("x", 36 * FOOT, 26 * FOOT, 1, "us")
    middle = project.walls[-1]
    short = msgspec.structs.replace(
        middle, id="S1", end=(middle.start[0] + 2000.0, middle.start[1])
    )
    walls = (*storey_walls(project, "L1"), short)
    outline = storey_outline(walls)
    assert outline is not None
    chosen = {w.id for w in bearing_walls(walls, outline)}
    assert middle.id in chosen
    assert "S1" not in chosen


def test_rectangles_at_any_turn() -> None:
    assert is_rectangle(((0, 0), (4, 3), (1, 7), (-3, 4)))
    assert not is_rectangle(((0, 0), (4, 0), (5, 3), (1, 3)))
    assert not is_rectangle(((0, 0), (4, 0), (4, 3)))


def test_grid_lines_turn_with_their_grid() -> None:
    grid = new_building("x", 9000.0, 6000.0, 1, "metric").grids[0]
    turned = msgspec.structs.replace(grid, origin=(100.0, 200.0), angle=90.0)
    start, end = grid_ends(turned, turned.lines[0])
    assert start == pytest.approx((100.0, 200.0 - 1500.0))
    assert end == pytest.approx((100.0, 200.0 + 10500.0))
