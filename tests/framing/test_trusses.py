"""Trusses under the planes of a roof: where they stand, what they are cut to, what they carry."""

import math
from itertools import pairwise

import msgspec
import pytest
from shapely import Polygon, union_all

from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.trusses.lines import Asked, Cut, Profile, axes_of, shaped, truss_under
from balken.framing.trusses.placing import PlacedTruss
from balken.framing.trusses.shapes import KINDS
from balken.model.edits.roofs import hip_or_gable, set_roof
from balken.model.project import Project
from balken.model.roofs import RoofSide, Trusses
from balken.session.ferry_hall import ferry_hall
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from buildings import house, misfits, walled
from named import the

CUT = Cut(88.9, 88.9, 88.9)


def profile(
    span: float = 7200.0, slope: float = 0.5, heel: float = 106.0, out: float = 600.0
) -> Profile:
    return Profile(
        (
            (-out, heel - out * slope),
            (span / 2, heel + span / 2 * slope),
            (span + out, heel - out * slope),
        ),
        span,
    )


def trussed(**fields: object) -> Project:
    return set_roof(house(44 * FOOT, 26 * FOOT), "R1", framing="trusses", **fields)


def placed(checked: Checked) -> tuple[PlacedTruss, ...]:
    return checked.trusses[the("roof:R1")].placed


@pytest.mark.parametrize("kind", [k for k in KINDS if k != "mono"])
@pytest.mark.parametrize(
    ("span", "slope"),
    [(24 * FOOT, 4 / 12), (3600.0, math.tan(math.radians(30))), (40 * FOOT, 4 / 12)],
)
def test_pieces_are_cut_to_one_another(kind: str, span: float, slope: float) -> None:
    """The typical spans: no two pieces share wood, all hang together, and none sticks out of the
    roof or the ceiling."""
    heel = 88.9 * math.hypot(1, slope) + 6
    line = profile(span, slope, heel, 24 * INCH)
    truss = truss_under(line, kind, CUT)
    assert truss.kind == kind
    pieces = shaped(truss, line, CUT)
    shapes = [Polygon(p.outline) for p in pieces]
    assert all(s.is_valid for s in shapes)
    whole = union_all(shapes)
    assert whole.area == pytest.approx(sum(s.area for s in shapes), rel=2e-3)
    assert union_all([s.buffer(2.0) for s in shapes]).geom_type == "Polygon", "they touch"
    assert whole.bounds[1] >= min(0.0, line.points[0][1] - 88.9 * math.hypot(1, slope)) - 1e-6
    under = Polygon([*line.points, (line.points[-1][0], -2e3), (line.points[0][0], -2e3)])
    assert whole.difference(under.buffer(0.1)).area < 1.0
    assert sum(p.kind is kinds.BOTTOM_CHORD for p in pieces) == 1


def test_axes_lie_half_a_chord_under_the_roof() -> None:
    line = profile()
    (x0, z0), (x1, z1), _ = axes_of(line, 88.9)
    lowered = 88.9 / 2 * math.hypot(1, 0.5)
    assert line.height(x0) - z0 == pytest.approx(lowered)
    assert line.height(x1) - z1 == pytest.approx(lowered)


def test_a_raised_heel_stands_on_a_post() -> None:
    line = profile(heel=500.0)
    truss = truss_under(line, "Fink", CUT)
    assert truss.kind == "panels"
    left = truss.bearings[0]
    assert any(p.kind is kinds.WEB and left in (p.start, p.end) for p in truss.pieces)
    assert len(truss.pieces) - 2 == 2 * (len(truss.joints) - 2) - 3, (
        "just stiff, but for the two tails"
    )


def test_scissors_have_a_bottom_chord_in_two_that_rises() -> None:
    line = profile()
    truss = truss_under(line, "king post", CUT, 700.0)
    lows = [p for p in shaped(truss, line, CUT) if p.kind is kinds.BOTTOM_CHORD]
    assert len(lows) == 2
    assert max(z for p in lows for _, z in (p.start, p.end)) == pytest.approx(
        700 + 88.9 / 2, abs=1.0
    )


@pytest.mark.parametrize(
    ("points", "words"),
    [
        (((0.0, 100.0), (7200.0, 100.0)), "level"),
        (((-1.0, 105.0), (3600.0, 300.0), (7201.0, 105.0)), "no depth"),
    ],
)
def test_what_leaves_no_room_for_a_truss_is_refused(
    points: tuple[tuple[float, float], ...], words: str
) -> None:
    with pytest.raises(BalkenError, match=words):
        truss_under(Profile(points, 7200.0), "Fink", CUT, 5000.0)


