"""An edit re-makes only what it touches; what comes out is what a building worked out from nothing
would give.

A walk through random edits, each remembered from the one before, against the same project without
memory: no source outside the project is needed, the two must agree.
"""

import json
import random

import pytest

from balken.exchange.native import ReadError, from_text, to_text
from balken.fit.findings import findings
from balken.framing import kinds
from balken.model.edits import change_member
from balken.model.edits.grids import move_lines
from balken.model.edits.hosts import remove_member
from balken.model.project import Project
from balken.recall import Recall, remembered_of_one, remembering
from balken.session.building import demo_project
from balken.session.ferry_hall import ferry_hall
from balken.works.building import Checked, work_out
from balken.workshop.bench_beams import large_storey
from test_any_project import changed

pytestmark = pytest.mark.forgetful

STEPS = 8
LARGEST = 2500
"""Buildings with more members than this are not followed, for time."""


def same(kept: Checked, fresh: Checked) -> None:
    """Compare two workings-out of one project: to the last digit, so that a file says the same
    whoever opens it."""
    assert kept.structure.members == fresh.structure.members
    assert kept.structure.gone == fresh.structure.gone
    assert kept.structure.unframed == fresh.structure.unframed
    assert [m.id for part in kept.structure.parts for m in part.members] == [
        m.id for m in fresh.structure.members
    ]
    assert {k: [m.id for m in v] for k, v in kept.structure.about.items()} == {
        k: [m.id for m in v] for k, v in fresh.structure.about.items()
    }
    assert kept.path == fresh.path
    assert kept.used == fresh.used


@pytest.mark.long
@pytest.mark.parametrize("building", [demo_project, ferry_hall])
@pytest.mark.parametrize("seed", [1, 2])
def test_a_walk_through_edits_ends_where_a_fresh_start_does(building, seed: int) -> None:  # type: ignore[no-untyped-def]
    chance = random.Random(seed)
    project: Project = building()
    recall = Recall()
    work_out(project, recall)
    followed = 0
    for _ in range(60):
        if followed == STEPS:
            break
        try:
            project = from_text(json.dumps(changed(json.loads(to_text(project)), chance)).encode())
        except ReadError:
            continue
        fresh = work_out(project)
        if len(fresh.structure.members) > LARGEST:
            break
        kept = work_out(project, recall)
        same(kept, fresh)
        assert [f.text for f in findings(kept, recall)] == [f.text for f in findings(fresh)]
        followed += 1
    assert followed > STEPS / 2


def test_a_large_storey_after_many_drags_is_what_a_fresh_start_gives() -> None:
    project = large_storey()
    grid = project.grids[0]
    across = next(x.id for x in grid.lines if x.runs == "x" and x.offset > 0)
    joist = next(
        m.id
        for m in work_out(project).structure.members
        if m.kind is kinds.JOIST and str(m.id).endswith("40b")
    )
    recall = Recall()
    work_out(project, recall)
    for edit in (
        lambda p: move_lines(p, grid.id, ["N5"], 2.0),
        lambda p: move_lines(p, grid.id, ["N5"], 310.0),  # past a row of joists
        lambda p: move_lines(p, grid.id, [across], 15.0),
        lambda p: change_member(p, joist, shift=25.0),
        lambda p: remove_member(p, joist),
        lambda p: move_lines(p, grid.id, ["N5"], -312.0),
    ):
        project = edit(project)
        kept, fresh = work_out(project, recall), work_out(project)
        same(kept, fresh)
        assert findings(kept, recall) == findings(fresh)


def test_what_follows_from_one_record_is_kept_for_that_one_alone() -> None:
    """A whole building is not compared field by field, and only the last one is held."""
    asked: list[object] = []

    @remembered_of_one
    def twice(record: list[int]) -> list[int]:
        asked.append(record)
        return record * 2

    first, other = [1], [1]
    twice(first)
    twice(first)
    assert len(asked) == 2, "nothing is remembered where nobody remembers"
    with remembering(Recall()) as recall:
        assert twice(first) is twice(first)
        assert len(asked) == 3
        assert twice(other) == twice(first), "an equal record is another one"
        assert len(asked) == 5
        assert len(recall._kept) == 1
