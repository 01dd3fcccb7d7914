"""Findings of floors, beams and posts: each is made to happen, says what, where and by how much,
and its mend mends it."""

import pytest

from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.model.beams import BeamEnd, BeamKind
from balken.model.cases import Cases
from balken.model.edits import change_member
from balken.model.edits.beams import fill_outline, put_beam, set_beams
from balken.model.edits.bores import add_bore, drop_bore
from balken.model.edits.floors import set_opening
from balken.model.edits.openings import add_opening as add_door
from balken.model.edits.supports import put_support, remove_supports, set_supports
from balken.model.edits.walls import set_walls
from balken.model.project import Project
from balken.model.walls import Opening
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.units import INCH
from balken.works.building import work_out
from buildings import misfits
from named import the

HALL = ferry_hall()
GALLERY = next(x.id for x in HALL.levels if x.name == "Gallery")


def of(project: Project, kind: str) -> list[Finding]:
    return [f for f in findings(work_out(project)) if f.kind == kind]


def test_a_post_on_a_joist_is_told() -> None:
    project = put_support(
        HALL,
        "post",
        (8700.0, 2500.0),
        base=GALLERY,
        top=GALLERY,
        top_offset=3000.0,
        loads=Cases(5e3, 0, 0, 0),
    )
    (found,) = of(project, "no foot")
    assert "stands on joist F1-J" in found.text
    assert "Put a beam or a post under it" in found.text


def test_a_post_on_nothing_says_how_far_down_something_is() -> None:
    pad = next(s for s in HALL.point_supports if s.kind == "pad" and s.lines[0] == "A1")
    project = remove_supports(HALL, [pad.id])
    (found,) = of(project, "no foot")
    assert "stands on nothing, at A/1" in found.text
    assert of(HALL, "no foot") == []


def test_a_joist_left_hanging_is_told() -> None:
    project = change_member(HALL, the("floor:F1/joist:05a"), longer=(0.0, -400.0))
    (found,) = of(project, "unsupported")
    assert "F1-J05a has nothing under an end" in found.text


def test_a_beam_left_hanging_is_told_with_what_helps() -> None:
    project, _ = put_beam(
        HALL,
        GALLERY,
        BeamEnd((1000.0, 14000.0)),
        BeamEnd((4000.0, 14000.0)),
        BeamKind("GL 140x320"),
    )
    (found,) = of(project, "unsupported")
    assert "Put a post or a wall under it" in found.text


def test_an_opening_over_a_beam_is_told_with_its_length() -> None:
    hole = HALL.floors[0].openings[0]
    project = set_opening(HALL, "F1", hole.id, at=(3600.0, 2600.0))
    found = of(project, "clash")
    assert len(found) == 1
    assert "Beam Y1-2 runs 2900 through the stair opening" in found[0].text
    assert found[0].amount == pytest.approx(2900.0)


def test_a_bay_with_crossing_lines_is_told() -> None:
    ring = ((0.0, 0.0), (6000.0, 4000.0), (6000.0, 0.0), (0.0, 4000.0))
    project, key = fill_outline(HALL, GALLERY, ring, BeamKind("GL 140x320"))
    found = of(project, "not framed")
    assert [f.host for f in found] == [the(f"bay:{key}")]
    assert "its outline crosses itself" in found[0].text


def test_a_beam_that_comes_down_into_a_doors_head_is_told() -> None:
    level = (w for w in HALL.walls if abs(w.start[1] - w.end[1]) < 1.0)
    wall = next(w for w in level if not w.openings)
    project = add_door(HALL, wall.id, Opening("1", "door", 1000.0, 1030.0, 3600.0, 0.0))
    x = (wall.start[0] + wall.end[0]) / 2
    y = wall.start[1]
    ends = BeamEnd((x, y - 900.0)), BeamEnd((x, y + 900.0))
    project, _ = put_beam(project, GALLERY, *ends, BeamKind("GL 140x320"))
    found = [f for f in of(project, "clash") if "opening" in f.text]
    assert len(found) == 1
    # The head lies at 3600, the beam's underside at 3746 - 320 = 3426.
    assert found[0].amount == pytest.approx(174.0)


