"""Walls: drawn, offset, flipped, trimmed, split, joined, curved, built up, copied."""

import math
from itertools import pairwise

import pytest
from msgspec.structs import replace

from balken.errors import BalkenError
from balken.fit.findings import findings
from balken.model.edits import EditError, copy_level
from balken.model.edits.build_ups import (
    add_build_up,
    change_build_up,
    remove_build_up,
    walls_with,
    with_layer,
)
from balken.model.edits.openings import add_opening
from balken.model.edits.walls import (
    WallKind,
    arc_through,
    draw_walls,
    flip_walls,
    join_walls,
    meet_at,
    offset_walls,
    rectangle_of,
    remove_walls,
    set_build_up_of,
    set_length,
    set_walls,
    split_wall,
    trim_to,
)
from balken.model.new import empty_building
from balken.model.project import Project, wall, wall_base, wall_top
from balken.model.wall_catalogue import first_build_ups
from balken.model.walls import (
    Layer,
    Module,
    Opening,
    WallBuildUp,
    arc_middle,
    arc_points,
    core_of,
    from_outer,
    layer_bands,
    name_of,
    reach,
    short_name,
    thickness_of,
    wall_length,
)
from balken.site.bodies import bodies, layer_rings, storey_outline, storey_walls
from balken.site.storeys import copy_storey
from balken.units import FOOT, INCH
from balken.works.building import work_out
from named import the

KIND = WallKind("L1", "P1", thickness=200.0)
BRICK = (
    Layer("brick", 90.0, "cladding"),
    Layer("air space", 25.0, "insulation"),
    Layer("sheathing", 12.5, "sheathing"),
    Layer("38x140 studs", 140.0, "core"),
    Layer("gypsum board", 12.5, "lining"),
)


def sheet() -> Project:
    return empty_building("Sheet", "metric")


def room(kind: WallKind = KIND, project: Project | None = None) -> Project:
    return draw_walls(
        project or sheet(), kind, rectangle_of((0.0, 0.0), (9000.0, 6000.0)), closed=True
    )


def test_a_chain_and_a_rectangle() -> None:
    chain = draw_walls(sheet(), KIND, [(0, 0), (5000, 0), (5000, 3000)])
    assert [(w.start, w.end) for w in chain.walls] == [
        ((0, 0), (5000, 0)),
        ((5000, 0), (5000, 3000)),
    ]
    box = room()
    assert len(box.walls) == 4
    outline = storey_outline(box.walls)
    assert outline is not None
    assert set(outline) == {(0, 0), (9000, 0), (9000, 6000), (0, 6000)}, "placed by the outer face"
    inside = room(WallKind("L1", "P1", thickness=200.0, outside="left"))
    grown = storey_outline(inside.walls)
    assert grown is not None
    assert set(grown) == {(-200, -200), (9200, -200), (9200, 6200), (-200, 6200)}


@pytest.mark.parametrize(
    "corner", [(9000.0, 6000.0), (-9000.0, 6000.0), (9000.0, -6000.0), (-9000.0, -6000.0)]
)
def test_a_rectangle_runs_counter_clockwise_whichever_way_it_is_drawn(
    corner: tuple[float, float],
) -> None:
    ring = rectangle_of((0.0, 0.0), corner)
    assert sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, [*ring[1:], ring[0]])) > 0
    turned = rectangle_of((0.0, 0.0), corner, math.radians(20))
    sides = [(b[0] - a[0], b[1] - a[1]) for a, b in pairwise(turned)]
    assert abs(sides[0][0] * sides[1][0] + sides[0][1] * sides[1][1]) < 1e-6


def test_walls_of_no_length_are_refused() -> None:
    with pytest.raises(EditError, match="no length"):
        draw_walls(sheet(), KIND, [(0, 0), (0.2, 0)])
    with pytest.raises(EditError, match="only one"):
        draw_walls(sheet(), KIND, [(0, 0)])
    with pytest.raises(EditError, match="needs a thickness"):
        draw_walls(sheet(), WallKind("L1", "P1"), [(0, 0), (1000, 0)])
    with pytest.raises(EditError, match="no build-up"):
        draw_walls(sheet(), WallKind("L1", "P1", build_up="X9"), [(0, 0), (1000, 0)])


