"""Roofs of rafters on any outline: cut to one another as true bodies, carried whole to the soil.

Figures of the framing square are plane geometry (stamped on every square); the rest is worked by
hand beside each check.
"""

import math
import random
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from manifold3d import Manifold, Mesh
from msgspec.structs import replace

from balken.design.thrust import push_of
from balken.fit.findings import findings
from balken.framing import kinds
from balken.framing.member import Member, on_supports
from balken.framing.roofs.shape import soffit_area
from balken.geometry.framing_square import (
    backing_angle,
    hip_length,
    irregular_hip_plan_angle,
    jack_difference,
)
from balken.geometry.roof_lines import measures, roof_lines
from balken.geometry.roof_planes import Roof
from balken.geometry.solid import Extrusion
from balken.model.edits.hosts import remove_member
from balken.model.edits.roofs import (
    add_court,
    add_roof,
    add_roof_opening,
    hip_or_gable,
    set_roof,
    set_side,
)
from balken.model.names import family_of
from balken.model.project import PointSupport, Project, Wall
from balken.model.roofs import Rafters, RoofBreak, RoofSide
from balken.session.demo import shown_demo
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from balken.works.terms import terms_of
from buildings import house, walled
from named import the
from roof_forms import irregular

SPACING = 24 * INCH


def hipped(rise: float = 6.0, **fields: object) -> Project:
    """The plain house of 36 by 26 ft with a hip all round."""
    return set_roof(
        house(), "R1", sides=(), rake=None, rise=rise, section="2x8", spacing=SPACING, **fields
    )


def of(checked: Checked, role: str, word: str = "") -> list[Member]:
    return [m for m in checked.structure.of(kinds.KINDS[role]) if word in str(m.id)]


def body(solid: Extrusion) -> Manifold:
    """Return a member's body made from its outlines alone, by another library."""
    rings = solid.rings()
    n, last = len(rings[0]), (len(rings) - 1) * len(rings[0])
    from manifold3d import triangulate

    cap = [tuple(map(int, t)) for t in triangulate([np.array(solid.outline)])]
    faces = [(c, b, a) for a, b, c in cap] + [(last + a, last + b, last + c) for a, b, c in cap]
    for step in range(0, last, n):
        for k in range(n):
            j = (k + 1) % n
            faces += [(step + k, step + j, step + n + j), (step + k, step + n + j, step + n + k)]
    points = np.array([p for ring in rings for p in ring], dtype=np.float32)
    return Manifold(Mesh(points - points.mean(axis=0), np.array(faces, dtype=np.uint32)))


def moved(m: Member) -> Manifold:
    points = np.array(m.solid.points(), dtype=np.float32)
    return body(m.solid).translate([float(c) for c in points.mean(axis=0)])


@pytest.mark.parametrize("seed", [3, 10, 65, 66, 67, 77, 79, 97])
def test_over_any_outline_every_piece_is_named_once_and_every_load_comes_down(seed: int) -> None:
    """Gables aslant to the rafters, hips in chains, rows that are broken by inside corners."""
    chance = random.Random(seed)
    corners = irregular(chance)
    sides = tuple(
        RoofSide(f"W{n}", chance.choice(["slope", "slope", "gable"])) for n in range(len(corners))
    )
    checked = work_out(walled(corners, rise=6.0, sides=sides if seed % 2 else ()))
    mine = [m for m in checked.structure.members if m.host == the("roof:R1")]
    assert len({m.id for m in mine}) == len(mine) > 12
    assert {len(ring) == len(m.solid.outline) for m in mine for _, ring in m.solid.across} <= {True}
    assert [e for e in checked.path.open_ends if str(e.source).startswith("roof:")] == []
    shape = checked.structure.roofs[the("roof:R1")]
    assert sum(m.carrier.area for m in mine) == pytest.approx(measures(shape.roof).plan, rel=1e-6)
    snow = sum(
        r.snow
        for m in mine
        for s, r in zip(m.carrier.supports, checked.path.reactions.get(m.id, ()))
        if str(s.on).startswith("wall:")
    )
    assert snow == pytest.approx(measures(shape.roof).plan * checked.built.roofs[0].snow, rel=1e-6)


def test_every_bevelled_piece_of_the_bakehouse_is_a_closed_body() -> None:
    """Also the hip that has no tail along its middle, where the wing runs on: as many corners in
    every outline across."""
    bevelled = [m for m in work_out(shown_demo()).structure.members if m.solid.across]
    assert {m.role for m in bevelled} >= {"hip", "rafter"}
    for m in bevelled:
        assert {len(ring) for _, ring in m.solid.across} == {len(m.solid.outline)}, m.id
        assert moved(m).volume() == pytest.approx(m.solid.volume, rel=2e-3), m.id


@pytest.mark.parametrize("rise", [4.0, 6.0, 9.0, 12.0])
def test_jacks_and_hips_by_the_framing_square(rise: float) -> None:
    checked = work_out(hipped(rise))
    slope = rise / 12
    jacks = sorted(m.length for m in of(checked, "rafter", "/hip jack:W12.") if m.length > 300)
    steps = {
        round(b - a, 2) for a, b in zip(jacks, jacks[2:])
    }  # they come in pairs, left and right of the middle
    assert steps == {round(jack_difference(slope, SPACING), 2)}
    hip = of(checked, "hip")[0]
    run = 13 * FOOT + 12 * INCH  # half the span and the overhang: the hip's line from eave to apex
    assert hip.length == pytest.approx(hip_length(slope, run), rel=1e-4)
    assert "side cuts 45.0° and 45.0°" in hip.cuts[0], (
        "the tail meets two fascias at a square corner"
    )
    tilt = math.degrees(backing_angle(slope, slope))
    assert f"backed {tilt:.1f}° and {tilt:.1f}°" in hip.cuts
    assert hip.solid.across, "a backed hip is no prism"
    assert all("side cut 45.0°" in m.cuts[1] for m in of(checked, "rafter", "/hip jack:"))


