"""Tools without a window: what they ask, what is typed, and what comes of it."""

from collections.abc import Callable

import pytest
from msgspec.structs import replace

from balken.errors import BalkenError
from balken.geometry.plane import Point
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.clipboard import clip_of
from balken.model.edits.common import EditError
from balken.model.new import empty_building
from balken.model.project import Project, wall
from balken.model.walls import Layer, Module, wall_length
from balken.session.snapping import snap_field, whole_steps
from balken.session.tools import changing, grids, openings, supports, walls
from balken.session.tools.asking import Kit, Tool, ToolRun
from balken.works.building import work_out
from named import the

STEP = whole_steps(10.0)
NEAR = 30.0


class Board:
    """A bench without a window: edits a project, remembers what was said and selected."""

    def __init__(self, project: Project, base: str = "L1", top: str = "P1") -> None:
        self.project, self.base, self.top = project, base, top
        self.kit = Kit(thickness=200.0)
        self.chosen: tuple[str, ...] = ()
        self.under: dict[Point, str] = {}
        self.said: list[str] = []
        self.words: list[str] = []

    def thing_at(self, p: Point, kinds: tuple[str, ...] = ()) -> str:
        return self.under.get(p, "")

    def edit(self, words: str, change: Callable[[Project], Project]) -> bool:
        try:
            self.project = change(self.project)
        except EditError as error:
            self.said.append(str(error))
            return False
        except BalkenError as error:
            self.said.append(str(error))
            return False
        self.words.append(words)
        return True

    def run(self, tool: Tool) -> ToolRun:
        def select(keys: tuple[str, ...]) -> None:
            self.chosen = keys

        return ToolRun(tool, self, self.edit, self.said.append, select)


def keys(run: ToolRun, text: str) -> None:
    """Type: ``|`` is Tab, ``>`` ``<`` ``^`` are arrows, and a newline is Enter."""
    names = {"|": "tab", ">": "right", "<": "left", "^": "up", "\n": "enter"}
    for letter in text:
        run.key(names.get(letter, ""), "" if letter in names else letter)


@pytest.fixture
def board() -> Board:
    """An empty metric sheet."""
    return Board(empty_building("Sheet", "metric"))


def at(board: Board, run: ToolRun, p: Point) -> None:
    run.move(p, snap_field(board.project, board.base), NEAR)


def click(board: Board, run: ToolRun, p: Point) -> None:
    run.click(p, snap_field(board.project, board.base), NEAR)


def test_a_chain_by_clicks_lengths_angles_and_locks(board: Board) -> None:
    run = board.run(walls.draw(board, 0.0, STEP))
    keys(run, "0|0\n")
    keys(run, ">")
    keys(run, "4000\n")
    at(board, run, (4000.0, 1000.0))
    keys(run, "3000|90\n")
    click(board, run, (1003.0, 3004.0))
    keys(run, "\n")
    lines = [(w.start, w.end) for w in board.project.walls]
    assert lines[0] == ((0.0, 0.0), (4000.0, 0.0))
    assert lines[1] == ((4000.0, 0.0), pytest.approx((4000.0, 3000.0)))
    assert lines[2][1] == pytest.approx((1000.0, 3000.0)), "straight, in whole steps"
    assert board.words == ["draw wall"] * 3
    keys(run, "\n")
    assert run.done


def test_a_chain_closes_on_its_first_place(board: Board) -> None:
    run = board.run(walls.draw(board, 0.0, STEP))
    for p in [(0.0, 0.0), (6000.0, 0.0), (6000.0, 4000.0), (0.0, 4000.0), (12.0, -9.0)]:
        click(board, run, p)
    assert len(board.project.walls) == 4
    assert board.project.walls[3].end == (0.0, 0.0)
    assert run.ask is not None
    assert run.ask.anchor is None, "it waits for the next chain"


def test_a_length_of_nothing_is_refused_and_asked_again(board: Board) -> None:
    run = board.run(walls.draw(board, 0.0, STEP))
    click(board, run, (0.0, 0.0))
    keys(run, "0\n")
    assert "no length" in board.said[-1]
    assert board.project.walls == ()
    keys(run, "12x\n")
    assert board.project.walls[0].end == (12.0, 0.0), "letters that are no length are not taken"


def test_an_angle_that_is_none_is_said_and_asked_again(board: Board) -> None:
    run = board.run(walls.draw(board, 0.0, STEP))
    click(board, run, (0.0, 0.0))
    keys(run, "3000|4-5\n")
    assert "no angle" in board.said[-1]
    assert board.project.walls == ()
    for _ in range(3):
        run.key("back")
    keys(run, "45\n")
    assert board.project.walls[0].end == pytest.approx((3000 / 2**0.5, 3000 / 2**0.5))


