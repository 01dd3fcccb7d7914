"""Floors, beams and posts in the window: placed by clicks and keys, read on the slip, changed by
hand, dragged."""

import pytest
from desk_hands import choose, enter, press, words
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication, QComboBox
from pytestqt.qtbot import QtBot

from balken.desk.diagram import BeamFigure
from balken.desk.slip_parts import Bars
from balken.desk.window import Window
from balken.framing import kinds
from balken.session import acts, files
from balken.session.commands import commands
from balken.session.desk import Pull
from balken.session.ferry_hall import ferry_hall
from balken.session.search.offers import offers
from named import the


@pytest.fixture
def hall(window: Window) -> Window:
    from balken.session.building import Building

    files.show_building(window.desk, Building(ferry_hall()))
    window.desk.work_in(the("floor:F1"))
    QApplication.processEvents()
    return window


def mark(w: Window, name: str) -> str:
    return next(m.id for m in w.desk.building.checked.structure.members if m.mark == name)


def test_a_beam_tells_its_values_under_the_pointer_and_by_keys(hall: Window, qtbot: QtBot) -> None:
    hall.desk.select(mark(hall, "B6"))
    figure = hall.slip.findChild(BeamFigure)
    assert figure is not None
    assert figure.words == ""
    middle = QPointF(figure.width() / 2, 40)
    move = QMouseEvent(
        QEvent.Type.MouseMove,
        middle,
        figure.mapToGlobal(middle),
        Qt.MouseButton.NoButton,
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
    )
    figure.mouseMoveEvent(move)
    assert figure.at == pytest.approx(3600.0, abs=40.0)
    assert "kN" in figure.words
    assert "Δ" in figure.words
    before = figure.at
    qtbot.keyClick(figure, Qt.Key.Key_Right)
    assert figure.at == pytest.approx(before + 7200 / 40)
    figure.grab()


def test_another_section_is_held_for_one_beam_and_given_back(hall: Window) -> None:
    hall.desk.select(mark(hall, "B6"))
    choose(hall, "section", "GL 240×720")
    assert (
        next(b for b in hall.desk.building.project.beams if b.id == "B6").kind.section
        == "GL 240x720"
    )
    hall.desk.select(mark(hall, "B6"))
    choose(hall, "section", "by calculation")
    assert next(b for b in hall.desk.building.project.beams if b.id == "B6").kind.section is None


def test_bridging_is_chosen_on_the_slip_of_a_floor_and_taken_back(
    window: Window, qtbot: QtBot
) -> None:
    window.desk.work_in(the("floor:F1"))
    window.desk.select(the("floor:F1"))
    choose(window, "bridging", "crossed, 1×3")
    assert window.desk.building.checked.structure.of(kinds.BRIDGING), "it stands between the joists"
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert not window.desk.building.checked.structure.of(kinds.BRIDGING)


def test_a_bay_is_filled_otherwise_on_the_slip(hall: Window, qtbot: QtBot) -> None:
    hall.desk.select(mark(hall, "Y2-1"))
    choose(hall, "spacing", "so many")
    hall.desk.select(mark(hall, "Y2-1"))
    enter(qtbot, hall, "how many", "4")
    assert sum(m.host == the("bay:Y2") for m in hall.desk.building.checked.structure.members) == 4
    hall.desk.select(mark(hall, "Y2-1"))
    enter(qtbot, hall, "how many", "none")
    assert "is no count" in hall.fit_list.said


def test_a_joist_is_changed_by_hand_listed_and_taken_back(hall: Window, qtbot: QtBot) -> None:
    name = mark(hall, "F1-J05c")
    hall.desk.select(name)
    enter(qtbot, hall, "longer at end", "50")
    enter(qtbot, hall, "turned", "2")
    change = next(c for c in hall.desk.building.project.changes if c.member == name)
    assert (change.longer, change.turn) == ((0.0, 50.0), 2.0)
    hall.desk.select(the("page:by hand"))
    assert "turned 2°, 50 longer at its end" in words(hall)
    press(hall, "show")
    assert hall.desk.selection == name
    hall.desk.select(the("page:by hand"))
    press(hall, "take back")
    assert hall.desk.building.project.changes == ()


def test_the_finder_knows_what_was_changed_by_hand(hall: Window) -> None:
    assert any(o.words == "Changed by hand" for o in offers(hall.desk, "by hand"))
    assert any("ferry hall" in o.words for o in offers(hall.desk, "ferry"))


def test_a_member_taken_away_says_so_and_comes_back(hall: Window) -> None:
    name = mark(hall, "Y1-1")
    hall.desk.select(name)
    acts.take_away_selected(hall.desk)
    assert all(m.id != name for m in hall.desk.building.checked.structure.members)
    hall.desk.undo()
    assert any(m.id == name for m in hall.desk.building.checked.structure.members)


