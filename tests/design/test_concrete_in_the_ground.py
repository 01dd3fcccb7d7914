"""Pads, strips and basement walls against the codes' own formulas worked by hand, and statics in
closed form."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from balken.design.codes.eu import ec2_pads, ec2_plain
from balken.design.codes.us import aci_pads, aci_plain
from balken.design.codes.us.irc_soil import prescriptive_width
from balken.design.concrete.bars import bars_across, bars_along
from balken.design.lines import Check
from balken.design.soil.pressure import (
    Beside,
    cantilever,
    propped,
    shear_and_moment,
    under_pad,
    within_influence,
)
from balken.design.soil.sizes import pad_side, rounded_up, strip_width
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.ground.anchors import least_bolts, place_bolts
from balken.framing.member import Member
from balken.model.cases import Cases
from balken.model.edits import move_level, set_run, set_site
from balken.model.edits.foundations import place_foundation, usual_parts
from balken.model.edits.levels import add_level
from balken.model.edits.supports import put_support, set_supports, size_supports
from balken.model.project import Project, level
from balken.session.demo import shown_demo
from balken.units import FOOT, INCH, KPA, LB, PCF, PSF
from balken.works.building import Checked, checks_of, work_out
from balken.works.earth import backfill_of
from balken.works.pads import propose_pad
from buildings import house
from named import the

# -- soil ---------------------------------------------------------------------


def test_pressure_inside_the_kern() -> None:
    """P/A (1 ± 6e/b): 100 kN on 2 m square, e = 0.2 m."""
    found = under_pad(100e3, (20e6, 0.0), (2000.0, 2000.0))
    assert (found.highest, found.lowest) == pytest.approx((0.025 * 1.6, 0.025 * 0.4))
    assert not found.lifts


def test_pressure_both_ways_outside_the_kern_holds_force_and_moments() -> None:
    """The corner pressure of a 3 m square pad with e = 0.6 m both ways, against an independent fine
    quadrature."""
    found = under_pad(100e3, (60e6, 60e6), (3000.0, 3000.0))
    assert found.lifts

    def sums(a: float, b: float) -> tuple[float, float]:
        x = (np.arange(600) + 0.5) / 600 * 3 - 1.5
        q = np.maximum(0.0, a + b * (x[:, None] + x[None, :]))
        cell = (3 / 600) ** 2
        return float(q.sum() * cell), float((q * x[:, None]).sum() * cell)

    # Two unknowns of the symmetric plane by bisection on the share of a to b, then scaled to the
    # force.
    low, high = -2.9, 3.0
    for _ in range(60):
        mid = (low + high) / 2
        force, moment = sums(mid, 1.0)
        low, high = (low, mid) if moment / force < 0.6 else (mid, high)
    force, _ = sums(low, 1.0)
    assert found.highest == pytest.approx((low + 3.0) * 100e3 / force / 1e6, rel=2e-3)


def test_a_load_outside_the_pad_turns_it_over() -> None:
    with pytest.raises(BalkenError, match="turns over"):
        under_pad(10e3, (11e6, 0.0), (2000.0, 2000.0))
    with pytest.raises(BalkenError, match="Nothing presses"):
        under_pad(-1.0, (0.0, 0.0), (2000.0, 2000.0))


@given(st.floats(1e3, 1e6), st.floats(0.0, 0.45), st.floats(500, 4000), st.floats(500, 4000))
def test_one_way_pressure_balances_the_force(
    force: float, share: float, bx: float, by: float
) -> None:
    """Statics: the pressure diagram, a trapezoid or a triangle, adds up to the force at its
    eccentricity."""
    found = under_pad(force, (force * share * bx, 0.0), (bx, by))
    pressed = found.share * bx
    total = (found.highest + found.lowest) / 2 * pressed * by
    assert total == pytest.approx(force, rel=1e-9)
    arm = pressed / 3 * (found.highest + 2 * found.lowest) / (found.highest + found.lowest)
    assert bx / 2 - arm == pytest.approx(share * bx, abs=1e-6 * bx)


def test_widths_leave_nothing_for_soil_that_bears_less_than_the_concrete() -> None:
    with pytest.raises(BalkenError, match="heavier than the soil bears"):
        strip_width(10.0, 100 * PSF, 12 * INCH, 150 * PCF)
    assert pad_side(10e3, 0.1) == pytest.approx(math.sqrt(1e5))
    assert rounded_up(508.0, 2 * INCH) == 508.0
    assert rounded_up(508.1, 2 * INCH) == pytest.approx(558.8)


def test_the_prescriptive_table_says_nothing_outside_itself() -> None:
    """IRC 2012 table R403.1, from memory: one to three storeys, 1,500 psf and up; a weaker column
    counts between two."""
    assert prescriptive_width("light frame", 4, 2000 * PSF) is None
    assert prescriptive_width("light frame", 1, 1400 * PSF) is None
    assert prescriptive_width("solid or grouted masonry", 3, 2900 * PSF) == pytest.approx(32 * INCH)


def test_influence_lines_at_45_degrees() -> None:
    assert within_influence(-1000.0, -2000.0, 400.0) == pytest.approx(600.0)
    assert within_influence(-1000.0, -2000.0, 1000.0) == 0.0


# -- walls --------------------------------------------------------------------


@given(st.floats(1500, 4000), st.floats(0.2, 1.0))
def test_a_propped_wall_by_integration(height: float, share: float) -> None:
    """Reactions and greatest moment of the triangle of pressure, against numerical integration of
    it."""
    fill, fluid = share * height, 45 * PCF
    found = propped(height, fill, fluid)
    z = np.linspace(0, fill, 4001)
    q = fluid * (fill - z)
    total = np.trapezoid(q, z)
    assert found.top + found.bottom == pytest.approx(total, rel=1e-6)
    assert found.top == pytest.approx(np.trapezoid(q * z, z) / height, rel=1e-5)
    moments = [
        shear_and_moment(height, fill, fluid, h, prop=True)[1] for h in np.linspace(0, height, 801)
    ]
    assert found.moment == pytest.approx(max(moments), rel=1e-4)


def test_a_cantilever_wall() -> None:
    """γ h³ / 6 at its foot."""
    found = cantilever(2400.0, 30 * PCF)
    assert found.moment == pytest.approx(30 * PCF * 2400.0**3 / 6)
    assert shear_and_moment(3000.0, 2400.0, 30 * PCF, 0.0, prop=False) == pytest.approx(
        (found.bottom, found.moment)
    )


def basement(height: float = 8 * FOOT, *, system: str = "us") -> Project:
    """A plain house on a full basement with the ground 6 in under the top of its wall."""
    project = house(system=system)
    top = level(project, "TF").elevation
    project = move_level(project, "FB", top - height - 14 * INCH)
    project = move_level(project, "FT", top - height - 4 * INCH)
    project = add_level(project, "slab", "Basement slab", top - height)
    walls = project.runs[0].walls
    parts = usual_parts(project, "basement")
    project = place_foundation(project, "basement", parts, walls, top="TF", base="FT")
    return move_level(project, "GR", top - 6 * INCH)


def stem_checks(checked: Checked, wall: str = "W11") -> tuple[Member, tuple[Check, ...]]:
    """Bending and shear of a basement wall by the earth."""
    m = next(
        x
        for x in checked.structure.members
        if x.kind is kinds.STEM and str(x.id).endswith(f":{wall}")
    )
    return m, tuple(c for c in checks_of(checked, m) if c.name.startswith("Earth"))


def test_a_basement_wall_by_hand() -> None:
    """8 ft between slab and floor, 7 ft 6 in of soil at 45 pcf: R, M by statics; 10 in plain and
    then with bars."""
    checked = work_out(set_site(basement(), fluid=45 * PCF))
    m, (bending, shear) = stem_checks(checked)
    soil = backfill_of(checked.project, checked.structure, m)
    assert soil is not None
    assert (soil.height / FOOT, soil.fill / FOOT, soil.propped) == (
        pytest.approx(8.0),
        pytest.approx(7.5),
        True,
    )
    top = 45 * 7.5**3 / (6 * 8)
    y = math.sqrt(2 * top / 45)
    moment = 1.6 * (top * (0.5 + y) - 45 * y**3 / 6)  # lb·ft per ft
    step = next(s for s in bending.lines if s.symbol == "M")
    assert step.value / LB == pytest.approx(moment, rel=1e-6)
    assert bending.ratio == pytest.approx(
        moment / (0.6 * 5 * math.sqrt(3000) * 10**2 / 6), rel=1e-6
    )
    force = 1.6 * (45 * 7.5**2 / 2 - top)
    assert shear.ratio == pytest.approx(force / 12 / (0.6 * 4 / 3 * math.sqrt(3000) * 10), rel=1e-6)
    deep = set_site(basement(10 * FOOT), fluid=60 * PCF)
    _, (bars, _) = stem_checks(work_out(deep))
    assert "#" in next(s.how for s in bars.lines if s.symbol == "bars"), (
        "10 ft of heavy soil ask for bars"
    )
    assert bars.ratio <= 1


def test_without_its_floor_the_wall_is_a_cantilever() -> None:
    project = replace(basement(), floors=())
    _, (alone, *_) = stem_checks(work_out(project))
    _, (held, *_) = stem_checks(work_out(basement()))
    assert "foot alone" in alone.lines[0].how
    moments = [next(s.value for s in c.lines if s.symbol == "M") for c in (alone, held)]
    assert moments[0] > 2 * moments[1]


# -- pads ---------------------------------------------------------------------


def test_a_metric_pad_by_hand() -> None:
    """2.0 m square, 500 thick, 300 column, 800 kN: EN 1992-1-1 worked by hand, C25/30, B500."""
    load, sides, depth = 800e3, (2000.0, 2000.0), 430.0
    moment = ec2_pads.face_moment(load, sides, 300.0)
    assert moment == pytest.approx(800e3 / 2000 * 850**2 / 2)  # 144.5 kN·m
    steel = ec2_pads.steel_for(moment, 2000.0, depth, 25.0, 500.0)
    lever = depth * (0.5 + math.sqrt(0.25 - moment / (2000 * depth**2 * 25) * 1.5 / 2))
    assert steel == pytest.approx(moment / (lever * 500 / 1.15), rel=1e-9)
    least = ec2_pads.least_steel(2000.0, depth, 25.0, 500.0)
    assert least == pytest.approx(0.26 * 0.3 * 25 ** (2 / 3) / 500 * 2000 * depth)
    force, held = ec2_pads.one_way(load, sides, 300.0, depth, least, 25.0)
    assert force == pytest.approx(800e3 / 2000 * (850 - 430))
    k = 1 + math.sqrt(200 / 430)
    stress = max(0.12 * k * (100 * least / (2000 * 430) * 25) ** (1 / 3), 0.035 * k**1.5 * 5)
    assert held == pytest.approx(stress * 2000 * depth)


def test_punching_takes_the_worst_perimeter_en() -> None:
    """EN 1992-1-1 6.4.4(2): no perimeter up to 2d may be worse than the one that is given; the
    column's face among them."""
    load, sides, column, depth, ratio = 900e3, (2200.0, 2200.0), (300.0, 300.0), 400.0, 0.002
    stress, held = ec2_pads.punching(load, sides, column, depth, ratio, 25.0)
    base = ec2_pads.shear_strength(depth, ratio, 25.0)
    for a in np.linspace(40, 800, 20):
        inside = 300**2 + 4 * a * 300 + math.pi * a**2
        at = load * (1 - inside / 2200**2) / ((1200 + 2 * math.pi * a) * depth)
        assert at / (base * 2 * depth / a) <= stress / held + 1e-9
    assert load / (1200 * depth) / (0.4 * 0.6 * (1 - 0.1) * 25 / 1.5) <= stress / held + 1e-9


