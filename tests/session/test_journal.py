"""Nothing is lost: every edit is in the journal before it is told as done, and a journal belongs to
its own project."""

import os
import random
import signal
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path

import pytest

from balken.exchange.files import FileConflict, FileError
from balken.exchange.native import load, to_text
from balken.model.edits import move_wall, set_floor, set_roof
from balken.model.project import Project
from balken.session.building import Building, open_building
from balken.session.journal import (
    SUFFIX,
    Journal,
    differences,
    folder,
    is_open_elsewhere,
    left_behind,
    left_for,
    left_without_file,
    read_journal,
    spliced,
)
from buildings import house

EDITS: tuple[Callable[[int], Callable[[Project], Project]], ...] = (
    lambda n: partial(set_roof, key="R1", rise=4.0 + n % 8),
    lambda n: partial(set_floor, key="F1", live=0.0019 + 1e-6 * n),
    lambda n: partial(move_wall, key="W13", by=(-1.0) ** n * (10.0 + n % 7)),
)


def left_by_a_child(work: Callable[[Callable[[str], None]], None], after: float) -> list[str]:
    """Run something in a child of this process, kill it after a time, and return what it told until
    then."""
    reads, writes = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(reads)
        try:
            work(lambda words: os.write(writes, words.encode() + b"\n") and None)
        finally:
            os._exit(0)
    os.close(writes)
    time.sleep(after)
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    with os.fdopen(reads, "rb") as stream:
        return stream.read().decode().split("\n")[:-1]


def test_kills_at_any_moment_lose_nothing(tmp_path: Path) -> None:
    """Steady work, saved now and then, killed at random moments: all edits told as done are in the
    file or the journal."""
    chance = random.Random(11)
    plain = house()
    (tmp_path / "files").mkdir()
    path = tmp_path / "files" / "house.balken"
    Building(plain).save(path)

    def work(tell: Callable[[str], None]) -> None:
        building = open_building(path)
        building.keeping = True
        for n in range(1, 100_000):
            building.edit(f"edit {n}", EDITS[n % 3](n))
            tell(f"{n} {hash_of(building.project)}")
            if n % 13 == 0:
                building.save()
                tell(f"{n} {hash_of(building.project)}")

    for _ in range(12):
        told = left_by_a_child(work, 0.05 + chance.random() * 0.5)
        saved = open_building(path).project
        mine = left_for(path)
        assert [p.name for p in path.parent.iterdir()] == [path.name], "no part of a file is left"
        if told:
            # One edit more may be kept than was told: the kill came between.
            kept = [saved, *(_all_states(mine[-1].path) if mine else [])][-2:]
            assert told[-1].split()[1] in {hash_of(p) for p in kept}, told[-1]
        for left in mine:
            left.path.unlink()


def _all_states(path: Path) -> list[Project]:
    """The project after each edit that a journal holds."""
    lines = path.read_bytes().split(b"\n")[:-1]
    found = []
    for count in range(3, len(lines) + 1):
        part = path.with_name("part" + SUFFIX)
        part.write_bytes(b"\n".join(lines[:count]) + b"\n")
        left = read_journal(part)
        part.unlink()
        if left is not None:
            found.append(left.project)
    return found


def hash_of(project: Project) -> str:
    import hashlib

    return hashlib.sha256(to_text(project)).hexdigest()


def test_a_journal_gives_back_what_was_edited(tmp_path: Path) -> None:
    building = Building(house(), keeping=True)
    for n in range(1, 7):
        building.edit(f"edit {n}", EDITS[n % 3](n))
    building.undo()
    (left,) = left_of_all(building)
    assert left.project == building.project
    assert left.edits == 7
    assert left.head.name == "House"
    assert left.head.file == ""
    assert left.path.stat().st_mode & 0o077 == 0, "others do not read unsaved work"
    saved = building.save(tmp_path / "a.balken")
    assert left_of_all(building) == []
    assert load(saved).identity == building.identity


def left_of_all(building: Building) -> list:  # type: ignore[type-arg]
    """What would be left behind if the program died now: read though the window lives."""
    return [x for p in folder().glob(f"*{SUFFIX}") if (x := read_journal(p)) is not None]


