"""Foundations of every kind: true bodies, counted once, following the ground, in whatever order
they were placed."""

import itertools
import math
from functools import cache

import numpy as np
import pytest
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.hosts.runs import sides_of
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.model.cases import Cases
from balken.model.edits import set_run, set_site
from balken.model.edits.common import EditError
from balken.model.edits.foundations import (
    add_pocket,
    add_shelf,
    crossing_of,
    hold_step,
    let_step_go,
    move_ground,
    place_foundation,
    set_part,
    usual_parts,
)
from balken.model.edits.others import set_spots
from balken.model.edits.supports import put_support
from balken.model.edits.walls import join_walls, remove_walls, split_wall
from balken.model.foundations import Chosen, Shelf, StepRule
from balken.model.names import HostName
from balken.model.project import Project, Spot, level
from balken.session.building import demo_project
from balken.session.demo import bakehouse
from balken.site.ground import heights_at, surface_of
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from buildings import house, union_volume
from named import the


@cache
def whole() -> Project:
    return bakehouse(demo_project())


@cache
def worked() -> Checked:
    return work_out(whole())


def of_role(structure: Structure, role: str, host: HostName | None = None) -> list[Member]:
    return [m for m in structure.members if m.role == role and host in (None, m.host)]


def concrete(structure: Structure) -> float:
    return math.fsum(structure.volume(m) for m in structure.members if m.material == "concrete")


# -- counted once -------------------------------------------------------------


def test_all_concrete_of_the_bakehouse_is_counted_once() -> None:
    """Strips with links, a basement, a slab with an edge and pads: the sum of trimmed bodies is the
    union (manifold3d)."""
    structure = worked().structure
    assert concrete(structure) == pytest.approx(union_volume(structure), rel=1e-6)
    assert structure.concrete.meshes, "some of them meet"


@pytest.mark.forgetful
@pytest.mark.parametrize("order", list(itertools.permutations(range(3)))[1:])
def test_the_order_of_placing_does_not_matter(order: tuple[int, ...]) -> None:
    project = whole()
    turned = replace(
        project,
        runs=tuple(project.runs[i] for i in order),
        point_supports=project.point_supports[::-1],
    )
    structure = work_out(turned).structure
    mine = {m.id: structure.volume(m) for m in structure.members}
    theirs = {m.id: worked().structure.volume(m) for m in worked().structure.members}
    assert mine.keys() == theirs.keys()
    for key, volume in mine.items():
        assert volume == pytest.approx(theirs[key], rel=1e-9), key


def stepped_house(fall: float = 4 * FOOT) -> Project:
    """A house of 40 by 30 ft on ground that is level across and falls evenly along its length, one
    run round it."""
    plain = house(40 * FOOT, 16 * FOOT)
    ground = level(plain, "GR").elevation
    xs, ys = (-10 * FOOT, 50 * FOOT), (-10 * FOOT, 30 * FOOT)

    def height(x: float) -> float:
        return ground - fall * x / (40 * FOOT)

    return set_spots(plain, [Spot((x, y), height(x)) for x in xs for y in ys])


def test_a_stepped_strip_by_closed_form() -> None:
    """One wall drawn freely, 20 ft long, with one step of 16 in held: footing, lap, link and both
    walls by hand."""
    plain = replace(house(), runs=())
    spots = [
        Spot(p, level(plain, "GR").elevation)
        for p in ((-9e4, -9e4), (9e4, -9e4), (9e4, 9e4), (-9e4, 9e4))
    ]
    project = place_foundation(
        set_spots(plain, spots),
        "strip",
        Chosen((20 * INCH, 10 * INCH), 8 * INCH, sill=""),
        path=[(60 * FOOT, 0.0), (80 * FOOT, 0.0)],
    )
    project = hold_step(project, "G1", "path~1", 10 * FOOT, 16 * INCH)
    structure = work_out(project).structure
    length, lap, rise = 240.0, 24.0, 16.0
    footings = (120 + (length - 120 + lap)) * 20 * 10
    link = lap * 20 * (rise - 10)
    heights = {x.role: x.elevation / INCH for x in project.levels}
    stem = heights["foundation_top"] - heights["footing_top"]
    stems = 8 * (120 * stem + 120 * (stem + rise))
    assert concrete(structure) / INCH**3 == pytest.approx(footings + link + stems, rel=1e-9)
    assert concrete(structure) == pytest.approx(union_volume(structure), rel=1e-9)