def test_a_hip_between_two_pitches_lies_where_they_meet() -> None:
    checked = work_out(set_side(hipped(), "R1", "W12", rise=9.0))
    hip = of(checked, "hip", "W11+W12")[0]
    angle = abs(math.atan2(hip.end[1] - hip.start[1], hip.start[0] - hip.end[0]))
    assert angle == pytest.approx(irregular_hip_plan_angle(6 / 12, 9 / 12), abs=1e-4)
    words = next(c for c in hip.cuts if c.startswith("backed"))
    ours = sorted(float(x) for x in words.replace("backed ", "").replace("°", "").split(" and "))
    both = sorted(math.degrees(x) for x in (backing_angle(0.5, 0.75), backing_angle(0.75, 0.5)))
    assert ours == pytest.approx(both, abs=0.051)


def test_a_dropped_hip_has_its_edges_in_the_planes() -> None:
    backed, dropped = (work_out(hipped(rafters=Rafters(hips=h))) for h in ("backed", "dropped"))
    one, other = of(backed, "hip")[0], of(dropped, "hip")[0]
    breadth = other.solid.depth
    drop = breadth / 2 * (0.5 / math.sqrt(2))  # half the thickness times the hip's slope: 6 in 17
    assert one.start[2] - other.start[2] == pytest.approx(drop, abs=0.02)
    assert not [c for c in other.cuts if c.startswith("backed")]


def touching(pieces: list[Member], share: float = 0.01) -> int:
    """Hold pieces against one another as true bodies, by manifold3d: whatever two share is less
    than a hundredth of the smaller. Return how many pairs lie close."""
    made = [(m, moved(m)) for m in pieces]
    for m, shape in made:
        assert shape.volume() == pytest.approx(m.solid.volume, rel=2e-3), m.id
    boxes = [np.array(m.solid.bounds()) for m, _ in made]
    met = 0
    for i in range(len(made)):
        for k in range(i):
            if (boxes[i][0] < boxes[k][1]).all() and (boxes[k][0] < boxes[i][1]).all():
                shared = (made[i][1] ^ made[k][1]).volume()
                assert shared < share * min(made[i][1].volume(), made[k][1].volume()), (
                    made[i][0].id,
                    made[k][0].id,
                )
                met += 1
    return met


@pytest.mark.parametrize("hips", ["backed", "dropped"])
@pytest.mark.parametrize("joints", ["mitred", "butt", "one through"])
def test_pieces_of_a_hip_roof_touch_and_do_not_overlap(hips: str, joints: str) -> None:
    checked = work_out(hipped(rafters=Rafters(hips=hips, joints=joints)))
    pieces = [
        m for m in checked.structure.of(kinds.RAFTER, kinds.HIP, kinds.RIDGE) if m.length > 200
    ]
    assert touching(pieces) > 40, "jacks lie at their hips"


@pytest.mark.parametrize("joints", ["mitred", "butt", "one through"])
def test_four_hips_meet_in_a_point_as_asked(joints: str) -> None:
    square = [(0.0, 0.0), (7000.0, 0.0), (7000.0, 7000.0), (0.0, 7000.0)]
    checked = work_out(
        walled(square, sides=(), rafters=Rafters(joints=joints, sections=(("hips", "2x12"),)))
    )
    hips = sorted(of(checked, "hip"), key=lambda m: m.id)
    touching(hips)
    lengths = [round(m.length, 1) for m in hips]
    half = hips[0].solid.depth / 2 * math.hypot(1.0, hips[0].slope)
    gone = [round(max(lengths) - x, 1) for x in lengths]
    # In a point all reach the middle; where one runs through, the two across end at its faces, and
    # the fourth at theirs.
    expected = {
        "mitred": [0.0] * 4,
        "butt": [0.0] * 4,
        "one through": [0.0, *[pytest.approx(half, abs=0.5)] * 3],
    }[joints]
    assert sorted(gone) == expected


@pytest.mark.parametrize("cut", ["plumb", "square"])
@pytest.mark.parametrize("joints", ["mitred", "butt", "one through"])
@pytest.mark.parametrize(
    "ring",
    [
        [(0, 0), (9000, 0), (9000, 9000), (5000, 9000), (5000, 5000), (0, 5000)],
        [(0, 0), (9000, 0), (4500, 6000)],
    ],
)
def test_fascia_runs_along_every_eave_and_closes_at_the_corners(
    cut: str, joints: str, ring: list[tuple[float, float]]
) -> None:
    rule = Rafters(fascia="2x8", joints=joints)
    checked = work_out(walled(ring, overhang=400.0, eave_cut=cut, rafters=rule))
    boards = of(checked, "fascia")
    assert len(boards) == len(ring)
    faces = checked.structure.roofs[the("roof:R1")].roof.faces
    for m in boards:
        side = str(m.id).rsplit(":", 1)[1]
        face = next(
            f for f in faces if checked.structure.roofs[the("roof:R1")].edges[f.side].name == side
        )
        over = max(z - face.height((x, y)) for x, y, z in m.solid.points())
        assert over == pytest.approx(0.0, abs=0.1), "its upper edge lies in the roof"
    tails = [m for m in checked.structure.of(kinds.RAFTER) if m.length > 300]
    assert touching([*boards, *tails], 2e-3) > len(ring), (
        "the boards lie at the tails, and at one another"
    )
    if joints == "mitred" or len(ring) == 3 or cut == "square":
        assert all("mitred" in c for m in boards for c in m.cuts)
    around = sum(
        math.dist(a, b)
        for e in [checked.structure.roofs[the("roof:R1")].eaves]
        for a, b in zip(e, [*e[1:], e[0]])
    )
    assert sum(m.length for m in boards) == pytest.approx(around, rel=0.02)