def test_plain_strips_en() -> None:
    """EN 1992-1-1 12.9.3: 0.85 h / a ≥ √(3 σ / fctd): a footing of 2 to 1 holds 150 kN/m² with room
    (12.9.3(2))."""
    assert ec2_plain.strip(150 * KPA, 150.0, 300.0, 25.0) < 1
    fctd = 0.8 * 0.7 * 0.3 * 25 ** (2 / 3) / 1.5
    assert ec2_plain.strip(0.2, 200.0, 300.0, 25.0) == pytest.approx(
        200 / 300 * math.sqrt(0.6 / fctd) / 0.85
    )


def test_concrete_too_thin_says_so() -> None:
    with pytest.raises(BalkenError, match="too thin"):
        aci_pads.steel_for(1e9, 500.0, 100.0, 20.0, 420.0)
    assert aci_plain.flexure(0.1, 300.0, 40.0, 20.0) == math.inf
    assert aci_plain.punching(1e5, (900.0, 900.0), (150.0, 150.0), 30.0, 20.0) == math.inf


@given(st.floats(50, 4000), st.floats(700, 3000))
def test_bars_are_enough_and_stand_apart(needed: float, width: float) -> None:
    bars = bars_across(needed, width, 75.0, 450.0, "metric", 400.0, lambda bar: 40.0 * bar.diameter)
    assert bars.area >= needed - 1e-6
    assert bars.count >= 2
    assert bars.spacing <= 450.0 + 1e-6


