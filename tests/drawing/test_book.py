"""The calculation book: everything in it is what the slip says, alike members once, nothing past the
paper."""

import re

import pytest

from balken.design.lines import format_value
from balken.drawing.book.book import calculation_book
from balken.drawing.book.flow import Piece, heading, line, pages_of
from balken.drawing.book.groups import groups_of
from balken.drawing.marks import Label
from balken.drawing.paper.records import Sheet
from balken.exchange.pdf import pdf
from balken.fit.findings import findings
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.units import format_force
from balken.works.building import Checked, checks_of, work_out


@pytest.fixture(scope="module", params=[shown_demo, ferry_hall], ids=["bakehouse", "ferry hall"])
def checked(request: pytest.FixtureRequest) -> Checked:
    return work_out(request.param())


@pytest.fixture(scope="module")
def book(checked: Checked) -> tuple[Sheet, ...]:
    return calculation_book(checked, findings(checked), "2026-01-01")


def words_of(sheet: Sheet) -> list[str]:
    return [m.text for m in sheet.block if isinstance(m, Label)]


def test_every_check_stands_there_with_all_its_lines(
    checked: Checked, book: tuple[Sheet, ...]
) -> None:
    """Numbers equal those the slip shows: both write the same lines."""
    words = {w for sheet in book for w in words_of(sheet)}
    for group in groups_of(checked):
        assert group.title in words
        for check in checks_of(checked, group.worst):
            assert {check.name, f"{check.ratio:.2f}"} <= words
            assert all(format_value(x, checked.project.system) in words for x in check.lines)


def test_alike_members_stand_there_once(checked: Checked, book: tuple[Sheet, ...]) -> None:
    groups = groups_of(checked)
    together = [m.id for g in groups for m in g.members]
    assert sorted(map(str, together)) == sorted(map(str, checked.used))
    assert len(groups) < len(together) / 5
    assert len(book) < 70
    for g in groups:
        assert {(m.role, m.section, m.material) for m in g.members} == {
            (g.worst.role, g.worst.section, g.worst.material)
        }
        assert checked.used[g.worst.id][0] == max(checked.used[m.id][0] for m in g.members)


def test_all_members_are_listed(checked: Checked, book: tuple[Sheet, ...]) -> None:
    first = next(n for n, s in enumerate(book) if s.title == "All members")
    listed = [w for s in book[first:] for w in words_of(s)]
    marks = {m.mark for m in checked.structure.members if m.id in checked.used}
    assert marks <= set(listed)


def test_the_sums_of_the_loads_are_told(checked: Checked, book: tuple[Sheet, ...]) -> None:
    words = [w for s in book for w in words_of(s)]
    dead = format_force(checked.path.applied.dead, checked.project.system)
    assert words.count(dead) >= 2, "applied, and into the soil"
    assert "Wind and earthquake" in words
    for finding in findings(checked):
        assert finding.text[:40] in " ".join(words)


def test_nothing_stands_past_the_paper(book: tuple[Sheet, ...]) -> None:
    for sheet in book:
        for m in sheet.block:
            if isinstance(m, Label):
                assert 0 < m.at[0] < sheet.width, m.text
                assert 0 < m.at[1] < sheet.height, m.text
                room = sheet.width - m.at[0] if m.anchor == "start" else sheet.width
                assert len(m.text) * 0.42 * m.size < room, m.text


def test_the_contents_name_the_pages(book: tuple[Sheet, ...]) -> None:
    front = [s for s in book if s.title == "Contents"]
    entries = [w for s in front for w in words_of(s)]
    for title in ("Basis", "Wind and earthquake", "All members"):
        page = int(entries[entries.index(title) + 1])
        assert title in words_of(book[page - 1])
    pages = [int(w) for w in entries if re.fullmatch(r"\d+", w)]
    assert pages == sorted(pages)
    assert pages[-1] <= len(book)


@pytest.mark.forgetful
def test_the_same_building_gives_the_same_bytes(checked: Checked, book: tuple[Sheet, ...]) -> None:
    again = calculation_book(checked, findings(checked), "2026-01-01")
    assert pdf(book, "x") == pdf(again, "x")


def test_a_title_never_stands_alone_at_the_foot() -> None:
    pieces = [*(line(f"row {n}") for n in range(50)), heading("Next", 1), line("first")]
    pages, contents = pages_of(pieces, "metric")
    page = contents[0].page
    words = [m.text for m in pages[page] if isinstance(m, Label)]
    assert words[words.index("Next") + 1] == "first"


def test_what_is_higher_than_a_page_gets_one() -> None:
    pages, _ = pages_of([line("before"), Piece(5000.0, ()), line("after")], "us")
    assert len(pages) == 3
