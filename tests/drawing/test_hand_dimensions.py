"""Dimensions and clouds by hand: drawn by their tools, they measure what they hold as it moves, stand on the
plan and on its sheet, are changed on their slips, and outlive what they held as a word that says so."""

import pytest
from msgspec.structs import replace

from balken.drawing.hand_dimensions import GONE, height_at
from balken.drawing.marks import Label, Stroke
from balken.drawing.paper.compose import sheets_of
from balken.drawing.paper.records import Placed
from balken.drawing.plan import plan_notes
from balken.drawing.tiers import Tier, tiers
from balken.exchange.native import from_text, to_text
from balken.geometry.plane import Point
from balken.model.attached import held_places, hold_at
from balken.model.edits.common import EditError
from balken.model.edits.paper import add_revision
from balken.model.edits.paper_marks import add_cloud, add_dimension, measured_between
from balken.model.edits.transform import move
from balken.model.names import HostName, ThingName
from balken.model.paper import Hold
from balken.model.project import Project
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Options, field_of, type_into
from balken.session.slips import rows_of
from balken.session.snapping import snap_field
from balken.session.things.register import THINGS
from balken.units import FOOT, format_length
from balken.works.building import Checked, work_out
from buildings import house


def walls_tier(done: Checked) -> Tier:
    return next(t for t in tiers(done) if t.kind == "walls")


def texts(done: Checked, tier: Tier, name: ThingName) -> list[str]:
    notes = plan_notes(done, tier, 48.0)
    return [m.text for m in notes if isinstance(m, Label) and m.key == name]


def measured(project: Project, a: Point, b: Point, at: Point) -> Project:
    tier = walls_tier(work_out(project))
    return measured_between(project, f"plan:{tier.id}", tier.walls_on, (a, b), at)


STRING = ThingName("dimension", "M1")


def test_a_string_follows_the_wall_it_holds() -> None:
    """From corner to corner of the south wall, 36 ft; its end is moved out by 2 ft: 38 ft."""
    project = house()
    south = project.walls[0]
    project = measured(project, south.start, south.end, (south.start[0] + 5000.0, -3000.0))
    done = work_out(project)
    assert texts(done, walls_tier(done), STRING) == ["36'-0\""]
    longer = replace(south, end=(south.end[0] + 2 * FOOT, south.end[1]))
    moved = work_out(
        replace(project, walls=tuple(longer if w.id == south.id else w for w in project.walls))
    )
    assert texts(moved, walls_tier(moved), STRING) == ["38'-0\""]
    assert from_text(to_text(project)) == project


def test_what_it_held_is_gone_and_told() -> None:
    project = house()
    south = project.walls[0]
    project = measured(project, south.start, south.end, (5000.0, -3000.0))
    others = tuple(w for w in project.walls if w.id != south.id)
    held = held_places(replace(project, walls=others), project.paper.dimensions[0].holds)
    assert None in held
    done = work_out(project)
    tier = walls_tier(done)
    bare = replace(done, built=done.built, project=replace(project, walls=others))
    assert GONE in texts(bare, tier, STRING)


def test_along_the_building_and_as_its_places_lie() -> None:
    """Between two corners across from each other: along the building the string under them measures 36 ft,
    one at their side 26 ft, and as they lie the diagonal."""
    project = house()
    points = [w.start for w in project.walls[:4]]
    x0, x1 = min(p[0] for p in points), max(p[0] for p in points)
    y0, y1 = min(p[1] for p in points), max(p[1] for p in points)
    under = measured(project, (x0, y0), (x1, y1), ((x0 + x1) / 2, y0 - 3000.0))
    beside = measured(project, (x0, y0), (x1, y1), (x1 + 3000.0, (y0 + y1) / 2))
    wide = x1 - x0
    deep = y1 - y0
    done = work_out(under)
    tier = walls_tier(done)
    assert texts(done, tier, STRING) == [format_length(wide, "us")]
    assert texts(work_out(beside), tier, STRING) == [format_length(deep, "us")]
    (item,) = under.paper.dimensions
    lying = replace(under.paper, dimensions=(replace(item, kind="aligned"),))
    slanted = work_out(replace(under, paper=lying))
    across = format_length((wide**2 + deep**2) ** 0.5, "us")
    assert texts(slanted, tier, STRING) == [across]


def test_places_hold_on_to_what_is_near_and_nothing_else() -> None:
    project = house()
    south = project.walls[0]
    base = south.base
    near = hold_at(project, base, (south.start[0] + 100.0, south.start[1] + 50.0))
    assert (near.kind, near.by) == ("wall", (100.0, 50.0))
    far = hold_at(project, base, (south.start[0] + 3000.0, south.start[1] + 3000.0))
    assert far.kind == ""
    assert held_places(project, (far,)) == [(south.start[0] + 3000.0, south.start[1] + 3000.0)]


def test_two_places_that_are_one_are_refused() -> None:
    with pytest.raises(EditError, match="lies apart"):
        measured(house(), (0.0, 0.0), (0.0, 0.0), (0.0, -500.0))
    with pytest.raises(EditError, match="two places"):
        add_dimension(house(), "plan:x", "linear", (Hold(),), (0.0, 0.0))


