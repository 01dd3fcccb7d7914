"""Roofs in the window: hip to gable by one key, eaves and skylights dragged, tools, slips, trusses
drawn."""

from itertools import pairwise

import pytest
from desk_hands import Hands, choose, enter, press, words
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from balken.desk.truss_view import TrussFigure
from balken.desk.window import Window
from balken.drawing.figure import figure
from balken.drawing.marks import Label
from balken.framing import kinds
from balken.framing.member import Member
from balken.model.names import family_of, wall_key
from balken.session import files
from balken.session.building import Building
from balken.session.commands import commands
from balken.session.demo import shown_demo
from balken.units import INCH
from balken.works.building import checks_of
from buildings import walled
from named import the
from roof_forms import TEE


@pytest.fixture
def roofed(window: Window) -> Window:
    files.show_building(window.desk, Building(shown_demo()))
    window.desk.work_in(the("roof:R1"))
    QApplication.processEvents()
    return window


def of(w: Window, role: str, host: str = the("roof:R1")) -> list[Member]:
    return [m for m in w.desk.building.checked.structure.of(kinds.KINDS[role]) if m.host == host]


def buttons(w: Window) -> list[str]:
    return [b.text() for b in w.slip.findChildren(QPushButton)]


def side(w: Window, name: str) -> str:
    return next((s.kind for s in w.desk.building.project.roofs[0].sides if s.side == name), "slope")


def test_a_hip_becomes_a_gable_by_one_key_and_comes_back(roofed: Window, qtbot: QtBot) -> None:
    before = roofed.desk.building.project
    roofed.desk.select(the("side:R1/W202"))
    assert "Turn into a gable" in buttons(roofed)
    qtbot.keyClick(roofed, Qt.Key.Key_Y)
    assert side(roofed, "W202") == "gable"
    assert of(roofed, "hip") == []
    assert len(of(roofed, "barge rafter")) == 4
    assert "Turn into a hip" in buttons(roofed)
    press(roofed, "Turn into a hip")
    assert roofed.desk.building.project == before
    assert len(of(roofed, "hip")) == 2


