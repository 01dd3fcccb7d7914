"""Grids: from typed runs, called by rule, moved with all that stands on them."""

import math

import pytest

from balken.errors import BalkenError
from balken.model.edits import EditError
from balken.model.edits.grids import (
    add_line,
    label_line,
    label_row,
    move_grid,
    move_lines,
    radial_grid,
    remove_grid,
    remove_lines,
    set_grid,
    set_line,
    straight_grid,
)
from balken.model.edits.supports import (
    crossings_of,
    lose_supports,
    put_support,
    put_supports,
    set_supports,
)
from balken.model.edits.transform import move
from balken.model.grids import crossing, grid_crossings, grid_ends, grid_line, row_of
from balken.model.labels import LabelRule, labels, letters_number, letters_of, rule_from
from balken.model.new import empty_building
from balken.model.project import Project, grid
from balken.model.supports import footprint, heights, spot_of
from balken.units import LengthError, parse_angles, parse_runs
from named import the

NUMBERS, LETTERS = LabelRule("numbers"), LabelRule("letters")
HALL = "5400 7200*2 4800"
"""The ferry hall's bays, as the issue of the day types them."""


def hall(project: Project | None = None) -> Project:
    base = project or empty_building("Ferry hall", "metric")
    return straight_grid(
        base, (0.0, 0.0), 0.0, parse_runs(HALL, "metric"), (6000.0, 6000.0), NUMBERS, LETTERS
    )


@pytest.mark.parametrize(
    ("text", "system", "bays"),
    [
        (HALL, "metric", (5400, 7200, 7200, 4800)),
        ("18' 24'x2 16'", "us", (18 * 304.8, 24 * 304.8, 24 * 304.8, 16 * 304.8)),
        ("2@24' 3×16'", "us", (24 * 304.8,) * 2 + (16 * 304.8,) * 3),
        ("12'-6 1/2\" 8'", "us", (12 * 304.8 + 6.5 * 25.4, 8 * 304.8)),
        ("12' 6\" 8'", "us", (12.5 * 304.8, 8 * 304.8)),
        ("7.2m, 5,4m", "metric", (7200, 5400)),
        ("3.6m; 3600", "metric", (3600, 3600)),
        ("10 * 3", "us", (254.0,) * 3),
    ],
)
def test_typed_runs(text: str, system: str, bays: tuple[float, ...]) -> None:
    assert parse_runs(text, system) == pytest.approx(bays)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "Nothing was typed"),
        ("5400 0 4800", "Bay 2"),
        ("5400*0", "nought"),
        ("abc", "not a length"),
        ("1*501", "500"),
        ("-5", "below zero"),
    ],
)
def test_runs_that_cannot_be(text: str, words: str) -> None:
    with pytest.raises(LengthError, match=words):
        parse_runs(text, "metric")


def test_angles() -> None:
    assert parse_angles("15*6") == (15.0,) * 6
    with pytest.raises(LengthError, match="no angle"):
        parse_angles("fifteen")
    with pytest.raises(LengthError, match="between 0 and 360"):
        parse_angles("400")


def test_letters_leave_out_i_and_o() -> None:
    """ISO 4157-3 leaves out I and O (from memory)."""
    row = labels(LETTERS, 30)
    assert row[:9] == list("ABCDEFGHJ")
    assert not {"I", "O"} & set(row)
    assert row[23:26] == ["Z", "AA", "AB"]
    for n in (1, 24, 25, 600, 601):
        assert letters_number(letters_of(n)) == n
    with pytest.raises(BalkenError, match="leave out"):
        letters_number("I")


@pytest.mark.parametrize(
    ("text", "count", "row"),
    [
        ("A", 3, ["A", "B", "C"]),
        ("1", 3, ["1", "2", "3"]),
        ("P1", 3, ["P1", "P2", "P3"]),
        ("10+10", 3, ["10", "20", "30"]),
        ("A down", 3, ["C", "B", "A"]),
        ("G-A", 2, ["G-A", "G-B"]),
        ("c", 2, ["C", "D"]),
    ],
)
def test_rules(text: str, count: int, row: list[str]) -> None:
    rule = rule_from(text)
    assert isinstance(rule, LabelRule)
    assert labels(rule, count) == row


def test_typed_labels_and_what_cannot_be_a_rule() -> None:
    assert rule_from("1.A 1.B, 2") == ["1.A", "1.B", "2"]
    assert rule_from("a b down") == ["b", "a"]
    with pytest.raises(BalkenError, match="first label"):
        rule_from("  ")
    with pytest.raises(BalkenError, match="no label"):
        labels(LabelRule("letters", "O"), 2)
    with pytest.raises(BalkenError, match="below"):
        labels(LabelRule("letters", "B", -1), 5)