@pytest.mark.parametrize(
    ("by", "inset"),
    [
        ("outer face", 0.0),
        ("core outer", 127.5),
        ("core centre", 197.5),
        ("core inner", 267.5),
        ("inner face", 280.0),
    ],
)
@pytest.mark.parametrize("outside", ["left", "right"])
def test_the_line_marks_the_chosen_part(by: str, inset: float, outside: str) -> None:
    project, key = add_build_up(sheet(), BRICK)
    kind = WallKind("L1", "P1", build_up=key, by=by, outside=outside)  # type: ignore[arg-type]
    item = draw_walls(project, kind, [(0, 0), (4000, 0)]).walls[0]
    bands = layer_bands(item, project.wall_build_ups[0])
    outer = bands[0][1]
    assert abs(outer) == pytest.approx(inset)
    assert outer * (1 if outside == "left" else -1) >= 0, (
        "the outer face lies on its side of the line"
    )
    assert [layer.material for layer, _, _ in bands] == [x.material for x in BRICK]
    for (_, _, a), (_, b, _) in pairwise(bands):
        assert a == pytest.approx(b), "no gap and no overlap between layers"
    assert abs(bands[-1][2] - bands[0][1]) == pytest.approx(280.0)


def test_a_name_is_made_of_the_layers() -> None:
    body = WallBuildUp("X1", BRICK)
    assert thickness_of(body) == 280.0
    assert (
        name_of(body, "metric")
        == "280: brick 90, air space 25, sheathing 12.5, 38x140 studs 140, gypsum board 12.5"
    )
    assert short_name(body, "metric") == "38x140 studs, 280"
    assert core_of(body) == (127.5, 267.5)
    with pytest.raises(BalkenError, match="needs a core"):
        core_of(WallBuildUp("X", (Layer("brick", 90.0, "cladding"),)))
    with pytest.raises(BalkenError, match="free"):
        from_outer(body, "free")
    for system in ("us", "metric"):
        for first in first_build_ups(system):  # type: ignore[arg-type]
            assert name_of(first, system)  # type: ignore[arg-type]
            assert core_of(first)[1] > core_of(first)[0]


def test_changing_a_build_up_says_and_reaches_all_some_or_none() -> None:
    project, key = add_build_up(sheet(), BRICK)
    project = room(WallKind("L1", "P1", build_up=key), project)
    assert len(walls_with(project, key)) == 4
    thicker = with_layer(project.wall_build_ups[0], 3, Layer("38x184 studs", 184.0, "core"))
    every = change_build_up(project, key, thicker, None, "all")
    assert {w.thickness for w in every.walls} == {324.0}
    assert storey_outline(every.walls) == storey_outline(project.walls), "the marked face stays"
    some = change_build_up(project, key, thicker, None, "these", ["W1", "W2"])
    assert [w.thickness for w in some.walls] == [324.0, 324.0, 280.0, 280.0]
    assert len(some.wall_build_ups) == 2
    copy = change_build_up(project, key, thicker, None, "copy")
    assert [w.thickness for w in copy.walls] == [280.0] * 4
    assert len(copy.wall_build_ups) == 2
    with pytest.raises(EditError, match="core"):
        change_build_up(project, key, BRICK[:3], None, "all")
    with pytest.raises(EditError, match="4 walls are"):
        remove_build_up(project, key)
    assert remove_build_up(copy, copy.wall_build_ups[1].id).wall_build_ups == project.wall_build_ups
    assert add_build_up(project, BRICK) == (project, key), "the same is not added twice"


def test_layers_mitre_at_corners_and_run_on_at_tees_by_rank() -> None:
    project, key = add_build_up(sheet(), BRICK)
    project, inner = add_build_up(
        project,
        (
            Layer("board", 12.5, "lining"),
            Layer("studs", 89.0, "core"),
            Layer("board", 12.5, "lining"),
        ),
    )
    project = room(WallKind("L1", "P1", build_up=key), project)
    project = draw_walls(
        project,
        WallKind("L1", "P1", build_up=inner, by="core centre"),
        [(4000.0, 280.0), (4000.0, 5720.0)],
    )
    rings = layer_rings(project.walls, {b.id: b for b in project.wall_build_ups})
    brick = rings["W1"][0][1]
    assert {round(p[0], 3) for p in brick} == {0.0, 90.0, 8910.0, 9000.0}, "mitred at both corners"
    studs = rings["W5"][1][1]
    ys = sorted({round(p[1], 3) for p in studs})
    assert ys == [267.5, 5732.5], "studs run on through the board to the studs they meet"
    board = rings["W5"][0][1]
    assert sorted({round(p[1], 3) for p in board}) == [280.0, 5720.0], "board stops at board"
    area = sum(abs(ring_area(r)) for _, r in rings["W1"])
    assert area == pytest.approx(abs(ring_area(bodies(project.walls)["W1"].ring)))


def ring_area(ring: tuple[tuple[float, float], ...]) -> float:
    return sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, (*ring[1:], ring[0]))) / 2