def test_an_l_and_a_t_by_closed_form() -> None:
    """Walls drawn freely, 8 in thick on 20 × 10 in footings: an L closes its corner, a T stops at
    the through wall."""
    plain = replace(house(), runs=())
    chosen = Chosen((20 * INCH, 10 * INCH), 8 * INCH, sill="")
    z = {x.role: x.elevation / INCH for x in plain.levels}
    stem = z["foundation_top"] - z["footing_top"]
    corner = [(60 * FOOT, 0.0), (80 * FOOT, 0.0), (80 * FOOT, 10 * FOOT)]
    ell = work_out(place_foundation(plain, "strip", chosen, path=corner)).structure
    run = 240 + 120.0  # along the middle; the mitre gives on one side what it takes on the other
    assert concrete(ell) / INCH**3 == pytest.approx(run * 8 * stem + run * 20 * 10, rel=1e-9)
    tee = place_foundation(plain, "strip", chosen, path=corner[:2])
    tee = place_foundation(tee, "strip", chosen, path=[(70 * FOOT, 0.0), (70 * FOOT, 10 * FOOT)])
    both = work_out(tee).structure
    assert concrete(both) / INCH**3 == pytest.approx(
        (240 + 120 - 4) * 8 * stem + (240 + 120 - 10) * 20 * 10, rel=1e-9
    )
    assert concrete(both) == pytest.approx(union_volume(both), rel=1e-9)


def test_slab_with_thickened_edge_by_closed_form() -> None:
    """A slab 4 in thick over 30 by 20 ft with an edge 12 in wide and 24 in deep round it."""
    plain = replace(house(30 * FOOT, 16 * FOOT), runs=(), floors=(), roofs=())
    walls = tuple(w.id for w in plain.walls)
    project = place_foundation(
        plain, "slab edge", Chosen(slab=4 * INCH, edge=(12 * INCH, 24 * INCH), sill="2x6"), walls
    )
    structure = work_out(project).structure
    area, inside = 360 * 192, 336 * 168
    assert concrete(structure) / INCH**3 == pytest.approx(area * 4 + (area - inside) * 20, rel=1e-6)
    slab, *_ = of_role(structure, "slab")
    assert slab.solid.top() == pytest.approx(level(project, "L1").elevation), (
        "walls stand on the slab"
    )


# -- kinds and parts ----------------------------------------------------------


@pytest.mark.parametrize(
    ("kind", "chosen", "lacks"),
    [
        ("strip", Chosen(wall=200.0, sill=""), "the footing"),
        ("basement", Chosen((500.0, 250.0), 200.0, sill=""), "the slab"),
        ("slab edge", Chosen(slab=100.0, sill=""), "the thickened edge"),
        ("slab", Chosen(), "the slab"),
        ("grade beam", Chosen(sill=""), "the beam"),
        ("strip", Chosen((500.0, 250.0), 200.0), "the sill plate"),
    ],
)
def test_an_incomplete_kind_is_refused_and_says_what_is_missing(
    kind: str, chosen: Chosen, lacks: str
) -> None:
    plain = house()
    with pytest.raises(EditError, match=lacks):
        place_foundation(plain, kind, chosen, plain.runs[0].walls)  # type: ignore[arg-type]


