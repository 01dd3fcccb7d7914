"""A building of 11.4 × 7.8 m on two storeys with a wing, a basement under half, a stair and a hip
roof with one gable, set out from nothing, sized and issued by mouse and keys."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from desk_hands import Hands
from person import Person, begun_from_nothing
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from balken.framing import kinds
from balken.model.names import HostName
from balken.site.bodies import storey_walls
from balken.site.parts import storey_parts

SHIFT = Qt.KeyboardModifier.ShiftModifier
CTRL = Qt.KeyboardModifier.ControlModifier
UP, DOWN, LEFT, RIGHT = Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Left, Qt.Key.Key_Right
MOST_ACTS = 250


@pytest.fixture
def person(qtbot: QtBot, qapp: QApplication) -> Iterator[Person]:
    yield from begun_from_nothing(qtbot, qapp, "metric")


def levels(p: Person) -> None:
    p.key(Qt.Key.Key_L, SHIFT)
    p.field("name", "Floor 2")
    p.field("height", "2750")
    p.find("plate 1")
    p.field("copy up by", "2750")


def line(p: Person, *steps: tuple[Qt.Key, str]) -> None:
    """Steps of a chain, each locked to a direction and typed; then Enter ends it."""
    for way, length in steps:
        p.key(way)
        p.type(length)
    p.key(Qt.Key.Key_Return)
    p.key(Qt.Key.Key_Escape)


def walls(p: Person) -> None:
    p.find("rectangle")
    p.type("0", "0")
    p.point_at((5000.0, 4000.0))
    p.type("11400", "7800")
    p.choose("drawn as", "a chain")
    p.type("0", "3900")
    line(p, (RIGHT, "11400"))
    for phrase, places in (
        ("window", [(3000.0, 80.0), (8000.0, 7720.0)]),
        ("door", [(6000.0, 80.0)]),
    ):
        p.find(phrase)
        for place in places:
            p.click(place)
        p.key(Qt.Key.Key_Escape)
    p.tier("Floor 1 walls")
    p.choose("to level", "Floor 2")
    p.press("Copy the walls")


def wing(p: Person) -> None:
    p.tier("Floor 1 walls")
    p.key(Qt.Key.Key_W)
    p.type("11400", "1500")
    line(p, (RIGHT, "4200"), (UP, "3600"), (LEFT, "4200"))


def foundations(p: Person) -> None:
    p.find("basement")
    p.choose("runs", "drawn freely")
    p.press("Usual sizes for the rest")
    p.type("0", "0")
    line(p, (RIGHT, "11400"), (UP, "3900"), (LEFT, "11400"), (DOWN, "3900"))
    p.find("strip footing")
    p.choose("runs", "round the storey")
    p.press("Usual sizes for the rest")
    p.key(Qt.Key.Key_Return)
    p.key(Qt.Key.Key_Escape)


def floors(p: Person) -> None:
    p.key(Qt.Key.Key_J)
    p.tier("Floor 2 joists")
    p.find("stair 3000 x 1000")
    p.click((4000.0, 2000.0))
    p.key(Qt.Key.Key_Escape)


def roof(p: Person) -> None:
    p.tier("Floor 2 walls")
    p.key(Qt.Key.Key_R, SHIFT)
    p.key(Qt.Key.Key_Return)
    p.key(Qt.Key.Key_Escape)
    p.tier("Roof")
    shape = next(iter(p.w.desk.checked.structure.roofs.values()))
    west = next(e for e in shape.edges if max(e.a[0], e.b[0]) < 100)
    p.click((-west.out, 3900.0))
    p.key(Qt.Key.Key_Y)


def mends(p: Person) -> None:
    """Take every mend that the fit list offers: shown first, then done."""
    rows, area = p.w.fit_list.rows, p.w.fit_list.area
    for _ in range(12):
        found = p.w.desk.as_it_is().findings
        row = next((i for i, f in enumerate(found) if f.mend), None)
        if row is None:
            return
        for _ in range(2):
            p.acts += 1
            area.ensureVisible(10, row * 30 + 15)
            QApplication.processEvents()
            Hands(p.qtbot, rows).click(rows.width() - 50, row * 30 + 12)
            QApplication.processEvents()


def test_a_building_from_nothing_to_its_sheets(
    person: Person, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    p, desk = person, person.w.desk
    for step in (levels, walls, wing, foundations, floors, roof, mends):
        step(p)
        assert desk.faults == (), (step.__name__, desk.faults[0].trace)
    project, structure = desk.project, desk.checked.structure
    # Set out: two storeys and a wing, with openings on both.
    assert len(storey_parts(storey_walls(project, "L1"))) == 1
    assert [x.name for x in project.levels if x.role == "floor"] == ["Floor 1", "Floor 2"]
    assert sum(len(w.openings) for w in project.walls) == 6
    # A basement under half, and strips under the rest: no wall stands on two, none on nothing.
    by_kind = {r.kind: r for r in project.runs}
    assert set(by_kind) == {"basement", "strip"}
    spans = [(s.start, s.end) for s in by_kind["basement"].spans if s.wall == "W4"]
    assert spans == [(3900.0, 7800.0)]
    assert not [f for f in desk.building.findings if f.kind in ("open", "no footing", "load path")]
    # A stair, framed; a hip roof with one gable, and a roof over the wing.
    assert [h.use for f in project.floors for h in f.openings] == ["stair"]
    assert {kinds.TRIMMER, kinds.HEADER} <= {m.kind for m in structure.members}
    assert len(project.roofs) == 2
    main = structure.roofs[HostName("roof", "R1")]
    assert sorted(e.rule.kind for e in main.edges) == ["gable", "slope", "slope", "slope"]
    # The two roofs are told apart.
    assert len({t.name for t in desk.tiers}) == len(desk.tiers)
    # Sized: everything that spans a floor or a roof is used to 1.00 at most.
    floors_ = [m for m in structure.members if m.host.kind == "floor" and m.id in desk.checked.used]
    assert floors_
    assert max(desk.checked.used[m.id][0] for m in floors_) <= 1.0
    # Issued.
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(tmp_path))
    p.key(Qt.Key.Key_E, CTRL)
    qtbot.waitUntil(lambda: desk.said.startswith("Written"), timeout=120_000)
    assert {f.suffix for f in tmp_path.iterdir()} >= {".pdf", ".csv", ".ifc"}
    assert p.acts < MOST_ACTS, p.acts
