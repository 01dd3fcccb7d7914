"""Lintels over openings in walls of block: what comes down over an opening bends them, bars and stirrups are
chosen, the wall at both sides bears them."""

import math

import pytest
from msgspec.structs import replace

from balken.design.codes.eu import ec2_beams
from balken.design.codes.us import aci_beams
from balken.design.concrete_beams import Acting, Section, section_checks
from balken.design.lines import Check
from balken.fit.findings import findings
from balken.framing import kinds
from balken.loads.parcels import Parcel
from balken.loads.path import BALANCE
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.walls import set_build_up_of
from balken.model.names import HostName, ThingName
from balken.model.project import Project
from balken.model.wall_catalogue import first_build_ups
from balken.model.walls import Opening
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.mending import mend
from balken.session.rows import field_of, type_into
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.units import INCH, PSI, System
from balken.works.building import Checked, checks_of, work_out
from balken.works.terms import terms_of
from buildings import house


def of_block(system: System, wide: float, **fields: float) -> Project:
    """A house of block with one window in its south wall, and nothing else in its walls."""
    project = house(system=system)
    block = next(b for b in first_build_ups(system) if b.module)
    project, key = add_build_up(project, block.layers, block.module)
    project = set_build_up_of(project, tuple(w.id for w in project.walls), key)
    window = replace(Opening("O1", "window", 2400.0, wide, 1200.0, 200.0), **fields)
    walls = (replace(w, openings=(window,) if w.id == "W11" else ()) for w in project.walls)
    return replace(project, walls=tuple(walls))


@pytest.fixture(scope="module")
def metric() -> Checked:
    return work_out(of_block("metric", 1200.0))


def by_name(checked: Checked) -> dict[str, Check]:
    (lintel,) = checked.structure.of(kinds.LINTEL)
    return {c.name: c for c in checks_of(checked, lintel)}


def values(check: Check) -> dict[str, float]:
    return {x.symbol: x.value for x in check.lines}


def moment_by_hand(at: list[tuple[float, float]], span: float) -> float:
    """The greatest moment of loads at places on two supports, from the sum of the left ones (statics)."""
    left = sum(p * (span - x) / span for x, p in at)
    return max(left * x - sum(q * (x - y) for y, q in at if y < x) for x, _ in at)


def test_it_lies_over_its_opening_half_a_block_into_the_wall_at_each_side(metric: Checked) -> None:
    (lintel,) = metric.structure.of(kinds.LINTEL)
    low, high = lintel.solid.bounds()
    wall = next(w for w in metric.project.walls if w.id == "W11")
    assert low[2] == pytest.approx(1400.0)
    assert high[2] - low[2] == pytest.approx(190.0), "one course of 200 but for its joint"
    assert high[0] - low[0] == pytest.approx(1200.0 + 2 * 200.0)
    assert lintel.solid.depth == pytest.approx(190.0), "as wide as the block"
    assert low[0] - min(wall.start[0], wall.end[0]) == pytest.approx(2200.0)
    assert lintel.material == "concrete"


def test_it_bends_under_what_comes_onto_the_wall_over_the_opening(metric: Checked) -> None:
    (lintel,) = metric.structure.of(kinds.LINTEL)
    bending = by_name(metric)["Bending"]
    first, last = (s.at for s in lintel.carrier.supports)
    carried: tuple[Parcel, ...] = metric.path.carried[lintel.id]
    # 1.35 G + 1.5 S + 0.7 · 1.5 Q (EN 1990 6.10, recommended), as its check says.
    assert bending.combination == "1.35D + 1.05L + 1.5S"
    loads = [
        (
            math.dist((p.x, p.y), lintel.start[:2]) - first,
            1.35 * p.forces.dead + 1.05 * p.forces.live + 1.5 * p.forces.snow,
        )
        for p in carried
    ]
    loads = [(x, p) for x, p in loads if 0.0 < x < last - first]
    assert values(bending)["M"] == pytest.approx(moment_by_hand(loads, last - first), rel=0.03)