@pytest.mark.parametrize("kind", ["strip", "basement", "slab", "slab edge", "grade beam"])
def test_every_kind_stands_with_usual_parts(kind: str) -> None:
    plain = replace(house(), runs=(), floors=(), roofs=())
    walls = tuple(w.id for w in plain.walls if not w.name.startswith("middle"))
    project = place_foundation(plain, kind, usual_parts(plain, kind), walls)  # type: ignore[arg-type]
    structure = work_out(project).structure
    roles = {m.role for m in structure.members if m.host == the("run:G1")}
    expected = {
        "strip": {"footing", "stem", "sill"},
        "basement": {"footing", "stem", "slab", "sill"},
        "slab": {"slab"},
        "slab edge": {"slab", "edge", "sill"},
        "grade beam": {"grade beam", "sill"},
    }[kind]
    assert roles == expected
    assert concrete(structure) == pytest.approx(union_volume(structure), rel=1e-6)


def test_a_path_along_walls_takes_parts_of_them_and_breaks_none() -> None:
    project = whole()
    strip, cellar, _ = project.runs
    assert len(project.walls) == 13, "no wall was broken"
    spans = {s.wall: (s.start, s.end) for s in cellar.spans}
    assert spans["W101"] == (0.0, 4064.0)
    rest = {s.wall: (s.start, s.end) for s in strip.spans}
    assert rest["W101"] == pytest.approx((4064.0, 10972.8))
    assert cellar.paths == (((4064.0, 0.0), (4064.0, 3962.4)),)


def test_what_stands_on_a_part_of_a_wall_follows_when_it_is_split_joined_or_gone() -> None:
    project = whole()
    before = work_out(project).structure
    halves = split_wall(project, "W104", 5000.0)
    new = next(w.id for w in halves.walls if w.id not in {x.id for x in project.walls})
    cellar = {(s.wall, round(s.start), round(s.end)) for s in halves.runs[1].spans}
    assert {("W104", 3962, 5000), (new, 0, 2925)} <= cellar
    assert concrete(work_out(halves).structure) == pytest.approx(concrete(before), rel=2e-3)
    again = join_walls(halves, "W104", new)
    assert concrete(work_out(again).structure) == pytest.approx(concrete(before), rel=1e-6)
    gone = remove_walls(project, ["W104"])
    assert all(s.wall != "W104" for r in gone.runs for s in r.spans)


def test_walls_of_another_thickness_and_a_lowered_top() -> None:
    plain = house()
    thick = set_part(plain, "G1", "W12", stem_thickness=12 * INCH, top_drop=16 * INCH)
    structure = work_out(thick).structure
    east = next(m for m in of_role(structure, "stem") if str(m.id).endswith(":W12"))
    (x0, _, _), (x1, _, top) = east.solid.bounds()
    assert x1 - x0 == pytest.approx(12 * INCH)
    assert x1 == pytest.approx(36 * FOOT), "flush with the wall above"
    assert top == pytest.approx(level(plain, "TF").elevation - 16 * INCH)
    assert concrete(structure) == pytest.approx(union_volume(structure), rel=1e-9)


def test_ledge_seat_corbel_and_pocket_by_hand() -> None:
    plain = house()
    before = work_out(plain).structure
    south = next(m for m in of_role(before, "stem") if str(m.id).endswith(":W11"))
    ledge = work_out(
        add_shelf(plain, "G1", Shelf("ledge", 4 * INCH, 10 * INCH, ("W11",)))
    ).structure
    cut = before.volume(south) - next(ledge.volume(m) for m in ledge.members if m.id == south.id)
    assert cut / INCH**3 == pytest.approx((36 * 12 - 4) * 4 * 10, rel=1e-6), (
        "its ends mitre with the corners"
    )
    corbel = work_out(
        add_shelf(plain, "G1", Shelf("corbel", 4 * INCH, 8 * INCH, ("W11",)))
    ).structure
    assert sum(corbel.volume(m) for m in of_role(corbel, "corbel")) > 0
    assert concrete(corbel) > concrete(before)
    pocket = work_out(
        add_pocket(plain, "G1", "W11", 10 * FOOT, (6 * INCH, 10 * INCH, 4 * INCH))
    ).structure
    assert (concrete(before) - concrete(pocket)) / INCH**3 == pytest.approx(6 * 10 * 4, rel=1e-6)
    with pytest.raises(EditError, match="leaves"):
        add_shelf(plain, "G1", Shelf("seat", 7 * INCH, 8 * INCH))
    with pytest.raises(EditError, match="goes through"):
        add_pocket(plain, "G1", "W11", 10 * FOOT, (6 * INCH, 10 * INCH, 9 * INCH))