def test_a_grid_from_runs() -> None:
    project = hall()
    made = project.grids[0]
    assert [x.label for x in row_of(made, "y")] == ["1", "2", "3", "4", "5"]
    assert [x.offset for x in row_of(made, "y")] == [0, 5400, 12600, 19800, 24600]
    assert [x.label for x in row_of(made, "x")] == ["A", "B", "C"]
    assert len(list(grid_crossings(made))) == 15
    for line in made.lines:
        a, b = grid_ends(made, line)
        assert math.dist(a, b) == pytest.approx((24600 if line.runs == "x" else 12000) + 3000)


def test_a_turned_grid_lies_where_its_two_points_say() -> None:
    turned = straight_grid(
        empty_building("t", "metric"), (1000.0, 500.0), 30.0, (4000.0,), (3000.0,), NUMBERS, LETTERS
    )
    made = turned.grids[0]
    far = crossing(made, row_of(made, "x")[1], row_of(made, "y")[1])
    t = math.radians(30)
    assert far == pytest.approx(
        (
            1000 + 4000 * math.cos(t) - 3000 * math.sin(t),
            500 + 4000 * math.sin(t) + 3000 * math.cos(t),
        )
    )


def test_labels_are_unique_and_said_when_not() -> None:
    with pytest.raises(EditError, match="“A”"):
        straight_grid(
            empty_building("x", "metric"), (0, 0), 0, (4000.0,), (3000.0,), LETTERS, LETTERS
        )
    project = hall()
    with pytest.raises(EditError, match="called “B” already"):
        label_line(project, "G1", "A1", "B")
    with pytest.raises(EditError, match="needs a label"):
        label_line(project, "G1", "A1", "  ")
    with pytest.raises(EditError, match="4 labels were typed for 5"):
        label_row(project, "G1", "y", ["a", "b", "c", "d"])
    again = label_row(project, "G1", "y", LabelRule("numbers", "10", 10, "P"))
    assert [x.label for x in row_of(again.grids[0], "y")] == ["P10", "P20", "P30", "P40", "P50"]


def test_several_grids_in_one_building() -> None:
    two = straight_grid(
        hall(),
        (40000.0, 0.0),
        15.0,
        (6000.0,),
        (6000.0,),
        LabelRule("numbers", "21"),
        LabelRule("letters", "K"),
    )
    assert [g.id for g in two.grids] == ["G1", "G2"]
    assert len(crossings_of(two)) == 15 + 4


def test_rings_and_rays() -> None:
    project = radial_grid(
        empty_building("r", "metric"),
        (0.0, 0.0),
        0.0,
        (8000.0, 4000.0),
        (30.0,) * 3,
        LETTERS,
        NUMBERS,
    )
    made = project.grids[0]
    assert [x.offset for x in row_of(made, "ring")] == [8000, 12000]
    assert [x.offset for x in row_of(made, "ray")] == [0, 30, 60, 90]
    points = [p for _, _, p in grid_crossings(made)]
    assert len(points) == 8
    for p in points:
        assert min(abs(math.hypot(*p) - 8000), abs(math.hypot(*p) - 12000)) < 1e-6
    whole = radial_grid(
        empty_building("r", "metric"), (0, 0), 0, (5000.0,), (45.0,) * 8, LETTERS, NUMBERS
    )
    assert len(row_of(whole.grids[0], "ray")) == 8, "the last ray of a whole turn is the first"
    with pytest.raises(EditError, match="whole turn"):
        radial_grid(
            empty_building("r", "metric"), (0, 0), 0, (5000.0,), (100.0,) * 4, LETTERS, NUMBERS
        )


def test_a_line_moves_alone_with_what_stands_on_it(demo: Project) -> None:
    key = next(x.id for x in demo.grids[0].lines if x.label == "4")
    after = move_lines(demo, "G1", [key], 304.8)
    east = {w.id: w for w in after.walls if w.name.startswith("east")}
    for w in demo.walls:
        if w.id in east:
            assert east[w.id].start[0] - w.start[0] == pytest.approx(304.8)
    south = next(w for w in after.walls if w.name == "south 1")
    assert south.end[0] == pytest.approx(36 * 304.8 + 304.8), "walls that meet it stretch along"
    assert south.openings == next(w for w in demo.walls if w.name == "south 1").openings
    others = [(x.label, x.offset) for x in after.grids[0].lines if x.id != key]
    assert others == [(x.label, x.offset) for x in demo.grids[0].lines if x.id != key]


def test_supports_follow_their_crossing() -> None:
    project = put_supports(hall(), "post", crossings_of(hall()))
    assert len(project.point_supports) == 15
    line = next(x.id for x in project.grids[0].lines if x.label == "3")
    moved = move_lines(project, "G1", [line], -600.0)
    for a, b in zip(project.point_supports, moved.point_supports):
        on = line in a.lines
        p, q = spot_of(project, a), spot_of(moved, b)
        assert p is not None
        assert q is not None
        assert q[0] - p[0] == pytest.approx(-600.0 if on else 0.0)