def test_trusses_stand_from_gable_to_gable_at_the_spacing() -> None:
    found = placed(work_out(trussed(spacing=24 * INCH)))
    assert [t.row for t in found[:3]] == ["E1", "01", "02"]
    xs = [t.start[0] for t in found]
    assert xs[0] == pytest.approx(0.75 * INCH, abs=0.01)
    assert xs[-1] == pytest.approx(44 * FOOT - 0.75 * INCH, abs=0.01)
    assert [b - a for a, b in pairwise(xs[1:-1])] == pytest.approx([24 * INCH] * (len(xs) - 3))
    assert {t.use for t in found} == {"gable", "common"}


def test_a_hip_end_has_step_downs_a_girder_and_jacks_that_hang_on_it() -> None:
    checked = work_out(hip_or_gable(trussed(rake=0.0), "R1", "W12"))
    found = placed(checked)
    girder = next(t for t in found if t.use == "girder")
    steps = [t for t in found if t.use == "step"]
    assert girder.plies == 2
    assert steps
    assert all(t.start[0] < girder.start[0] for t in found if t is not girder)
    heights = [max(z for _, z in t.profile.points) for t in sorted(steps, key=lambda t: t.start[0])]
    assert heights == sorted(heights, reverse=True), "they step down towards the end"
    back = 44 * FOOT - girder.start[0]
    assert max(z for _, z in girder.profile.points) - girder.profile.height(0.0) == pytest.approx(
        back * 0.5, abs=0.5
    )
    name = the(f"roof:R1/bottom chord:{girder.row}")
    hanging = [
        m
        for m in checked.structure.members
        if m.carrier.supports and m.carrier.supports[-1].on == name
    ]
    assert {m.role for m in hanging} == {"rafter", "hip"}
    on_girder = checked.path.onto[name]
    assert on_girder.snow > 0
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-7)


def test_trusses_carry_the_roof_and_the_ceiling_to_the_walls() -> None:
    checked = work_out(trussed(rake=0.0, trusses=Trusses(bottom_dead=0.0005, bottom_live=0.0005)))
    roof = checked.project.roofs[0]
    plan = 44 * FOOT * 28 * FOOT
    found = sum(
        r.snow
        for m in checked.structure.of(kinds.BOTTOM_CHORD)
        for r in checked.path.reactions.get(m.id, ())
    )
    assert found == pytest.approx(plan * roof.snow, rel=1e-7)
    dead = sum(
        r.dead
        for m in checked.structure.of(kinds.BOTTOM_CHORD)
        for r in checked.path.reactions.get(m.id, ())
    )
    below = 44 * FOOT * 26 * FOOT * 0.0005
    assert dead == pytest.approx(plan * math.hypot(1, 0.5) * roof.dead + below, rel=1e-6)
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-7)


def test_trusses_of_other_outlines_are_refused_with_what_to_do() -> None:
    ell = walled(
        [(0, 0), (9000, 0), (9000, 9000), (5000, 9000), (5000, 5000), (0, 5000)], framing="trusses"
    )
    ((_, why),) = work_out(ell).structure.unframed
    assert "6 sides" in why
    assert "rectangles" in why


def test_a_shed_of_monos_stands_upright_at_its_high_wall() -> None:
    high = tuple(RoofSide(f"W1{i}", "gable") for i in (2, 3, 4))
    checked = work_out(trussed(rise=3.0, rake=0.0, sides=high, trusses=Trusses(kind="mono")))
    found = placed(checked)
    assert {t.truss.kind for t in found} == {"mono"}
    assert all(t.profile.upright == (False, True) for t in found)


def test_a_truss_taken_away_leaves_its_share_to_its_neighbours() -> None:
    from balken.model.edits import change_member

    whole, name = work_out(trussed()), the("roof:R1/bottom chord:05")
    less = work_out(change_member(trussed(), name, removed=True))
    assert not [
        m for m in less.structure.members if ":05" in str(m.id) and m.host == the("roof:R1")
    ]
    assert less.structure.gone == ()
    assert sum(t.area for t in placed(less)) == pytest.approx(
        sum(t.area for t in placed(whole)), rel=1e-9
    )
    beside = next(t for t in placed(less) if t.row == "04")
    assert beside.wide == pytest.approx(
        1.5 * next(t for t in placed(whole) if t.row == "04").wide, rel=0.01
    )


