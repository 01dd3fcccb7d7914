"""Cutting a solid with an upright plane, and the edges that are drawn of it, against areas and
counts worked by hand."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.geometry.plane import Ring, signed_area
from balken.geometry.slices import sharp_edges, slices
from balken.geometry.solid import Extrusion
from balken.geometry.trim import Body, Mesh, trimmed, union

UP = (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)


def box(x: float, y: float, z: float, size: tuple[float, float, float]) -> Extrusion:
    a, b, c = size
    return Extrusion((x, y, z), *UP, ((0.0, 0.0), (a, 0.0), (a, b), (0.0, b)), c)


def cut(mesh: Mesh, x: float) -> list[Ring]:
    """Cut where the plan is at ``x``, seen along y."""
    return slices(mesh, lambda p: p[0] - x, lambda p: p[1])


def area(rings: list[Ring]) -> float:
    return sum(abs(signed_area(r)) for r in rings)


def test_a_box_cuts_to_its_own_section() -> None:
    mesh = union([Body(box(100.0, 200.0, -300.0, (1000.0, 400.0, 250.0)))])
    (ring,) = cut(mesh, 500.0)
    assert area([ring]) == pytest.approx(400.0 * 250.0)
    assert (min(y for y, _ in ring), max(y for y, _ in ring)) == pytest.approx((200.0, 600.0))
    assert (min(z for _, z in ring), max(z for _, z in ring)) == pytest.approx((-300.0, -50.0))
    assert cut(mesh, 99.0) == []
    assert cut(mesh, 1101.0) == []


def test_a_plane_on_a_face_counts_the_face_once() -> None:
    mesh = union([Body(box(0.0, 0.0, 0.0, (1000.0, 400.0, 250.0)))])
    assert area(cut(mesh, 0.0)) + area(cut(mesh, 1000.0)) == pytest.approx(400.0 * 250.0)


def test_a_slanting_plane_cuts_longer() -> None:
    # At 45° in plan the section of a square bar is √2 times as wide.
    mesh = union([Body(box(0.0, 0.0, 0.0, (2000.0, 300.0, 200.0)))])
    r = math.sqrt(0.5)
    rings = slices(mesh, lambda p: (p[0] - p[1] - 500.0) * r, lambda p: (p[0] + p[1]) * r)
    assert area(rings) == pytest.approx(300.0 * math.sqrt(2.0) * 200.0)


def test_a_footing_and_its_wall_cut_as_one() -> None:
    footing, stem = (
        box(0.0, 0.0, 0.0, (3000.0, 600.0, 300.0)),
        box(0.0, 200.0, 300.0, (3000.0, 200.0, 900.0)),
    )
    (ring,) = cut(union([Body(footing), Body(stem)]), 1500.0)
    assert area([ring]) == pytest.approx(600.0 * 300.0 + 200.0 * 900.0)


def test_what_another_takes_is_not_cut() -> None:
    wall, pier = (
        box(0.0, 0.0, 0.0, (3000.0, 200.0, 1000.0)),
        box(1000.0, -50.0, 0.0, (400.0, 300.0, 600.0)),
    )
    left_of = trimmed(Body(wall), (Body(pier),))
    assert area(cut(left_of, 500.0)) == pytest.approx(200.0 * 1000.0)
    assert area(cut(left_of, 1200.0)) == pytest.approx(200.0 * 400.0)
    assert left_of.volume == pytest.approx(3000.0 * 200.0 * 1000.0 - 400.0 * 200.0 * 600.0)


def test_a_void_through_a_wall_leaves_two_pieces() -> None:
    wall, hole = (
        box(0.0, 0.0, 0.0, (3000.0, 200.0, 1000.0)),
        box(1000.0, -50.0, 400.0, (500.0, 300.0, 200.0)),
    )
    rings = cut(union([Body(wall, (hole,))]), 1250.0)
    assert len(rings) == 2
    assert area(rings) == pytest.approx(200.0 * 800.0)


def test_edges_of_a_box_are_drawn_and_its_diagonals_are_not() -> None:
    edges = sharp_edges(union([Body(box(0.0, 0.0, 0.0, (1000.0, 400.0, 250.0)))]))
    assert sorted(round(math.dist(a, b)) for a, b in edges) == [250] * 4 + [400] * 4 + [1000] * 4


def test_a_round_pier_shows_its_rims_only() -> None:
    ring = tuple(
        (300 * math.cos(2 * math.pi * i / 36), 300 * math.sin(2 * math.pi * i / 36))
        for i in range(36)
    )
    edges = sharp_edges(union([Body(Extrusion((0.0, 0.0, 0.0), *UP, ring, 800.0))]))
    assert len(edges) == 72  # each rim of 36; the 10° turns up its side are no edges


@settings(max_examples=20, deadline=None)
@given(
    st.floats(200.0, 1500.0),
    st.floats(100.0, 600.0),
    st.floats(-0.6, 0.6),
    st.floats(150.0, 900.0),
)
def test_slices_add_up_to_the_volume(
    length: float, width: float, turn: float, height: float
) -> None:
    """Cavalieri's principle: areas of parallel cuts, summed over their distance, are the volume
    (manifold3d's own)."""
    c, s = math.cos(turn), math.sin(turn)
    turned = Extrusion(
        (50.0, 20.0, -height),
        (c, s, 0.0),
        (-s, c, 0.0),
        ((0.0, 0.0), (length, 0.0), (length, width), (0.0, width)),
        height,
    )
    mesh = trimmed(Body(turned), (Body(box(100.0, -200.0, -100.0, (120.0, 3000.0, 400.0))),))
    low, high = float(mesh.points[:, 0].min()), float(mesh.points[:, 0].max())
    thick = (high - low) / 200
    summed = sum(area(cut(mesh, low + (i + 0.5) * thick)) for i in range(200)) * thick
    assert summed == pytest.approx(mesh.volume, rel=0.01)
