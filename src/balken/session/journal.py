"""The journal of an open building: every edit written down before the window says that it is done.

A journal is a text file that only grows: a first line says whose it is, a second holds the whole
project, and each edit adds one line with what it changed. A killed program leaves it behind; a line
that was not written whole does not count. It belongs to one window, which holds a lock on it while
it lives, so that two windows never share one.
"""

import contextlib
import fcntl
import hashlib
import os
import uuid
import zlib
from collections.abc import Iterable
from datetime import datetime
from pathlib import Path
from typing import Annotated, Any, Final

import msgspec
from msgspec import Meta
from msgspec.structs import replace

from balken.errors import BalkenError
from balken.exchange.files import FileError, make_folder, read_bytes
from balken.exchange.native import from_text as project_from
from balken.exchange.native import plain
from balken.model.project import Project

SUFFIX: Final = ".journal"
VERSION: Final = 1
LONGEST: Final = 32_000_000
"""A journal longer than this is begun anew with the project as it stands, bytes."""


class Head(msgspec.Struct, frozen=True):
    """Whose journal it is."""

    journal: int
    identity: Annotated[str, Meta(max_length=64)]
    """Of the project."""
    name: Annotated[str, Meta(max_length=200)]
    file: Annotated[str, Meta(max_length=4096)]
    """Where the project is saved; empty where nowhere yet."""
    stands: Annotated[str, Meta(max_length=64)]
    """Digest of that file as it was when the journal was begun."""
    begun: Annotated[str, Meta(max_length=40)]


class Splice(msgspec.Struct, frozen=True, array_like=True):
    """A change of one field: of a list, what of it gave way from ``start`` to ``stop`` to something
    else."""

    field: Annotated[str, Meta(max_length=80)]
    start: int
    stop: int
    values: Any


class Entry(msgspec.Struct, frozen=True):
    """One edit."""

    n: int
    when: str
    words: str
    splices: tuple[Splice, ...]


class Left(msgspec.Struct, frozen=True):
    """What a program that ended without closing left behind."""

    path: Path
    head: Head
    project: Project
    edits: int
    last: str
    """When the last edit was made."""


def new_identity() -> str:
    """An identity for a project that has none yet."""
    return uuid.uuid4().hex


def folder() -> Path:
    """Where journals are kept."""
    from platformdirs import user_state_path

    base = os.environ.get("BALKEN_STATE")
    return Path(base) if base else user_state_path("balken")


def digest_of(path: Path | None) -> str:
    """Digest of a file as it stands; empty where there is none that can be read."""
    if path is None:
        return ""
    try:
        return hashlib.sha256(read_bytes(path)).hexdigest()
    except FileError:
        return ""


def differences(before: Project, after: Project) -> tuple[Splice, ...]:
    """What an edit changed: one splice a field. Records are compared as objects first, so that one
    of thousands costs a look."""
    found = []
    for name in Project.__struct_fields__:
        a, b = getattr(before, name), getattr(after, name)
        if a is b or a == b:
            continue
        if not isinstance(a, tuple) or not isinstance(b, tuple):
            found.append(Splice(name, 0, -1, plain(after, name)))
            continue
        start, most = 0, min(len(a), len(b))
        while start < most and (a[start] is b[start] or a[start] == b[start]):
            start += 1
        back = 0
        while back < most - start and (
            a[-1 - back] is b[-1 - back] or a[-1 - back] == b[-1 - back]
        ):
            back += 1
        fresh = replace(after, **{name: b[start : len(b) - back]})
        found.append(Splice(name, start, len(a) - back, plain(fresh, name)))
    return tuple(found)


def spliced(raw: dict[str, Any], splices: Iterable[Splice]) -> dict[str, Any]:
    """A project's plain data after an edit."""
    found = dict(raw)
    for s in splices:
        if s.stop < 0:
            found[s.field] = s.values
        else:
            found[s.field] = [
                *found.get(s.field, ())[: s.start],
                *s.values,
                *found.get(s.field, ())[s.stop :],
            ]
    return found


