"""Hidden lines of known solids, worked out by hand, and of random ones by another road: points along each
edge are asked one by one whether a ray from the viewer meets a body first."""

import math
import random

import numpy as np
import pytest

from balken.drawing.cut import Body, View
from balken.drawing.seen import Sight, _of_facets, _of_prism, isometric, lines_of, sight_of
from balken.geometry.facets import facets_of, is_prism, triangles
from balken.geometry.plane import Point, signed_area
from balken.geometry.solid import Extrusion, side_profile, upright
from balken.model.names import HostName

NORTH = View((1.0, 0.0), (0.0, 1.0))
KEY = HostName("wall", "W1")


def box(x: float, y: float, z: float, wide: float, deep: float, high: float) -> Body:
    ring = ((x, y), (x + wide, y), (x + wide, y + deep), (x, y + deep))
    return Body(upright(ring, z, z + high), "timber", KEY)


def lengths(ends: np.ndarray) -> float:
    return float(np.hypot(*(ends[:, 1] - ends[:, 0]).T).sum())


def seen_of(*bodies: Body, sight: Sight | None = None) -> float:
    return lengths(lines_of(bodies, sight or sight_of(NORTH)).seen.ends)


def test_a_box_alone_shows_its_front() -> None:
    """4 m by 3 m: the four edges of its face."""
    assert seen_of(box(0, 0, 0, 4000, 1000, 3000)) == pytest.approx(14_000.0)


def test_a_box_behind_another_shows_what_stands_out() -> None:
    """The farther one reaches 1 m to the right, 1 m over and half a metre under the nearer one: its top and
    foot of 4 m, its right edge of 4.5 m, and 1 m and half a metre of its left edge."""
    near, far = box(0, 0, 0, 4000, 1000, 3000), box(1000, 2000, -500, 4000, 1000, 4500)
    out = 4000 + 4000 + 4500 + 1000 + 500
    assert seen_of(near, far) == pytest.approx(14_000.0 + out, abs=2.0)
    hidden = lengths(lines_of([near, far], sight_of(NORTH)).hidden.ends)
    assert hidden == pytest.approx(17_000 - out, abs=2.0)


def test_what_touches_is_seen_and_what_is_inside_is_not() -> None:
    wall = box(0, 0, 0, 4000, 200, 3000)
    inside = box(1000, 50, 500, 500, 100, 500)
    assert seen_of(wall, inside) == pytest.approx(14_000.0)
    on_face = box(1000, -100, 500, 500, 100, 500)
    assert seen_of(wall, on_face) == pytest.approx(16_000.0)


def test_boards_that_cross_in_depth_hide_each_other_in_part() -> None:
    """A board that leans back through another's plane is seen up to there: its depth is that of each place,
    not of its middle."""
    wall = box(0, 1000, -100, 4000, 100, 3500)
    way = (0.0, 1.0)
    leaning = Body(
        side_profile((2000.0, 0.0), way, ((0, 0), (100, 0), (2100, 3000), (2000, 3000)), 100.0),
        "timber",
        KEY,
    )
    lines = lines_of([wall, leaning], sight_of(NORTH))
    tops = [e for e in lines.seen.ends if 1950 <= e[0][0] <= 2050 and 1950 <= e[1][0] <= 2050]
    highest = max(float(p[1]) for e in tops for p in e)
    # Its front edge goes into the wall 1 m ahead: 1000 = 2000 z / 3000.
    assert highest == pytest.approx(1500.0, abs=5.0)


def test_a_notched_body_hides_its_own_edges() -> None:
    """Of an L seen from the side of its short leg only the long leg's outline stands out."""
    ring = ((0, 0), (4000, 0), (4000, 1000), (1000, 1000), (1000, 3000), (0, 3000))
    body = Body(upright(ring, 0.0, 2000.0), "timber", KEY)
    assert not facets_of(body.solid).convex
    assert seen_of(body) == pytest.approx(12_000.0), "from the front it is a box"
    assert len(triangles(ring)) == 4
    areas = sum(abs(signed_area(tuple(ring[i] for i in t))) for t in triangles(ring))
    assert areas == pytest.approx(abs(signed_area(ring)))


