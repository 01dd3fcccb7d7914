"""Elevations and sections: true heights and places, what is hidden, what is cut; grid heads at any
extents."""

import math
from itertools import pairwise

import pytest
from msgspec.structs import replace

from balken.drawing.dimensions import frame_round, grid_marks, grid_strings
from balken.drawing.marks import Disc, Drawing, Label, Mark, Patch, Stroke
from balken.drawing.plan import contour_marks, module_notes, plan, plan_notes
from balken.drawing.tiers import tiers
from balken.drawing.upright import SIDES, looking, upright_view
from balken.drawing.wall_figure import build_up_figure, opening_figure, wall_figure
from balken.framing import kinds
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.grids import radial_grid, set_grid, set_line, straight_grid
from balken.model.edits.supports import crossings_of, put_supports
from balken.model.edits.transform import Motion, apply
from balken.model.edits.walls import WallKind, draw_walls, rectangle_of, set_walls
from balken.model.labels import LabelRule
from balken.model.names import MemberName, ThingName
from balken.model.new import empty_building
from balken.model.project import Project, level, wall
from balken.model.wall_catalogue import first_build_ups
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from named import the

WIDE, DEEP = 36 * FOOT, 26 * FOOT


def box(mark: Mark) -> tuple[float, float, float, float]:
    assert isinstance(mark, Patch)
    xs, ys = [p[0] for p in mark.ring], [p[1] for p in mark.ring]
    return min(xs), min(ys), max(xs), max(ys)


def patches(drawing: Drawing, key: str) -> list[Patch]:
    return [m for m in drawing if isinstance(m, Patch) and m.key == key]


@pytest.mark.parametrize(
    ("side", "key", "length"),
    [
        ("south", "W101", WIDE),
        ("east", "W102", DEEP),
        ("north", "W103", WIDE),
        ("west", "W104", DEEP),
    ],
)
def test_each_side_shows_its_wall_at_true_length_and_height(
    demo_checked: Checked, side: str, key: str, length: float
) -> None:
    drawing = upright_view(demo_checked, looking(demo_checked.project, side))  # type: ignore[arg-type]
    boxes = [box(m) for m in patches(drawing, the(f"wall:{key}"))]
    x0, z0 = min(b[0] for b in boxes), min(b[1] for b in boxes)
    x1, z1 = max(b[2] for b in boxes), max(b[3] for b in boxes)
    assert x1 - x0 == pytest.approx(length, abs=0.1)
    assert (z0, z1) == pytest.approx((0.0, level(demo_checked.project, "P1").elevation), abs=0.1)


def test_openings_are_seen_from_their_own_side_only(demo_checked: Checked) -> None:
    south = upright_view(demo_checked, looking(demo_checked.project, "south"))
    keys = {m.key for m in south if isinstance(m, Patch) and str(m.key).startswith("opening:")}
    wanted = {
        the(f"opening:{k}/{o.id}")
        for k in ("W101", "W201")
        for o in wall(demo_checked.project, k).openings
    }
    assert keys == wanted
    hole = wall(demo_checked.project, "W101").openings[0]
    assert box(patches(south, the(f"opening:W101/{hole.id}"))[0]) == pytest.approx(
        (hole.at, hole.sill, hole.at + hole.width, hole.sill + hole.height)
    )


def test_from_the_north_left_and_right_change_places(demo_checked: Checked) -> None:
    view = looking(demo_checked.project, "north")
    drawing = upright_view(demo_checked, view)
    hole = wall(demo_checked.project, "W103").openings[0]
    x0, _, x1, _ = box(patches(drawing, the(f"opening:W103/{hole.id}"))[0])
    # W103 runs west from the east end, and so does the view.
    assert (x0 + WIDE, x1 + WIDE) == pytest.approx((hole.at, hole.at + hole.width))


def test_what_lies_in_the_ground_is_hidden_and_every_level_is_written(
    demo_checked: Checked,
) -> None:
    drawing = upright_view(demo_checked, looking(demo_checked.project, "south"))
    ground = next(x.elevation for x in demo_checked.project.levels if x.role == "ground")
    south = next(m.id for m in demo_checked.structure.members if str(m.id).endswith("footing:W101"))
    assert all(m.fill == "none" for m in drawing if isinstance(m, Patch) and m.key == south), (
        "picked, but not painted"
    )
    hidden = [m for m in drawing if isinstance(m, Stroke) and m.pen == "hidden"]
    assert hidden
    assert max(z for m in hidden for _, z in m.points) <= ground + 1e-6
    low = next(x.elevation for x in demo_checked.project.levels if x.role == "footing_bottom")
    assert min(z for m in hidden for _, z in m.points) == pytest.approx(low)
    words = [m.text for m in drawing if isinstance(m, Label)]
    for item in demo_checked.project.levels:
        assert any(w.startswith(item.name) for w in words)


