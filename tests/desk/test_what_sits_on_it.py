"""What sits on something and what it sits on: lit on the plan and in space, named on the slip; and
picking of what lies on one another."""

import pytest
from desk_hands import Hands, words
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from balken.desk.theme import LIGHT
from balken.desk.window import Window
from balken.framing import kinds
from balken.model.names import HostName
from balken.session.building import Building
from balken.session.ferry_hall import ferry_hall
from balken.units import format_force
from named import the


@pytest.fixture
def hall(window: Window) -> Window:
    window.desk.show_building(Building(ferry_hall()))
    QApplication.processEvents()
    return window


def test_a_pad_shows_all_whose_load_ends_there(hall: Window, qtbot: QtBot) -> None:
    pad = next(
        m for m in hall.desk.checked.structure.members if m.kind is kinds.PAD and m.host.key == "P1"
    )
    hall.desk.select(pad.id)
    assert len(hall.desk.lit) > 100, "roof, gallery, beams and the post over it"
    post = next(n for n in hall.desk.lit if str(n).startswith("support:C1/post"))
    text = words(hall)
    assert "SITS ON IT" in text
    amount = format_force(hall.desk.lit[post], "metric")
    assert amount in {b.text() for b in hall.slip.findChildren(QPushButton)}
    hall.desk.show_view("space")
    qtbot.waitUntil(lambda: hall.space.ready)
    image = hall.space.grab().toImage()
    lit = QColor(LIGHT.lit)
    near = [
        1
        for x in range(0, image.width(), 5)
        for y in range(0, image.height(), 5)
        if abs(image.pixelColor(x, y).hue() - lit.hue()) < 12
        and image.pixelColor(x, y).saturation() > 60
    ]
    assert len(near) > 40


def test_a_joist_shows_its_way_to_the_soil(hall: Window) -> None:
    joist = next(m for m in hall.desk.checked.structure.members if m.kind is kinds.JOIST)
    hall.desk.select(joist.id)
    down = {hall.desk.thing(n).called(hall.desk.project, n).split()[0] for n in hall.desk.lit}
    assert {"pad", "post"} <= down
    assert "ITS WAY TO THE SOIL" in words(hall)
    assert "into the soil" in words(hall)


def test_a_wall_shows_what_sits_on_it(window: Window) -> None:
    window.desk.select(the("wall:W105"))
    over = [n for n in window.desk.lit if str(n).startswith("floor:F2/")]
    assert over
    assert "SITS ON IT" in words(window)
    window.desk.select(None)
    assert window.desk.lit == {}


def test_of_what_lies_on_one_another_a_second_click_takes_the_next(
    window: Window, qtbot: QtBot
) -> None:
    window.desk.work_in(the("run:G1"))
    QApplication.processEvents()
    at = window.plan.to_pixel((4000.0, 80.0))
    hands = Hands(qtbot, window.plan)
    hands.click(at.x(), at.y())
    first = window.desk.selection
    assert first is not None
    assert "ALSO HERE" in words(window), "the slip names both"
    hands.click(at.x(), at.y())
    second = window.desk.selection
    assert second not in (None, first)
    assert len(window.desk.stack) >= 2
    for _ in range(len(window.desk.stack) - 1):
        hands.click(at.x(), at.y())
    assert window.desk.selection == first, "and so round"
    hands.click(at.x() + 200, at.y() - 150)
    assert window.desk.stack == () or window.desk.selection in window.desk.stack


def test_the_tiers_kind_is_taken_first(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    QApplication.processEvents()
    joist = next(
        m
        for m in window.desk.checked.structure.members
        if m.kind is kinds.JOIST and m.host == HostName("floor", "F2")
    )
    end = window.plan.to_pixel((joist.start[0], joist.start[1] + 30.0))  # over the wall it lies on
    Hands(qtbot, window.plan).click(end.x(), end.y())
    chosen = window.desk.selection
    assert chosen is not None
    assert str(chosen).startswith(("floor:", "beam:", "hole:"))
