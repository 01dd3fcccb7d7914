"""Edits of floors, products, holes and changes by hand: what they refuse, what follows when walls
and levels change."""

import pytest
from msgspec.structs import replace

from balken.framing.hosts.floor_bearing import bearings_of_floor, holes_of
from balken.geometry.plane import Ring, box
from balken.model.edits import change_member, drop_change, remove_host
from balken.model.edits.bores import add_bore, set_bore
from balken.model.edits.common import EditError
from balken.model.edits.floors import (
    add_floor,
    add_opening,
    bears_under,
    change_floor_build_up,
    copy_floor,
    cut_floor,
    first_build_up,
    floors_with,
    move_hole,
    remove_floor_build_up,
    remove_opening,
    set_floor_edge,
    set_opening,
    walls_under,
)
from balken.model.edits.hosts import add_member, drop_changes, remove_member
from balken.model.edits.products import add_product, first_product, remove_product, set_product
from balken.model.edits.walls import join_walls, remove_walls, split_wall
from balken.model.new import new_building
from balken.model.project import Project
from balken.model.sections import BY_CAPACITY, FAMILY_WORDS, Family
from balken.session.ferry_hall import ferry_hall
from named import the


def storey() -> tuple[Project, str]:
    """A building of two storeys with one floor between them."""
    project = new_building("House", 9000.0, 4800.0, 2, "metric")
    return add_floor(project, "L2", walls_under(project, "P1"))


def rounded(ring: Ring) -> list[tuple[float, float]]:
    """Return the corners of an outline in order, to a thousandth of a millimetre."""
    return sorted((round(x, 3) + 0.0, round(y, 3) + 0.0) for x, y in ring)


# -- placing ------------------------------------------------------------------


def test_a_floor_bears_on_the_plate_next_under_it() -> None:
    project = new_building("House", 9000.0, 4800.0, 3, "metric")
    assert [bears_under(project, key) for key in ("L2", "L3")] == ["P1", "P2"]
    with pytest.raises(EditError, match="No level lies under Floor 1"):
        bears_under(project, "L1")


def test_the_walls_under_a_floor_end_where_it_bears() -> None:
    project = new_building("House", 9000.0, 4800.0, 2, "metric")
    assert set(walls_under(project, "P1")) == {w.id for w in project.walls if w.base == "L1"}


def test_a_floor_without_walls_or_corners_is_refused() -> None:
    project = new_building("House", 9000.0, 4800.0, 2, "metric")
    with pytest.raises(EditError, match="three corners or more"):
        add_floor(project, "L2")
    with pytest.raises(EditError, match="no field “colour”"):
        add_floor(project, "L2", walls_under(project, "P1"), colour="red")


def test_a_floor_goes_with_its_changes_and_added_pieces() -> None:
    project, key = storey()
    project = change_member(project, the(f"floor:{key}/joist:03a"), shift=20.0)
    project, _ = add_member(project, the(f"floor:{key}"), (1000.0, 200.0), (1000.0, 4500.0))
    after = remove_host(project, the(f"floor:{key}"))
    assert (after.floors, after.changes, after.added) == ((), (), ())


def test_a_floor_is_not_copied_onto_itself() -> None:
    project, key = storey()
    with pytest.raises(EditError, match="lies at this level already"):
        copy_floor(project, key, "L2")


def test_a_copy_takes_openings_along_by_their_place() -> None:
    project = new_building("House", 9000.0, 4800.0, 3, "metric")
    project, key = add_floor(project, "L2", walls_under(project, "P1"))
    wall = next(w for w in project.walls if w.name == "south 1")
    project, _ = add_opening(
        project, key, "stair", wall=wall.id, at=(3000.0, 1500.0), size=(2000.0, 900.0)
    )
    project, new = copy_floor(project, key, "L3")
    first, second = (holes_of(project, f)[0].ring for f in project.floors)
    assert rounded(first) == rounded(second)
    made = next(f for f in project.floors if f.id == new)
    assert made.openings[0].wall == ""  # its wall stands a storey lower


# -- build-ups ----------------------------------------------------------------


