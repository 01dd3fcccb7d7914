"""The whole desk, driven by hand."""

import json
import sys
import threading
from collections.abc import Callable
from pathlib import Path

import pytest
from desk_hands import Hands
from msgspec.structs import replace
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QWheelEvent
from PySide6.QtWidgets import QApplication, QComboBox, QLabel, QLineEdit, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from balken.desk.slip_parts import Bars, Choices, Figure, Lines
from balken.desk.spans_panel import SpansPanel
from balken.desk.start_page import StartPage
from balken.desk.theme import LIGHT
from balken.desk.window import Window
from balken.drawing.marks import Patch
from balken.drawing.sheet_set import Page
from balken.exchange.native import load
from balken.framing import kinds
from balken.model.names import ThingName
from balken.model.project import Project, level, wall
from balken.session import acts, files, mending
from balken.session.building import DEMO, Building
from balken.session.commands import commands
from balken.session.search.offers import offers
from buildings import misfits
from named import the


def test_no_reference_to_none_is_lost_in_painting(qapp: QApplication) -> None:
    """A binding that loses a reference to None at every call that returns nothing aborts Python
    3.11 in one repaint."""
    image = QImage(50, 50, QImage.Format.Format_RGB32)
    painter = QPainter(image)
    before = sys.getrefcount(None)
    for _ in range(500):
        painter.drawRect(1, 1, 10, 10)
    painter.end()
    assert sys.getrefcount(None) > before - 50


def test_the_demo_opens_on_a_floor_with_its_finding(window: Window) -> None:
    assert window.desk.current_tier().id == the("floor:F2")
    assert "Bakehouse" in window.windowTitle()
    assert window.top.steps["Floors"].count == 1
    assert window.fit_list.rows.findings[0].kind == "gap"
    assert window.board.title.text() == "Floor 2 framing"


def test_click_a_joist_and_read_why(window: Window, qtbot: QtBot) -> None:
    joist = next(
        m
        for m in window.desk.building.checked.structure.members
        if m.id == the("floor:F2/joist:09a")
    )
    middle = ((joist.start[0] + joist.end[0]) / 2, joist.start[1] + 600)
    at = window.plan.to_pixel(middle)
    Hands(qtbot, window.plan).click(at.x(), at.y())
    assert window.desk.selection == the("floor:F2/joist:09a")
    assert window.slip.findChild(Figure) is not None
    bars = window.slip.findChild(Bars)
    assert [c.name for c in bars.checks] == [
        "Bending",
        "Shear",
        "Live deflection",
        "Total deflection",
        "Bearing",
    ]
    Hands(qtbot, bars).click(40, 10)
    steps = window.slip.findChild(Lines)
    assert steps is not None
    assert "Fb′" in steps.accessibleName()


def test_drag_a_level_and_everything_follows_then_undo(window: Window, qtbot: QtBot) -> None:
    before = window.desk.building.project
    top = max(
        m.solid.bounds()[1][2]
        for m in window.desk.building.checked.structure.members
        if m.kind is kinds.RIDGE
    )
    plate = level(before, "P2").elevation
    ladder = window.ladder
    y = ladder.y_of(plate)
    hands = Hands(qtbot, ladder)
    hands.drag((140, y), (140, y - 40))
    moved = level(window.desk.building.project, "P2").elevation
    assert moved > plate + 200
    now = max(
        m.solid.bounds()[1][2]
        for m in window.desk.building.checked.structure.members
        if m.kind is kinds.RIDGE
    )
    assert now - top == pytest.approx(moved - plate)
    assert len(window.desk.building.history.done) == 1, "one drag is one step"
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.desk.building.project == before


def test_type_a_level(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the("level:L2"))
    window.ladder.type_height("L2")
    entry = window.ladder.entry
    assert entry.isVisible()
    entry.setText("12'-14\"")
    qtbot.keyClick(entry, Qt.Key.Key_Return)
    assert entry.property("wrong") is True
    assert "below 12" in window.fit_list.said
    assert level(window.desk.building.project, "L2").elevation == pytest.approx(2689.225, abs=1e-3)
    entry.setText("9'-2 1/2\"")
    qtbot.keyClick(entry, Qt.Key.Key_Return)
    assert level(window.desk.building.project, "L2").elevation == pytest.approx(
        9 * 304.8 + 2.5 * 25.4
    )