def test_bars_along_a_wall_take_the_widest_spacing_that_does() -> None:
    """#5 at 18 in give 0.207 in² a foot; 0.2 asks for them."""
    bars = bars_along(0.2 * INCH**2 / FOOT, 18 * INCH, "us")
    assert (bars.bar.name, round(bars.spacing / INCH)) == ("#5", 18)


def pad_house(system: str = "us") -> Project:
    project = put_support(house(system=system), "pad", (60 * FOOT, 0.0))
    return set_supports(project, [project.point_supports[0].id], loads=Cases(60e3, 80e3, 0.0, 20e3))


@pytest.mark.parametrize("system", ["us", "metric"])
def test_the_pad_that_is_proposed_passes_and_a_smaller_one_does_not(system: str) -> None:
    project = pad_house(system)
    checked = work_out(project)
    pad = next(m for m in checked.structure.members if m.kind is kinds.PAD)
    size = propose_pad(project, checked.structure, checked.path, pad)
    assert size is not None
    side, thick = size
    key = project.point_supports[0].id
    right = work_out(set_supports(project, [key], size=(side, side), thickness=thick))
    assert right.used[pad.id][0] <= 1 + 1e-9
    module = 2 * INCH if system == "us" else 50.0
    small = work_out(
        size_supports(
            set_supports(project, [key], thickness=thick),
            [key],
            width=side - module,
            depth=side - module,
        )
    )
    assert small.used[pad.id][0] > 1


