"""Walls lifted in panels: joints over studs and off openings, lengths and weights within what can be lifted,
weights and middles by hand, and the order of setting."""

import csv
import io
from itertools import combinations, pairwise

import pytest

from balken.drawing.marks import Label
from balken.drawing.wall_elevation import wall_elevation
from balken.exchange.lifts_csv import lifts_csv
from balken.framing import kinds
from balken.framing.walls.face import Face, Hole, Lift, Stick
from balken.framing.walls.layout import lay_out
from balken.model.edits.wall_frames import frame_walls, rule_studs_of
from balken.model.names import HostName
from balken.model.product_rows import WOOD_WEIGHT
from balken.model.project import Project
from balken.model.wall_frames import StudRule
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import Desk
from balken.session.rows import Fact, field_of, type_into
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.takeoff.lifts import in_order, panels_of
from balken.units import FOOT, INCH, LB
from balken.works.building import work_out
from buildings import house

T = 1.5 * INCH
TALL = 97.125 * INCH


def face(length: float, lift: Lift, holes: tuple[Hole, ...] = ()) -> Face:
    return Face(0.0, length, TALL, T, StudRule(), holes, lift=lift)


def lift(longest: float = 0.0, heaviest: float = 0.0) -> Lift:
    return Lift(longest, heaviest, 5.5 * INCH, WOOD_WEIGHT, 0.0)


def joints(sticks: tuple[Stick, ...]) -> list[float]:
    lows = [s.high for s in sticks if s.row.startswith("lift") and s.piece == "1"]
    return sorted(x / INCH for x in lows)


def test_a_wall_of_thirty_feet_in_panels_of_twelve() -> None:
    """360 in, 144 at most: the last stud within 144 is at 144, then at 288; two studs stand at each joint,
    bottom and lower top plate end there, the cap runs over them."""
    done = lay_out(face(30 * FOOT, lift(12 * FOOT)))
    assert joints(done.sticks) == pytest.approx([144.0, 288.0])
    bottom = [s for s in done.sticks if s.kind is kinds.BOTTOM_PLATE]
    assert [s.high / INCH for s in bottom] == pytest.approx([144.0, 288.0, 360.0])
    cap = [s for s in done.sticks if s.kind is kinds.TOP_PLATE and s.row == "2"]
    assert all(abs(s.high / INCH - j) >= 48 - 0.01 for s in cap[:-1] for j in (144, 288))
    for a, b in combinations(done.sticks, 2):
        wide, high = (
            min(a.high, b.high) - max(a.low, b.low),
            min(a.top, b.top) - max(a.bottom, b.bottom),
        )
        assert min(wide, high) <= 0.01


def test_joints_keep_off_openings() -> None:
    """An opening from 10 to 13 ft: the joint goes back to 112 in, the last stud before its king."""
    hole = Hole("A", 10 * FOOT, 13 * FOOT, 36 * INCH, 80 * INCH, 7.25 * INCH)
    done = lay_out(face(30 * FOOT, lift(12 * FOOT), (hole,)))
    assert joints(done.sticks)[0] == pytest.approx(112.0)
    assert not done.lacks


def test_what_cannot_be_divided_is_told() -> None:
    """An opening of 14 ft cannot be lifted in 12 ft."""
    hole = Hole("A", 2 * FOOT, 16 * FOOT, 36 * INCH, 80 * INCH, 7.25 * INCH)
    done = lay_out(face(30 * FOOT, lift(12 * FOOT), (hole,)))
    assert done.lacks
    assert done.lacks[0].short > 3.9 * FOOT


def test_no_panel_is_heavier_than_may_be() -> None:
    light = 150 * LB
    done = lay_out(face(30 * FOOT, lift(0.0, light)))
    places = [0.0, *(j * INCH for j in joints(done.sticks)), 30 * FOOT]
    deep = 5.5 * INCH * WOOD_WEIGHT
    for low, high in pairwise(places):
        wood = sum(
            (min(high, s.high) - max(low, s.low)) * (s.top - s.bottom) * deep
            for s in done.sticks
            if s.low < high and s.high > low
        )
        assert wood <= light + 1.0
    assert len(places) > 3


def lifted(longest: float = 12 * FOOT) -> Project:
    project = frame_walls(house(), is_masonry)
    return rule_studs_of(project, [w.id for w in project.walls], lift_length=longest)


def test_weight_and_middle_by_hand() -> None:
    """Of each panel: wood by its volume at 5.5 kN/m³ without the cap, which is set later."""
    done = work_out(lifted())
    panels = panels_of(done)
    assert all(p.length <= 12 * FOOT + 0.1 for p in panels)
    first = panels[0]
    mine = [m for m in done.structure.members if m.id in first.pieces]
    by_length = sum(m.length * 38.1 * 139.7 for m in mine if m.kind is not kinds.WALL_HEADER)
    headers = [m for m in mine if m.kind is kinds.WALL_HEADER]
    if not headers:
        assert first.weight == pytest.approx(by_length * WOOD_WEIGHT, rel=1e-3)
    assert first.low < first.middle[0] < first.high
    assert 0.35 * 2467 < first.middle[1] < 0.65 * 2467
    whole = sum(p.weight for p in panels)
    every = [
        m
        for m in done.structure.members
        if m.kind.of_wall and not (m.kind is kinds.TOP_PLATE and m.id.row == "2")
    ]
    assert len({n for p in panels for n in p.pieces}) == len(every), "each piece in one panel"
    assert whole > first.weight


def test_they_are_set_round_the_outside_first() -> None:
    """Each wall outside meets the one set before it, and those inside come after."""
    project = shown_demo()
    storey = [w for w in project.walls if w.id in ("W101", "W102", "W103", "W104", "W105")]
    order = [w.id for w in in_order(storey)]
    assert order[-1] == "W105"
    assert order[0] == "W101"
    assert order[1] in ("W102", "W104")
    assert set(order[:4]) == {"W101", "W102", "W103", "W104"}
    marks = [p.mark for p in panels_of(work_out(lifted()))]
    assert marks == [f"1-{n}" for n in range(1, len(marks) + 1)]


def test_elevation_list_and_slip() -> None:
    desk = Desk(Building(frame_walls(house(), is_masonry)), THINGS)
    key = desk.project.walls[0].id
    desk.select(HostName("wall", key))
    assert not panels_of(desk.checked)
    field = field_of(rows_of(desk), "lifted, no longer than")
    assert type_into(field, "12'", lambda: desk.said) is None
    mine = [p for p in panels_of(desk.checked) if p.wall == key]
    assert len(mine) > 2
    facts = {r.name for r in rows_of(desk) if isinstance(r, Fact)}
    assert {p.mark for p in mine} <= facts
    drawn = wall_elevation(desk.checked, HostName("wall", key), 50.0)
    words = [m.text for m in drawn if isinstance(m, Label)]
    assert all(any(p.mark in w for w in words) for p in mine)
    rows = list(csv.DictReader(io.StringIO(lifts_csv(desk.checked))))
    assert [r["mark"] for r in rows] == [p.mark for p in panels_of(desk.checked)]
    heavy = field_of(rows_of(desk), "lifted, no heavier than")
    assert type_into(heavy, "-5", lambda: desk.said) is not None
    assert type_into(heavy, "200 lb", lambda: desk.said) is None
    assert all(p.weight <= 200 * LB for p in panels_of(desk.checked) if p.wall == key)
