"""Kill the program while it works, many times, and look what is left: no edit told as done may be
lost, no file harmed.

Run as ``.venv/bin/python tools/kill_many.py 200`` (without a window) or ``… 50 --window`` (edits
through the window, which needs a screen). Each round opens a project, edits it steadily and saves
now and then, and is killed at a random moment; then the file and the journal are read as the next
start would.
"""

import hashlib
import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from functools import partial
from pathlib import Path

sys.path[:0] = [str(Path(__file__).parents[1] / "src"), str(Path(__file__).parents[1] / "tests")]

from balken.exchange.native import to_text  # noqa: E402
from balken.model.edits import set_roof  # noqa: E402
from balken.model.project import Project  # noqa: E402
from balken.session import files  # noqa: E402
from balken.session.building import Building, open_building  # noqa: E402
from balken.session.journal import left_for  # noqa: E402
from buildings import house  # noqa: E402

WAITS = (0.02, 1.2)
"""Between so many seconds after the first edit the kill comes."""


def digest(project: Project) -> str:
    """A short name for a state of the project."""
    return hashlib.sha256(to_text(project)).hexdigest()[:16]


def edits(building: Building, n: int) -> str:
    """Do one edit, now and then save, and return what is told then."""
    building.edit(f"edit {n}", partial(set_roof, key="R1", rise=4.0 + (n % 80) / 10))
    if n % 9 == 0:
        building.save()
    return f"{n} {digest(building.project)}"


def steady(path: Path) -> None:
    """Edit without end, telling each edit when it is done."""
    building = open_building(path)
    building.keeping = True
    for n in range(1, 1_000_000):
        print(edits(building, n), flush=True)


def steady_in_a_window(path: Path) -> None:
    """The same through the window of the program."""
    from PySide6.QtCore import QTimer
    from PySide6.QtWidgets import QApplication

    from balken.desk.theme import LIGHT, apply, load_fonts
    from balken.desk.window import Window

    app = QApplication(["balken"])
    load_fonts()
    apply(app, LIGHT)
    window = Window(open_building(path))
    window.show()
    count = [0]

    def step() -> None:
        count[0] += 1
        n = count[0]
        window.desk.edit(f"edit {n}", partial(set_roof, key="R1", rise=4.0 + (n % 80) / 10))
        if n % 9 == 0:
            files.save(window.desk)
        print(f"{n} {digest(window.desk.building.project)}", flush=True)

    timer = QTimer()
    timer.timeout.connect(step)
    timer.start(0)
    app.exec()


def killed(path: Path, chance: random.Random, *, window: bool) -> list[str]:
    """Run the work in another process, kill it, and return what it told."""
    words = [sys.executable, __file__, "--child", str(path), *(["--window"] if window else [])]
    with subprocess.Popen(words, stdout=subprocess.PIPE, text=True, bufsize=1) as child:
        assert child.stdout is not None
        told = [child.stdout.readline()]
        time.sleep(chance.uniform(*WAITS))
        os.kill(child.pid, signal.SIGKILL)
        told += child.stdout.readlines()
    return [line.strip() for line in told if line.endswith("\n")]


def lost(path: Path, told: list[str]) -> int:
    """How many of the edits told as done are neither in the file nor in the journal."""
    states = [digest(open_building(path).project), *(digest(x.project) for x in left_for(path))]
    done = [line.split()[1] for line in told]
    kept = max((i for i, state in enumerate(done, 1) if state in states), default=0)
    # An edit may have been kept that was not told any more: the kill came between.
    last = int(told[-1].split()[0])
    following = digest(
        set_roof(open_building(path).project, "R1", rise=4.0 + ((last + 1) % 80) / 10)
    )
    return 0 if following in states else len(done) - kept


def main(rounds: int, *, window: bool) -> int:
    """Kill so many times; return how many rounds lost anything."""
    chance = random.Random(7)
    bad = edits_told = harmed = 0
    with tempfile.TemporaryDirectory() as folder:
        os.environ["BALKEN_STATE"] = f"{folder}/state"
        path = Path(folder) / "files" / "house.balken"
        path.parent.mkdir()
        Building(house()).save(path)
        for _ in range(rounds):
            told = killed(path, chance, window=window)
            edits_told += len(told)
            bad += bool(lost(path, told))
            harmed += os.listdir(path.parent) != [path.name]
            for left in left_for(path):
                left.path.unlink()
    print(
        f"{rounds} kills, {edits_told} edits told as done: {bad} rounds lost any, {harmed} left"
        " something beside the file"
    )
    return bad + harmed


if __name__ == "__main__":
    if "--child" in sys.argv:
        (steady_in_a_window if "--window" in sys.argv else steady)(Path(sys.argv[2]))
    else:
        sys.exit(1 if main(int(sys.argv[1]), window="--window" in sys.argv) else 0)