def test_ladder_by_keyboard(window: Window, qtbot: QtBot) -> None:
    window.ladder.setFocus()
    window.desk.select(the("level:P1"))
    qtbot.keyClick(window.ladder, Qt.Key.Key_Up)
    assert window.desk.selection == the("level:L2")
    before = level(window.desk.building.project, "L2").elevation
    qtbot.keyClick(window.ladder, Qt.Key.Key_Up, Qt.KeyboardModifier.ControlModifier)
    assert level(window.desk.building.project, "L2").elevation == pytest.approx(before + 25.4)


def test_a_level_that_cannot_go_there_says_why(window: Window) -> None:
    before = window.desk.building.project
    window.drag.drag_level("FT", 5000.0, False)
    assert window.desk.building.project == before
    assert "footing" in window.fit_list.said


def wall_pixel(window: Window, key: str) -> tuple[float, float]:
    item = wall(window.desk.building.project, key)
    at = window.plan.to_pixel(
        (
            (item.start[0] * 0.35 + item.end[0] * 0.65),
            (item.start[1] * 0.35 + item.end[1] * 0.65 - 60),
        )
    )
    return at.x(), at.y()


def test_drag_a_wall_and_the_joists_follow(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("walls:L1"))
    QApplication.processEvents()
    before = window.desk.building.project
    x, y = wall_pixel(window, "W103")
    Hands(qtbot, window.plan).drag((x, y), (x, y - 20))
    after = wall(window.desk.building.project, "W103")
    assert after.start[1] > 7924.8 + 100
    floor = next(
        m for m in window.desk.building.checked.structure.members if m.kind is kinds.SUBFLOOR
    )
    assert floor.solid.bounds()[1][1] == pytest.approx(after.start[1])
    assert len(window.desk.building.history.done) == 1
    window.desk.undo()
    assert window.desk.building.project == before


def test_type_how_far_a_wall_goes(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("walls:L1"))
    QApplication.processEvents()
    x, y = wall_pixel(window, "W103")
    hands = Hands(qtbot, window.plan)
    hands.hold((x, y), (x, y - 12))
    for letter in "2'":
        qtbot.keyClicks(window.plan, letter)
    qtbot.keyClick(window.plan, Qt.Key.Key_Return)
    assert wall(window.desk.building.project, "W103").start[1] == pytest.approx(7924.8 + 609.6)


def test_escape_leaves_a_drag(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("walls:L1"))
    QApplication.processEvents()
    before = window.desk.building.project
    x, y = wall_pixel(window, "W103")
    Hands(qtbot, window.plan).hold((x, y), (x, y - 30))
    assert window.desk.building.project != before
    qtbot.keyClick(window.plan, Qt.Key.Key_Escape)
    assert window.desk.building.project == before


def test_a_mend_is_shown_before_it_is_made(window: Window, qtbot: QtBot) -> None:
    rows = window.fit_list.rows
    hands = Hands(qtbot, rows)
    before = window.desk.building.project
    hands.click(rows.width() - 50, 12)
    assert window.desk.armed == 0
    assert window.desk.building.project == before
    assert window.desk.shown.project != before, "the ladder shows it as it would be"
    assert "leaves 1 of 2" in window.desk.preview
    hands.click(rows.width() - 50, 12)
    assert misfits(window.desk.building.findings) == []
    window.desk.undo()
    assert window.desk.building.project == before


def test_escape_leaves_a_preview(window: Window, qtbot: QtBot) -> None:
    mending.mend(window.desk, 0)
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    assert window.desk.armed == -1
    assert window.desk.shown.project == window.desk.building.project


def test_look_goes_to_the_finding(window: Window) -> None:
    window.desk.work_in(the("run:G1"))
    mending.next_finding(window.desk)
    assert window.desk.tier_id == the("floor:F2")
    assert "3/4" in window.fit_list.said or "¾" in window.fit_list.said