def test_an_eave_is_dragged_out_and_taken_back_as_one_step(roofed: Window, qtbot: QtBot) -> None:
    plan = roofed.plan
    edge = next(
        e
        for e in roofed.desk.building.checked.structure.roofs[the("roof:R1")].edges
        if e.name == "W201"
    )
    out = edge.out
    spot = ((edge.a[0] * 3 + edge.b[0]) / 4 + 100, edge.a[1] - out * 0.7)
    a = plan.to_pixel(spot)
    b = plan.to_pixel((spot[0], spot[1] - 300.0))
    Hands(qtbot, plan).drag((a.x(), a.y()), (b.x(), b.y()))
    made = next(
        e
        for e in roofed.desk.building.checked.structure.roofs[the("roof:R1")].edges
        if e.name == "W201"
    )
    assert made.out == pytest.approx(out + 300.0, abs=40.0)
    tails = [m for m in of(roofed, "rafter") if "/rafter:W201." in str(m.id)]
    assert min(m.start[1] for m in tails) == pytest.approx(-made.out, abs=1.0)
    qtbot.keyClick(roofed, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert (
        next(
            e
            for e in roofed.desk.building.checked.structure.roofs[the("roof:R1")].edges
            if e.name == "W201"
        ).out
        == out
    )


def test_a_skylight_is_dragged_typed_and_taken_away(roofed: Window, qtbot: QtBot) -> None:
    roofed.desk.select(the("skylight:R1/S1"))
    enter(qtbot, roofed, "across the slope", '30"')
    assert roofed.desk.building.project.roofs[0].openings[0].size[0] == pytest.approx(30 * INCH)
    at = roofed.desk.building.project.roofs[0].openings[0].at
    a, b = roofed.plan.to_pixel(at), roofed.plan.to_pixel((at[0] + 600.0, at[1]))
    Hands(qtbot, roofed.plan).drag((a.x(), a.y()), (b.x(), b.y()))
    moved = roofed.desk.building.project.roofs[0].openings[0].at
    assert moved[0] == pytest.approx(at[0] + 600.0, abs=60.0)
    roofed.desk.select(the("skylight:R1/S1"))
    qtbot.keyClick(roofed, Qt.Key.Key_Delete)
    assert [o.id for o in roofed.desk.building.project.roofs[0].openings] == ["S2"]


def test_pitch_ridge_heel_and_sides_are_typed(roofed: Window, qtbot: QtBot) -> None:
    roofed.desk.select(the("roof:R1"))
    enter(qtbot, roofed, "pitch", "30°")
    assert roofed.desk.building.project.roofs[0].rise == pytest.approx(6.928, abs=1e-3)
    enter(qtbot, roofed, "ridge over plate", "8'-0\"")
    held = roofed.desk.building.checked.structure.roofs[the("roof:R1")]
    assert held.roof.top - held.edges[0].plate == pytest.approx(96 * INCH, abs=0.1)
    enter(qtbot, roofed, "pitch", "steep as a tower")
    assert "is no pitch" in roofed.fit_list.said or "is no pitch" in words(roofed)
    enter(qtbot, roofed, "pitch", "8 in 12")
    assert roofed.desk.building.project.roofs[0].ridge is None
    roofed.desk.select(the("side:R1/W201"))
    enter(qtbot, roofed, "pitch", "10 in 12")
    assert roofed.desk.building.checked.structure.roofs[the("roof:R1")].edges[
        0
    ].slope == pytest.approx(10 / 12)
    enter(qtbot, roofed, "pitch", "")
    assert roofed.desk.building.checked.structure.roofs[the("roof:R1")].edges[
        0
    ].slope == pytest.approx(8 / 12)


def test_a_rafter_tells_how_it_is_laid_out(roofed: Window) -> None:
    roofed.desk.select(the("roof:R1/rafter:W201.02"))
    told = words(roofed)
    assert "13.42 in a foot" in told  # the figure stamped on a framing square for 6 in 12
    assert "6 and 12, 26.6°" in told
    assert "height above plate" in told
    roofed.desk.select(the("roof:R1/hip:W201+W202"))
    assert "18.00 in a foot" in words(roofed)
    assert "6 and 17" in words(roofed)
    roofed.desk.select(the("roof:R1/hip jack:W202.03"))
    assert "10.73 against 12" in words(roofed)  # the side cut of jacks for 6 in 12


def test_a_truss_is_drawn_with_its_forces_and_its_sheet(roofed: Window, qtbot: QtBot) -> None:
    roofed.desk.select(the("roof:R2/web:04.2"))
    member = roofed.desk.member()
    assert member is not None
    assert "Heel bearing" in {c.name for c in checks_of(roofed.desk.building.checked, member)}
    drawn = [m.text for m in figure(roofed.desk.building.checked, member) if isinstance(m, Label)]
    assert any(t.startswith("+") for t in drawn), "what pulls"
    assert any(t.startswith("−") for t in drawn), "what pushes"
    roofed.desk.show_view("paper")
    qtbot.waitUntil(lambda: bool(roofed.paper.pages), timeout=30_000)
    sheets = [p.lay() for p in roofed.paper.pages if p.number.startswith("S")]
    titles = [v.title for s in sheets for v in s.views]
    assert any(t.startswith("Truss 01 of Wing") for t in titles)


def test_trusses_for_rafters_and_another_shape_by_choice(roofed: Window) -> None:
    roofed.desk.select(the("roof:R2"))
    choose(roofed, "shape", "Howe")
    assert {t.truss.kind for t in roofed.desk.building.checked.trusses[the("roof:R2")].placed} == {
        "Howe"
    }
    choose(roofed, "of", "rafters")
    assert roofed.desk.building.project.roofs[1].framing == "rafters"
    assert of(roofed, "rafter", the("roof:R2"))
    assert list(roofed.desk.building.checked.path.soil_total) == pytest.approx(
        list(roofed.desk.building.checked.path.applied), rel=1e-6
    )


def test_a_roof_is_placed_over_the_walls_and_by_corners(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("roof:R1"))
    qtbot.keyClick(window, Qt.Key.Key_Delete)
    window.desk.work_in(the("walls:L2"))
    qtbot.keyClick(window, Qt.Key.Key_R, Qt.KeyboardModifier.ShiftModifier)
    assert window.desk.tool == "Roof"
    qtbot.keyClick(window.plan, Qt.Key.Key_Return)
    (roof,) = window.desk.building.project.roofs
    assert set(roof.walls) == {"W201", "W202", "W203", "W204"}
    assert roof.sides == ()
    assert len(window.desk.building.checked.structure.of(kinds.HIP)) == 4
    window.desk.leave_tool()
    assert not any(c.words == "Skylight" for c in commands(window.desk))
    window.desk.work_in(the("roof:R1"))
    assert any(c.words == "Skylight" for c in commands(window.desk))


def test_a_skylight_is_placed_by_a_click_and_refused_off_the_roof(
    roofed: Window, qtbot: QtBot
) -> None:
    qtbot.keyClick(roofed, Qt.Key.Key_O)
    assert roofed.desk.tool == "Skylight"
    spot = roofed.plan.to_pixel((7600.0, 2000.0))
    Hands(qtbot, roofed.plan).click(spot.x(), spot.y())
    assert len(roofed.desk.building.project.roofs[0].openings) == 3
    off = roofed.plan.to_pixel((-2500.0, 2000.0))
    Hands(qtbot, roofed.plan).click(off.x(), off.y())
    assert len(roofed.desk.building.project.roofs[0].openings) == 3


def test_roofs_are_drawn_in_space_and_upright(roofed: Window) -> None:
    for view in ("space", "upright", "plan"):
        roofed.desk.show_view(view)
        QApplication.processEvents()
        assert not roofed.grab().isNull()


def test_the_ridge_is_dragged_on_the_ladder_and_its_pitch_follows(
    roofed: Window, qtbot: QtBot
) -> None:
    ladder = roofed.ladder
    shape = roofed.desk.building.checked.structure.roofs[the("roof:R1")]
    before, y = shape.edges[0].slope, ladder.y_of(shape.roof.top)
    Hands(qtbot, ladder).drag((140.0, y), (140.0, y - 24.0))
    now = roofed.desk.building.checked.structure.roofs[the("roof:R1")]
    assert now.edges[0].slope > before  # type: ignore[operator]
    assert now.roof.top == pytest.approx(
        shape.roof.top + 24.0 / ladder.scale(), abs=1.5 / ladder.scale()
    )
    assert roofed.desk.building.project.roofs[0].ridge is not None
    assert roofed.desk.building.project.roofs[1].ridge is None
    qtbot.keyClick(roofed, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert roofed.desk.building.project.roofs[0].ridge is None


def test_a_joint_of_a_truss_is_dragged_along_its_chord(roofed: Window, qtbot: QtBot) -> None:
    roofed.desk.select(the("roof:R2/web:04.2"))
    shown = roofed.slip.findChild(TrussFigure)
    assert shown.grips == [1, 3, 5, 6]
    spot = shown.pixel(1).toPoint()
    qtbot.mousePress(shown, Qt.MouseButton.LeftButton, pos=spot)
    qtbot.mouseMove(shown, spot + QPoint(12, 0))
    assert shown.words.startswith("Joint 2, ")
    qtbot.mouseRelease(shown, Qt.MouseButton.LeftButton, pos=spot + QPoint(12, 0))
    ((joint, shift),) = roofed.desk.building.project.roofs[1].trusses.moved
    assert joint == 2
    assert 50.0 < shift < 350.0
    enter(qtbot, roofed, "joint 2", "4'")
    assert roofed.desk.building.checked.trusses[the("roof:R2")].placed[4].truss.joints[1][
        0
    ] == pytest.approx(48 * INCH)
    press(roofed, "Back to the joints of the shape")
    assert roofed.desk.building.project.roofs[1].trusses.moved == ()
    again = roofed.slip.findChildren(TrussFigure)[-1]
    for key in (Qt.Key.Key_Down, Qt.Key.Key_Right):
        qtbot.keyClick(again, key)
    assert roofed.desk.building.project.roofs[1].trusses.moved == ((2, 25.4),)


def test_trusses_take_panels_and_a_top_chord_on_the_plate(roofed: Window, qtbot: QtBot) -> None:
    roofed.desk.select(the("roof:R2"))
    enter(qtbot, roofed, "panels on a slope", "3")
    truss = roofed.desk.building.checked.trusses[the("roof:R2")].placed[4].truss
    assert len(truss.chord(kinds.TOP_CHORD)) == 8, "three on each slope and two tails"
    before = roofed.desk.building.project
    enter(qtbot, roofed, "panels on a slope", "many")
    assert roofed.desk.building.project == before
    choose(roofed, "on the plate", "top chord")
    enter(qtbot, roofed, "hangs under the plate", "1'6")
    plate = next(x.elevation for x in roofed.desk.building.project.levels if x.id == "P2")
    chord = next(m for m in of(roofed, "bottom chord", the("roof:R2")) if str(m.id).endswith(":04"))
    assert min(z for *_, z in chord.solid.points()) == pytest.approx(plate - 18 * INCH)


def test_rafters_are_tied_lined_up_and_cut_by_kind(roofed: Window, qtbot: QtBot) -> None:
    roofed.desk.select(the("roof:R1"))
    choose(roofed, "ties", "by distance")
    enter(qtbot, roofed, "between ties", "6'")
    at = sorted(m.start[0] for m in of(roofed, "tie"))
    assert at
    assert max(b - a for a, b in pairwise(at)) <= 72 * INCH + 0.1
    choose(roofed, "fascia", "2×8")
    assert {m.section for m in of(roofed, "fascia")} == {"2x8"}
    choose(roofed, "hips from", "left out")
    choose(roofed, "hips from", "2×14")
    assert roofed.desk.building.project.roofs[0].rafters.sections == (("hips", "2x14"),)
    choose(roofed, "stand over", "joists of")
    assert roofed.desk.building.project.roofs[0].rafters.line_up is not None
    choose(roofed, "pairs", "side by side")
    assert roofed.desk.building.project.roofs[0].rafters.stagger
    assert list(roofed.desk.building.checked.path.soil_total) == pytest.approx(
        list(roofed.desk.building.checked.path.applied), rel=1e-6
    )


def test_a_roof_of_trusses_over_wings_is_divided_by_one_button_and_taken_back(
    window: Window, qtbot: QtBot
) -> None:
    files.show_building(window.desk, Building(walled(TEE, sides=(), framing="trusses")))
    window.desk.work_in(the("roof:R1"))
    before = window.desk.building.project
    assert "Not framed: trusses are set out over rectangles" in words(window)
    press(window, "Divide over rectangles")
    assert [r.name for r in window.desk.building.project.roofs] == ["R1", "R1, wing"]
    assert of(window, "bottom chord")
    assert of(window, "bottom chord", the("roof:R2"))
    assert "Not framed" not in words(window)
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.desk.building.project == before


def test_a_slip_is_laid_out_before_anything_is_drawn(roofed: Window) -> None:
    roofed.desk.select(the("roof:R1"))
    body = roofed.slip.widget()
    assert body.height() >= body.minimumSizeHint().height() > roofed.slip.height(), (
        "nothing is pressed together"
    )
    assert "nails at the heel" not in words(roofed)
    rafter = next(
        m
        for m in of(roofed, "rafter")
        if family_of(m.carrier.supports[-1].on) == "ridge" and wall_key(m.carrier.supports[0].on)
    )
    roofed.desk.select(rafter.id)
    assert "of 16d common" in words(roofed)
