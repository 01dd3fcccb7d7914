"""How walls meet, what they enclose, and what follows when one is moved."""

import pytest
import shapely

from balken.errors import BalkenError
from balken.geometry.plane import signed_area
from balken.model.edits import EditError, copy_level, move_level, move_wall, rename_level, set_floor
from balken.model.new import new_building
from balken.model.project import Project, level, wall
from balken.model.stacked import stacked
from balken.model.walls import Wall, wall_length
from balken.site.bodies import bodies, outer_sides, storey_outline, storey_walls


def box_walls(side: str, corners: list[tuple[float, float]], t: float = 200.0) -> tuple[Wall, ...]:
    return tuple(
        Wall(f"W{i}", f"W{i}", a, b, t, side, "L1", "P1")  # type: ignore[arg-type]
        for i, (a, b) in enumerate(zip(corners, [*corners[1:], corners[0]]))
    )


CORNERS = [(0.0, 0.0), (6000.0, 0.0), (6000.0, 4000.0), (0.0, 4000.0)]


@pytest.mark.parametrize(("side", "grow"), [("left", 0.0), ("right", 200.0), ("centre", 100.0)])
def test_corners_are_mitred_and_nothing_is_counted_twice(side: str, grow: float) -> None:
    walls = box_walls(side, CORNERS)
    rings = [shapely.Polygon(b.ring) for b in bodies(walls).values()]
    whole = shapely.unary_union(rings).area
    assert sum(r.area for r in rings) == pytest.approx(whole, rel=1e-9)
    outer = (6000 + 2 * grow) * (4000 + 2 * grow)
    assert whole == pytest.approx(
        outer - (6000 + 2 * grow - 400) * (4000 + 2 * grow - 400), rel=1e-9
    )
    outline = storey_outline(walls)
    assert outline is not None
    assert signed_area(outline) == pytest.approx(outer, rel=1e-9)


def test_outer_side_is_found_whatever_way_a_wall_runs() -> None:
    walls = box_walls("left", CORNERS)
    turned = tuple(
        Wall(w.id, w.name, w.end, w.start, w.thickness, "right", w.base, w.top) if i % 2 else w
        for i, w in enumerate(walls)
    )
    assert storey_outline(turned) == storey_outline(walls)
    assert outer_sides(turned, storey_outline(turned)) == {"W0": -1, "W1": 1, "W2": -1, "W3": 1}


def test_walls_that_enclose_nothing_have_no_outline() -> None:
    assert storey_outline(box_walls("left", CORNERS)[:2]) is None
    assert storey_outline(()) is None


def test_moving_a_wall_takes_along_what_meets_and_what_stands_over_it(demo: Project) -> None:
    moved = move_wall(demo, "W103", -300.0)  # the north wall runs west; its left is south
    assert wall(moved, "W103").start[1] == pytest.approx(7924.8 + 300)
    assert wall(moved, "W203").start[1] == pytest.approx(7924.8 + 300)
    assert wall_length(wall(moved, "W102")) == pytest.approx(7924.8 + 300)
    assert wall(moved, "W105") == wall(demo, "W105")


def test_openings_stay_where_they_are_when_a_wall_grows_at_its_start(demo: Project) -> None:
    moved = move_wall(
        demo, "W104", -500.0
    )  # the west wall moves 500 mm east or west: south wall's start follows
    before, after = wall(demo, "W101"), wall(moved, "W101")
    assert before.start[0] + before.openings[0].at == pytest.approx(
        after.start[0] + after.openings[0].at
    )


def test_a_wall_cannot_be_moved_over_an_opening(demo: Project) -> None:
    with pytest.raises(EditError, match="past the end"):
        move_wall(demo, "W102", 3000.0)  # the south wall would end inside its last window


def test_stacked_walls(demo: Project) -> None:
    assert [w.id for w in stacked(demo, wall(demo, "W101"))] == ["W201"]


def test_levels_cannot_pass_through_each_other(demo: Project) -> None:
    with pytest.raises(EditError):
        move_level(demo, "P1", -5000.0)
    with pytest.raises(EditError, match="footing"):
        move_level(demo, "FT", level(demo, "TF").elevation + 10)
    assert level(move_level(demo, "L2", 3000.0), "L2").elevation == 3000.0


def test_names_and_copies_of_levels(demo: Project) -> None:
    with pytest.raises(EditError, match="called"):
        rename_level(demo, "L2", "Floor 1")
    with pytest.raises(EditError):
        rename_level(demo, "L2", "   ")
    copied = copy_level(demo, "L2", -203.2)
    new = next(x for x in copied.levels if x.id not in {y.id for y in demo.levels})
    assert (new.role, new.elevation) == (
        "floor",
        pytest.approx(level(demo, "L2").elevation - 203.2),
    )


def test_an_edit_of_nonsense_changes_nothing(demo: Project) -> None:
    with pytest.raises(EditError):
        set_floor(demo, "F1", section="9x99")
    with pytest.raises(EditError):
        set_floor(demo, "F1", colour="red")
    with pytest.raises(EditError):
        set_floor(demo, "F1", live=-1.0)


def test_new_building_refuses_what_no_house_has() -> None:
    with pytest.raises(BalkenError, match="storeys"):
        new_building("x", 10_000, 8_000, 9, "metric")
    with pytest.raises(BalkenError, match="Length"):
        new_building("x", 100, 8_000, 1, "metric")
    assert len(storey_walls(new_building("x", 10_000, 8_000, 2, "metric"), "L2")) == 5