def test_what_is_typed_wrong_is_said_where_it_is_typed() -> None:
    board = Board(empty_building("Feet", "us"))
    run = board.run(walls.draw(board, 0.0, STEP))
    click(board, run, (0.0, 0.0))
    keys(run, "10'-14\n")
    assert "below 12" in board.said[-1]
    assert run.typed == ["10'-14", ""]
    for _ in range(7):
        run.key("back")
    keys(run, "10'-4 1/2\"|")
    assert "10'-4 1/2" in run.readout()
    keys(run, "0\n")
    assert wall_length(board.project.walls[0]) == pytest.approx(10 * 304.8 + 4.5 * 25.4)


def test_a_rectangle_by_two_numbers_towards_the_pointer(board: Board) -> None:
    board.kit = replace(board.kit, shape="rectangle")
    run = board.run(walls.draw(board, 0.0, STEP))
    keys(run, "1000|1000\n")
    at(board, run, (-500.0, 3000.0))
    assert len(run.ghost()) >= 4
    keys(run, "5000|4000\n")
    xs = sorted({p[0] for w in board.project.walls for p in (w.start, w.end)})
    ys = sorted({p[1] for w in board.project.walls for p in (w.start, w.end)})
    assert (xs, ys) == ([-4000.0, 1000.0], [1000.0, 5000.0])


def test_a_curve_through_three_places(board: Board) -> None:
    board.kit = replace(board.kit, shape="arc")
    run = board.run(walls.draw(board, 0.0, STEP))
    for p in [(0.0, 0.0), (4000.0, 0.0), (2000.0, -800.0)]:
        click(board, run, p)
    assert board.project.walls[0].bulge == pytest.approx(0.4)
    for p in [(0.0, 0.0), (4000.0, 5000.0), (4000.0, -3000.0)]:
        click(board, run, p)
    assert "half a circle" in board.said[-1]


def test_lengths_of_block_walls_fall_on_the_module(board: Board) -> None:
    board.project, key = add_build_up(
        board.project, (Layer("block", 190.0, "core"),), Module(200.0, 200.0, 10.0)
    )
    board.kit = replace(board.kit, build_up=key)
    run = board.run(walls.draw(board, 0.0, STEP))
    click(board, run, (0.0, 0.0))
    click(board, run, (4123.0, 11.0))
    assert wall_length(board.project.walls[0]) == pytest.approx(4190.0)


def test_openings_by_click_and_by_distance(board: Board) -> None:
    run = board.run(walls.draw(board, 0.0, STEP))
    click(board, run, (0.0, 0.0))
    click(board, run, (6000.0, 0.0))
    run.leave()
    board.kit = replace(board.kit, opening="door")
    run = board.run(openings.place(board, STEP))
    click(board, run, (2003.0, 60.0))
    first = board.project.walls[0].openings[0]
    assert (first.kind, first.at + first.width / 2) == ("door", pytest.approx(2005.0, abs=5.1))
    at(board, run, (4000.0, 50.0))
    assert len(run.ghost()) == 3, "its outline, and the distance to both ends"
    keys(run, "3500\n")
    assert board.project.walls[0].openings[1].at == 3500.0
    click(board, run, (1800.0, 60.0))
    assert "over the door" in board.said[-1]
    click(board, run, (3000.0, 5000.0))
    assert "no wall there" in board.said[-1]


def test_a_grid_is_asked_for_piece_by_piece(board: Board) -> None:
    run = board.run(grids.straight(board))
    assert run.ask is not None
    assert "5400" in run.ask.words
    run.typed[0] = "5400 0"
    run.key("enter")
    assert "Bay 2" in board.said[-1], "refused where it is typed, and asked again"
    for answer in ("5400 7200*2 4800", "6000", "1", "A"):
        run.typed[0] = answer
        run.key("enter")
    keys(run, "1000|2000\n")
    at(board, run, (5000.0, 2000.0))
    assert len(run.ghost()) == 7
    keys(run, "|30\n")
    made = board.project.grids[0]
    assert (made.origin, made.angle, len(made.lines)) == ((1000.0, 2000.0), pytest.approx(30.0), 7)
    run = board.run(grids.radial(board))
    for answer in ("8000 4000", "30*3", "R1", "1"):
        run.typed[0] = answer
        run.key("enter")
    keys(run, "\n")
    keys(run, "\n")
    assert len(board.project.grids[1].lines) == 6
    board.chosen = (the("grid:G1/N2"),)
    run = board.run(grids.line_beside(board, board.chosen))
    run.typed[0] = "-600"
    run.key("enter")
    run.typed[0] = "1a"
    run.key("enter")
    assert [x.offset for x in board.project.grids[0].lines if x.label == "1a"] == [4800.0]


def hall(board: Board) -> None:
    run = board.run(grids.straight(board))
    for answer in ("5000*2", "4000*2", "1", "A"):
        run.typed[0] = answer
        run.key("enter")
    keys(run, "\n\n")


