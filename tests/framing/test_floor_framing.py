"""Joist floors: layout rules, openings, cantilevers, doubles, laps, blocks, ledgers, outlines that
follow walls."""

from collections import Counter
from itertools import pairwise

import pytest

from balken.framing import kinds
from balken.framing.floors.panels import lay_panels
from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.layout import Layout, LayoutError, spaced
from balken.framing.member import Member
from balken.geometry.plane import box, signed_area
from balken.model.edits import change_member, move_wall
from balken.model.edits.floors import (
    add_floor,
    add_opening,
    change_floor_build_up,
    copy_floor,
    cut_floor,
    set_floor_edge,
)
from balken.model.edits.hosts import add_member, remove_member
from balken.model.edits.supports import put_support
from balken.model.edits.walls import WallKind, draw_walls
from balken.model.new import new_building
from balken.site.proposals import propose_structure
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from buildings import two_storeys as house
from named import the


def pieces(checked: Checked, role: str, host: str = the("floor:F2")) -> list[Member]:
    return [m for m in checked.structure.members if m.host == host and m.role == role]


def depth_of(m: Member) -> float:
    return max(z for _, z in m.solid.outline) - min(z for _, z in m.solid.outline)


# -- layout -------------------------------------------------------------------


def test_an_exact_spacing_lets_panels_end_on_joists() -> None:
    # 4 ft panels from the first edge: every third joist at 16 in has its middle on a joint.
    places = spaced(30 * FOOT, Layout(1.5 * INCH, 16 * INCH))
    for joint in (4 * FOOT, 8 * FOOT, 28 * FOOT):
        assert any(abs(x - joint) < 1e-6 for x in places)


def test_a_maximum_spacing_is_met_in_gaps_all_alike() -> None:
    places = [19.0, *spaced(5000.0, Layout(38.0, 600.0, "maximum")), 4981.0]
    gaps = {round(b - a, 6) for a, b in pairwise(places)}
    assert len(gaps) == 1
    assert 540.0 < gaps.pop() <= 600.0


def test_an_equal_spacing_takes_the_nearest_number_of_gaps() -> None:
    count = len(spaced(5000.0, Layout(38.0, 700.0, "equal"))) + 1
    assert count == round((5000 - 38) / 700)


def test_a_clear_distance_is_kept_between_faces() -> None:
    a, b = spaced(5000.0, Layout(38.0, 400.0, "clear"))[:2]
    assert b - a - 38.0 == pytest.approx(400.0)


@pytest.mark.parametrize("spacing", [0.0, 0.5, -3.0])
def test_a_spacing_of_nothing_is_refused(spacing: float) -> None:
    with pytest.raises(LayoutError, match="sets nothing out"):
        spaced(5000.0, Layout(38.0, spacing))


def test_one_more_joist_stands_in_a_large_last_gap() -> None:
    project = house(length=9180.0)
    before = {m.id for m in pieces(work_out(project), "joist")}
    key = next(f.build_up for f in project.floors if f.id == "F2")
    project, _ = change_floor_build_up(project, key, "all", end_gap=200.0)
    after = {m.id for m in pieces(work_out(project), "joist")}
    extra = after - before
    assert extra == {the("floor:F2/joist:X1a")}


# -- openings -----------------------------------------------------------------


def test_a_wide_opening_gets_double_headers_and_trimmers() -> None:
    # IRC 2021 R502.10: over 4 ft both are double.
    project, _ = add_opening(house(), "F2", "stair", at=(4000.0, 2400.0), size=(1400.0, 2000.0))
    checked = work_out(project)
    headers, trimmers = pieces(checked, "header"), pieces(checked, "trimmer")
    assert len(headers) == 2
    assert {m.section for m in headers} == {"2-38x286"}
    assert all(m.section[:2] in ("2-", "3-") for m in trimmers)
    assert len(trimmers) == 2


def test_a_narrow_opening_has_single_headers_where_they_are_strong_enough() -> None:
    project, _ = add_opening(house(), "F2", "shaft", at=(4000.0, 2400.0), size=(700.0, 500.0))
    assert {m.section for m in pieces(work_out(project), "header")} == {"38x286"}


