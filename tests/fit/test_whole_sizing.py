"""The whole building sized at once: what is over grows, what is held by hand stays, and what changed is
told."""

from pathlib import Path

import pytest
from click.testing import CliRunner
from msgspec.structs import replace

from balken.cli import main
from balken.exchange.native import load, save
from balken.fit.findings import findings
from balken.fit.whole_sizing import size_whole
from balken.framing import kinds
from balken.model.edits import set_site
from balken.model.edits.roofs import set_roof
from balken.model.edits.supports import set_supports
from balken.model.names import HostName
from balken.model.project import Project
from balken.session.building import demo_project
from balken.session.ferry_hall import ferry_hall
from balken.works.building import checks_of, work_out
from balken.works.told_sizes import sizes_told


def snowed(project: Project, times: float) -> Project:
    return replace(project, roofs=tuple(replace(r, snow=times * r.snow) for r in project.roofs))


def without_reserve(project: Project) -> Project:
    """A building on soil that bears what its strips press on it, and hardly more."""
    checked = work_out(project)
    checks = [c for m in checked.structure.of(kinds.FOOTING) for c in checks_of(checked, m)]
    most = max(c.ratio for c in checks if c.name == "Soil pressure")
    return set_site(project, soil_bearing=1.001 * most * project.site.soil_bearing)


def over(project: Project) -> list[str]:
    return [f.text for f in findings(work_out(project)) if f.kind == "over"]


def test_snow_doubled_goes_down_to_the_footings() -> None:
    """Snow on the roof is twice doubled: rafters follow at once, and where it comes down footings whose
    widths were typed grow until the soil bears them."""
    tight = without_reserve(demo_project())
    was = sizes_told(work_out(tight))
    whole = size_whole(snowed(tight, 4.0), was)
    changed = {(c.host.kind, c.what) for c in whole.changes}
    assert ("roof", "rafters") in changed
    assert ("run", "footing") in changed
    assert whole.rounds >= 1
    rafters = next(c for c in whole.changes if c.what == "rafters")
    assert rafters.was != rafters.now
    assert rafters.why, "it says which check governs now"
    footing = next(c for c in whole.changes if c.what == "footing")
    assert footing.why


def test_posts_grow_and_what_is_over_is_told() -> None:
    hall = ferry_hall()
    key = next(s.id for s in hall.point_supports if s.kind == "post" and s.section == "GL 280x600")
    weak = set_supports(hall, [key], section="GL 100x200", size=(100.0, 200.0))
    was = sizes_told(work_out(weak))
    whole = size_whole(weak, was)
    post = next(c for c in whole.changes if c.host == HostName("support", key))
    assert post.was == "GL 100x200"
    assert post.now != post.was
    assert not [t for t in over(whole.project) if key in t and "ompression" in t]
    assert [f.text for f in whole.left] == over(whole.project)


def test_a_size_held_by_hand_is_checked_and_stays() -> None:
    held = set_roof(demo_project(), "R1", section="2x6", spacing=609.6)
    whole = size_whole(held, sizes_told(work_out(held)))
    roof = next(r for r in whole.project.roofs if r.id == "R1")
    assert (roof.section, roof.spacing) == ("2x6", 609.6)
    assert any(f.host == HostName("roof", "R1") for f in whole.left), "it is over, and told"


def test_a_building_that_is_not_over_stays_as_it_is() -> None:
    house = demo_project()
    assert not over(house)
    whole = size_whole(house, sizes_told(work_out(house)))
    assert whole.project is house
    assert whole == (house, (), (), 0)


@pytest.mark.parametrize("soil", [0.1, 0.035])
def test_the_command_writes_the_building_and_tells(tmp_path: Path, soil: float) -> None:
    path, target = tmp_path / "a.balken", tmp_path / "b.balken"
    save(set_site(demo_project(), soil_bearing=soil), path)
    run = CliRunner().invoke(main, ["size", str(path), "--to", str(target)])
    assert run.exit_code == (1 if "still over" in run.output else 0)
    assert "sizes changed in" in run.output
    assert (" → " in run.output) == (soil < 0.1)
    assert load(target).roofs == load(path).roofs
