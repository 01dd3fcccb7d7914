"""Loads in the window: drawn by keys and mouse, typed on the slip; wind and earthquake of the site."""

import pytest
from desk_hands import choose, enter, field, press, words
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from balken.desk.window import Window
from balken.model.names import HostName
from balken.session.desk import page
from balken.units import LB, MPH, PLF, PSF
from named import the

TUB = HostName("load", "L1")


def begin(window: Window, qtbot: QtBot) -> None:
    """Take the tool Load in hand by its key, on the joists of Floor 2."""
    window.desk.work_in(the("floor:F2"))
    QApplication.processEvents()
    qtbot.keyClick(window, Qt.Key.Key_D, Qt.KeyboardModifier.ShiftModifier)
    assert window.desk.tool == "Load"


def click(window: Window, place: tuple[float, float]) -> None:
    """Click a place of the building, with nothing caught."""
    assert window.desk.run is not None
    window.desk.run.click(place)
    window.desk.after()


def test_a_point_load_is_placed_by_typed_numbers_and_changed_on_its_slip(
    window: Window, qtbot: QtBot
) -> None:
    begin(window, qtbot)
    enter(qtbot, window, "amount", "900 lb")
    assert field(window, "amount").text() == "900 lb"
    qtbot.keyClicks(window.plan, "8'")
    qtbot.keyClick(window.plan, Qt.Key.Key_Tab)
    qtbot.keyClicks(window.plan, "6'")
    qtbot.keyClick(window.plan, Qt.Key.Key_Return)
    qtbot.keyClick(window.plan, Qt.Key.Key_Escape)
    (load,) = window.desk.project.loads
    assert load.amount == pytest.approx(900 * LB)
    assert (load.level, load.case) == ("L2", "live")
    window.desk.select(TUB)
    QApplication.processEvents()
    assert "and so into the soil" in words(window)
    choose(window, "is", "dead")
    enter(qtbot, window, "amount", "1.2 kip")
    enter(qtbot, window, "called", "oven")
    (load,) = window.desk.project.loads
    assert (load.case, load.name) == ("dead", "oven")
    assert load.amount == pytest.approx(1200 * LB)
    window.plan.setFocus()
    qtbot.keyClick(window.plan, Qt.Key.Key_Delete)
    assert window.desk.project.loads == ()
    qtbot.keyClick(window.plan, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.desk.project.loads == (load,)


def test_lines_and_areas_are_drawn_by_their_places(window: Window, qtbot: QtBot) -> None:
    begin(window, qtbot)
    choose(window, "shape", "line")
    assert field(window, "amount").text() == "100 plf"
    for place in ((1000.0, 1000.0), (3000.0, 1000.0)):
        click(window, place)
    choose(window, "shape", "area")
    for place in ((1000.0, 1000.0), (3000.0, 1000.0), (3000.0, 2000.0)):
        click(window, place)
    qtbot.keyClick(window.plan, Qt.Key.Key_Return)
    shapes = [(x.shape, round(x.amount, 6)) for x in window.desk.project.loads]
    assert shapes == [("line", round(100 * PLF, 6)), ("area", round(20 * PSF, 6))]


def test_the_wind_of_the_site_is_typed_and_tells_what_it_asks(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the(f"run:{window.desk.project.runs[0].id}"))
    assert field(window, "wind speed").text() == "115 mph"
    before = window.desk.checked.path.applied.uplift
    enter(qtbot, window, "wind speed", "150 mph")
    assert window.desk.project.site.wind is not None
    assert window.desk.project.site.wind.speed == pytest.approx(150 * MPH)
    assert window.desk.checked.path.applied.uplift < before * 1.5
    choose(window, "exposure", "D")
    enter(qtbot, window, "SDS", "0.6")
    choose(window, "floors hand on", "as stiff plates")
    assert "earthquake" in words(window)
    enter(qtbot, window, "wind speed", "")
    enter(qtbot, window, "SDS", "")
    assert window.desk.project.site.wind is None
    assert window.desk.checked.sideways == ()


def test_a_wall_and_a_roof_say_what_the_wind_asks_of_them(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the("wall:W101"))
    QApplication.processEvents()
    assert "along its line" in words(window)
    choose(window, "braces", "no")
    assert "along its line" not in words(window)
    window.desk.select(the("roof:R1"))
    QApplication.processEvents()
    assert field(window, "wind lifts").text() == "by the site’s wind"
    enter(qtbot, window, "wind lifts", "32 psf")
    assert window.desk.project.roofs[0].uplift == pytest.approx(32 * PSF)
    enter(qtbot, window, "wind lifts", "")
    assert window.desk.project.roofs[0].uplift is None


def test_what_cannot_be_meant_is_refused_beside_the_field(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the(f"run:{window.desk.project.runs[0].id}"))
    for bad in ("hurricane", "-20 mph", "900 mph", "2 mph"):
        enter(qtbot, window, "wind speed", bad)
        assert window.desk.project.site.wind is not None
        assert window.desk.project.site.wind.speed == pytest.approx(115 * MPH), bad


def test_the_reserve_map_is_turned_on_and_off_by_its_key(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    qtbot.keyClick(window.plan, Qt.Key.Key_M, Qt.KeyboardModifier.ShiftModifier)
    QApplication.processEvents()
    assert "how far used" in window.board.title.text()
    assert "Reserve" in words(window)
    joist = next(
        m for m in window.desk.checked.structure.members if m.role == "joist" and m.host.key == "F2"
    )
    assert window.plan.index.of([joist.id])
    window.desk.show_view("space")
    qtbot.waitUntil(lambda: window.board.space.ready, timeout=10_000)
    assert window.board.title.text() == "Reserve in space"
    window.desk.show_view("plan")
    qtbot.keyClick(window.plan, Qt.Key.Key_M, Qt.KeyboardModifier.ShiftModifier)
    QApplication.processEvents()
    assert "how far used" not in window.board.title.text()


def test_the_calculation_book_is_looked_at_by_its_key(window: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(window.plan, Qt.Key.Key_C, Qt.KeyboardModifier.ShiftModifier)
    QApplication.processEvents()
    paper = window.board.paper
    qtbot.waitUntil(lambda: paper.sheet is not None, timeout=40_000)
    assert paper.pages[paper.page].number == "C1"
    assert paper.sheet is not None
    assert paper.sheet.title == "Contents"


def test_all_choices_of_a_floor_are_drawn_and_one_is_held_by_a_click(
    window: Window, qtbot: QtBot
) -> None:
    window.desk.select(the("floor:F2"))
    QApplication.processEvents()
    press(window, "All choices, drawn")
    QApplication.processEvents()
    assert "WHAT THE NEXT STEP BUYS" in words(window)
    choose(window, "chosen for", "fewest pieces")
    assert next(f for f in window.desk.project.floors if f.id == "F2").aim == "pieces"
    press(window, "Leave the size to the calculation")
    rows = [b for b in window.slip.findChildren(QPushButton) if "DF-L" in b.text()]
    rows[-1].click()
    QApplication.processEvents()
    held = next(f for f in window.desk.project.floors if f.id == "F2")
    assert held.section is not None
    assert held.spacing is not None


def test_variants_are_worked_out_beside_the_window_and_one_is_taken(
    window: Window, qtbot: QtBot
) -> None:
    qtbot.keyClick(window.plan, Qt.Key.Key_V, Qt.KeyboardModifier.ShiftModifier)
    qtbot.waitUntil(lambda: bool(window.desk.outcomes), timeout=120_000)
    QApplication.processEvents()
    assert "AS IT IS" in words(window)
    before = window.desk.project
    take = next(b for b in window.slip.findChildren(QPushButton) if b.text().startswith("Take it"))
    take.click()
    assert window.desk.project is not before
    qtbot.keyClick(window.plan, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.desk.project == before


def test_what_fasteners_hold_is_typed_on_their_page(window: Window, qtbot: QtBot) -> None:
    window.desk.select(page("fasteners"))
    QApplication.processEvents()
    assert "HANGERS" in words(window)
    enter(qtbot, window, "one heel holds", "400 lb")
    assert window.desk.project.fasteners[0].holds == pytest.approx(400 * LB)
    enter(qtbot, window, "one heel holds", "")
    assert window.desk.project.fasteners == ()


def test_another_kind_of_thing_is_shown_from_its_top(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the("wall:W101"))
    QApplication.processEvents()
    bar = window.slip.verticalScrollBar()
    bar.setValue(bar.maximum())
    down = bar.value()
    assert down > 0
    window.desk.select(the("wall:W103"))
    QApplication.processEvents()
    assert bar.value() > 0, "of a thing alike the same part stays in view"
    window.desk.select(the("roof:R1"))
    QApplication.processEvents()
    assert bar.value() == 0
