"""Snow from the ground to the roofs, by both codes; worked by hand beside each."""

import math

import pytest
from msgspec.structs import replace

from balken.fit.findings import findings
from balken.framing import kinds
from balken.loads.roof_snow import ON_ROOF, flattest, leeward, with_snow_of_site
from balken.model.edits import set_site
from balken.model.edits.roofs import set_roof
from balken.model.project import Project
from balken.model.record import Code
from balken.model.roofs import RoofSide
from balken.model.snow import GroundSnow
from balken.session.building import demo_project
from balken.session.ferry_hall import ferry_hall
from balken.units import FOOT, KPA, PSF
from balken.works.building import checks_of, work_out


def on_site(project: Project, snow: GroundSnow) -> Project:
    project = set_site(project, snow=snow)
    for roof in project.roofs:
        project = set_roof(project, roof.id, snow_from="site")
    return project


def test_a_roof_follows_the_ground_by_asce_7() -> None:
    """ASCE 7-16 7.3-1, figure 7.4-1a: 6 in 12 is 26.6°, under 30° a warm roof keeps all of it."""
    project = on_site(demo_project(), GroundSnow(40 * PSF, thermal=1.0))
    roof = work_out(project).built.roofs[0]
    assert roof.snow == pytest.approx(0.7 * 40 * PSF, rel=1e-6)
    assert project.roofs[0].snow != roof.snow, "what was typed is kept"


@pytest.mark.parametrize(
    ("angle", "snow", "expected"),
    [
        (29.9, GroundSnow(40 * PSF), 28.0),
        (50.0, GroundSnow(40 * PSF), 28.0 * 20 / 40),
        (50.0, GroundSnow(40 * PSF, thermal=1.1), 30.8 * 20 / 32.5),
        (50.0, GroundSnow(40 * PSF, thermal=1.2), 33.6 * 20 / 25),
        (20.0, GroundSnow(40 * PSF, slides=True), 28.0 * 50 / 65),
        (75.0, GroundSnow(40 * PSF), 0.0),
        # Low roofs: I_s p_g up to 20 psf, else 20 psf (7.3.4).
        (14.9, GroundSnow(15 * PSF), 15.0),
        (14.9, GroundSnow(25 * PSF), 20.0),
        (15.1, GroundSnow(25 * PSF), 17.5),
    ],
)
def test_slopes_by_asce_7(angle: float, snow: GroundSnow, expected: float) -> None:
    assert ON_ROOF["us"](snow, angle) / PSF == pytest.approx(expected, rel=1e-9, abs=1e-9)


@pytest.mark.parametrize(
    ("angle", "snow", "expected"),
    [
        (25.0, GroundSnow(1.0 * KPA), 0.8),
        (45.0, GroundSnow(1.0 * KPA), 0.4),
        (60.0, GroundSnow(1.0 * KPA), 0.0),
        (45.0, GroundSnow(1.0 * KPA, guarded=True), 0.8),
        (25.0, GroundSnow(1.0 * KPA, exposure=1.2), 0.96),
    ],
)
def test_slopes_by_en_1991(angle: float, snow: GroundSnow, expected: float) -> None:
    """EN 1991-1-3 5.2, table 5.2."""
    assert ON_ROOF["eu"](snow, angle) / KPA == pytest.approx(expected, abs=1e-9)


def test_the_flattest_side_keeps_most() -> None:
    roof = demo_project().roofs[0]
    flatter = replace(roof, sides=(RoofSide("1", rise=3.0),))
    assert flattest(flatter) == pytest.approx(math.degrees(math.atan(3 / 12)))
    steeper = replace(roof, sides=(RoofSide("1", rise=12.0),))
    assert flattest(steeper) == flattest(roof)


def test_nothing_changes_where_no_roof_asks() -> None:
    hall = ferry_hall()
    assert with_snow_of_site(hall) is hall
    told = set_site(hall, snow=GroundSnow(5 * KPA))
    assert with_snow_of_site(told) is told


def test_more_snow_on_the_ground_is_more_in_the_soil() -> None:
    light, heavy = (on_site(demo_project(), GroundSnow(s * PSF)) for s in (30, 60))
    low, high = work_out(light), work_out(heavy)
    assert high.path.soil_total.snow == pytest.approx(2 * low.path.soil_total.snow, rel=1e-6)
    assert not [f for f in findings(low) if f.kind == "fault"]


def steepness(rise: float, width_ft: float = 16.0, slopes: int = 2, code: Code = "us") -> float:
    roof = replace(demo_project().roofs[0], rise=rise, snow=28 * PSF, snow_from="site")
    site = replace(demo_project().site, snow=GroundSnow(40 * PSF))
    assert leeward(code, site, replace(roof, snow_from="typed"), slopes, width_ft * FOOT) == 1.0
    return leeward(code, site, roof, slopes, width_ft * FOOT)


def test_snow_to_leeward_inside_and_outside_its_conditions() -> None:
    """ASCE 7-16 7.6.1: half on 12 to 7 on 12, roofs with a ridge; up to 20 ft from eave to ridge all of
    the ground snow on one side, wider ones by the drift of figure 7.6-1."""
    assert steepness(7.0) == pytest.approx(40 / 28, rel=1e-5), (
        "28 psf on the roof are 40 on the ground"
    )
    assert steepness(7.01) == 1.0
    assert steepness(0.5) == pytest.approx(40 / 28, rel=1e-5)
    assert steepness(0.49) == 1.0
    assert steepness(6.0, slopes=1) == 1.0, "a shed has no ridge"
    assert steepness(6.0, code="eu") == 1.0, "EN 1991-1-3 5.3.3 has no more on one side"
    assert steepness(6.0, width_ft=20.0) == pytest.approx(40 / 28, rel=1e-5)
    # 24 ft: hd = 0.43 · 24^(1/3) · 50^(1/4) − 1.5 ft, γ = 0.13 · 40 + 14 pcf, over √(12/6).
    drift = (0.43 * 24 ** (1 / 3) * 50**0.25 - 1.5) * 19.2 / math.sqrt(2)
    assert steepness(6.0, width_ft=24.0) == pytest.approx((28 + drift) / 28, rel=1e-5)


def test_rafters_are_held_against_snow_to_leeward() -> None:
    snowed = on_site(demo_project(), GroundSnow(40 * PSF))
    checked_ = work_out(snowed)
    rafter = next(
        m
        for m in checked_.structure.of(kinds.RAFTER)
        if m.id in checked_.used and m.id not in checked_.carrying and m.id.piece.isdigit()
    )
    found = {c.name: c for c in checks_of(checked_, rafter)}
    assert found["Bending"].combination == "D + S unbalanced"
    half = set_roof(snowed, "R1", rise=8.0)
    steep = work_out(half)
    rafter = next(m for m in steep.structure.of(kinds.RAFTER) if m.id == rafter.id)
    assert {c.combination for c in checks_of(steep, rafter)}.isdisjoint({"D + S unbalanced"})
