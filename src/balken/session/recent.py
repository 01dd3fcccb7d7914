"""Files that were open lately, the last first; kept beside the journals."""

from pathlib import Path
from typing import Final

import msgspec

from balken.exchange.files import FileError, make_folder, read_bytes, write_atomic
from balken.session.journal import folder

MOST: Final = 12
LARGEST: Final = 200_000
"""Bytes of the list; a longer one is none of ours."""


def _list() -> Path:
    return folder() / "recent.json"


def recent() -> list[Path]:
    """Files that were open lately and are still there. A list that cannot be read is empty."""
    try:
        names = msgspec.json.decode(read_bytes(_list(), LARGEST), type=list[str])
    except (FileError, msgspec.DecodeError):
        return []
    return [path for name in names[:MOST] if (path := Path(name)).is_file()]


def remember(path: Path) -> None:
    """Put a file at the head of the list. Where the list cannot be written, it stays as it was:
    nothing of anybody's work hangs on it."""
    whole = path.resolve()
    names = [str(whole), *(str(p) for p in recent() if p != whole)][:MOST]
    try:
        make_folder(folder())
        write_atomic(_list(), msgspec.json.encode(names))
    except FileError:
        return
