"""The saw: what a plan asks for is cut, kerf by kerf; what cannot be cut is told; lists with faults are
refused."""

from pathlib import Path

import pytest
from click.testing import CliRunner

from balken.cli import main
from balken.exchange.files import FileError
from balken.exchange.native import save
from balken.exchange.saw_csv import Order, read_orders, read_told, saw_list, told_csv
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import Desk, page
from balken.session.ferry_hall import ferry_hall
from balken.session.rows import Button
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.takeoff.cutting import section_plans
from balken.takeoff.lists import LISTS
from balken.works.building import work_out
from balken.workshop.saw import saw
from buildings import house


@pytest.mark.parametrize("demo", [shown_demo, ferry_hall])
def test_all_boards_of_a_plan_can_be_cut(demo: object) -> None:
    plans = section_plans(work_out(demo()))  # type: ignore[operator]
    orders = read_orders(saw_list(plans))
    wanted = sum(len(b.cuts) for p in plans if not p.to_length for b in p.plan.boards)
    sawn = saw(orders)
    assert len(orders) == wanted
    assert sum(x.state == "cut" for x in sawn.done) == wanted
    for plan in plans:
        if plan.to_length:
            continue
        rest = sum(b.rest(plan.saw) for b in plan.plan.boards)
        left = sum(
            x.length
            for x in sawn.done
            if x.state in ("offcut", "waste")
            and (x.section, x.material) == (plan.section, plan.material)
        )
        assert left == pytest.approx(rest, abs=0.5 * len(plan.plan.boards))


def order(cut: float, mark: str, board: int = 1, length: float = 1000.0) -> Order:
    return Order(board, "2x4", "fir", length, 3.0, 0.0, cut, mark)


def test_kerf_by_kerf() -> None:
    """1000 less 3 x (200 + 3) leaves 391; a piece of 391 fits, its kerf falls beside the board."""
    cuts = [order(200.0, f"P{n}") for n in range(3)] + [order(391.0, "last")]
    done = saw(cuts).done
    assert [x.state for x in done] == ["cut"] * 4
    (*_, last, rest) = saw([*cuts[:3], order(391.2, "long")]).done
    assert (last.state, rest.length) == ("open", pytest.approx(391.0))
    assert "0.2 mm more" in last.why


def test_a_wider_kerf_than_planned_leaves_pieces_open() -> None:
    cuts = [order(248.5, f"P{n}")._replace(kerf=8.0) for n in range(4)]
    assert [x.state for x in saw(cuts).done][:4] == ["cut", "cut", "cut", "open"]


def test_longer_work_takes_longer() -> None:
    one = saw([order(200.0, "a")]).seconds
    assert saw([order(200.0, "a"), order(200.0, "b")]).seconds > one


def test_what_it_tells_reads_back() -> None:
    done = saw([order(200.0, "=a"), order(900.0, "b")]).done
    assert [x.state for x in read_told(told_csv(done))] == ["cut", "open", "offcut"]
    assert read_told(told_csv(done))[0].mark == "=a"


HEAD = "board,section,material,board_mm,kerf_mm,trim_mm,cut_mm,mark\n"


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("a,b\n1,2\n", "no column “board”"),
        (HEAD + "1,2x4,fir,long,3,0,200,a\n", "Row 2: board_mm “long” is no number"),
        (HEAD + "1,2x4,fir,1000,3,0,-5,a\n", "Row 2: cut_mm -5 is not from 0"),
        (HEAD + "1,2x4,fir,1000,300,0,5,a\n", "kerf_mm 300 is not from 0 to 100"),
        (HEAD + "1,2x4,fir,nan,3,0,5,a\n", "board_mm nan is not from"),
    ],
)
def test_a_list_with_a_fault_is_refused(text: str, words: str) -> None:
    with pytest.raises(FileError) as told:
        read_orders(text)
    assert words in str(told.value)


def test_the_command_cuts_a_project(tmp_path: Path) -> None:
    file, out = tmp_path / "bakehouse.balken", tmp_path / "sawn.csv"
    save(shown_demo(), file)
    done = CliRunner().invoke(main, ["saw", str(file), "--to", str(out)])
    assert done.exit_code == 0, done.output
    assert " 0 open" in done.output
    assert any(x.state == "offcut" for x in read_told(out.read_text()))
    bad = CliRunner().invoke(main, ["saw", str(tmp_path / "none.csv")])
    assert bad.exit_code == 2


def test_what_was_cut_comes_back_into_the_lists(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The list goes out, the saw cuts all but one piece, and what it tells is read on the page."""
    desk = Desk(Building(house()), THINGS)
    desk.select(page("cutting"))

    def press(text: str) -> None:
        next(r for r in rows_of(desk) if isinstance(r, Button) and r.text == text).press()

    listed, told = tmp_path / "saw.csv", tmp_path / "told.csv"
    monkeypatch.setattr(desk.face, "file_to_write", lambda *_: listed)
    press("Write the list for the saw …")
    orders = read_orders(listed.read_text())
    longer = [orders[0]._replace(cut=orders[0].length + 1.0), *orders[1:]]
    told.write_text(told_csv(saw(longer).done))
    monkeypatch.setattr(desk.face, "file_to_open", lambda *_: told)
    press("Read what the saw told …")
    assert "1 open" in desk.said
    boards = LISTS["boards"](desk.checked)
    states = [r.cells[boards.at("state")] for r in boards.rows]
    assert states.count("cut") > len(states) / 2
    assert any(str(s).endswith(" cut") or s == "open" for s in states)
    told.write_text("nothing,of,a,saw\n")
    with pytest.raises(FileError, match="no column"):
        press("Read what the saw told …")
    press("Forget what was cut")
    assert desk.project.stock.sawn == ()
