"""Openings in their walls; moving, turning, mirroring, repeating, aligning; clips between
projects."""

import math

import pytest

from balken.model.edits import EditError
from balken.model.edits.clipboard import clip_of, paste
from balken.model.edits.openings import (
    FIRST,
    ROOM,
    add_opening,
    copy_opening,
    find_opening,
    mirror_opening,
    move_opening,
    remove_openings,
    rough,
    set_opening,
)
from balken.model.edits.supports import put_support
from balken.model.edits.transform import (
    Motion,
    align_walls,
    apply,
    array_motions,
    chosen,
    copies,
    mirror_motion,
    move,
    remove,
    turned_motions,
)
from balken.model.edits.walls import WallKind, draw_walls, rectangle_of
from balken.model.new import empty_building
from balken.model.project import Project, wall
from balken.model.supports import spot_of
from balken.model.walls import Opening, reach, wall_length
from balken.units import FOOT, INCH
from named import the

DOOR = Opening("n", "door", 1000.0, 950.0, 2110.0, 0.0, (900.0, 2050.0))


def room() -> Project:
    kind = WallKind("L1", "P1", thickness=200.0)
    return draw_walls(
        empty_building("Room", "metric"),
        kind,
        rectangle_of((0.0, 0.0), (9000.0, 6000.0)),
        closed=True,
    )


@pytest.mark.parametrize(
    ("opening", "words"),
    [
        (Opening("n", "door", 8500.0, 900.0, 2000.0, 0.0), "400 past the end"),
        (Opening("n", "door", -50.0, 900.0, 2000.0, 0.0), "50 past the end"),
        (Opening("n", "window", 500.0, 900.0, 2000.0, 900.0), "above the top"),
        (Opening("n", "window", 500.0, 900.0, 1000.0, -100.0), "100 below the foot"),
        (Opening("n", "window", 1200.0, 900.0, 1000.0, 900.0), "over the door at 1000"),
    ],
)
def test_openings_that_do_not_fit_are_refused_with_the_amount(opening: Opening, words: str) -> None:
    project = add_opening(room(), "W1", DOOR)
    with pytest.raises(EditError, match=words):
        add_opening(project, "W1", opening)


def test_one_over_another_where_they_do_not_touch() -> None:
    project = add_opening(room(), "W1", Opening("n", "window", 1000.0, 900.0, 600.0, 0.0))
    both = add_opening(project, "W1", Opening("n", "window", 1000.0, 900.0, 600.0, 1200.0))
    assert len(wall(both, "W1").openings) == 2


@pytest.mark.parametrize("system", ["us", "metric"])
@pytest.mark.parametrize("kind", ["door", "window", "opening"])
def test_the_rough_opening_has_room(system: str, kind: str) -> None:
    unit = FIRST[system][kind][:2]  # type: ignore[index]
    assert rough(kind, unit, system) == pytest.approx(  # type: ignore[arg-type]
        (unit[0] + ROOM[system][kind][0], unit[1] + ROOM[system][kind][1])  # type: ignore[index]
    )


def test_a_new_door_keeps_its_middle() -> None:
    project = add_opening(room(), "W1", DOOR)
    wider = set_opening(project, the("opening:W1/W1-1"), unit=(1000.0, 2050.0))
    hole = find_opening(wider, the("opening:W1/W1-1"))[1]
    assert (hole.width, hole.at + hole.width / 2) == (1050.0, 1475.0)
    assert (
        find_opening(
            set_opening(project, the("opening:W1/W1-1"), sill=50.0), the("opening:W1/W1-1")
        )[1].sill
        == 50.0
    )
    with pytest.raises(EditError, match="no opening"):
        find_opening(project, the("opening:W1/W1-9"))
    with pytest.raises(EditError, match="no field"):
        set_opening(project, the("opening:W1/W1-1"), colour="red")


