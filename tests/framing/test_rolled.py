"""Rolled steel as it is drawn and handed on: outlines have the areas of the sections they are of, and what a
plane cuts of a beam has them too."""

import math

import pytest
from msgspec.structs import replace

from balken.drawing.cut import View, body_of, from_above, gathered, parts_in, rings_cut
from balken.drawing.marks import Patch
from balken.drawing.plan import plan
from balken.drawing.seen import isometric, lines_of, sight_of
from balken.drawing.tiers import tiers
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.rolled import is_rolled, outline_of, shape_of
from balken.geometry.facets import triangles
from balken.geometry.plane import Point, Ring, dot, signed_area
from balken.geometry.solid import side_profile, upright
from balken.model.catalogue import sections_of
from balken.model.sections import Section
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import Checked, work_out

ROLLED = [
    pytest.param(section, id=name)
    for system in ("us", "metric")
    for name, section in sections_of(system).items()  # type: ignore[arg-type]
    if is_rolled(section)
]


@pytest.fixture(scope="module")
def hall() -> Checked:
    return work_out(ferry_hall())


def beam_of(hall: Checked, name: str) -> Member:
    return next(m for m in hall.structure.of(kinds.BEAM) if m.section == name)


def section_of(hall: Checked, m: Member) -> Section:
    return sections_of(hall.project.system, hall.project.products)[m.section]


@pytest.mark.parametrize("section", ROLLED)
def test_outlines_have_the_area_of_their_section(section: Section) -> None:
    """Those of the tables, with fillets or round corners."""
    assert section.product is not None
    outline = outline_of(section.product)
    assert signed_area(outline) == pytest.approx(section.area, rel=1e-6)
    xs, ys = [x for x, _ in outline], [y for _, y in outline]
    wide = 1.012 if section.product.round else 1.0
    assert max(xs) - min(xs) <= section.breadth * wide + 1e-6
    assert max(ys) - min(ys) <= section.depth * wide + 1e-6


@pytest.mark.parametrize("section", ROLLED)
def test_outlines_are_taken_apart_whole(section: Section) -> None:
    """Round a hollow and back through a slit as well: triangles that add up to the area, none turned over."""
    assert section.product is not None
    outline = outline_of(section.product)
    parts = [signed_area(tuple(outline[i] for i in t)) for t in triangles(outline)]
    assert min(parts) > -1e-6
    assert sum(parts) == pytest.approx(section.area, rel=1e-6)


def area(ring: Ring) -> float:
    return abs(signed_area(ring))


def test_a_beam_cut_across_shows_its_section(hall: Checked) -> None:
    """IPE 360: 7270 mm², HEA 200: 5380 mm² (EN 10365, from memory)."""
    for name, listed in (("IPE 360", 7270.0), ("HEA 200", 5380.0)):
        m = beam_of(hall, name)
        view = across(m)
        cut = rings_cut(body_of(hall, m), view)
        assert sum(map(area, cut)) == pytest.approx(section_of(hall, m).area, rel=1e-6)
        assert sum(map(area, cut)) == pytest.approx(listed, rel=0.01)
        assert body_of(hall, m).fill == "steel"


def across(m: Member, share: float = 0.5) -> View:
    """A view along a beam, cut at a share of its length."""
    a, b = m.start, m.end
    length = math.hypot(b[0] - a[0], b[1] - a[1])
    ahead = ((b[0] - a[0]) / length, (b[1] - a[1]) / length)
    place: Point = tuple(p + share * (q - p) for p, q in zip(a[:2], b[:2]))  # type: ignore[assignment]
    return View((ahead[1], -ahead[0]), ahead, place)


def test_a_beam_cut_along_shows_web_and_flanges(hall: Checked) -> None:
    """Through its web all of its depth; beside the web two flanges, each as long as the beam."""
    m = beam_of(hall, "IPE 360")
    section = section_of(hall, m)
    assert section.product is not None
    view = across(m)
    side = View(view.ahead, (-view.right[0], -view.right[1]), m.start[:2])
    (web,) = rings_cut(body_of(hall, m), side)
    assert area(web) == pytest.approx(m.length * section.depth, rel=1e-3)
    beside = tuple(p + 50.0 * d for p, d in zip(m.start[:2], side.ahead))
    flanges = rings_cut(body_of(hall, m), replace(side, cut=beside))
    assert len(flanges) == 2
    for flange in flanges:
        assert area(flange) == pytest.approx(m.length * section.product.flange, rel=1e-3)