@pytest.mark.parametrize("stagger", [False, True])
def test_ties_and_collars_lie_beside_the_rafters(stagger: bool) -> None:
    rule = Rafters(collar="each", ties="each", tie_up=300.0, stagger=stagger)
    checked = work_out(set_roof(house(), "R1", section="2x8", rafters=rule))
    ties, collars = of(checked, "tie"), of(checked, "collar tie")
    assert len(ties) == len(collars) > 10
    touching([*ties, *collars, *of(checked, "rafter"), *of(checked, "ridge")])
    plumb = 7.25 * INCH * math.hypot(1.0, 0.5)
    inside = (
        300.0 - checked.structure.roofs[the("roof:R1")].heel + plumb / 2
    ) / 0.5  # where the middle line is 300 mm up
    for m in ties:
        assert min(z for *_, z in m.solid.points()) == pytest.approx(
            8 * FOOT + 1.125 * INCH + 300.0, abs=60.0
        )
        assert m.length == pytest.approx(26 * FOOT - 2 * inside, abs=2.0)
    pairs = [
        (a, b)
        for a in of(checked, "rafter", "W11.")
        for b in of(checked, "rafter", "W13.")
        if a.id.piece == b.id.piece
    ]
    aside = {round(abs(a.end[0] - b.end[0]), 1) for a, b in pairs}
    assert aside == ({38.1} if stagger else {0.0})


def test_collar_ties_by_distance_stand_no_further_apart() -> None:
    rule = Rafters(collar="by distance", tie_gap=4 * FOOT)
    checked = work_out(set_roof(house(), "R1", spacing=16 * INCH, section="2x8", rafters=rule))
    at = sorted(m.start[0] for m in of(checked, "collar tie"))
    gaps = [b - a for a, b in pairwise(at)]
    assert max(gaps) <= 4 * FOOT + 0.1
    assert sorted(gaps)[len(gaps) // 2] == pytest.approx(4 * FOOT), "every third pair"


def test_each_kind_of_piece_is_cut_from_what_is_typed_for_it() -> None:
    typed = (("ridge", "2x12"), ("hips", "2-2x12"), ("jacks", "2x6"), ("fascia", "2x10"))
    checked = work_out(hipped(rafters=Rafters(sections=typed, fascia="2x6")))
    assert {m.section for m in of(checked, "ridge")} == {"2x12"}
    assert {m.section for m in of(checked, "hip")} == {"2-2x12"}
    assert {m.section for m in of(checked, "rafter", " jack:")} == {"2x6"}
    assert {m.section for m in of(checked, "rafter", "/rafter:")} == {"2x8"}
    assert {m.section for m in of(checked, "fascia")} == {"2x10"}
    bare = work_out(hipped(rafters=Rafters(left_out=("hips", "fascia"), fascia="2x6")))
    assert of(bare, "hip") == of(bare, "fascia") == []


@st.composite
def steps(draw: st.DrawFn) -> tuple[list[tuple[float, float]], frozenset[int]]:
    """A rectilinear outline with one to three steps in its north side, and some of its ends as
    gables."""
    widths = [draw(st.integers(4, 8)) * 1000.0 for _ in range(draw(st.integers(1, 3)))]
    depths = [draw(st.integers(4, 9)) * 1000.0 for _ in widths]
    ring = [(0.0, 0.0), (sum(widths), 0.0)]
    x = sum(widths)
    for wide, deep in zip(widths, depths):
        ring += [(x, deep), (x - wide, deep)]
        x -= wide
    distinct = [p for k, p in enumerate(ring) if k == 0 or p != ring[k - 1]]
    clean = [
        p
        for k, p in enumerate(distinct)
        if not (distinct[k - 1][1] == p[1] == distinct[(k + 1) % len(distinct)][1])
    ]
    return clean, draw(
        st.sampled_from(
            [
                frozenset(),
                frozenset({1}),
                frozenset({len(clean) - 1}),
                frozenset({1, len(clean) - 1}),
            ]
        )
    )


@settings(max_examples=25)
@given(steps(), st.sampled_from([4.0, 7.5, 12.0]), st.sampled_from([0.0, 450.0]))
def test_any_stepped_outline_is_roofed_and_carried_whole(
    shape: tuple[list[tuple[float, float]], frozenset[int]], rise: float, overhang: float
) -> None:
    """The planes cover the eaves once, every rafter stands on something, and the soil gets what was
    applied."""
    corners, gables = shape
    sides = tuple(RoofSide(f"W{i}", "gable") for i in sorted(gables))
    checked = work_out(walled(corners, rise=rise, overhang=overhang, rake=overhang, sides=sides))
    assert checked.structure.unframed == ()
    found = checked.structure.roofs[the("roof:R1")]
    from shapely import Polygon

    assert measures(found.roof).plan == pytest.approx(Polygon(found.eaves).area, rel=1e-6)
    mine = [m for m in checked.structure.members if m.host == the("roof:R1")]
    assert [m.id for m in mine if m.carrier.supports and not m.carrier.supports[0].on] == []
    assert sum(m.carrier.area for m in mine) == pytest.approx(Polygon(found.eaves).area, rel=1e-6)
    assert checked.path.soil_total.snow == pytest.approx(checked.path.applied.snow, rel=1e-6), (
        "what lies on the roof"
    )
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-3)
    names = [m.id for m in mine]
    assert len(set(names)) == len(names)


