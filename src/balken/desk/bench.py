"""How fast it is: ratios of two things measured in turns within one run, so that a busy machine spoils both alike."""

import os
import statistics
import subprocess
import sys
import time
from collections.abc import Callable

import msgspec
import numpy as np

from balken.design.building import work_out
from balken.design.nds.bending import Batch, check
from balken.desk.screen import virtual_screen
from balken.fit.findings import findings
from balken.model.edits import move_level
from balken.model.memo import Memo
from balken.session.building import demo_project

BARE = """
from PySide6.QtWidgets import QApplication, QWidget
app = QApplication(["bare"]); w = QWidget(); w.resize(1280, 800); w.show()
for _ in range(4): app.processEvents()
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
    """Return how long work takes, seconds."""
    start = time.perf_counter()
    work()
    return time.perf_counter() - start


def compare(slow: Callable[[], object], fast: Callable[[], object], rounds: int) -> tuple[float, float, float]:
    """Return the medians of both, measured in turns, and the median of their ratios."""
    pairs = [(timed(slow), timed(fast)) for _ in range(rounds)]
    ratios = [a / b for a, b in pairs]
    return statistics.median(a for a, _ in pairs), statistics.median(b for _, b in pairs), statistics.median(ratios)


def dragged_level(rounds: int) -> tuple[float, float, float]:
    """Compare a rebuild from nothing with one step of dragging Floor 2."""
    project = demo_project()
    memo = Memo()
    work_out(project, memo)
    steps = iter(range(1, 100_000))

    def drag() -> None:
        moved = move_level(project, "L2", 2689.225 + next(steps) * 0.5)
        findings(work_out(moved, memo), memo)

    def rebuild() -> None:
        moved = move_level(project, "L2", 2689.225 + next(steps) * 0.5)
        findings(work_out(moved))

    rebuild()
    drag()
    return compare(rebuild, drag, rounds)


def sizing(rounds: int) -> tuple[float, float, float]:
    """Compare checking members one by one with checking them side by side."""
    host = work_out(demo_project()).hosts["floor:F2"]
    batch = host.batch
    n = len(batch.sections)
    ones = [_one(batch, i) for i in range(n)]
    return compare(lambda: [check(b) for b in ones], lambda: check(batch), rounds)


def _one(batch: Batch, i: int) -> Batch:
    fields: dict[str, object] = {}
    for name in batch.__struct_fields__:
        value = getattr(batch, name)
        if isinstance(value, np.ndarray):
            fields[name] = value[..., i : i + 1]
        elif name in ("sections", "values"):
            fields[name] = (value[i],)
    return msgspec.structs.replace(batch, **fields)


def window(rounds: int) -> tuple[float, float, float]:
    """Compare the start of the window with the demo against the start of a bare Qt window, each a new process."""
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
        start(WHOLE)
        return compare(lambda: start(WHOLE), lambda: start(BARE), max(3, rounds // 2))


def run(rounds: int) -> None:
    """Print every ratio."""
    figures: tuple[tuple[str, str, str, Callable[[int], tuple[float, float, float]]], ...] = (
        ("dragged level", "rebuild from nothing", "one step of the drag", dragged_level),
        ("sizing", "one member at a time", "the whole floor at once", sizing),
        ("start of the window", "with the demo building", "a bare Qt window", window),
    )
    print(f"medians of {rounds} rounds in turns; only the ratios mean anything from machine to machine")
    for name, first, second, measure in figures:
        a, b, ratio = measure(rounds)
        print(f"{name:<20} {first} {a * 1000:8.1f} ms   {second} {b * 1000:8.1f} ms   ratio {ratio:6.1f}")
