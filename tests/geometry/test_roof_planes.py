"""Roof planes over outlines: by hand, against CGAL's straight skeletons and GEOS's mitred offsets,
and as properties of random outlines."""

import math
import random
from collections.abc import Iterable
from itertools import repeat

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from shapely import Point as Spot
from shapely import Polygon, union_all
from shapely.affinity import rotate
from shapely.geometry.polygon import orient
from skeleton_oracle import area_above, skeleton

import roof_forms
from balken.geometry.plane import Ring, signed_area
from balken.geometry.roof_front import RoofError, Side
from balken.geometry.roof_lines import measures, roof_lines
from balken.geometry.roof_planes import Roof, roof_planes
from roof_forms import CROSS, ELL, RECTANGLE, TEE, rectilinear, rings_of

HIP, GABLE = Side(0.5), Side(None)


def lengths(roof: Roof) -> dict[str, float]:
    return {kind: round(length, 1) for kind, length in measures(roof).lengths.items()}


# -- by hand: plane geometry --------------------------------------------------


def test_a_hip_roof_over_a_rectangle() -> None:
    roof = roof_planes([RECTANGLE], [[HIP] * 4])
    assert roof.top == pytest.approx(1500.0)
    # Four hips of 3000 each way and 1500 up; what the ends take off the ridge is the width.
    assert lengths(roof) == {"hip": 4 * 4500.0, "ridge": 4000.0, "eave": 32000.0}
    assert measures(roof).true == pytest.approx(60e6 * math.hypot(1, 0.5)), "plan area over cosine"


def test_turning_the_ends_into_gables_and_back() -> None:
    gable = roof_planes([RECTANGLE], [[HIP, GABLE, HIP, GABLE]])
    assert lengths(gable) == {
        "ridge": 10000.0,
        "rake": round(4 * math.hypot(3000, 1500), 1),
        "eave": 20000.0,
    }
    assert {f.side for f in gable.faces} == {0, 2}
    half = roof_planes([RECTANGLE], [[HIP, GABLE, HIP, HIP]])
    assert lengths(half)["ridge"] == 7000.0
    assert lengths(half)["hip"] == 2 * 4500.0


def test_a_shed_rises_to_its_high_end() -> None:
    shed = roof_planes([RECTANGLE], [[HIP, GABLE, GABLE, GABLE]])
    assert shed.top == pytest.approx(3000.0)
    assert lengths(shed)["top"] == 10000.0


def test_a_wing_of_the_same_width_meets_in_a_valley_to_the_ridge() -> None:
    roof = roof_planes([ELL], [[HIP] * 6])
    assert lengths(roof) == {"hip": 5 * 4500.0, "ridge": 14000.0, "valley": 4500.0, "eave": 52000.0}


def test_a_narrow_wing_ends_under_the_ridge() -> None:
    roof = roof_planes([TEE], [[HIP] * 8])
    # The wing is 4 m wide: its ridge lies at 1000, that of the house at 1250; two valleys run up to
    # it.
    assert roof.top == pytest.approx(1250.0)
    level = sorted({round(line.start[2]) for line in roof_lines(roof) if line.kind == "ridge"})
    assert level == [1000, 1250]
    assert sum(line.kind == "valley" for line in roof_lines(roof)) == 2


def test_a_cross_has_four_valleys_to_one_point() -> None:
    valleys = [
        line for line in roof_lines(roof_planes([CROSS], [[HIP] * 12])) if line.kind == "valley"
    ]
    assert len(valleys) == 4
    assert {(round(x), round(y)) for line in valleys for x, y, _ in (line.start, line.end)} >= {
        (6000, 6000)
    }


def test_round_a_courtyard_the_ridge_runs_round() -> None:
    outer: Ring = ((0.0, 0.0), (12000.0, 0.0), (12000.0, 10000.0), (0.0, 10000.0))
    court: Ring = ((3000.0, 3000.0), (3000.0, 7000.0), (9000.0, 7000.0), (9000.0, 3000.0))
    roof = roof_planes([outer, court], [[HIP] * 4, [HIP] * 4])
    assert roof.top == pytest.approx(750.0)
    assert lengths(roof) == {
        "hip": 4 * 2250.0,
        "valley": 4 * 2250.0,
        "ridge": 32000.0,
        "eave": 64000.0,
    }