def test_its_steel_is_that_of_a_rectangular_block_of_stress(metric: Checked) -> None:
    """EN 1992-1-1 3.1.7(3): As fyd (d − As fyd / 2 b fcd) = M; α_cc 1.0, γ_C 1.5, γ_S 1.15."""
    bending = values(by_name(metric)["Bending"])
    site = metric.project.site
    fyd, fcd = site.steel / 1.15, site.strength / 1.5
    steel = bending["As"]
    resists = steel * fyd * (bending["d"] - steel * fyd / (2 * 190.0 * fcd))
    assert resists == pytest.approx(bending["M"], rel=1e-6)
    assert bending["bars"] >= max(steel, bending["As min"])


def test_what_it_carries_comes_to_the_soil(metric: Checked) -> None:
    """What is applied and what comes into the soil are added up apart."""
    (lintel,) = metric.structure.of(kinds.LINTEL)
    given = [f for source, on, f in metric.path.handed if source == lintel.id]
    assert sum(f.dead for f in given) == pytest.approx(metric.path.onto[lintel.id].dead)
    for case in ("dead", "live", "roof_live", "snow"):
        arrived = getattr(metric.path.soil_total, case)
        applied = getattr(metric.path.applied, case)
        assert arrived == pytest.approx(applied, rel=BALANCE, abs=1e-6)


def test_the_wall_beside_it_bears_it(metric: Checked) -> None:
    """f_k 2.5 over γ_M 2.5 (EN 1996-1-1 2.4.3, common practice): 1 N/mm² under 190 × 200."""
    lines = values(by_name(metric)["Bearing on the wall"])
    assert lines["σ"] == pytest.approx(lines["R"] / (190.0 * 200.0))
    assert by_name(metric)["Bearing on the wall"].ratio == pytest.approx(lines["σ"] / 1.0)


def test_short_lintels_need_no_stirrups_and_long_ones_always_do() -> None:
    """EN 1992-1-1 6.2.1(4): lintels of 2 m and less need none where their concrete holds."""
    short = by_name(work_out(of_block("metric", 800.0, lintel=390.0)))["Shear"]
    assert "Av" not in values(short)
    for wide, ties in ((1990.0, False), (2010.0, True)):
        shear = by_name(work_out(of_block("metric", wide, lintel=790.0)))["Shear"]
        assert ("Av" in values(shear)) is ties, wide


def test_a_deep_lintel_counts_as_a_shallow_one() -> None:
    """A span of fewer than three depths is a deep beam's (EN 1992-1-1 5.3.1(3)), one of four or fewer
    with ACI 318-19 9.9.1.1."""
    for system, times in (("metric", 3.0), ("us", 4.0)):
        deep = values(by_name(work_out(of_block(system, 1000.0, lintel=500.0)))["Bending"])  # type: ignore[arg-type]
        assert deep["h"] == pytest.approx(1000.0 / times)


def test_a_beam_too_thin_for_stirrups_does_not_pass_by_them() -> None:
    """Half of d apart at the most (ACI 318-19 table 9.7.6.2.2): 3.5 in of depth leaves less than 2 in."""
    terms = terms_of(of_block("us", 1800.0))
    thin = Section(190.0, 3.5 * INCH + 38.1 + 18.0, 38.1, 1800.0, is_lintel=True)
    acting = Acting(1e5, 12_000.0, "1.4D")
    shear = section_checks(terms, thin, acting, (), 1)[-1]
    assert shear.name == "Shear"
    assert math.isinf(shear.ratio)


def test_stirrups_by_aci() -> None:
    """ACI 318-19 table 9.6.3.4: 8 in by 17.5 in of 3,000 psi and 60 ksi: 50 b / fyt governs up to
    4,444 psi, 0.0067 in²/in; with two legs of no. 3 at 8 in φVn is 0.75 (2 √3000 · 8 · 17.5 + 0.22 · 60000
    · 17.5 / 8), 33.2 kip."""
    tied = aci_beams.stirrups(8 * INCH, 17.5 * INCH, 3000 * PSI, 60_000 * PSI, 0.0)
    assert tied.least / INCH == pytest.approx(50 * 8 / 60_000, rel=1e-9)
    assert tied.apart == pytest.approx(8.75 * INCH)
    held = tied.held(0.22 / 8 * INCH)
    by_hand = 0.75 * (2 * math.sqrt(3000) * 8 * 17.5 + 0.22 * 60_000 * 17.5 / 8)
    assert held / (PSI * INCH**2) == pytest.approx(by_hand)
    least = 0.75 * math.sqrt(3000) * 8 * 17.5 * PSI * INCH**2
    for shear, wanted in ((least * 0.999, False), (least * 1.001, True)):
        there = aci_beams.stirrups(8 * INCH, 17.5 * INCH, 3000 * PSI, 60_000 * PSI, shear)
        assert there.wanted is wanted
    most = tied.held(1.0 * INCH)
    assert most / (PSI * INCH**2) == pytest.approx(0.75 * 6 * math.sqrt(3000) * 8 * 17.5)


