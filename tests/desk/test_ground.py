"""Foundations in the window: chosen part by part, placed, followed, dragged, held, taken back."""

from collections.abc import Iterator

import pytest
from desk_hands import Hands
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QLineEdit, QPushButton
from pytestqt.qtbot import QtBot

from balken.desk.slip_parts import Figure
from balken.desk.window import Window
from balken.drawing.marks import Label
from balken.framing import kinds
from balken.model.cases import CASE_WORDS
from balken.model.names import HostName, MemberName
from balken.model.project import level
from balken.session.building import Building, demo_project
from balken.session.demo import bakehouse
from balken.units import FOOT, INCH, LB, PLF
from buildings import house
from named import the


@pytest.fixture(scope="module")
def shown(qapp: object) -> Iterator[Window]:
    w = Window(Building(bakehouse(demo_project())))
    w.show()
    yield w
    w._closing = True
    w.close()


@pytest.fixture
def ground(shown: Window) -> Iterator[Window]:
    """The bakehouse on its foundation plan; what a test changes is taken back."""
    before = shown.desk.building.project
    shown.desk.leave_tool()
    shown.desk.show_view("plan")
    shown.desk.work_in(the("run:G1"))
    yield shown
    while shown.desk.building.project is not before and shown.desk.building.history.done:
        shown.desk.undo()


def field(w: Window, name: str) -> QLineEdit:
    return next(e for e in w.slip.widget().findChildren(QLineEdit) if e.accessibleName() == name)


def type_in(w: Window, qtbot: QtBot, name: str, text: str) -> None:
    edit = field(w, name)
    edit.setText(text)
    qtbot.keyClick(edit, Qt.Key.Key_Return)


def choose(w: Window, name: str, words: str) -> None:
    box = next(b for b in w.slip.widget().findChildren(QComboBox) if b.accessibleName() == name)
    i = box.findText(words)
    assert i >= 0, [box.itemText(k) for k in range(box.count())]
    box.setCurrentIndex(i)
    box.activated.emit(i)


def press(w: Window, words: str) -> None:
    next(b for b in w.slip.widget().findChildren(QPushButton) if b.text() == words).click()


def figure_words(w: Window) -> list[str]:
    figure = w.slip.widget().findChildren(Figure)[0]
    return [m.text for m in figure.drawing if isinstance(m, Label)]


def test_a_kind_asks_for_its_own_parts_and_is_not_placed_before_they_are_chosen(
    qtbot: QtBot,
) -> None:
    from msgspec.structs import replace

    plain = replace(house(), runs=(), floors=())
    w = Window(Building(plain))
    qtbot.addWidget(w)
    w.show()
    w.desk.work_in(the("walls:L1"))
    qtbot.keyClick(w, Qt.Key.Key_G)
    choose(w, "kind", "full basement")
    names = {e.accessibleName() for e in w.slip.widget().findChildren(QLineEdit)}
    assert {"footing width x thickness", "wall thickness", "slab thickness"} <= names
    assert figure_words(w).count("?") == 4
    w.desk.go_on()
    qtbot.keyClick(w.plan, Qt.Key.Key_Return)
    assert w.desk.building.project.runs == ()
    type_in(w, qtbot, "wall thickness", '10"')
    assert '10"' in figure_words(w)
    assert figure_words(w).count("?") == 3
    type_in(w, qtbot, "footing width x thickness", '24" x 10"')
    type_in(w, qtbot, "slab thickness", "0")
    assert "more than zero" in w.fit_list.said
    press(w, "Usual sizes for the rest")
    choose(w, "kind", "slab on grade")
    assert figure_words(w).count("?") == 1
    choose(w, "kind", "full basement")
    assert "?" not in figure_words(w), "each kind keeps its own parts"
    press(w, "Place it")
    (run,) = w.desk.building.project.runs
    assert (run.kind, run.stem_thickness, run.footing_width) == (
        "basement",
        pytest.approx(10 * INCH),
        pytest.approx(24 * INCH),
    )
    w._closing = True


def test_one_tier_holds_all_foundations(ground: Window) -> None:
    tier = ground.desk.current_tier()
    assert tier is not None
    assert tier.hosts == (the("run:G1"), the("run:G2"), the("run:G3"))
    keys = {m.key.host for m in ground.plan.lines if isinstance(m.key, HostName | MemberName)}
    assert {the("run:G1"), the("run:G2"), the("run:G3")} <= keys
    ground.desk.select(the("run:G2"))
    assert ground.desk.tier_id == the("run:G1")
    assert figure_words(ground)[:2] == ["sill", "2×6"]