def test_a_beam_is_taken_away_whole(hall: Window) -> None:
    hall.desk.select(mark(hall, "B6"))
    acts.take_away_selected(hall.desk)
    assert all(b.id != "B6" for b in hall.desk.building.project.beams)
    assert any(
        "Unsupported" in f.text or f.kind == "unsupported" for f in hall.desk.building.findings
    )


def test_an_opening_is_selected_sized_and_closed(hall: Window, qtbot: QtBot) -> None:
    hall.desk.select(the("hole:F1/O1"))
    assert "stair opening" in words(hall)
    enter(qtbot, hall, "length", "900")
    assert hall.desk.building.project.floors[0].openings[0].size[0] == 900.0
    acts.take_away_selected(hall.desk)
    assert hall.desk.building.project.floors[0].openings == ()


def test_an_opening_is_tied_to_a_wall_and_stays_where_it_is(window: Window) -> None:
    from balken.framing.hosts.floor_bearing import bearings_of_floor
    from balken.model.edits.floors import add_opening

    window.desk.edit(
        "open",
        lambda p: add_opening(p, "F2", "stair", at=(3000.0, 2000.0), size=(900.0, 2000.0))[0],
    )
    floor = next(f for f in window.desk.building.project.floors if f.id == "F2")
    before = bearings_of_floor(window.desk.building.project, floor)
    window.desk.select(the("hole:F2/O1"))
    wall = window.desk.building.project.walls[1]
    from balken.model.walls import called

    choose(window, "measured from", called(wall))
    floor = next(f for f in window.desk.building.project.floors if f.id == "F2")
    assert floor.openings[0].wall == wall.id
    after = bearings_of_floor(window.desk.building.project, floor)
    assert before is not None
    assert after is not None
    spots = [tuple(round(v, 3) for v in p) for p in before.holes[0].ring]
    assert sorted(spots) == sorted(tuple(round(v, 3) for v in p) for p in after.holes[0].ring)


def test_changing_a_build_up_says_how_many_floors_it_touches(window: Window, qtbot: QtBot) -> None:
    window.desk.work_in(the("floor:F2"))
    assert "2 floors are built up so: Floor 1, Floor 2." in words(window)
    choose(window, "a change touches", "only this one")
    enter(qtbot, window, "subfloor", "1 1/8")
    project = window.desk.building.project
    depths = {
        f.id: next(b.subfloor for b in project.build_ups if b.id == f.build_up)
        for f in project.floors
    }
    assert depths["F2"] == pytest.approx(28.575)
    assert depths["F1"] != depths["F2"]
    assert '1 1/8" subfloor' in words(window) or '1⅛" subfloor' in words(window)


def test_a_slab_is_named_by_its_depth_and_has_its_check(hall: Window) -> None:
    hall.desk.select(the("floor:F2"))
    assert hall.desk.tier_id == the("floor:F1")  # the floors of a level share a tier
    assert "solid slab, 260" in words(hall)
    bars = hall.slip.findChild(Bars)
    assert bars is not None
    assert "Thickness" in bars.accessibleName()


def test_floor_and_beam_words_are_there_with_their_keys(hall: Window) -> None:
    there = {command[0]: command[1] for command in commands(hall.desk)}
    wanted = {
        "Floor": "Shift+F",
        "Opening in floor": "O",
        "Cut floor": "K",
        "Beam": "Shift+B",
        "Beam bays": "Shift+Y",
    }
    assert {name: there[name] for name in wanted} == wanted


def test_the_bay_tool_shows_what_would_be_filled(hall: Window, qtbot: QtBot) -> None:
    hall.desk.start("Beam bays")
    assert hall.desk.at_work
    assert "bays one by one" in [b.currentText() for b in hall.slip.findChildren(QComboBox)]
    run = hall.desk.run
    assert run is not None
    assert run.ask is not None
    assert len(run.ask.ghost((22000.0, 2000.0))) > 1
    hall.desk.leave_tool()


def test_the_span_symbol_is_dragged_to_turn_the_joists(hall: Window, qtbot: QtBot) -> None:
    hall.drag.drag(the("span:F1/floor"), Pull((0.0, 0.0), (100.0, 2000.0)), False)
    assert hall.desk.building.project.floors[0].span == "y"
    hall.drag.drag(the("span:F1/floor"), Pull((0.0, 0.0), (1000.0, 1000.0)), False)
    floor = hall.desk.building.project.floors[0]
    assert (floor.span, floor.turn) == ("turned", 45.0)


def test_a_joist_dragged_sideways_is_moved_by_hand(hall: Window) -> None:
    name = mark(hall, "F1-J05c")
    before = next(m for m in hall.desk.building.checked.structure.members if m.id == name)
    hall.drag.drag(name, Pull((0.0, 0.0), (0.0, 80.0)), False)
    after = next(m for m in hall.desk.building.checked.structure.members if m.id == name)
    assert after.start[1] - before.start[1] == pytest.approx(80.0)
    assert after.touched