def test_valley_jacks_stand_in_the_valley_of_an_l() -> None:
    checked = work_out(
        walled([(0, 0), (9000, 0), (9000, 9000), (5000, 9000), (5000, 5000), (0, 5000)], rise=6.0)
    )
    (valley,) = of(checked, "valley")
    jacks = of(checked, "rafter", "/valley jack:")
    assert jacks
    assert all(m.carrier.supports[0].on == valley.id for m in jacks)
    assert str(valley.carrier.supports[0].on).startswith("wall:")
    assert checked.carrying[valley.id].worst[0] <= 1.0, "in as many plies as it takes"


def test_a_shed_stands_on_its_high_wall_which_rises_to_it() -> None:
    low = set_roof(
        house(20 * FOOT, 12 * FOOT),
        "R1",
        rise=3.0,
        rake=0.0,
        overhang=0.0,
        sides=tuple(RoofSide(f"W1{i}", "gable") for i in (2, 3, 4)),
    )
    checked = work_out(low)
    rafters = of(checked, "rafter", ".0")
    assert {s.on for m in rafters for s in m.carrier.supports} == {the("wall:W11"), the("wall:W13")}
    high = {g.wall: g for g in checked.structure.gables}
    # The underside climbs 3 in 12 from the inner end of the seat to the outer face of the high
    # wall.
    top = max(z for _, z in high["W13"].ring) - min(z for _, z in high["W13"].ring)
    assert top == pytest.approx((12 * FOOT - 3.5 * INCH) * 0.25, rel=0.01)
    assert set(high) == {"W12", "W13", "W14"}


def test_gable_walls_are_triangles_up_to_the_rafters() -> None:
    """Half the width less the seat, times the rise: the underside leaves the plate at the end of
    the seat."""
    checked = work_out(set_roof(house(), "R1", section="2x8"))
    half = 13 * FOOT - 3.5 * INCH
    assert [g.wall for g in checked.structure.gables] == ["W12", "W14"]
    for g in checked.structure.gables:
        assert g.area == pytest.approx(half * half * 0.5, rel=1e-4)
        assert g.solid.volume == pytest.approx(g.area * 6.5 * INCH, rel=1e-9)


def test_hip_to_gable_and_back_is_the_same_roof() -> None:
    first = hipped()
    there = hip_or_gable(first, "R1", "W12")
    assert len(of(work_out(there), "hip")) == 2
    assert hip_or_gable(there, "R1", "W12") == first


def test_a_held_ridge_keeps_its_height_while_the_pitch_follows() -> None:
    for overhang in (0.0, 300.0, 900.0):
        made = work_out(set_roof(house(), "R1", ridge=2500.0, overhang=overhang))
        plate = next(x.elevation for x in made.project.levels if x.id == "P1")
        assert made.structure.roofs[the("roof:R1")].roof.top - plate == pytest.approx(
            2500.0, abs=0.05
        )
    wide = work_out(set_roof(house(36 * FOOT, 30 * FOOT), "R1", ridge=2500.0)).structure.roofs[
        the("roof:R1")
    ]
    assert wide.edges[0].slope is not None
    assert wide.edges[0].slope < made.structure.roofs[the("roof:R1")].edges[0].slope  # type: ignore[operator]


def test_a_ridge_beam_takes_half_of_the_roof_to_the_gable_walls() -> None:
    """Statics: rafters from plate to ridge give each end half, but for the overhang, which turns
    about the plate."""
    beam = work_out(set_roof(house(), "R1", overhang=0.0, rafters=Rafters(ridge="beam")))
    (ridge,) = beam.structure.of(kinds.RIDGE_BEAM)
    assert {s.on for s in ridge.carrier.supports} == {the("wall:W12"), the("wall:W14")}
    taken = sum(r.snow for r in beam.path.reactions[ridge.id])
    spanning = [m for m in of(beam, "rafter") if m.carrier.supports[-1].on == ridge.id]
    on_gables = [m for m in of(beam, "rafter") if m not in spanning]
    assert {s.on for m in on_gables for s in m.carrier.supports} == {
        the("wall:W12"),
        the("wall:W14"),
    }, "they stand on the wall all along"
    assert len(on_gables) == 4
    snow = sum(m.carrier.area for m in spanning) * beam.project.roofs[0].snow
    assert taken == pytest.approx(snow / 2, rel=0.02)
    assert beam.carrying[ridge.id].worst[0] <= 1.0
    board = work_out(set_roof(house(), "R1", overhang=0.0))
    leaning = [m for m in of(board, "rafter") if family_of(m.carrier.supports[-1].on) == "ridge"]
    assert leaning
    assert sum(sum(r) for m in leaning for r in board.path.reactions[m.id][1:]) == 0.0