def test_along_it_is_drawn_whole_with_the_lines_of_its_flanges(hall: Checked) -> None:
    """A view that is cut along the middle of a beam shows it uncut: four level lines, of two flanges."""
    m = beam_of(hall, "IPE 360")
    body, view = body_of(hall, m), across(m)
    side = View(view.ahead, (-view.right[0], -view.right[1]), m.start[:2])
    (part,) = parts_in(gathered([body]), side)
    assert not part.is_cut
    assert not body.is_cut(side)
    assert body.is_cut(view)
    seen = lines_of([part.body], sight_of(side), side).seen.ends
    level = {round(float(a[1]), 1) for a, b in seen if abs(a[1] - b[1]) < 0.01}
    section = section_of(hall, m)
    assert section.product is not None
    low, high = min(level), max(level)
    flange = section.product.flange
    assert high - low == pytest.approx(section.depth)
    assert {round(low + flange, 1), round(high - flange, 1)} <= level


def test_its_edges_are_seen_and_it_hides_what_lies_behind(hall: Checked) -> None:
    """From a corner above: the box round it has 9 edges that are seen, the rolled shape more."""
    m = beam_of(hall, "HEA 200")
    shown = lines_of([body_of(hall, m)], isometric()).seen
    assert len(shown.ends) > 9


def test_what_is_not_rolled_stays_as_it_is_cut() -> None:
    done = work_out(shown_demo())
    known = sections_of(done.project.system, done.project.products)
    for m in done.structure.members:
        assert shape_of(m, known.get(m.section)) is m.solid


def test_a_leaning_piece_lies_along_its_axis(hall: Checked) -> None:
    """Every point of the shape lies in the box it is framed by."""
    for m in hall.structure.of(kinds.BEAM):
        section = section_of(hall, m)
        if not is_rolled(section):
            continue
        (low, high), solid = m.solid.bounds(), shape_of(m, section)
        for p in solid.points():
            assert all(a - 0.01 <= x <= b + 0.01 for a, x, b in zip(low, p, high))
        assert abs(dot(solid.normal[:2], across(m).ahead)) == pytest.approx(1.0)
        assert solid.volume == pytest.approx(section.area * m.length, rel=1e-6)


def test_a_plan_shows_steel_as_steel(hall: Checked) -> None:
    """Beams in its fill; a post from above in its own shape."""
    tier = next(t for t in tiers(hall) if t.kind == "floor")
    steel = [m for m in plan(hall, tier) if isinstance(m, Patch) and m.fill == "steel"]
    rolled = {m.id for m in hall.structure.of(kinds.BEAM) if is_rolled(section_of(hall, m))}
    assert {m.key for m in steel} == rolled
    m = beam_of(hall, "HEA 200")
    section = section_of(hall, m)
    x, y, b, d = 100.0, 200.0, section.breadth / 2, section.depth / 2
    square = upright(((x - b, y - d), (x + b, y - d), (x + b, y + d), (x - b, y + d)), 0.0, 3000.0)
    ends = {"start": (x, y, 0.0), "end": (x, y, 3000.0), "length": 3000.0}
    post = replace(m, kind=kinds.POST, solid=square, **ends)
    shown = from_above(post, section=section)
    assert shown.fill == "steel"
    assert area(shown.ring) == pytest.approx(section.area, rel=1e-6)


def test_steel_that_is_not_square_is_cut_where_a_plane_goes_through(hall: Checked) -> None:
    """Its body is then its side, as thick as it is broad: cut across it is no beam along the plane."""
    m = beam_of(hall, "HEA 200")
    way = across(m).ahead
    lean = ((0.0, 0.0), (m.length, 0.0), (m.length - 50.0, 190.0), (0.0, 190.0))
    leaning = replace(m, solid=side_profile(m.start[:2], way, lean, 200.0))
    body = body_of(hall, leaning)
    assert (body.fill, body.rolled) == ("steel", False)
    assert body.is_cut(across(m))
    assert sum(map(area, rings_cut(body, across(m)))) == pytest.approx(200.0 * 190.0)


def test_a_notch_in_what_is_cut_is_left_out(hall: Checked) -> None:
    """A beam at an odd angle, cut along beside its web from many sides: two flanges each time, never what
    lies between them."""
    m = beam_of(hall, "IPE 360")
    section = section_of(hall, m)
    for turn in range(1, 40):
        c, s = math.cos(turn), math.sin(turn)
        shape = shape_of(m, section)
        body = replace(
            body_of(hall, m),
            solid=replace(shape, u=(-s, c, 0.0), v=(0.0, 0.0, -1.0), origin=(turn, 7.0, 0.0)),
        )
        along = (body.solid.normal[0], body.solid.normal[1])
        side = (-along[1], along[0])
        place = (turn + 50.0 * side[0], 7.0 + 50.0 * side[1])
        rings = rings_cut(body, View(along, side, place))
        assert len(rings) == 2, turn
        assert sum(map(area, rings)) == pytest.approx(2 * 12.7 * m.length, rel=1e-3)