def test_unequal_pitches_move_the_ridge() -> None:
    # They meet where both have risen as much: 6000 shared as 1/0.5 to 1/1.
    roof = roof_planes([RECTANGLE], [[Side(0.5), GABLE, Side(1.0), GABLE]])
    ridge = next(line for line in roof_lines(roof) if line.kind == "ridge")
    assert ridge.start[1] == pytest.approx(4000.0, abs=0.01)
    assert ridge.start[2] == pytest.approx(2000.0, abs=0.01)


def test_a_side_with_a_higher_plate_waits_for_its_height() -> None:
    roof = roof_planes([RECTANGLE], [[Side(0.5), GABLE, Side(0.5, 800.0), GABLE]])
    # 0.5 s = 800 + 0.5 (6000 - s): the ridge lies 3800 from the low side.
    ridge = next(line for line in roof_lines(roof) if line.kind == "ridge")
    assert (ridge.start[1], ridge.start[2]) == pytest.approx((3800.0, 1900.0), abs=0.01)
    high = next(f for f in roof.faces if f.side == 2)
    assert high.height((0.0, 6000.0)) == pytest.approx(800.0)


def test_a_gambrel_breaks_where_it_is_told() -> None:
    broken = Side(2.0, 0.0, ((2000.0, 0.4),))
    roof = roof_planes([RECTANGLE], [[broken, GABLE, broken, GABLE]])
    assert roof.top == pytest.approx(2000.0 + 0.4 * 2000.0)
    assert lengths(roof)["break"] == 20000.0
    upper = [f for f in roof.faces if f.pitch == pytest.approx(0.4)]
    assert [round(f.height((5000.0, y)), 6) for f, y in zip(upper, (1000.0, 5000.0))] == [
        2000.0,
        2000.0,
    ]


def test_a_roof_cut_off_flat() -> None:
    roof = roof_planes([RECTANGLE], [[HIP] * 4], top=800.0)
    flat = next(f for f in roof.faces if f.side == -1)
    assert abs(signed_area(flat.outline)) == pytest.approx((10000 - 3200) * (6000 - 3200))
    assert flat.height((5000.0, 3000.0)) == 800.0
    assert lengths(roof)["break"] == 2 * (6800.0 + 2800.0)


@given(st.floats(20e3, 80e3), st.floats(10e3, 60e3), st.floats(0.1, 2.0), st.floats(0.1, 2.0))
def test_hip_roofs_measure_as_their_closed_form(
    length: float, width: float, side: float, end: float
) -> None:
    ring = roof_forms.rectangle(length, width)
    found = measures(roof_planes([ring], [[Side(side), Side(end)] * 2]))
    wanted = roof_forms.hip_on_rectangle(length, width, side, end)
    assert found.true == pytest.approx(wanted.area, rel=1e-6)
    assert found.lengths.get("ridge", 0.0) == pytest.approx(sum(wanted.ridges), abs=1.0)
    assert found.lengths["hip"] == pytest.approx(sum(wanted.hips), rel=1e-5)


@given(
    st.floats(20e3, 60e3),
    st.floats(8e3, 20e3),
    st.floats(0.3, 1.0),
    st.floats(2e3, 20e3),
    st.floats(0.2, 1.5),
)
def test_wings_measure_as_their_closed_form(
    length: float, width: float, share: float, projects: float, pitch: float
) -> None:
    wing = share * width
    # A wing as wide as the main part is an ell of one ridge; one narrower by a few mm has a hip of
    # a few mm, which counts as the ridge it lies in.
    assume(length - wing > 50.0 and (share == 1.0 or width - wing > 50.0))
    ring = roof_forms.l_outline(length, width, wing, projects)
    found = measures(roof_planes([ring], [[Side(pitch)] * 6]))
    wanted = roof_forms.hipped_l(length, width, wing, projects, pitch)
    assert found.true == pytest.approx(wanted.area, rel=1e-6)
    for kind, lengths_ in (
        ("ridge", wanted.ridges),
        ("hip", wanted.hips),
        ("valley", wanted.valleys),
    ):
        assert found.lengths[kind] == pytest.approx(sum(lengths_), rel=1e-4, abs=2.0), kind


# -- refused ------------------------------------------------------------------


