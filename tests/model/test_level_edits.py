"""Levels: locked ones move together, free ones follow what is built, and what hangs on one goes
somewhere."""

import pytest

from balken.fit.findings import findings
from balken.framing.hosts.heights import build_up_of
from balken.model.catalogue import catalogue_of
from balken.model.edits import (
    EditError,
    add_level,
    copy_level,
    hanging,
    hold_level,
    lock_levels,
    move_level,
    remove_level,
    set_floor,
    set_level_role,
    set_run,
    unlock_level,
)
from balken.model.project import Project, level, wall_top
from balken.units import INCH
from balken.works.building import work_out
from balken.works.column import column_sums, follow, storey_sums
from balken.works.sizes import sizes_of
from named import the


def height(project: Project, key: str) -> float:
    return level(project, key).elevation


def test_locked_levels_move_by_as_much(demo: Project) -> None:
    locked = lock_levels(demo, "L2", "P2")
    moved = move_level(locked, "L2", height(demo, "L2") + 100.0)
    assert height(moved, "P2") - height(demo, "P2") == pytest.approx(100.0)
    assert height(moved, "P1") == height(demo, "P1"), "the others stay"


def test_locking_a_third_joins_the_group_and_letting_go_dissolves_a_pair(demo: Project) -> None:
    three = lock_levels(lock_levels(demo, "L2", "P2"), "P1", "P2")
    assert len({level(three, k).lock for k in ("L2", "P2", "P1")}) == 1
    two = unlock_level(three, "P1")
    assert level(two, "P1").lock == ""
    assert level(two, "L2").lock
    none = unlock_level(two, "L2")
    assert all(x.lock == "" for x in none.levels), "a lock of one is none"
    with pytest.raises(EditError, match="not to itself"):
        lock_levels(demo, "L2", "L2")


def test_copies_stand_each_over_the_last_with_names_of_their_own(demo: Project) -> None:
    after = copy_level(demo, "L2", 3000.0, 3)
    new = [x for x in after.levels if x.id not in {y.id for y in demo.levels}]
    assert [x.elevation - height(demo, "L2") for x in new] == pytest.approx(
        [3000.0, 6000.0, 9000.0]
    )
    assert [x.role for x in new] == ["floor"] * 3
    assert len({x.name for x in after.levels}) == len(after.levels)
    down = copy_level(demo, "FT", -8 * INCH)
    made = next(x for x in down.levels if x.id not in {y.id for y in demo.levels})
    assert (made.role, made.elevation) == (
        "footing_top",
        pytest.approx(height(demo, "FT") - 8 * INCH),
    )


@pytest.mark.parametrize(("distance", "times"), [(0.0, 1), (100.0, 0), (100.0, 61)])
def test_copies_that_cannot_be(demo: Project, distance: float, times: int) -> None:
    with pytest.raises(EditError):
        copy_level(demo, "L2", distance, times)


def test_several_levels_of_one_role(demo: Project) -> None:
    """Two heights of footing, for outside walls and for inside pads."""
    after = add_level(demo, "footing_top", "Top of pads", height(demo, "FT") - 200.0)
    assert sum(x.role == "footing_top" for x in after.levels) == 2
    with pytest.raises(EditError, match="called"):
        add_level(after, "floor", "Top of pads", 0.0)
    with pytest.raises(EditError, match="kilometre"):
        add_level(demo, "floor", "Far", 2e6)


def test_what_hangs_on_a_level_is_said_and_goes_over(demo: Project) -> None:
    assert hanging(demo, "L1") == ["5 walls", "1 floor"]
    with pytest.raises(EditError, match="5 walls, 1 floor"):
        remove_level(demo, "L1")
    with pytest.raises(EditError, match="another one"):
        remove_level(demo, "L1", "L1")
    with pytest.raises(EditError, match="cannot go that way"):
        remove_level(demo, "L1", "P2")
    spare = add_level(demo, "floor", "Spare", height(demo, "L1") + 10.0)
    key = next(x.id for x in spare.levels if x.name == "Spare")
    after = remove_level(spare, "L1", key)
    assert all(x.id != "L1" for x in after.levels)
    assert {w.base for w in after.walls} == {key, "L2"}
    assert next(f for f in after.floors if f.id == "F1").level == key
    assert remove_level(spare, key).levels == demo.levels, "nothing hung on it"


def test_a_column_adds_up_part_by_part(demo: Project) -> None:
    sums = {s.floor: s for s in column_sums(demo)}
    first = sums["F1"]
    assert [p.name for p in first.parts] == ["sill plate", "2x10 joists", "subfloor"]
    assert [p.depth for p in first.parts] == pytest.approx([1.5 * INCH, 9.25 * INCH, 0.75 * INCH])
    assert abs(first.over) < 1e-6
    assert sums["F2"].over == pytest.approx(0.75 * INCH), "the architect left 3/4 in too much"


