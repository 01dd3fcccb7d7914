"""Pony walls: framed right on foundations whose top steps. Counts by hand."""

import pytest

from balken.framing import kinds
from balken.framing.structure import Structure
from balken.geometry.plane import distance
from balken.model.edits.foundations import set_part
from balken.model.edits.hosts import remove_host
from balken.model.edits.wall_frames import rule_studs_of
from balken.model.edits.walls import set_walls
from balken.model.foundations import TopStep
from balken.model.names import HostName
from balken.model.project import Project
from balken.units import FOOT
from balken.works.building import work_out
from buildings import house

STEP = TopStep(12 * FOOT, 2 * FOOT)


@pytest.fixture(scope="module")
def pony() -> Project:
    """A house whose lowest walls stand on the foundation itself, which steps under the first of them; a
    floor lies on them."""
    project = house(storeys=2)
    run = project.runs[0]
    lowest = min(
        project.floors, key=lambda f: next(x.elevation for x in project.levels if x.id == f.level)
    )
    below = [w.id for w in project.walls if w.base == lowest.level]
    project = remove_host(project, HostName("floor", lowest.id))
    project = set_walls(project, below, base=run.top, base_offset=0.0)
    project = rule_studs_of(project, below)
    return set_part(project, run.id, below[0], top_steps=(STEP,))


def bottoms(structure: Structure, kind: object, key: str) -> set[float]:
    return {
        round(m.solid.bounds()[0][2], 2)
        for m in structure.of(kind)  # type: ignore[arg-type]
        if m.host.key == key or m.id.row == key
    }


def test_plate_and_stem_step_together(pony: Project) -> None:
    structure = work_out(pony).structure
    first, run = pony.walls[0], pony.runs[0]
    top = next(x for x in pony.levels if x.id == run.top).elevation
    stems = [m for m in structure.of(kinds.STEM) if m.id.row == first.id]
    tops = {round(m.solid.bounds()[1][2] - top, 2) for m in stems}
    assert tops == {0.0, round(-2 * FOOT, 2)}
    plates = bottoms(structure, kinds.BOTTOM_PLATE, first.id)
    assert plates == {round(top, 2), round(top - 2 * FOOT, 2)}
    for m in stems:  # the lower part begins where the step was typed
        low = m.solid.bounds()
        if round(low[1][2] - top, 2) < 0:
            assert low[0][0] - first.start[0] == pytest.approx(12 * FOOT, abs=1.0)


def test_its_bottom_plate_is_the_sill(pony: Project) -> None:
    """No sill lies in its room, and bolts stand in the plate, clear of studs."""
    checked = work_out(pony)
    first = pony.walls[0]
    assert not [m for m in checked.structure.of(kinds.SILL) if m.id.row == first.id]
    plates = [m for m in checked.structure.of(kinds.BOTTOM_PLATE) if m.host.key == first.id]
    assert all(m.material.endswith("treated") for m in plates)
    studs = [m for m in checked.structure.of(kinds.WALL_STUD) if m.host.key == first.id]
    for plate in plates:
        bolts = checked.structure.bolts[plate.id].at
        assert len(bolts) >= 2
        for at in bolts:
            spot = plate.start[0] + at
            assert min(abs(spot - s.start[0]) for s in studs) > 19.0


def test_loads_still_close_over_a_step(pony: Project) -> None:
    checked = work_out(pony)
    for arrived, applied in zip(checked.path.soil_total, checked.path.applied):
        assert arrived == pytest.approx(applied, rel=1e-9)
    first = pony.walls[0]
    length = distance(first.start, first.end)
    studs = [m for m in checked.structure.of(kinds.WALL_STUD) if m.host.key == first.id]
    long = [m for m in studs if m.start[0] - first.start[0] > 12 * FOOT]
    short = [m for m in studs if m.start[0] - first.start[0] < 12 * FOOT]
    assert length > 12 * FOOT
    assert {round(a.length - b.length, 1) for a in long for b in short} == {round(2 * FOOT, 1)}
    assert all(m.id in checked.used for m in studs if m.carrier is not None)
