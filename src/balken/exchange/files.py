"""Reading and writing whole files, safely."""

import os
import tempfile
from pathlib import Path
from typing import Final

LARGEST: Final = 200_000_000
"""Files above this are refused unread, bytes."""


class FileError(Exception):
    """A file that cannot be read or written; the text is one sentence for people."""


def read_bytes(path: Path) -> bytes:
    """Read a file.

    Raises:
        FileError: there is none, it is a folder, it may not be read, or it is larger than 200 MB.
    """
    try:
        if path.is_dir():
            raise FileError(f"{path} is a folder, not a file.")
        if path.stat().st_size > LARGEST:
            raise FileError(f"{path.name} is larger than 200 MB and was not read.")
        return path.read_bytes()
    except FileNotFoundError:
        raise FileError(f"There is no file {path}.") from None
    except OSError as error:
        raise FileError(f"{path.name} cannot be read: {error.strerror or error}.") from error
    except ValueError:
        raise FileError("The file name holds a character no file name can have.") from None


def write_atomic(path: Path, data: bytes) -> None:
    """Write a file whole or not at all: beside it first, then in its place.

    Raises:
        FileError: it cannot be written; what was there stays whole.
    """
    target = path.resolve() if path.is_symlink() else path
    try:
        handle, temporary = tempfile.mkstemp(prefix=f".{target.name[:80]}-", dir=target.parent)
    except OSError as error:
        raise FileError(f"{path.name} cannot be written in {target.parent}: {error.strerror or error}.") from error
    try:
        with os.fdopen(handle, "wb") as stream:
            stream.write(data)
            stream.flush()
            os.fsync(stream.fileno())
        mode = target.stat().st_mode & 0o777 if target.exists() else 0o666 & ~_umask()
        os.chmod(temporary, mode)
        os.replace(temporary, target)
    except OSError as error:
        Path(temporary).unlink(missing_ok=True)
        raise FileError(
            f"{path.name} cannot be written: {error.strerror or error}. The old file is as it was."
        ) from error


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
    except OSError as error:
        raise FileError(f"The folder {path} cannot be made: {error.strerror or error}.") from error