def test_a_free_level_follows_the_depth_and_a_held_one_leaves_a_gap(demo: Project) -> None:
    deeper = follow(set_floor(demo, "F1", section="2x12"))
    assert height(deeper, "TF") == pytest.approx(height(demo, "TF") - 2 * INCH), (
        "the foundation goes down by 2 in"
    )
    assert height(deeper, "L1") == height(demo, "L1"), "the architect's floor is held"
    held = follow(set_floor(hold_level(demo, "TF", True), "F1", section="2x12"))
    assert height(held, "TF") == height(demo, "TF")
    gap = next(
        f for f in findings(work_out(held)) if f.host == the("floor:F1") and f.kind == "overlap"
    )
    assert gap.amount == pytest.approx(2 * INCH, abs=0.01)
    assert gap.mend is not None


def test_a_free_floor_rises_with_its_joists_and_carries_its_storey(demo: Project) -> None:
    free = follow(hold_level(demo, "L2", False))
    floor = next(f for f in free.floors if f.id == "F2")
    depth = catalogue_of("us").sections[sizes_of(free)[the("floor:F2")].size.section].depth
    top = height(free, "P1") + depth + build_up_of(free, floor).subfloor
    assert height(free, "L2") == pytest.approx(top)
    assert all(
        f.host != the("floor:F2") or f.kind not in ("gap", "overlap")
        for f in findings(work_out(free))
    )


def test_a_dragged_level_is_held(demo: Project) -> None:
    assert not level(demo, "TF").held
    assert level(move_level(demo, "TF", height(demo, "TF") - 50.0), "TF").held


def test_a_foundation_wall_on_the_slab_is_met_with_why_not(demo: Project) -> None:
    """The right levels are the default; the commonest mistake is said, with its mend."""
    assert (level(demo, demo.runs[0].base).role, level(demo, demo.runs[0].top).role) == (
        "footing_top",
        "foundation_top",
    )
    slab = add_level(demo, "slab", "Basement slab", height(demo, "FT") + 100.0)
    key = next(x.id for x in slab.levels if x.role == "slab")
    wrong = set_run(slab, "G1", base=key)
    found = next(f for f in findings(work_out(wrong)) if f.kind == "base")
    assert found.amount == pytest.approx(100.0)
    assert "poured inside the wall" in found.text
    assert found.mend is not None
    assert found.mend.apply(wrong).runs[0].base == demo.runs[0].base


def test_roles_can_be_changed(demo: Project) -> None:
    assert level(set_level_role(demo, "P2", "ridge"), "P2").role == "ridge"


def test_walls_follow_the_level_they_reach(demo: Project) -> None:
    moved = move_level(demo, "P2", height(demo, "P2") + 304.8)
    for before, after in zip(demo.walls, moved.walls):
        by = 304.8 if before.top == "P2" else 0.0
        assert wall_top(moved, after) - wall_top(demo, before) == pytest.approx(by)


def test_a_storey_is_plates_and_studs(demo: Project) -> None:
    """Two top plates and one bottom plate of 1 1/2 in (dressed 2x, PS 20): 92 5/8 in studs make 8
    ft 1 1/8 in."""
    first = next(s for s in storey_sums(demo) if s.under == "L1")
    assert [p.name for p in first.parts] == ["bottom plate", "studs", "two top plates"]
    assert [p.depth for p in first.parts] == pytest.approx([38.1, 92.625 * 25.4, 76.2])
    assert sum(p.depth for p in first.parts) == pytest.approx(97.125 * 25.4)


def test_what_an_edit_breaks_is_said_as_the_thing_it_is(demo: Project) -> None:
    with pytest.raises(
        EditError, match=r"^“Plate 1” cannot go to .*: Wall “south 1” ends below its own foot"
    ):
        move_level(demo, "P1", -100.0)
    with pytest.raises(
        EditError,
        match=r"^“Top of footing” cannot go to .*: Foundation “G1” runs from bottom of footing",
    ):
        move_level(demo, "FT", height(demo, "FB"))
    with pytest.raises(EditError, match=r"^Foundation “G1” .* no height left"):
        set_run(demo, "G1", base="FB")


def test_a_plate_that_is_not_held_keeps_its_studs_when_its_floor_moves(demo: Project) -> None:
    free = hold_level(hold_level(demo, "P1", False), "P2", False)
    up = move_level(free, "L1", 100.0)
    assert height(up, "P1") - height(up, "L1") == pytest.approx(
        height(demo, "P1") - height(demo, "L1")
    )
    assert not level(up, "P1").held
    assert height(up, "P2") == height(demo, "P2"), "the floor under it is held and stays"
    assert height(move_level(demo, "L1", 100.0), "P1") == height(demo, "P1"), "a held plate stays"
    kept = move_level(free, "P1", height(demo, "P1") + 50.0, hold=False)
    assert not level(kept, "P1").held
