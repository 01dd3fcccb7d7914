"""Lists of a building: what they count is what the model has; filters, order, groups and sums; as CSV and as
a workbook, read back by another library (openpyxl)."""

import csv
import hashlib
import io
import json
from collections import Counter
from pathlib import Path

import openpyxl
import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from balken.cli import main
from balken.exchange.lists_csv import listing_csv
from balken.exchange.lists_xlsx import lists_xlsx
from balken.exchange.native import save
from balken.framing import kinds
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.listing import (
    Column,
    FilterError,
    Listing,
    Row,
    filtered,
    grouped,
    ordered,
    shown,
    totals,
)
from balken.takeoff.lists import LISTS
from balken.units import FOOT
from balken.works.building import Checked, work_out


@pytest.fixture(scope="module", params=[shown_demo, ferry_hall], ids=["bakehouse", "ferry hall"])
def checked(request: pytest.FixtureRequest) -> Checked:
    return work_out(request.param())


@pytest.fixture(scope="module")
def bakehouse() -> Checked:
    return work_out(shown_demo())


def table(*rows: tuple[object, ...]) -> Listing:
    columns = (
        Column("mark", "mark"),
        Column("role", "is"),
        Column("length", "length", "length", sums=True),
        Column("used", "used to", "ratio"),
    )
    return Listing("t", "Table", columns, tuple(Row(r) for r in rows))  # type: ignore[arg-type]


SMALL = table(
    ("J1", "joist", 10 * FOOT, 0.95),
    ("J10", "joist", 12 * FOOT, 0.4),
    ("J2", "header", 4 * FOOT, None),
    ("=P1", "post", 8 * FOOT, 1.2),
)


@pytest.mark.parametrize(
    ("phrase", "marks"),
    [
        ("", ["J1", "J10", "J2", "=P1"]),
        ("role=joist", ["J1", "J10"]),
        ("role!=joist", ["J2", "=P1"]),
        ("mark~j", ["J1", "J10", "J2"]),
        ("length>10'", ["J10"]),
        ("length>=10ft", ["J1", "J10"]),
        ("length=10'", ["J1"]),
        ("used>0.9", ["J1", "=P1"]),
        ("role=joist used<0.5", ["J10"]),
        ("head", ["J2"]),
        ('"12\'-0"', ["J10"]),
        ("role = post", ["=P1"]),
    ],
)
def test_a_filter_keeps_what_all_its_terms_hold_for(phrase: str, marks: list[str]) -> None:
    assert [r.cells[0] for r in filtered(SMALL, phrase, "us").rows] == marks


@pytest.mark.parametrize(
    ("phrase", "words"),
    [
        ("colour=red", "mark, role, length, used"),
        ("length>long", "no value for length"),
        ("role>joist", "use =, != or ~"),
        ("used=half", "no value for used"),
        ("x" * 501, "500 letters"),
    ],
)
def test_a_filter_that_cannot_be_read_says_what_could_be(phrase: str, words: str) -> None:
    with pytest.raises(FilterError, match=words):
        filtered(SMALL, phrase, "us")


def test_numbers_in_marks_are_put_in_order_as_numbers() -> None:
    assert [r.cells[0] for r in ordered(SMALL, "mark").rows] == ["=P1", "J1", "J2", "J10"]
    up = [r.cells[3] for r in ordered(SMALL, "used").rows]
    down = [r.cells[3] for r in ordered(SMALL, "used", down=True).rows]
    assert up == [0.4, 0.95, 1.2, None]
    assert down == [1.2, 0.95, 0.4, None], "what has no value stays last"


@given(st.permutations(range(4)))
def test_groups_add_up_to_the_whole(order: list[int]) -> None:
    mixed = SMALL._replace(rows=tuple(SMALL.rows[i] for i in order))
    groups = grouped(mixed, "role", "us")
    assert sum(totals(g.listing)[2] or 0.0 for g in groups) == pytest.approx(totals(mixed)[2])
    assert Counter(r for g in groups for r in g.listing.rows) == Counter(mixed.rows)


def test_pieces_are_those_of_the_model(checked: Checked) -> None:
    members = LISTS["members"](checked)
    assert [r.names[0] for r in members.rows] == [m.id for m in checked.structure.members]
    lengths = {m.id: m.length for m in checked.structure.members}
    assert all(r.cells[members.at("length")] == lengths[r.names[0]] for r in members.rows)  # type: ignore[index]


def test_lists_by_kind_count_each_member_once(checked: Checked) -> None:
    of = {
        "posts": (kinds.POST,),
        "headers": (kinds.WALL_HEADER, kinds.LINTEL),
        "pads": (kinds.PAD, kinds.PIER),
        "beams": (kinds.BEAM, kinds.RIDGE_BEAM, kinds.PURLIN),
    }
    for key, wanted in of.items():
        listing = LISTS[key](checked)
        members = checked.structure.of(*wanted)
        names = [n for r in listing.rows for n in r.names]
        assert Counter(names) == Counter(m.id for m in members)
        assert totals(listing)[listing.at("count")] == len(members)
        in_all = totals(listing)[listing.at("in_all")]
        assert in_all == pytest.approx(sum(m.length for m in members), abs=0.1 * len(members))


def test_concrete_is_the_trimmed_volume(checked: Checked) -> None:
    listing = LISTS["concrete"](checked)
    whole = sum(checked.structure.volume(m) for m in checked.structure.members if m.kind.concrete)
    assert totals(listing)[listing.at("volume")] == pytest.approx(whole)