def test_crossing_paths_are_refused_with_their_place() -> None:
    path = [(0.0, 0.0), (4000.0, 0.0), (4000.0, 3000.0), (2000.0, -1000.0)]
    assert crossing_of(path) == pytest.approx((2500.0, 0.0))
    with pytest.raises(EditError, match=r"8'-2 7/16"):
        place_foundation(house(), "grade beam", Chosen(beam=(300.0, 600.0), sill=""), path=path)
    assert crossing_of([*path[:3], (0.0, 3000.0), (0.0, 0.0)]) is None, (
        "a ring that closes does not cross itself"
    )


# -- the ground ---------------------------------------------------------------


def outside_footings(project: Project) -> list[tuple[Member, int]]:
    structure = work_out(project).structure
    sides = dict(sides_of(project, project.runs[0]))
    found = []
    for m in of_role(structure, "footing", the("run:G1")):
        key = str(m.id).rsplit(":", 1)[1].split(".")[0]
        if key in sides:
            found.append((m, sides[key]))
    return found


@pytest.mark.parametrize("fall", [0.0, 1 * FOOT, 4 * FOOT, 7 * FOOT])
def test_frost_cover_everywhere(fall: float) -> None:
    """Sampled every 20 mm along the outer edge of every footing: its bottom lies under the
    frost."""
    project = stepped_house(fall)
    surface = surface_of(project.spots)
    for m, side in outside_footings(project):
        a, b = np.array(m.start[:2]), np.array(m.end[:2])
        way = (b - a) / np.hypot(*(b - a))
        normal = side * np.array([-way[1], way[0]])
        out = max(float((np.array(p) - a) @ normal) for p in m.solid.plan())
        places = a + out * normal + np.linspace(0, 1, int(m.length / 20) + 2)[:, None] * (b - a)
        cover = heights_at(surface, places) - m.solid.bounds()[0][2]
        assert cover.min() >= project.site.frost_depth - 1.0, m.id


def test_steps_keep_their_rule() -> None:
    project = stepped_house()
    structure = work_out(project).structure
    rule = project.site.steps
    assert len(structure.steps) == 4, "4 ft in steps of 2 ft, down one long wall and up the other"
    for s in structure.steps:
        assert abs(s.drop) <= rule.rise + 1e-6
        assert abs(s.drop) / rule.module == pytest.approx(round(abs(s.drop) / rule.module))
    feet = of_role(structure, "footing", the("run:G1"))
    laps = [
        (
            min(a.solid.bounds()[1][0], b.solid.bounds()[1][0])
            - max(a.solid.bounds()[0][0], b.solid.bounds()[0][0]),
            a,
            b,
        )
        for a, b in itertools.combinations([m for m in feet if ":W11" in str(m.id)], 2)
    ]
    touching = [(lap, a, b) for lap, a, b in laps if lap > 0]
    assert len(touching) == 2
    for lap, a, b in touching:
        rise = abs(a.solid.bounds()[0][2] - b.solid.bounds()[0][2])
        assert lap >= max(rise, rule.lap) - 1e-6
    links = of_role(structure, "link", the("run:G1"))
    assert {
        round(m.solid.bounds()[1][1] - m.solid.bounds()[0][1]) for m in links if ":W11" in str(m.id)
    } == {508}, "as wide"


def test_dragging_the_ground_two_feet_steps_anew() -> None:
    project = whole()
    ground = next(x for x in project.levels if x.role == "ground")
    lower = move_ground(project, ground.id, ground.elevation - 2 * FOOT)
    assert {round(a.height - b.height, 6) for a, b in zip(project.spots, lower.spots)} == {
        round(2 * FOOT, 6)
    }
    before, after = worked().structure, work_out(lower).structure
    assert [s.key for s in before.steps] != [s.key for s in after.steps]
    deepest = [
        min(m.solid.bounds()[0][2] for m in of_role(s, "footing", the("run:G1")))
        for s in (before, after)
    ]
    assert deepest[1] < deepest[0] - 100
    back = move_ground(lower, ground.id, ground.elevation)
    assert work_out(back).structure.steps == before.steps