@pytest.mark.parametrize(
    ("ring", "sides", "words"),
    [
        (RECTANGLE, [GABLE] * 4, "no side of the roof rises"),
        (((0.0, 0.0), (6000.0, 4000.0), (6000.0, 0.0), (0.0, 4000.0)), [HIP] * 4, "crosses itself"),
        (RECTANGLE[::-1], [HIP] * 4, "counter-clockwise"),
        (
            ((0.0, 0.0), (5000.0, 0.0), (10000.0, 0.0), (10000.0, 6000.0), (0.0, 6000.0)),
            [HIP, Side(0.7), HIP, HIP, HIP],
            "rise differently, at 5000, 0",
        ),
    ],
)
def test_what_cannot_be_is_refused_with_its_place(
    ring: Ring, sides: list[Side], words: str
) -> None:
    with pytest.raises(RoofError, match=words):
        roof_planes([ring], [sides])


# -- properties of random outlines --------------------------------------------


def convex(chance: random.Random) -> Polygon:
    spots = [Spot(chance.uniform(0, 15000), chance.uniform(0, 15000)) for _ in range(12)]
    return orient(union_all(spots).convex_hull)


def roofed(shape: Polygon, sides: Iterable[Side]) -> Roof:
    rings, rules = rings_of(shape), iter(sides)
    return roof_planes(rings, [[next(rules) for _ in ring] for ring in rings])


def holds_true(shape: Polygon, roof: Roof) -> None:
    """The planes cover the plan once, meet at one height where they meet, and hold no water."""
    faces = [Polygon(f.outline, f.holes) for f in roof.faces]
    assert sum(f.area for f in faces) == pytest.approx(shape.area, rel=1e-6), "nothing twice"
    assert union_all(faces).area == pytest.approx(shape.area, rel=1e-5), "nothing left out"
    heights: dict[tuple[float, float], list[float]] = {}
    for face in roof.faces:
        for p in face.outline:
            heights.setdefault((round(p[0], 1), round(p[1], 1)), []).append(face.height(p))
    for spot, zs in heights.items():
        if shape.boundary.distance(Spot(spot)) > 1.0:
            assert max(zs) - min(zs) < 1.0, spot
    assert min(min(zs) for zs in heights.values()) > -0.01, "nothing under the eaves"


@pytest.mark.parametrize("seed", range(0, 200, 10))
def test_equal_pitches_are_the_mitred_offsets_of_the_outline(seed: int) -> None:
    # Oracle: GEOS (through Shapely). What lies above a height is the outline moved in by run,
    # corners mitred.
    for one in range(seed, seed + 10):
        shape = rectilinear(random.Random(one))
        roof = roofed(shape, repeat(HIP))
        holds_true(shape, roof)
        for share in (0.2, 0.5, 0.8):
            z = roof.top * share
            above = sum(_above(f.plane, z, Polygon(f.outline, f.holes)) for f in roof.faces)
            moved = shape.buffer(-z / 0.5, join_style="mitre", mitre_limit=1e6)
            assert above == pytest.approx(moved.area, abs=1e-5 * shape.area), (one, share)


def _above(plane: tuple[float, float, float], z: float, face: Polygon) -> float:
    """Return how much of a face lies above a height."""
    a, b, c = plane
    steep = math.hypot(a, b)
    up, along = (a / steep, b / steep), (-b / steep, a / steep)
    foot = (up[0] * (z - c) / steep, up[1] * (z - c) / steep)
    far = 1e6
    corners = [(-far, 0.0), (far, 0.0), (far, far), (-far, far)]
    half = Polygon(
        [
            (foot[0] + s * along[0] + t * up[0], foot[1] + s * along[1] + t * up[1])
            for s, t in corners
        ]
    )
    return float(face.intersection(half).area)


def star(chance: random.Random) -> Polygon:
    """An outline with corners at any angles, in and out, no two sides parallel."""
    while True:
        turns = sorted(chance.uniform(0, 2 * math.pi) for _ in range(chance.randint(5, 14)))
        reach = [chance.uniform(3000, 12000) for _ in turns]
        shape = Polygon([(r * math.cos(t), r * math.sin(t)) for r, t in zip(reach, turns)])
        if shape.is_valid:
            return orient(shape)