def test_a_build_up_in_use_stays_in_the_list() -> None:
    project, key = storey()
    body = next(f.build_up for f in project.floors if f.id == key)
    assert floors_with(project, body) == (key,)
    with pytest.raises(EditError, match="1 floor is built up so"):
        remove_floor_build_up(project, body)
    project, other = change_floor_build_up(project, body, "these", [key], subfloor=25.0)
    assert all(b.id != body for b in remove_floor_build_up(project, body).build_ups)
    assert other != body


def test_the_same_change_twice_makes_one_build_up() -> None:
    project, key = storey()
    body = next(f.build_up for f in project.floors if f.id == key)
    project, first = change_floor_build_up(project, body, "copy", subfloor=25.0)
    project, second = change_floor_build_up(project, body, "copy", subfloor=25.0)
    assert first == second
    assert len(project.build_ups) == 2


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"sizes": ()}, "offers no sizes"),
        ({"sizes": ("38x999",)}, "no section “38x999”"),
        ({"subfloor": -1.0}, "subfloor must be zero or more"),
        ({"kind": "slab", "slab": 0.0}, "slab without a thickness"),
        ({"blocks": True}, "no field “blocks”"),
    ],
)
def test_a_build_up_that_cannot_be_is_refused(fields: dict[str, object], words: str) -> None:
    project, key = storey()
    body = next(f.build_up for f in project.floors if f.id == key)
    with pytest.raises(EditError, match=words):
        change_floor_build_up(project, body, "all", **fields)


def test_usual_build_ups_are_complete() -> None:
    project, _ = storey()
    assert first_build_up(project).sizes
    assert first_build_up(project, "slab").slab == 250.0


# -- openings, edges, cuts ----------------------------------------------------


def test_an_opening_needs_a_size_and_a_chimney_is_kept_clear() -> None:
    project, key = storey()
    with pytest.raises(EditError, match="needs a length and a width"):
        add_opening(project, key, "stair", size=(1000.0, 0.0))
    project, hole = add_opening(project, key, "chimney", at=(3000.0, 2000.0), size=(500.0, 500.0))
    assert project.floors[0].openings[0].clear == pytest.approx(50.8)
    wider = set_opening(project, key, hole, size=(700.0, 500.0))
    assert wider.floors[0].openings[0].size == (700.0, 500.0)
    assert remove_opening(wider, key, hole).floors[0].openings == ()


def test_an_opening_is_moved_in_plan_even_where_it_is_tied() -> None:
    project, key = storey()
    wall = next(w for w in project.walls if w.name == "west 1")
    project, hole = add_opening(
        project, key, "stair", wall=wall.id, at=(2400.0, 3000.0), size=(900.0, 900.0)
    )
    before = box(holes_of(project, project.floors[0])[0].ring)
    moved = move_hole(project, key, hole, (150.0, -40.0))
    after = box(holes_of(moved, moved.floors[0])[0].ring)
    assert [b - a for a, b in zip(before, after)] == pytest.approx([150.0, -40.0, 150.0, -40.0])
    assert moved.floors[0].openings[0].wall == wall.id


def test_an_opening_of_any_shape_keeps_its_corners() -> None:
    project, key = storey()
    ring = ((0.0, 0.0), (1200.0, 0.0), (1200.0, 700.0), (500.0, 1300.0), (0.0, 900.0))
    project, _ = add_opening(project, key, "atrium", at=(3000.0, 1500.0), corners=ring)
    assert box(holes_of(project, project.floors[0])[0].ring) == pytest.approx(
        (3000.0, 1500.0, 4200.0, 2800.0)
    )


def test_an_edge_that_says_nothing_is_dropped() -> None:
    project, key = storey()
    wall = project.floors[0].walls[0]
    out = set_floor_edge(project, key, wall, out=300.0)
    assert len(out.floors[0].edges) == 1
    assert set_floor_edge(out, key, wall, out=0.0).floors[0].edges == ()


def test_edges_and_openings_stay_with_their_wall_when_it_is_split_joined_or_gone() -> None:
    project, key = storey()
    wall = next(w for w in project.walls if w.name == "south 1")
    project = set_floor_edge(project, key, wall.id, out=400.0)
    project, _ = add_opening(
        project, key, "stair", wall=wall.id, at=(6000.0, 1800.0), size=(900.0, 900.0)
    )
    before = holes_of(project, project.floors[0])[0].ring
    split = split_wall(project, wall.id, 4000.0)
    floor = split.floors[0]
    assert len(floor.edges) == 2
    assert floor.openings[0].wall != wall.id
    assert rounded(holes_of(split, floor)[0].ring) == rounded(before)
    joined = join_walls(split, wall.id, floor.openings[0].wall)
    assert rounded(holes_of(joined, joined.floors[0])[0].ring) == rounded(before)
    gone = remove_walls(joined, [joined.floors[0].openings[0].wall])
    assert (gone.floors[0].openings, gone.floors[0].edges) == ((), ())


