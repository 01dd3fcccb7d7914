"""NDS values and factors beyond the check values, and the array function against single hand
calculations."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from balken.design.codes.us.nds import factors
from balken.design.codes.us.nds.bending import check, explain
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.lines import format_value
from balken.design.spanning import CHECKS, Batch
from balken.errors import BalkenError
from balken.framing import kinds
from balken.loads.cases import Combination
from balken.model.cases import Cases
from balken.model.catalogue import GRADES, catalogue_of
from balken.units import INCH, LB, PLF, PSI
from balken.works.building import Checked, checks_of
from named import the

US = catalogue_of("us").sections


def psi(value: float) -> float:
    return value / PSI


@pytest.mark.parametrize(
    ("species", "grade", "size", "fb", "fv", "e"),
    [  # NDS Supplement 2018 tables 4A, 4B, 4D (from memory)
        ("DF-L", "No.2", (2, 10), 900, 180, 1.6e6),
        ("HF", "No.2", (2, 8), 850, 150, 1.3e6),
        ("SPF", "No.2", (2, 12), 875, 135, 1.4e6),
        ("SP", "No.2", (2, 10), 800, 175, 1.4e6),
        ("SP", "No.2", (2, 6), 1000, 175, 1.4e6),
        ("DF-L", "No.1", (6, 6), 1200, 170, 1.6e6),
        ("DF-L", "No.1", (6, 12), 1350, 170, 1.6e6),
    ],
)
def test_reference_values(
    species: str, grade: str, size: tuple[int, int], fb: float, fv: float, e: float
) -> None:
    found = reference(species, grade, size)
    assert (psi(found.fb), psi(found.fv), psi(found.e)) == pytest.approx((fb, fv, e))


@pytest.mark.parametrize(
    ("size", "fb"),
    [
        ((2, 4), 1.5),
        ((2, 6), 1.3),
        ((2, 8), 1.2),
        ((2, 10), 1.1),
        ((2, 12), 1.0),
        ((2, 14), 0.9),
        ((4, 8), 1.3),
    ],
)
def test_size_factor(size: tuple[int, int], fb: float) -> None:
    """NDS Supplement 2018, table 4A, adjustment factors (from memory)."""
    assert factors.size_factor("fb", "DF-L", "No.2", size) == fb


def test_size_factor_of_deep_timbers() -> None:
    """NDS 4.3.6.3 and table 4D: (12/d)^(1/9) over 12 in; 8x16 dressed is 15.5 in deep."""
    assert factors.size_factor("fb", "DF-L", "No.1", (8, 16)) == pytest.approx(
        (12 / 15.5) ** (1 / 9)
    )
    assert factors.size_factor("fb", "DF-L", "No.1", (6, 12)) == 1.0


def test_wet_service_spares_low_bending_values() -> None:
    """Table 4A: C_M for Fb is 1.0 where Fb C_F is at most 1,150 psi, else 0.85."""
    low = factors.adjusted(reference("DF-L", "No.2", (2, 10)), "DF-L", "No.2", (2, 10), wet=True)
    high = factors.adjusted(reference("DF-L", "SS", (2, 10)), "DF-L", "SS", (2, 10), wet=True)
    assert low.wet[0] == 1.0
    assert high.wet[0] == 0.85
    assert psi(low.e) == pytest.approx(1.44e6)


def test_every_grade_of_the_catalogue_has_values() -> None:
    for species, grades in GRADES.items():
        for grade in grades:
            assert reference(species, grade, (2, 4)).fb > 0
    with pytest.raises(NoValueError, match="SP Utility"):
        reference("SP", "Utility", (2, 4))
    with pytest.raises(NoValueError):
        reference("DF-L", "Construction", (2, 10))


@given(st.floats(0, math.pi / 2), st.floats(2, 20), st.floats(1, 8))
def test_bearing_at_an_angle_lies_between_its_ends(
    angle: float, along: float, across: float
) -> None:
    value = factors.bearing_at_angle(along, across, angle)
    assert min(along, across) - 1e-9 <= value <= max(along, across) + 1e-9


@given(st.floats(0.5, 6), st.floats(4, 16), st.floats(12, 400))
def test_stability_never_helps(breadth: float, depth: float, unbraced: float) -> None:
    b, d, lu = breadth * INCH, depth * INCH, unbraced * INCH
    slender = math.sqrt(factors.effective_length(lu, d) * d / b**2)
    if d > b and slender > 50:
        with pytest.raises(BalkenError, match="50"):
            factors.beam_stability(b, d, lu, 1000 * PSI, 580_000 * PSI)
        return
    assert 0 < factors.beam_stability(b, d, lu, 1000 * PSI, 580_000 * PSI) <= 1.0


def batch_of_one(w_plf: float, span_ft: float, size: str = "2x10") -> Batch:
    section = US[size]
    value = factors.adjusted(
        reference("DF-L", "No.2", section.nominal), "DF-L", "No.2", section.nominal
    )
    span = np.array([span_ft * 12 * INCH])
    line = np.array(list(Cases(0.2 * w_plf, 0.8 * w_plf)))[:, None] * PLF
    one = np.ones(1)
    combos = (Combination("D + L", Cases(1.0, 1.0, 0.0, 0.0), 1.0),)
    return Batch(
        (section,),
        (value,),
        1.15 * one,
        span,
        line,
        line * span / 2,
        1.5 * INCH * one,
        360 * one,
        240 * one,
        0 * one,
        combos,
    )


def test_one_joist_by_hand() -> None:
    """2x10 DF-L No.2, 100 plf over 12 ft, worked by hand in pounds and inches (NDS 3.3, 3.4, 3.5,
    3.10)."""
    results = check(batch_of_one(100.0, 12.0))
    moment = 100 * 12**2 / 8 * 12  # lb in
    bending = moment / 21.390625 / (900 * 1.1 * 1.15)
    shear = 1.5 * 600 / 13.875 / 180
    inertia = 98.931640625
    live = 5 * (80 / 12) * 144**4 / (384 * 1.6e6 * inertia) / (144 / 360)
    total = 5 * (100 / 12) * 144**4 / (384 * 1.6e6 * inertia) / (144 / 240)
    bearing = 600 / (1.5 * 1.5) / 625
    assert results.ratios[:, 0].tolist() == pytest.approx(
        [bending, shear, live, total, bearing, 0, 0, 0, 0], rel=1e-9
    )


def test_steps_say_what_the_ratios_say() -> None:
    batch = batch_of_one(100.0, 12.0)
    found = explain(batch, check(batch), 0)
    assert tuple(c.name for c in found) == CHECKS[:5], "it has no tail, and nothing pushes along it"
    bending = {s.symbol: s.value for s in found[0].lines}
    assert bending["fb"] / bending["Fb′"] == pytest.approx(found[0].ratio)
    assert bending["M"] == pytest.approx(1800 * 12 * LB * INCH)
    pressed = {s.symbol: s.value for s in found[4].lines}
    assert pressed["fc perp"] / pressed["Fc perp′"] == pytest.approx(found[4].ratio)
    for one in found:
        assert any(s.clause for s in one.lines), one.name
        assert all(format_value(s, "us") and format_value(s, "metric") for s in one.lines)


def test_side_by_side_is_one_by_one(demo_checked: Checked) -> None:
    host = demo_checked.hosts[the("floor:F2")][0].among
    assert host is not None
    assert len(host.ids) > 40
    for i in (0, 7, len(host.ids) - 1):
        steps = explain(host.batch, host.results, i)
        assert [c.ratio for c in steps] == pytest.approx(host.results.ratios[:5, i].tolist())


def test_a_steeper_rafter_sags_more_for_the_same_plan_load() -> None:
    flat = batch_of_one(60.0, 12.0)
    values = {name: getattr(flat, name) for name in flat.__struct_fields__}
    steep = Batch(**{**values, "slope": np.array([1.0])})
    a, b = check(flat).ratios[:, 0], check(steep).ratios[:, 0]
    assert b[0] == pytest.approx(a[0]), "bending depends on plan span and plan load only"
    assert b[1] == pytest.approx(a[1] / math.sqrt(2))
    assert b[3] == pytest.approx(a[3] * math.sqrt(2))


def test_footing_pressure_is_checked_with_its_steps(demo_checked: Checked) -> None:
    footing = next(m for m in demo_checked.structure.members if m.kind is kinds.FOOTING)
    found = checks_of(demo_checked, footing)[0]
    steps = {s.symbol: s.value for s in found.lines}
    assert found.ratio == pytest.approx(steps["q"] / steps["qa"])
    assert steps["q"] == pytest.approx(steps["w"] / steps["b"])
