"""Pictures of every main view, from the demo, with no one at the screen."""

import os
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from balken.desk.screen import virtual_screen

if TYPE_CHECKING:
    from balken.desk.window import Window

INSIDE = "BALKEN_SHOTS_INSIDE"


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
    from balken.session.building import Building, demo_project

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
    settle()
    page.grab().save(str(folder / "start.png"))
    taken.append("start.png")
    page.close()
    window = Window(Building(demo_project()))
    window.show()
    settle()
    for name, prepare in views(window):
        prepare()
        settle()
        window.grab().save(str(folder / name))
        taken.append(name)
    window._closing = True
    window.close()
    return taken


def views(window: "Window") -> list[tuple[str, Callable[[], None]]]:
    """Return the pictures and what leads to each, in order."""

    def why() -> None:
        window.slip.open_check = 0
        window.refresh()

    def space() -> None:
        window.show_view("space")
        window.select("roof:R1/rafter:06a")

    def paper() -> None:
        window.select("")
        window.show_view("paper")
        window.paper.turn(3)

    def mend() -> None:
        window.show_view("plan")
        window.work_in("floor:F2")
        window.mend(0)

    def spans() -> None:
        window.fit.rows.armed = -1
        window.say("")
        window.refresh()
        window.quick_spans()

    def dark() -> None:
        window.quick_spans()
        window.toggle_theme()
        window.show_view("space")

    return [
        ("floor.png", lambda: window.select("floor:F2/joist:14a")),
        ("why.png", why),
        ("ground.png", lambda: window.work_in("run:G1")),
        ("walls.png", lambda: window.select("wall:W101")),
        ("roof.png", lambda: window.select("roof:R1/rafter:06a")),
        ("space.png", space),
        ("paper.png", paper),
        ("mend.png", mend),
        ("spans.png", spans),
        ("dark.png", dark),
    ]