def test_a_cut_without_length_is_refused_and_parts_can_differ() -> None:
    project, key = storey()
    with pytest.raises(EditError, match="two places that lie apart"):
        cut_floor(project, key, (1.0, 1.0), (1.0, 1.0))
    project, new = cut_floor(project, key, (4000.0, 0.0), (4000.0, 1.0), span="x", spacing=300.0)
    first, second = (next(f for f in project.floors if f.id == k) for k in (key, new))
    assert (first.span, second.span, second.spacing) == ("short", "x", 300.0)
    both = [bearings_of_floor(project, f) for f in (first, second)]
    assert [round(box(b.outline)[2] - box(b.outline)[0]) for b in both if b] == [4000, 5000]


# -- products -----------------------------------------------------------------


@pytest.mark.parametrize("family", [f for f in FAMILY_WORDS if f != "box"])
def test_every_family_can_be_typed_and_used(family: Family) -> None:
    project, key = storey()
    made = first_product(project, family)
    project = add_product(project, made)
    assert project.products == (made,)
    if family in (*BY_CAPACITY, "lvl"):
        body = next(f.build_up for f in project.floors if f.id == key)
        used, _ = change_floor_build_up(project, body, "all", sizes=(made.id,))
        with pytest.raises(EditError, match="still used"):
            remove_product(used, made.id)
    assert remove_product(project, made.id).products == ()


def test_a_product_without_what_it_needs_is_refused() -> None:
    project, _ = storey()
    project = add_product(project, first_product(project, "i-joist"))
    with pytest.raises(EditError, match=r"lacks its EI\. Type what its maker publishes"):
        set_product(project, "I-joist 1", stiffness=0.0)
    with pytest.raises(EditError, match="no product “X”"):
        set_product(project, "X", stiffness=1.0)
    nameless = replace(project.products[0], id=" ")
    with pytest.raises(EditError, match="needs a name"):
        add_product(project, nameless)


# -- by hand ------------------------------------------------------------------


def test_a_change_that_changes_nothing_is_dropped() -> None:
    project, key = storey()
    name = the(f"floor:{key}/joist:03a")
    project = change_member(project, name, along=30.0, turn=5.0)
    assert len(project.changes) == 1
    assert change_member(project, name, along=0.0, turn=0.0).changes == ()
    assert drop_change(project, name).changes == ()


def test_changes_are_taken_back_by_host_or_all() -> None:
    hall = ferry_hall()
    project = change_member(hall, the("floor:F1/joist:03a"), up=5.0)
    project = change_member(project, the("beam:B1/beam:1"), shift=10.0)
    project, key = add_member(project, the("floor:F1"), (5500.0, 1300.0), (7000.0, 1300.0))
    one = drop_changes(project, the("floor:F1"))
    assert [c.member for c in one.changes] == [the("beam:B1/beam:1")]
    assert one.added == ()
    everything = drop_changes(project)
    assert (everything.changes, everything.added) == ((), ())
    assert remove_member(project, the(f"floor:F1/joist:+{key}a")).added == ()


def test_a_piece_is_added_to_a_floor_and_has_a_length() -> None:
    hall = ferry_hall()
    with pytest.raises(EditError, match="added to a floor"):
        add_member(hall, the("beam:B1"), (0.0, 0.0), (1000.0, 0.0))
    with pytest.raises(EditError, match="two ends that lie apart"):
        add_member(hall, the("floor:F1"), (5500.0, 1300.0), (5500.0, 1300.4))


def test_a_hole_is_changed_within_its_limits() -> None:
    hall = ferry_hall()
    project, key = add_bore(hall, the("floor:F1/joist:05b"), at=500.0, size=40.0, up=117.0)
    assert set_bore(project, key, at=700.0).bores[0].at == 700.0
    with pytest.raises(EditError, match="at least 1 mm"):
        set_bore(project, key, size=0.0)
