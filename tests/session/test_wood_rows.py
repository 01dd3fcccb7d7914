"""The slips say what wood, air, use and limits a host has, and take others: without a window."""

import pytest

from balken.design.service import service_class
from balken.model.names import HostName
from balken.session.building import Building, demo_project
from balken.session.desk import Desk
from balken.session.ferry_hall import ferry_hall
from balken.session.rows import Options, field_of, type_into
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.units import KPA, PSF


def desk_on(building: Building, host: HostName) -> Desk:
    desk = Desk(building, THINGS)
    desk.select(host)
    return desk


def typed(desk: Desk, name: str, text: str) -> str:
    """What is said against a text typed into a field; nothing where it is taken."""
    refused = type_into(field_of(rows_of(desk), name), text, lambda: desk.said)
    return "" if refused is None else refused.why


def options(desk: Desk, name: str) -> Options:
    return next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == name)


@pytest.fixture
def hall() -> Desk:
    return desk_on(Building(ferry_hall()), HostName("floor", "F1"))


def test_the_wood_of_a_floor_is_chosen_among_what_its_code_has(hall: Desk) -> None:
    row = options(hall, "wood")
    assert row.now == ("softwood", "C24")
    assert {wood for _, wood in row.values} >= {("softwood", "C16"), ("softwood", "C30")}
    assert not any(species == "DF-L" for _, (species, _) in row.values)
    before = sum(v for n, (v, _) in hall.checked.used.items() if n.host == HostName("floor", "F1"))
    row.choose(("softwood", "C16"))
    assert hall.project.build_ups[0].grade == "C16"
    after = sum(v for n, (v, _) in hall.checked.used.items() if n.host == HostName("floor", "F1"))
    assert after > before


def test_us_floors_are_asked_for_no_air(hall: Desk) -> None:
    american = desk_on(Building(demo_project()), HostName("floor", "F1"))
    assert not [r for r in rows_of(american) if isinstance(r, Options) and r.name == "air round it"]
    row = options(hall, "air round it")
    assert row.now == 1
    row.choose(3)
    assert service_class(hall.project.floors[0]) == 3


def test_the_use_of_a_floor_brings_its_load_and_how_long_it_stays(hall: Desk) -> None:
    """EN 1991-1-1 table 6.2 and EN 1990 table A1.1: shops are of category D, 4.0 kN/m² and ψ2 0.6."""
    options(hall, "used as").choose("shop")
    floor = hall.project.floors[0]
    assert (floor.use, floor.live) == ("shop", pytest.approx(4.0 * KPA))
    joist = next(
        m for m in hall.members_of(HostName("floor", "F1")) if m.id in hall.checked.carrying
    )
    sums = hall.checked.carrying[joist.id].asked.loaded.sums
    leading = next(c for c in sums.every if c.name == "1.35G + 1.5L")
    assert leading.second_sag.live == pytest.approx(1 + 0.6 * 0.6)
    american = desk_on(Building(demo_project()), HostName("floor", "F1"))
    options(american, "used as").choose("offices")
    assert american.project.floors[0].live == pytest.approx(50 * PSF)


def test_limits_of_deflection_are_typed_and_refused(hall: Desk) -> None:
    name = "final deflection, span over"
    assert typed(hall, name, "400") == ""
    assert hall.project.floors[0].total_limit == 400.0
    assert "2000" in typed(hall, name, "5000")
    assert hall.project.floors[0].total_limit == 400.0


def test_a_limit_under_a_person_is_typed_and_left_to_the_code_again(hall: Desk) -> None:
    assert field_of(rows_of(hall), "sag under a person").value == "by the code"
    assert typed(hall, "sag under a person", "1.5") == ""
    assert hall.project.floors[0].walk == 1.5
    assert typed(hall, "sag under a person", "") == ""
    assert hall.project.floors[0].walk == 0.0
