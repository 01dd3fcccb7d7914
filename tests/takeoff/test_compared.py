"""Two versions compared: what came, went and changed, by counting in both; one item or all taken back."""

import json
from pathlib import Path

import pytest
from click.testing import CliRunner

from balken.cli import main
from balken.exchange.native import save
from balken.framing import kinds
from balken.model.edits.hosts import set_floor
from balken.model.edits.openings import set_opening
from balken.model.names import ThingName
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.takeoff.compared import differences, differences_list, items_of, sums_of, taken_back
from balken.works.building import Checked, work_out


@pytest.fixture(scope="module")
def before() -> Checked:
    return work_out(shown_demo())


def later(project: Project) -> Project:
    """Joists of another spacing, and a window moved by 300 mm."""
    project = set_floor(project, "F2", spacing=304.8)
    hole = next(o for w in project.walls if w.id == "W101" for o in w.openings)
    return set_opening(project, ThingName("opening", "W101", hole.id), at=hole.at + 300.0)


@pytest.fixture(scope="module")
def after(before: Checked) -> Checked:
    return work_out(later(before.project))


def test_a_building_is_the_same_as_itself(before: Checked) -> None:
    assert differences(before, before) == []
    assert items_of(before.project, before.project) == []
    assert all(s.before == s.after for s in sums_of(before, before))


def test_pieces_that_came_and_went_make_up_the_difference(before: Checked, after: Checked) -> None:
    found = differences(before, after)
    states = [d.state for d in found]
    grown = len(after.structure.members) - len(before.structure.members)
    assert states.count("came") - states.count("went") == grown > 0
    joists = [d for d in found if d.after is not None and d.after.kind is kinds.JOIST]
    assert joists
    moved = [d for d in found if d.state == "changed" and "moved by 300 mm" in d.words]
    assert moved
    assert all(d.name.host.key == "W101" for d in moved)


def test_backwards_what_came_went(before: Checked, after: Checked) -> None:
    there = {(d.state, d.name) for d in differences(before, after)}
    back = {(d.state, d.name) for d in differences(after, before)}
    turned = {"came": "went", "went": "came", "changed": "changed"}
    assert {(turned[s], n) for s, n in there} == back


def test_items_say_what_was_decided(before: Checked, after: Checked) -> None:
    found = {(i.field, i.key): i for i in items_of(before.project, after.project)}
    assert set(found) == {("floors", "F2"), ("walls", "W101")}
    assert found["floors", "F2"].words == "spacing"
    assert found["walls", "W101"].words == "openings"


def test_one_item_is_taken_back_and_then_all(before: Checked, after: Checked) -> None:
    items = items_of(before.project, after.project)
    project = taken_back(before.project, after.project, items[0])
    left = items_of(before.project, project)
    assert [i.key for i in left] == [items[1].key]
    project = taken_back(before.project, project, items[1])
    assert items_of(before.project, project) == []


def test_records_that_came_and_went_are_taken_back(before: Checked) -> None:
    from msgspec.structs import replace

    project = before.project
    fewer = replace(project, spots=(), walls=project.walls[:-1])
    for item in items_of(project, fewer):
        fewer = taken_back(project, fewer, item)
    assert {w.id for w in fewer.walls} == {w.id for w in project.walls}
    assert fewer.spots == project.spots


def test_the_command_tells_and_says_by_its_code(
    tmp_path: Path, before: Checked, after: Checked
) -> None:
    one, two = tmp_path / "one.balken", tmp_path / "two.balken"
    save(before.project, one)
    save(after.project, two)
    same = CliRunner().invoke(main, ["compare", str(one), str(one)])
    assert same.exit_code == 0
    told = CliRunner().invoke(main, ["compare", str(one), str(two)])
    assert told.exit_code == 1
    assert "changed floors F2: spacing" in told.output
    as_json = CliRunner().invoke(main, ["compare", str(one), str(two), "--json"])
    data = json.loads(as_json.output)
    assert len(data["pieces"]) == len(differences_list(before, after).rows)
    assert {i["key"] for i in data["items"]} == {"F2", "W101"}