def test_headroom_under_a_beam_is_measured() -> None:
    host = the("beam:B6")
    project = set_beams(HALL, [host], section="GL 240x720", offset=-1200.0)
    (found,) = [f for f in of(project, "headroom") if f.host == host]
    # Underside at 3746 - 1200 - 720 = 1826 over the hall's floor at 0; IRC R305.1 asks 6 ft 8 in.
    assert found.amount == pytest.approx(80 * INCH - 1826.0)


def test_an_end_that_lifts_off_is_told_with_its_force() -> None:
    kind = BeamKind("GL 200x600")
    project, key = put_beam(
        HALL,
        GALLERY,
        BeamEnd(grid="G1", lines=("A1", "N4")),
        BeamEnd(grid="G1", lines=("A1", "N5")),
        kind,
        out=(0.0, 4500.0),
        loads=Cases(0.2, 12.0, 0.0, 0.0),
    )
    project = set_beams(project, [the("beam:B4")], offset=-700.0)
    found = [f for f in of(project, "lifts") if f.host == the(f"beam:{key}")]
    assert found
    assert "Tie it down" in found[0].text


def test_a_wall_that_ends_short_of_a_slab_is_raised_to_it() -> None:
    wall = HALL.walls[0]
    project = set_walls(HALL, [wall.id], top_offset=wall.top_offset - 120.0)
    (found,) = [f for f in of(project, "gap") if wall.name in f.place]
    assert found.mend is not None
    assert found.amount == pytest.approx(120.0)
    mended = found.mend.apply(project)
    assert [f for f in of(mended, "gap") if wall.name in f.place] == []


def test_a_beam_that_is_too_weak_is_mended_by_a_stronger_one() -> None:
    project = set_beams(HALL, [the("beam:B6")], section="GL 140x400")
    (found,) = of(project, "over")
    assert found.mend is not None
    assert found.mend.text == "Give its size back to the calculation"
    assert of(found.mend.apply(project), "over") == []


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        (
            {"kind": "hole", "at": 900.0, "size": 100.0, "up": 117.0},
            "wider than a third of the depth, 78",
        ),
        (
            {"kind": "hole", "at": 900.0, "size": 60.0, "up": 60.0},
            "from the underside; 2 in must stay",
        ),
        ({"kind": "notch", "at": 900.0, "size": 30.0}, "middle third"),
        ({"kind": "notch", "at": 400.0, "size": 45.0}, "deeper than a sixth of the depth, 39"),
        ({"kind": "notch", "at": 60.0, "size": 70.0}, "deeper than a quarter of the depth, 59"),
        ({"kind": "hole", "at": 9000.0, "size": 20.0, "up": 117.0}, "past the end"),
    ],
)
def test_holes_and_notches_keep_the_limits_of_the_code(
    fields: dict[str, object], words: str
) -> None:
    # IRC 2021 R502.8.1; the joists are 38 x 235 on spans of about 1.8 m.
    project, key = add_bore(HALL, the("floor:F1/joist:05b"), **fields)
    (found,) = of(project, "bored")
    assert words in found.text
    assert found.mend is not None
    assert of(drop_bore(project, key), "bored") == []


def test_a_hole_within_the_limits_is_no_finding() -> None:
    project, _ = add_bore(
        HALL, the("floor:F1/joist:05b"), kind="hole", at=900.0, size=70.0, up=117.0
    )
    assert of(project, "bored") == []


def test_a_hole_whose_piece_is_gone_is_told() -> None:
    project, _ = add_bore(HALL, the("floor:F1/joist:99a"), at=900.0, size=70.0, up=117.0)
    assert "no longer there" in of(project, "lost change")[0].text


def test_posts_that_are_not_tied_keep_their_levels() -> None:
    post = next(s for s in HALL.point_supports if s.kind == "post")
    project = set_supports(HALL, [post.id], tied=False)
    assert any(f.kind in ("unsupported", "no foot") for f in findings(work_out(project)))


def test_the_bakehouse_has_its_floors_beams_and_posts() -> None:
    checked = work_out(shown_demo())
    roles = {m.role for m in checked.structure.members}
    assert {"beam", "post", "trimmer", "header"} <= roles
    assert [f.kind for f in misfits(findings(checked))] == ["gap"]