def test_eccentric_load_and_uplift_on_a_pad() -> None:
    project = pad_house()
    key = project.point_supports[0].id
    straight = work_out(project)
    pad = next(m for m in straight.structure.members if m.kind is kinds.PAD)
    first = checks_of(straight, pad)[0]
    tilted = work_out(set_supports(project, [key], moments=(30e6, 0.0)))
    soil = checks_of(tilted, pad)[0]
    p = next(s.value for s in soil.lines if s.symbol == "P")
    e = next(s.value for s in soil.lines if s.symbol == "e")
    assert e == pytest.approx(30e6 / p)
    assert soil.ratio == pytest.approx(
        first.ratio * (1 + 6 * e / project.point_supports[0].size[0]), rel=1e-9
    )
    lifted = work_out(set_supports(project, [key], uplift=50e3))
    uplift = next(c for c in checks_of(lifted, pad) if c.name == "Uplift")
    assert uplift.ratio == pytest.approx(50e3 / (0.6 * lifted.path.soil[pad.id].dead))


def test_a_footing_out_of_the_middle_presses_harder_on_one_side() -> None:
    """Shifted 3 in under a wall: the soil's share grows by 1 + 6e/b inside the kern."""
    plain_house = house()
    straight, moved = (
        work_out(plain_house),
        work_out(set_run(plain_house, "G1", footing_shift=1.5 * INCH)),
    )
    name = the("run:G1/footing:W11")
    m = next(x for x in moved.structure.members if x.id == name)
    soil = checks_of(moved, m)[0]
    e = next(s.value for s in soil.lines if s.symbol == "e")
    assert 0 < e <= 1.5 * INCH
    mean = next(s.value for s in soil.lines if s.symbol == "w") / (20 * INCH)
    assert soil.ratio * moved.project.site.soil_bearing == pytest.approx(
        mean * (1 + 6 * e / (20 * INCH)), rel=1e-6
    )
    assert (
        soil.ratio
        > checks_of(straight, next(x for x in straight.structure.members if x.id == name))[0].ratio
    )