def test_stirrups_by_en_1992() -> None:
    """EN 1992-1-1 9.2.2(5): ρw,min = 0.08 √25 / 500 = 0.0008; ø8 in two legs at 200: 100.5 / 200 · 0.9 d
    · 435 with struts at 45°."""
    tied = ec2_beams.stirrups(200.0, 400.0, 25.0, 500.0, 0.0)
    assert tied.least == pytest.approx(0.0008 * 200.0)
    assert tied.apart == pytest.approx(300.0)
    assert tied.held(100.53 / 200) == pytest.approx(100.53 / 200 * 360.0 * 500 / 1.15)
    struts = 200.0 * 360.0 * 0.6 * 0.9 * 25.0 / 1.5 / 2
    assert tied.held(1e3) == pytest.approx(struts)


def test_what_finds_no_bearing_is_told_with_how_much_it_lacks() -> None:
    project = of_block("metric", 1200.0, at=60.0)
    done = work_out(project)
    assert not done.structure.of(kinds.LINTEL)
    (told,) = [f for f in findings(done) if f.kind == "not framed"]
    assert told.amount == pytest.approx(101.6 - 60.0)
    at_four_inches = work_out(of_block("metric", 1200.0, at=102.0))
    assert len(at_four_inches.structure.of(kinds.LINTEL)) == 1


def test_two_openings_near_each_other_share_the_wall_between_them() -> None:
    project = of_block("metric", 900.0)
    second = Opening("O2", "window", 2400.0 + 900.0 + 300.0, 900.0, 1200.0, 200.0)
    walls = (
        replace(w, openings=(*w.openings, second)) if w.id == "W11" else w for w in project.walls
    )
    one, two = sorted(
        work_out(replace(project, walls=tuple(walls))).structure.of(kinds.LINTEL),
        key=lambda m: m.start[0],
    )
    assert one.solid.bounds()[1][0] == pytest.approx(two.solid.bounds()[0][0])


def test_an_opening_to_the_top_of_its_wall_has_no_lintel() -> None:
    project = of_block("metric", 900.0)
    tall = next(x for x in project.levels if x.id == "P1").elevation
    done = work_out(of_block("metric", 900.0, sill=0.0, height=tall))
    assert done.structure.of(kinds.LINTEL) == []


def test_one_that_is_too_shallow_is_mended_by_a_key_and_typed_on_its_slip() -> None:
    desk = Desk(Building(of_block("metric", 2600.0, lintel=150.0)), THINGS)
    (lintel,) = desk.checked.structure.of(kinds.LINTEL)
    assert desk.checked.used[lintel.id][0] > 1.0
    row, told = next((i, f) for i, f in enumerate(desk.building.findings) if lintel.id in f.members)
    assert "too thin for the moment" in told.text
    assert told.mend is not None
    assert told.mend.text == "Make the lintel 190 deep"
    mend(desk, row)
    mend(desk, row)
    (deeper,) = desk.checked.structure.of(kinds.LINTEL)
    assert desk.checked.used[deeper.id][0] <= 1.0
    desk.undo()
    opening = ThingName("opening", "W11", "O1")
    desk.select(opening)
    type_into(field_of(rows_of(desk), "lintel, deep"), "590")
    (typed,) = desk.checked.structure.of(kinds.LINTEL)
    assert typed.solid.bounds()[1][2] - typed.solid.bounds()[0][2] == pytest.approx(590.0)
    type_into(field_of(rows_of(desk), "lintel, deep"), "by rule")
    (by_rule,) = desk.checked.structure.of(kinds.LINTEL)
    assert by_rule.solid.bounds()[1][2] - by_rule.solid.bounds()[0][2] == pytest.approx(390.0)


def test_studs_have_headers_and_no_lintels() -> None:
    done = work_out(house())
    assert done.structure.of(kinds.LINTEL) == []
    assert HostName("wall", "W11") not in done.structure.lacks