def test_a_leader_leads_from_each_levels_line_to_its_own_words(demo_checked: Checked) -> None:
    """Close levels spread their words: without leaders they would stand at others' heights."""
    paper = 50.0
    drawing = upright_view(demo_checked, looking(demo_checked.project, "south"), paper)
    words: dict[object, Label] = {}
    leaders: dict[object, Stroke] = {}
    for mark in drawing:
        if isinstance(mark, Label) and isinstance(mark.key, ThingName) and mark.key.kind == "level":
            words[mark.key.key] = mark
        elif isinstance(mark, Stroke) and mark.pen == "hair" and isinstance(mark.key, ThingName):
            leaders[mark.key.key] = mark
    heights = {x.id: x.elevation for x in demo_checked.project.levels}
    assert len(words) >= 8
    assert leaders.keys() == words.keys()
    rows = sorted(w.at[1] for w in words.values())
    assert min(b - a for a, b in pairwise(rows)) >= 2.4 * paper, "as high as the words are"
    for key, leader in leaders.items():
        start, foot = leader.points
        assert start[1] == heights[key]
        assert abs(foot[1] - words[key].at[1]) <= 2.4 * paper / 2
    assert [k for k, _ in sorted(words.items(), key=lambda x: x[1].at[1])] == sorted(
        words, key=lambda k: heights[k]
    )


@pytest.mark.parametrize(
    ("side", "labels"),
    [("south", ["1", "2", "3", "4"]), ("east", ["A", "B", "C"]), ("north", ["4", "3", "2", "1"])],
)
def test_grid_lines_that_run_towards_the_viewer_stand_over_the_building(
    demo_checked: Checked, side: str, labels: list[str]
) -> None:
    drawing = upright_view(demo_checked, looking(demo_checked.project, side))  # type: ignore[arg-type]
    heads = sorted(
        (m.at[0], m.text)
        for m in drawing
        if isinstance(m, Label) and str(m.key).startswith("grid:")
    )
    assert [t for _, t in heads] == labels
    ridge = max(m.solid.bounds()[1][2] for m in demo_checked.structure.members)
    assert all(m.centre[1] > ridge for m in drawing if isinstance(m, Disc))


def test_a_section_cuts_what_the_plane_meets_and_shows_what_lies_behind(
    demo_checked: Checked,
) -> None:
    project = demo_checked.project
    drawing = upright_view(demo_checked, looking(project, "south", (0.0, DEEP / 2 + 600.0)))
    cut = [m for m in drawing if isinstance(m, Patch) and m.pen == "cut"]
    west = [box(m) for m in cut if m.key == the("wall:W104")]
    assert min(b[0] for b in west) == pytest.approx(0.0, abs=0.1)
    assert max(b[2] for b in west) == pytest.approx(6.5 * INCH, abs=0.1)
    assert len(west) == 3, "layer by layer"
    assert not [m for m in drawing if isinstance(m, Patch) and m.key == the("wall:W101")], (
        "what lies before the plane is away"
    )
    assert [m for m in drawing if isinstance(m, Patch) and m.key == the("wall:W103")], (
        "what lies behind is seen"
    )
    joists = [m for m in cut if str(m.key).startswith("floor:F2/joist")]
    sizes = {(round(box(m)[2] - box(m)[0], 1), round(box(m)[3] - box(m)[1], 1)) for m in joists}
    assert sizes == {(38.1, 184.1)} or sizes == {(38.1, 184.2)}, "2x8 cut square"