def test_supports_everywhere_in_an_area_and_one_by_one(board: Board) -> None:
    hall(board)
    run = board.run(supports.place(board))
    keys(run, "\n")
    assert run.done
    assert len(board.project.point_supports) == 9
    board.kit = replace(board.kit, where="an area", taking=True)
    run = board.run(supports.place(board))
    click(board, run, (-500.0, -500.0))
    click(board, run, (5500.0, 500.0))
    assert len(board.project.point_supports) == 7
    keys(run, "\n")
    board.kit = replace(board.kit, where="one by one", taking=False)
    run = board.run(supports.place(board))
    click(board, run, (4.0, -6.0))
    click(board, run, (2500.0, 2000.0))
    assert [s.lines != ("", "") for s in board.project.point_supports[-2:]] == [True, False]
    board.kit = replace(board.kit, where="chosen lines", taking=True)
    board.chosen = (the("grid:G1/A1"),)
    run = board.run(supports.place(board))
    keys(run, "\n")
    assert len(board.project.point_supports) == 7


def room(board: Board) -> None:
    board.kit = replace(board.kit, shape="rectangle")
    run = board.run(walls.draw(board, 0.0, STEP))
    click(board, run, (0.0, 0.0))
    click(board, run, (6000.0, 4000.0))
    run.leave()


def test_move_copy_turn_mirror_row(board: Board) -> None:
    room(board)
    run = board.run(changing.moving(board, (the("wall:W2"),)))
    click(board, run, (6000.0, 2000.0))
    keys(run, ">")
    keys(run, "500\n")
    assert wall(board.project, "W2").start[0] == 6500.0
    run = board.run(changing.moving(board, (the("wall:W1"),), copying=True))
    click(board, run, (0.0, 0.0))
    at(board, run, (0.0, -1000.0))
    assert len(run.ghost()) == 2
    keys(run, "1000|-90\n")
    keys(run, "2000|-90\n")
    keys(run, "\n")
    assert [w.start[1] for w in board.project.walls[4:]] == pytest.approx([-1000.0, -2000.0])
    run = board.run(changing.turning(board, (the("wall:W5"),)))
    click(board, run, (0.0, -1000.0))
    keys(run, "90\n")
    assert wall(board.project, "W5").end == pytest.approx((0.0, 5500.0))
    run = board.run(changing.mirroring(board, (the("wall:W6"),)))
    click(board, run, (0.0, 7000.0))
    click(board, run, (3000.0, 7000.0))
    assert board.project.walls[-1].start[1] == pytest.approx(16000.0)
    run = board.run(changing.array(board, (the("wall:W6"),)))
    run.typed[0] = "two"
    run.key("enter")
    assert "no number" in board.said[-1]
    run.typed[0] = "2"
    run.key("enter")
    click(board, run, (0.0, -2000.0))
    keys(run, "300|-90\n")
    assert [w.start[1] for w in board.project.walls[-2:]] == pytest.approx([-2300.0, -2600.0])
    run = board.run(changing.array(board, (the("wall:W6"),)))
    run.typed[0] = "3 round"
    run.key("enter")
    click(board, run, (20000.0, 0.0))
    assert run.typed == ["90"]
    run.key("enter")
    assert len(board.project.walls) == 12


def test_offset_corner_tee_split_align(board: Board) -> None:
    room(board)
    board.under = {
        (3000.0, 100.0): the("wall:W1"),
        (6000.0, 2000.0): the("wall:W2"),
        (9000.0, 9000.0): the("grid:G1/N1"),
    }
    run = board.run(walls.offset(board, (the("wall:W1"),)))
    run.typed[0] = "1500"
    run.key("enter")
    click(board, run, (3000.0, 2000.0))
    assert board.project.walls[-1].start[1] == 1500.0
    run = board.run(walls.split(board))
    click(board, run, (9000.0, 9000.0))
    assert "Nothing there is a wall" in board.said[-1]
    click(board, run, (3000.0, 100.0))
    keys(run, "2500\n")
    assert wall_length(wall(board.project, "W1")) == 2500.0
    board.under[1000.0, 1500.0] = the("wall:W5")
    run = board.run(walls.tee(board))
    click(board, run, (1000.0, 1500.0))
    click(board, run, (6000.0, 2000.0))
    assert wall(board.project, "W5").end[0] == 6000.0
    run = board.run(changing.aligning(board, (the("wall:W5"),)))
    run.typed[0] = "centre"
    run.key("enter")
    keys(run, "0|2500\n")
    assert wall(board.project, "W5").start[1] == 2400.0
    run = board.run(walls.corner(board))
    click(board, run, (3000.0, 100.0))
    click(board, run, (3000.0, 100.0))
    assert "run alike" in board.said[-1]