def test_collar_ties_join_pairs_in_the_upper_third() -> None:
    each = work_out(set_roof(house(), "R1", rafters=Rafters(collar="each")))
    second = work_out(set_roof(house(), "R1", rafters=Rafters(collar="every second")))
    pairs = (
        len([m for m in of(each, "rafter") if family_of(m.carrier.supports[-1].on) == "ridge"]) // 2
    )  # those on the gable walls need none
    assert len(of(each, "collar tie")) == pairs
    assert len(of(second, "collar tie")) == (pairs + 1) // 2
    plate = next(x.elevation for x in each.project.levels if x.id == "P1")
    top = each.structure.roofs[the("roof:R1")].roof.top
    for m in of(each, "collar tie"):
        assert m.start[2] > plate + (top - plate) * 0.6


def test_a_skylight_is_trimmed_and_nothing_is_lost() -> None:
    plain = set_roof(house(), "R1", section="2x8", spacing=16 * INCH)
    made, key = add_roof_opening(plain, "R1", (15 * FOOT, 6 * FOOT), (48 * INCH, 36 * INCH))
    before, after = work_out(plain), work_out(made)
    trimmers, headers = of(after, "trimmer"), of(after, "header")
    assert [str(m.id).rsplit(".", 1)[1] for m in trimmers] == [f"T{key}a", f"T{key}b"]
    assert all(m.section == "2-2x8" or after.sizes[the("roof:R1")].size.plies for m in trimmers)
    assert {s.on for h in headers for s in h.carrier.supports} == {m.id for m in trimmers}
    cut = [
        m
        for m in of(after, "rafter")
        if any(family_of(s.on) == "header" for s in m.carrier.supports)
    ]
    assert len(cut) == 2 * 3, (
        "three rafters meet the opening; of each a piece below and a piece above is left"
    )
    assert sum(
        m.carrier.area for m in after.structure.members if m.host == the("roof:R1")
    ) == pytest.approx(
        sum(m.carrier.area for m in before.structure.members if m.host == the("roof:R1")), rel=1e-9
    )
    assert after.path.soil_total.snow == pytest.approx(before.path.soil_total.snow, rel=1e-9)
    low = max(
        m.carrier.supports[1].point[1]
        for m in cut
        if family_of(m.carrier.supports[1].on) == "header"
    )
    high = min(
        m.carrier.supports[0].point[1]
        for m in cut
        if family_of(m.carrier.supports[0].on) == "header"
    )
    clear = (high - low) * math.hypot(1.0, 0.5) - 2 * 1.5 * INCH * math.hypot(1.0, 0.5)
    assert clear == pytest.approx(36 * INCH, abs=1.0), "between the headers, along the slope"


def test_changes_by_hand_survive_and_are_told_when_their_rafter_is_gone() -> None:
    from balken.model.edits import change_member

    name = the("roof:R1/hip jack:W12.03")
    held = change_member(hipped(), name, section="2x10")
    made = work_out(held)
    assert next(m for m in made.structure.members if m.id == name).section == "2x10"
    gone = work_out(hip_or_gable(held, "R1", "W12"))
    assert gone.structure.gone == (name,)
    away = change_member(hipped(), name, removed=True)
    assert name not in {m.id for m in work_out(away).structure.members}
    assert sum(m.carrier.area for m in work_out(away).structure.of(kinds.RAFTER)) == pytest.approx(
        sum(m.carrier.area for m in made.structure.of(kinds.RAFTER)), rel=1e-9
    ), "its neighbours carry its share"


def test_a_roof_that_runs_into_another_covers_the_plan_once() -> None:
    checked = work_out(shown_demo())
    from shapely import Polygon, union_all

    faces = [f for seen in checked.structure.seen.values() for f in seen]
    shapes = [Polygon(f.outline, f.holes) for f in faces]
    together = union_all(shapes)
    assert sum(s.area for s in shapes) == pytest.approx(together.area, rel=1e-6)
    eaves = union_all([Polygon(s.eaves) for s in checked.structure.roofs.values()])
    assert together.area == pytest.approx(eaves.area, rel=1e-3)
    kinds = [x for x in roof_lines(Roof(tuple(faces), 0.0)) if x.kind == "valley"]
    # One valley comes from the inside corner of the walls; the other side of the wing is in line
    # with the hip's eave.
    longest = max(kinds, key=lambda x: x.length)
    assert longest.length > 8 * FOOT * math.hypot(math.sqrt(2), 0.5)
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-6)


def test_a_lower_roof_ends_against_a_wall_without_an_overhang_there() -> None:
    lean = set_roof(
        house(),
        "R1",
        rise=3.0,
        sides=(RoofSide("W12", "gable"), RoofSide("W13", "wall"), RoofSide("W14", "gable")),
    )
    shape = work_out(lean).structure.roofs[the("roof:R1")]
    edge = next(e for e in shape.edges if e.name == "W13")
    assert edge.out == 0.0
    assert [g.wall for g in work_out(lean).structure.gables] == ["W12", "W14"]


def test_a_roof_by_corners_bears_on_the_walls_under_it() -> None:
    walls = tuple(f"W1{i}" for i in range(1, 5))
    bare = set_roof(house(), "R1")
    corners = tuple((x * FOOT, y * FOOT) for x, y in ((0, 0), (36, 0), (36, 26), (0, 26)))
    from balken.model.edits.hosts import remove_host

    made, key = add_roof(remove_host(bare, the("roof:R1")), "P1", walls, corners=corners)
    checked = work_out(made)
    assert [e.name for e in checked.structure.roofs[the(f"roof:{key}")].edges] == list(walls)
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-9)