def test_dragging_the_ground_line_steps_the_footings_anew(ground: Window) -> None:
    before = [s.key for s in ground.desk.building.checked.structure.steps]
    item = level(ground.desk.building.project, "GR")
    spots = ground.desk.building.project.spots
    ground.drag.drag_level("GR", item.elevation - 1 * FOOT, True)
    ground.drag.drag_level("GR", item.elevation - 2 * FOOT, True)
    ground.drag.drag_level("GR", item.elevation - 2 * FOOT, False)
    project = ground.desk.building.project
    assert level(project, "GR").elevation == pytest.approx(item.elevation - 2 * FOOT)
    assert {round(a.height - b.height, 3) for a, b in zip(spots, project.spots)} == {
        round(2 * FOOT, 3)
    }
    assert [s.key for s in ground.desk.building.checked.structure.steps] != before
    ground.desk.undo()
    assert [s.key for s in ground.desk.building.checked.structure.steps] == before, (
        "one drag is one step of undo"
    )


def test_a_step_is_dragged_held_and_let_go(ground: Window, qtbot: QtBot) -> None:
    step = next(s for s in ground.desk.building.checked.structure.steps if s.line == "W103")
    middle = (
        (step.across[0][0] + step.across[1][0]) / 2,
        (step.across[0][1] + step.across[1][1]) / 2,
    )
    outer = max(step.across, key=lambda p: p[1])
    at = ground.plan.to_pixel((middle[0], outer[1] - 60.0))
    assert ground.plan.key_at(ground.plan.to_plan(at)) == step.key
    Hands(qtbot, ground.plan).drag((at.x(), at.y()), (at.x() - 24, at.y()))
    held = ground.desk.building.project.runs[0].steps
    assert len(held) == 1
    assert held[0].wall == "W103"
    moved = abs(held[0].at - step.at)
    assert moved == pytest.approx(24 / ground.plan.scale, abs=60)
    ground.desk.select(the(f"step:G1/W103@{held[0].at:.1f}"))
    press(ground, "Let it go")
    assert ground.desk.building.project.runs[0].steps == ()


def test_a_step_is_typed_into_its_place(ground: Window, qtbot: QtBot) -> None:
    step = next(s for s in ground.desk.building.checked.structure.steps if s.line == "W101")
    ground.desk.select(step.key)
    type_in(ground, qtbot, "goes down", "-9'")
    assert "higher than the limit" in ground.fit_list.said
    press(ground, "Hold it here")
    assert [s.drop for s in ground.desk.building.project.runs[0].steps] == [
        pytest.approx(step.drop)
    ]


def test_a_height_of_the_ground_is_clicked_and_typed(ground: Window, qtbot: QtBot) -> None:
    count = len(ground.desk.building.project.spots)
    ground.desk.start("Ground height")
    place = (44 * FOOT, 15 * FOOT)
    at = ground.plan.to_pixel(place).toPoint()
    qtbot.mouseClick(ground.plan, Qt.MouseButton.LeftButton, pos=at)
    entry = ground.board.tell.entry
    entry.clear()
    qtbot.keyClicks(entry, "-2'")
    qtbot.keyClick(entry, Qt.Key.Key_Return)
    assert len(ground.desk.building.project.spots) == count + 1
    assert ground.desk.building.project.spots[-1].height == pytest.approx(-2 * FOOT)
    ground.desk.leave_tool()


def test_parts_of_one_wall_from_its_slip(ground: Window, qtbot: QtBot) -> None:
    ground.desk.select(the("run:G1/stem:W102"))
    type_in(ground, qtbot, "stem thickness", '12"')
    assert [(p.wall, p.stem_thickness) for p in ground.desk.building.project.runs[0].parts] == [
        ("W102", pytest.approx(12 * INCH))
    ]
    type_in(ground, qtbot, "add a pocket", '6\' x 6" x 10" x 4"')
    assert ground.desk.building.project.runs[0].pockets[0].at == pytest.approx(6 * FOOT)
    type_in(ground, qtbot, "add a pocket", "6 ft")
    assert "Write where" in ground.fit_list.said


def test_ledge_and_typed_load_in_the_slip_of_a_foundation(ground: Window, qtbot: QtBot) -> None:
    ground.desk.select(the("run:G2"))
    type_in(ground, qtbot, "add ledge for brick", '5" x 8"')
    assert ground.desk.building.project.runs[1].shelves[0].width == pytest.approx(5 * INCH)
    type_in(ground, qtbot, "add ledge for brick", '9" x 8"')
    assert "leaves" in ground.fit_list.said
    before = sum(ground.desk.building.checked.path.soil_total)
    type_in(ground, qtbot, "dead", "1000 plf")
    assert sum(ground.desk.building.checked.path.soil_total) > before


