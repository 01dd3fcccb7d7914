"""Rafter roofs: true rafters, against measures worked by hand and the framing square."""

import math

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from balken.design.sizing import member_span
from balken.framing import kinds
from balken.framing.member import Member
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.edits import set_roof
from balken.model.edits.roofs import turn_ridge
from balken.model.project import Project
from balken.model.roofs import RoofSide
from balken.units import FOOT, INCH
from balken.works.building import work_out
from buildings import house
from named import the


def of_roof(project: Project, role: str) -> list[Member]:
    return [m for m in work_out(project).structure.members if m.role == role]


def test_lengths_by_the_framing_square(plain: Project) -> None:
    """6 in 12 over half of 26 ft: 13.416 in along the slope per foot of run, half a ridge board
    taken off."""
    rafter = of_roof(plain, "rafter")[5]
    run = 13 * 12 - 0.75 + 12
    assert rafter.length == pytest.approx(run * 13.41641 / 12 * INCH, rel=1e-6)


def test_rafters_stand_in_pairs_against_the_ridge(plain: Project) -> None:
    rafters = of_roof(plain, "rafter")
    assert len(rafters) % 2 == 0
    ridge = of_roof(plain, "ridge")[0]
    low, high = ridge.solid.bounds()
    assert high[1] - low[1] == pytest.approx(1.5 * INCH)
    for m in rafters:
        touch = low[1] if m.start[1] < m.end[1] else high[1]
        assert m.end[1] == pytest.approx(touch, abs=1e-6)
        assert m.solid.bounds()[1][2] == pytest.approx(high[2], abs=1e-6)


def test_ridge_board_is_as_deep_as_the_plumb_cut(plain: Project) -> None:
    """IRC 2021 R802.3: the ridge board is not less in depth than the cut end of the rafter."""
    sections = catalogue_of("us").sections
    for rise in (3.0, 6.0, 9.0, 12.0):
        steep = set_roof(plain, "R1", rise=rise)
        ridge, rafter = of_roof(steep, "ridge")[0], of_roof(steep, "rafter")[0]
        cut = sections[rafter.section].depth * math.hypot(1, rise / 12)
        assert sections[ridge.section].depth >= cut - 1.0 or ridge.section == "2x14"


def test_rafter_sits_on_the_plate(plain: Project) -> None:
    plate = next(x.elevation for x in plain.levels if x.role == "plate")
    rafter = of_roof(plain, "rafter")[4]
    seat = [p for p in rafter.solid.outline if abs(p[1] - plate) < 1e-3]
    assert len(seat) == 2, "the seat runs from the heel cut to where the underside leaves the plate"
    assert abs(seat[0][0] - seat[1][0]) == pytest.approx(3.5 * INCH)
    assert min(p[0] for p in rafter.solid.outline) == pytest.approx(-12 * INCH)


rules = st.fixed_dictionaries(
    {"rise": st.floats(2.0, 18.0), "overhang": st.floats(0.0, 900.0), "seat": st.floats(40.0, 88.0)}
)


@settings(
    max_examples=25, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(rules)
def test_volume_of_a_rafter_by_hand(plain: Project, rule: dict[str, float]) -> None:
    """A parallelogram of run times plumb cut, less the triangle of the birdsmouth."""
    made = set_roof(plain, "R1", section="2x8", spacing=16 * INCH, **rule)
    rafter = of_roof(made, "rafter")[4]
    slope = rule["rise"] / 12
    plumb = 7.25 * INCH * math.hypot(1.0, slope)
    seat = min(rule["seat"], 7.25 * INCH / 2 / math.sin(math.atan(slope)))
    run = (13 * 12 - 0.75) * INCH + rule["overhang"]
    assert rafter.solid.volume == pytest.approx(
        (run * plumb - seat * seat * slope / 2) * 1.5 * INCH, rel=1e-6
    )


@settings(
    max_examples=25, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(rules)
def test_the_piece_can_be_cut_from_its_blank(plain: Project, rule: dict[str, float]) -> None:
    """Turned to lie along the slope, every rafter, hip and jack fits a rectangle of its blank's
    length and its depth."""
    hipped = set_roof(plain, "R1", section="2x8", spacing=24 * INCH, sides=(), rake=None, **rule)
    sections = sections_of("us", ())
    for m in [
        m
        for m in work_out(hipped).structure.members
        if m.kind in (kinds.RAFTER, kinds.HIP, kinds.VALLEY)
    ]:
        c, s = 1 / math.hypot(1, m.slope), m.slope / math.hypot(1, m.slope)
        corners = [p for ring in (m.solid.outline, *(r for _, r in m.solid.across)) for p in ring]
        along = [x * c + z * s for x, z in corners]
        across = [-x * s + z * c for x, z in corners]
        assert max(along) - min(along) <= m.blank + 1e-6
        if (
            m.kind is kinds.RAFTER and rule["overhang"] > 5.0
        ):  # else the seat takes the lowest corner off
            assert max(along) - min(along) == pytest.approx(m.blank, rel=1e-9)
        assert max(across) - min(across) == pytest.approx(sections[m.section].depth, rel=1e-9)


def test_no_overhang_no_tail(plain: Project) -> None:
    short = set_roof(plain, "R1", overhang=0.0)
    rafter = of_roof(short, "rafter")[4]
    assert min(p[0] for p in rafter.solid.outline) == pytest.approx(0.0, abs=1e-9)
    checked = work_out(short)
    assert sum(checked.path.applied) == pytest.approx(sum(checked.path.soil_total), abs=1.0)


def test_turned_ridge() -> None:
    first = house(30 * FOOT, 24 * FOOT)
    project = turn_ridge(
        first, "R1", [e.name for e in work_out(first).structure.roofs[the("roof:R1")].edges]
    )
    ridge = of_roof(project, "ridge")[0]
    assert ridge.start[0] == pytest.approx(ridge.end[0])
    assert ridge.length == pytest.approx(24 * FOOT)
    checked = work_out(project)
    assert sum(checked.path.applied) == pytest.approx(sum(checked.path.soil_total), abs=1.0)


@pytest.mark.parametrize("rake", [0.0, 300.0, 900.0])
@pytest.mark.parametrize("gables", [(), ("W12",), ("W12", "W14")])
def test_a_choice_of_size_asks_for_the_longest_rafter(rake: float, gables: tuple[str, ...]) -> None:
    """Whatever reaches out past the walls: the span is that of the longest rafter that is framed,
    and no check is beyond 1."""
    sides = tuple(RoofSide(w, "gable") for w in gables)
    checked = work_out(set_roof(house(), "R1", sides=sides, rake=rake))
    spans = [member_span(m) for m in checked.structure.of(kinds.RAFTER)]
    assert checked.sizes[the("roof:R1")].span == pytest.approx(max(spans), rel=0.02)
    assert (
        max(
            checked.used[m.id][0]
            for m in checked.structure.of(kinds.RAFTER)
            if m.id in checked.used
        )
        <= 1.0
    )
