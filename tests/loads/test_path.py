"""Every load finds its way to the soil, and what does not is said."""

import msgspec
import pytest

from balken.fit.findings import findings
from balken.loads.path import pressures
from balken.model.cases import CASE_NAMES
from balken.model.edits import set_floor, set_roof
from balken.model.project import Project
from balken.model.walls import Wall
from balken.units import FOOT, INCH, PSF
from balken.works.building import Checked, work_out
from buildings import house, union_volume
from named import the


def test_soil_reaction_equals_applied_load_case_by_case(demo_checked: Checked) -> None:
    path = demo_checked.path
    assert path.open_ends == ()
    for i, case in enumerate(CASE_NAMES):
        assert list(path.soil_total)[i] == pytest.approx(list(path.applied)[i], rel=1e-9), case


def test_applied_loads_by_hand(plain: Project) -> None:
    """One floor of 36 by 26 ft at 40 psf, a ceiling at 10 psf, a roof with 1 ft overhang at 25 psf
    snow."""
    path = work_out(plain).path
    by_case = dict(zip(CASE_NAMES, path.soil_total))
    area = 36 * 26 * FOOT**2
    assert by_case["live"] == pytest.approx(area * 50 * PSF)
    assert by_case["snow"] == pytest.approx(36 * 28 * FOOT**2 * 25 * PSF)
    assert by_case["roof_live"] == pytest.approx(36 * 28 * FOOT**2 * 20 * PSF)


def test_dead_load_by_hand(plain: Project) -> None:
    checked = work_out(plain)
    area = 36 * 26 * FOOT**2
    roof = 36 * 28 * FOOT**2 * 10 * PSF * 1.118034  # the slope of 6 in 12 is 1.118 times its plan
    walls = (2 * 36 + 2 * 26 + (36 - 13 / 12)) * FOOT * 97.125 * INCH * 12 * PSF
    concrete = union_volume(checked.structure) * plain.site.concrete
    half = (
        13 * FOOT - 3.5 * INCH
    )  # of a gable, to where the underside of the rafters leaves the plate
    gables = 2 * half * half * 0.5 * 12 * PSF
    expected = area * (12 + 5) * PSF + roof + walls + gables + concrete
    assert checked.path.soil_total.dead == pytest.approx(expected, rel=1e-6)


def test_concrete_by_the_pieces_is_concrete_by_the_union(demo_checked: Checked) -> None:
    pieces = sum(
        demo_checked.structure.volume(m)
        for m in demo_checked.structure.members
        if m.material == "concrete"
    )
    assert pieces == pytest.approx(union_volume(demo_checked.structure), rel=1e-9)


def test_the_middle_wall_takes_half_of_every_floor(plain: Project) -> None:
    """Two equal spans: the middle takes more than half, since the load over the outer bearings
    stays outside."""
    path = work_out(plain).path
    middle = path.soil[the("run:G1/footing:W15")]
    assert 0.45 < middle.live / path.soil_total.live < 0.55


def test_a_heavier_roof_presses_harder(plain: Project) -> None:
    plain = set_roof(plain, "R1", section="2x12", spacing=24 * INCH)
    before = pressures(work_out(plain).structure, work_out(plain).path)
    heavy = set_roof(plain, "R1", snow=50 * PSF)
    after = pressures(work_out(heavy).structure, work_out(heavy).path)
    assert after[the("run:G1/footing:W11")].snow == pytest.approx(
        2 * before[the("run:G1/footing:W11")].snow
    )


def test_a_wall_with_nothing_under_it_is_an_open_end(demo: Project) -> None:
    """Take the middle wall of the ground floor away: what stands on it must not vanish."""
    run = msgspec.structs.replace(
        demo.runs[0], walls=tuple(w for w in demo.runs[0].walls if w != "W105")
    )
    floors = tuple(
        msgspec.structs.replace(f, walls=tuple(w for w in f.walls if w != "W105"))
        for f in demo.floors
    )
    walls = tuple(w for w in demo.walls if w.id != "W105")
    open_project = msgspec.structs.replace(demo, runs=(run,), floors=floors, walls=walls)
    checked = work_out(open_project)
    ends = {e.source for e in checked.path.open_ends}
    assert ends == {the("wall:W205")}
    total = [sum(list(e.forces)[i] for e in checked.path.open_ends) for i in range(4)]
    for i in range(4):
        assert list(checked.path.soil_total)[i] + total[i] == pytest.approx(
            list(checked.path.applied)[i], rel=1e-9
        )
    texts = [f.text for f in findings(checked) if f.kind == "load path"]
    assert len(texts) == 1
    assert "wall middle 2" in texts[0]


def test_a_partition_stands_on_the_joists_and_its_weight_reaches_the_soil(demo: Project) -> None:
    """A wall across the upper floor, 2 m from the south wall and away from the middle one: the
    lever shares it."""
    south, middle = 0.0, 3962.4
    partition = Wall(
        "X1", "partition", (4000.0, 1500.0), (4000.0, 3000.0), 100.0, "centre", "L2", "P2"
    )
    checked = work_out(msgspec.structs.replace(demo, walls=(*demo.walls, partition)))
    path, before = checked.path, work_out(demo).path
    assert path.open_ends == ()
    weight = path.soil_total.dead - before.soil_total.dead
    assert weight == pytest.approx(path.applied.dead - before.applied.dead)
    assert weight > 500
    onto_south = path.onto[the("wall:W101")].dead - before.onto[the("wall:W101")].dead
    onto_middle = path.onto[the("wall:W105")].dead - before.onto[the("wall:W105")].dead
    assert onto_south + onto_middle == pytest.approx(weight)
    share = (2250.0 - south) / (middle - south)
    assert onto_middle / weight == pytest.approx(share, abs=0.02)
    assert [f for f in findings(checked) if f.kind == "load path"] == []


def test_two_storeys_without_a_middle_wall() -> None:
    project = house(20 * FOOT, 14 * FOOT, 2)
    path = work_out(project).path
    assert path.open_ends == ()
    assert sum(path.soil_total) == pytest.approx(sum(path.applied), rel=1e-9)


def test_live_load_does_not_change_what_is_dead(plain: Project) -> None:
    heavier = set_floor(plain, "F1", live=100 * PSF, section="2x10", spacing=16 * INCH)
    lighter = set_floor(plain, "F1", live=20 * PSF, section="2x10", spacing=16 * INCH)
    assert work_out(heavier).path.soil_total.dead == pytest.approx(
        work_out(lighter).path.soil_total.dead
    )
