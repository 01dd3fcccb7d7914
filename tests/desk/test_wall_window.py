"""The framing of a wall in the window: pieces chosen, dragged, set and taken away by mouse and key."""

from functools import partial

import pytest
from desk_hands import Hands
from PySide6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from balken.desk.window import Window
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import Point
from balken.model.edits.openings import add_opening
from balken.model.edits.wall_frames import rule_studs_of
from balken.model.names import HostName, ThingName
from balken.model.walls import Opening
from balken.session.building import Building
from balken.session.rows import Field
from balken.session.slips import rows_of
from balken.units import FOOT, INCH
from buildings import house

HOLE = Opening("O1", "window", 10 * FOOT, 36 * INCH, 48 * INCH, 36 * INCH)


@pytest.fixture
def shown(qtbot: QtBot) -> Window:
    """A plain house whose first wall, with a window in it, is looked at."""
    project = house()
    key = project.walls[0].id
    window = Window(Building(add_opening(project, key, HOLE)))
    qtbot.addWidget(window)
    window.resize(1280, 800)
    window.show()
    qtbot.keyClick(window, Qt.Key.Key_T, Qt.KeyboardModifier.ShiftModifier)
    window.desk.select(HostName("wall", key))
    window.desk.show_view("upright")
    window.upright.show_word("wall")
    window.desk.refresh()
    return window


def studs(window: Window) -> list[Member]:
    assert window.upright.wall is not None
    return window.desk.checked.structure.in_host(window.upright.wall, kinds.WALL_STUD)


def middle(window: Window, m: Member) -> Point:
    """Where a stud stands on the screen, a little over its middle."""
    x = m.start[0] - window.desk.project.walls[0].start[0]
    z = m.start[2] + 0.55 * (m.end[2] - m.start[2])
    seen = window.upright._to_pixel((x, z))
    return seen.x(), seen.y()


def stud(window: Window, row: str) -> Member:
    return next(m for m in studs(window) if m.id.row == row and not m.id.piece)


def test_a_stud_is_dragged_along_its_wall(window_of_wall: Window, qtbot: QtBot) -> None:
    window = window_of_wall
    hands = Hands(qtbot, window.upright)
    before = stud(window, "03")
    x, y = middle(window, before)
    far = 5 * INCH * window.upright.scale
    hands.drag((x, y), (x + far, y))
    assert stud(window, "03").start == before.start, "what is not chosen is not dragged"
    window.upright.fit()
    x, y = middle(window, before)
    hands.click(x, y)
    assert window.desk.selection == before.id
    hands.drag((x, y), (x + far, y))
    after = stud(window, "03")
    assert after.start[0] - before.start[0] == pytest.approx(5 * INCH, abs=1.2 * INCH)
    assert after.touched
    assert {m.start[2] for m in studs(window)} == {before.start[2]}
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert stud(window, "03").start == before.start


def test_an_opening_is_dragged_along_and_up(window_of_wall: Window, qtbot: QtBot) -> None:
    window = window_of_wall
    item = window.desk.project.walls[0]
    foot = studs(window)[0].start[2]
    at = window.upright._to_pixel((HOLE.at + HOLE.width / 2 + 40.0, foot + HOLE.sill + 300.0))
    hands = Hands(qtbot, window.upright)
    hands.click(at.x(), at.y())
    assert window.desk.selection == ThingName(
        "opening", item.id, window.desk.project.walls[0].openings[0].id
    )
    far = 2 * FOOT * window.upright.scale
    hands.drag((at.x(), at.y()), (at.x() + far, at.y()))
    (hole,) = window.desk.project.walls[0].openings
    assert hole.at - HOLE.at == pytest.approx(2 * FOOT, abs=INCH)
    assert hole.sill == HOLE.sill
    hands.drag((at.x() + far, at.y()), (at.x() + far, at.y() - far / 3))
    (hole,) = window.desk.project.walls[0].openings
    assert hole.sill - HOLE.sill == pytest.approx(8 * INCH, abs=INCH + 1 / window.upright.scale)


def plates(window: Window) -> list[Member]:
    """The pieces of the bottom plate, from the wall's start."""
    assert window.upright.wall is not None
    found = window.desk.checked.structure.in_host(window.upright.wall, kinds.BOTTOM_PLATE)
    return sorted(found, key=lambda m: m.start[0])


def test_the_joint_of_a_plate_is_typed_and_stays(window_of_wall: Window, qtbot: QtBot) -> None:
    """A wall of 36 ft has its plate in three pieces; the first joint is typed to 13 ft, and stays there when
    the layout of the studs changes."""
    window = window_of_wall
    first, second, last = plates(window)
    window.desk.select(first.id)
    row = next(
        r for r in rows_of(window.desk) if isinstance(r, Field) and r.name.startswith("joint")
    )
    row.typed("13'")
    first, second, last = plates(window)
    assert first.end[0] - window.desk.project.walls[0].start[0] == pytest.approx(13 * FOOT)
    assert second.start == first.end
    assert first.touched
    window.desk.select(last.id)
    names = [r.name for r in rows_of(window.desk) if isinstance(r, Field)]
    assert not [n for n in names if n.startswith("joint")], "nothing is joined to the last piece"
    key = window.desk.project.walls[0].id
    window.desk.edit("spacing", partial(rule_studs_of, keys=[key], spacing=24 * INCH))
    assert plates(window)[0].end[0] - window.desk.project.walls[0].start[0] > 12 * FOOT


def test_a_stud_is_set_by_a_double_click_and_taken_away(
    window_of_wall: Window, qtbot: QtBot
) -> None:
    window = window_of_wall
    count = len(studs(window))
    x, y = middle(window, stud(window, "02"))
    spot = QPoint(round(x + 8 * INCH * window.upright.scale), round(y))
    qtbot.mouseDClick(window.upright, Qt.MouseButton.LeftButton, pos=spot)
    assert len(studs(window)) == count + 1
    (new,) = [m for m in studs(window) if m.id.row.startswith("+")]
    window.desk.select(new.id)
    qtbot.keyClick(window, Qt.Key.Key_Delete)
    assert len(studs(window)) == count


@pytest.fixture
def window_of_wall(shown: Window) -> Window:
    window = shown
    assert window.desk.project.walls[0].start[1] == pytest.approx(
        window.desk.project.walls[0].end[1]
    )
    return window