def test_a_held_step_stays_where_it_is_put_and_is_let_go_again() -> None:
    project = stepped_house()
    first = next(s for s in work_out(project).structure.steps if s.line == "W11")
    held = hold_step(project, "G1", "W11", first.at - 700.0, first.drop)
    steps = work_out(held).structure.steps
    mine = [s for s in steps if s.held]
    assert [(s.line, s.at, s.drop) for s in mine] == [
        ("W11", pytest.approx(first.at - 700.0), first.drop)
    ]
    lower = set_spots(held, [Spot(s.at, s.height - 300.0) for s in held.spots])
    assert any(s.held and abs(s.at - mine[0].at) < 1 for s in work_out(lower).structure.steps), (
        "the ground moved, it did not"
    )
    free = let_step_go(held, "G1", "W11", mine[0].at)
    assert work_out(free).structure.steps == work_out(project).structure.steps
    with pytest.raises(EditError, match="higher than the limit"):
        hold_step(project, "G1", "W11", 3000.0, 5 * FOOT)
    with pytest.raises(EditError, match="between the ends"):
        hold_step(project, "G1", "W11", -10.0, 8 * INCH)


def test_a_sloped_footing_falls_one_in_ten_at_most() -> None:
    project = set_run(stepped_house(3 * FOOT), "G1", follow="slope")
    surface = surface_of(project.spots)
    structure = work_out(project).structure
    sloped = [m for m in of_role(structure, "footing") if abs(m.solid.normal[2]) < 0.5]
    assert sloped
    for m in sloped:
        low = sorted(p[1] for p in m.solid.outline)[:2]
        assert abs(low[1] - low[0]) <= 0.1 * m.length + 1e-6
        places = np.linspace(m.start[:2], m.end[:2], 50)
        assert (
            m.solid.bounds()[0][2]
            <= heights_at(surface, places).max() - project.site.frost_depth + 1.0
        )
    assert concrete(structure) == pytest.approx(union_volume(structure), rel=1e-6)


def test_strips_step_down_to_a_deeper_footing_beside_them() -> None:
    """The strip of the main block comes down to the basement's footing before it meets it, within
    one module of 45°."""
    structure = worked().structure
    cellar = min(m.solid.bounds()[0][2] for m in of_role(structure, "footing", the("run:G2")))
    near = next(
        m
        for m in of_role(structure, "footing", the("run:G1"))
        if str(m.id).endswith("footing:W101")
    )
    module = whole().site.steps.module
    assert cellar - 1e-6 <= near.solid.bounds()[0][2] <= cellar + module


def test_finer_rule_gives_more_steps() -> None:
    project = stepped_house()
    fine = set_site(project, steps=StepRule(8 * INCH, 8 * INCH, 24 * INCH))
    steps = work_out(fine).structure.steps
    assert len(steps) >= 12
    assert {round(abs(s.drop), 3) for s in steps} == {203.2}


# -- sills and anchors --------------------------------------------------------


def test_bolts_keep_every_distance_and_stand_clear_of_joists(plain: Project) -> None:
    """IRC 2021 R403.1.6: at most 6 ft apart, within 12 in of each end, two at least; clear of the
    joists over the sill."""
    checked = work_out(plain)
    sills = of_role(checked.structure, "sill")
    assert len(sills) == len(checked.structure.bolts)
    for m in sills:
        bolts = checked.structure.bolts[m.id]
        assert not bolts.blocked
        assert len(bolts.at) >= 2
        assert bolts.at[0] <= 12 * INCH + 0.5
        assert m.length - bolts.at[-1] <= 12 * INCH + 0.5
        assert max(b - a for a, b in itertools.pairwise(bolts.at)) <= 6 * FOOT + 0.5
        way = np.array(m.end[:2]) - np.array(m.start[:2])
        way /= np.hypot(*way)
        for joist in checked.structure.members:
            for s in joist.carrier.supports:
                if s.on == m.id:
                    along = float((np.array(s.point) - np.array(m.start[:2])) @ way)
                    assert (
                        min(abs(along - at) for at in bolts.at)
                        >= joist.solid.depth / 2 + 1.5 * INCH - 0.5
                    )