def test_undone_to_what_is_saved_leaves_no_journal(tmp_path: Path) -> None:
    building = Building(house())
    building.save(tmp_path / "a.balken")
    building.keeping = True
    building.edit("pitch", EDITS[0](1))
    assert len(left_of_all(building)) == 1
    building.undo()
    assert left_of_all(building) == []
    building.redo()
    assert len(left_of_all(building)) == 1


def test_two_windows_have_two_journals_and_neither_takes_the_others(tmp_path: Path) -> None:
    path = Building(house()).save(tmp_path / "a.balken")
    first, second = open_building(path), open_building(path)
    first.keeping = second.keeping = True
    first.edit("pitch", EDITS[0](1))
    second.edit("load", EDITS[1](2))
    assert len(left_of_all(first)) == 2
    assert left_behind() == (), "both are held by living windows"
    assert is_open_elsewhere(path)
    second.save()
    assert len(left_of_all(first)) == 1, "the other's work is still kept"
    with pytest.raises(FileConflict, match="changed by somebody else"):
        first.save()
    assert load(path).floors == second.project.floors
    first.save(over=True)
    assert load(path).roofs == first.project.roofs


def test_work_belongs_to_its_own_file(tmp_path: Path) -> None:
    """Two buildings without a file, and one with: what a killed program leaves is offered to none
    of the others."""
    path = Building(house()).save(tmp_path / "a.balken")

    def work(tell: Callable[[str], None]) -> None:
        for building in (Building(house(40 * 304.8)), open_building(path)):
            building.keeping = True
            building.edit("pitch", EDITS[0](1))
        tell("done")
        time.sleep(30)

    assert left_by_a_child(work, 3.0) == ["done"]
    assert [x.head.file for x in left_for(path)] == [str(path)]
    assert len(left_without_file()) == 1
    other = Building(house(storeys=2)).save(tmp_path / "b.balken")
    assert left_for(other) == ()
    open_building(path).save()
    assert left_for(path) == (), "saving over the file gives up what was left of it"
    assert len(left_without_file()) == 1


def test_half_a_line_does_not_count(tmp_path: Path) -> None:
    building = Building(house(), keeping=True)
    building.edit("pitch", EDITS[0](1))
    before = building.project
    building.edit("load", EDITS[1](2))
    (path,) = folder().glob(f"*{SUFFIX}")
    data = path.read_bytes()
    for cut in (1, 2, 7):
        path.write_bytes(data[:-cut])
        left = read_journal(path)
        assert left is not None
        assert left.project == before
    path.write_bytes(b"half a f")
    assert read_journal(path) is None, "a damaged journal is no reason not to start"
    path.write_bytes(b"\xff" * 4000)
    assert read_journal(path) is None


def test_splices_say_what_changed_and_no_more() -> None:
    plain = house()
    for n in range(6):
        after = EDITS[n % 3](n)(plain)
        splices = differences(plain, after)
        assert sum(len(s.values) for s in splices if s.stop >= 0) <= 5, (
            "a wall, and those that end at it"
        )
        import json

        import msgspec

        raw = json.loads(to_text(plain))
        back = spliced(
            raw,
            msgspec.json.decode(msgspec.json.encode(splices), type=tuple[type(splices[0]), ...]),
        )
        assert back == json.loads(to_text(after))


def test_where_nothing_can_be_kept_it_is_said_and_the_edit_stands(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    monkeypatch.setenv("BALKEN_STATE", "/proc/nowhere")
    building = Building(house(), keeping=True)
    building.edit("pitch", EDITS[0](1))
    assert building.history.done
    assert "cannot be made" in building.unkept
    with pytest.raises(FileError):
        Journal.begin(building.project, "x", None)


def test_a_long_journal_is_begun_anew(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("balken.session.journal.LONGEST", 1000)
    building = Building(house(), keeping=True)
    for n in range(1, 5):
        building.edit(f"edit {n}", EDITS[n % 3](n))
    (left,) = left_of_all(building)
    assert left.project == building.project
    assert left.edits == 1