@pytest.mark.forgetful
def test_same_roof_whatever_the_turn_of_the_building() -> None:
    chance = random.Random(6)
    ring = [
        (0.0, 0.0),
        (9000.0, 0.0),
        (9000.0, 9000.0),
        (5000.0, 9000.0),
        (5000.0, 5000.0),
        (0.0, 5000.0),
    ]
    plain = work_out(walled(ring, section="2x8", spacing=600.0))
    from balken.geometry.plane import rotate

    for turn in (chance.uniform(0, 6), math.pi / 2):
        turned = work_out(walled([rotate(p, turn) for p in ring], section="2x8", spacing=600.0))
        ours = sorted(
            round(m.length)
            for m in plain.structure.of(kinds.RAFTER, kinds.HIP, kinds.VALLEY, kinds.RIDGE)
        )
        other = sorted(
            round(m.length)
            for m in turned.structure.of(kinds.RAFTER, kinds.HIP, kinds.VALLEY, kinds.RIDGE)
        )
        assert len(ours) == len(other)
        assert ours == pytest.approx(other, abs=2)


GAMBREL = (
    RoofSide("W12", "gable"),
    RoofSide("W14", "gable"),
    RoofSide("W11", rise=18.0, breaks=(RoofBreak(1500.0, 5.0),)),
    RoofSide("W13", rise=18.0, breaks=(RoofBreak(1500.0, 5.0),)),
)


def test_a_gambrel_breaks_over_purlins_that_bear_on_its_gables() -> None:
    checked = work_out(set_roof(house(), "R1", sides=GAMBREL))
    purlins = of(checked, "purlin")
    assert len(purlins) == 2
    assert {s.on for m in purlins for s in m.carrier.supports} == {the("wall:W12"), the("wall:W14")}
    spanning = [m for m in of(checked, "rafter") if ".E" not in str(m.id)]
    lower = [m for m in spanning if m.slope > 1.0]
    upper = [m for m in spanning if m.slope < 1.0]
    assert (
        {m.carrier.supports[1].on for m in lower}
        == {m.carrier.supports[0].on for m in upper}
        == {m.id for m in purlins}
    )
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-7)
    shape = checked.structure.roofs[the("roof:R1")]
    plate = next(x.elevation for x in checked.project.levels if x.id == "P1")
    # From a foot outside of the walls 18 in 12 up to 1.5 m over the heel, then 5 in 12 to the
    # middle.
    run = 13 * FOOT - 1500.0 / 1.5
    assert shape.roof.top - plate - shape.heel == pytest.approx(1500.0 + run * 5 / 12, abs=0.5)


def test_a_roof_cut_off_flat_has_a_deck_between_purlins_on_its_hips() -> None:
    checked = work_out(set_roof(house(), "R1", rise=12.0, top=1500.0, sides=()))
    deck = [m for m in of(checked, "joist") if m.host == the("roof:R1")]
    assert deck
    assert {s.on for m in deck for s in m.carrier.supports} <= {m.id for m in of(checked, "purlin")}
    flat = next(f for f in checked.structure.roofs[the("roof:R1")].roof.faces if f.side < 0)
    from shapely import Polygon

    assert sum(m.carrier.area for m in deck) == pytest.approx(Polygon(flat.outline).area, rel=1e-6)
    assert len(of(checked, "hip")) == 4
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-7)


def test_rafters_set_out_from_the_middle_and_parts_left_out() -> None:
    middle = work_out(
        set_roof(house(), "R1", spacing=SPACING, section="2x8", rafters=Rafters(layout="middle"))
    )
    xs = sorted({round(m.start[0], 1) for m in of(middle, "rafter", "W11.")})
    assert any(abs(x - 18 * FOOT) < 1.0 for x in xs), "one stands in the middle of 36 ft"
    bare = work_out(hipped(rafters=Rafters(left_out=("jacks", "hips", "ridge", "barge rafters"))))
    assert {m.role for m in bare.structure.members if m.host == the("roof:R1")} == {"rafter"}
    assert not [m for m in of(bare, "rafter") if "jack" in str(m.id)]


def test_soffits_are_the_plan_of_the_overhangs_or_follow_the_slope() -> None:
    shape = work_out(hipped(overhang=300.0)).structure.roofs[the("roof:R1")]
    level = (36 * FOOT + 600.0) * (26 * FOOT + 600.0) - 36 * FOOT * 26 * FOOT
    assert soffit_area(shape, sloped=False) == pytest.approx(level, rel=1e-6)
    assert soffit_area(shape, sloped=True) == pytest.approx(level * math.hypot(1, 0.5), rel=1e-6)


