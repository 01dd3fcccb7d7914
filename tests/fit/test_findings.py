"""Each kind of finding: it appears where it should, says by how much, and its mend does what it
says."""

import msgspec
import pytest

from balken.fit.finding import Finding, amount_text
from balken.fit.findings import findings
from balken.fit.places import place_name
from balken.model.edits import change_member, move_level, set_floor, set_roof, set_site
from balken.model.project import Project, level
from balken.units import FOOT, INCH, PSF
from balken.works.building import work_out
from buildings import house, misfits
from named import the


def of_kind(project: Project, kind: str) -> list[Finding]:
    return [f for f in findings(work_out(project)) if f.kind == kind]


def test_the_demo_has_its_one_gap(demo: Project) -> None:
    found = misfits(findings(work_out(demo)))
    assert [(f.kind, amount_text(demo, f)) for f in found] == [("gap", '3/4"')]


@pytest.mark.parametrize(("by", "kind"), [(30.0, "gap"), (-30.0, "overlap")])
def test_levels_that_do_not_add_up(plain: Project, by: float, kind: str) -> None:
    held = set_floor(plain, "F1", section="2x10", spacing=12 * INCH)
    exact = held
    for found in of_kind(held, "gap") + of_kind(held, "overlap"):
        assert found.mend is not None
        exact = found.mend.apply(held)
    moved = move_level(exact, "L1", level(exact, "L1").elevation + by)
    found_now = of_kind(moved, kind)
    assert [f.amount for f in found_now] == [pytest.approx(30.0)]
    assert found_now[0].height is not None
    assert found_now[0].height[1] - found_now[0].height[0] == pytest.approx(30.0)


def test_a_gap_mends(demo: Project) -> None:
    gap = of_kind(demo, "gap")[0]
    assert gap.mend is not None
    assert misfits(findings(work_out(gap.mend.apply(demo)))) == []


def test_a_deeper_joist_fills_a_gap_exactly(demo: Project) -> None:
    """Raise Floor 2 so that the gap is the 2 in between a 2x8 and a 2x10: the mend offers the
    2x10."""
    raised = move_level(demo, "L2", level(demo, "P1").elevation + 10 * INCH)
    gap = of_kind(raised, "gap")[0]
    assert gap.amount == pytest.approx(2 * INCH)
    assert gap.mend is not None
    assert "2x10" in gap.mend.text
    assert of_kind(gap.mend.apply(raised), "gap") == []


def test_foundation_too_near_the_ground(plain: Project) -> None:
    ground = level(plain, "GR")
    near = move_level(plain, "GR", level(plain, "TF").elevation - 4 * INCH)
    found = of_kind(near, "clearance")
    assert [f.amount for f in found] == [pytest.approx(2 * INCH)]
    assert '4"' in found[0].text
    assert ground.elevation < level(near, "GR").elevation
    assert found[0].mend is not None
    assert of_kind(found[0].mend.apply(near), "clearance") == []


def test_footing_above_frost(plain: Project) -> None:
    cold = set_site(plain, frost_depth=42 * INCH)
    found = of_kind(cold, "frost")
    assert [f.amount for f in found] == [pytest.approx(6 * INCH)]
    assert found[0].mend is not None
    mended = found[0].mend.apply(cold)
    assert of_kind(mended, "frost") == []
    heights = [level(p, "FT").elevation - level(p, "FB").elevation for p in (cold, mended)]
    assert heights[0] == pytest.approx(heights[1]), "the footing keeps its thickness"


def test_short_bearing_says_where(plain: Project) -> None:
    """Narrower and narrower bearings, down to joists on a bare stem of 70 mm behind a rim of 1 1/2
    in: on concrete wood bears 3 in (IRC R502.6)."""
    walls = tuple(
        msgspec.structs.replace(w, thickness=60.0) if w.id == "W15" else w for w in plain.walls
    )
    thin = msgspec.structs.replace(plain, walls=walls)
    found = [f for f in of_kind(thin, "bearing") if f.host == the("floor:C1")]
    assert found == [], "the narrowest plate is a 2x4: 1 3/4 in on each side is enough"
    run = msgspec.structs.replace(plain.runs[0], sill="2x4")
    narrow = msgspec.structs.replace(plain, runs=(run,))
    assert of_kind(narrow, "bearing") == [], "3 1/2 in less a rim of 1 1/2 in leaves 2 in"
    flat = msgspec.structs.replace(
        plain, runs=(msgspec.structs.replace(run, sill="", stem_thickness=70.0),)
    )
    short = of_kind(flat, "bearing")
    assert [f.host for f in short] == [the("floor:F1")]
    assert short[0].amount == pytest.approx(76.2 - (70.0 - 38.1), abs=1e-6)
    assert "IRC R502.6" in short[0].text
    assert short[0].place