def test_tail_joists_hang_on_headers_and_headers_on_trimmers() -> None:
    project, _ = add_opening(house(), "F2", "stair", at=(4000.0, 2400.0), size=(1400.0, 2000.0))
    checked = work_out(project)
    headers = {m.id: m for m in pieces(checked, "header")}
    for m in headers.values():
        assert all(s.hung and ":T" in str(s.on) for s in m.carrier.supports)
    tails = [
        m for m in pieces(checked, "joist") if any(s.on in headers for s in m.carrier.supports)
    ]
    assert len(tails) >= 4
    for m in tails:
        header = headers[next(s.on for s in m.carrier.supports if s.on in headers)]
        ends = {round(m.start[1], 3), round(m.end[1], 3)}
        faces = {round(header.start[1] + side * header.solid.depth / 2, 3) for side in (-1, 1)}
        assert ends & faces


def test_an_opening_carries_nothing_and_all_the_rest_reaches_the_soil() -> None:
    project, _ = add_opening(house(), "F2", "stair", at=(4000.0, 2400.0), size=(1400.0, 2000.0))
    before, after = work_out(house()).path, work_out(project).path
    assert before.applied.live - after.applied.live == pytest.approx(
        1400 * 2000 * project.floors[1].live, rel=1e-9
    )
    assert after.soil_total.live == pytest.approx(after.applied.live, rel=1e-6)
    assert not after.open_ends


def test_wood_keeps_clear_of_a_chimney() -> None:
    project, _ = add_opening(house(), "F2", "chimney", at=(4000.0, 2400.0), size=(600.0, 600.0))
    checked = work_out(project)
    x0, y0, x1, y1 = 3700.0 - 50.8, 2100.0 - 50.8, 4300.0 + 50.8, 2700.0 + 50.8
    for m in checked.structure.members:
        if m.host == the("floor:F2"):
            a, b, c, d = box(m.solid.plan())
            assert m.kind is kinds.SUBFLOOR or not (
                a < x1 - 1 and c > x0 + 1 and b < y1 - 1 and d > y0 + 1
            ), m.id


def test_an_opening_tied_to_a_wall_moves_with_it() -> None:
    project = house()
    west = next(w for w in project.walls if w.name == "west 1")
    # The west wall runs south from (0, 4800): left of it lies the room's other side, so inside is
    # positive x = left.
    project, _ = add_opening(
        project, "F2", "stair", wall=west.id, at=(2400.0, 3000.0), size=(2000.0, 900.0)
    )
    before = bearings_of_floor(project, project.floors[1])
    moved = move_wall(project, west.id, 300.0)
    after = bearings_of_floor(moved, moved.floors[1])
    assert before is not None
    assert after is not None
    shift = after.holes[0].ring[0][0] - before.holes[0].ring[0][0]
    assert abs(shift) == pytest.approx(300.0)


# -- edges and outlines -------------------------------------------------------


def test_a_cantilever_runs_past_the_wall_in_one_piece() -> None:
    project = house()
    south = next(w for w in project.walls if w.name == "south 1")
    project = set_floor_edge(project, "F2", south.id, out=600.0)
    checked = work_out(project)
    joist = next(m for m in pieces(checked, "joist") if str(m.id).endswith("joist:05a"))
    assert min(joist.start[1], joist.end[1]) == pytest.approx(-600.0 + 38.0)
    assert all(s.on for s in joist.carrier.supports)
    assert joist.id in checked.carrying  # it reaches out: the analysis of a beam
    assert checked.path.soil_total.live == pytest.approx(checked.path.applied.live, rel=1e-6)


def test_a_cantilever_longer_than_half_its_back_span_lacks_a_bearing() -> None:
    project = house()
    south = next(w for w in project.walls if w.name == "south 1")
    checked = work_out(set_floor_edge(project, "F2", south.id, out=3000.0))
    assert any(not s.on for m in pieces(checked, "joist") for s in m.carrier.supports)