def test_offset_keeps_corners_closed() -> None:
    project = room()
    inner = offset_walls(project, ["W1", "W2", "W3", "W4"], 1500.0)
    new = inner.walls[4:]
    corners = {p for w in new for p in (w.start, w.end)}
    assert corners == {(1500, 1500), (7500, 1500), (7500, 4500), (1500, 4500)}
    with pytest.raises(EditError, match="nothing of a wall"):
        offset_walls(project, ["W1", "W2", "W3", "W4"], 3500.0)
    with pytest.raises(EditError, match="inside another"):
        offset_walls(project, ["W1"], 0.0)
    with pytest.raises(EditError, match="Choose"):
        offset_walls(project, [], 100.0)


def test_flip_turns_a_wall_about_its_line() -> None:
    project = room()
    once = flip_walls(project, ["W1"])
    assert reach(wall(once, "W1")) == (0.0, -200.0)
    assert flip_walls(once, ["W1"]) == project


def test_corner_and_tee() -> None:
    project = draw_walls(
        draw_walls(sheet(), KIND, [(0, 0), (4000, 0)]), KIND, [(5000, -1000), (5000, 3000)]
    )
    met = meet_at(project, "W1", "W2")
    assert wall(met, "W1").end == (5000, 0)
    assert wall(met, "W2").start == (5000, 0), "the shorter end is cut"
    tee = trim_to(project, "W1", "W2")
    assert (wall(tee, "W1").end, wall(tee, "W2")) == ((5000, 0), wall(project, "W2"))
    cross = draw_walls(sheet(), KIND, [(0, 0), (4000, 0)])
    cross = draw_walls(cross, KIND, [(1000, -1000), (1000, 3000)])
    kept = trim_to(cross, "W1", "W2", (100.0, 0.0))
    assert (wall(kept, "W1").start, wall(kept, "W1").end) == ((0, 0), (1000, 0)), (
        "the part that was clicked stays"
    )
    alike = draw_walls(
        draw_walls(sheet(), KIND, [(0, 0), (4000, 0)]), KIND, [(0, 500), (4000, 500)]
    )
    with pytest.raises(EditError, match="run alike"):
        meet_at(alike, "W1", "W2")


def test_split_and_join_are_each_other_back(demo: Project) -> None:
    item = wall(demo, "W101")
    parts = split_wall(demo, "W101", 21 * FOOT)
    new = next(w for w in parts.walls if w.id not in {x.id for x in demo.walls})
    assert wall_length(wall(parts, "W101")) + wall_length(new) == pytest.approx(wall_length(item))
    assert len(wall(parts, "W101").openings) + len(new.openings) == len(item.openings)
    assert new.id in parts.runs[0].walls, "what stands on it stands on both"
    whole = join_walls(parts, "W101", new.id)
    joined = wall(whole, "W101")
    assert (joined.start, joined.end) == (item.start, item.end)
    assert [o.at for o in joined.openings] == pytest.approx([o.at for o in item.openings])
    assert [o.width for o in joined.openings] == [o.width for o in item.openings]
    assert whole.runs == demo.runs
    with pytest.raises(EditError, match="window from"):
        split_wall(demo, "W101", 10 * FOOT)
    with pytest.raises(EditError, match="between its ends"):
        split_wall(demo, "W101", 0.0)
    with pytest.raises(EditError, match="one line"):
        join_walls(demo, "W101", "W102")


def test_length_is_typed_and_walls_that_meet_go_along() -> None:
    project = set_length(room(), "W1", 10_000.0)
    assert wall_length(wall(project, "W1")) == pytest.approx(10_000.0)
    assert wall(project, "W2").start[0] == pytest.approx(10_000.0)
    assert wall(project, "W3").start[0] == pytest.approx(10_000.0)
    alone = set_length(draw_walls(sheet(), KIND, [(0, 0), (3000, 0)]), "W1", 3600.0, "start")
    assert wall(alone, "W1").start == (-600.0, 0.0)


@pytest.mark.parametrize(
    ("middle", "bulge"), [((0.0, -1000.0), 1.0), ((0.0, 1000.0), -1.0), ((0.0, 0.0), 0.0)]
)
def test_half_circles_and_straight_ones(middle: tuple[float, float], bulge: float) -> None:
    assert arc_through((-1000.0, 0.0), (1000.0, 0.0), middle) == pytest.approx(bulge)


