"""Lines of commons and jacks on roof planes, against the figures of a framing square."""

import math
from collections import Counter

import pytest

from balken.framing.rafter_lines import rafter_lines
from balken.geometry import framing_square
from balken.geometry.roof_front import Side
from balken.geometry.roof_planes import roof_planes

HIP = Side(0.5)


def rectangle(length: float, width: float):  # type: ignore[no-untyped-def]
    return ((0.0, 0.0), (length, 0.0), (length, width), (0.0, width))


def test_a_gable_roof_has_commons_alone_all_alike() -> None:
    found = rafter_lines(roof_planes([rectangle(9600.0, 6000.0)], [[HIP, Side(None)] * 2]), 600.0)
    assert {r.kind for r in found} == {"common"}
    assert len(found) == 2 * 15, "between the two gables, 600 apart"
    assert {(r.foot, r.head) for r in found} == {("eave", "ridge")}
    assert {round(r.length, 3) for r in found} == {round(3000 * framing_square.common_length(0.5) / 12, 3)}


def test_hip_jacks_differ_by_the_figure_of_the_square() -> None:
    # Spaced from the corner: each jack is longer than the one before by spacing times the length per unit of run.
    found = rafter_lines(roof_planes([rectangle(10000.0, 6000.0)], [[HIP] * 4]), 600.0)
    side = [r for r in found if r.face == 0]
    jacks = [r.length for r in side if r.kind == "hip jack"][:4]
    step = framing_square.jack_difference(0.5, 600.0)
    assert jacks == pytest.approx([step * k for k in (1, 2, 3, 4)], rel=1e-6)
    commons = [r for r in side if r.kind == "common"]
    assert {round(r.run) for r in commons} == {3000}
    ends = [r for r in found if r.face == 1]
    assert {r.kind for r in ends} == {"hip jack", "common"}, "the one in the middle runs up to where the hips meet"


def test_jacks_of_both_sides_meet_at_the_hip() -> None:
    found = rafter_lines(roof_planes([rectangle(10000.0, 6000.0)], [[HIP] * 4]), 600.0)
    heads = Counter((round(r.end[0]), round(r.end[1])) for r in found if r.kind == "hip jack")
    corner = {spot: n for spot, n in heads.items() if spot[0] < 3000 and spot[1] < 3000}
    assert corner
    assert set(corner.values()) == {2}, "spaced from the corner both ways"


def test_a_wing_has_valley_jacks_and_between_valley_and_hip_cripples() -> None:
    ring = ((0.0, 0.0), (12000.0, 0.0), (12000.0, 8000.0), (5000.0, 8000.0), (5000.0, 14000.0), (0.0, 14000.0))
    found = rafter_lines(roof_planes([ring], [[HIP] * 6]), 500.0)
    kinds = Counter(r.kind for r in found)
    assert kinds["valley jack"] > 4
    assert kinds["cripple jack"] > 0
    assert {r.foot for r in found if r.kind == "valley jack"} == {"valley"}
    for r in found:
        assert r.end[2] > r.start[2]
        assert r.length == pytest.approx(r.run * math.hypot(1, 0.5))


def test_rafters_carry_the_plan_between_them() -> None:
    # Each takes half a spacing to both sides; over many rows the sum of runs times spacing comes near the plan.
    roof = roof_planes([rectangle(24000.0, 9000.0)], [[HIP] * 4])
    found = rafter_lines(roof, 100.0)
    assert sum(r.run for r in found) * 100.0 == pytest.approx(24000.0 * 9000.0, rel=0.02)


def test_above_a_break_rafters_stand_on_it() -> None:
    broken = Side(2.0, 0.0, ((2000.0, 0.4),))
    found = rafter_lines(roof_planes([rectangle(9000.0, 6000.0)], [[broken, Side(None)] * 2]), 600.0)
    assert {(r.foot, r.head) for r in found} == {("eave", "break"), ("break", "ridge")}


def test_no_spacing_is_refused() -> None:
    with pytest.raises(ValueError, match="a spacing of 0 mm sets no rafters out"):
        rafter_lines(roof_planes([rectangle(9000.0, 6000.0)], [[HIP] * 4]), 0.0)