def test_paste_selects_what_it_made(board: Board) -> None:
    room(board)
    clip = clip_of(board.project, (the("wall:W1"), the("wall:W2")))
    run = board.run(changing.pasting(board, clip))
    assert len(run.ghost()) == 2
    click(board, run, (0.0, 9000.0))
    assert run.done
    assert board.chosen == (the("wall:W5"), the("wall:W6"))
    run = board.run(changing.pasting(board, clip))
    keys(run, "\n")
    assert board.project.walls[-2].start == (0.0, 0.0), "Enter leaves it where it was"


def test_measuring_adds_up(board: Board) -> None:
    run = board.run(changing.measuring(board))
    for p in [(0.0, 0.0), (3000.0, 0.0)]:
        click(board, run, p)
    at(board, run, (3000.0, 4000.0))
    text = next(m.text for m in run.ghost() if hasattr(m, "text"))
    assert text == "4000, 7000 in all"
    keys(run, "\n\n")
    assert run.done
    assert board.words == []


def test_leaving_keeps_what_was_made(board: Board) -> None:
    run = board.run(walls.draw(board, 0.0, STEP))
    click(board, run, (0.0, 0.0))
    click(board, run, (1000.0, 0.0))
    run.leave()
    assert run.done
    assert run.key("enter") is False
    assert run.ghost() == ()
    assert len(board.project.walls) == 1


def test_arrows_lock_let_go_and_follow_the_building(board: Board) -> None:
    run = board.run(walls.draw(board, 0.0, STEP))
    run.lie(0.5)
    click(board, run, (0.0, 0.0))
    keys(run, "^")
    assert run.lock is not None
    assert "locked" in run.readout()
    keys(run, "1000\n")
    end = board.project.walls[0].end
    assert end == pytest.approx((-479.4255, 877.5826), abs=1e-3), (
        "square to a building that lies at 0.5 radians"
    )
    keys(run, "^")
    keys(run, "^")
    assert run.lock is None


def test_what_was_taken_away_meanwhile_is_said(board: Board) -> None:
    run = board.run(walls.draw(board, 0.0, STEP))
    for p in [(0.0, 0.0), (6000.0, 0.0)]:
        click(board, run, p)
    key = board.project.walls[0].id
    aligning = board.run(changing.aligning(board, (the(f"wall:{key}"),)))
    board.edit("clear", lambda p: replace(p, walls=()))
    keys(aligning, "\n")
    assert aligning.done
    assert board.said[-1] == f"There is no wall “{key}” any more."


def test_piers_come_with_their_pads() -> None:
    """A pier at a place and its pad under it, the pad's top where the pier begins."""
    from balken.session.tools.supports import _one
    from buildings import house

    bench = Board(house())
    bench.kit = replace(bench.kit, support="pier", pad_too=True, round=True, size=(300.0, 300.0))
    made = _one(bench.project, bench, (20000.0, 0.0), "")
    pier, pad = made.point_supports
    assert (pier.kind, pier.round, pad.kind, pad.at) == ("pier", True, "pad", (20000.0, 0.0))
    checked = work_out(made)
    bodies = {
        m.role: m.solid.bounds()
        for m in checked.structure.members
        if str(m.host).startswith("support:")
    }
    assert bodies["pad"][1][2] == pytest.approx(bodies["pier"][0][2])


def test_a_grid_is_made_line_by_line_by_clicks_and_distances(board: Board) -> None:
    run = board.run(grids.lines(board))
    click(board, run, (0.0, 0.0))
    assert [x.label for x in board.project.grids[0].lines] == ["1", "A"]
    click(board, run, (5400.0, 300.0))
    at(board, run, (9000.0, 100.0))
    keys(run, "7200\n")
    at(board, run, (12000.0, 2500.0))
    keys(run, "^4800\n")
    of = board.project.grids[0]
    assert {x.label: x.offset for x in of.lines if x.runs == "y"} == {
        "1": 0.0,
        "2": 5400.0,
        "3": 12600.0,
    }
    assert {x.label: x.offset for x in of.lines if x.runs == "x"} == {"A": 0.0, "B": 4800.0}
    for line in of.lines:
        assert line.end >= (12600.0 if line.runs == "x" else 4800.0), "lines reach to each other"
    keys(run, "\n")
    assert run.done
    assert board.words == ["make grid", *["add grid line"] * 3]


def test_a_line_between_two_others_gets_a_label_of_its_own(board: Board) -> None:
    run = board.run(grids.lines(board))
    click(board, run, (0.0, 0.0))
    click(board, run, (6000.0, 0.0))
    click(board, run, (2000.0, 100.0))
    labels = sorted(x.label for x in board.project.grids[0].lines if x.runs == "y")
    assert len(set(labels)) == 3
    assert {"1", "2"} < set(labels)
