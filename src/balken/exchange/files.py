"""Reading and writing whole files, safely."""

import contextlib
import os
import re
import stat
import uuid
from pathlib import Path
from typing import Final

from balken.errors import BalkenError

LARGEST: Final = 200_000_000
"""Files above this are refused unread, bytes."""
LONGEST_NAME: Final = 255
"""Bytes of a file's name that Linux file systems take."""
PART: Final = ".part"
"""What a file is called at the end while it is put in its place."""


class FileError(BalkenError):
    """A file that cannot be read or written; the text is one sentence for people."""


class FileConflict(FileError):
    """A file that would be written over without anybody having said so."""


def read_bytes(path: Path, largest: int = LARGEST) -> bytes:
    """Read a file.

    Args:
        path: of the file.
        largest: more than so many bytes are refused unread.

    Raises:
        FileError: there is none, it is a folder or a device, it may not be read, or it is too
            large.
    """
    try:
        with os.fdopen(_opened(path), "rb") as stream:
            _refuse_unreadable(path, os.fstat(stream.fileno()), largest)
            return stream.read()
    except IsADirectoryError:
        raise FileError(f"{path} is a folder, not a file.") from None
    except OSError as error:
        raise FileError(f"{short(path)} cannot be read: {error.strerror or error}.") from error


def _opened(path: Path) -> int:
    try:
        # A pipe without a writer would wait for ever.
        return os.open(path, os.O_RDONLY | os.O_CLOEXEC | os.O_NONBLOCK)
    except FileNotFoundError:
        raise FileError(f"There is no file {path}.") from None
    except ValueError:
        raise FileError("The file name holds a character no file name can have.") from None


def _refuse_unreadable(path: Path, kind: os.stat_result, largest: int) -> None:
    if stat.S_ISDIR(kind.st_mode):
        raise FileError(f"{path} is a folder, not a file.")
    if not stat.S_ISREG(kind.st_mode):
        raise FileError(f"{short(path)} is a device or a pipe, not a file.")
    if kind.st_size > largest:
        raise FileError(f"{short(path)} is larger than {largest // 1_000_000} MB and was not read.")


def short(path: Path) -> str:
    """A file's name for a message, no longer than people read."""
    return path.name if len(path.name) <= 80 else f"{path.name[:77]}…"


def write_atomic(path: Path, data: bytes, *, follow: bool = True, private: bool = False) -> None:
    """Write a file whole or not at all: first without a name, then in its place, and the folder
    flushed.

    Args:
        path: of the file.
        data: what it shall hold.
        follow: whether a symbolic link stands for what it points to; else it is refused.
        private: whether others may not read it.

    Raises:
        FileError: it cannot be written; what was there stays whole.
    """
    try:
        target = _target(path, follow=follow)
        _put(target, data, private=private)
    except OSError as error:
        raise FileError(
            f"{short(path)} cannot be written in {path.parent}: {error.strerror or error}."
        ) from error
    except (ValueError, RuntimeError) as error:
        raise FileError(f"{short(path)} cannot be written: {_plain(error)}.") from error


def write_all(folder: Path, files: dict[str, bytes]) -> None:
    """Write several files of one folder, all or none: each is first whole on the disk beside its place. Links
    are not followed.

    Args:
        folder: that is there.
        files: what each name shall hold.

    Raises:
        FileError: one cannot be written; all that was there stays as it was.
    """
    parts: dict[Path, Path] = {}
    name = ""
    try:
        for name, data in files.items():
            target = _target(folder / name, follow=False)
            parts[target] = _part_of(target, data, private=False)
        _put_in_place(parts)
    except OSError as error:
        raise FileError(
            f"{short(Path(name))} cannot be written in {folder}: {error.strerror or error}. What was"
            " there is as it was."
        ) from error
    except (ValueError, RuntimeError) as error:
        raise FileError(f"{short(Path(name))} cannot be written: {_plain(error)}.") from error
    finally:
        for part in parts.values():
            with contextlib.suppress(OSError):
                part.unlink(missing_ok=True)
    flush_folder(folder)