def test_move_copy_mirror_remove() -> None:
    project = add_opening(room(), "W1", DOOR)
    assert (
        find_opening(move_opening(project, the("opening:W1/W1-1"), 500.0), the("opening:W1/W1-1"))[
            1
        ].at
        == 1500.0
    )
    row = copy_opening(project, the("opening:W1/W1-1"), 1200.0, 4)
    assert [o.at for o in wall(row, "W1").openings] == [1000.0, 2200.0, 3400.0, 4600.0, 5800.0]
    assert len({o.id for o in wall(row, "W1").openings}) == 5
    other = copy_opening(project, the("opening:W1/W1-1"), 0.0, to="W3")
    assert wall(other, "W3").openings[0].at == 1000.0
    mirrored = mirror_opening(project, the("opening:W1/W1-1"))
    assert sorted(o.at for o in wall(mirrored, "W1").openings) == [1000.0, 9000.0 - 1000.0 - 950.0]
    alone = mirror_opening(project, the("opening:W1/W1-1"), 3000.0, keep=False)
    assert [o.at for o in wall(alone, "W1").openings] == [4050.0]
    assert remove_openings(row, [the("opening:W1/W1-1"), the("opening:W1/W1-3")]) != row
    assert remove_openings(project, [the("opening:W1/W1-1")]) == room()
    with pytest.raises(EditError, match="other than zero"):
        copy_opening(project, the("opening:W1/W1-1"), 0.0)
    with pytest.raises(EditError, match="1 to 200"):
        copy_opening(project, the("opening:W1/W1-1"), 10.0, 201)


def test_what_is_selected_by_kind() -> None:
    there = chosen(
        [the("wall:W1"), the("opening:W1/W1-1"), the("support:C1/post:1"), the("grid:G1/N1")]
    )
    assert (there.walls, there.supports, there.beams) == (["W1"], ["C1"], [])
    assert there.openings == [the("opening:W1/W1-1")]
    assert there.lines == [the("grid:G1/N1")]


def test_moving_stretches_what_meets_it() -> None:
    project = add_opening(room(), "W1", DOOR)
    after = move(project, [the("wall:W2")], (1000.0, 0.0))
    assert wall_length(wall(after, "W1")) == 10_000.0
    assert wall(after, "W1").openings == wall(project, "W1").openings, (
        "measured from the end that stayed"
    )
    west = move(project, [the("wall:W4")], (-500.0, 0.0))
    assert wall(west, "W1").openings[0].at == 1500.0, "in the building it stays where it is"
    assert (
        find_opening(
            move(project, [the("opening:W1/W1-1")], (300.0, 77.0)), the("opening:W1/W1-1")
        )[1].at
        == 1300.0
    )
    assert move(project, [the("wall:W1")], (0.0, 0.0)) is project
    with pytest.raises(EditError, match="can be moved"):
        move(project, [the("floor:F1")], (1.0, 0.0))
    with pytest.raises(EditError, match="no length left"):
        move(project, [the("wall:W2")], (-9000.0, 0.0))


@pytest.mark.parametrize("turn", [0.0, 0.3, math.pi / 2, 2.0])
def test_a_turn_and_back_is_nothing(turn: float) -> None:
    project = put_support(room(), "post", (1000.0, 500.0), turn=10.0)
    keys = [the(f"wall:{w.id}") for w in project.walls] + [the("support:C1/post:1")]
    there = apply(project, keys, Motion(turn=turn, centre=(300.0, -200.0)))
    back = apply(there, keys, Motion(turn=-turn, centre=(300.0, -200.0)))
    for a, b in zip(project.walls, back.walls):
        assert b.start == pytest.approx(a.start, abs=1e-5)
        assert wall_length(wall(there, a.id)) == pytest.approx(wall_length(a))
    assert spot_of(back, back.point_supports[0]) == pytest.approx((1000.0, 500.0), abs=1e-5)
    assert back.point_supports[0].turn == pytest.approx(10.0)


def test_mirrored_twice_is_where_it_was_and_the_outside_stays_outside() -> None:
    project = room()
    keys = [the(f"wall:{w.id}") for w in project.walls]
    motion = mirror_motion((1000.0, 0.0), (2000.0, 3000.0))
    once = apply(project, keys, motion)
    assert reach(wall(once, "W1")) == (0.0, -200.0), (
        "the body changes sides with the line's left and right"
    )
    twice = apply(once, keys, motion)
    for a, b in zip(project.walls, twice.walls):
        assert b.start == pytest.approx(a.start, abs=1e-5)
        assert b.side == a.side
    with pytest.raises(EditError, match="lie apart"):
        mirror_motion((1.0, 1.0), (1.0, 1.2))