def test_the_second_opinion_says_which_governs() -> None:
    project = set_site(house(storeys=2), soil_bearing=1500 * PSF)
    checked = work_out(project)
    m = next(x for x in checked.structure.members if x.id == the("run:G1/footing:W11"))
    table = next(c for c in checks_of(checked, m) if c.name == "Width by the table")
    # Two storeys over a crawl space, 1,500 psf, ground snow 25 / 0.7 = 36 psf: the row of 50 psf.
    assert table.ratio == pytest.approx(19 / 20), "IRC 2021 table R403.1(1), from memory: 19 in"
    assert "governs" in table.lines[1].how


# -- anchors ------------------------------------------------------------------


@given(
    st.floats(200, 9000), st.lists(st.tuples(st.floats(0, 9000), st.floats(20, 60)), max_size=25)
)
def test_bolts_by_the_rule_whatever_stands_over_the_sill(
    length: float, joists: list[tuple[float, float]]
) -> None:
    """IRC 2021 R403.1.6 on random sills: where no place is called blocked, all distances hold and
    all places are clear."""
    taken = tuple((a, a + b) for a, b in joists)
    bolts = place_bolts(length, taken)
    assert len(bolts.at) >= min(2, least_bolts(length))
    assert list(bolts.at) == sorted(bolts.at)
    assert max(b - a for a, b in zip(bolts.at, bolts.at[1:])) <= 6 * FOOT + 1e-6
    assert bolts.at[0] <= 12 * INCH + 1e-6
    assert length - bolts.at[-1] <= 12 * INCH + 1e-6
    for at in bolts.at:
        if at not in bolts.blocked:
            assert not any(a < at < b for a, b in taken)


def test_the_fewest_bolts_where_nothing_is_in_the_way() -> None:
    assert len(place_bolts(337 * INCH).at) == least_bolts(337 * INCH) == 6
    assert len(place_bolts(10 * INCH).at) == 2


@pytest.mark.parametrize("water", [0.0, 700.0, 2400.0])
@pytest.mark.parametrize("even", [0.0, 0.0025])
def test_a_propped_wall_under_soil_surcharge_and_water_by_the_beam_analysis(
    even: float, water: float
) -> None:
    """Reactions and the greatest moment of a simple beam under the same pressures, added up in five
    thousand strips."""
    height, fill, fluid = 2700.0, 2200.0, 9e-6
    found = propped(height, fill, fluid, Beside(even, min(water, fill)))
    n = 5000
    z = (np.arange(n) + 0.5) * fill / n
    p = fluid * (fill - z) + even + 9.81e-6 * np.maximum(0.0, min(water, fill) - z)
    force = p * fill / n
    top = float((force * z).sum() / height)
    assert found.top == pytest.approx(top, rel=1e-5)
    assert found.bottom == pytest.approx(float(force.sum()) - top, rel=1e-5)
    at = np.linspace(0.0, height, 2000)
    moments = [top * (height - x) - float((force * np.maximum(0.0, z - x)).sum()) for x in at]
    assert found.moment == pytest.approx(max(moments), rel=1e-4)
    assert found.moment_at == pytest.approx(float(at[int(np.argmax(moments))]), abs=3.0)


def test_what_stands_on_the_ground_and_water_press_on_a_basement_wall() -> None:
    """The utilisation rises with each; drained and with nothing on it, it is as before."""
    project = shown_demo()

    def worst(**site: float | None) -> float:
        found = work_out(set_site(project, **site))
        walls = [
            c
            for m in found.structure.of(kinds.STEM)
            for c in checks_of(found, m)
            if c.name == "Earth, bending"
        ]
        return max(c.ratio for c in walls)

    plain = worst()
    assert worst(surcharge=0.0, water=None) == plain
    assert worst(surcharge=0.005) > plain
    assert worst(water=300.0) > worst(water=1500.0) >= plain
    assert worst(water=20_000.0) == plain


def test_a_wall_without_a_prop_slides_and_turns_sooner_in_water() -> None:
    """By the retaining wall's own statics: pushes γ h²/2, q K h, γw hw²/2 and the lift of half the
    head under the footing."""
    dry = cantilever(2000.0, 8e-6)
    both = cantilever(2000.0, 8e-6, Beside(0.002, 1200.0))
    assert both.bottom - dry.bottom == pytest.approx(0.002 * 2000 + 9.81e-6 * 1200**2 / 2)
    assert both.moment - dry.moment == pytest.approx(0.002 * 2000**2 / 2 + 9.81e-6 * 1200**3 / 6)