def test_a_beam_is_dragged_with_its_ends(hall: Window) -> None:
    name = mark(hall, "B13")
    hall.drag.drag(name, Pull((0.0, 0.0), (200.0, 0.0)), False)
    beam = next(b for b in hall.desk.building.project.beams if b.id == "B13")
    assert beam.start.at == (200.0, 0.0)


def test_a_post_shows_what_it_carries_and_its_check(hall: Window) -> None:
    post = next(s for s in hall.desk.building.project.point_supports if s.kind == "post")
    hall.desk.select(the(f"support:{post.id}"))
    assert "carries" in words(hall)
    assert "fitted" in words(hall)
    choose(hall, "cut from", "SHS 140×6")
    after = next(s for s in hall.desk.building.project.point_supports if s.id == post.id)
    assert (after.section, after.size) == ("SHS 140x6", (140.0, 140.0))


def test_holes_are_bored_on_the_slip_and_refused_by_the_fit_list(
    hall: Window, qtbot: QtBot
) -> None:
    hall.desk.select(mark(hall, "F1-J05c"))
    press(hall, "Bore a hole")
    hall.desk.select(mark(hall, "F1-J05c"))
    enter(qtbot, hall, "size", "120")
    assert any(f.kind == "bored" for f in hall.desk.building.findings)


def test_every_kind_of_thing_fills_the_slip_and_paints(hall: Window, qtbot: QtBot) -> None:
    marks = ("B1", "Y1-1", "F1-S1", "F2-S1", "F1-R01", "F1-HO1n", "F1-D01", "F1-B05as")
    there = {m.mark: m.id for m in hall.desk.building.checked.structure.members}
    for name in [there[m] for m in marks if m in there] + [
        the("floor:F1"),
        the("floor:F2"),
        the("hole:F1/O1"),
        the("page:by hand"),
    ]:
        hall.desk.select(name)
        hall.grab()


def test_an_i_joist_is_typed_offered_to_a_floor_and_checked_by_its_values(
    hall: Window, qtbot: QtBot
) -> None:
    hall.desk.select(the("page:products"))
    press(hall, "wood I-joist")
    assert hall.desk.selection == the("product:I-joist 1")
    enter(qtbot, hall, "depth", "235")
    enter(qtbot, hall, "moment", "4.5 kN m")
    item = hall.desk.building.project.products[0]
    assert (item.depth, item.moment) == (235.0, 4.5e6)
    hall.desk.select(the("floor:F1"))
    enter(qtbot, hall, "offered sizes", "I-joist 1")
    checked = hall.desk.building.checked
    assert checked.sizes[the("floor:F1")].size.section == "I-joist 1"
    joist = next(m for m in checked.structure.members if m.mark == "F1-J05c")
    assert joist.section == "I-joist 1"
    assert joist.id in checked.carrying
    hall.desk.select(the("product:I-joist 1"))
    press(hall, "Take away")
    assert "still used" in hall.fit_list.said


def test_a_section_nobody_knows_is_refused_where_it_is_typed(hall: Window, qtbot: QtBot) -> None:
    hall.desk.select(the("floor:F1"))
    enter(qtbot, hall, "offered sizes", "38x999")
    assert "“38x999” is no section joists are cut from here" in hall.fit_list.said


def test_posts_are_cut_from_another_section_as_a_group(hall: Window) -> None:
    posts = [s for s in hall.desk.building.project.point_supports if s.kind == "post"]
    chosen = [s.id for s in posts[:3]]
    hall.desk.select_many(tuple(the(f"support:{k}") for k in chosen))
    choose(hall, "cut from", "SHS 140×6")
    cut = {s.id: (s.section, s.size) for s in hall.desk.building.project.point_supports}
    assert {cut[k] for k in chosen} == {("SHS 140x6", (140.0, 140.0))}
    assert all(cut[s.id] == (s.section, s.size) for s in posts[3:])
    members = {m.host: m.section for m in hall.desk.building.checked.structure.members}
    assert {members[the(f"support:{k}")] for k in chosen} == {"SHS 140x6"}
    hall.desk.select_many((the(f"support:{chosen[0]}"), the(f"support:{posts[3].id}")))
    assert box(hall, "cut from").currentText() == "various"
    choose(hall, "fitted", "to its levels alone")
    assert [
        s.tied
        for s in hall.desk.building.project.point_supports
        if s.id in (chosen[0], posts[3].id)
    ] == [False, False]


def box(w: Window, name: str) -> QComboBox:
    return next(b for b in w.slip.findChildren(QComboBox) if b.accessibleName() == name)


def test_a_floor_placed_by_key_where_one_lies_is_refused_in_words(
    window: Window, qtbot: QtBot
) -> None:
    window.desk.work_in(the("floor:F2"))
    floors = window.desk.project.floors
    window.desk.kit = replace(window.desk.kit, floor_from="all walls here")
    window.plan.setFocus()
    qtbot.keyClick(window.plan, Qt.Key.Key_F, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(window.plan, Qt.Key.Key_Return)
    assert "lies there already" in window.fit_list.said
    assert window.desk.project.floors == floors
