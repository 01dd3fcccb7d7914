"""Pictures of every main view, from the demo, with no one at the screen."""

import os
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from balken.model.names import HostName, ThingName, member_name
from balken.session import mending, others, setting
from balken.workshop.screen import virtual_screen

if TYPE_CHECKING:
    from balken.desk.window import Window

INSIDE = "BALKEN_SHOTS_INSIDE"
STEP = 22
"""Of the order of setting, from 0: a storey is being framed."""
PICTURES = 6
"""Small pictures of sheets that are drawn before the shot of paper is taken."""


def run() -> int:
    """Make all pictures again; return the exit code."""
    if not os.environ.get(INSIDE):
        with virtual_screen() as environment:
            command = [sys.executable, "-P", "-m", "balken", "shots"]
            return subprocess.call(command, env={**environment, INSIDE: "1"})
    root = Path(os.environ.get("BALKEN_ROOT", "."))
    folder = root / "docs" / "screenshots"
    folder.mkdir(parents=True, exist_ok=True)
    for name in take_all(folder):
        print(f"docs/screenshots/{name}")
    return 0


def take_all(folder: Path) -> list[str]:
    """Take every picture into a folder; return their names."""
    from PySide6.QtWidgets import QApplication

    from balken.desk.start_page import StartPage
    from balken.desk.theme import LIGHT, apply, load_fonts
    from balken.desk.window import Window
    from balken.session.building import Building
    from balken.session.demo import shown_demo

    app = QApplication.instance() or QApplication(["balken"])
    assert isinstance(app, QApplication)
    load_fonts()
    apply(app, LIGHT)
    taken = []

    def settle() -> None:
        for _ in range(6):
            app.processEvents()

    page = StartPage(LIGHT, lambda building: None)
    page.show()
    while not page.section.drawing:  # it comes after the page
        settle()
    page.grab().save(str(folder / "start.png"))
    taken.append("start.png")
    page.close()
    window = Window(Building(shown_demo()))
    window.show()
    settle()
    for name, prepare in views(window):
        prepare()
        settle()
        window.grab().save(str(folder / name))
        taken.append(name)
    window._closing = True
    window.close()
    return [*taken, *_hall(folder, settle)]


def _hall(folder: Path, settle: "Callable[[], None]") -> list[str]:
    """Take the pictures of the second demo building: a main beam on its slip, and the whole in
    space."""
    from balken.desk.window import Window
    from balken.session.building import Building
    from balken.session.ferry_hall import ferry_hall

    window = Window(Building(ferry_hall()))
    window.show()
    window.desk.work_in(HostName("floor", "F1"))
    window.desk.select(member_name("beam:B6/beam:1"))
    settle()
    window.grab().save(str(folder / "beams.png"))
    window.desk.show_view("space")
    window.desk.select(member_name("roof:R1/bottom chord:12"))
    settle()
    window.grab().save(str(folder / "hall.png"))
    window._closing = True
    window.close()
    return ["beams.png", "hall.png"]


def views(window: "Window") -> list[tuple[str, Callable[[], None]]]:
    """The pictures and what leads to each, in order."""
    from msgspec.structs import replace
    from PySide6.QtCore import QEvent, Qt
    from PySide6.QtGui import QMouseEvent
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QApplication

    from balken.model.project import wall
    from balken.session.building import DEMO

    def set_out() -> None:
        window.desk.show_view("plan")
        window.desk.work_in(ThingName("walls", "L1"))
        window.desk.start("Wall")
        plan = window.plan
        for place, click in (((4000.0, 3962.4), True), ((4000.0, 6400.0), False)):
            at = plan.to_pixel(place)
            none, hand = Qt.MouseButton.NoButton, Qt.KeyboardModifier.NoModifier
            move = QMouseEvent(QEvent.Type.MouseMove, at, plan.mapToGlobal(at), none, none, hand)
            QApplication.sendEvent(plan, move)
            if click:
                QTest.mouseClick(plan, Qt.MouseButton.LeftButton, pos=at.toPoint())

    def walls() -> None:
        window.desk.select(HostName("wall", "W204"))
        window.desk.show_view("upright")
        window.upright._turn("wall")

    def upright() -> None:
        window.desk.leave_tool()
        window.desk.show_view("upright")
        window.upright.show_word("section")
        window.desk.select(member_name("floor:F2/joist:14a"))

    def version() -> None:
        from balken.exchange.ifc_in import take
        from balken.model.edits import move_level

        new = move_level(take(DEMO), "L2", 2689.225 - 19.05)
        north = wall(new, "W103")
        door, *rest = north.openings
        moved = replace(north, openings=(replace(door, at=door.at + 609.6), *rest))
        walls = tuple(moved if w.id == "W103" else w for w in new.walls if w.name != "middle 2")
        window.desk.show_view("plan")
        others.compare_with(window.desk, replace(new, walls=walls))
        update = window.desk.comparing
        assert update is not None, "it was just compared"
        others.look_at(window.desk, update.open[1])

    def roof() -> None:
        others.end_comparison(window.desk)
        window.desk.say("")
        window.desk.select(member_name("roof:R1/rafter:W201.02"))
        QApplication.processEvents()
        bar = window.slip.verticalScrollBar()
        bar.setValue(bar.maximum())  # where it is laid out with the square

    def space() -> None:
        window.desk.show_view("space")

    def paper() -> None:
        window.desk.select(None)
        window.desk.show_view("paper")
        window.paper.look_at("S3")
        while window.paper.sheet is None or len(window.paper._small) < PICTURES:
            QApplication.processEvents()

    def lists() -> None:
        window.desk.show_view("plan")
        window.desk.work_in(HostName("floor", "F2"))
        window.desk.turn_lists()
        panel = window.board.lists
        panel.which.setCurrentIndex(panel.which.findData("setting"))
        setting.look_at_number(window.desk, STEP)
        while not window.space.ready:
            QApplication.processEvents()

    def mend() -> None:
        setting.end_setting(window.desk)
        window.desk.turn_lists()
        window.desk.show_view("plan")
        window.desk.work_in(HostName("floor", "F2"))
        mending.mend(window.desk, 0)

    def spans() -> None:
        window.desk.armed = -1
        window.desk.say("")
        window.desk.refresh()
        window.panel("spans")

    def choices() -> None:
        window.panel("spans")
        window.desk.work_in(HostName("floor", "F1"))
        window.desk.compared = HostName("floor", "F1")
        window.desk.select(ThingName("page", "choices"))

    def reserve() -> None:
        window.desk.turn_reserve()
        window.desk.show_view("space")
        while not window.board.space.ready:
            QApplication.processEvents()
            window.board.space.grab()

    def book() -> None:
        window.desk.turn_reserve()
        window.desk.show_book()
        while not window.paper.pages:
            QApplication.processEvents()
        window.paper.turn(3)
        while window.paper.sheet is None:
            QApplication.processEvents()

    return [
        ("floor.png", lambda: window.desk.select(member_name("floor:F2/joist:14a"))),
        ("ground.png", lambda: window.desk.work_in(HostName("run", "G1"))),
        ("basement.png", lambda: window.desk.select(member_name("run:G2/stem:W101"))),
        ("walls.png", walls),
        ("set-out.png", set_out),
        ("upright.png", upright),
        ("new-version.png", version),
        ("roof.png", roof),
        ("space.png", space),
        ("paper.png", paper),
        ("lists.png", lists),
        ("mend.png", mend),
        ("spans.png", spans),
        ("choices.png", choices),
        ("reserve.png", reserve),
        ("book.png", book),
    ]
