"""Loads drawn on floors and roofs: all of each comes to the soil, through what lies under it."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.fit.findings import findings
from balken.framing import kinds
from balken.loads.drawn import pieces_of, size_of
from balken.model.cases import Cases
from balken.model.drawn_loads import DrawnLoad
from balken.model.edits.common import EditError
from balken.model.edits.drawn_loads import draw_load, move_load, remove_load, set_load
from balken.model.names import HostName
from balken.model.project import Project
from balken.session.building import demo_project
from balken.units import FOOT, LB, PLF, PSF
from balken.works.building import checks_of, work_out

TUB = HostName("load", "L1")


def test_a_point_load_goes_to_the_joist_under_it_and_is_checked() -> None:
    """A joist with its strip and 500 lb in its middle: P ℓ / 4 more of moment, P / 2 at each end."""
    project = demo_project()
    before = work_out(project)
    joist = next(
        m
        for m in before.structure.of(kinds.JOIST)
        if m.host.key == "F2"
        and len(m.carrier.supports) == 2
        and m.length > 3000
        and 2000 < m.start[0] < 3500
    )
    middle = tuple((a + b) / 2 for a, b in zip(joist.start[:2], joist.end[:2]))
    loaded, _ = draw_load(project, "point", "L2", [middle], "dead", 500 * LB)  # type: ignore[list-item]
    after = work_out(loaded)
    ends = zip(before.path.reactions[joist.id], after.path.reactions[joist.id])
    more = [b.dead - a.dead for a, b in ends]
    assert math.fsum(more) == pytest.approx(500 * LB)
    assert more[0] == pytest.approx(250 * LB, rel=0.02)
    assert after.used[joist.id][0] > before.used[joist.id][0] * 1.1
    assert checks_of(after, joist)
    gained = after.path.soil_total - before.path.soil_total
    assert list(gained) == pytest.approx(list(Cases(500 * LB)), abs=1e-3)


@pytest.mark.parametrize(
    ("shape", "places", "whole"),
    [
        ("point", [(3000.0, 3000.0)], 1.0),
        ("line", [(500.0, 500.0), (3500.0, 4500.0)], 5000.0),
        ("area", [(500.0, 500.0), (4500.0, 500.0), (4500.0, 2500.0)], 4e6),
    ],
)
def test_all_of_a_load_comes_to_the_soil(
    shape: str, places: list[tuple[float, float]], whole: float
) -> None:
    """A line of 3 by 4 m is 5 m long; half of 4 by 2 m is 4 m²."""
    project, key = draw_load(demo_project(), shape, "L2", places, "live", 0.004)  # type: ignore[arg-type]
    assert size_of(project.loads[0]) == pytest.approx(whole)
    path, before = work_out(project).path, work_out(demo_project()).path
    gained = path.soil_total.live - before.soil_total.live
    assert gained == pytest.approx(0.004 * whole, rel=1e-6, abs=1e-6)
    assert path.applied.live - before.applied.live == pytest.approx(
        0.004 * whole, rel=1e-6, abs=1e-6
    )
    assert not any(f.kind == "load path" for f in findings(work_out(project)))
    assert remove_load(project, key) == demo_project()


@settings(max_examples=40)
@given(
    st.lists(
        st.tuples(st.floats(0, 20_000), st.floats(0, 20_000)), min_size=3, max_size=7, unique=True
    )
)
def test_pieces_make_the_whole(places: list[tuple[float, float]]) -> None:
    """However its corners lie, even where they cross."""
    load = DrawnLoad("L1", "a", "area", "F", tuple(places), "dead", 0.002)
    whole = math.fsum(p.forces.dead for p in pieces_of(load))
    assert whole == pytest.approx(0.002 * size_of(load), rel=1e-9, abs=1e-9)


def test_a_line_over_a_wall_goes_into_the_wall() -> None:
    project = demo_project()
    wall = next(w for w in project.walls if w.id == "W101")
    y = wall.start[1] + 50.0
    places = [(1000.0, y), (3000.0, y)]
    project, _ = draw_load(project, "line", "L2", places, "dead", 200 * PLF)
    taken = {on for source, on, _ in work_out(project).path.handed if source == TUB}
    assert taken == {HostName("wall", "W101")}


def test_a_load_on_a_roof_goes_to_its_rafters() -> None:
    project = demo_project()
    plate = project.roofs[0].plate
    places = [(3000.0, 1500.0), (5000.0, 1500.0), (5000.0, 3000.0), (3000.0, 3000.0)]
    project, _ = draw_load(project, "area", plate, places, "dead", 5 * PSF)
    path = work_out(project).path
    taken = {on.family for source, on, _ in path.handed if source == TUB}  # type: ignore[union-attr]
    assert taken == {"rafter"}
    assert path.applied.dead == pytest.approx(path.soil_total.dead, rel=1e-9)


def test_a_load_over_nothing_is_told_by_its_name() -> None:
    project, key = draw_load(
        demo_project(), "point", "L2", [(40 * FOOT, 90 * FOOT)], "snow", 800 * LB, "tank"
    )
    told = [f for f in findings(work_out(project)) if f.kind == "load path"]
    assert len(told) == 1
    assert "tank" in told[0].text
    assert told[0].amount == pytest.approx(800 * LB)
    home = move_load(project, key, (-36 * FOOT, -84 * FOOT))
    assert not any(f.kind == "load path" for f in findings(work_out(home)))


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"amount": 0.0}, "nothing"),
        ({"shape": "area"}, "3 places"),
        ({"shape": "line", "places": [(0.0, 0.0)]}, "2 places"),
        ({"level": "nowhere"}, "nowhere"),
        ({"amount": -5.0}, "nothing"),
    ],
)
def test_what_is_no_load_is_refused(fields: dict[str, object], words: str) -> None:
    usual = {"shape": "point", "level": "L2", "places": [(0.0, 0.0)], "case": "live", "amount": 1.0}
    with pytest.raises(EditError, match=words):
        draw_load(demo_project(), **{**usual, **fields})  # type: ignore[arg-type]


def test_changed_as_typed() -> None:
    project, key = draw_load(demo_project(), "point", "L2", [(0.0, 0.0)], "live", 1.0)
    assert set_load(project, key, amount=7.0, case="snow").loads[0].amount == 7.0
    with pytest.raises(EditError):
        set_load(project, key, colour="red")


def test_one_case_leaves_the_others() -> None:
    project: Project = demo_project()
    loaded, _ = draw_load(project, "point", "L2", [(3000.0, 3000.0)], "snow", 1000.0)
    gained = work_out(loaded).path.applied - work_out(project).path.applied
    assert list(gained) == pytest.approx(list(Cases(snow=1000.0)), abs=1e-6)
