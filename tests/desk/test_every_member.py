"""Whatever is selected has a slip, and whatever a slip offers can be chosen: nothing goes wrong
inside the program.

``BALKEN_STRIDE=1`` tries every choice of every kind of member; without it, every few.
"""

import os
from collections.abc import Callable

import pytest
from PySide6.QtWidgets import QApplication, QComboBox
from pytestqt.qtbot import QtBot

from balken.desk.window import Window
from balken.drawing.figure import figure
from balken.framing import kinds
from balken.framing.member import Member
from balken.model.edits.roofs import set_roof
from balken.model.project import Project
from balken.recall import Recall, remembering
from balken.session import files
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import checks_of, work_out

STRIDE = int(os.environ.get("BALKEN_STRIDE", "67"))


def with_a_heel() -> Project:
    """The bakehouse with its rafters blocked up: jacks then have no heel cut over the wall."""
    return set_roof(shown_demo(), "R1", heel=300.0)


@pytest.mark.parametrize("building", [shown_demo, ferry_hall, with_a_heel])
def test_every_member_has_its_figure_and_the_checks_it_is_told_by(
    building: Callable[[], Project],
) -> None:
    checked = work_out(building())
    chords = (kinds.TOP_CHORD, kinds.BOTTOM_CHORD, kinds.WEB)
    with remembering(Recall()):  # as the window does
        for m in checked.structure.members:
            assert figure(checked, m), m.id
            found = checks_of(checked, m)
            if m.id in checked.used and m.kind not in chords:
                most = max(c.ratio for c in found)
                assert most == pytest.approx(checked.used[m.id][0], rel=1e-9), m.id


def one_of_each(checked_members: tuple[Member, ...]) -> list[Member]:
    """One member of each role and host."""
    return list({(m.role, str(m.host).split(":")[0]): m for m in checked_members}.values())


@pytest.mark.long
@pytest.mark.parametrize("building", [shown_demo, ferry_hall])
def test_every_choice_of_every_slip_can_be_made(
    window: Window, qtbot: QtBot, building: Callable[[], Project]
) -> None:
    files.show_building(window.desk, Building(building()))
    tried = 0
    for m in one_of_each(window.desk.building.checked.structure.members):
        window.desk.select(m.id)
        assert window.slip.widget().findChildren(object), m.id
        window.grab()
        for place in range(len(boxes(window))):
            count = boxes(window)[place].count()
            for i in range(tried % STRIDE, count, STRIDE):
                window.desk.select(m.id)
                here = boxes(window)
                if place >= len(here) or i >= here[place].count():
                    continue
                here[place].setCurrentIndex(i)
                here[place].activated.emit(i)
                QApplication.processEvents()
                tried += 1
                assert window.desk.faults == (), (m.id, i, window.desk.faults[0].trace)
                while window.desk.building.history.done:
                    window.desk.undo()
                assert window.desk.faults == ()
    assert tried > 10


def boxes(window: Window) -> list[QComboBox]:
    """The choices of the slip that is shown."""
    return window.slip.widget().findChildren(QComboBox)