def test_a_ledger_carries_joists_at_the_walls_face() -> None:
    project = house()
    south = next(w for w in project.walls if w.name == "south 1")
    checked = work_out(set_floor_edge(project, "F2", south.id, ledger=True))
    (ledger,) = pieces(checked, "ledger")
    joist = next(m for m in pieces(checked, "joist") if str(m.id).endswith("joist:05a"))
    assert ledger.id in {s.on for s in joist.carrier.supports if s.hung}
    assert min(joist.start[1], joist.end[1]) == pytest.approx(165.0 + 38.0)
    assert checked.path.soil_total.live == pytest.approx(checked.path.applied.live, rel=1e-6)


def test_a_floor_fills_the_room_that_was_clicked() -> None:
    project = new_building("Rooms", 9000.0, 7000.0, 2, "metric")
    walls = tuple(w.id for w in project.walls if w.base == "L1")
    project, key = add_floor(project, "L2", walls, room=(4000.0, 1500.0))
    floor = next(f for f in project.floors if f.id == key)
    bearings = bearings_of_floor(project, floor)
    assert bearings is not None
    # To the outer face of the outside walls, and to the middle of the wall between the rooms.
    assert box(bearings.outline) == pytest.approx((0.0, 0.0, 9000.0, 3500.0))
    moved = move_wall(project, next(w.id for w in project.walls if w.name == "middle 1"), 500.0)
    bearings = bearings_of_floor(moved, floor)
    assert bearings is not None
    assert box(bearings.outline)[3] == pytest.approx(4000.0)


def test_a_floor_cut_in_two_carries_the_same() -> None:
    project, new = cut_floor(house(), "F2", (5000.0, 0.0), (5000.0, 4800.0), span="x")
    checked = work_out(project)
    areas = [
        sum(m.carrier.area for m in pieces(checked, "joist", the(f"floor:{k}")))
        for k in ("F2", new)
    ]
    assert sum(areas) == pytest.approx(9000.0 * 4800.0)
    assert min(areas) == pytest.approx(4000.0 * 4800.0)


def test_a_curved_wall_gives_the_floor_its_edge() -> None:
    project = new_building("Round", 8000.0, 4500.0, 2, "metric")
    kind = WallKind("L1", "P1", thickness=165.0, by="core centre")
    project = draw_walls(project, kind, [(8000.0, 0.0), (8000.0, 4500.0)])
    from msgspec.structs import replace

    new = project.walls[-1]
    east = next(w for w in project.walls if w.name == "east 1")
    walls = tuple(
        replace(w, bulge=0.3) if w.id == new.id else w for w in project.walls if w.id != east.id
    )
    project = replace(project, walls=walls)
    project, key = add_floor(
        project, "L2", tuple(w.id for w in walls if w.base == "L1" and "middle" not in w.name)
    )
    bearings = bearings_of_floor(project, next(f for f in project.floors if f.id == key))
    assert bearings is not None
    assert box(bearings.outline)[2] > 8500.0
    assert len(bearings.outline) > 10


def test_a_copied_floor_lies_on_the_walls_of_its_own_storey() -> None:
    project = new_building("Three", 9000.0, 4800.0, 3, "metric")
    walls = tuple(w.id for w in project.walls if w.base == "L1")
    project, key = add_floor(project, "L2", walls)
    project, new = copy_floor(project, key, "L3")
    made = next(f for f in project.floors if f.id == new)
    assert (made.level, made.bears_on) == ("L3", "P2")
    assert set(made.walls) == {w.id for w in project.walls if w.base == "L2"}
    assert made.build_up == next(f.build_up for f in project.floors if f.id == key)


def test_changing_a_build_up_touches_all_one_or_none() -> None:
    project = house()
    key = project.floors[0].build_up
    assert {f.build_up for f in project.floors[:2]} == {key}
    both, _ = change_floor_build_up(project, key, "all", subfloor=25.0)
    assert {b.subfloor for b in both.build_ups if b.id == key} == {25.0}
    one, new = change_floor_build_up(project, key, "these", ["F2"], subfloor=25.0)
    assert [f.build_up for f in one.floors[:2]] == [key, new]
    none, spare = change_floor_build_up(project, key, "copy", subfloor=25.0)
    assert [f.build_up for f in none.floors[:2]] == [key, key]
    assert spare not in (key, "")


# -- rims, blocks, doubles, laps, panels --------------------------------------