def test_a_curved_wall_keeps_to_its_circle() -> None:
    bulge = arc_through((0.0, 0.0), (4000.0, 0.0), (2000.0, -800.0))
    project = draw_walls(sheet(), KIND, [(0, 0), (4000, 0)], bulges=[bulge])
    item = project.walls[0]
    assert arc_middle(item) == pytest.approx((2000.0, -800.0))
    radius = (2000**2 + 800**2) / (2 * 800)
    for p in arc_points(item.start, item.end, item.bulge):
        assert math.dist(p, (2000.0, radius - 800.0)) == pytest.approx(radius)
    assert wall_length(item) == pytest.approx(2 * radius * math.asin(2000 / radius))
    pieces = storey_walls(project, "L1")
    assert len(pieces) > 4
    assert pieces[0].id == "W1~1"
    with pytest.raises(EditError, match="half a circle"):
        arc_through((0.0, 0.0), (1000.0, 0.0), (500.0, -900.0))
    with pytest.raises(EditError, match="curved"):
        add_opening(project, "W1", Opening("n", "door", 100.0, 900.0, 2000.0, 0.0))
    with pytest.raises(EditError, match="curved"):
        offset_walls(project, ["W1"], 500.0)


def test_a_storey_is_copied_flush_in_or_out(demo: Project) -> None:
    upper = copy_level(demo, "L2", 3000.0)
    key = next(x.id for x in upper.levels if x.id not in {y.id for y in demo.levels})
    flush = copy_storey(upper, "L2", key)
    new = [w for w in flush.walls if w.base == key]
    old = [w for w in demo.walls if w.base == "L2"]
    assert [(w.start, w.end) for w in new] == [(w.start, w.end) for w in old]
    assert [len(w.openings) for w in new] == [len(w.openings) for w in old]
    for a, b in zip(old, new):
        tall = wall_top(demo, a) - wall_base(demo, a)
        assert wall_top(flush, b) - wall_base(flush, b) == pytest.approx(tall)
    out = copy_storey(upper, "L2", key, outwards=10 * INCH, openings=False)
    ring = storey_outline(storey_walls(out, key))
    assert ring is not None
    assert min(p[0] for p in ring) == pytest.approx(-10 * INCH)
    assert max(p[0] for p in ring) == pytest.approx(36 * FOOT + 10 * INCH)
    assert all(not w.openings for w in out.walls if w.base == key)
    with pytest.raises(EditError, match="same walls"):
        copy_storey(flush, "L2", key)
    with pytest.raises(EditError, match="No walls stand"):
        copy_storey(demo, "GR", "L2")


def test_copied_down_they_clash_with_the_floor_by_so_much_and_the_cut_is_offered(
    demo: Project,
) -> None:
    """Ground-floor walls copied to a basement floor reach up into the joists."""
    base = copy_level(demo, "L1", -2600.0)
    key = next(x.id for x in base.levels if x.id not in {y.id for y in demo.levels})
    clash = copy_storey(base, "L1", key)
    clash = set_walls(
        clash, [w.id for w in clash.walls if w.base == key], top="L1", top_offset=-100.0
    )
    found = next(
        f for f in findings(work_out(clash)) if f.kind == "overlap" and f.host == the("floor:F1")
    )
    room_for = 9.25 * INCH + 0.75 * INCH
    assert found.amount == pytest.approx(room_for - 100.0, abs=1.0)
    assert "up into the joists" in found.text
    assert found.mend is not None
    mended = found.mend.apply(clash)
    assert not [
        f for f in findings(work_out(mended)) if f.kind == "overlap" and f.host == the("floor:F1")
    ]


def test_a_lap_reaches_down_and_is_part_of_the_wall(demo: Project) -> None:
    lapped = set_walls(demo, ["W201"], lap=10 * INCH)
    assert wall(lapped, "W201").lap == 254.0
    with pytest.raises(EditError, match="lap"):
        set_walls(demo, ["W201"], lap=-1.0)


def test_a_build_up_for_a_wall_whose_layers_were_not_known() -> None:
    project = room()
    before = storey_outline(project.walls)
    project, key = add_build_up(project, BRICK)
    after = set_build_up_of(project, [w.id for w in project.walls], key)
    assert storey_outline(after.walls) == before, "the outer face stays"
    inner = set_build_up_of(after, ["W1"], key, "inner face")
    assert reach(wall(inner, "W1"))[0] == pytest.approx(0.0)


def test_taking_walls_away_leaves_no_name_behind(demo: Project) -> None:
    after = remove_walls(demo, ["W105"])
    assert "W105" not in after.runs[0].walls
    assert all("W105" not in f.walls for f in after.floors)


def test_a_block_wall_module_needs_real_measures() -> None:
    with pytest.raises(EditError):
        add_build_up(sheet(), (Layer("block", 190.0, "core"),), Module(0.5, 200.0, 10.0))
    project, key = add_build_up(
        sheet(), (Layer("block", 190.0, "core"),), Module(200.0, 200.0, 10.0)
    )
    assert next(b for b in project.wall_build_ups if b.id == key).module == Module(
        200.0, 200.0, 10.0
    )
    assert replace(project, wall_build_ups=()) == sheet()