def test_the_ferry_hall_has_hip_sets_at_both_ends_and_stands() -> None:
    from balken.fit.findings import findings

    checked = work_out(ferry_hall())
    found = placed(checked)
    assert [t.use for t in found].count("girder") == 2
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-6)
    found_wrong = misfits(findings(checked))
    # The office stands on the hall's ground, which is nobody's floor here: told, and left open.
    assert [f.kind for f in found_wrong] == ["open"]
    assert "have no floor" in found_wrong[0].text
    assert max(c.worst[0] for c in checked.trusses[the("roof:R1")].checks) <= 1.0


def test_gable_trusses_have_studs_between_their_pieces() -> None:
    checked = work_out(trussed(rake=0.0))
    found = checked.structure.of(kinds.STUD)
    assert {str(m.id).split(":")[-1].split(".")[0] for m in found} == {"E1", "E2"}
    xs = sorted({round(m.start[1], 1) for m in found if ":E1." in str(m.id)})
    assert xs[len(xs) // 2] == pytest.approx(13 * FOOT, abs=20.0), "from the middle"
    first = next(t for t in placed(checked) if t.row == "E1")
    wood = [Polygon(p.outline) for p in shaped(first.truss, first.profile, first.cut)]
    for m in found:
        if ":E1." in str(m.id):
            ring = Polygon([(s, z - first.plate) for s, z in m.solid.outline])
            assert max(ring.intersection(w).area for w in wood) < 1.0
    assert not work_out(trussed(trusses=Trusses(studs=0.0))).structure.of(kinds.STUD)


def test_an_attic_leaves_a_room_free() -> None:
    slope = 1.0
    line = profile(9000.0, slope, 88.9 * math.hypot(1, slope) + 6, 600.0)
    truss = truss_under(line, "attic", CUT)
    assert truss.kind == "attic"
    wood = union_all([Polygon(p.outline) for p in shaped(truss, line, CUT)])
    room = Polygon(
        [(9000 * 0.27, 100.0), (9000 * 0.73, 100.0), (9000 * 0.62, 3300.0), (9000 * 0.38, 3300.0)]
    )
    assert wood.intersection(room).area < 1.0
    made = work_out(trussed(rise=12.0, trusses=Trusses(kind="attic", bottom_live=0.0015)))
    assert made.structure.unframed == ()
    assert list(made.path.soil_total) == pytest.approx(list(made.path.applied), rel=1e-6)


def test_a_hip_end_that_is_cut_off_flat_has_jacks_on_its_slopes_only() -> None:
    checked = work_out(trussed(sides=(), top=900.0))
    assert not checked.structure.unframed
    assert placed(checked)
    jacks = [m for m in checked.structure.of(kinds.RAFTER) if m.host == the("roof:R1")]
    assert jacks
    assert all(m.slope > 0 for m in jacks)


def test_a_chord_that_reaches_hardly_past_its_end_has_no_tail() -> None:
    """A tail of a hand's breadth past a raised heel would turn about its joint."""
    line = Profile(((-80.0, 600.0), (3000.0, 2000.0), (6080.0, 600.0)), 6000.0)
    truss = truss_under(line, "Fink", CUT)
    chord = truss.chord(kinds.TOP_CHORD)
    ends = truss.joints[chord[0].start], truss.joints[chord[-1].end]
    assert [round(x) for x, _ in ends] == [60, 5940]


@pytest.mark.parametrize(
    "kind", ["king post", "Fink", "Howe", "Pratt", "fan", "double Fink", "queen post"]
)
@pytest.mark.parametrize(
    ("asked", "hang"),
    [(Asked(bears=(1000.0, 6400.0)), None), (Asked(bears=(45.0, 7155.0)), 350.0), (Asked(3), None)],
)
def test_pieces_meet_where_the_truss_bears_inside_or_hangs(
    kind: str, asked: Asked, hang: float | None
) -> None:
    line = msgspec.structs.replace(profile(), hang=hang)
    truss = truss_under(line, kind, CUT, 0.0, asked)
    shapes = [Polygon(p.outline) for p in shaped(truss, line, CUT)]
    whole = union_all(shapes)
    assert whole.area == pytest.approx(sum(s.area for s in shapes), rel=2e-3), "no two share wood"
    assert union_all([s.buffer(2.0) for s in shapes]).geom_type == "Polygon", "all hang together"
    assert whole.bounds[1] >= min(-(hang or 0.0), -300.0) - 1e-6
    webs = {frozenset((p.start, p.end)) for p in truss.pieces if p.kind is kinds.WEB}
    assert len(webs) == sum(p.kind is kinds.WEB for p in truss.pieces)


def test_trusses_wider_than_the_walls_bear_on_them() -> None:
    """The roof's own outline reaches 900 mm past the walls: the heels hang out, the walls inside
    carry."""
    project = walled([(0, 0), (9000, 0), (9000, 7000), (0, 7000)])
    out = ((0.0, -900.0), (9000.0, -900.0), (9000.0, 7900.0), (0.0, 7900.0))
    gables = (RoofSide("2", "gable"), RoofSide("4", "gable"))
    checked = work_out(set_roof(project, "R1", framing="trusses", corners=out, sides=gables))
    chords = [m for m in checked.structure.of(kinds.BOTTOM_CHORD) if m.carrier.supports]
    assert all(
        {s.on for s in m.carrier.supports} == {the("wall:W0"), the("wall:W2")}
        for m in chords
        if ":E" not in str(m.id)
    )
    assert all(m.carrier.supports[0].at > 900.0 for m in chords)
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-6)
    webs = [m for m in checked.structure.of(kinds.WEB) if ":05." in str(m.id)]
    assert len(webs) == 8, "a Fink with a post and a brace over each bearing"