def test_a_pad_shows_its_checks_and_takes_the_size_that_would_do(
    ground: Window, qtbot: QtBot
) -> None:
    pad = next(m for m in ground.desk.building.checked.structure.members if m.kind is kinds.PAD)
    ground.desk.select(pad.id)
    type_in(ground, qtbot, "snow", "40 kip")
    assert any(f.kind == "over" and pad.mark in f.place for f in ground.desk.building.findings)
    button = next(
        b for b in ground.slip.widget().findChildren(QPushButton) if b.text().startswith("Make it")
    )
    button.click()
    assert not any(f.kind == "over" and pad.mark in f.place for f in ground.desk.building.findings)


def test_bad_soil_is_refused_where_it_is_typed(ground: Window, qtbot: QtBot) -> None:
    ground.desk.select(the("run:G1"))
    for text, words in (("0", "bears nothing"), ("-1500 psf", "not what a soil bears")):
        type_in(ground, qtbot, "soil bearing", text)
        assert words in ground.fit_list.said
    assert ground.desk.building.project.site.soil_bearing > 0


@pytest.mark.parametrize(
    "kind", ["strip footing and wall", "slab with thickened edge", "grade beam", "slab on grade"]
)
def test_drawn_freely_by_clicks(ground: Window, qtbot: QtBot, kind: str) -> None:
    runs = len(ground.desk.building.project.runs)
    ground.desk.start("Foundation")
    choose(ground, "kind", kind)
    missing = [
        b
        for b in ground.slip.widget().findChildren(QPushButton)
        if b.text().startswith("Usual sizes")
    ]
    if missing:
        missing[0].click()
    choose(ground, "runs", "drawn freely")
    for x, y in ((-6, -4), (-6, 8), (-12, 8), (-12, -4), (-6, -4)):
        at = ground.plan.to_pixel((x * FOOT, y * FOOT)).toPoint()
        qtbot.mouseClick(ground.plan, Qt.MouseButton.LeftButton, pos=at)
    found = ground.desk.building.project.runs
    assert len(found) == runs + 1, ground.fit_list.said
    assert len(found[-1].paths[0]) == 5
    members = [
        m
        for m in ground.desk.building.checked.structure.members
        if m.host == the(f"run:{found[-1].id}")
    ]
    assert members
    ground.desk.leave_tool()


def test_del_lets_a_held_step_go_and_says_why_another_stays(ground: Window, qtbot: QtBot) -> None:
    step = next(s for s in ground.desk.building.checked.structure.steps if s.line == "W103")
    ground.desk.select(step.key)
    qtbot.keyClick(ground, Qt.Key.Key_Delete)
    assert "the ground asks for it" in ground.fit_list.said
    press(ground, "Hold it here")
    qtbot.keyClick(ground, Qt.Key.Key_Delete)
    assert ground.desk.building.project.runs[0].steps == ()


def test_one_of_several_foundations_is_taken_away(ground: Window, qtbot: QtBot) -> None:
    ground.desk.select(the("run:G3"))
    qtbot.keyClick(ground, Qt.Key.Key_Delete)
    assert [r.id for r in ground.desk.building.project.runs] == ["G1", "G2"]
    ground.desk.undo()
    assert [r.id for r in ground.desk.building.project.runs] == ["G1", "G2", "G3"]


def test_loads_are_typed_with_their_unit_or_without(ground: Window, qtbot: QtBot) -> None:
    ground.desk.select(the("run:G2"))
    name = CASE_WORDS["dead"]
    before = ground.desk.building.project.runs[1].loads
    for text, wanted in (
        ("850", 850 * PLF),
        ("1,200 plf", 1200 * PLF),
        ("12.4 kN/m", 12.4),
        ("12,4 kN/m", 12.4),
    ):
        type_in(ground, qtbot, name, text)
        loads = ground.desk.building.project.runs[1].loads
        assert loads.dead == pytest.approx(wanted), text
        assert replace(loads, dead=before.dead) == before
    before = ground.desk.building.project
    type_in(ground, qtbot, name, "much")
    assert "is no number" in ground.fit_list.said
    assert ground.desk.building.project is before


def test_loads_on_a_pad_are_typed_in_kips_and_pounds(ground: Window, qtbot: QtBot) -> None:
    pad = next(s for s in ground.desk.building.project.point_supports if s.kind == "pad")
    ground.desk.select(the(f"support:{pad.id}"))
    name = CASE_WORDS["live"]
    for text in ("2.5 kip", "2,500 lb", "2500"):
        type_in(ground, qtbot, name, text)
        item = next(s for s in ground.desk.building.project.point_supports if s.id == pad.id)
        assert item.loads.live == pytest.approx(2500 * LB), text
        ground.desk.undo()
