"""Joist floors: spacing, bearing, ends, and what each joist carries."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.framing import kinds
from balken.framing.layout import Layout, carried, rows, run_angle
from balken.framing.member import Member, clear_span
from balken.geometry.plane import signed_area
from balken.model.edits import change_member, set_floor
from balken.model.project import Project
from balken.units import FOOT, INCH
from balken.works.building import work_out
from buildings import house, walled
from named import the


def joists(project: Project, host: str = the("floor:F1")) -> list[Member]:
    return [
        m for m in work_out(project).structure.members if m.host == host and m.kind is kinds.JOIST
    ]


def test_joists_run_the_short_way_at_their_spacing(plain: Project) -> None:
    held = set_floor(plain, "F1", section="2x10", spacing=16 * INCH)
    found = [m for m in joists(held) if str(m.id).endswith("a")]
    assert all(abs(m.start[0] - m.end[0]) < 1e-6 for m in found)
    xs = sorted(m.start[0] for m in found)
    assert xs[0] == pytest.approx(0.75 * INCH)
    assert xs[-1] == pytest.approx(36 * FOOT - 0.75 * INCH)
    assert xs[1] == pytest.approx(16 * INCH)
    assert xs[2] - xs[1] == pytest.approx(16 * INCH)
    # 36 ft at 16 in: rows at 16, 32 ... 416 in (26 of them; 432 is the far edge) and one flush at
    # each side.
    assert len(found) == 28


def test_bearing_and_clear_span_by_hand(plain: Project) -> None:
    """26 ft over a middle wall: 13 ft to the centre, less 5.5 in sill outside and half of 5.5 in
    sill inside."""
    joist = next(m for m in joists(plain) if str(m.id).endswith(":05a"))
    assert [s.length for s in joist.carrier.supports] == pytest.approx(
        [4 * INCH, 2.75 * INCH], abs=1e-6
    )
    assert clear_span(joist) == pytest.approx(13 * FOOT - 5.5 * INCH - 2.75 * INCH)
    assert joist.length == pytest.approx(13 * FOOT - 1.5 * INCH)
    assert str(joist.carrier.supports[0].on).startswith("run:G1/sill")


def test_joists_sit_on_the_sill_under_the_subfloor(plain: Project) -> None:
    heights = {x.role: x.elevation for x in plain.levels}
    members = work_out(plain).structure.members
    low, high = next(m for m in members if m.kind is kinds.JOIST).solid.bounds()
    assert low[2] == pytest.approx(heights["foundation_top"] + 1.5 * INCH)
    top = next(m for m in members if m.kind is kinds.SUBFLOOR).solid.bounds()
    assert top[0][2] == pytest.approx(high[2])
    assert top[1][2] == pytest.approx(heights["floor"], abs=1e-6)


def test_rims_close_the_ends(plain: Project) -> None:
    members = work_out(plain).structure.members
    rims = [m for m in members if m.kind is kinds.RIM]
    assert [m.length for m in rims] == pytest.approx([36 * FOOT, 36 * FOOT])
    assert rims[0].solid.bounds()[0][1] == pytest.approx(0.0, abs=1e-6)
    assert rims[1].solid.bounds()[1][1] == pytest.approx(26 * FOOT)


def test_nothing_of_the_floor_is_carried_twice_or_lost(plain: Project) -> None:
    assert sum(m.carrier.area for m in joists(plain)) == pytest.approx(36 * 26 * FOOT**2, rel=1e-9)


def test_a_joist_on_a_wall_rests_all_along(plain: Project) -> None:
    edge = next(m for m in joists(plain) if ":E1a" in str(m.id))
    assert clear_span(edge) == 0.0
    assert {s.on for s in edge.carrier.supports} == {the("run:G1/sill:W14")}
    assert edge.id not in work_out(plain).used


def test_turning_the_joists(plain: Project) -> None:
    turned = set_floor(plain, "F1", span="x")
    found = joists(turned)
    assert all(abs(m.start[1] - m.end[1]) < 1e-6 for m in found)
    assert sum(m.carrier.area for m in found) == pytest.approx(36 * 26 * FOOT**2, rel=1e-9)


def test_a_removed_joist_hands_its_share_to_its_neighbours(plain: Project) -> None:
    before = {m.id: m for m in joists(plain)}
    removed = change_member(plain, the("floor:F1/joist:05a"), removed=True)
    after = {m.id: m for m in joists(removed)}
    assert set(before) - set(after) == {the("floor:F1/joist:05a"), the("floor:F1/joist:05b")}
    assert after[the("floor:F1/joist:04a")].carrier.area == pytest.approx(
        1.5 * before[the("floor:F1/joist:04a")].carrier.area
    )
    assert sum(m.carrier.area for m in after.values()) == pytest.approx(36 * 26 * FOOT**2, rel=1e-9)
    assert work_out(removed).structure.gone == ()


def test_changes_by_hand_survive_and_are_never_dropped_silently(plain: Project) -> None:
    changed = change_member(plain, the("floor:F1/joist:05a"), section="2x12", shift=50.0)
    found = next(m for m in joists(changed) if m.id == the("floor:F1/joist:05a"))
    before = next(m for m in joists(plain) if m.id == the("floor:F1/joist:05a"))
    assert (found.section, found.touched) == ("2x12", True)
    assert found.start[0] - before.start[0] == pytest.approx(50.0)
    lost = change_member(plain, the("floor:F1/joist:99a"), section="2x12")
    assert work_out(lost).structure.gone == (the("floor:F1/joist:99a"),)


ELL = (
    (0.0, 0.0),
    (9000.0, 0.0),
    (9000.0, 4000.0),
    (5000.0, 4000.0),
    (5000.0, 8000.0),
    (0.0, 8000.0),
)


@settings(max_examples=60)
@given(st.floats(250, 900), st.floats(30, 90))
def test_an_l_shaped_outline_is_carried_whole(spacing: float, breadth: float) -> None:
    total = 0.0
    for row in rows((ELL,), Layout(breadth, spacing), {}, frozenset()):
        total += sum(carried((ELL,), row, [(row.low, row.high)]))
    # Rows that run beside each other share the plan between them; none of it is left out.
    assert total == pytest.approx(signed_area(ELL), rel=1e-9)


@settings(max_examples=25, deadline=None)
@given(st.integers(12, 60), st.integers(12, 40), st.sampled_from(["us", "metric"]))
def test_any_rectangle_is_framed_and_carried_whole(length: int, width: int, system: str) -> None:
    project = house(length * 300.0, width * 300.0, 1, system)
    checked = work_out(project)
    carried_area = sum(
        m.carrier.area for m in checked.structure.members if m.host == the("floor:F1")
    )
    assert carried_area == pytest.approx(length * width * 300.0**2, rel=1e-9)
    # A middle wall that runs beside the joists carries only itself and stands on them.
    assert checked.path.open_ends == ()
    assert sum(checked.path.applied) == pytest.approx(sum(checked.path.soil_total), abs=1.0)


def test_the_short_way() -> None:
    wide, tall = ((0, 0), (9, 0), (9, 4), (0, 4)), ((0, 0), (4, 0), (4, 9), (0, 9))
    wide_mm, tall_mm = (tuple((x * 1000.0, y * 1000.0) for x, y in r) for r in (wide, tall))
    assert run_angle(wide_mm, "short") == pytest.approx(1.5707963)
    assert run_angle(tall_mm, "short") == pytest.approx(0.0)
    assert run_angle(tall_mm, "x") == pytest.approx(0.0)


SHAPES = {
    "l": list(ELL),
    "t": [
        (0, 0),
        (12000, 0),
        (12000, 4000),
        (8000, 4000),
        (8000, 9000),
        (4000, 9000),
        (4000, 4000),
        (0, 4000),
    ],
    "u": [
        (0, 0),
        (15000, 0),
        (15000, 9000),
        (10000, 9000),
        (10000, 4000),
        (5000, 4000),
        (5000, 9000),
        (0, 9000),
    ],
    "askew": [(0, 0), (9000, 0), (9000, 6000), (3000, 7500), (0, 6000)],
    "triangle": [(0, 0), (9000, 0), (4500, 6000)],
}


@pytest.mark.parametrize("turn", [0.0, 0.3, 1.2])
@pytest.mark.parametrize("shape", SHAPES)
def test_other_outlines_carry_their_whole_floor_to_the_soil(shape: str, turn: float) -> None:
    corners = [(float(x), float(y)) for x, y in SHAPES[shape]]
    checked = work_out(walled(corners, turn))
    path = checked.path
    assert [m for m in checked.structure.members if any(not s.on for s in m.carrier.supports)] == []
    assert sum(path.soil_total) == pytest.approx(sum(path.applied), rel=1e-3)
    if shape in ("l", "t", "u"):
        assert sum(path.soil_total) == pytest.approx(sum(path.applied), rel=1e-6)
        area = sum(m.carrier.area for m in checked.structure.members if m.host == the("floor:F1"))
        assert area == pytest.approx(signed_area(tuple(corners)), rel=1e-6)
