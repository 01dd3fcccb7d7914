"""What a building costs: a small house summed by hand, prices that double where they count, tables of prices
with faults, of which nothing is taken."""

import io
from pathlib import Path

import openpyxl
import pytest
from msgspec.structs import replace

from balken.exchange.files import FileError
from balken.exchange.prices_in import read_prices
from balken.model.edits.prices import drop_prices, set_estimate, set_stock, take_prices
from balken.model.prices import Price
from balken.model.project import Project
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import Desk, page
from balken.session.rows import Button, Field
from balken.session.slips import rows_of
from balken.session.things.pages import PAGES
from balken.session.things.register import THINGS
from balken.takeoff.cost import LACKING, SHIPPED, amounts_of, cost_list, priced
from balken.takeoff.cutting import cutting_list, section_plans
from balken.takeoff.listing import totals
from balken.takeoff.lists import LISTS
from balken.units import FOOT
from balken.works.building import Checked, work_out
from buildings import house


def whole(checked: Checked) -> float:
    listing = cost_list(checked)
    return totals(listing)[listing.at("cost")] or 0.0


def test_lumber_of_a_house_summed_by_hand() -> None:
    """Feet of boards bought times the price of a foot, and hours of a foot times the wage."""
    checked = work_out(house())
    section, material = next(
        (p.section, p.material) for p in section_plans(checked) if not p.to_length
    )
    price = Price(f"{section} {material}", "ft", 1.5, 0.02)
    project = set_estimate(take_prices(checked.project, (price,)), wage=40.0)
    priced_ = work_out(project)
    rows = [r for r in cost_list(priced_).rows if r.cells[2] == f"{section} {material}"]
    feet = sum(
        p.plan.bought / FOOT
        for p in section_plans(priced_)
        if (p.section, p.material) == (section, material)
    )
    assert sum(float(r.cells[3] or 0) for r in rows) == pytest.approx(feet * 1.5)
    assert sum(float(r.cells[4] or 0) for r in rows) == pytest.approx(feet * 0.02)
    assert sum(float(r.cells[5] or 0) for r in rows) == pytest.approx(feet * 0.02 * 40.0)


def test_concrete_by_the_yard_and_forms_by_the_foot() -> None:
    checked = work_out(house())
    concrete = LISTS["concrete"](checked)
    volume, forms = totals(concrete)[concrete.at("volume")], totals(concrete)[concrete.at("forms")]
    assert volume is not None
    assert forms is not None
    prices = (Price("concrete", "cu yd", 200.0), Price("formwork", "sq ft", 3.0))
    before, after = whole(checked), whole(work_out(take_prices(checked.project, prices)))
    yards, feet = volume / (3 * FOOT) ** 3, forms / FOOT**2
    assert after - before == pytest.approx(200.0 * yards + 3.0 * feet)


def test_a_price_that_doubles_counts_where_it_is_used() -> None:
    project = shown_demo()
    one = (Price("2x6", "ft", 1.0), Price("concrete", "m3", 100.0))
    two = (Price("2x6", "ft", 2.0),)
    first = work_out(take_prices(project, one))
    second = work_out(take_prices(first.project, two))
    feet = sum(x.bought / FOOT for x in cutting_list(first) if x.section == "2x6")
    assert whole(second) - whole(first) == pytest.approx(feet)
    assert whole(work_out(drop_prices(second.project))) == pytest.approx(whole(work_out(project)))


def test_what_has_no_price_says_so() -> None:
    checked = work_out(house())
    told = {r.cells[-1] for r in cost_list(checked).rows}
    assert told == {SHIPPED, LACKING}
    by_area = Price("concrete", "sq ft", 5.0)
    lines = cost_list(work_out(take_prices(checked.project, (by_area,)))).rows
    (word,) = {r.cells[-1] for r in lines if r.cells[2] == "concrete"}
    assert word == "no price by the sq ft it has"


def test_waste_is_added_to_what_is_counted_and_not_to_boards() -> None:
    project = take_prices(shown_demo(), (Price("hanger", "piece", 10.0), Price("2x6", "ft", 1.0)))
    plain, more = work_out(project), work_out(set_estimate(project, waste=0.1))
    hangers = sum(1.0 for a in amounts_of(plain) if "hanger" in a.items)
    assert hangers > 0
    assert whole(more) - whole(plain) == pytest.approx(hangers * 10.0 * 0.1)


def test_the_nearest_name_goes_first() -> None:
    checked = work_out(house())
    amount = next(a for a in amounts_of(checked) if len(a.items) == 2)
    near, far = amount.items
    prices = {far.lower(): Price(far, "piece", 1.0), near.lower(): Price(near, "piece", 5.0)}
    assert priced(amount, prices).material == pytest.approx(5.0 * amount.pieces)


TABLE = 'item,unit,price,hours,date\n2x6,ft,1.25,0.02,2026-11-30\nconcrete,m3,"1,140",,\n'


def write(tmp_path: Path, text: str, name: str = "prices.csv") -> Path:
    path = tmp_path / name
    path.write_text(text, encoding="utf-8")
    return path


def test_a_table_is_read(tmp_path: Path) -> None:
    found = read_prices(write(tmp_path, TABLE))
    assert found == (
        Price("2x6", "ft", 1.25, 0.02, "2026-11-30"),
        Price("concrete", "m3", 1140.0, 0.0, ""),
    )