def test_a_section_along_the_rafters_shows_their_true_shape(demo_checked: Checked) -> None:
    rafter = next(
        m for m in demo_checked.structure.members if m.kind is kinds.RAFTER and "06" in str(m.id)
    )
    view = looking(demo_checked.project, "east", (rafter.start[0] + 1.0, 0.0))
    cut = next(
        m
        for m in upright_view(demo_checked, view)
        if isinstance(m, Patch) and m.key == rafter.id and m.pen == "cut"
    )
    assert len(cut.ring) == len(rafter.solid.outline), "birdsmouth and all"
    area = (
        abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(cut.ring, (*cut.ring[1:], cut.ring[0]))))
        / 2
    )
    outline = rafter.solid.outline
    own = (
        abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(outline, (*outline[1:], outline[0])))) / 2
    )
    assert area == pytest.approx(own)


def test_a_lap_hides_the_joists(demo: Project) -> None:
    lapped = work_out(set_walls(demo, ["W201"], lap=10 * INCH))
    drawing = upright_view(lapped, looking(lapped.project, "south"))
    floor = level(demo, "L2").elevation
    lowest = min(box(m)[1] for m in patches(drawing, the("wall:W201")))
    assert lowest == pytest.approx(floor - 10 * INCH, abs=0.1)


def test_a_turned_building_is_looked_at_along_its_own_walls(demo: Project) -> None:
    keys = [the(f"wall:{w.id}") for w in demo.walls]
    turned = replace(apply(demo, keys, Motion(turn=0.5)), grids=(), runs=(), floors=(), roofs=())
    drawing = upright_view(work_out(turned), looking(turned, "south"))
    boxes = [box(m) for m in patches(drawing, the("wall:W101"))]
    assert max(b[2] for b in boxes) - min(b[0] for b in boxes) == pytest.approx(WIDE, abs=0.5)
    assert [m for m in drawing if isinstance(m, Patch) and str(m.key).startswith("opening:W101")]


@pytest.mark.parametrize("side", SIDES)
def test_an_empty_building_has_upright_views_too(side: str) -> None:
    project = empty_building("E", "metric")
    assert upright_view(work_out(project), looking(project, side))  # type: ignore[arg-type]


# -- plans --------------------------------------------------------------------


def hall() -> Project:
    project = straight_grid(
        empty_building("H", "metric"),
        (0, 0),
        0,
        (5400.0, 7200.0),
        (6000.0,),
        LabelRule("numbers"),
        LabelRule("letters"),
    )
    return draw_walls(
        project,
        WallKind("L1", "P1", thickness=200.0),
        rectangle_of((0, 0), (12600, 6000)),
        closed=True,
    )


def heads_of(project: Project, paper: float = 50.0) -> list[Mark]:
    frame = frame_round([(0.0, 0.0), (12600.0, 6000.0)], 0.0)
    return grid_marks(project.grids[0], frame, paper)


def test_heads_at_either_or_both_ends_clear_of_the_strings() -> None:
    project = hall()
    discs = [m for m in heads_of(project) if isinstance(m, Disc)]
    assert len(discs) == 5
    for d in discs:
        assert d.centre[0] < -13 * 50 or d.centre[1] > 6000 + 13 * 50
    both = set_line(project, "G1", ["N1"], heads="both")
    assert sum(isinstance(m, Disc) for m in heads_of(both)) == 6
    none = set_line(project, "G1", ["N1"], heads="none")
    assert sum(isinstance(m, Disc) for m in heads_of(none)) == 4
    end = set_line(project, "G1", ["N1"], heads="end")
    low = next(m for m in heads_of(end) if isinstance(m, Disc) and m.key == the("grid:G1/N1"))
    assert low.centre[1] < 0


def test_an_elbow_moves_a_head_aside_and_extents_are_kept() -> None:
    project = set_line(hall(), "G1", ["N2"], elbow=4.0)
    straight = next(
        m for m in heads_of(hall()) if isinstance(m, Disc) and m.key == the("grid:G1/N2")
    )
    bent = next(m for m in heads_of(project) if isinstance(m, Disc) and m.key == the("grid:G1/N2"))
    assert abs(bent.centre[0] - straight.centre[0]) == pytest.approx(4.0 * 50)
    short = set_line(hall(), "G1", ["N2"], start=2000.0)
    line = next(m for m in heads_of(short) if isinstance(m, Stroke) and m.key == the("grid:G1/N2"))
    assert min(p[1] for p in line.points) == pytest.approx(2000.0), (
        "a line cut short inside the building ends there"
    )


