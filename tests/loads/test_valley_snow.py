"""Snow in valleys, to leeward on what carries rafters, and rain on it: by hand from ASCE 7-16 and
EN 1991-1-3."""

import math

import pytest
import shapely
from msgspec.structs import replace

from balken.framing import kinds
from balken.geometry.plane import distance
from balken.loads.codes.us.snow import FLAT
from balken.loads.roof_snow import with_snow_of_site
from balken.loads.valley_snow import valleys
from balken.model.edits import set_site
from balken.model.edits.roofs import set_roof
from balken.model.project import Project
from balken.model.snow import GroundSnow
from balken.units import FOOT, INCH, KPA, PSF
from balken.works.building import Checked, work_out
from buildings import house, walled

INNER = (5000.0, 6000.0)
SHAPE = (
    (0.0, 0.0),
    (12_000.0, 0.0),
    (12_000.0, 6000.0),
    INNER,
    (5000.0, 12_000.0),
    (0.0, 12_000.0),
)


def snowed(project: Project, ground: float = 40 * PSF, **snow: float) -> Checked:
    for roof in project.roofs:
        project = set_roof(project, roof.id, snow_from="site")
    return work_out(set_site(project, snow=GroundSnow(ground, **snow)))  # type: ignore[arg-type]


@pytest.fixture(scope="module")
def bent() -> Project:
    """An L of two wings under hips of 6 on 12."""
    return walled(SHAPE, overhang=0.0, rise=6.0)


def test_an_l_has_one_valley_with_two_sides(bent: Project) -> None:
    done = snowed(bent)
    found = list(valleys(done.structure.roofs))
    assert len(found) == 2
    assert {v.other.side for v in found} == {v.face.side for v in found}
    for v in found:
        assert min(distance(INNER, p) for p in v.edge) < 200.0
        assert shapely.Polygon(v.face.outline).touches(shapely.LineString(v.edge))


def test_a_hip_roof_on_a_rectangle_has_no_valley() -> None:
    assert not list(valleys(snowed(house()).structure.roofs))


def test_the_valley_holds_twice_what_lies_flat(bent: Project) -> None:
    """2 p_f / C_e in the valley, p_s evenly: 2 · 0.7 · 40 − 0.7 · 40 psf (ASCE 7-16 7.6.3), over p_f
    two thirds of the way to the ridge."""
    done = snowed(bent)
    assert {h.where for h in done.path.heaped} == {"in the valley"}
    for heap in done.path.heaped:
        assert heap.most == pytest.approx(FLAT * 40 * PSF)
        heaviest, least = heap.strips[0][1], heap.strips[-1][1]
        assert heaviest == pytest.approx(heap.most * 11 / 12)
        assert least <= heap.most * 5 / 12
    exposed = snowed(bent, exposure=0.9)
    flat = FLAT * 0.9 * 40 * PSF
    assert exposed.path.heaped[0].most == pytest.approx(2 * flat / 0.9 - flat)


def test_a_european_valley_by_its_shape(bent: Project) -> None:
    """μ2 = 0.8 + 0.8 α/30 in the valley against 0.8 evenly: 0.8 · 26.57 / 30 of s_k (EN 1991-1-3
    5.3.4)."""
    angle = math.degrees(math.atan(0.5))
    european = replace(bent, code="eu")
    done = snowed(european, 1.5 * KPA)
    assert done.path.heaped[0].most == pytest.approx(0.8 * angle / 30 * 1.5 * KPA)


def test_what_gathers_reaches_the_soil_and_bends_the_valley(bent: Project) -> None:
    with_it, without = snowed(bent), work_out(set_site(bent, snow=None))
    heaps = sum(shapely.Polygon(ring).area * q for h in with_it.path.heaped for ring, q in h.strips)
    even = with_it.built.roofs[0].snow / without.built.roofs[0].snow
    assert with_it.path.soil_total.snow == pytest.approx(
        without.path.soil_total.snow * even + heaps, rel=1e-9
    )
    (valley,) = with_it.structure.of(kinds.VALLEY)
    assert with_it.path.onto[valley.id].snow > without.path.onto[valley.id].snow * even * 1.2


def test_a_wing_that_runs_into_a_roof_has_its_valleys_too() -> None:
    """Two roofs: the valley lies on the one that is run into as well, which is not cut there."""
    project = walled(SHAPE, overhang=0.0, rise=6.0)
    apart = replace(project, roofs=())
    assert not list(valleys(work_out(apart).structure.roofs))


@pytest.mark.parametrize(("rise", "gathers"), [(0.37, False), (0.40, True)])
def test_flat_planes_gather_nothing(bent: Project, rise: float, gathers: bool) -> None:
    """ASCE 7-16 7.6.3: from 3/8 on 12."""
    done = snowed(set_roof(bent, bent.roofs[0].id, rise=rise))
    assert any(h.where == "in the valley" for h in done.path.heaped) == gathers


def test_walls_and_what_is_under_them_know_of_snow_to_leeward() -> None:
    """ASCE 7-16 7.6.1: simple rafters up to 20 ft have I p_g on one side, where 0.7 p_g lies evenly;
    what the ridge gets is no more, as the other side has nothing."""
    held = set_roof(house(), "R1", section="2x10", spacing=16 * INCH)
    done = snowed(held)
    rafter = next(
        m for m in done.structure.of(kinds.RAFTER) if m.id.family == "rafter" and m.run < 20 * FOOT
    )
    wall = rafter.carrier.supports[0].on
    assert wall is not None
    project = set_roof(held, "R1", snow=done.built.roofs[0].snow, snow_from="typed")
    typed = work_out(set_site(project, snow=None))
    even = done.path.onto[wall].snow
    assert even == pytest.approx(typed.path.onto[wall].snow)
    besides = done.path.onto_more[wall].snow - typed.path.onto_more[wall].snow
    assert besides == pytest.approx(even * (1 / FLAT - 1), rel=1e-5)


LONG = ((0.0, 0.0), (22_000.0, 0.0), (22_000.0, 9000.0), (0.0, 9000.0))
"""W / 50 of 22 m, 72 ft, is 1.44 degrees: 0.25 on 12 is 1.19, 0.35 on 12 is 1.67."""


@pytest.mark.parametrize(
    ("ground", "rise", "rains"),
    [(20.0, 0.25, True), (21.0, 0.25, False), (20.0, 0.35, False), (0.0, 0.25, False)],
)
def test_rain_falls_on_thin_snow_of_gentle_roofs(ground: float, rise: float, rains: bool) -> None:
    """5 psf where p_g is up to 20 psf and the slope in degrees under W / 50 in feet (ASCE 7-16
    7.10)."""
    project = set_roof(walled(LONG), "R1", rise=rise, snow_from="site")
    with_rain = with_snow_of_site(set_site(project, snow=GroundSnow(ground * PSF)))
    # p_m of low roofs governs over 0.7 p_g, and rain comes beside it.
    dry = max(0.7 * ground, min(ground, 20.0))
    assert with_rain.roofs[0].snow / PSF == pytest.approx(dry + (5.0 if rains else 0.0))
