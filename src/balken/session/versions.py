"""Versions of a project that a person keeps by a name, in a folder beside its file; one compared with the
building as it is, item by item taken back from it."""

from collections.abc import Sequence
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import Final, NamedTuple

from balken.errors import BalkenError
from balken.exchange.files import make_folder
from balken.exchange.issue import file_stem
from balken.exchange.native import SUFFIX, load, save
from balken.model.edits.common import checked as valid
from balken.model.project import Project
from balken.session.desk import Desk, page
from balken.takeoff.compared import Earlier, Item, differences, items_of, taken_back
from balken.works.building import Checked, work_out

FOLDER: Final = ".versions"
"""Ends the name of the folder of a project's versions."""
MOST_LETTERS: Final = 60


class Version(NamedTuple):
    """One that was kept."""

    words: str
    """When, and by what name."""
    path: Path


def folder_of(path: Path) -> Path:
    """The folder of the versions of a project file."""
    return path.with_name(path.stem + FOLDER)


def versions_of(path: Path) -> list[Version]:
    """All versions that were kept of a project file, the latest first."""
    folder = folder_of(path)
    if not folder.is_dir():
        return []
    files = sorted(folder.glob(f"*{SUFFIX}"), reverse=True)
    return [Version(_words_of(f.stem), f) for f in files]


def _words_of(stem: str) -> str:
    """The name of a version, then when it was kept: ``tender, 2026-11-30 20:15``."""
    day, _, rest = stem.partition("_")
    when, _, name = rest.partition("_")
    if not name:  # put there by somebody else
        return stem
    return f"{name.replace('-', ' ')}, {day} {when[:5].replace('-', ':')}"


def keep_version(desk: Desk, name: str, now: datetime | None = None) -> bool:
    """Keep the building as it is, by a name; whether it was kept.

    Raises:
        BalkenError: the project has no file yet, the name is empty or too long, or it cannot be written.
    """
    path = desk.building.path
    if path is None:
        raise BalkenError("Save the project first: its versions are kept in a folder beside it.")
    if not name.strip() or len(name) > MOST_LETTERS:
        raise BalkenError(f"A version has a name of 1 to {MOST_LETTERS} letters.")
    when = (now or datetime.now()).strftime("%Y-%m-%d_%H-%M-%S")
    folder = folder_of(path)
    make_folder(folder)
    save(desk.project, folder / f"{when}_{file_stem(name.strip())}{SUFFIX}")
    desk.refresh()
    desk.say(f"Kept as {name.strip()}, in {folder.name}.")
    return True


def compare_with(desk: Desk, path: Path, words: str = "") -> None:
    """Compare the building with another file; it is worked out apart from the window."""

    def done(earlier: Checked) -> None:
        desk.earlier = Earlier(words or path.name, earlier)
        desk.select(page("versions"))
        count = len(differences(earlier, desk.checked))
        desk.say(f"Compared with {words or path.name}: {count} pieces are not the same.")

    desk.say(f"Reading {path.name} …  Esc leaves it.")
    desk.under_way = desk.face.apart_telling(lambda _: work_out(load(path)), done, desk.say)


def ask_what_to_compare(desk: Desk) -> None:
    """Ask for a file and compare with it."""
    path = desk.face.file_to_open("Compare with", f"Projects (*{SUFFIX})")
    if path is not None:
        compare_with(desk, path)


def end_comparison(desk: Desk) -> None:
    """Compare no more."""
    desk.earlier = None
    desk.refresh()


def turn_drawn_over(desk: Desk) -> None:
    """Draw the version that is compared with over the building, or no more."""
    desk.drawn_over = not desk.drawn_over
    desk.refresh()
    desk.say("Both are drawn over one another." if desk.drawn_over else "The later one alone.")


def show_changed(desk: Desk) -> None:
    """Select all pieces that came or changed, so that plan and space show them."""
    if desk.earlier is not None:
        found = differences(desk.earlier.checked, desk.checked)
        desk.select_rows([d.name for d in found if d.state != "went"])


def take_back(desk: Desk, items: Sequence[Item]) -> object:
    """Take items back from the version that is compared with: one edit."""
    if desk.earlier is None:
        return None
    before = desk.earlier.checked.project
    words = items[0].key or items[0].field if len(items) == 1 else f"{len(items)} items"
    return desk.edit(f"take back {words}", partial(_taken_back, before, items))


def _taken_back(before: Project, items: Sequence[Item], project: Project) -> Project:
    now = project
    for item in items:
        now = taken_back(before, now, item)
    changed = {
        f: getattr(now, f) for f in now.__struct_fields__ if getattr(now, f) != getattr(project, f)
    }
    return valid(project, **changed)


def items_now(desk: Desk) -> list[Item]:
    """What is decided otherwise than in the version that is compared with."""
    return [] if desk.earlier is None else items_of(desk.earlier.checked.project, desk.project)