def test_a_workbook_is_read(tmp_path: Path) -> None:
    book = openpyxl.Workbook()
    assert book.active is not None
    for row in (("Price", "Item", "Unit"), (3.5, "formwork", "m2"), (None, None, None)):
        book.active.append(row)
    out = io.BytesIO()
    book.save(out)
    path = tmp_path / "prices.xlsx"
    path.write_bytes(out.getvalue())
    assert read_prices(path) == (Price("formwork", "m2", 3.5),)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("item,unit,price\n2x6,ft,cheap\n", "row 2: the price “cheap” is no number"),
        ("item,unit,price\n2x6,ft,-1\n", "row 2: the price -1 is less than nothing"),
        ("item,unit,price\n2x6,ft,\n", "row 2: the price “” is no number"),
        ("item,unit,price\n2x6,ft,nan\n", "is no number"),
        ("item,unit,price\n2x6,ell,1\n", "“ell” is no unit; there are piece"),
        ("item,unit,price\n,ft,1\n", "row 2: it names no item"),
        ("item,unit,price\n2x6,ft,1\n2X6,ft,2\n", "row 3: “2X6” has a price already"),
        ("item,price\n2x6,1\n", "no column “unit”"),
        ("", "has no rows"),
        ("item,unit,price,hours\n2x6,ft,1,long\n", "the hours “long”"),
    ],
)
def test_a_table_with_a_fault_is_told_and_nothing_taken(
    tmp_path: Path, text: str, words: str
) -> None:
    with pytest.raises(FileError, match=r"prices\.csv") as told:
        read_prices(write(tmp_path, text))
    assert words in str(told.value)


def test_what_is_no_table_is_told(tmp_path: Path) -> None:
    path = tmp_path / "prices.csv"
    path.write_bytes(b"\xff\xfe\x00")
    with pytest.raises(FileError, match="UTF-8"):
        read_prices(path)
    path.write_bytes(b"PK\x03\x04 no workbook")
    with pytest.raises(FileError, match="workbook"):
        read_prices(path)
    with pytest.raises(FileError):
        read_prices(tmp_path / "none.csv")


def at_desk(project: Project, which: str) -> Desk:
    desk = Desk(Building(project), THINGS)
    desk.select(page(which))
    return desk


def field(desk: Desk, name: str) -> Field:
    return next(r for r in rows_of(desk) if isinstance(r, Field) and r.name == name)


def press(desk: Desk, text: str) -> None:
    next(r for r in rows_of(desk) if isinstance(r, Button) and r.text == text).press()


def test_prices_are_taken_on_the_page_of_costs(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    desk = at_desk(house(), "cost")
    path = write(tmp_path, TABLE)
    monkeypatch.setattr(desk.face, "file_to_open", lambda *_: path)
    press(desk, "Take prices from a table …")
    assert len(desk.project.estimate.prices) == 2
    field(desk, "wage of an hour").typed("45")
    field(desk, "waste, %").typed("5 %")
    field(desk, "currency").typed("€")
    estimate = desk.project.estimate
    assert (estimate.wage, estimate.waste, estimate.currency) == (45.0, 0.05, "€")
    press(desk, "Forget them")
    assert desk.project.estimate.prices == ()


def test_what_lumber_is_cut_from_is_typed_on_its_page() -> None:
    desk = at_desk(house(), "cutting")
    field(desk, "lengths sold").typed("8', 16', 20'")
    field(desk, "saw takes").typed('1/4"')
    section, material = next(
        (p.section, p.material) for p in section_plans(desk.checked) if not p.to_length
    )
    field(desk, "one more").typed(f"{section}, {material}, 5', 3")
    stock = desk.project.stock
    assert stock.lengths == (8 * FOOT, 16 * FOOT, 20 * FOOT)
    assert stock.kerf == pytest.approx(6.35)
    assert stock.offcuts[0].count == 3
    with pytest.raises(Exception, match="Nothing of 9x9"):
        field(desk, "one more").typed("9x9, oak, 5', 3")
    with pytest.raises(Exception, match="Write section"):
        field(desk, "one more").typed("2x10")
    press(desk, "Refine the plan")
    assert "of the least there could be" in desk.said


def test_a_refined_plan_is_in_the_lists() -> None:
    project = shown_demo()
    at_once = work_out(project)
    fine = work_out(set_stock(project, refined=True))

    def bought(checked: Checked) -> float:
        boards = LISTS["boards"](checked)
        return totals(boards)[boards.at("bought")] or 0.0

    assert bought(fine) < bought(at_once)
    plans = [p for p in section_plans(fine) if not p.to_length]
    assert sum(p.plan.bought for p in plans) <= 1.006 * sum(p.plan.bound for p in plans)


def test_a_saw_wider_than_a_board_is_refused() -> None:
    from balken.errors import BalkenError

    with pytest.raises(BalkenError):
        set_stock(house(), kerf=90.0)
    tight = work_out(replace(house(), stock=replace(house().stock, lengths=(300.0,))))
    plans = [p for p in section_plans(tight) if not p.to_length]
    assert any(p.plan.open for p in plans), "pieces longer than all that is sold stay open"
    assert "cutting" in PAGES