def test_a_top_chord_on_the_plate_lets_the_bottom_chord_hang_inside() -> None:
    rule = Trusses(bearing="top chord", hang=350.0)
    sides = (RoofSide("W1", "gable"), RoofSide("W3", "gable"))
    project = walled(
        [(0, 0), (9000, 0), (9000, 7000), (0, 7000)], framing="trusses", sides=sides, trusses=rule
    )
    checked = work_out(project)
    plate = 2500.0
    for m in checked.structure.of(kinds.BOTTOM_CHORD):
        assert min(z for *_, z in m.solid.points()) == pytest.approx(plate - 350.0)
    low = min(
        min(z for *_, z in m.solid.points())
        for m in checked.structure.of(kinds.TOP_CHORD)
        if ":05." in str(m.id)
    )
    assert low < plate, "the overhang lies under the plate"
    t = placed(checked)[4]
    under = t.profile.height(0.0) - t.cut.top * math.hypot(1, 0.5)
    assert under == pytest.approx(0.0, abs=0.1), "the top chord lies on the outer edge of the plate"


def test_camber_takes_its_part_off_the_sag() -> None:
    held = {"chords": ("2x6",), "webs": ("2x4",)}
    flat, bent = (
        work_out(trussed(section="2x6", trusses=Trusses(camber=c, **held))) for c in (0.0, 2.0)
    )
    a, b = (c.trusses[the("roof:R1")].checks[5] for c in (flat, bent))
    span = placed(flat)[5].truss.joints
    reach = span[a.truss.bearings[1]][0] - span[a.truss.bearings[0]][0]
    assert a.others[1][0] - b.others[1][0] == pytest.approx(2.0 / (reach / 120.0), rel=1e-6)
    assert a.others[0] == b.others[0], "live load sags as before"


@pytest.mark.parametrize("overhang", [0.0, 40.0, 300.0])
def test_a_truss_has_its_shape_however_far_its_eaves_reach_out(overhang: float) -> None:
    """Without an overhang the chords meet just outside the wall: that is no joint of its own."""
    gables = (RoofSide("W1", "gable"), RoofSide("W3", "gable"))
    for kind, webs, deep in (("king post", 1, 4000.0), ("Fink", 4, 7000.0), ("Howe", 5, 7000.0)):
        rule = Trusses(kind=kind)  # type: ignore[arg-type]
        corners = [(0.0, 0.0), (9000.0, 0.0), (9000.0, deep), (0.0, deep)]
        made = walled(corners, sides=gables, framing="trusses", overhang=overhang, trusses=rule)
        roof = work_out(made).trusses[the("roof:R1")]
        common = next(t for t in roof.placed if t.use == "common")
        assert common.truss.kind == kind
        assert sum(p.kind is kinds.WEB for p in common.truss.pieces) == webs