def test_the_radius_of_a_curved_wall() -> None:
    """A half circle over a chord of 6 m: R 3000 mm."""
    project = house(system="metric")
    south = project.walls[0]
    curved = replace(
        south, id="C1", start=(0.0, -8000.0), end=(6000.0, -8000.0), bulge=1.0, openings=()
    )
    project = replace(project, walls=(*project.walls, curved))
    tier = walls_tier(work_out(project))
    hold = Hold("wall", "C1", "start")
    project, key = add_dimension(project, f"plan:{tier.id}", "radius", (hold,), (3000.0, -12000.0))
    done = work_out(project)
    assert texts(done, tier, ThingName("dimension", key)) == ["R 3000"]
    straight = tuple(replace(w, bulge=0.0) if w.id == "C1" else w for w in project.walls)
    assert GONE in texts(
        work_out(replace(project, walls=straight)), tier, ThingName("dimension", key)
    )


def test_heights_are_of_what_lies_there() -> None:
    done = work_out(house())
    floor = next(t for t in tiers(done) if t.kind == "floor")
    top = max(m.solid.top() for m in done.structure.members if floor.holds(m.host))
    inside = (4000.0, 4000.0)
    assert height_at(done, floor, inside) == pytest.approx(top, abs=20.0)
    ground = next(t for t in tiers(done) if t.kind == "ground")
    on_stem = done.project.walls[0].start
    stems = [m.solid.top() for m in done.structure.members if ground.holds(m.host)]
    assert height_at(done, ground, on_stem) == pytest.approx(max(stems))


def at_work(desk: Desk, tool: str) -> None:
    desk.start(tool)
    assert desk.run is not None


def test_the_tool_draws_a_chain_and_the_sheet_has_it() -> None:
    desk = Desk(Building(house()), THINGS)
    desk.work_in(walls_tier(desk.checked).id)
    field = snap_field(desk.project, desk.base)
    at_work(desk, "Dimension")
    run = desk.run
    assert run is not None
    for p in ((1000.0, 4000.0), (3000.0, 4000.0), (7000.0, 4000.0)):
        run.click(p, field, 1.0)
    run.key("enter", "")
    run.click((4000.0, 5500.0), field, 1.0)
    desk.leave_tool()
    (item,) = desk.project.paper.dimensions
    assert len(item.holds) == 3
    words = [m.text for v in on_sheets(desk) for m in v.drawing if isinstance(m, Label)]
    assert format_length(2000.0, "us") in words
    assert format_length(4000.0, "us") in words


def on_sheets(desk: Desk) -> list[Placed]:
    tier = walls_tier(desk.checked)
    found = [v for s in sheets_of(desk.checked, (), "") for v in s.views]
    return [v for v in found if v.key == f"plan:{tier.id}"]


def test_a_string_is_turned_dragged_and_taken_away_on_its_slip() -> None:
    project = house()
    south = project.walls[0]
    desk = Desk(Building(measured(project, south.start, south.end, (5000.0, -3000.0))), THINGS)
    desk.select(STRING)
    runs = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "runs")
    runs.choose("aligned")
    assert desk.project.paper.dimensions[0].kind == "aligned"
    take = THINGS["dimension"].take_away
    assert take is not None
    take(desk, STRING)
    assert not desk.project.paper.dimensions


def test_a_cloud_bears_its_revision_and_is_changed() -> None:
    project = add_revision(house(), "A", "2027-01-15", "door moved")
    tier = walls_tier(work_out(project))
    project, key = add_cloud(project, f"plan:{tier.id}", (1000.0, 1000.0), (4000.0, 3000.0))
    name = ThingName("cloud", key)
    done = work_out(project)
    notes = plan_notes(done, tier, 48.0)
    assert [m.text for m in notes if isinstance(m, Label) and m.key == name] == ["A"]
    bows = [m for m in notes if isinstance(m, Stroke) and m.key == name]
    xs = [x for m in bows for x, _ in m.points]
    assert min(xs) < 1000.0, "its bows reach outwards"
    desk = Desk(Building(project), THINGS)
    desk.select(name)
    assert type_into(field_of(rows_of(desk), "revision"), "B", lambda: desk.said) is None
    assert desk.project.paper.clouds[0].mark == "B"
    with pytest.raises(EditError, match="two corners"):
        add_cloud(project, "plan:x", (0.0, 0.0), (0.0, 500.0))


def test_moving_all_walls_moves_all_they_hold() -> None:
    project = house()
    south = project.walls[0]
    project = measured(project, south.start, south.end, (5000.0, -3000.0))
    names = tuple(HostName("wall", w.id) for w in project.walls)
    moved = move(project, names, (500.0, 300.0))
    places = held_places(moved, project.paper.dimensions[0].holds)
    before = held_places(project, project.paper.dimensions[0].holds)
    for a, b in zip(before, places):
        assert a is not None
        assert b is not None
        assert (b[0] - a[0], b[1] - a[1]) == pytest.approx((500.0, 300.0))