def test_strings_stand_at_their_distances() -> None:
    project = set_grid(hall(), "G1", string=10.0, overall=16.0)
    frame = frame_round([(0.0, 0.0), (12600.0, 6000.0)], 0.0)
    marks = grid_strings(project.grids[0], frame, 50.0, "metric")
    words = sorted(m.text for m in marks if isinstance(m, Label))
    assert words == ["12600 overall", "5400", "6000", "6000 overall", "7200"]
    level_lines = sorted(
        {
            m.points[0][1]
            for m in marks
            if isinstance(m, Stroke) and m.points[0][1] == m.points[1][1] > 6000
        }
    )
    assert level_lines == pytest.approx([6000 + 500, 6000 + 800])
    assert (
        grid_strings(
            set_grid(project, "G1", string=0.0, overall=0.0).grids[0], frame, 50.0, "metric"
        )
        == []
    )


def test_rings_are_drawn_round_with_a_string_along_the_first_ray() -> None:
    project = radial_grid(
        empty_building("R", "metric"),
        (0, 0),
        0,
        (8000.0, 4000.0),
        (30.0,) * 3,
        LabelRule("letters"),
        LabelRule("numbers"),
    )
    frame = frame_round([(0.0, 0.0), (12000.0, 12000.0)], 0.0)
    ring = next(
        m
        for m in grid_marks(project.grids[0], frame, 50.0)
        if isinstance(m, Stroke) and m.key == the("grid:G1/C1")
    )
    assert len(ring.points) > 20
    assert all(math.hypot(*p) == pytest.approx(8000.0) for p in ring.points)
    words = sorted(
        m.text
        for m in grid_strings(project.grids[0], frame, 50.0, "metric")
        if isinstance(m, Label)
    )
    assert words == ["4000", "8000"]


def test_plans_have_layers_openings_posts_and_names(demo: Project) -> None:
    project = put_supports(demo, "post", crossings_of(demo))
    checked = work_out(project)
    tier = next(t for t in tiers(checked) if t.id == the("walls:L1"))
    drawing = plan(checked, tier)
    fills = {m.fill for m in drawing if isinstance(m, Patch)}
    assert {"wall", "panel", "board", "paper", "end grain"} <= fills
    keys = {getattr(m, "key", "") for m in drawing}
    assert {the("wall:W101"), the("opening:W101/W101-1"), the("support:C1/post:1")} <= keys
    assert sum(isinstance(k, MemberName) and k.host.kind == "support" for k in keys) == 12


def test_the_module_is_shown_along_block_walls() -> None:
    project, key = add_build_up(
        empty_building("B", "metric"),
        first_build_ups("metric")[2].layers,
        first_build_ups("metric")[2].module,
    )
    project = draw_walls(
        project, WallKind("L1", "P1", build_up=key), rectangle_of((0, 0), (8990, 6000)), closed=True
    )
    words = [m.text for m in module_notes(project, "L1", 50.0) if isinstance(m, Label)]
    assert words.count("45 × 200 − 10") == 2
    assert words.count("6000, 10 over") == 2
    tier = next(t for t in tiers(work_out(project)) if t.id == the("walls:L1"))
    assert any(
        isinstance(m, Label) and "10 over" in m.text
        for m in plan_notes(work_out(project), tier, 50.0)
    )


def test_contours_are_drawn_with_their_heights(demo: Project) -> None:
    from balken.model.project import Spot

    spots = tuple(Spot((x, y), 0.05 * x) for x in (0.0, 10000.0) for y in (0.0, 8000.0))
    marks = contour_marks(replace(demo, spots=spots))
    assert sum(isinstance(m, Stroke) for m in marks) >= 5
    assert sum(isinstance(m, Label) and m.text == "+" for m in marks) == 4


def test_figures_of_build_ups_walls_and_openings(demo: Project) -> None:
    for system in ("us", "metric"):
        for body in first_build_ups(system):  # type: ignore[arg-type]
            drawing = build_up_figure(body, system)  # type: ignore[arg-type]
            assert sum(isinstance(m, Patch) for m in drawing) == len(body.layers)
            assert {"out", "in"} <= {m.text for m in drawing if isinstance(m, Label)}
    south = wall(demo, "W101")
    assert sum(isinstance(m, Patch) for m in wall_figure(demo, south)) == 4
    words = [
        m.text for m in opening_figure(demo, south, south.openings[1].id) if isinstance(m, Label)
    ]
    assert words == ["24'-0\"", "3'-0\"", "9'-0\""]
