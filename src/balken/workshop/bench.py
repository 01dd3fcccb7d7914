"""How fast it is: ratios of two things measured in turns within one run, so that a busy machine
spoils both alike."""

import gc
import os
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

import msgspec

from balken.design.codes.us.nds.bending import check
from balken.fit.findings import findings
from balken.framing.concrete import trim_concrete
from balken.model.edits import move_level
from balken.model.edits.grids import straight_grid
from balken.model.edits.supports import crossings_of, put_supports
from balken.model.edits.walls import WallKind, make_wall
from balken.model.labels import LabelRule
from balken.model.names import HostName, ThingName
from balken.model.new import empty_building
from balken.model.project import Project
from balken.recall import Recall, remembering
from balken.session.building import demo_project
from balken.session.desk import Pull
from balken.works.building import work_out
from balken.workshop import (
    bench_beams,
    bench_drawings,
    bench_files,
    bench_ground,
    bench_loads,
    bench_roofs,
    bench_walls,
)
from balken.workshop.screen import virtual_screen

if TYPE_CHECKING:
    from balken.desk.window import Window

BARE = """
from PySide6.QtWidgets import QApplication, QWidget
app = QApplication(["bare"]); w = QWidget(); w.resize(1280, 800); w.show()
for _ in range(4): app.processEvents()
"""
FIRST = """
from balken.desk import app
from PySide6.QtWidgets import QApplication
import os
def shown(*_):
    for _ in range(4): QApplication.processEvents()
    os._exit(0)
QApplication.exec = shown
app.run(None)
"""
WHOLE = """
from PySide6.QtWidgets import QApplication
from balken.desk.theme import LIGHT, apply, load_fonts
from balken.desk.window import Window
from balken.session.building import Building
from balken.exchange.native import load
from pathlib import Path
import sys
app = QApplication(["whole"]); load_fonts(); apply(app, LIGHT)
w = Window(Building(load(Path(sys.argv[1])))); w.show()
for _ in range(4): app.processEvents()
"""


def timed(work: Callable[[], object]) -> float:
    """How long work takes, seconds; what lies about is swept up before, as the window does
    when the hand rests."""
    gc.collect()
    gc.disable()
    try:
        start = time.perf_counter()
        work()
        return time.perf_counter() - start
    finally:
        gc.enable()


def compare(
    slow: Callable[[], object], fast: Callable[[], object], rounds: int
) -> tuple[float, float, float]:
    """The medians of both, measured in turns, and the median of their ratios."""
    pairs = [(timed(slow), timed(fast)) for _ in range(rounds)]
    ratios = [a / b for a, b in pairs]
    return (
        statistics.median(a for a, _ in pairs),
        statistics.median(b for _, b in pairs),
        statistics.median(ratios),
    )


def dragged_level(rounds: int) -> tuple[float, float, float]:
    """Compare a rebuild from nothing with one step of dragging Floor 2."""
    project = demo_project()
    recall = Recall()
    work_out(project, recall)
    steps = iter(range(1, 100_000))

    def drag() -> None:
        moved = move_level(project, "L2", 2689.225 + next(steps) * 0.5)
        findings(work_out(moved, recall), recall)

    def rebuild() -> None:
        moved = move_level(project, "L2", 2689.225 + next(steps) * 0.5)
        findings(work_out(moved))

    rebuild()
    drag()
    return compare(rebuild, drag, rounds)


def sizing(rounds: int) -> tuple[float, float, float]:
    """Compare checking members one by one with checking them side by side."""
    host = work_out(demo_project()).hosts[HostName("floor", "F2")][0].among
    assert host is not None, "the joists of the demo have values"
    batch = host.batch
    n = len(batch.sections)
    ones = [bench_loads.one_of(batch, i) for i in range(n)]
    return compare(lambda: [check(b) for b in ones], lambda: check(batch), rounds)


def window(rounds: int) -> tuple[float, float, float]:
    """Compare the start of the window with the demo against the start of a bare Qt window, each a
    new process."""
    return _started(WHOLE, rounds)


def first_page(rounds: int) -> tuple[float, float, float]:
    """Compare the start of the program until its first page answers against the start of a bare Qt
    window, each a new process."""
    return _started(FIRST, rounds)


