"""Footings, stems and sills: true place, true volume, nothing counted twice."""

import pytest
import shapely

from balken.framing.member import Member
from balken.model.edits import set_run
from balken.model.project import Project, level
from balken.units import FOOT, INCH
from balken.works.building import work_out
from buildings import house


def members(project: Project, role: str) -> list[Member]:
    return [m for m in work_out(project).structure.members if m.role == role]


def test_concrete_by_hand(plain: Project) -> None:
    """A ring of 36 by 26 ft outside, 8 in stem, 20 in footing, and one wall down the middle, worked
    by hand."""
    stems, footings = members(plain, "stem"), members(plain, "footing")
    heights = {x.role: x.elevation for x in plain.levels}
    stem_height = heights["foundation_top"] - heights["footing_top"]
    footing_height = heights["footing_top"] - heights["footing_bottom"]
    outer, inner = 36 * 12 * 26 * 12, (36 * 12 - 16) * (26 * 12 - 16)
    middle = (36 * 12 - 16) * 8
    assert sum(m.solid.volume for m in stems) == pytest.approx(
        (outer - inner + middle) * INCH**2 * stem_height, rel=1e-9
    )
    # The footing reaches 6 in past the stem on both sides.
    wide = (36 * 12 + 12) * (26 * 12 + 12) - (36 * 12 - 28) * (26 * 12 - 28)
    middle_footing = (36 * 12 - 28) * 20
    expected = (wide + middle_footing) * INCH**2 * footing_height
    assert sum(m.solid.volume for m in footings) == pytest.approx(expected, rel=1e-9)


def test_concrete_is_counted_once(plain: Project) -> None:
    for role in ("stem", "footing"):
        rings = [shapely.Polygon(m.solid.plan()) for m in members(plain, role)]
        assert sum(r.area for r in rings) == pytest.approx(
            shapely.unary_union(rings).area, rel=1e-9
        )


def test_stem_is_flush_with_the_wall_and_the_footing_centred(plain: Project) -> None:
    south_stem = next(m for m in members(plain, "stem") if str(m.id).endswith(":W11"))
    south_footing = next(m for m in members(plain, "footing") if str(m.id).endswith(":W11"))
    low, high = south_stem.solid.bounds()
    assert (low[1], high[1]) == pytest.approx((0.0, 8 * INCH), abs=1e-6)
    f_low, f_high = south_footing.solid.bounds()
    assert (f_low[1] + f_high[1]) / 2 == pytest.approx((low[1] + high[1]) / 2, abs=1e-6)
    assert f_high[1] - f_low[1] == pytest.approx(20 * INCH)


def test_stem_stands_between_its_levels(plain: Project) -> None:
    heights = {x.role: x.elevation for x in plain.levels}
    for m in members(plain, "stem"):
        low, high = m.solid.bounds()
        assert (low[2], high[2]) == pytest.approx(
            (heights["footing_top"], heights["foundation_top"]), abs=1e-6
        )


def test_face_can_be_moved_out(plain: Project) -> None:
    moved = set_run(plain, "G1", offset=25.0)
    low, _ = next(m for m in members(moved, "stem") if str(m.id).endswith(":W11")).solid.bounds()
    assert low[1] == pytest.approx(-25.0, abs=1e-6)
    sill_low, _ = next(
        m for m in members(moved, "sill") if str(m.id).endswith(":W11")
    ).solid.bounds()
    assert sill_low[1] == pytest.approx(0.0, abs=1e-6), "the sill stays under the wall"


def test_sills_are_cut_square_and_do_not_overlap(plain: Project) -> None:
    sills = members(plain, "sill")
    rings = [shapely.Polygon(m.solid.plan()) for m in sills]
    assert sum(r.area for r in rings) == pytest.approx(shapely.unary_union(rings).area, rel=1e-9)
    for m, ring in zip(sills, rings):
        assert ring.area == pytest.approx(m.length * 5.5 * INCH, rel=1e-6), m.id
    longest = max(sills, key=lambda m: m.length)
    assert longest.length == pytest.approx(36 * FOOT)


def test_a_foundation_follows_its_levels() -> None:
    project = house(30 * FOOT, 14 * FOOT)
    heights = {x.role: x.elevation for x in project.levels}
    assert level(project, "GR").elevation == pytest.approx(heights["foundation_top"] - 8 * INCH)
    assert level(project, "GR").elevation - heights["footing_bottom"] == pytest.approx(
        project.site.frost_depth
    )
