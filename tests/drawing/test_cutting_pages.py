"""The cutting plan on paper: all boards, to scale, with every mark; nothing off the page."""

import pytest

from balken.drawing.book.cutting import cutting_pages
from balken.drawing.marks import Label, Patch
from balken.exchange.pdf import pdf
from balken.model.new import empty_building
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.cutting import section_plans
from balken.works.building import Checked, work_out


@pytest.fixture(scope="module", params=[shown_demo, ferry_hall], ids=["bakehouse", "ferry hall"])
def checked(request: pytest.FixtureRequest) -> Checked:
    return work_out(request.param())


def test_every_mark_stands_on_it(checked: Checked) -> None:
    words = " ".join(
        m.text for s in cutting_pages(checked) for m in s.block if isinstance(m, Label)
    )
    told = set(words.replace(",", " ").split())
    for plan in section_plans(checked):
        if not plan.to_length:
            for board in plan.plan.boards:
                assert {c.mark for c in board.cuts} <= told


def test_counts_add_up_to_the_boards(checked: Checked) -> None:
    counts = [
        int(m.text.split(" ")[0])
        for s in cutting_pages(checked)
        for m in s.block
        if isinstance(m, Label) and m.bold and " ×" in m.text and m.text.split(" ")[0].isdigit()
    ]
    plans = [p for p in section_plans(checked) if not p.to_length]
    assert sum(counts) == sum(len(p.plan.boards) for p in plans)


def test_nothing_lies_off_the_page_and_bars_are_to_scale(checked: Checked) -> None:
    sheets = cutting_pages(checked, "2026-11-30")
    assert pdf(sheets, "x") == pdf(sheets, "x")
    for sheet in sheets:
        for m in sheet.block:
            if isinstance(m, Patch):
                assert all(0 < x < sheet.width and 0 < y < sheet.height for x, y in m.ring)


def test_where_nothing_is_cut_there_are_no_pages() -> None:
    assert cutting_pages(work_out(empty_building("House", "us"))) == ()
