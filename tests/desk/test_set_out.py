"""Setting out a whole building from nothing, by mouse and keyboard, against the architect's file of
the same building."""

from collections.abc import Callable, Iterator

import pytest
from person import Person, begun_from_nothing
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from balken.exchange.ifc_in import take
from balken.model.project import Project, wall_base, wall_top
from balken.session.building import DEMO
from named import the

FEET = 304.8
OPENINGS = {
    1: (
        ("south", "window", 4, 1.5, 16, 5),
        ("south", "door", 24, 0, 3, 6.8333),
        ("south", "window", 30, 3, 3, 4),
        ("east", "window", 5, 3, 4, 4),
        ("north", "door", 8, 0, 3, 6.8333),
        ("north", "window", 18, 3, 5, 4),
        ("middle", "door", 8, 0, 3, 6.8333),
        ("middle", "door", 24, 0, 5, 6.8333),
    ),
    2: (
        ("south", "window", 4, 3, 4, 4),
        ("south", "window", 16, 3, 4, 4),
        ("south", "window", 28, 3, 4, 4),
        ("north", "window", 6, 3, 4, 4),
        ("north", "window", 22, 3, 4, 4),
        ("west", "window", 11, 3, 4, 4),
        ("middle", "door", 16, 0, 3, 6.8333),
    ),
}
"""As the invented architect drew them: wall, kind, from its start, sill, rough width and height,
feet."""
ORDER = ("south", "east", "north", "west", "middle")
ROOM = {"window": (0.5, 0.5), "door": (2.0, 2.5)}
"""Inches that a rough opening is wider and higher than what is set into it."""


@pytest.fixture
def person(qtbot: QtBot, qapp: QApplication) -> Iterator[Person]:
    yield from begun_from_nothing(qtbot, qapp, "us")


def levels(p: Person) -> None:
    p.key(Qt.Key.Key_L, Qt.KeyboardModifier.ShiftModifier)
    p.field("name", "Floor 2")
    p.field("height", "8'-9 7/8\"")
    p.w.desk.select(the("level:P1"))
    p.field("copy up by", "8'-9 7/8\"")


def grid(p: Person) -> None:
    p.w.desk.work_in(the("walls:L1"))
    p.w.plan.setFocus()
    p.key(Qt.Key.Key_U)
    p.type("13'-4\" 10'-8\" 12'")
    p.type("13'x2")
    p.type("1")
    p.type("A")
    p.key(Qt.Key.Key_Return)
    p.key(Qt.Key.Key_Return)


def walls(p: Person) -> None:
    p.key(Qt.Key.Key_W)
    p.choose("drawn as", "a rectangle")
    p.type("0", "0")
    p.point_at((5000.0, 4000.0))
    p.type("36'", "26'")
    p.choose("drawn as", "a chain")
    p.choose("built up of", '2x4 studs, 4½" (new)')
    p.choose("line marks", "core centre")
    p.type('6 1/2"', "13'")
    p.key(Qt.Key.Key_Right)
    p.type("34'-11\"")
    p.key(Qt.Key.Key_Return)
    p.key(Qt.Key.Key_Escape)


def openings(p: Person, storey: int) -> None:
    """Point at each wall and type the distance from its start."""
    p.w.desk.work_in(the(f"walls:{'L1' if storey == 1 else 'L2'}"))
    p.w.plan.setFocus()
    p.key(Qt.Key.Key_O)
    chosen = [w for w in p.w.desk.building.project.walls if w.base == p.w.desk.base]
    by_name = dict(zip(ORDER, chosen))
    for name, kind, at, sill, width, height in OPENINGS[storey]:
        p.choose("is a", kind)
        p.field("width", f'{width * 12 - ROOM[kind][0]}"')
        p.field("height", f'{height * 12 - ROOM[kind][1]:.4f}"')
        p.field("sill", f"{sill}'")
        p.w.plan.setFocus()
        item = by_name[name]
        p.point_at(((item.start[0] + item.end[0]) / 2, (item.start[1] + item.end[1]) / 2))
        p.type(f"{at}'")
        assert p.w.fit_list.said == "", p.w.fit_list.said
    p.key(Qt.Key.Key_Escape)


def shape(project: Project) -> dict[tuple[float, ...], tuple[tuple[object, ...], ...]]:
    """Return each wall by its measures in mm, with its openings in the building."""
    found = {}
    for w in project.walls:
        key = (*w.start, *w.end, w.thickness, wall_base(project, w), wall_top(project, w))
        holes = tuple(
            (o.kind, *(round(v, 1) for v in (o.at, o.width, o.height, o.sill)))
            for o in sorted(w.openings, key=lambda o: o.at)
        )
        found[tuple(round(v, 1) + 0.0 for v in key)] = holes
    return found


def test_the_bakehouse_from_nothing_is_the_bakehouse_from_its_file(person: Person) -> None:
    steps: list[Callable[[Person], None]] = [levels, grid, walls]
    for step in steps:
        step(person)
    w = person.w
    assert [x.label for x in w.desk.building.project.grids[0].lines] == [
        "1",
        "2",
        "3",
        "4",
        "A",
        "B",
        "C",
    ]
    assert len(w.desk.building.project.walls) == 5
    openings(person, 1)
    w.desk.work_in(the("walls:L1"))
    person.choose("to level", "Floor 2")
    person.choose("openings", "without")
    person.press("Copy the walls")
    assert w.desk.tier_id == the("walls:L2")
    openings(person, 2)
    drawn, read = w.desk.building.project, take(DEMO)
    assert len(drawn.walls) == len(read.walls) == 10
    mine, theirs = shape(drawn), shape(read)
    assert set(mine) == set(theirs), "every wall lies where the architect's does, within 0.1 mm"
    for key, holes in theirs.items():
        assert len(mine[key]) == len(holes)
        for a, b in zip(mine[key], holes):
            assert a[0] == b[0]
            assert a[1:] == pytest.approx(b[1:], abs=0.1)
    reach = [
        w_.start for w_ in drawn.walls if w_.side == "left" and w_.thickness == pytest.approx(165.1)
    ]
    assert len(reach) == 8
    history = [s.words for s in w.desk.building.history.done]
    first = w.desk.building.history.done[0].before
    while w.desk.building.history.done:
        w.desk.undo()
    assert w.desk.building.project == first, "as many undos as edits give the first sheet"
    assert "copy storey" in history


def test_structure_stands_on_what_was_set_out(person: Person, qtbot: QtBot) -> None:
    """What follows in the window after setting out: a foundation of usual parts, floors and a
    roof."""
    for step in (levels, grid, walls):
        step(person)
    w = person.w
    w.desk.work_in(the("walls:L1"))
    person.choose("to level", "Floor 2")
    person.press("Copy the walls")
    qtbot.keyClick(w, Qt.Key.Key_G)
    person.press("Usual sizes for the rest")
    person.press("Place it")
    for key in (Qt.Key.Key_J, Qt.Key.Key_R):
        qtbot.keyClick(w, key)
    assert (
        len(w.desk.building.project.runs),
        len(w.desk.building.project.floors),
        len(w.desk.building.project.roofs),
    ) == (1, 3, 1)
    path = w.desk.building.checked.path
    assert sum(path.soil_total) == pytest.approx(sum(path.applied), rel=1e-6)