def test_pads_take_posts_and_their_loads_to_the_soil() -> None:
    project = put_support(house(), "pad", (60 * FOOT, 0.0))
    low, high = level(project, "FB").elevation, level(project, "FT").elevation
    project = put_support(project, "pier", (60 * FOOT, 0.0))
    project = replace(
        project,
        point_supports=tuple(
            replace(s, loads=Cases(1000.0, 2000.0, 0.0, 500.0)) if s.kind == "pier" else s
            for s in project.point_supports
        ),
    )
    checked = work_out(project)
    pad = next(m for m in checked.structure.members if m.kind is kinds.PAD)
    pier = next(m for m in checked.structure.members if m.kind is kinds.PIER)
    own = (pad.solid.volume + pier.solid.volume) * project.site.concrete
    assert list(checked.path.soil[pad.id]) == pytest.approx(
        list(Cases(1000.0 + own, 2000.0, snow=500.0))
    )
    assert pad.solid.bounds()[0][2] == pytest.approx(low)
    assert pad.solid.top() == pytest.approx(high)
    assert sum(checked.path.applied) == pytest.approx(sum(checked.path.soil_total), rel=1e-9)


def test_a_wall_that_stands_on_a_run_in_two_parts() -> None:
    """A cellar under the middle of a wall leaves the strip on both sides of it; steps and pockets
    find their part."""
    plain = house(60 * FOOT, 16 * FOOT)
    parts = usual_parts(plain, "basement")
    ring = [
        (20 * FOOT, 0.0),
        (40 * FOOT, 0.0),
        (40 * FOOT, 16 * FOOT),
        (20 * FOOT, 16 * FOOT),
        (20 * FOOT, 0.0),
    ]
    project = place_foundation(plain, "basement", parts, path=ring, top="TF", base="FT")
    strip = project.runs[0]
    assert [
        (s.wall, round(s.start / FOOT), round(s.end / FOOT)) for s in strip.spans if s.wall == "W11"
    ] == [
        ("W11", 0, 20),
        ("W11", 40, 60),
    ]
    structure = work_out(project).structure
    south = [m for m in of_role(structure, "stem", the("run:G1")) if ":W11" in str(m.id)]
    assert len(south) == 2
    assert concrete(structure) == pytest.approx(union_volume(structure), rel=1e-6)
    pocket = work_out(
        add_pocket(project, "G1", "W11", 50 * FOOT, (6 * INCH, 10 * INCH, 4 * INCH))
    ).structure
    assert (concrete(structure) - concrete(pocket)) / INCH**3 == pytest.approx(6 * 10 * 4, rel=1e-6)


def test_joists_end_behind_the_ledge_and_every_load_finds_the_soil() -> None:
    """A ledge 4 in wide round the house: sills, rims and joists stand behind it, all bearings are
    there."""
    project = add_shelf(
        set_run(house(), "G1", stem_thickness=12 * INCH), "G1", Shelf("ledge", 4 * INCH, 8 * INCH)
    )
    checked = work_out(project)
    rims = [m for m in checked.structure.members if m.kind is kinds.RIM]
    assert min(m.solid.bounds()[0][1] for m in rims) == pytest.approx(4 * INCH, abs=0.6)
    joists = [m for m in checked.structure.members if m.kind is kinds.JOIST]
    assert all(s.on for m in joists for s in m.carrier.supports)
    assert sum(checked.path.soil_total) == pytest.approx(sum(checked.path.applied), rel=1e-6)