def test_a_courtyard_is_left_open_and_its_walls_carry_the_roof() -> None:
    """A square ring of walls round a court: the planes cover what lies between both eaves, and
    drain to both."""
    outer = [(0.0, 0.0), (14000.0, 0.0), (14000.0, 12000.0), (0.0, 12000.0)]
    court = [(4500.0, 4500.0), (9500.0, 4500.0), (9500.0, 7500.0), (4500.0, 7500.0)]
    plain = walled(outer, overhang=300.0, sides=(), section="2x8")
    ends = list(zip(court, [*court[1:], court[0]]))
    inner = tuple(
        Wall(f"C{i}", f"C{i}", a, b, 165.1, "right", "L1", "P1") for i, (a, b) in enumerate(ends)
    )
    from msgspec.structs import replace

    made = add_court(replace(plain, walls=(*plain.walls, *inner)), "R1", court)
    checked = work_out(made)
    assert checked.structure.unframed == ()
    shape = checked.structure.roofs[the("roof:R1")]
    assert [e.name for e in shape.edges[4:]] == ["c1.1", "c1.2", "c1.3", "c1.4"]
    plan = 14600.0 * 12600.0 - (5000.0 - 600.0) * (3000.0 - 600.0)
    assert measures(shape.roof).plan == pytest.approx(plan, rel=1e-6)
    mine = [m for m in checked.structure.members if m.host == the("roof:R1")]
    assert sum(m.carrier.area for m in mine) == pytest.approx(plan, rel=1e-6)
    assert len(of(checked, "hip")) == len(of(checked, "valley")) == 4
    carried = {s.on for m in of(checked, "rafter") for s in m.carrier.supports}
    assert {
        the("wall:C0"),
        the("wall:C1"),
        the("wall:C2"),
        the("wall:C3"),
        the("wall:W0"),
        the("wall:W1"),
        the("wall:W2"),
        the("wall:W3"),
    } <= carried
    assert [m.id for m in mine if m.carrier.supports and not m.carrier.supports[0].on] == []


def test_each_part_of_a_broken_plane_has_its_own_barge_rafter() -> None:
    """A gambrel: two slopes on each side, four barge rafters over each gable, no two of one
    name."""
    steep = {"rise": 20.0, "breaks": (RoofBreak(1500.0, 4.0),)}
    sides = (
        RoofSide("W0", **steep),
        RoofSide("W2", **steep),
        RoofSide("W1", "gable"),
        RoofSide("W3", "gable"),
    )
    checked = work_out(
        walled([(0, 0), (9000, 0), (9000, 6000), (0, 6000)], sides=sides, rake=400.0)
    )
    names = [m.id for m in of(checked, "barge rafter")]
    assert len(names) == len(set(names)) == 8
    every = [m.id for m in checked.structure.members]
    assert len(every) == len(set(every))


def propped(**rule: object) -> Project:
    """A square building with a wall in its middle that purlins can be propped on."""
    project = walled([(0, 0), (9000, 0), (9000, 9000), (0, 9000)])
    inner = Wall("I1", "inner", (165.1, 4417.5), (8834.9, 4417.5), 165.1, "left", "L1", "P1")
    return set_roof(replace(project, walls=(*project.walls, inner)), "R1", rafters=Rafters(**rule))


def test_purlins_carry_rafters_between_and_stand_on_struts() -> None:
    """IRC 2021 R802.4.5: the span counts to the purlin; struts at 4 ft at most, no flatter than
    45°."""
    plain, held = work_out(propped()), work_out(propped(purlin_up=1550.0))
    assert held.sizes[the("roof:R1")].span < 0.75 * plain.sizes[the("roof:R1")].span
    purlins, struts = of(held, "purlin"), of(held, "strut")
    assert [str(m.id).rsplit(":", 1)[1] for m in purlins] == ["under W0", "under W2"]
    for m in purlins:
        at = [s.at for s in m.carrier.supports]
        assert max(b - a for a, b in pairwise(at)) <= 1219.2 + 0.1
        assert max(z for *_, z in m.solid.points()) == pytest.approx(2500.0 + 1550.0)
    for m in struts:
        assert math.dist(m.start[:2], m.end[:2]) <= m.end[2] - m.start[2]
        assert m.carrier.supports[0].on == the("wall:I1")
    touching(
        [
            m
            for m in held.structure.of(kinds.RAFTER, kinds.PURLIN, kinds.STRUT, kinds.RIDGE)
            if m.length > 300
        ],
        1e-3,
    )
    given = sum(
        sum(held.path.reactions[m.id][1]) for m in of(held, "rafter") if len(m.carrier.supports) > 2
    )
    assert sum(sum(held.path.onto[m.id]) for m in struts) == pytest.approx(given, rel=1e-6)
    assert {e.source for e in held.path.open_ends} == {the("wall:I1")}, (
        "made for this test without a footing"
    )
    assert all(held.used[m.id][0] <= 1.0 for m in (*purlins, *struts))


def test_a_rafter_over_a_purlin_in_its_middle_pushes_less() -> None:
    """Two equal spans under an even load: the end takes 3/8 of a span's, against 1/2 of both (beam
    tables): 3/8 of the push."""
    checked = work_out(propped(purlin_up=1550.0))
    m = next(m for m in of(checked, "rafter") if len(m.carrier.supports) > 2)
    first, last = m.carrier.supports[0], m.carrier.supports[-1]
    middle = replace(m.carrier.supports[1], at=(first.at + last.at) / 2)
    even = on_supports(m, (first, middle, last))
    alone = on_supports(m, (first, last))
    assert push_of(terms_of(checked.built), checked.built.roofs[0], even)[0] == pytest.approx(
        push_of(terms_of(checked.built), checked.built.roofs[0], alone)[0] * 3 / 8, rel=1e-9
    )


def test_rafters_stand_over_the_joists_they_are_lined_up_with() -> None:
    plain = set_roof(house(), "R1", section="2x8", spacing=24 * INCH, rafters=Rafters(begin=100.0))
    key = next(f.id for f in plain.floors if f.bears_on == "P1" or f.level == "P1")
    lined = set_roof(plain, "R1", rafters=Rafters(begin=100.0, line_up=the(f"floor:{key}")))
    joists = {
        round(m.start[0], 1)
        for m in work_out(lined).structure.members
        if m.host == the(f"floor:{key}") and m.carrier.supports
    }

    def beside(project: Project) -> int:
        return sum(
            round(m.start[0], 1) not in joists for m in of(work_out(project), "rafter", "W11.")
        )

    spacing = work_out(lined).sizes[the(f"floor:{key}")].size.spacing
    assert spacing == pytest.approx(24 * INCH)
    assert beside(lined) < beside(plain) / 3
    lost = set_roof(plain, "R1", rafters=Rafters(line_up=the("floor:F99")))
    assert any("no longer there" in f.text for f in findings(work_out(lost)))