def test_hold_another_choice_and_give_it_back(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    table = window.slip.findChild(Choices)
    row = next(
        i
        for i, c in enumerate(table.rows)
        if c.spacing == pytest.approx(304.8) and c.section == "2x8"
    )
    Hands(qtbot, table).click(60, (row + 1) * Choices.ROW + 8)
    floor = next(f for f in window.desk.building.project.floors if f.id == "F2")
    assert (floor.section, floor.spacing) == ("2x8", pytest.approx(304.8))
    box = next(b for b in window.slip.findChildren(QComboBox) if b.accessibleName() == "spacing")
    box.activated.emit(0)
    floor = next(f for f in window.desk.building.project.floors if f.id == "F2")
    assert floor.spacing is None


def test_a_field_refuses_what_it_cannot_read(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    field = next(
        e for e in window.slip.findChildren(QLineEdit) if e.accessibleName() == "live load"
    )
    field.setText("heavy")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert field.property("wrong") is True
    assert "not an area load" in window.fit_list.said
    field.setText("60 psf")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert next(
        f for f in window.desk.building.project.floors if f.id == "F2"
    ).live == pytest.approx(60 * 47.88e-6, rel=1e-3)


def test_change_one_member_only(window: Window) -> None:
    window.desk.select(the("floor:F2/joist:09a"))
    box = next(b for b in window.slip.findChildren(QComboBox) if b.accessibleName() == "section")
    box.activated.emit(box.findData("2x12"))
    assert window.desk.member().section == "2x12"
    others = [
        m
        for m in window.desk.building.checked.structure.members
        if m.kind is kinds.JOIST and m.host == the("floor:F2")
    ]
    assert sum(m.section == "2x12" for m in others) == 1
    again = next(
        b for b in window.slip.findChildren(QPushButton) if b.text() == "As calculated again"
    )
    again.click()
    assert window.desk.member().section == "2x8"


def test_take_a_joist_away(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the("floor:F2/joist:09a"))
    qtbot.keyClick(window, Qt.Key.Key_Delete)
    assert all(
        not str(m.id).startswith("floor:F2/joist:09")
        for m in window.desk.building.checked.structure.members
    )
    assert "neighbours" in window.fit_list.said


def test_take_away_and_place_again(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("roof:R1"))
    qtbot.keyClick(window, Qt.Key.Key_Delete)
    assert window.desk.building.project.roofs == ()
    assert any(c.words == "First roof" for c in commands(window.desk))
    qtbot.keyClick(window, Qt.Key.Key_R)
    assert len(window.desk.building.project.roofs) == 1
    assert window.desk.tier_id == the("roof:R1")
    rise = window.desk.building.project.roofs[0].rise
    acts.steeper(window.desk, 1.0)
    assert window.desk.building.project.roofs[0].rise == rise + 1


def test_turn_the_joists(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    qtbot.keyClick(window, Qt.Key.Key_T)
    joist = next(
        m
        for m in window.desk.building.checked.structure.members
        if m.host == the("floor:F2") and m.carrier.area > 0
    )
    assert abs(joist.start[1] - joist.end[1]) < 1e-6


def test_find_or_do(window: Window, qtbot: QtBot) -> None:
    assert offers(window.desk, "rafter 06a")[0].words.startswith("rafter R1-R06a")
    assert offers(window.desk, "joist 14")[0].words.startswith("joist F")
    assert offers(window.desk, "B/3")[0].words == "crossing B/3"
    assert offers(window.desk, "sheets")[0].words
    assert offers(window.desk, "zzzz") == []
    words = [o.words for o in offers(window.desk, "Floor 2 +8 in")]
    assert words[:2] == ['Move Floor 2 up by 8"', 'Copy Floor 2 up by 8"']
    window.top.finder.setFocus()
    qtbot.keyClicks(window.top.finder, "Floor 2 +8 in")
    qtbot.waitUntil(lambda: window.top.finder.list.isVisible())
    qtbot.keyClick(window.top.finder, Qt.Key.Key_Return)
    assert level(window.desk.building.project, "L2").elevation == pytest.approx(
        2689.225 + 203.2, abs=1e-3
    )


def test_letters_typed_in_a_field_are_no_commands(window: Window, qtbot: QtBot) -> None:
    window.top.finder.setFocus()
    qtbot.keyClicks(window.top.finder, "fm2")
    assert window.top.finder.text() == "fm2"
    assert window.desk.view == "plan"
    assert not window.desk.at_work


def test_measure(window: Window, qtbot: QtBot) -> None:
    qtbot.keyClick(window, Qt.Key.Key_M)
    assert window.desk.tool == "Measure"
    hands = Hands(qtbot, window.plan)
    a, b = window.plan.to_pixel((0.0, 0.0)), window.plan.to_pixel((10972.8, 0.0))
    hands.click(a.x() + 2, a.y() - 2)
    hands.move(b.x() - 3, b.y() + 2)
    assert window.plan.run.readout().startswith("36'-0\""), "corners are caught"
    words = [m.text for m in window.plan.run.ghost() if hasattr(m, "text")]
    assert words == ["36'-0\""]


def test_pan_zoom_fit(window: Window, qtbot: QtBot) -> None:
    place = window.plan.to_plan(window.plan.to_pixel((1234.0, 567.0)))
    assert place == pytest.approx((1234.0, 567.0))
    scale = window.plan.scale
    window.plan.zoom(2.0)
    assert window.plan.scale == pytest.approx(2 * scale)
    qtbot.keyClick(window, Qt.Key.Key_F)
    assert window.plan.scale == pytest.approx(scale)


def test_in_space_and_picking(window: Window, qtbot: QtBot) -> None:
    window.desk.show_view("space")
    qtbot.waitUntil(lambda: window.space.ready)
    window.space.grab()
    image = window.space._image
    colours = {
        image.pixelColor(x, y).name()
        for x in range(0, image.width(), 9)
        for y in range(0, image.height(), 9)
    }
    assert len(colours) > 20, "something is drawn"
    Hands(qtbot, window.space).click(window.space.width() / 2, window.space.height() / 2)
    found = window.desk.selection
    if not found:  # the middle pixel may look between two rafters
        for dx in range(-60, 60, 4):
            Hands(qtbot, window.space).click(
                window.space.width() / 2 + dx, window.space.height() / 2
            )
            found = found or window.desk.selection
    assert any(m.id == found for m in window.desk.building.checked.structure.members)
    window.space.look_from(0, 89)
    window.space.grab()
    assert window.space._image is not None


def test_paper_turns_and_shows_every_sheet(window: Window, qtbot: QtBot) -> None:
    window.desk.show_view("paper")
    qtbot.waitUntil(lambda: window.paper.sheet is not None, timeout=30_000)
    sheets = [p for p in window.paper.pages if p.number.startswith("S")]
    assert len(sheets) > 5
    assert len(window.paper.pages) > len(sheets), "and the calculation book"
    window.paper.turn(5)
    assert window.paper.page == 5
    window.paper.turn(99)
    assert window.paper.page == len(window.paper.pages) - 1
    qtbot.waitUntil(lambda: window.paper.sheet is not None, timeout=20_000)
    assert window.paper.sheet is not None
    assert window.paper.sheet.number == window.paper.pages[-1].number
    assert not window.paper.grab().isNull()


def test_what_is_clicked_on_paper_is_chosen_everywhere(window: Window, qtbot: QtBot) -> None:
    """At any zoom: a joist of a plan on its sheet."""
    window.desk.show_view("paper")
    paper = window.paper
    qtbot.waitUntil(lambda: paper.sheet is not None, timeout=30_000)
    sheets = [p.lay() for p in paper.pages if p.number.startswith("S")]
    n = next(i for i, s in enumerate(sheets) if any(v.key == "plan:floor:F1" for v in s.views))
    paper.turn(n - paper.page)
    qtbot.waitUntil(lambda: paper.sheet is not None, timeout=20_000)
    sheet = paper.sheet
    assert sheet is not None
    view = next(v for v in sheet.views if v.key == "plan:floor:F1")
    joists = [m for m in view.drawing if isinstance(m, Patch) and "joist" in str(m.key)]
    hands = Hands(qtbot, paper)

    def seen(m: Patch) -> tuple[float, float]:
        x, y = (sum(p[k] for p in m.ring) / len(m.ring) for k in (0, 1))
        corner, scale = paper._corner(sheet), paper._scale(sheet)
        on = (view.origin[0] + x / view.scale, view.origin[1] + y / view.scale)
        return corner.x() + on[0] * scale, corner.y() + (sheet.height - on[1]) * scale

    hands.click(*seen(joists[5]))
    assert window.desk.selection == joists[5].key
    before = paper._scale(sheet)
    wheel(paper, *seen(joists[9]), 480)
    assert paper._scale(sheet) > before
    hands.click(*seen(joists[9]))
    assert window.desk.selection == joists[9].key


def test_a_view_is_dragged_on_its_sheet_by_its_title(window: Window, qtbot: QtBot) -> None:
    window.desk.show_view("paper")
    paper = window.paper
    qtbot.waitUntil(lambda: paper.sheet is not None, timeout=30_000)
    paper.turn(1)
    qtbot.waitUntil(lambda: paper.sheet is not None, timeout=20_000)
    sheet = paper.sheet
    assert sheet is not None
    view = sheet.views[0]
    corner, scale = paper._corner(sheet), paper._scale(sheet)
    x = corner.x() + (view.box[0] + 20.0) * scale
    y = corner.y() + (sheet.height - view.box[1] - 6.0) * scale
    hands = Hands(qtbot, paper)
    hands.click(x, y)
    assert window.desk.selection == ThingName("view", view.key)
    assert not window.desk.project.paper.views
    hands.drag((x, y), (x + 30.0, y))
    (laid,) = window.desk.project.paper.views
    assert laid.key == view.key
    assert laid.by[0] == pytest.approx(30.0 / scale, abs=1.5 / scale)
    window.desk.undo()
    assert not window.desk.project.paper.views


def wheel(widget: QWidget, x: float, y: float, by: int) -> None:
    at = QPointF(x, y)
    event = QWheelEvent(
        at,
        widget.mapToGlobal(at),
        QPoint(0, 0),
        QPoint(0, by),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(widget, event)


def test_steps_in_the_paper_view_lay_the_last_of_them(
    window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Steps that come faster than sheets are laid leave out what is no longer so; what was there stays to be
    looked at."""
    window.desk.show_view("paper")
    qtbot.waitUntil(lambda: window.paper.sheet is not None, timeout=30_000)
    made: list[str] = []
    edited = threading.Event()
    asked = window.paper.show_set

    def counted(make: Callable[[], tuple[Page, ...]]) -> None:
        name = window.desk.building.project.name

        def slow() -> tuple[Page, ...]:
            made.append(name)
            edited.wait(20.0)
            return make()

        asked(slow)

    monkeypatch.setattr(window.paper, "show_set", counted)
    for _ in range(6):
        window.desk.edit("name it", lambda p: replace(p, name=p.name + "."))
    edited.set()
    assert window.paper.sheet is None
    assert window.paper.before is not None
    qtbot.waitUntil(lambda: window.paper.sheet is not None, timeout=60_000)
    assert len(made) <= 2, "the one under way, and the last"
    assert window.paper.sheet is not None
    assert any(
        getattr(m, "text", "") == window.desk.building.project.name[:26]
        for m in window.paper.sheet.block
    )


def test_light_and_dark(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the("floor:F2/joist:09a"))
    qtbot.keyClick(window, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    QApplication.processEvents()
    assert window.theme.name == "dark"
    image = window.grab().toImage()
    assert QColor(image.pixel(10, 400)).lightness() < 80
    assert window.desk.selection == the("floor:F2/joist:09a")


def test_save_close_open_same_building(window: Window, tmp_path: Path, qtbot: QtBot) -> None:
    window.drag.drag_level("L2", 2800.0, False)
    path = tmp_path / "b.balken"
    assert files.save_to(window.desk, path)
    assert "saved" in window.top.state.text()
    assert replace(load(path), identity="") == window.desk.building.project
    kept = window.desk.building.project
    files.open_demo(window.desk)
    qtbot.waitUntil(lambda: window.desk.building.project != kept, timeout=60_000)
    files.open_path(window.desk, path)
    qtbot.waitUntil(lambda: window.desk.building.project == kept, timeout=60_000)


def test_a_bad_file_changes_nothing_that_is_open(
    window: Window, tmp_path: Path, qtbot: QtBot
) -> None:
    before = window.desk.building.project
    bad = tmp_path / "picture.balken"
    bad.write_bytes(b"\x89PNG....")
    files.open_path(window.desk, bad)
    qtbot.waitUntil(lambda: "no Balken project" in window.fit_list.said, timeout=60_000)
    assert window.desk.building.project is before


def test_an_architects_file_opens_in_the_window(window: Window, qtbot: QtBot) -> None:
    files.open_path(window.desk, DEMO)
    qtbot.waitUntil(
        lambda: window.desk.building.path is None and len(window.desk.building.project.walls) == 10,
        timeout=60_000,
    )
    assert window.desk.building.project.floors


def test_what_an_architects_file_keeps_back_is_listed(
    window: Window, tmp_path: Path, qtbot: QtBot
) -> None:
    from architect import Architect, box

    a = Architect()
    storey = a.storey("Floor 1", 0.0)
    box(a, storey)
    a.make("IfcDoor", Name="loose", ObjectPlacement=a.place(storey, 0, 0, (1, 0)))
    path = tmp_path / "a.ifc"
    path.write_text(a.f.to_string())
    files.open_path(window.desk, path)
    qtbot.waitUntil(lambda: window.desk.selection == the("page:unread"), timeout=20_000)
    words = [label.text() for label in window.slip.findChildren(QLabel)]
    assert "Not read" in words
    assert any("fills no opening" in w for w in words)


def test_reading_can_be_left(window: Window, qtbot: QtBot) -> None:
    before = window.desk.building
    files.open_path(window.desk, DEMO)
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    qtbot.wait(1500)
    assert window.desk.building is before


def test_issue_from_the_window(window: Window, tmp_path: Path, qtbot: QtBot) -> None:
    files.issue_to(window.desk, tmp_path / "out")
    qtbot.waitUntil(lambda: window.fit_list.said.startswith("Written"), timeout=30_000)
    written = {path.name for path in (tmp_path / "out").iterdir()}
    manifest = next(name for name in written if name.endswith("-manifest.json"))
    told = json.loads((tmp_path / "out" / manifest).read_text())
    assert {row["name"] for row in told["files"]} | {manifest} == written


def test_unsaved_work_is_asked_about(window: Window, qtbot: QtBot) -> None:
    window.drag.drag_level("L2", 2800.0, False)
    window.close()
    assert window.isVisible()
    assert window.line.isVisible()
    stay = next(b for b in window.line.findChildren(QPushButton) if b.text() == "Stay")
    stay.click()
    assert window.isVisible()


def test_quick_spans_panel(window: Window, qtbot: QtBot) -> None:
    window.panel("spans")
    panel = window.over
    assert isinstance(panel, SpansPanel)
    assert panel.answer.text() == "15'-7¼\""
    assert "R502.3.1(2)" in panel.beside.text()
    panel.spacing.setText("abc")
    panel.work()
    assert "not a length" in panel.message.text()
    panel.spacing.setText("12")
    panel.member.setCurrentIndex(2)
    panel._member_changed()
    assert panel.live.text() == "20 psf"
    assert "R802.4.1(1)" in panel.beside.text()
    panel.snow.setText("30")
    panel.live.setText("")
    panel.work()
    assert "R802.4.1(3)" in panel.beside.text()
    qtbot.keyClick(panel, Qt.Key.Key_Escape)
    assert window.over is None


def test_every_control_has_a_name_for_assistive_tools(window: Window) -> None:
    window.desk.select(the("floor:F2/joist:09a"))
    for widget in (*window.findChildren(QLineEdit), *window.findChildren(QComboBox)):
        if widget.isVisible():
            assert widget.accessibleName(), widget
    for view in (
        window.plan,
        window.space,
        window.paper,
        window.ladder,
        window.fit_list.rows,
        window.slip,
    ):
        assert view.accessibleName()


def test_first_start(qtbot: QtBot, tmp_path: Path) -> None:
    begun: list[Building] = []
    page = StartPage(LIGHT, begun.append)
    qtbot.addWidget(page)
    page.show()
    page.length.setText("long")
    page._make()
    assert "not a length" in page.message.text()
    page.length.setText("30'")
    page._make()
    project: Project = begun[0].project
    assert len(project.walls) == 10
    assert project.roofs
    bad = tmp_path / "x.ifc"
    bad.write_bytes(b"")
    page.open_path(bad)
    qtbot.waitUntil(lambda: "empty" in page.message.text(), timeout=10_000)


def test_metric_building_in_the_window(qtbot: QtBot) -> None:
    from buildings import house

    w = Window(Building(house(11_000, 8_000, 2, "metric")))
    qtbot.addWidget(w)
    w.show()
    for tier in list(w.desk.tiers):
        w.desk.work_in(tier.id)
        assert not w.grab().isNull()
    w._closing = True


def test_escape_on_the_board_leaves_tool_preview_and_selection(
    window: Window, qtbot: QtBot
) -> None:
    window.plan.setFocus()
    window.desk.start("Measure")
    qtbot.keyClick(window.plan, Qt.Key.Key_Escape)
    assert not window.desk.at_work
    mending.mend(window.desk, 0)
    qtbot.keyClick(window.plan, Qt.Key.Key_Escape)
    assert window.desk.shown.project == window.desk.building.project
    mending.mend(window.desk, 0)
    qtbot.keyClick(window.fit_list.rows, Qt.Key.Key_Escape)
    assert (window.desk.armed, window.desk.shown.project) == (
        -1,
        window.desk.building.project,
    )
    window.desk.select(the("floor:F2/joist:09a"))
    qtbot.keyClick(window.plan, Qt.Key.Key_Escape)
    assert window.desk.selection is None


def test_a_preview_is_left_by_looking_elsewhere(window: Window) -> None:
    """Else the next click on the same word would make an edit that nobody sees any more."""
    mending.mend(window.desk, 0)
    window.desk.work_in(the("run:G1"))
    assert window.desk.armed == -1
    mending.mend(window.desk, 0)
    assert window.desk.armed == 0
    assert window.desk.building.history.done == ()


def test_a_half_typed_distance_is_dropped_by_the_next_press(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("walls:L1"))
    QApplication.processEvents()
    before = window.desk.building.project
    x, y = wall_pixel(window, "W103")
    hands = Hands(qtbot, window.plan)
    hands.hold((x, y), (x, y - 12))
    qtbot.keyClicks(window.plan, "2")
    hands.click(5, 5)
    assert window.desk.building.project == before
    assert window.desk.building.history.done == ()
    x, y = wall_pixel(window, "W101")
    hands.drag((x, y + 3), (x, y + 23))
    assert wall(window.desk.building.project, "W103") == wall(before, "W103"), (
        "the first wall stays where it was"
    )


def test_wrong_distance_while_dragging_is_refused_where_it_is_typed(
    window: Window, qtbot: QtBot
) -> None:
    window.desk.work_in(the("walls:L1"))
    QApplication.processEvents()
    before = window.desk.building.project
    x, y = wall_pixel(window, "W103")
    Hands(qtbot, window.plan).hold((x, y), (x, y - 12))
    qtbot.keyClicks(window.plan, "2'-14")
    qtbot.keyClick(window.plan, Qt.Key.Key_Return)
    assert "below 12" in window.fit_list.said
    qtbot.keyClick(window.plan, Qt.Key.Key_Escape)
    assert window.desk.building.project == before


def test_arrows_turn_the_sheets_as_soon_as_they_are_shown(window: Window, qtbot: QtBot) -> None:
    window.board.view_words["paper"].click()
    assert window.board.stack.currentWidget() is window.paper
    qtbot.waitUntil(lambda: bool(window.paper.pages), timeout=30_000)
    qtbot.keyClick(window.focusWidget() or window.paper, Qt.Key.Key_Right)
    assert window.paper.page == 1


@pytest.mark.parametrize(
    ("tier", "name", "typed", "words"),
    [
        (the("roof:R1"), "pitch", "steep", "is no pitch"),
        (the("roof:R1"), "pitch", "99", "This rise is too large: at most 60."),
        (the("roof:R1"), "overhang", "-3", "below zero"),
        (the("run:G1"), "footing width", "0", "its footing has no width"),
        (the("run:G1"), "stem thickness", "abc", "not a length"),
        (the("run:G1"), "soil bearing", "0", "bears nothing"),
        (the("floor:F1"), "live load", "9999999", "more than"),
    ],
)
def test_fields_refuse_wrong_input(
    window: Window, qtbot: QtBot, tier: str, name: str, typed: str, words: str
) -> None:
    window.desk.work_in(tier)
    before = window.desk.building.project
    field = next(e for e in window.slip.findChildren(QLineEdit) if e.accessibleName() == name)
    field.setText(typed)
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert words in window.fit_list.said
    assert field.property("wrong") is True
    assert window.desk.building.project == before


def test_level_names_and_copies_by_hand(window: Window, qtbot: QtBot) -> None:
    def field(name: str) -> QLineEdit:
        return next(e for e in window.slip.findChildren(QLineEdit) if e.accessibleName() == name)

    window.desk.select(the("level:L2"))
    field("name").setText("Floor 1")
    qtbot.keyClick(field("name"), Qt.Key.Key_Return)
    assert "called" in window.fit_list.said
    field("name").setText("Loft")
    qtbot.keyClick(field("name"), Qt.Key.Key_Return)
    assert level(window.desk.building.project, "L2").name == "Loft"
    field("copy up by").setText('-8"')
    qtbot.keyClick(field("copy up by"), Qt.Key.Key_Return)
    assert any(x.name == "Loft 2" for x in window.desk.building.project.levels)
