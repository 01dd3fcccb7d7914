"""A second version of the architect's file: what moved, came or went, and what a person built
stays."""

import pytest
from msgspec.structs import replace

from balken.exchange.ifc_in import take
from balken.model.edits import EditError, change_member, move_level
from balken.model.edits.bring import differences
from balken.model.edits.grids import move_lines
from balken.model.edits.openings import copy_opening
from balken.model.edits.walls import move_wall, remove_walls
from balken.model.project import Project, level, wall
from balken.session.building import DEMO
from balken.units import FOOT
from named import the


@pytest.fixture(scope="module")
def architect() -> Project:
    """The file as it was read, with no structure."""
    return take(DEMO)


def said(project: Project, new: Project) -> list[tuple[str, str]]:
    return [(d.sort, d.what) for d in differences(project, new)]


def test_the_same_file_again_differs_in_nothing(demo: Project, architect: Project) -> None:
    assert differences(demo, architect) == ()


def test_moved_walls_and_lines_are_taken_and_the_structure_stays(
    demo: Project, architect: Project
) -> None:
    key = next(x.id for x in architect.grids[0].lines if x.label == "4")
    new = move_lines(architect, "G1", [key], 2 * FOOT)
    found = differences(demo, new)
    assert said(demo, new) == [
        ("moved", "grid line 4"),
        ("moved", "wall south 1"),
        ("moved", "wall east 1"),
        ("moved", "wall north 1"),
        ("moved", "wall middle 1"),
        ("moved", "wall south 2"),
        ("moved", "wall east 2"),
        ("moved", "wall north 2"),
        ("moved", "wall middle 2"),
    ]
    by_hand = change_member(demo, the("floor:F2/joist:09a"), section="2x12")
    for item in found:
        by_hand = item.take(by_hand)
    assert differences(by_hand, new) == ()
    assert by_hand.changes == change_member(demo, the("floor:F2/joist:09a"), section="2x12").changes
    assert (by_hand.runs, by_hand.floors, by_hand.roofs) == (demo.runs, demo.floors, demo.roofs)
    assert wall(by_hand, "W102").start[0] == pytest.approx(38 * FOOT)


def test_one_item_is_taken_alone(demo: Project, architect: Project) -> None:
    new = move_wall(architect, "W105", 300.0)
    first = differences(demo, new)[0]
    assert (first.sort, first.what, first.name) == ("moved", "wall middle 1", the("wall:W105"))
    after = first.take(demo)
    assert wall(after, "W105").start[1] - wall(demo, "W105").start[1] == pytest.approx(300.0)
    assert [d.what for d in differences(after, new)] == ["wall middle 2"]


def test_what_went_and_what_came(demo: Project, architect: Project) -> None:
    fewer = remove_walls(architect, ["W105"])
    gone = differences(demo, fewer)
    assert [(d.sort, d.what) for d in gone] == [("went", "wall middle 1")]
    after = gone[0].take(demo)
    assert all(w.id != "W105" for w in after.walls)
    assert "W105" not in after.floors[0].walls
    come = differences(after, architect)
    assert [(d.sort, d.what) for d in come] == [("came", "wall middle 1")]
    back = come[0].take(after)
    item = next(w for w in back.walls if w.source == wall(architect, "W105").source)
    assert (item.start, item.thickness, len(item.openings)) == (
        wall(architect, "W105").start,
        114.3,
        2,
    )
    assert differences(back, architect) == ()


def test_openings_heights_and_thickness_are_said_in_words(
    demo: Project, architect: Project
) -> None:
    more = copy_opening(architect, the("opening:W203/W203-1"), 2500.0)
    change = differences(demo, more)[0]
    assert (change.sort, change.words) == ("changed", "window 4'-0\" new")
    door, *rest = wall(architect, "W103").openings
    shifted = replace(
        architect,
        walls=tuple(
            replace(w, openings=(replace(door, at=door.at + 304.8), *rest)) if w.id == "W103" else w
            for w in architect.walls
        ),
    )
    assert [(d.what, d.words) for d in differences(demo, shifted)] == [
        ("wall north 1", 'door along by 12"')
    ]
    lower = move_level(architect, "L2", level(architect, "L2").elevation - 19.05)
    assert [(d.what, d.words) for d in differences(demo, lower)] == [
        ("level Floor 2", 'down by 3/4"')
    ], "walls follow"
    assert len(wall(change.take(demo), "W203").openings) == 3
    body = replace(
        architect.wall_build_ups[0], id="X9", layers=architect.wall_build_ups[0].layers[1:]
    )
    thin = replace(
        architect,
        wall_build_ups=(*architect.wall_build_ups, body),
        walls=tuple(
            replace(w, thickness=152.4, build_up="X9") if w.id == "W101" else w
            for w in architect.walls
        ),
    )
    slim = differences(demo, thin)[0]
    assert slim.words == '6" thick instead of 6 1/2"'
    after = slim.take(demo)
    assert wall(after, "W101").thickness == 152.4
    assert len(after.wall_build_ups) == len(demo.wall_build_ups) + 1


def test_levels_by_name(demo: Project, architect: Project) -> None:
    up = move_level(architect, "L2", level(architect, "L2").elevation + 100.0)
    found = differences(demo, up)
    assert ("moved", "level Floor 2") in [(d.sort, d.what) for d in found]
    after = found[0].take(demo)
    assert level(after, "L2").elevation == pytest.approx(level(demo, "L2").elevation + 100.0)
    attic = replace(
        architect,
        levels=(
            *architect.levels,
            replace(level(architect, "L2"), id="L9", name="Attic", elevation=5e3),
        ),
    )
    came = next(d for d in differences(demo, attic) if d.sort == "came")
    assert any(x.name == "Attic" for x in came.take(demo).levels)
    walls = tuple(
        replace(w, id="W900", source="new-guid", base="L9", top_offset=3e3) if w.id == "W201" else w
        for w in attic.walls
    )
    lonely = next(
        d
        for d in differences(demo, replace(attic, walls=walls))
        if d.what.startswith("wall") and d.sort == "came"
    )
    with pytest.raises(EditError, match="no level “Attic” here yet"):
        lonely.take(demo)