def test_a_ridge_beam_of_a_hip_roof_stands_on_props_or_posts() -> None:
    """Over a wall inside on upright props to its plate, else on posts that reach the plate level
    and go on up to it."""
    inner = work_out(set_roof(propped(ridge="beam"), "R1", sides=(), corners=()))
    assert inner.structure.of(kinds.RIDGE_BEAM) == [], "four hips meet in a point"
    wide = walled(
        [(0, 0), (12000, 0), (12000, 9000), (0, 9000)], sides=(), rafters=Rafters(ridge="beam")
    )
    wall = Wall("I1", "inner", (165.1, 4417.5), (11834.9, 4417.5), 165.1, "left", "L1", "P1")
    on_wall = work_out(replace(wide, walls=(*wide.walls, wall)))
    (ridge,) = of(on_wall, "ridge beam")
    props = of(on_wall, "strut")
    assert {s.on for s in ridge.carrier.supports} == {m.id for m in props}
    assert all(m.carrier.supports[0].on == the("wall:I1") for m in props)
    under = min(z for *_, z in ridge.solid.points())
    assert all(m.end[2] == pytest.approx(under) and m.start[2] == 2500.0 for m in props)
    assert {e.source for e in on_wall.path.open_ends} == {the("wall:I1")}

    ends = [s.point for s in of(work_out(wide), "ridge beam")[0].carrier.supports]
    assert of(work_out(wide), "strut") == []
    posts = tuple(
        PointSupport(f"P{n}", "post", (140.0, 140.0), "L1", "P1", at=(round(x, 3), round(y, 3)))
        for n, (x, y) in enumerate(ends, 1)
    )
    stood = work_out(replace(wide, point_supports=(*wide.point_supports, *posts)))
    (ridge,) = of(stood, "ridge beam")
    assert {s.on for s in ridge.carrier.supports} == {
        the("support:P1/post:1"),
        the("support:P2/post:1"),
    }
    for m in stood.structure.of(kinds.POST):
        assert m.end[2] == pytest.approx(min(z for *_, z in ridge.solid.points()))
        assert sum(stood.path.onto[m.id]) > 10_000.0


def test_a_wing_of_rafters_is_framed_over_the_roof_it_runs_on_to() -> None:
    """Plates on the boards of the roof below, the ridge carried on, jacks bevelled to the plates;
    nothing shares room."""
    checked = work_out(set_roof(shown_demo(), "R2", framing="rafters"))
    mine = [
        m
        for m in checked.structure.members
        if m.host == the("roof:R2") and ("over " in str(m.id) or m.kind is kinds.VALLEY_PLATE)
    ]
    plates, jacks = (
        [m for m in mine if m.kind is kinds.VALLEY_PLATE],
        [m for m in mine if m.kind is kinds.RAFTER],
    )
    (ridge,) = (m for m in mine if m.kind is kinds.RIDGE)
    assert len(plates) == 2
    assert len(jacks) >= 6
    below = [m for m in checked.structure.of(kinds.RAFTER, kinds.RIDGE) if m.host == the("roof:R1")]
    beside = [
        m
        for m in checked.structure.of(kinds.RAFTER, kinds.RIDGE)
        if m.host == the("roof:R2") and m not in mine
    ]
    assert touching([*mine, *below, *beside]) > 20

    # Both roofs rise 6 in 12 and cross square: the valleys run at 45 degrees in plan, and jacks
    # differ as the square says.
    for m in plates:
        way = (m.end[0] - m.start[0], m.end[1] - m.start[1])
        assert abs(way[0]) == pytest.approx(abs(way[1]), rel=1e-6)
    gap = checked.sizes[the("roof:R2")].size.spacing
    lengths = sorted({round(m.length, 1) for m in jacks})
    for shorter, longer in pairwise(lengths):
        assert longer - shorter == pytest.approx(jack_difference(0.5, gap), abs=0.5)
    assert all("bevelled 26.6°" in m.cuts[0] for m in jacks)
    # The plates lie on the boards of the roof below: from its rafters' top edges half an inch
    # square to the slope.
    (north,) = (
        f
        for f in checked.structure.roofs[the("roof:R1")].roof.faces
        if f.height((8500.0, 7000.0)) > 5000 and f.plane[1] < 0
    )
    for m in plates:
        lowest = min(
            (z - north.height((x, y))) / math.hypot(1.0, north.pitch)
            for x, y, z in m.solid.points()
        )
        assert lowest == pytest.approx(12.0, abs=0.1)
    # The ridge goes on at the height of the wing's own.
    own = next(m for m in beside if m.kind is kinds.RIDGE)
    assert max(z for *_, z in ridge.solid.points()) == pytest.approx(
        max(z for *_, z in own.solid.points()), abs=0.5
    )
    without = work_out(remove_member(checked.project, jacks[0].id))
    assert jacks[0].id not in {m.id for m in without.structure.members}
    assert without.structure.gone == checked.structure.gone
    assert not of(
        work_out(
            set_roof(shown_demo(), "R2", framing="rafters", rafters=Rafters(left_out=("valleys",)))
        ),
        "valley plate",
    )
