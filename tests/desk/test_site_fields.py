"""What the checks ask for besides loads can be typed on the slips: bolts, plates, the weight of
walls, layups and holes."""

import pytest
from desk_hands import answer, choose, enter, field
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from balken.desk.window import Window
from balken.framing import kinds
from balken.model.edits.products import add_product, first_product
from balken.units import INCH, PSF, PSI
from balken.works.building import checks_of
from named import the


def test_bolts_are_set_closer_and_go_back_to_the_rule(window: Window, qtbot: QtBot) -> None:
    run = window.desk.building.project.runs[0].id
    window.desk.select(the(f"run:{run}"))
    assert field(window, "bolts apart").text() == "by the rule"
    enter(qtbot, window, "bolts apart", '30"')
    assert window.desk.building.project.runs[0].bolts_apart == pytest.approx(30 * INCH)
    bolts = list(window.desk.building.checked.structure.bolts.values())
    assert max(y - x for b in bolts for x, y in zip(b.at, b.at[1:])) <= 30 * INCH + 1.0
    enter(qtbot, window, "bolts apart", "")
    assert window.desk.building.project.runs[0].bolts_apart == 0.0
    enter(qtbot, window, "anchor bolts", '5/8"')
    assert window.desk.building.project.runs[0].bolt == pytest.approx(0.625 * INCH)


def test_walls_weigh_what_is_typed_or_what_their_layers_do(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the(f"run:{window.desk.building.project.runs[0].id}"))
    assert field(window, "walls weigh").text() == "by their layers"
    before = window.desk.building.checked.path.applied.dead
    enter(qtbot, window, "walls weigh", "40 psf")
    assert window.desk.building.project.site.wall_dead == pytest.approx(40 * PSF)
    assert window.desk.building.checked.path.applied.dead > before
    enter(qtbot, window, "walls weigh", "")
    assert window.desk.building.project.site.wall_dead is None
    assert window.desk.building.checked.path.applied.dead == before


def test_plates_are_of_another_wood(window: Window, qtbot: QtBot) -> None:
    window.desk.select(the(f"run:{window.desk.building.project.runs[0].id}"))
    choose(window, "plates of walls", "DF-L")
    assert window.desk.building.project.site.plates == "DF-L"


def test_a_layup_and_what_a_maker_lets_be_bored_are_typed(window: Window, qtbot: QtBot) -> None:
    made = first_product(window.desk.building.project, "glulam")
    window.desk.edit("add", lambda p: add_product(p, made))
    window.desk.select(the(f"product:{made.id}"))
    QApplication.processEvents()
    enter(qtbot, window, "Fb, top in tension", "1450 psi")
    enter(qtbot, window, "hole up to, of depth", "0.25")
    item = window.desk.building.project.products[0]
    assert item.fb_hogging == pytest.approx(1450 * PSI)
    assert item.boring.hole == 0.25
    assert item.boring.notch == made.boring.notch


def test_the_code_of_the_concrete_is_chosen(window: Window, qtbot: QtBot) -> None:
    run = the(f"run:{window.desk.building.project.runs[0].id}")
    window.desk.select(run)
    footing = window.desk.building.checked.structure.of(kinds.FOOTING)[0]

    def clauses() -> set[str]:
        return {c.clause.split(" ")[0] for c in checks_of(window.desk.building.checked, footing)}

    assert clauses() <= {"ACI", "IRC"}
    choose(window, "checked by", "Eurocodes")
    assert window.desk.building.project.code == "us", "it says what changes, and asks"
    qtbot.mouseClick(answer(window, "Change the code"), Qt.MouseButton.LeftButton)
    assert window.desk.building.project.code == "eu"
    assert clauses() == {"EN"}
    window.desk.undo()
    assert window.desk.building.project.code == "us"
