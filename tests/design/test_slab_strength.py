"""Solid slabs: bars, shear and punching, by hand beside each (EN 1992-1-1; ACI 318-19)."""

import math

import pytest
from msgspec.structs import replace

from balken.design.codes import ground_by
from balken.design.codes.eu import ec2_pads
from balken.design.lines import Check
from balken.framing import kinds
from balken.model.edits import set_floor, set_site
from balken.model.edits.code import change_code
from balken.model.project import Project
from balken.session.ferry_hall import ferry_hall
from balken.works.building import checks_of, work_out


def slab_checks(project: Project) -> list[Check]:
    found = work_out(project)
    (slab,) = found.structure.of(kinds.FLOOR_SLAB)
    return list(checks_of(found, slab))


def value(check: Check, symbol: str) -> float:
    return next(x.value for x in check.lines if x.symbol == symbol)


@pytest.fixture(scope="module")
def checks() -> list[Check]:
    return slab_checks(ferry_hall())


def named(checks: list[Check], name: str) -> Check:
    return next(c for c in checks if c.name == name)


def test_bending_by_hand(checks: list[Check]) -> None:
    """1.35 (g + 0.26 m × 24 kN/m³) + 1.5 q over the widest way: w ℓ²/8; As from the stress block."""
    floor = next(f for f in ferry_hall().floors if f.id == "F2")
    w = 1.35 * (floor.dead + 260 * ferry_hall().site.concrete) + 1.5 * floor.live
    bending = named(checks, "Bending")
    span = value(bending, "ℓ")
    assert value(bending, "w") == pytest.approx(w)
    assert value(bending, "M") == pytest.approx(w * span**2 / 8)
    d, fcd, fyd = value(bending, "d"), 25 / 1.5, 500 / 1.15
    x = d - math.sqrt(d**2 - 2 * w * span**2 / 8 / fcd)
    assert value(bending, "As") == pytest.approx(fcd * x / fyd, rel=0.03)
    assert value(bending, "bars") >= max(value(bending, "As"), value(bending, "As min"))
    assert d == 260 - 40 - 24, "cover, and the second layer of two"


def test_least_bars_by_hand() -> None:
    """0.26 fctm / fyk d (EN 1992-1-1 9.2.1.1); 0.0018 h (ACI 318-19 7.6.1.1)."""
    eu, us = ground_by("eu", "A").slabs, ground_by("us", "A").slabs
    assert eu.least(200.0, 160.0, 25.0, 500.0) == pytest.approx(
        0.26 * 0.3 * 25 ** (2 / 3) / 500 * 160
    )
    assert eu.least(200.0, 160.0, 12.0, 500.0) == pytest.approx(0.0013 * 160)
    assert us.least(200.0, 160.0, 20.0, 420.0) == pytest.approx(0.0018 * 200)


def test_shear_by_hand(checks: list[Check]) -> None:
    """V_Rd,c of 6.2.2 with the bars there are."""
    shear, bending = named(checks, "Shear"), named(checks, "Bending")
    steel, d = value(bending, "bars"), value(bending, "d")
    held = ec2_pads.shear_strength(d, steel / d, 25.0) * d
    assert value(shear, "VRd") == pytest.approx(held)
    assert shear.ratio == pytest.approx(value(shear, "w") * value(shear, "ℓ") / 2 / held)


def test_posts_are_punched_where_they_stand(checks: list[Check]) -> None:
    places = {
        x.how.split()[0]
        for c in checks
        if c.name == "Punching"
        for x in c.lines
        if x.symbol == "c1"
    }
    assert places == {"corner", "edge", "interior"}
    forces = [value(c, "V") for c in checks if c.name == "Punching"]
    assert all(f > 0 for f in forces)


def test_more_load_asks_for_more_bars_and_a_thin_slab_for_more_than_it_holds() -> None:
    hall = ferry_hall()
    plain = named(slab_checks(hall), "Bending")
    heavy = named(slab_checks(set_floor(hall, "F2", live=0.015)), "Bending")
    assert value(heavy, "bars") > value(plain, "bars")
    thin = tuple(replace(b, slab=90.0) if b.slab else b for b in hall.build_ups)
    worst = slab_checks(replace(set_floor(hall, "F2", live=0.03), build_ups=thin))
    assert named(worst, "Bending").ratio > 1
    weak = named(slab_checks(set_site(hall, strength=12.0)), "Punching")
    assert weak.ratio > named(slab_checks(hall), "Punching").ratio


def test_us_slabs_cite_aci() -> None:
    found = slab_checks(change_code(ferry_hall(), "us"))
    assert {c.clause.split(" ")[0] for c in found} == {"ACI"}


def test_what_stands_on_a_slab_bends_it() -> None:
    """P / 4 per unit of width, whatever stands there taken as a line across the middle."""
    from balken.model.edits.drawn_loads import draw_load

    hall = ferry_hall()
    found = work_out(hall)
    (slab,) = found.structure.of(kinds.FLOOR_SLAB)
    x0, y0, x1, y1 = (
        min(p[0] for p in slab.solid.plan()),
        min(p[1] for p in slab.solid.plan()),
        max(p[0] for p in slab.solid.plan()),
        max(p[1] for p in slab.solid.plan()),
    )
    spot = (x0 + 0.6 * (x1 - x0), y0 + 0.55 * (y1 - y0))
    floor = next(f for f in hall.floors if f.id == slab.host.key)
    loaded, _ = draw_load(hall, "point", floor.level, [spot], "live", 20_000.0)
    after = named(slab_checks(loaded), "Bending")
    before = named(slab_checks(hall), "Bending")
    more = value(after, "M") - value(before, "M")
    assert more == pytest.approx(1.5 * 20_000.0 / 4, rel=1e-6)
