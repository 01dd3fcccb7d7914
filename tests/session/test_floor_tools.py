"""The tools for floors, openings, cuts, beams and bays, driven by places and words without a
window."""

from collections.abc import Callable
from typing import Any

import msgspec
import pytest

from balken.errors import BalkenError
from balken.geometry.plane import Point
from balken.model.edits.common import EditError
from balken.model.names import HostName, Name, ThingName
from balken.model.new import new_building
from balken.model.project import Project
from balken.session.ferry_hall import ferry_hall
from balken.session.tools import beams, floors, roofs
from balken.session.tools.asking import Kit, Tool, ToolRun
from balken.site.proposals import propose_structure
from balken.works.building import work_out
from named import the


class Table:
    """A bench without a window."""

    def __init__(self, project: Project, level: str, **kit: object) -> None:
        self.project, self.base, self.top, self.chosen = project, "L1", "P1", ()
        self.floor_level = self.load_level = level
        self.kit = msgspec.structs.replace(Kit(), **kit)
        self.said: list[str] = []
        self.key: Any = None

    def thing_at(self, p: Point, kinds: tuple[str, ...] = ()) -> str:
        return self.key

    def edit(self, words: str, change: Callable[[Project], Project]) -> bool:
        try:
            self.project = change(self.project)
        except BalkenError as error:
            self.said.append(str(error))
            return False
        return True


def run(table: Table, tool: Tool, *places: Point | Name | str) -> Table:
    work = ToolRun(tool, table, table.edit, table.said.append)
    for place in places:
        if place == "enter":
            work.key("enter")
        elif isinstance(place, ThingName | HostName):
            table.key = place
            work.click((0.0, 0.0), None, 10.0)
            table.key = None
        else:
            work.click(place, None, 10.0)
    return table


def rooms() -> Project:
    return new_building("Rooms", 9000.0, 7000.0, 2, "metric")


def test_a_click_in_a_room_lays_a_floor_there() -> None:
    table = Table(rooms(), "L2", edge=0.0)
    run(table, floors.place(table), (4000.0, 1500.0), "enter")
    (floor,) = table.project.floors
    assert floor.room == (4000.0, 1500.0)
    assert floor.bears_on == "P1"


def test_a_click_outside_every_room_is_refused() -> None:
    table = Table(rooms(), "L2")
    run(table, floors.place(table), (40000.0, 1500.0), "enter")
    assert table.project.floors == ()
    assert "No walls enclose that place" in table.said[0]


def test_a_floor_is_drawn_by_its_corners() -> None:
    table = Table(rooms(), "L2", floor_from="its corners")
    run(
        table,
        floors.place(table),
        (0.0, 0.0),
        (5000.0, 0.0),
        (5000.0, 3000.0),
        (0.0, 3000.0),
        "enter",
    )
    assert len(table.project.floors[0].corners) == 4


def test_enter_lays_a_floor_over_all_walls() -> None:
    table = Table(rooms(), "L2", floor_from="all walls here")
    run(table, floors.place(table), "enter")
    assert len(table.project.floors[0].walls) == 5


def test_two_corners_or_one_click_leave_an_opening_out() -> None:
    table = Table(rooms(), "L2", floor_from="all walls here")
    run(table, floors.place(table), "enter")
    run(table, floors.opening(table), (2000.0, 1000.0), (3000.0, 3000.0), "enter")
    table.kit = msgspec.structs.replace(table.kit, hole="chimney", hole_size=(600.0, 500.0))
    run(table, floors.opening(table), (6000.0, 5000.0), "enter")
    first, second = table.project.floors[0].openings
    assert (first.at, first.size) == ((2500.0, 2000.0), (1000.0, 2000.0))
    assert (second.use, second.at, second.size) == ("chimney", (6000.0, 5000.0), (600.0, 500.0))
    assert second.clear > 50.0


def test_an_opening_where_no_floor_is_is_refused() -> None:
    table = Table(rooms(), "L2")
    run(table, floors.opening(table), (2000.0, 1000.0), (3000.0, 3000.0), "enter")
    assert "No floor lies there" in table.said[0]


def test_a_line_cuts_a_floor_in_two_and_one_beside_it_does_not() -> None:
    table = Table(rooms(), "L2", floor_from="all walls here")
    run(table, floors.place(table), "enter")
    run(table, floors.cut(table), (4000.0, -500.0), (4000.0, 8000.0))
    assert len(table.project.floors) == 2
    run(table, floors.cut(table), (20000.0, 0.0), (20000.0, 8000.0))
    assert len(table.project.floors) == 2
    assert "No floor lies under that line" in table.said[0]


def test_a_grid_line_cuts_a_floor_and_the_cut_follows_it() -> None:
    from balken.framing.hosts.floor_bearing import bearings_of_floor
    from balken.geometry.plane import box
    from balken.model.edits.grids import move_lines

    hall = ferry_hall()
    table = Table(hall, hall.floors[0].level)
    run(table, floors.cut(table), the("grid:G1/N2"))
    moved = move_lines(table.project, "G1", ["N2"], 500.0)
    edges = [
        box(bearings.outline) for f in moved.floors if (bearings := bearings_of_floor(moved, f))
    ]
    assert any(abs(e[2] - 5900.0) < 1.0 for e in edges)
    assert any(abs(e[0] - 5900.0) < 1.0 for e in edges)