def test_what_is_ordered_is_what_is_cut_and_costs_what_the_lumber_costs(checked: Checked) -> None:
    order, boards, lumber = (LISTS[k](checked) for k in ("order", "boards", "lumber"))
    bought = sum(
        float(r.cells[2] or 0.0) * float(r.cells[3] or 0.0)  # type: ignore[arg-type]
        for r in order.rows
        if r.cells[0] == "lumber"
    )
    assert bought == pytest.approx(totals(boards)[boards.at("bought")])
    can_be_cut = [r for r in lumber.rows if r.cells[lumber.at("bought")]]
    cost = totals(lumber._replace(rows=tuple(can_be_cut)))[lumber.at("cost")]
    assert totals(order)[order.at("cost")] == pytest.approx(cost, rel=1e-6)


def test_every_list_reads_in_words_and_as_csv(checked: Checked) -> None:
    system = checked.project.system
    for make in LISTS.values():
        listing = make(checked)
        rows = list(csv.reader(io.StringIO(listing_csv(listing, system))))
        assert len(rows) == len(listing.rows) + 1
        assert all(len(r) == len(rows[0]) for r in rows)
        for row in listing.rows:
            for cell, column in zip(row.cells, listing.columns):
                words = shown(cell, column.measure, system)
                assert "nan" not in words
                assert "inf" not in words


def test_the_workbook_reads_back_with_numbers_and_sums_as_formulas(checked: Checked) -> None:
    listings = [make(checked) for make in LISTS.values()]
    system = checked.project.system
    data = lists_xlsx(listings, system)
    assert data == lists_xlsx(listings, system), "the same lists give the same bytes"
    book = openpyxl.load_workbook(io.BytesIO(data))
    for listing in listings:
        sheet = book[listing.title[:31]]
        heads = [c.value for c in sheet[1]]
        assert heads[0] == listing.columns[0].title
        for n, total in enumerate(totals(listing)):
            if total is None or not listing.rows:
                continue
            at = next(i for i, h in enumerate(heads) if str(h).startswith(listing.columns[n].title))
            letter = openpyxl.utils.get_column_letter(at + 1)
            last = len(listing.rows) + 1
            formula = sheet[f"{letter}{last + 2}"].value
            assert formula == f"=SUBTOTAL(109,{letter}2:{letter}{last})"
    lengths = book["Pieces"]
    mm = [c.value for c in lengths[1]].index("length, mm") + 1
    first = checked.structure.members[0].length
    assert lengths.cell(2, mm).value == pytest.approx(first)


def test_names_are_never_formulas(bakehouse: Checked) -> None:
    bad = table(("=1+1", "@cmd", 1.0, None), ("+2", "-3", 2.0, None))
    rows = list(csv.reader(io.StringIO(listing_csv(bad, "us"))))
    assert [r[0] for r in rows[1:]] == ["'=1+1", "'+2"]
    sheet = openpyxl.load_workbook(io.BytesIO(lists_xlsx([bad], "us")))["Table"]
    assert (sheet["A2"].value, sheet["A2"].data_type) == ("=1+1", "s")
    assert sheet["B2"].data_type == "s"


@pytest.fixture(scope="module")
def file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    path = tmp_path_factory.mktemp("lists") / "bakehouse.balken"
    save(shown_demo(), path)
    return path


def test_the_command_prints_a_list(file: Path, bakehouse: Checked) -> None:
    done = CliRunner().invoke(main, ["list", str(file), "members", "--where", "role=joist"])
    assert done.exit_code == 0
    joists = bakehouse.structure.of(kinds.JOIST)
    lines = done.output.splitlines()
    assert sum(" joist " in line for line in lines) == len(joists)
    as_csv = CliRunner().invoke(main, ["list", str(file), "order", "--csv", "--by", "what"])
    assert as_csv.output.startswith("kind,what,length,length_mm,count")


@pytest.mark.parametrize(
    ("asked", "words"),
    [
        (["nothing"], "There is no list"),
        (["members", "--where", "colour=red"], "no column"),
        (["members", "--by", "colour"], "no column"),
    ],
)
def test_the_command_says_what_there_is(file: Path, asked: list[str], words: str) -> None:
    done = CliRunner().invoke(main, ["list", str(file), *asked])
    assert done.exit_code == 2
    assert words in done.output


def test_a_part_of_a_set_is_issued_with_its_manifest(file: Path, tmp_path: Path) -> None:
    out = tmp_path / "out"
    done = CliRunner().invoke(main, ["issue", str(file), "--to", str(out), "--only", "csv, xlsx"])
    assert done.exit_code in (0, 1), done.output
    names = {p.name for p in out.iterdir()}
    assert "bakehouse-lists.xlsx" in names
    assert not any(n.endswith((".pdf", ".ifc")) for n in names)
    told = json.loads((out / "bakehouse-manifest.json").read_text())
    assert {f["name"] for f in told["files"]} == names - {"bakehouse-manifest.json"}
    for f in told["files"]:
        data = (out / f["name"]).read_bytes()
        assert (len(data), hashlib.sha256(data).hexdigest()) == (f["bytes"], f["sha256"])
    bad = CliRunner().invoke(main, ["issue", str(file), "--to", str(out), "--only", "dwg"])
    assert "no part of a set" in bad.output


def test_a_list_of_nothing_is_empty() -> None:
    bare = work_out(
        replace(shown_demo(), walls=(), floors=(), roofs=(), runs=(), beams=(), bays=())
    )
    for make in LISTS.values():
        lists_xlsx([make(bare)], "us")
