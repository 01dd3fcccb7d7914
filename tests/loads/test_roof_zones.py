"""Rafters as components in the zones of a roof: ASCE 7-16 30.3.2, EN 1991-1-4 tables 7.4a, 7.4b."""

import pytest
from msgspec.structs import replace

from balken.fit.findings import findings
from balken.framing import kinds
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.loads.codes.eu.roof_zones import coefficients
from balken.loads.roof_zones import component_shares, effective_area, zones_of
from balken.loads.wind import WIND
from balken.model.edits import set_site
from balken.model.edits.roofs import set_roof
from balken.model.project import Project
from balken.model.wind import Wind
from balken.session.building import Building, demo_project
from balken.session.desk import Desk
from balken.session.rows import field_of, type_into
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.units import FOOT, MPH, PSF
from balken.works.building import work_out
from buildings import house
from named import the

US = Wind(115 * MPH, exposure="B", zones=(1.0, 1.4, 1.8))


def blown(wind: Wind, project: Project | None = None) -> Project:
    return set_site(project or house(), wind=wind)


def test_pressures_by_hand() -> None:
    """q_h (GC_p + 0.18), no less than 16 psf; a a tenth of the least side, 0.4 h or 3 ft."""
    done = work_out(blown(US))
    roof = done.built.roofs[0]
    bearings = bearings_of_roof(done.built, roof)
    assert bearings is not None
    found = zones_of(done.built, roof, bearings, 50 * FOOT**2)
    assert found is not None
    from balken.loads.roof_wind import mean_height

    q = WIND["us"].pressure(US, mean_height(done.built, roof, bearings))
    assert found.inner == pytest.approx(max(16 * PSF, q * 1.18))
    assert found.corner == pytest.approx(max(16 * PSF, q * 1.98))
    assert found.wide == pytest.approx(3 * FOOT)


def test_rafters_are_lifted_by_the_mean_of_their_zones() -> None:
    """Those by the corners most; none less than the roof as a whole lifts them."""
    project = blown(US)
    done = work_out(project)
    shares = component_shares(done.built, done.structure)
    by_id = {m.id: m for m in done.structure.members}
    assert shares
    assert min(shares.values()) > 1.0
    outer = max(shares, key=lambda n: shares[n])
    x = [by_id[n].start[0] for n in shares]
    assert by_id[outer].start[0] < min(x) + 4 * FOOT or by_id[outer].start[0] > max(x) - 4 * FOOT
    calm = work_out(blown(replace(US, zones=(0.0, 0.0, 0.0))))
    mine = [s.force for s in done.straps if s.what == outer]
    before = [s.force for s in calm.straps if s.what == outer]
    assert max(mine) > max(before, default=0.0)
    assert done.lifted[outer].worst[0] > 0


def test_coefficients_by_the_tables_and_the_area() -> None:
    """15 degrees, 10 m²: H 0.6, G 1.3, F 1.3; 1 m²: H 1.2, G 2.0, F 2.0; 30 degrees: F 1.1 is no less
    than G 1.4. Between by the logarithm (7.2.1)."""
    assert coefficients(15.0, 10e6) == pytest.approx((0.6, 1.3, 1.3))
    assert coefficients(15.0, 1e6) == pytest.approx((1.2, 2.0, 2.0))
    assert coefficients(30.0, 20e6) == pytest.approx((0.8, 1.4, 1.4))
    middle = coefficients(15.0, 10**0.5 * 1e6)
    assert middle == pytest.approx((0.9, 1.65, 1.65))


def test_zones_that_are_not_typed_are_told_in_us_projects() -> None:
    bare = blown(replace(US, zones=None))
    assert any("GCp of the zones" in f.text for f in findings(work_out(bare)))
    assert not any("GCp of the zones" in f.text for f in findings(work_out(blown(US))))
    trussed = set_roof(bare, bare.roofs[0].id, framing="trusses")
    assert not any("GCp of the zones" in f.text for f in findings(work_out(trussed)))
    european = replace(bare, code="eu")
    assert not any("GCp of the zones" in f.text for f in findings(work_out(european)))


def test_effective_area_is_no_narrower_than_a_third_of_the_length() -> None:
    rafter = next(m for m in work_out(house()).structure.of(kinds.RAFTER) if m.carrier.area > 0)
    assert effective_area(rafter) >= rafter.run**2 / 3 - 1.0


def test_zones_are_typed_on_the_slip_of_the_site() -> None:
    desk = Desk(Building(demo_project()), THINGS)
    desk.select(the(f"run:{desk.project.runs[0].id}"))

    def typed(text: str) -> str:
        refused = type_into(field_of(rows_of(desk), "GCp of zones"), text, lambda: desk.said)
        return "" if refused is None else refused.why

    assert typed("1.2, 1.6, 2.2") == ""
    assert desk.project.site.wind is not None
    assert desk.project.site.wind.zones == (1.2, 1.6, 2.2)
    assert "3 numbers" in typed("1.2, 1.6")
    assert typed("1.2, 1.6, 9") != ""
    assert typed("") == ""
    assert desk.project.site.wind.zones is None