@pytest.mark.parametrize("seed", range(0, 200, 10))
def test_equal_pitches_are_the_straight_skeleton_of_another_library(seed: int) -> None:
    # Oracle: CGAL. Nodes of the skeleton are corners of planes; between them lie the same lengths
    # of hips, valleys and ridges, and of what parts two planes that lie in one.
    for one in range(seed, seed + 10):
        for shape in (rectilinear(random.Random(one)), star(random.Random(one))):
            roof = roofed(shape, repeat(HIP))
            nodes, length = skeleton(shape)
            corners = [p for f in roof.faces for ring in (f.outline, *f.holes) for p in ring]
            assert all(min(math.dist(p, c) for c in corners) < 0.5 for p in nodes), one
            around = sum(Polygon(f.outline, f.holes).length for f in roof.faces)
            assert (around - shape.length) / 2 == pytest.approx(length, rel=1e-5), one


@pytest.mark.parametrize("seed", range(0, 200, 10))
def test_unequal_pitches_are_the_weighted_skeleton_of_another_library(seed: int) -> None:
    # Oracle: CGAL. Where parallel sides of other pitch run into one line, what follows is anyone's
    # choice: stars have none.
    for one in range(seed, seed + 10):
        chance = random.Random(one)
        shape = star(chance)
        pitches = [chance.uniform(0.3, 1.2) for _ in shape.exterior.coords[:-1]]
        roof = roofed(shape, [Side(p) for p in pitches])
        for z in (0.1 * roof.top, 0.3 * roof.top, 0.6 * roof.top):
            above = sum(_above(f.plane, z, Polygon(f.outline, f.holes)) for f in roof.faces)
            assert above == pytest.approx(area_above(shape, pitches, z), abs=1e-6 * shape.area), (
                one,
                z,
            )


@pytest.mark.parametrize("seed", range(0, 200, 10))
def test_any_pitches_and_gables_cover_the_plan_once(seed: int) -> None:
    for one in range(seed, seed + 10):
        chance = random.Random(one)
        shape = rectilinear(chance)
        holds_true(
            shape, roofed(shape, [Side(p) for p in chance.choices([0.3, 0.5, 0.75, 1.0], k=60)])
        )
        turned = orient(rotate(shape, chance.uniform(0, 90)))
        holds_true(turned, roofed(turned, [Side(p) for p in chance.choices([0.4, 0.5, 1.0], k=60)]))
        faces = roofed(shape, [HIP, *chance.choices([HIP, HIP, HIP, GABLE], k=60)]).faces
        assert sum(Polygon(f.outline, f.holes).area for f in faces) == pytest.approx(
            shape.area, rel=1e-6
        )


@pytest.mark.parametrize("seed", range(0, 200, 10))
def test_over_a_convex_outline_the_lowest_plane_is_the_roof(seed: int) -> None:
    # Closed form: each plane rises by its pitch with the distance from its side; over a convex
    # outline the least counts.
    for one in range(seed, seed + 10):
        chance = random.Random(one)
        shape = convex(chance)
        ring = rings_of(shape)[0]
        pitches = [chance.uniform(0.2, 1.5) for _ in ring]
        roof = roof_planes([ring], [[Side(p) for p in pitches]])
        holds_true(shape, roof)
        faces = [Polygon(f.outline) for f in roof.faces]
        for _ in range(6):
            p = Spot(chance.uniform(0, 15000), chance.uniform(0, 15000))
            if not shape.contains(p):
                continue
            ends = zip(ring, [*ring[1:], ring[0]])
            least = min(pitch * _distance(a, b, (p.x, p.y)) for pitch, (a, b) in zip(pitches, ends))
            k = min(range(len(faces)), key=lambda n: faces[n].distance(p))
            assert roof.faces[k].height((p.x, p.y)) == pytest.approx(least, abs=0.5)


def _distance(a: tuple[float, float], b: tuple[float, float], p: tuple[float, float]) -> float:
    return abs((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / math.dist(a, b)


@pytest.mark.parametrize("seed", range(6))
def test_lines_of_random_roofs_add_up(seed: int) -> None:
    shape = rectilinear(random.Random(100 + seed))
    roof = roofed(shape, repeat(HIP))
    found = measures(roof)
    assert found.plan == pytest.approx(shape.area, rel=1e-6)
    assert found.true == pytest.approx(shape.area * math.hypot(1, 0.5), rel=1e-6)
    assert found.lengths["eave"] == pytest.approx(shape.length, rel=1e-3)
    for line in roof_lines(roof):
        run = math.dist(line.start[:2], line.end[:2])
        rise = abs(line.start[2] - line.end[2])
        if line.kind in ("hip", "valley"):  # equal pitches over square corners: 45° in plan
            assert rise == pytest.approx(run / math.sqrt(2) * 0.5, rel=1e-3, abs=0.5)