def test_a_joist_is_added_between_two_places() -> None:
    hall = ferry_hall()
    table = Table(hall, hall.floors[0].level)
    run(table, floors.joist(table), (5500.0, 1300.0), (7100.0, 1300.0), "enter")
    (added,) = table.project.added
    assert added.host == the("floor:F1")
    assert any(
        str(m.id).startswith("floor:F1/joist:+K1")
        for m in work_out(table.project).structure.members
    )


def test_a_beam_runs_from_crossing_to_crossing() -> None:
    hall = ferry_hall()
    table = Table(hall, hall.floors[0].level, beam_set="flush", beam_section="GL 160x480")
    run(table, beams.place(table), (0.0, 0.0), (5400.0, 6000.0), "enter")
    beam = table.project.beams[-1]
    assert (beam.start.lines, beam.end.lines) == (("A1", "N1"), ("A2", "N2"))
    assert (beam.kind.set, beam.kind.section) == ("flush", "GL 160x480")


def test_a_grid_line_gets_a_beam_in_every_bay() -> None:
    hall = ferry_hall()
    bare = msgspec.structs.replace(hall, beams=(), bays=())
    table = Table(bare, hall.floors[0].level, beam_from=beams.FROM[1])
    run(table, beams.place(table), the("grid:G1/A1"), "enter")
    assert len(table.project.beams) == 4


def test_bays_are_filled_by_click_all_at_once_or_by_outline() -> None:
    hall = msgspec.structs.replace(ferry_hall(), beams=(), bays=())
    level = hall.floors[0].level
    one = Table(hall, level, bay_rule="count", bay_count=2)
    run(one, beams.bays(one), (2000.0, 2000.0), "enter")
    assert [(b.rule, b.count) for b in one.project.bays] == [("count", 2)]
    every = Table(hall, level, where=beams.BAYS_FROM[1], bay_alternate=True)
    run(every, beams.bays(every), "enter")
    assert len(every.project.bays) == 8
    assert {b.along for b in every.project.bays} == {0, 1}
    free = Table(hall, level, where=beams.BAYS_FROM[2])
    run(free, beams.bays(free), (0.0, 0.0), (4000.0, 0.0), (0.0, 3000.0), "enter", "enter")
    assert len(free.project.bays[0].corners) == 3


def test_a_click_outside_every_bay_is_refused() -> None:
    hall = ferry_hall()
    table = Table(hall, hall.floors[0].level)
    run(table, beams.bays(table), (90000.0, 2000.0), "enter")
    assert "No bay between grid lines lies there" in table.said[0]


def test_a_beam_needs_a_level() -> None:
    table = Table(rooms(), "")
    with pytest.raises(EditError, match="needs a level"):
        next(beams.place(table))


def square(x: float, y: float, size: float) -> tuple[Point | str, ...]:
    return ((x, y), (x + size, y), (x + size, y + size), (x, y + size), "enter")


def framed() -> Project:
    return propose_structure(rooms())[0]


def test_a_floor_is_not_laid_over_another_and_says_which() -> None:
    there = len(framed().floors)
    table = Table(framed(), "L1", floor_from="all walls here")
    run(table, floors.place(table), "enter")
    assert "Floor 1 lies there already: 63.000 m² would be floored twice" in table.said[-1]
    table = Table(framed(), "L1", floor_from="its corners")
    run(table, floors.place(table), *square(1000.0, 1000.0, 2000.0))
    assert "4.000 m² would be floored twice" in table.said[-1]
    assert len(table.project.floors) == there


def test_a_floor_is_laid_beside_another_along_one_edge() -> None:
    """The case just outside: neighbours may share an edge, and a little over a wall."""
    project = msgspec.structs.replace(framed(), floors=())
    table = Table(project, "L1", floor_from="its corners")
    run(table, floors.place(table), *square(0.0, 0.0, 3000.0), *square(3000.0, 0.0, 3000.0))
    run(table, floors.place(table), *square(2900.0, 3000.0, 3000.0))
    assert table.said == []
    assert len(table.project.floors) == 3


def test_a_floor_over_another_is_laid_at_its_own_level() -> None:
    project = msgspec.structs.replace(framed(), floors=framed().floors[:1])
    table = Table(project, "L2", floor_from="all walls here")
    run(table, floors.place(table), "enter")
    assert table.said == []
    assert [f.level for f in table.project.floors] == ["L1", "L2"]


def test_a_roof_is_not_laid_over_another_and_says_which() -> None:
    table = Table(framed(), "L1", roof_from="its corners")
    table.base, table.top = "L2", table.project.roofs[0].plate
    run(table, roofs.place(table), *square(500.0, 500.0, 4000.0))
    assert "Roof R1 lies there already: 16.000 m² would be roofed twice" in table.said[-1]
    assert len(table.project.roofs) == 1
