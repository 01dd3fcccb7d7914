"""The block module: lengths along walls, what is off, and the mend of a whole plan at once."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from balken.fit.findings import findings
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.grids import straight_grid
from balken.model.edits.openings import add_opening
from balken.model.edits.walls import WallKind, draw_walls, rectangle_of, set_walls
from balken.model.labels import LabelRule
from balken.model.masonry import SLACK, courses, kind_between, modular, nearest, off_by
from balken.model.new import empty_building
from balken.model.project import Project
from balken.model.walls import Layer, Module, Opening, wall_length
from balken.site.block_module import (
    block_walls,
    bring_onto_module,
    mend_module,
    module_lengths,
    off_heights,
    off_lengths,
    words_of,
)
from balken.site.bodies import storey_outline
from balken.works.building import work_out

UNIT = Module(200.0, 200.0, 10.0)
"""A 390 x 190 unit with a 10 mm joint, in half bond (the trade's usual one; common practice, no
source)."""


def block_room(length: float, width: float, turn: float = 0.0, by: str = "outer face") -> Project:
    project, key = add_build_up(
        empty_building("Block", "metric"), (Layer("block", 190.0, "core"),), UNIT
    )
    kind = WallKind("L1", "P1", build_up=key, by=by)  # type: ignore[arg-type]
    far = (
        length * math.cos(turn) - width * math.sin(turn),
        length * math.sin(turn) + width * math.cos(turn),
    )
    return draw_walls(project, kind, rectangle_of((0.0, 0.0), far, turn), closed=True)


def is_closed(project: Project) -> bool:
    """Whether the walls of the storey still enclose what they enclosed, corner on corner."""
    ends = [p for w in project.walls for p in (w.start, w.end)]
    return storey_outline(project.walls) is not None and all(
        sum(math.dist(p, q) < 1e-3 for q in ends) >= 2 for p in ends
    )


def test_lengths_by_the_faces_they_run_between() -> None:
    assert (kind_between(True, True), kind_between(False, False), kind_between(True, False)) == (
        "outside",
        "opening",
        "between",
    )
    assert modular(5, "outside", UNIT) == 990.0
    assert modular(5, "opening", UNIT) == 1010.0
    assert modular(5, "between", UNIT) == 1000.0
    assert nearest(1.0, "outside", UNIT) == 190.0, "at least one module"
    assert nearest(991.0, "outside", UNIT, grow=True) == 1190.0
    assert nearest(990.3, "outside", UNIT, grow=True) == 990.0, (
        "blocks are not laid closer than half a millimetre"
    )
    assert off_by(1000.0, "outside", UNIT) == 10.0
    assert courses(2601.0, UNIT) == 14


def test_a_room_on_the_module_has_nothing_off() -> None:
    project = block_room(8990.0, 5990.0)
    assert len(block_walls(project)) == 4
    assert [round(x.length) for x in module_lengths(project)] == [8990, 5990, 8990, 5990]
    assert off_lengths(project) == ()
    assert mend_module(project).moved == 0


def test_every_length_of_a_wall_with_openings_is_looked_at() -> None:
    project = block_room(8990.0, 5990.0)
    project = add_opening(project, "W1", Opening("n", "window", 990.0, 1010.0, 1000.0, 800.0))
    project = add_opening(project, "W1", Opening("n", "door", 3025.0, 1010.0, 2000.0, 0.0))
    along = [
        (x.kind, round(x.length), round(x.off)) for x in module_lengths(project) if x.wall == "W1"
    ]
    assert along == [
        ("outside", 8990, 0),
        ("opening", 1010, 0),
        ("outside", 990, 0),
        ("opening", 1010, 0),
        ("outside", 1025, 35),
        ("outside", 4955, -35),
    ]
    worst = max(off_lengths(project), key=lambda x: x.off)
    assert words_of(project, worst) == "outside length 1025 is 35 over 990"


@pytest.mark.parametrize(
    ("length", "width"), [(8930.0, 5910.0), (9050.0, 6001.0), (9000.0, 6000.0)]
)
def test_the_mend_grows_by_the_least_and_keeps_the_outline_closed(
    length: float, width: float
) -> None:
    project = block_room(length, width)
    assert off_lengths(project)
    mend = mend_module(project)
    assert mend.unsatisfied == ()
    assert off_lengths(mend.project) == ()
    assert is_closed(mend.project)
    for a, b in zip(project.walls, mend.project.walls):
        grown = wall_length(b) - wall_length(a)
        assert -SLACK <= grown < 200.0, "grow, by less than a module"
    assert mend.furthest < 200.0


def test_the_nearest_may_shrink() -> None:
    project = block_room(9000.0, 6000.0)
    near = mend_module(project, grow=False)
    assert wall_length(near.project.walls[0]) == pytest.approx(8990.0)
    assert wall_length(near.project.walls[1]) == pytest.approx(5990.0)
    assert bring_onto_module(project, grow=False) == near.project


def test_grid_lines_go_along_or_stay() -> None:
    project = block_room(8930.0, 5990.0)
    project = straight_grid(
        project, (0, 0), 0, (8930.0,), (5990.0,), LabelRule("numbers"), LabelRule("letters")
    )
    along = mend_module(project).project
    lines = {x.label: x.offset for x in along.grids[0].lines}
    walls = {w.id: w for w in along.walls}
    assert lines["2"] - lines["1"] == pytest.approx(8990.0)
    assert walls["W2"].start[0] == pytest.approx(lines["2"])
    stay = mend_module(project, grids=False).project
    assert stay.grids == project.grids


def test_inside_walls_and_openings_come_along() -> None:
    project = block_room(8990.0, 5990.0)
    key = project.wall_build_ups[0].id
    project = draw_walls(
        project,
        WallKind("L1", "P1", build_up=key, by="core centre"),
        [(4037.0, 190.0), (4037.0, 5800.0)],
    )
    project = add_opening(project, "W1", Opening("n", "window", 1033.0, 900.0, 1000.0, 800.0))
    mend = mend_module(project)
    assert mend.unsatisfied == ()
    assert off_lengths(mend.project) == ()
    hole = mend.project.walls[0].openings[0]
    assert hole.width == pytest.approx(1010.0), "an opening grows too"
    assert is_closed(replace(mend.project, walls=mend.project.walls[:4]))


def test_what_cannot_be_is_said_with_the_wall() -> None:
    project = block_room(8990.0, 5990.0)
    key = project.wall_build_ups[0].id
    kind = WallKind("L1", "P1", build_up=key)
    askew = draw_walls(project, kind, [(12000.0, 0.0), (14000.0, 1500.0)])
    said = mend_module(askew).unsatisfied
    assert any("wall 5" in text and "askew" in text for text in said) or off_lengths(askew) == ()
    curved = draw_walls(project, kind, [(12000.0, 0.0), (14000.0, 0.0)], bulges=[0.4])
    assert "wall 5 is curved" in mend_module(curved).unsatisfied


def test_heights_in_whole_courses() -> None:
    project = block_room(8990.0, 5990.0)
    over = off_heights(project)
    height = next(x.elevation for x in project.levels if x.id == "P1")
    assert {round(o, 3) for _, o in over} == {round(math.remainder(height, 200.0), 3)}
    even = set_walls(project, [w.id for w in project.walls], top_offset=2400.0 - height)
    assert off_heights(even) == []


def test_the_fit_list_says_how_much_is_off_and_offers_the_whole_plan() -> None:
    project = block_room(8930.0, 5990.0)
    found = next(f for f in findings(work_out(project)) if f.kind == "module")
    assert found.amount == pytest.approx(60.0, abs=0.1), "8930 lies between 8790 and 8990"
    assert found.mend is not None
    assert not [f for f in findings(work_out(found.mend.apply(project))) if f.kind == "module"]


@settings(max_examples=25)
@given(
    st.lists(st.integers(1200, 6000), min_size=2, max_size=4),
    st.lists(st.integers(1200, 5000), min_size=1, max_size=3),
    st.sampled_from([0.0, 0.35, -0.6]),
    st.booleans(),
)
def test_any_plan_comes_onto_the_module_or_is_told_why_not(
    xs: list[int], ys: list[int], turn: float, grow: bool
) -> None:
    """Rooms side by side, as wide and deep as chance has them, lying at any turn."""
    width, depth = float(sum(xs)) + 1000.0, float(sum(ys)) + 1000.0
    project = block_room(width, depth, turn)
    key = project.wall_build_ups[0].id
    kind = WallKind("L1", "P1", build_up=key, by="core centre")
    c, s = math.cos(turn), math.sin(turn)
    x = 0.0
    for bay in xs[:-1]:
        x += bay
        if x < width - 800.0:
            a, b = (x, 190.0), (x, depth - 190.0)
            project = draw_walls(
                project, kind, [(c * p[0] - s * p[1], s * p[0] + c * p[1]) for p in (a, b)]
            )
    mend = mend_module(project, grow=grow)
    after = mend.project
    told = " ".join(mend.unsatisfied)
    for item in off_lengths(after):
        name = next(w.name for w in after.walls if w.id == item.wall)
        assert name in told, "a length that stays off is told with its wall"
    assert is_closed(replace(after, walls=after.walls[:4])), "a closed outline stays closed"
    if grow and not mend.unsatisfied:
        for a, b in zip(project.walls[:4], after.walls[:4]):
            assert wall_length(b) >= wall_length(a) - SLACK