def test_joists_run_past_each_other_over_a_bearing_by_the_lap() -> None:
    project = propose_structure(new_building("Wide", 9000.0, 8000.0, 2, "metric"))[0]
    key = next(f.build_up for f in project.floors if f.id == "F2")
    project, _ = change_floor_build_up(project, key, "all", lap=76.0)
    checked = work_out(project)
    a, b = (
        next(m for m in pieces(checked, "joist") if str(m.id).endswith(f"joist:05{k}"))
        for k in "ab"
    )
    assert a.end[1] - b.start[1] == pytest.approx(76.0)
    assert abs(b.start[0] - a.start[0]) == pytest.approx(38.0)
    blocked, _ = change_floor_build_up(project, key, "all", blocking="bearings and middle")
    checked = work_out(blocked)
    blocks = pieces(checked, "blocking")
    assert {m.id.piece[-1] for m in blocks} == {"s", "m"}
    clear = checked.sizes[the("floor:F2")].size.spacing - 38.0
    lengths = Counter(round(m.length, 3) for m in blocks)
    assert lengths[clear] > 0.8 * len(blocks), "but at the last bay and beside doubles"


def test_joists_that_butt_over_a_bearing_are_spliced_beside_the_joint() -> None:
    # IRC 2021 R502.6.1: joists from both sides lap 3 in or have a splice; the board's length is
    # common practice, no source.
    project = propose_structure(new_building("Wide", 9000.0, 8000.0, 2, "metric"))[0]
    key = next(f.build_up for f in project.floors if f.id == "F2")
    assert pieces(work_out(project), "splice") == []
    project, _ = change_floor_build_up(project, key, "all", splice=600.0, blocking="bearings")
    checked = work_out(project)
    a, b = (
        next(m for m in pieces(checked, "joist") if str(m.id).endswith(f"joist:05{k}"))
        for k in "ab"
    )
    assert a.end == pytest.approx(b.start), "they butt"
    board = next(m for m in pieces(checked, "splice") if str(m.id).endswith("splice:05a"))
    assert board.length == pytest.approx(600.0)
    assert (board.start[1] + board.end[1]) / 2 == pytest.approx(a.end[1]), (
        "half of it on each side of the joint"
    )
    assert abs(board.start[0] - a.start[0]) == pytest.approx(
        (a.solid.depth + board.solid.depth) / 2
    ), "flat on its side"
    rows = {str(m.id).rsplit(":", 1)[1][:-1] for m in pieces(checked, "joist")}
    assert len(pieces(checked, "splice")) == len(rows), "one bearing inside, one joint a row"
    low, high = box([p for m in pieces(checked, "joist") for p in m.solid.plan()])[::2]
    assert all(low <= p[0] <= high for m in pieces(checked, "splice") for p in m.solid.plan()), (
        "none outside the rims"
    )
    block = next(m for m in pieces(checked, "blocking") if str(m.id).endswith("blocking:05as"))
    assert min(block.start[0], block.end[0]) == pytest.approx(
        max(p[0] for p in board.solid.plan())
    ), "the block gives way"


def test_a_wall_that_runs_along_gets_a_double_joist_under_it() -> None:
    project = house()
    kind = WallKind("L2", "P2", thickness=115.0, by="core centre")
    project = draw_walls(project, kind, [(4230.0, 165.0), (4230.0, 4635.0)])
    new = project.walls[-1]
    doubles = [m for m in pieces(work_out(project), "joist") if f":W{new.id}" in str(m.id)]
    assert [m.section for m in doubles] == ["2-38x286"]
    assert doubles[0].start[0] == pytest.approx(4230.0)


def test_squash_blocks_stand_beside_the_joist_under_a_post_over_a_bearing() -> None:
    # The post stands on Floor 2 over the inside face of the south wall, where joists bear.
    project = put_support(
        house(), "post", (4000.0, 100.0), base="L2", top="P2", size=(140.0, 140.0)
    )
    key = project.point_supports[-1].id
    blocks = pieces(work_out(project), "squash block")
    assert {m.id for m in blocks} == {the(f"floor:F2/squash block:{key}{side}") for side in "LR"}
    assert {round(depth_of(m)) for m in blocks} == {286}
    off = put_support(house(), "post", (4000.0, 2400.0), base="L2", top="P2", size=(140.0, 140.0))
    assert (
        pieces(work_out(off), "squash block") == []
    )  # at mid-span there is nothing to squash against


