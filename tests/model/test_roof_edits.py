"""Edits of roofs: sides, ridges, skylights; what follows when walls are split, joined or taken
away."""

import pytest

from balken.model.edits import EditError
from balken.model.edits.roofs import (
    add_roof,
    add_roof_opening,
    hip_or_gable,
    move_joint,
    move_roof_opening,
    remove_roof_opening,
    set_part,
    set_roof,
    set_roof_opening,
    set_side,
    turn_ridge,
)
from balken.model.edits.walls import join_walls, remove_walls, split_wall
from balken.model.project import Project
from balken.model.roofs import Rafters, RoofSide, Trusses, overhang_of, side_of

SIDES = ("W11", "W12", "W13", "W14")


def test_a_side_that_differs_in_nothing_is_no_longer_told(plain: Project) -> None:
    steep = set_side(plain, "R1", "W11", rise=9.0, overhang=600.0)
    assert RoofSide("W11", rise=9.0, overhang=600.0) in steep.roofs[0].sides
    assert set_side(steep, "R1", "W11", rise=None, overhang=None) == plain
    with pytest.raises(EditError, match="no field"):
        set_side(plain, "R1", "W11", colour="red")


def test_overhangs_by_kind_of_side(plain: Project) -> None:
    roof = set_roof(plain, "R1", overhang=500.0, rake=200.0).roofs[0]
    assert overhang_of(roof, side_of(roof, "W11")) == 500.0
    assert overhang_of(roof, side_of(roof, "W12")) == 200.0
    assert overhang_of(roof, RoofSide("W12", "gable", overhang=50.0)) == 50.0
    assert (
        overhang_of(roof, RoofSide("W12", "wall"))
        == overhang_of(roof, RoofSide("W12", "runs on"))
        == 0.0
    )


def test_hip_or_gable_takes_one_act_each_way(plain: Project) -> None:
    hip = hip_or_gable(plain, "R1", "W12")
    assert [s.side for s in hip.roofs[0].sides if s.kind == "gable"] == ["W14"]
    assert hip_or_gable(hip, "R1", "W12") == plain


def test_turning_the_ridge_twice_is_where_it_was(plain: Project) -> None:
    turned = turn_ridge(plain, "R1", SIDES)
    assert {s.side for s in turned.roofs[0].sides if s.kind == "gable"} == {"W11", "W13"}
    assert turn_ridge(turned, "R1", SIDES) == plain
    with pytest.raises(EditError, match="one by one"):
        turn_ridge(hip_or_gable(plain, "R1", "W12"), "R1", SIDES)


def test_a_side_follows_its_wall_when_it_is_split_and_joined(plain: Project) -> None:
    split = split_wall(plain, "W12", 3000.0)
    new = next(w.id for w in split.walls if w.id not in {x.id for x in plain.walls})
    assert {s.side for s in split.roofs[0].sides if s.kind == "gable"} == {"W12", "W14", new}
    joined = join_walls(split, "W12", new)
    assert {s.side for s in joined.roofs[0].sides if s.kind == "gable"} == {"W12", "W14"}
    gone = remove_walls(plain, ["W12"])
    assert {s.side for s in gone.roofs[0].sides} == {"W14"}
    assert "W12" not in gone.roofs[0].walls


def test_skylights_are_placed_moved_changed_and_taken_away(plain: Project) -> None:
    made, key = add_roof_opening(plain, "R1", (4000.0, 2000.0), (600.0, 900.0))
    moved = move_roof_opening(made, "R1", key, (100.0, -50.0))
    assert moved.roofs[0].openings[0].at == (4100.0, 1950.0)
    larger = set_roof_opening(moved, "R1", key, size=(700.0, 1000.0))
    assert larger.roofs[0].openings[0].size == (700.0, 1000.0)
    assert remove_roof_opening(larger, "R1", key) == plain
    with pytest.raises(EditError, match="size"):
        set_roof_opening(made, "R1", key, size=(0.0, 900.0))


def test_a_roof_needs_walls_or_corners(plain: Project) -> None:
    with pytest.raises(EditError, match="walls to lie on"):
        add_roof(plain, "P1")
    made, key = add_roof(plain, "P1", corners=((0.0, 0.0), (9000.0, 0.0), (9000.0, 6000.0)))
    assert [r.id for r in made.roofs] == ["R1", key]


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"rise": 61.0}, "too large: at most 60"),
        ({"rise": 0.1}, "too small"),
        ({"overhang": -1.0}, "zero or more"),
        ({"sizes": ("2x7",)}, "no section"),
        ({"heel": 0.0}, "more than zero"),
        ({"slope": 1.0}, "no field"),
        ({"heel": 12000.0}, "heel is too large: at most 3000 mm, 9'-10 1/8\""),
    ],
)
def test_wrong_values_are_refused(plain: Project, fields: dict[str, object], words: str) -> None:
    with pytest.raises(EditError, match=words):
        set_roof(plain, "R1", **fields)


def test_a_kind_of_piece_is_cut_from_what_is_said_left_out_and_given_back(plain: Project) -> None:
    project = set_part(plain, "R1", "hips", section="2x10")
    assert project.roofs[0].rafters.sections == (("hips", "2x10"),)
    out = set_part(project, "R1", "hips", section=None, there=False)
    assert out.roofs[0].rafters.sections == ()
    assert out.roofs[0].rafters.left_out == ("hips",)
    assert set_part(out, "R1", "hips", section=None) == plain


def test_no_section_that_is_not_sold_is_taken(plain: Project) -> None:
    with pytest.raises(EditError, match="no section “3x17”"):
        set_part(plain, "R1", "jacks", section="3x17")
    with pytest.raises(EditError, match="no section “oak”"):
        set_roof(plain, "R1", rafters=Rafters(fascia="oak"))
    with pytest.raises(EditError, match="no section “9x9”"):
        set_roof(plain, "R1", trusses=Trusses(chords=("9x9",)))


def test_a_joint_is_moved_from_where_it_is_and_forgotten_at_its_place(plain: Project) -> None:
    project = move_joint(move_joint(plain, "R1", 2, 100.0), "R1", 2, 50.0)
    assert project.roofs[0].trusses.moved == ((2, 150.0),)
    assert move_joint(project, "R1", 2, -150.0).roofs[0].trusses.moved == ()
