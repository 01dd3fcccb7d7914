"""A full basement placed at its usual levels: a storey deep, along the walls, with nothing of the
old strips left in its way."""

import pytest

from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.framing.hosts.runs import heights_of
from balken.geometry.plane import box
from balken.model.edits import move_level
from balken.model.edits.foundations import place_foundation, usual_parts
from balken.model.project import Project, level
from balken.site.bodies import storey_outline, storey_walls
from balken.units import INCH
from balken.works.building import work_out
from buildings import house


def with_basement(system: str) -> Project:
    """A house on strips, then a basement drawn round it, its corners caught at one face of the
    walls and at the other."""
    project = house(system=system)
    outline = storey_outline(storey_walls(project, project.walls[0].base))
    assert outline is not None
    x0, y0, x1, y1 = box(outline)
    path = [(x0, y0), (x1 - 100.0, y0 + 90.0), (x1, y1), (x0 + 150.0, y1 - 60.0), (x0, y0)]
    return place_foundation(project, "basement", usual_parts(project, "basement"), path=path)


def of_kind(project: Project, kind: str) -> list[Finding]:
    """The findings of one kind."""
    return [f for f in findings(work_out(project)) if f.kind == kind]


@pytest.mark.parametrize(("system", "room"), [("us", 96 * INCH), ("metric", 2400.0)])
def test_it_is_a_storey_deep_and_runs_along_the_walls(system: str, room: float) -> None:
    project = with_basement(system)
    run = next(r for r in project.runs if r.kind == "basement")
    bottom, base, top, slab = heights_of(project, run)
    assert top - slab == pytest.approx(room)
    assert slab - base == pytest.approx(run.slab_thickness), "the slab lies on the footing"
    assert bottom < base
    assert run.paths == (), "no side runs askew beside its wall"
    assert {s.wall for s in run.spans} == {"W11", "W12", "W13", "W14"}
    assert all(s.start == 0.0 for s in run.spans)
    strips = next(r for r in project.runs if r.kind == "strip")
    assert strips.walls == ("W15",), "the strips under the outside walls are gone"


def test_a_strip_over_the_dug_out_soil_is_told_and_can_be_lowered() -> None:
    project = with_basement("us")
    (found,) = of_kind(project, "no footing")
    assert found.mend is not None
    assert "dug out" in found.text
    mended = found.mend.apply(project)
    assert of_kind(mended, "no footing") == []
    run = next(r for r in mended.runs if r.kind == "strip")
    assert (
        heights_of(mended, run)[1]
        == heights_of(mended, next(r for r in mended.runs if r.kind == "basement"))[1]
    )


def test_a_basement_nobody_can_stand_in_is_told() -> None:
    """IRC 2021 R305.1.1: 6 ft 8 in over the floor of a basement nobody lives in."""
    project = with_basement("us")
    run = next(r for r in project.runs if r.kind == "basement")
    slab = level(project, run.slab_level)
    top = level(project, run.top).elevation
    assert of_kind(move_level(project, slab.id, top - 80 * INCH), "headroom") == []
    (found,) = of_kind(move_level(project, slab.id, top - 79 * INCH), "headroom")
    assert found.amount == pytest.approx(INCH)


def test_strips_of_two_foundations_in_one_place_are_told() -> None:
    project = house()
    chosen = usual_parts(project, "grade beam")
    assert of_kind(place_foundation(project, "grade beam", chosen, walls=["W11"]), "clash") == [], (
        "no strips of its own"
    )
    beside = [(1000.0, 2000.0), (9000.0, 2000.0)]
    twice = place_foundation(project, "strip", usual_parts(project, "strip"), path=beside)
    again = place_foundation(
        twice, "strip", usual_parts(project, "strip"), path=[(1000.0, 2100.0), (9000.0, 2100.0)]
    )
    (found,) = [
        f
        for f in of_kind(again, "clash")
        if "of another foundation" in f.text and "G2" in f.text + str(f.host)
    ]
    assert found.amount > 6000.0