def _put_in_place(parts: dict[Path, Path]) -> None:
    """Give parts their names; where one cannot have its own, all that were there have theirs again."""
    before: dict[Path, Path | None] = {}
    try:
        for target, part in parts.items():
            kept = target.with_name(_part_name(target)) if target.exists() else None
            if kept is not None:
                os.link(target, kept)
            before[target] = kept
            os.replace(part, target)
    except OSError:
        for target, kept in before.items():
            with contextlib.suppress(OSError):
                if kept is not None:
                    os.replace(kept, target)
                    kept.unlink(missing_ok=True)  # two names of one file are left both
                elif not parts[target].exists():
                    target.unlink(missing_ok=True)
        raise
    for kept in before.values():
        if kept is not None:
            kept.unlink(missing_ok=True)


def _plain(error: Exception) -> str:
    return (
        "its name holds a character no name can have"
        if isinstance(error, ValueError)
        else str(error)
    )


def _target(path: Path, *, follow: bool) -> Path:
    if len(os.fsencode(path.name)) > LONGEST_NAME:
        raise FileError(
            f"{short(path)} is too long a name for a file: {LONGEST_NAME} bytes at most."
        )
    if path.is_symlink():
        if not follow:
            raise FileError(
                f"{short(path)} is a link to another file, which is not written over. Take the"
                " link away first."
            )
        path = path.resolve(strict=False)
        if path.is_symlink():
            raise FileError(f"{short(path)} is a link that leads back to itself.")
    if path.is_dir():
        raise FileError(f"{path} is a folder, not a file.")
    if path.exists() and not path.stat().st_mode & 0o222:
        raise FileError(
            f"{short(path)} is read-only. Save under another name, or let it be written."
        )
    return path


def _put(target: Path, data: bytes, *, private: bool) -> None:
    part = _part_of(target, data, private=private)
    try:
        os.replace(part, target)
    except OSError:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)
        raise
    flush_folder(target.parent)


def _part_of(target: Path, data: bytes, *, private: bool) -> Path:
    """Write what a file shall hold beside its place, whole and on the disk."""
    sweep(target)
    part = target.with_name(_part_name(target))
    mode = 0o600 if private else 0o666 & ~_umask()
    if target.exists() and not private:
        mode = target.stat().st_mode & 0o777
    handle, named = _open(part)
    try:
        with os.fdopen(handle, "wb") as stream:
            stream.write(data)
            stream.flush()
            os.fchmod(stream.fileno(), mode)
            os.fsync(stream.fileno())
            if not named:
                # With a folder's handle Python calls linkat, which follows the link in /proc to the
                # file without a name.
                os.link(
                    f"/proc/self/fd/{stream.fileno()}",
                    part,
                    src_dir_fd=stream.fileno(),
                    follow_symlinks=True,
                )
    except OSError:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)
        raise
    return part


def _open(part: Path) -> tuple[int, bool]:
    """Open a file without a name, of which a killed program leaves nothing; one with a name where
    that cannot be."""
    try:
        return os.open(part.parent, os.O_TMPFILE | os.O_WRONLY | os.O_CLOEXEC, 0o600), False
    except OSError:
        return os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o600), True


def _part_name(target: Path) -> str:
    """A name beside a file, with the number of this process in it, so that one left behind is known
    as such."""
    tail = f"-{os.getpid()}-{uuid.uuid4().hex[:8]}{PART}"
    room = LONGEST_NAME - len(tail) - 1
    stem = os.fsencode(target.name)[:room].decode("utf-8", "ignore")
    return f".{stem}{tail}"


def sweep(target: Path) -> None:
    """Take away what a killed program left beside a file while it was put in its place."""
    stem = re.escape(os.fsencode(target.name)[:200].decode("utf-8", "ignore")[:100])
    pattern = re.compile(rf"\.{stem}.*-(\d+)-[0-9a-f]{{8}}{re.escape(PART)}")
    with contextlib.suppress(OSError):
        for entry in os.scandir(target.parent):
            found = pattern.fullmatch(entry.name)
            if found and not _lives(int(found[1])):
                os.unlink(entry.path)


def _lives(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return True


def flush_folder(folder: Path) -> None:
    """Bring a folder's names to the disk, so that a renamed file is there after the power went."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _umask() -> int:
    current = os.umask(0)
    os.umask(current)
    return current


def make_folder(path: Path) -> None:
    """Make a folder and those above it.

    Raises:
        FileError: it cannot be made.
    """
    try:
        path.mkdir(parents=True, exist_ok=True)
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or "its name holds a character no name can have"
        raise FileError(f"The folder {path} cannot be made: {why}.") from error