def test_a_cut_shows_what_lies_behind_it_alone() -> None:
    """Cut through the middle of the nearer box: of it nothing but the cut face, which hides what is
    behind."""
    near, far = box(0, 0, 0, 4000, 1000, 3000), box(1000, 2000, 500, 1000, 1000, 1000)
    view = View((1.0, 0.0), (0.0, 1.0), (0.0, 500.0))
    lines = lines_of([near, far], sight_of(view), view)
    assert not len(lines.seen.ends), "hidden by the face that is cut"
    beside = box(5000, 2000, 500, 1000, 1000, 1000)
    lines = lines_of([near, beside], sight_of(view), view)
    assert lengths(lines.seen.ends) == pytest.approx(4000.0)


def test_isometric_axes_are_as_long() -> None:
    sight = isometric()
    for axis in ((1, 0, 0), (0, 1, 0), (0, 0, 1)):
        flat = [sum(a * b for a, b in zip(axis, way)) for way in (sight.right, sight.up)]
        assert math.hypot(*flat) == pytest.approx(math.sqrt(2 / 3))
    cube = box(0, 0, 0, 1000, 1000, 1000)
    assert seen_of(cube, sight=sight) == pytest.approx(9 * 1000 * math.sqrt(2 / 3), abs=5.0), (
        "nine of twelve"
    )


def _first(bodies: list[Body], p: tuple[float, float, float]) -> bool:
    """Whether nothing lies before a point of an edge, looking north: by boxes."""
    x, y, z = p
    for body in bodies:
        (x0, y0, z0), (x1, _, z1) = body.solid.bounds()
        if x0 + 0.2 < x < x1 - 0.2 and z0 + 0.2 < z < z1 - 0.2 and y0 < y - 0.6:
            return False
    return True


@pytest.mark.parametrize("seed", range(12))
def test_random_boxes_against_points_along_their_edges(seed: int) -> None:
    """The visible length is the share of points that nothing lies before."""
    chance = random.Random(seed)
    bodies = [
        box(
            chance.uniform(0, 5000),
            chance.uniform(0, 5000),
            chance.uniform(0, 5000),
            chance.uniform(100, 3000),
            chance.uniform(100, 500),
            chance.uniform(100, 3000),
        )
        for _ in range(25)
    ]
    shown, whole = 0.0, 0.0
    for body in bodies:
        (x0, y0, z0), (x1, _, z1) = body.solid.bounds()
        corners: list[Point] = [(x0, z0), (x1, z0), (x1, z1), (x0, z1)]
        for a, b in zip(corners, [*corners[1:], corners[0]]):
            long = math.dist(a, b)
            steps = 400
            free = sum(
                _first(bodies, (a[0] + (b[0] - a[0]) * t, y0, a[1] + (b[1] - a[1]) * t))
                for t in ((k + 0.5) / steps for k in range(steps))
            )
            shown += long * free / steps
            whole += long
    assert seen_of(*bodies) == pytest.approx(shown, rel=0.01)
    assert shown < whole


@pytest.mark.forgetful
def test_the_same_input_gives_the_same_lines() -> None:
    bodies = [box(100.0 * k, 50.0 * k, 0, 900, 100, 1000) for k in range(30)]
    one, two = (lines_of(bodies, sight_of(NORTH)) for _ in range(2))
    assert np.array_equal(one.seen.ends, two.seen.ends)


def test_facets_have_normals_outwards() -> None:
    solid = Extrusion(
        (0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), ((0, 0), (2, 0), (2, 1), (0, 1)), 3.0
    )
    normals = {tuple(round(x) for x in f.normal) for f in facets_of(solid).facets}
    assert normals == {(0, 0, -1), (0, 0, 1), (0, -1, 0), (1, 0, 0), (0, 1, 0), (-1, 0, 0)}


@pytest.mark.parametrize("corners", [3, 4, 6])
def test_faces_of_a_prism_are_those_of_any_body(corners: int) -> None:
    """A prism is taken apart by the order of its corners alone: the same faces as by its general way."""
    turns = [2 * math.pi * k / corners for k in range(corners)]
    outline = tuple((300 * math.cos(t), 120 * math.sin(t)) for t in turns)
    across, up = (0.8, 0.6, 0.0), (0.0, 0.0, 1.0)
    solid = Extrusion((10.0, 20.0, 30.0), across, up, outline, 2400.0)
    assert is_prism(solid)
    quick, general = _of_prism(solid), _of_facets(facets_of(solid))
    for name in ("normals", "pieces", "piece_of", "ends", "edge_of"):
        np.testing.assert_allclose(getattr(quick, name), getattr(general, name), atol=1e-9)
    notched = Extrusion(
        (0.0, 0.0, 0.0), across, up, ((0, 0), (9, 0), (9, 9), (5, 9), (5, 5), (0, 5)), 1.0
    )
    assert not is_prism(notched)
