"""The place is typed on the slip: the service is asked apart from the window, and what it says is taken
in or told."""

import pytest
from desk_hands import choose, enter, field
from PySide6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot

from balken.desk.window import Window
from balken.exchange.site_service import MadeUpService
from balken.units import PSF
from named import the


def foundation(window: Window) -> None:
    window.desk.select(the(f"run:{window.desk.project.runs[0].id}"))


def test_a_place_brings_its_snow_and_a_roof_follows_it(window: Window, qtbot: QtBot) -> None:
    foundation(window)
    enter(qtbot, window, "place", "High Moor")
    qtbot.waitUntil(lambda: window.desk.project.site.place == "High Moor", timeout=10_000)
    assert field(window, "ground snow").text() == "70 psf"
    roof = window.desk.project.roofs[0]
    window.desk.select(the(f"roof:{roof.id}"))
    choose(window, "snow is", "from the ground of the site")
    lies = window.desk.checked.built.roofs[0].snow
    assert lies == pytest.approx(0.7 * 70 * PSF, rel=1e-6)
    words = " ".join(x.text() for x in window.slip.findChildren(QLabel))
    assert "49 psf, ASCE 7-16 7.3, 7.4" in words
    window.desk.undo()
    assert window.desk.checked.built.roofs[0].snow == roof.snow


def test_a_service_that_fails_is_told_and_things_can_be_typed(window: Window, qtbot: QtBot) -> None:
    foundation(window)
    window.desk.site_service = MadeUpService("nothing", delay=0.05)
    before = window.desk.project
    enter(qtbot, window, "place", "High Moor")
    qtbot.waitUntil(lambda: "does not answer" in window.desk.said, timeout=10_000)
    assert window.desk.project == before
    foundation(window)
    enter(qtbot, window, "ground snow", "45 psf")
    snow = window.desk.project.site.snow
    assert snow is not None
    assert snow.ground == pytest.approx(45 * PSF)
    enter(qtbot, window, "thermal Ct", "1.1")
    enter(qtbot, window, "ground snow", "")
    assert window.desk.project.site.snow is None