def test_a_held_line_stays_and_lines_keep_their_order() -> None:
    project = set_line(hall(), "G1", ["N3"], held=True)
    with pytest.raises(EditError, match="Line 3 is held"):
        move_lines(project, "G1", ["N2", "N3"], 100.0)
    with pytest.raises(EditError, match="pass its neighbour"):
        move_lines(hall(), "G1", ["N2"], 8000.0)
    with pytest.raises(EditError, match="apart"):
        move_lines(hall(), "G1", ["N2"], 7200.0)
    with pytest.raises(EditError, match="one row at a time"):
        move_lines(hall(), "G1", ["N2", "A1"], 10.0)
    assert move_lines(hall(), "G1", ["N2"], 0.0) == hall()


def test_add_and_take_out_lines() -> None:
    project = put_supports(hall(), "post", crossings_of(hall()))
    more = add_line(project, "G1", "y", 9000.0)
    new = grid_line(more.grids[0], next(x.id for x in more.grids[0].lines if x.offset == 9000.0))
    assert new.label == "2.1", "called after the line beside it"
    with pytest.raises(EditError, match="lies there already"):
        add_line(more, "G1", "y", 9000.0)
    with pytest.raises(EditError, match="no lines that run"):
        add_line(more, "G1", "ray", 10.0)
    spots = {s.id: spot_of(project, s) for s in project.point_supports}
    fewer = remove_lines(project, "G1", ["N2", "N3"])
    assert len(fewer.grids[0].lines) == 6
    assert {s.id: spot_of(fewer, s) for s in fewer.point_supports} == spots, (
        "posts stay where they are, standing free"
    )
    assert remove_grid(project, "G1").grids == ()


def test_the_whole_grid_moves_without_walls(demo: Project) -> None:
    after = move_grid(demo, "G1", (100.0, 50.0))
    assert after.walls == demo.walls
    assert after.grids[0].origin == (100.0, 50.0)
    names = [the(f"grid:G1/{x.id}") for x in demo.grids[0].lines]
    assert move(demo, names, (100.0, 50.0)) == after
    with pytest.raises(EditError):
        set_grid(demo, "G1", colour="red")


def test_supports_by_all_by_lines_by_area_and_lost_the_same_way() -> None:
    project = hall()
    inner = crossings_of(project, inside=((5000, 5000), (20000, 5000), (20000, 7000), (5000, 7000)))
    assert len(inner) == 3
    on_b = crossings_of(project, lines=[the("grid:G1/A2")])
    assert len(on_b) == 5
    full = put_supports(project, "post", crossings_of(project))
    again = put_supports(full, "post", crossings_of(full))
    assert again == full, "where one stands already, that one stays"
    pads = put_supports(set_levels(full), "pad", crossings_of(full))
    assert sum(s.kind == "pad" for s in pads.point_supports) == 15
    fewer = lose_supports(pads, "post", inner)
    assert sum(s.kind == "post" for s in fewer.point_supports) == 12
    assert sum(s.kind == "pad" for s in fewer.point_supports) == 15
    assert len(lose_supports(pads, None, on_b).point_supports) == 20
    bigger = set_supports(
        pads,
        [s.id for s in pads.point_supports if (s.grid, *s.lines) in inner],
        size=(360.0, 360.0),
    )
    assert sum(s.size == (360.0, 360.0) for s in bigger.point_supports) == 6
    with pytest.raises(EditError, match="No grid lines cross"):
        put_supports(project, "post", ())
    with pytest.raises(EditError, match="stands between"):
        put_supports(project, "pad", inner)


def set_levels(project: Project) -> Project:
    from balken.model.edits import add_level

    project = add_level(project, "footing_top", "Top of footing", -1000.0)
    return add_level(project, "footing_bottom", "Bottom of footing", -1300.0)


def test_tops_tied_to_a_level_with_an_offset_and_round_ones() -> None:
    project = put_supports(
        hall(),
        "post",
        crossings_of(hall(), lines=[the("grid:G1/A1")]),
        top_offset=-150.0,
        size=(240.0, 240.0),
    )
    item = project.point_supports[0]
    low, high = heights(project, item)
    assert high - low == pytest.approx(2466.975 - 150.0, abs=30.0)
    assert high == pytest.approx(
        next(x.elevation for x in project.levels if x.id == item.top) - 150.0
    )
    free = put_support(project, "post", (100.0, 200.0), round=True)
    ring = footprint(free, free.point_supports[-1])
    assert ring is not None
    assert {round(math.dist(p, (100.0, 200.0)), 6) for p in ring} == {70.0}
    assert grid(project, "G1").string == 8.0