def test_an_end_with_nothing_under_it(plain: Project) -> None:
    floor = plain.floors[0]
    walls = tuple(k for k in floor.walls if k != "W13")
    run = msgspec.structs.replace(
        plain.runs[0], walls=tuple(k for k in plain.runs[0].walls if k != "W13")
    )
    cut = msgspec.structs.replace(
        plain, runs=(run,), floors=(msgspec.structs.replace(floor, walls=walls), *plain.floors[1:])
    )
    kinds = {f.kind for f in findings(work_out(cut))}
    assert kinds & {"not framed", "unsupported"}


def test_unsupported_ends_over_a_missing_stem(plain: Project) -> None:
    gone = change_member(plain, the("run:G1/sill:W13"), removed=True)
    found = of_kind(gone, "unsupported")
    assert [f.host for f in found] == [the("floor:F1")]
    assert "nothing under an end" in found[0].text
    assert found[0].at is not None
    assert found[0].at[1] == pytest.approx(26 * FOOT, abs=50)


def test_over_used_and_its_mend(plain: Project) -> None:
    weak = set_floor(plain, "F1", section="2x6", spacing=24 * INCH)
    found = [f for f in of_kind(weak, "over") if f.host == the("floor:F1")]
    assert len(found) == 1
    assert found[0].amount > 1
    assert found[0].mend is not None
    assert [
        f for f in of_kind(found[0].mend.apply(weak), "over") if f.host == the("floor:F1")
    ] == []


def test_over_used_soil(plain: Project) -> None:
    soft = set_site(plain, soil_bearing=300 * PSF)
    found = [f for f in of_kind(soft, "over") if f.host == the("run:G1")]
    assert len(found) == 1
    assert "soil pressure" in found[0].text


def test_lost_changes_are_said_and_can_be_taken_back(plain: Project) -> None:
    lost = change_member(plain, the("floor:F1/joist:99a"), section="2x12")
    found = of_kind(lost, "lost change")
    assert len(found) == 1
    assert found[0].mend is not None
    assert found[0].mend.apply(lost) == plain


def test_longer_than_any_piece_sold() -> None:
    long = house(60 * FOOT, 16 * FOOT)
    turned = set_floor(long, "F1", span="x")
    assert [f.host for f in of_kind(turned, "too long")] == [the("floor:F1")]


def test_wall_top_off_the_bearing(demo: Project) -> None:
    walls = tuple(
        msgspec.structs.replace(w, top_offset=-40.0) if w.id == "W101" else w for w in demo.walls
    )
    found = [
        f for f in of_kind(msgspec.structs.replace(demo, walls=walls), "gap") if "wall" in f.place
    ]
    assert [f.amount for f in found] == [pytest.approx(40.0)]
    assert "south 1" in found[0].text
    assert found[0].mend is not None
    mended = found[0].mend.apply(msgspec.structs.replace(demo, walls=walls))
    assert [f for f in of_kind(mended, "gap") if "wall" in f.place] == []


def test_seat_wider_than_the_plate(plain: Project) -> None:
    wide = set_roof(plain, "R1", seat=250.0)
    assert any("seat" in f.place for f in of_kind(wide, "overlap"))


def test_every_text_says_what_where_and_how_much(demo: Project) -> None:
    broken = set_site(
        set_floor(demo, "F1", section="2x6", spacing=24 * INCH), frost_depth=60 * INCH
    )
    for f in findings(work_out(broken)):
        assert f.place, f.kind
        assert f.text.endswith("."), f.text
        assert any(c.isdigit() for c in f.text), f.text
        assert " may " not in f.text


def test_places_are_named_by_the_grid(demo: Project) -> None:
    assert place_name(demo, (4064.0, 3962.4)) == "at B/2"
    assert "from B/2" in place_name(demo, (4064.0, 3000.0))
    bare = msgspec.structs.replace(demo, grids=())
    assert "north of the origin" in place_name(bare, (4064.0, 3000.0))