class Journal:
    """The journal of one window, open for writing while its building is open."""

    def __init__(self, path: Path, handle: int, project: Project, size: int) -> None:
        self.path, self._handle, self._project, self._size = path, handle, project, size
        self._count = 0
        self._head: Head | None = None

    @classmethod
    def begin(cls, project: Project, identity: str, file: Path | None) -> "Journal":
        """Begin a journal with a project as it stands.

        Raises:
            FileError: it cannot be written.
        """
        where = folder()
        make_folder(where)
        path = where / f"{identity[:32]}-{os.getpid()}-{uuid.uuid4().hex[:8]}{SUFFIX}"
        head = Head(
            VERSION,
            identity,
            project.name,
            str(file.resolve()) if file else "",
            digest_of(file),
            _now(),
        )
        try:
            handle = os.open(
                path, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_APPEND | os.O_CLOEXEC, 0o600
            )
        except (OSError, ValueError) as error:
            raise FileError(f"Unsaved work cannot be kept in {where}: {_why(error)}.") from error
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        made = cls(path, handle, project, 0)
        made._head = head
        try:
            made._write(msgspec.json.encode(head))
            made._write(msgspec.json.encode(msgspec.to_builtins(project)))
        except FileError:
            made.drop()
            raise
        return made

    def add(self, words: str, after: Project) -> None:
        """Write an edit down; it is with the system before this returns.

        Raises:
            FileError: it cannot be written.
        """
        splices = differences(self._project, after)
        if not splices:
            return
        self._count += 1
        self._write(msgspec.json.encode(Entry(self._count, _now(), words, splices)))
        self._project = after

    def note(self, words: str) -> None:
        """Write down that the project as it stands is worth keeping, though no edit was made yet.

        Raises:
            FileError: it cannot be written.
        """
        self._count += 1
        self._write(msgspec.json.encode(Entry(self._count, _now(), words, ())))

    @property
    def too_long(self) -> bool:
        """Whether it had better be begun anew."""
        return self._size > LONGEST

    def drop(self) -> None:
        """Take the journal away: all of it is saved, or was given up."""
        if self._handle >= 0:
            os.close(self._handle)
            self._handle = -1
        with contextlib.suppress(OSError):
            self.path.unlink(missing_ok=True)

    def _write(self, data: bytes) -> None:
        line = b"%08x %s\n" % (zlib.crc32(data), data)
        try:
            done = 0
            while done < len(line):
                done += os.write(self._handle, line[done:])
            os.fdatasync(self._handle)
        except OSError as error:
            raise FileError(
                f"Unsaved work cannot be kept in {self.path.parent}: {_why(error)}."
            ) from error
        self._size += len(line)


def _now() -> str:
    return datetime.now().astimezone().isoformat(timespec="seconds")


def _why(error: Exception) -> str:
    return getattr(error, "strerror", None) or str(error)


def left_behind() -> tuple[Left, ...]:
    """All journals that no living window holds, the latest last; those that cannot be read are
    passed over."""
    found = []
    try:
        paths = sorted(folder().glob(f"*{SUFFIX}"), key=lambda p: p.stat().st_mtime)
    except OSError:
        return ()
    for path in paths:
        if not _is_held(path):
            left = read_journal(path)
            if left is not None:
                found.append(left)
    return tuple(found)


def left_for(file: Path) -> tuple[Left, ...]:
    """What was left behind of the project saved in a file, the latest last."""
    try:
        wanted = str(file.resolve())
    except (OSError, RuntimeError):
        return ()
    return tuple(x for x in left_behind() if x.head.file == wanted)


def left_without_file() -> tuple[Left, ...]:
    """What was left behind of projects that were never saved, the latest last."""
    return tuple(x for x in left_behind() if not x.head.file)


def is_open_elsewhere(file: Path) -> bool:
    """Whether a living window has a building open that is saved in a file."""
    wanted = str(file.resolve())
    try:
        paths = list(folder().glob(f"*{SUFFIX}"))
    except OSError:
        return False
    for path in paths:
        if _is_held(path):
            head = _head_of(path)
            if head is not None and head.file == wanted:
                return True
    return False


def forget(left: Left) -> None:
    """Drop what was left behind."""
    with contextlib.suppress(OSError):
        left.path.unlink(missing_ok=True)


def _is_held(path: Path) -> bool:
    try:
        handle = os.open(path, os.O_RDONLY | os.O_CLOEXEC)
    except OSError:
        return True
    try:
        fcntl.flock(handle, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(handle)
    return False


def _lines(data: bytes) -> Iterable[bytes]:
    """Lines that were written whole; nothing after the first that was not."""
    for line in data.split(b"\n")[:-1]:
        check, _, text = line.partition(b" ")
        try:
            whole = int(check, 16) == zlib.crc32(text)
        except ValueError:
            return
        if not whole:
            return
        yield text


def _head_of(path: Path) -> Head | None:
    try:
        with path.open("rb") as stream:
            line = stream.readline(20_000)
    except OSError:
        return None
    for text in _lines(line):
        try:
            return msgspec.json.decode(text, type=Head)
        except msgspec.MsgspecError:
            return None
    return None


def read_journal(path: Path) -> Left | None:
    """What a journal holds; None where it holds no edit that can be read."""
    try:
        lines = list(_lines(read_bytes(path)))
    except FileError:
        return None
    if len(lines) < 3:
        return None
    try:
        head = msgspec.json.decode(lines[0], type=Head)
        raw = msgspec.json.decode(lines[1])
        if head.journal != VERSION or not isinstance(raw, dict):
            return None
        last, count = head.begun, 0
        for line in lines[2:]:
            entry = msgspec.json.decode(line, type=Entry)
            raw, last, count = spliced(raw, entry.splices), entry.when, entry.n
        project = project_from(msgspec.json.encode(raw), path.name)
    except (msgspec.MsgspecError, BalkenError, TypeError, ValueError, KeyError):
        return None
    return Left(path, head, project, count, last)
