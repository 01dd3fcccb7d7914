"""The section of the ladder and the cuts it is made of: pieces where they lie, not a sketch."""

import math

import pytest

from balken.drawing.cut import Body, View, rings_cut
from balken.drawing.marks import Patch
from balken.drawing.section import INWARD, OUTWARD, wall_section
from balken.framing import kinds
from balken.geometry.plane import box, signed_area
from balken.geometry.solid import upright
from balken.model.names import HostName
from balken.session.demo import shown_demo
from balken.works.building import Checked, work_out
from named import the

WALL = Body(
    upright(((0.0, 0.0), (4000.0, 0.0), (4000.0, 200.0), (0.0, 200.0)), 0.0, 2500.0),
    "wall",
    the("wall:W1"),
)


@pytest.fixture(scope="module")
def bakehouse() -> Checked:
    return work_out(shown_demo())


@pytest.mark.parametrize("turn", [0.0, 15.0, 40.0, 70.0])
def test_a_wall_cut_at_a_slant_is_wider_by_the_secant(turn: float) -> None:
    ahead = (math.cos(math.radians(turn)), math.sin(math.radians(turn)))
    view = View((ahead[1], -ahead[0]), ahead, (2000.0, 100.0))
    (ring,) = rings_cut(WALL, view)
    assert abs(signed_area(ring)) == pytest.approx(2500.0 * 200.0 / math.cos(math.radians(turn)))


def test_a_plane_that_only_touches_cuts_nothing() -> None:
    assert not WALL.is_cut(View((0.0, -1.0), (1.0, 0.0), (4000.0, 0.0)))
    assert WALL.is_cut(View((0.0, -1.0), (1.0, 0.0), (3999.9, 0.0)))


def test_the_ladder_shows_the_pieces_at_their_own_heights(bakehouse: Checked) -> None:
    tops = {round(m.solid.top(), 3) for m in bakehouse.structure.members}
    lows = {round(m.solid.bounds()[0][2], 3) for m in bakehouse.structure.members}
    shown = [
        box(p.mark.ring)
        for p in wall_section(bakehouse, ())
        if isinstance(p.mark, Patch)
        and p.mark.fill in ("concrete", "end grain")
        and isinstance(p.tier, HostName)
    ]
    assert len(shown) > 5
    assert all(round(z1, 3) in tops and round(z0, 3) in lows for _, z0, _, z1 in shown)
    assert all(x0 >= -OUTWARD and x1 <= INWARD for x0, _, x1, _ in shown)


def test_a_basement_that_is_looked_at_is_cut_where_it_stands(bakehouse: Checked) -> None:
    """Its walls stand on parts of the building's walls: the middle of those is no place for it."""
    mine = [m for m in bakehouse.structure.of(kinds.STEM) if m.host == the("run:G2")]
    stem = max(mine, key=lambda m: m.run)
    cut = [
        box(p.mark.ring)
        for p in wall_section(bakehouse, (), the("run:G2"))
        if isinstance(p.mark, Patch) and p.mark.fill == "concrete"
    ]
    thick = next(r.stem_thickness for r in bakehouse.project.runs if r.id == "G2")
    high = stem.solid.top() - stem.solid.bounds()[0][2]
    sizes = [(round(x1 - x0, 3), round(z1 - z0, 3)) for x0, z0, x1, z1 in cut]
    assert (round(thick, 3), round(high, 3)) in sizes


def test_rafters_are_seen_past_the_eaves(bakehouse: Checked) -> None:
    roof = [
        x
        for p in wall_section(bakehouse, ())
        if p.tier == the("roof:R1") and isinstance(p.mark, Patch)
        for x, _ in p.mark.ring
    ]
    assert min(roof) < -100.0, "the tail lies outside the wall"
    assert max(roof) == pytest.approx(INWARD)


def test_nothing_is_drawn_away_from_the_wall(bakehouse: Checked) -> None:
    """The plane also goes through the wall across the building: that is no part of this section."""
    xs = [
        x
        for p in wall_section(bakehouse, ())
        for x, _ in (p.mark.ring if isinstance(p.mark, Patch) else p.mark.points)  # type: ignore[union-attr]
    ]
    assert min(xs) >= -OUTWARD - 60.0
    assert max(xs) <= INWARD + 60.0
