"""Versions at the desk: kept by a name beside the file, compared, taken back item by item with undo."""

from datetime import datetime
from pathlib import Path

import pytest

from balken.errors import BalkenError
from balken.model.edits.hosts import set_floor
from balken.model.edits.openings import set_opening
from balken.model.names import ThingName
from balken.model.project import wall
from balken.session import versions
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import Desk, page
from balken.session.rows import Button, Fact, Field, Link
from balken.session.slips import rows_of
from balken.session.things.register import THINGS

WHEN = datetime(2026, 11, 30, 20, 15)


@pytest.fixture
def desk(tmp_path: Path) -> Desk:
    """A saved bakehouse with one version kept, joists and a window changed since."""
    found = Desk(Building(shown_demo()), THINGS)
    found.building.save(tmp_path / "bakehouse.balken")
    found.select(page("versions"))
    field = next(r for r in rows_of(found) if isinstance(r, Field))
    field.typed("As tendered")
    found.edit("joists", lambda p: set_floor(p, "F2", spacing=304.8))
    hole = wall(found.project, "W101").openings[0]
    name = ThingName("opening", "W101", hole.id)
    found.edit("window", lambda p: set_opening(p, name, at=hole.at + 300.0))
    return found


def link(desk: Desk, name: str) -> Link:
    desk.select(page("versions"))
    return next(r for r in rows_of(desk) if isinstance(r, Link) and name in r.name)


def press(desk: Desk, text: str) -> None:
    desk.select(page("versions"))
    next(r for r in rows_of(desk) if isinstance(r, Button) and r.text == text).press()


def compared(desk: Desk) -> Desk:
    link(desk, "as tendered, 20").press()
    assert desk.earlier is not None
    return desk


def test_a_version_is_kept_beside_the_file(desk: Desk) -> None:
    path = desk.building.path
    assert path is not None
    (kept,) = versions.versions_of(path)
    assert kept.path.parent == path.parent / "bakehouse.versions"
    versions.keep_version(desk, "second", WHEN)
    assert len(versions.versions_of(path)) == 2


def test_what_cannot_be_kept_is_told(tmp_path: Path) -> None:
    unsaved = Desk(Building(shown_demo()), THINGS)
    with pytest.raises(BalkenError, match="Save the project first"):
        versions.keep_version(unsaved, "x")
    unsaved.building.save(tmp_path / "a.balken")
    for name in ("", "  ", "x" * 61):
        with pytest.raises(BalkenError, match="1 to 60"):
            versions.keep_version(unsaved, name)


def test_the_page_tells_what_is_other(desk: Desk) -> None:
    compared(desk)
    rows = list(rows_of(desk))
    facts = {r.name: r.text for r in rows if isinstance(r, Fact)}
    assert "→" in facts["pieces"]
    assert "→" in facts["cost"]
    assert "→" not in facts["concrete, m³"]
    names = [r.name for r in rows if isinstance(r, Link)]
    assert any(n.startswith("floors F2") for n in names)
    assert any(n.startswith("walls W101") for n in names)


def test_one_item_is_taken_back_and_undone(desk: Desk) -> None:
    before = compared(desk).project
    link(desk, "floors F2").press()
    assert len(versions.items_now(desk)) == 1
    desk.undo()
    assert desk.project == before
    press(desk, "Take all back")
    assert versions.items_now(desk) == []


def test_pieces_that_changed_are_shown(desk: Desk) -> None:
    press(compared(desk), "Show what came and changed")
    assert len(desk.selected) > 10
    press(desk, "Compare no more")
    assert desk.earlier is None


def test_another_building_is_compared_with_nothing(desk: Desk) -> None:
    compared(desk)
    desk.show_building(Building(shown_demo()))
    assert desk.earlier is None