def _started(code: str, rounds: int) -> tuple[float, float, float]:
    import tempfile
    from pathlib import Path

    from balken.exchange.native import save

    with tempfile.TemporaryDirectory() as folder, virtual_screen() as environment:
        path = Path(folder) / "demo.balken"
        save(demo_project(), path)
        environment["PYTHONPATH"] = os.environ.get("PYTHONPATH", "")

        def start(code: str) -> None:
            subprocess.run([sys.executable, "-c", code, str(path)], env=environment, check=True)

        start(BARE)
        start(code)
        return compare(lambda: start(code), lambda: start(BARE), max(3, rounds // 2))


def _window(project: Project) -> "Window":
    """A window that shows a project, on the screen that is there."""
    from PySide6.QtWidgets import QApplication

    from balken.desk.app import rest_collector
    from balken.desk.theme import LIGHT, apply, load_fonts
    from balken.desk.window import Window
    from balken.session.building import Building

    rest_collector()
    app = QApplication.instance() or QApplication(["bench"])
    assert isinstance(app, QApplication)
    load_fonts()
    apply(app, LIGHT)
    window = Window(Building(project))
    window.show()
    app.processEvents()
    return window


def _bare(window: "Window") -> Callable[[], object]:
    """A repaint of the very drawing the board shows, by Qt with nothing between: every mark
    painted each time."""
    from PySide6.QtGui import QPainter, QPaintEvent
    from PySide6.QtWidgets import QWidget

    from balken.desk.paint import Easel
    from balken.desk.plan_view import MM_PX

    plan = window.plan
    marks = (*plan.below, *plan.lines, *plan.notes(plan.paper))

    class Bare(QWidget):
        def paintEvent(self, event: QPaintEvent) -> None:
            Easel(QPainter(self), window.theme, plan.to_pixel, MM_PX).paint(marks)

    bare = Bare()
    bare.resize(plan.size())
    return bare.grab


def dragged_wall(rounds: int) -> tuple[float, float, float]:
    """Compare a bare repaint of the demo's walls with what the plan does for one move of a wall in
    the hand."""
    window = _window(demo_project())
    window.desk.work_in(ThingName("walls", "L1"))
    window.desk.select(HostName("wall", "W103"))
    plan = window.plan
    plan.grab()
    plan._dragging, steps = True, iter(range(1, 10**6))

    def move() -> None:
        plan._vector = (0.0, 25.4 * next(steps))
        plan.grab()

    try:
        return compare(_bare(window), move, rounds * 3)
    finally:
        _close(window)


def dragged_wall_whole(rounds: int) -> tuple[float, float, float]:
    """Compare one whole step of dragging a wall of the demo, all of the window with it, with a bare
    repaint of its plan."""
    from PySide6.QtWidgets import QApplication

    window = _window(demo_project())
    window.desk.work_in(ThingName("walls", "L1"))
    steps = iter(range(1, 10**6))

    def step() -> None:
        by = (0.0, 25.4 * (next(steps) % 40))
        window.drag.drag_now(HostName("wall", "W103"), Pull((0.0, 0.0), by))
        QApplication.processEvents()

    try:
        step()
        return compare(step, _bare(window), rounds * 3)
    finally:
        _close(window)


def panned(project: Project, rounds: int) -> tuple[float, float, float]:
    """Compare a bare repaint of a plan with one frame of panning and one of zooming it."""
    from PySide6.QtCore import QPointF

    window = _window(project)
    window.plan.grab()
    signs = iter(range(10**6))

    def frame() -> None:
        n = next(signs)
        window.plan.offset += QPointF(5.0 if n % 2 else -5.0, 3.0 if n % 4 < 2 else -3.0)
        window.plan.grab()
        window.plan.zoom(1.01 if n % 2 else 1 / 1.01)
        window.plan.grab()

    try:
        return compare(_bare(window), frame, rounds)
    finally:
        _close(window)


def _close(window: "Window") -> None:
    window._closing = True
    window.close()
    window.deleteLater()


def many_posts(rounds: int) -> tuple[float, float, float]:
    """Pan and zoom a grid of 60 × 60 lines with a post at each crossing."""
    project = straight_grid(
        empty_building("Posts", "metric"),
        (0.0, 0.0),
        0.0,
        (6000.0,) * 59,
        (6000.0,) * 59,
        LabelRule("numbers"),
        LabelRule("letters"),
    )
    return panned(put_supports(project, "post", crossings_of(project)), max(3, rounds // 2))


def many_walls(rounds: int) -> tuple[float, float, float]:
    """Pan and zoom a plan of 2,000 walls."""
    project = empty_building("Walls", "metric")
    kind = WallKind("L1", "P1", thickness=150.0, by="core centre")
    lines = [((c * 4e3, r * 4e3), (c * 4e3 + 4e3, r * 4e3)) for r in range(32) for c in range(32)]
    lines += [((c * 4e3, r * 4e3), (c * 4e3, r * 4e3 + 4e3)) for r in range(31) for c in range(32)]
    walls = tuple(make_wall(project, kind, f"W{i}", a, b) for i, (a, b) in enumerate(lines[:2000]))
    return panned(msgspec.structs.replace(project, walls=walls), max(3, rounds // 2))


def foundations(rounds: int) -> tuple[float, float, float]:
    """Compare framing and trimming the foundations of 199 walls on 3,000 heights with a step of
    dragging one wall.

    Steps of a drag follow one another, so five are measured in a row.
    """
    project, recall = bench_ground.storey(), Recall()
    steps = iter(range(10**6))

    def again(known: Recall) -> None:
        with remembering(known):
            bench_ground.framed(bench_ground.dragged(project, next(steps)))

    def drag() -> None:
        for _ in range(5):
            again(recall)

    drag()
    whole, five, ratio = compare(lambda: again(Recall()), drag, rounds)
    return whole, five / 5, 5 * ratio


def concrete_once(rounds: int) -> tuple[float, float, float]:
    """Compare trimming all concrete of those foundations with manifold3d's own union of the same
    bodies."""
    structure = bench_ground.framed(bench_ground.storey())
    return compare(
        lambda: trim_concrete(structure.members),
        lambda: bench_ground.union_volume(structure),
        rounds,
    )


INSIDE = "BALKEN_BENCH_INSIDE"


def run(rounds: int) -> int:
    """Print every ratio, on a virtual screen of its own; return the exit code."""
    if not os.environ.get(INSIDE):
        with virtual_screen() as environment:
            command = [sys.executable, "-P", "-m", "balken", "bench", "--rounds", str(rounds)]
            return subprocess.call(command, env={**environment, INSIDE: "1"})
    figures: tuple[tuple[str, str, str, Callable[[int], tuple[float, float, float]]], ...] = (
        ("dragged level", "rebuild from nothing", "one step of the drag", dragged_level),
        ("sizing", "one member at a time", "the whole floor at once", sizing),
        ("wall in the hand", "bare repaint of the plan", "the plan's answer", dragged_wall),
        (
            "wall dragged, all",
            "one step, whole window",
            "bare repaint of the plan",
            dragged_wall_whole,
        ),
        ("foundations", "199 walls from nothing", "one step of a wall's drag", foundations),
        ("concrete once", "all bodies trimmed", "manifold3d's union of them", concrete_once),
        (
            "large storey framed",
            "from nothing",
            "one step of a grid line's drag",
            partial(bench_beams.framed_again, compare=compare),
        ),
        (
            "… loads, checks, fit",
            "from nothing",
            "one step of a grid line's drag",
            partial(bench_beams.dragged_line, compare=compare),
        ),
        (
            "beams in a batch",
            "PyNiteFEA, one by one",
            "all of them at once",
            partial(bench_beams.analysed, compare=compare),
        ),
        (
            "roof of 100 sides",
            "a hundred contours by offsets",
            "all its planes",
            partial(bench_roofs.planes, compare=compare),
        ),
        (
            "1,000 trusses",
            "PyNiteFEA, one by one",
            "all of them at once",
            partial(bench_roofs.trusses, compare=compare),
        ),
        (
            "a pitch dragged",
            "from nothing",
            "one step of the drag",
            partial(bench_roofs.pitch, compare=compare),
        ),
        (
            "10,000 over 30 sizes",
            "one by one",
            "all in one batch",
            partial(bench_loads.sized_at_once, compare=compare),
        ),
        (
            "way of the loads",
            "twenty times as large",
            "a house (the ratio is the exponent)",
            partial(bench_loads.way_of_loads, compare=compare),
        ),
        (
            "whole building sized",
            "its snow doubled, roof to footing",
            "worked out once",
            partial(bench_loads.whole_sized, compare=compare),
        ),
        (
            "snow 30 to 60 psf",
            "from nothing",
            "the answer to the edit",
            partial(bench_loads.snow_doubled, compare=compare),
        ),
        (
            "400 walls framed",
            "from nothing",
            "one step of an opening's drag",
            partial(bench_walls.opening_dragged, compare=compare),
        ),
        (
            "600 headers",
            "one by one",
            "side by side",
            partial(bench_walls.headers, compare=compare),
        ),
        (
            "1,500 hidden lines",
            "a tree of outlines",
            "edges clipped",
            partial(bench_drawings.hidden_lines, compare=compare),
        ),
        (
            "plan of 20,000",
            "a tenth of it, ten times",
            "one plan of them all",
            partial(bench_drawings.framing_plan, compare=compare),
        ),
        (
            "all sheets",
            "from nothing",
            "after a note is written",
            partial(bench_drawings.sheets_again, compare=compare),
        ),
        (
            "all sheets",
            "on one core",
            "on all",
            partial(bench_drawings.sheets_on_all_cores, compare=compare),
        ),
        (
            "structure file of 20,000 members",
            "by plain calls of the library",
            "as it is written",
            partial(bench_files.structure_file, compare=compare),
        ),
        ("60 × 60 posts", "bare repaint", "pan and zoom, two frames", many_posts),
        ("2,000 walls", "bare repaint", "pan and zoom, two frames", many_walls),
        ("start of the program", "until its first page answers", "a bare Qt window", first_page),
        ("start of the window", "with the demo building", "a bare Qt window", window),
    )
    print(
        f"medians of {rounds} rounds in turns; only the ratios mean anything from machine to"
        " machine"
    )
    for name, first, second, measure in figures:
        a, b, ratio = measure(rounds)
        print(
            f"{name:<20} {first} {a * 1000:8.1f} ms   {second} {b * 1000:8.1f} ms   ratio"
            f" {ratio:6.2f}"
        )
    return 0
