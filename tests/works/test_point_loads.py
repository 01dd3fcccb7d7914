"""Live loads at one place on floors (ASCE 7-16 table 4.3-1; EN 1991-1-1 6.3.1.2): by hand."""

import pytest

from balken.fit.whole_sizing import size_whole
from balken.framing.member import clear_span
from balken.model.edits import set_floor
from balken.model.project import Project
from balken.session.building import demo_project
from balken.session.ferry_hall import ferry_hall
from balken.units import FOOT, INCH, LB, PSF
from balken.works.building import Checked, checks_of, work_out
from balken.works.told_sizes import sizes_told


def offices() -> Project:
    return set_floor(
        demo_project(), "F2", use="offices", live=50 * PSF, section="2x12", spacing=16 * INCH
    )


def pointed(found: Checked) -> dict[str, dict[str, float]]:
    (name,) = found.pointed
    joist = next(m for m in found.structure.members if m.id == name)
    return {
        c.name: {x.symbol: x.value for x in c.lines} | {"ratio": c.ratio}
        for c in checks_of(found, joist)
        if c.name.startswith("Point load")
    }


def test_an_office_floor_under_two_thousand_pounds_by_hand() -> None:
    """2,000 lb on 30 in square: a joist at 16 in gets 16/30 of it; P ℓ/4 + w ℓ²/8 of dead load."""
    found = work_out(offices())
    (name,) = found.pointed
    joist = next(m for m in found.structure.members if m.id == name)
    span = joist.carrier.supports[-1].at - joist.carrier.supports[0].at
    spacing = joist.carrier.area / (joist.carrier.carries[1] - joist.carrier.carries[0])
    floor = next(f for f in found.built.floors if f.id == "F2")
    force = 2000 * LB * min(1.0, spacing / (30 * INCH))
    by_hand = force * span / 4 + floor.dead * spacing * span**2 / 8
    bending = pointed(found)["Point load, bending in its middle"]
    assert bending["M"] == pytest.approx(by_hand, rel=0.03)
    assert span >= clear_span(joist) > 10 * FOOT


def test_by_its_support_all_of_it_is_shear() -> None:
    found = work_out(offices())
    shear = pointed(found)["Point load, shear by its support"]
    assert shear["V"] > 0.85 * 2000 * LB * 16 / 30


def test_rooms_have_none_in_the_us_and_two_kilonewtons_in_europe() -> None:
    assert work_out(demo_project()).pointed == {}
    hall = set_floor(ferry_hall(), "F1", use="rooms")
    less = pointed(work_out(hall))["Point load, bending in its middle"]["ratio"]
    more = pointed(work_out(ferry_hall()))["Point load, bending in its middle"]["ratio"]
    assert less < more, "4 kN where people gather"


def test_a_joist_that_is_too_weak_for_it_is_told() -> None:
    weak = set_floor(offices(), "F2", section="2x6")
    found = work_out(weak)
    (name,) = found.pointed
    assert found.used[name][0] > 1


def test_sizing_the_whole_makes_the_floor_strong_enough_for_it() -> None:
    """An office floor left to the calculation: rows are chosen by the even load, then made stronger
    for the load at one place."""
    project = set_floor(demo_project(), "F1", use="offices", live=50 * PSF)
    first = work_out(project)
    (name,) = first.pointed
    assert first.used[name][0] > 1
    whole = size_whole(project, sizes_told(first))
    after = work_out(whole.project)
    (name,) = after.pointed
    assert after.used[name][0] <= 1 + 1e-9
    assert any(c.host.key == "F1" for c in whole.changes)