def test_panels_cover_a_floor_once_in_a_staggered_bond() -> None:
    project, _ = add_opening(house(), "F2", "stair", at=(4000.0, 2400.0), size=(1400.0, 2000.0))
    checked = work_out(project)
    (panel,) = pieces(checked, "subfloor")
    laid = lay_panels(panel, pieces(checked, "joist")[0], "metric")
    area = sum(abs(signed_area(p)) for p in laid.pieces)
    assert area == pytest.approx(9000 * 4800 - 1400 * 2000, rel=1e-6)
    assert laid.whole + laid.cut == len(laid.pieces)
    assert area / (2400 * 1200) <= laid.sheets <= laid.whole + laid.cut
    rows: dict[float, set[float]] = {}
    for p in laid.pieces:
        x0, y0, *_ = box(p)
        rows.setdefault(round(y0), set()).add(round(x0))
    first, second = (rows[y] for y in sorted(rows)[:2])
    inner = {x for x in first if x > min(first)} & {x for x in second if x > min(second)}
    assert not inner  # no joint goes on into the next row


# -- changed by hand ----------------------------------------------------------


def test_a_joist_changed_by_hand_stays_changed_when_a_wall_moves() -> None:
    name = the("floor:F2/joist:07a")
    project = change_member(house(), name, section="38x235", shift=60.0, longer=(0.0, 200.0))
    changed = next(m for m in work_out(project).structure.members if m.id == name)
    north = next(w for w in project.walls if w.name == "north 1")
    moved = move_wall(project, north.id, -400.0)
    if next(w for w in moved.walls if w.id == north.id).start[1] <= 4800.0:
        moved = move_wall(project, north.id, 400.0)
    kept = next(m for m in work_out(moved).structure.members if m.id == name)
    assert (kept.section, kept.touched) == ("38x235", True)
    assert depth_of(kept) == pytest.approx(235.0)
    assert kept.start[0] == pytest.approx(changed.start[0])
    assert kept.length == pytest.approx(changed.length + 400.0)
    assert {s.on for s in kept.carrier.supports} == {s.on for s in changed.carrier.supports}


def test_a_joist_moved_along_itself_bears_on_what_it_then_reaches() -> None:
    name = the("floor:F2/joist:07a")
    checked = work_out(change_member(house(), name, along=300.0))
    joist = next(m for m in checked.structure.members if m.id == name)
    assert [bool(s.on) for s in joist.carrier.supports].count(False) == 1
    assert any(e.source == name for e in checked.path.open_ends)


def test_a_turned_piece_keeps_its_middle() -> None:
    name = the("floor:F2/joist:07a")
    plain = next(m for m in work_out(house()).structure.members if m.id == name)
    turned = next(
        m
        for m in work_out(change_member(house(), name, turn=10.0)).structure.members
        if m.id == name
    )
    for k in (0, 1):
        assert turned.start[k] + turned.end[k] == pytest.approx(plain.start[k] + plain.end[k])
    assert turned.length == pytest.approx(plain.length)


def test_a_joist_added_by_hand_takes_its_share_and_is_listed_until_it_is_taken_back() -> None:
    project, key = add_member(house(), the("floor:F2"), (4230.0, 100.0), (4230.0, 4700.0))
    checked = work_out(project)
    added = next(m for m in pieces(checked, "joist") if f"+{key}" in str(m.id))
    neighbour = next(m for m in pieces(checked, "joist") if str(m.id).endswith("joist:10a"))
    assert added.carrier.area > 0
    assert neighbour.carrier.area < 400.0 * 4800.0
    assert sum(m.carrier.area for m in pieces(checked, "joist")) == pytest.approx(9000.0 * 4800.0)
    assert remove_member(project, added.id).added == ()


def test_a_floors_own_record_of_a_change_that_finds_no_member_is_told() -> None:
    project = change_member(house(), the("floor:F2/joist:40a"), section="38x235")
    assert the("floor:F2/joist:40a") in work_out(project).structure.gone
