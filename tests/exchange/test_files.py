"""Files are written whole or not at all, and nobody else's by accident; what cannot be read or
written is said in a sentence."""

import errno
import os
from pathlib import Path

import pytest

from balken.exchange.files import (
    LONGEST_NAME,
    FileConflict,
    FileError,
    make_folder,
    read_bytes,
    write_all,
    write_atomic,
)
from balken.session.building import Building, open_building, with_suffix
from balken.session.demo import shown_demo


def test_a_file_is_there_whole_and_nothing_beside_it(tmp_path: Path) -> None:
    path = tmp_path / "a.txt"
    write_atomic(path, b"one")
    write_atomic(path, b"two")
    assert path.read_bytes() == b"two"
    assert os.listdir(tmp_path) == ["a.txt"]


def test_the_rights_of_a_file_stay_and_a_private_one_is_private(tmp_path: Path) -> None:
    path = tmp_path / "a.txt"
    write_atomic(path, b"one")
    path.chmod(0o640)
    write_atomic(path, b"two")
    assert path.stat().st_mode & 0o777 == 0o640
    write_atomic(tmp_path / "b.txt", b"mine", private=True)
    assert (tmp_path / "b.txt").stat().st_mode & 0o777 == 0o600


def test_a_link_stands_for_what_it_points_to_or_is_refused(tmp_path: Path) -> None:
    far, link = tmp_path / "far.txt", tmp_path / "link.txt"
    far.write_text("old")
    link.symlink_to(far)
    write_atomic(link, b"new")
    assert link.is_symlink()
    assert far.read_text() == "new"
    with pytest.raises(FileError, match="is a link to another file"):
        write_atomic(link, b"newer", follow=False)
    assert far.read_text() == "new"


def test_a_loop_of_links_is_an_error_in_words(tmp_path: Path) -> None:
    (tmp_path / "a").symlink_to(tmp_path / "b")
    (tmp_path / "b").symlink_to(tmp_path / "a")
    with pytest.raises(FileError):
        write_atomic(tmp_path / "a", b"x")
    with pytest.raises(FileError):
        read_bytes(tmp_path / "a")


def test_a_read_only_file_is_left_alone(tmp_path: Path) -> None:
    path = tmp_path / "a.txt"
    path.write_text("old")
    path.chmod(0o444)
    with pytest.raises(FileError, match="read-only"):
        write_atomic(path, b"new")
    assert path.read_text() == "old"


@pytest.mark.parametrize("name", ["a" * 300, "ü" * 200, "nul\0name"])
def test_names_no_file_can_have_are_said_in_words(tmp_path: Path, name: str) -> None:
    """Linux counts 255 bytes, not characters."""
    assert len(os.fsencode("ü" * 127)) < LONGEST_NAME
    with pytest.raises(FileError):
        write_atomic(tmp_path / name, b"x")
    with pytest.raises(FileError):
        read_bytes(tmp_path / name)


def test_the_longest_name_that_can_be_is_written(tmp_path: Path) -> None:
    name = "ü" * 127 + "x"
    assert len(os.fsencode(name)) == LONGEST_NAME
    write_atomic(tmp_path / name, b"x")
    assert os.listdir(tmp_path) == [name]


def test_a_pipe_or_a_folder_is_no_file(tmp_path: Path) -> None:
    os.mkfifo(tmp_path / "pipe")
    with pytest.raises(FileError, match="device or a pipe"):
        read_bytes(tmp_path / "pipe")
    with pytest.raises(FileError, match="is a folder"):
        read_bytes(tmp_path)
    with pytest.raises(FileError, match="is a folder"):
        write_atomic(tmp_path, b"x")


def test_a_folder_that_cannot_be_made_is_said_in_words(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("x")
    with pytest.raises(FileError):
        make_folder(tmp_path / "file" / "folder")


def test_a_typed_name_without_its_ending_does_not_replace_a_file_unasked(tmp_path: Path) -> None:
    """The dialog asked about “house”, not about “house.balken”."""
    there = tmp_path / "house.balken"
    there.write_text("another's")
    building = Building(shown_demo())
    with pytest.raises(FileConflict, match="already"):
        building.save(tmp_path / "house")
    assert there.read_text() == "another's"
    assert with_suffix(tmp_path / "house") == there
    assert building.save(tmp_path / "house", over=True) == there


def test_a_file_changed_on_disk_is_not_written_over_unasked(tmp_path: Path) -> None:
    path = tmp_path / "house.balken"
    Building(shown_demo()).save(path)
    one, other = open_building(path), open_building(path)
    other.edit(
        "name it",
        lambda p: p.__class__(
            **{f: getattr(p, f) for f in p.__struct_fields__} | {"name": "Other"}
        ),
    )
    other.save(path)
    with pytest.raises(FileConflict):
        one.save(path)
    assert open_building(path).project.name == "Other"
    one.save(path, over=True)
    assert open_building(path).project.name == "Bakehouse"


SET = {"a.pdf": b"new a", "b.csv": b"new b", "c.ifc": b"new c"}


def a_set(folder: Path) -> dict[str, bytes]:
    """Two files of an old set; the third is new."""
    old = {"a.pdf": b"old a", "b.csv": b"old b"}
    for name, data in old.items():
        (folder / name).write_bytes(data)
    return old


def what_is_there(folder: Path) -> dict[str, bytes]:
    return {p.name: p.read_bytes() for p in folder.iterdir() if p.is_file()}


def test_a_set_is_written_whole(tmp_path: Path) -> None:
    a_set(tmp_path)
    write_all(tmp_path, SET)
    assert what_is_there(tmp_path) == SET, "and nothing is left beside it"


@pytest.mark.parametrize("after", [0, 1, 2])
def test_a_full_disk_leaves_the_old_set(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, after: int
) -> None:
    """The disk is full at the first, second or third file."""
    old = a_set(tmp_path)
    count = 0
    real = os.fsync

    def full(handle: int) -> None:
        nonlocal count
        count += 1
        if count > after:
            raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        real(handle)

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(FileError, match=r"No space left on device\. What was there is as it was"):
        write_all(tmp_path, SET)
    assert what_is_there(tmp_path) == old


@pytest.mark.parametrize("after", [0, 1, 2])
def test_a_name_that_cannot_be_given_leaves_the_old_set(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, after: int
) -> None:
    old = a_set(tmp_path)
    count = 0
    real = os.replace

    def failing(part: Path, target: Path) -> None:
        nonlocal count
        count += 1
        if count == after + 1:
            raise OSError(errno.EIO, os.strerror(errno.EIO))
        real(part, target)

    monkeypatch.setattr(os, "replace", failing)
    with pytest.raises(FileError):
        write_all(tmp_path, SET)
    assert what_is_there(tmp_path) == old


def test_a_folder_in_the_place_of_a_file_leaves_the_old_set(tmp_path: Path) -> None:
    old = a_set(tmp_path)
    (tmp_path / "c.ifc").mkdir()
    with pytest.raises(FileError, match="is a folder"):
        write_all(tmp_path, SET)
    assert what_is_there(tmp_path) == old