def test_rows_and_rings_of_copies() -> None:
    project = put_support(room(), "post", (1000.0, 0.0))
    made, names = copies(
        project, [the("wall:W1"), the("support:C1")], array_motions((0.0, 500.0), 3)
    )
    assert len(names) == 6
    assert [w.start[1] for w in made.walls[4:]] == [500.0, 1000.0, 1500.0]
    round_, _ = copies(project, [the("support:C1")], turned_motions((0.0, 0.0), 90.0, 3))
    spots = [spot_of(round_, s) for s in round_.point_supports]
    for found, wanted in zip(spots, [(1000, 0), (0, 1000), (-1000, 0), (0, -1000)]):
        assert found == pytest.approx(wanted, abs=1e-6)
    with pytest.raises(EditError, match="other than zero"):
        array_motions((0.0, 0.0), 3)
    with pytest.raises(EditError, match="1 to 500"):
        array_motions((1.0, 1.0), 501)
    with pytest.raises(EditError, match="5000"):
        copies(project, [the("wall:W1")] * 11, array_motions((1.0, 100.0), 500))
    with pytest.raises(EditError, match="can be copied"):
        copies(project, [the("level:L1")], [Motion((1.0, 0.0))])


def test_copied_openings_have_names_of_their_own() -> None:
    project = add_opening(room(), "W1", DOOR)
    made, _ = copies(project, [the("wall:W1")], [Motion((0.0, 8000.0))])
    assert made.walls[-1].openings[0].id == f"{made.walls[-1].id}-1"
    along, _ = copies(project, [the("opening:W1/W1-1")], array_motions((1500.0, 0.0), 2))
    assert [o.at for o in wall(along, "W1").openings] == [1000.0, 2500.0, 4000.0]


@pytest.mark.parametrize(
    ("face", "at"), [("outer face", 0.0), ("inner face", 200.0), ("centre", 100.0)]
)
def test_align_brings_a_face_onto_a_line(face: str, at: float) -> None:
    after = align_walls(room(), ["W1"], (0.0, -700.0), (1.0, 0.0), face)  # type: ignore[arg-type]
    assert wall(after, "W1").start[1] == pytest.approx(-700.0 - at)
    with pytest.raises(EditError, match="does not run along"):
        align_walls(room(), ["W2"], (0.0, 0.0), (1.0, 0.0), "centre")


def test_take_away_whatever_is_selected(demo: Project) -> None:
    line = the(f"grid:G1/{demo.grids[0].lines[0].id}")
    after = remove(demo, [the("wall:W105"), the("opening:W101/W101-1"), line])
    assert len(after.walls) == 9
    assert len(wall(after, "W101").openings) == 2
    assert len(after.grids[0].lines) == 6
    with pytest.raises(EditError, match="taken away here"):
        remove(demo, [the("level:L1")])


def test_a_clip_goes_from_project_to_project(demo: Project) -> None:
    clip = clip_of(demo, (the("wall:W201"), the("wall:W202")))
    other = empty_building("Other", "us")
    made = paste(other, clip, "L1", (1000.0, 2000.0))
    assert len(made.walls) == 2
    south = made.walls[0]
    assert south.start == pytest.approx((1000.0, 2000.0))
    assert len(south.openings) == len(wall(demo, "W201").openings)
    assert [b.layers for b in made.wall_build_ups] == [
        b.layers for b in demo.wall_build_ups if b.id == south.build_up
    ]
    again = paste(made, clip, "L1", (0.0, 9000.0))
    assert len(again.wall_build_ups) == 1, "a build-up that is there already is not added twice"
    with pytest.raises(EditError, match="Nothing of what is selected"):
        clip_of(demo, (the("level:L1"),))
    top = max(other.levels, key=lambda x: x.elevation).id
    with pytest.raises(EditError, match="no level above"):
        paste(other, clip, top, (0.0, 0.0))


def test_a_clip_keeps_heights_over_the_level(demo: Project) -> None:
    project = put_support(demo, "post", (500.0, 500.0), top_offset=-6 * INCH)
    clip = clip_of(project, (the("support:C1/post:1"), the("wall:W101")))
    made = paste(empty_building("Other", "us"), clip, "L1", clip.origin)
    item = made.point_supports[0]
    levels = {x.id: x.elevation for x in made.levels}
    rise = levels[item.top] + item.top_offset - levels[item.base]
    assert rise == pytest.approx(8 * FOOT + 1.125 * INCH - 6 * INCH, abs=0.01)
