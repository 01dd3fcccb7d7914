"""The set of sheets: no word lies on another, everything is large enough to be read, marks name the sheets
they stand for, strings add up, and what a person decides of the set is typed and kept."""

import contextlib
import random
import re
from typing import Any

import pytest
from msgspec.structs import replace
from shapely import STRtree

from balken.drawing.clearing import words_box
from balken.drawing.detail_places import detailed_walls
from balken.drawing.marks import Disc, Label, Patch, Stroke
from balken.drawing.paper.compose import sheets_of
from balken.drawing.paper.fitting import fitted
from balken.drawing.paper.legend import FILLS, LINES, used_in
from balken.drawing.paper.material_schedules import material_schedules
from balken.drawing.paper.records import Placed, Sheet
from balken.drawing.paper.schedules import schedules_of
from balken.drawing.paper.sizes import scales_from
from balken.drawing.paper.tables import Table, size_of, split
from balken.drawing.paper.titles import STEPS
from balken.drawing.paper.views import views_of
from balken.drawing.section_marks import REFERENCE, corners_of
from balken.drawing.tiers import tiers
from balken.drawing.valley_figure import valley_frames
from balken.drawing.wall_notes import outline_strings
from balken.errors import BalkenError
from balken.exchange.native import from_text, to_text
from balken.fit.findings import findings
from balken.framing import kinds
from balken.geometry.plane import box
from balken.model.edits.common import EditError
from balken.model.edits.hosts import remove_member
from balken.model.edits.openings import add_opening
from balken.model.edits.paper import (
    add_revision,
    add_section,
    add_sheet_note,
    lay_again,
    lay_view,
    set_block,
    set_note,
    set_paper,
    turn_section,
)
from balken.model.edits.paper_rows import drop_row, set_row
from balken.model.edits.wall_frames import frame_walls
from balken.model.names import HostName, ThingName
from balken.model.paper import Jog, LaidView
from balken.model.walls import Opening
from balken.recall import Recall, remembering
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import Desk, page
from balken.session.ferry_hall import ferry_hall
from balken.session.rows import Options, field_of, type_into
from balken.session.slips import rows_of
from balken.session.snapping import snap_field
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH, parse_length
from balken.works.building import Checked, work_out
from buildings import house

SMALLEST = 3.5
"""Size of the font, mm: capitals are 0.7 of it, 2.45 (ISO 3098-1: 2.5; 3/32 in is 2.4)."""


@pytest.fixture(scope="module", params=[shown_demo, ferry_hall], ids=["bakehouse", "ferry hall"])
def checked(request: pytest.FixtureRequest) -> Checked:
    return work_out(request.param())


@pytest.fixture(scope="module")
def sheets(checked: Checked) -> tuple[Sheet, ...]:
    return sheets_of(checked, findings(checked), "2026-01-01")


def overlaps(labels: list[Label], paper: float) -> list[tuple[str, str]]:
    boxes = [words_box(m, paper) for m in labels]
    tree = STRtree(boxes)
    return [
        (labels[i].text, labels[int(j)].text)
        for i, b in enumerate(boxes)
        for j in tree.query(b)
        if j > i and b.intersection(boxes[int(j)]).area > 0.02 * min(b.area, boxes[int(j)].area)
    ]


def words_of(view: Placed) -> list[Label]:
    return [m for m in view.drawing if isinstance(m, Label) and m.text and m.text != "+"]


def lying_on_one_another(sheets: tuple[Sheet, ...]) -> list[object]:
    found: list[object] = []
    for sheet in sheets:
        for view in sheet.views:
            found += [
                (sheet.number, view.key, *pair) for pair in overlaps(words_of(view), view.scale)
            ]
        beside = [m for m in sheet.block if isinstance(m, Label) and m.text]
        found += [(sheet.number, *pair) for pair in overlaps(beside, 1.0)]
    return found


def test_no_word_lies_on_another(sheets: tuple[Sheet, ...]) -> None:
    assert lying_on_one_another(sheets) == []


def random_building(seed: int) -> Checked:
    """A house of one or two storeys with windows, walls inside and a section, framed or not."""
    chance = random.Random(seed)
    system = chance.choice(["us", "metric"])
    project = house(
        chance.uniform(16, 60) * FOOT, chance.uniform(14, 34) * FOOT, chance.randint(1, 2), system
    )
    for item in project.walls:
        width = chance.uniform(2, 6) * FOOT
        hole = Opening("O", "window", chance.uniform(1, 5) * FOOT, width, 4 * FOOT, 3 * FOOT)
        if chance.random() < 0.6:
            with contextlib.suppress(EditError):
                project = add_opening(project, item.id, hole)
    x0, y0, x1, y1 = box([w.start for w in project.walls])
    for k in range(chance.randint(0, 3)):
        x = chance.uniform(x0 + 1500.0, x1 - 1500.0)
        inner = replace(
            project.walls[0],
            id=f"I{k}",
            name=f"inner {k}",
            start=(x, y0),
            end=(x, y1),
            thickness=100.0,
            side="centre",
            openings=(),
        )
        project = replace(project, walls=(*project.walls, inner))
    if chance.random() < 0.5:
        project = frame_walls(project, is_masonry)
    return work_out(add_section(project, (4 * FOOT, -9 * FOOT), (4 * FOOT, 60 * FOOT))[0])


@pytest.mark.parametrize("seed", range(8))
def test_nor_on_all_sheets_of_random_buildings(seed: int) -> None:
    done = random_building(seed)
    assert lying_on_one_another(sheets_of(done, findings(done), "2026-01-01")) == []


@pytest.mark.parametrize("seed", range(8, 50))
def test_nor_on_the_plans_of_random_buildings(seed: int) -> None:
    """At half the scale that plans are wanted in."""
    done = random_building(seed)
    scale = scales_from(done.project.system, 96.0)[0]
    for view in (v for v in views_of(done) if v.group == "plans"):
        drawing = fitted(view, scale).drawing
        words = [m for m in drawing if isinstance(m, Label) and m.text and m.text != "+"]
        assert overlaps(words, scale.ratio) == [], (view.key, scale.words)


def test_words_are_large_enough(sheets: tuple[Sheet, ...]) -> None:
    for sheet in sheets:
        marks = [*sheet.block, *(m for v in sheet.views for m in v.drawing)]
        small = [m for m in marks if isinstance(m, Label) and m.text and m.size < SMALLEST]
        assert not small, (sheet.number, small[:3])


def test_the_index_names_every_sheet_and_sheets_are_numbered_on(sheets: tuple[Sheet, ...]) -> None:
    words = {m.text for m in sheets[0].block if isinstance(m, Label)}
    assert [s.number for s in sheets] == [f"S{n}" for n in range(1, len(sheets) + 1)]
    assert {s.number for s in sheets} | {s.title for s in sheets} <= words


def test_marks_of_sections_name_their_sheet(checked: Checked, sheets: tuple[Sheet, ...]) -> None:
    lies_on = {v.key: s.number for s in sheets for v in s.views}
    lines = checked.project.paper.sections
    assert lines
    for sheet in sheets:
        for view in sheet.views:
            texts = [m.text for m in view.drawing if isinstance(m, Label)]
            assert not [t for t in texts if t.startswith(REFERENCE)]
            if view.key.startswith("plan:"):
                for line in lines:
                    assert texts.count(lies_on[f"section:{line.id}"]) >= 2, view.key


def test_each_view_is_drawn_once_and_every_plan_is_there(
    checked: Checked, sheets: tuple[Sheet, ...]
) -> None:
    keys = [v.key for s in sheets for v in s.views]
    assert len(keys) == len(set(keys))
    assert {f"plan:{t.id}" for t in tiers(checked)} <= set(keys)
    assert {f"side:{s}" for s in ("south", "east", "north", "west")} <= set(keys)
    assert {f"detail:{w.id}" for w, _ in detailed_walls(checked.project)} <= set(keys)
    assert "space" in keys


RANGE = re.compile(r"(.*?)(\d+)(\D*)–\1(\d+)\3")


def marks_in(cell: str) -> list[str]:
    """The marks of a cell, those between the ends of a range too."""
    found: list[str] = []
    for words in cell.split(", "):
        run = RANGE.fullmatch(words)
        if run is None:
            found.append(words)
        else:
            wide = len(run[2])
            numbers = range(int(run[2]), int(run[4]) + 1)
            found += [f"{run[1]}{n:0{wide}d}{run[3]}" for n in numbers]
    return found


def scheduled(checked: Checked, sheets: tuple[Sheet, ...]) -> set[str]:
    """The first cells of every schedule; all of them stand on sheets."""
    written = {m.text for s in sheets for m in s.block if isinstance(m, Label)}
    cells = {row[0] for t in schedules_of(checked) for row in t.rows}
    assert cells <= written, "each schedule stands beside its plan or on a sheet of its own"
    return {mark for cell in cells for mark in marks_in(cell)}


def test_every_mark_on_a_plan_stands_in_a_schedule(
    checked: Checked, sheets: tuple[Sheet, ...]
) -> None:
    """Of members, floors, roofs, bays, walls and openings: the first word of each that has a name."""
    listed = scheduled(checked, sheets)
    named = {m.mark for m in checked.structure.members}
    named |= {o.id for w in checked.project.walls for o in w.openings}
    project = checked.project
    named |= {
        b.id for b in project.wall_build_ups if any(w.build_up == b.id for w in project.walls)
    }
    named |= {x.id for x in (*project.floors, *project.bays)}
    drawn = {
        m.text.split("  ")[0]
        for s in sheets
        for v in s.views
        if v.key.startswith("plan:")
        for m in words_of(v)
    }
    bays = {mark.partition("-")[0] for mark in listed}
    slabs = {f.id for f in project.floors if HostName("floor", f.id) not in checked.sizes}
    assert (drawn & named) - listed - bays <= slabs
    assert len(drawn & named) > 20


def test_every_mark_of_a_schedule_is_drawn(checked: Checked, sheets: tuple[Sheet, ...]) -> None:
    """Posts, pads, beams, openings, floors and kinds of walls stand on the plans, trusses have their view."""
    drawn = {m.text.split("  ")[0] for s in sheets for v in s.views for m in words_of(v)}
    shown = {
        v.key.rpartition("/")[2] for s in sheets for v in s.views if v.key.startswith("truss:")
    }
    shown |= {row for host in checked.trusses for row in valley_frames(checked, host)}
    bays = {b.id for b in checked.project.bays}
    stuff = {table.title for table in material_schedules(checked)}
    assert "Concrete" in stuff
    for table in schedules_of(checked):
        if table.title in stuff:  # they name no pieces by their mark
            continue
        for row in table.rows:
            for mark in marks_in(row[0]):
                if table.title == "Trusses":
                    assert mark in drawn, "on the roof's plan"
                    assert mark in shown, "and a view of its own"
                elif mark.partition("-")[0] in bays:
                    assert mark.partition("-")[0] in drawn
                else:
                    assert mark in drawn, (table.title, mark)


def test_details_name_what_is_cut(checked: Checked, sheets: tuple[Sheet, ...]) -> None:
    views = [v for s in sheets for v in s.views if v.key.startswith("detail:")]
    assert views
    for view in views:
        words = " ".join(m.text for m in words_of(view))
        assert "concrete" in words
    by_id = {b.id: b for b in checked.project.wall_build_ups}
    for item, _ in detailed_walls(checked.project):
        words = " ".join(m.text for v in views if v.key == f"detail:{item.id}" for m in words_of(v))
        for layer in by_id[item.build_up].layers if item.build_up else ():
            assert layer.material in words, (item.id, layer.material)


def test_the_legend_tells_what_is_drawn_and_nothing_else(sheets: tuple[Sheet, ...]) -> None:
    used = used_in(v.drawing for s in sheets for v in s.views)
    words = {m.text for m in sheets[0].block if isinstance(m, Label)}
    for pen, means in LINES:
        assert (means in words) == (pen in used.pens)
    for fill, means in FILLS:
        assert (means in words) == (fill in used.fills)
    assert {"concrete", "timber"} <= used.fills


def test_under_a_view_stands_a_bar_as_long_as_it_says(
    checked: Checked, sheets: tuple[Sheet, ...]
) -> None:
    system, bars = checked.project.system, 0
    lengths = {words: long for long, words in STEPS[system]}
    for sheet in sheets:
        for view in sheet.views:
            x0, y0, x1, _ = view.box
            under = [
                m
                for m in sheet.block
                if isinstance(m, Label) and m.text in lengths and y0 <= m.at[1] <= y0 + 2.0
            ]
            for words in (m for m in under if x0 <= m.at[0] <= x1):
                bar = max(
                    max(x for x, _ in m.points) - min(x for x, _ in m.points)
                    for m in sheet.block
                    if isinstance(m, Stroke)
                    and abs(max(x for x, _ in m.points) + 1.6 - words.at[0]) < 0.01
                )
                assert bar * view.scale == pytest.approx(lengths[words.text])
                bars += 1
    assert bars > 5


def test_floors_are_cut_in_details_with_their_panels() -> None:
    sheets = sheets_of(work_out(shown_demo()), (), "")
    views = [v for s in sheets for v in s.views if v.key.startswith("detail:")]
    assert any('3/4" subfloor' in m.text for v in views for m in words_of(v))


def test_strings_along_the_outline_add_up() -> None:
    """Between wall ends and jambs: the pieces of each string are the side; wings have theirs too."""
    project = shown_demo()
    done = work_out(project)
    tier = next(t for t in tiers(done) if t.kind == "walls" and t.walls_on == project.walls[0].base)
    texts = [m.text for m in outline_strings(project, tier, 48.0) if isinstance(m, Label)]
    south = [
        parse_length(t, "us")
        for t in ("4'-0\"", "16'-0\"", "4'-0\"", "3'-0\"", "3'-0\"", "3'-0\"", "3'-0\"")
    ]
    assert sum(south) == pytest.approx(36 * FOOT)
    assert {"36'-0\"", "46'-0\"", "20'-0\"", "16'-0\""} <= set(texts), "wing and notch too"
    assert len(texts) == len([t for t in texts if t]), "none is empty"


def lengths_on(view: Placed) -> list[float]:
    """What the dimension figures of a view say, mm."""
    found = []
    for m in words_of(view):
        try:
            found.append(parse_length(m.text.removesuffix(" overall"), "us"))
        except BalkenError:
            continue
    return found


def test_the_foundation_is_set_out_by_its_sides_and_its_pads_from_the_grid() -> None:
    """The bakehouse: 36 by 26 ft with a wing of 16 by 20 ft, two pads in the wing."""
    checked = work_out(shown_demo())
    view = next(
        v for s in sheets_of(checked, (), "") for v in s.views if v.title == "Foundation plan"
    )
    lengths = lengths_on(view)
    for feet in (36, 26, 16, 20, 46):
        assert any(abs(x - feet * FOOT) < 1.0 for x in lengths), feet
    marks = {m.text.split(" ")[0] for m in words_of(view)}
    assert {m.mark for m in checked.structure.of(kinds.PAD)} <= marks
    # Between faces of stems along the south side: 12'-11", a wall of 10", the rest.
    along = [x for x in lengths if abs(x - (12 * FOOT + 11 * INCH)) < 2.0]
    assert along
    grid = checked.project.grids[0]
    columns = [x.offset for x in grid.lines if x.runs == "y"]
    pads = checked.structure.of(kinds.PAD)
    off = min(abs(pads[0].solid.bounds()[0][0] + 18 * INCH - grid.origin[0] - c) for c in columns)
    assert any(abs(x - off) < 1.0 for x in lengths)
    between = abs(pads[0].start[1] - pads[1].start[1])
    assert any(abs(x - between) < 1.0 for x in lengths)


def test_concrete_off_the_grid_is_told_from_it_and_no_side_twice() -> None:
    checked = work_out(ferry_hall())
    view = next(
        v for s in sheets_of(checked, (), "") for v in s.views if v.title == "Foundation plan"
    )
    words = [m.text for m in words_of(view)]
    stems = checked.structure.of(kinds.STEM)
    xs = [p[0] for m in stems for p in m.solid.plan()]
    ys = [p[1] for m in stems for p in m.solid.plan()]
    assert words.count(f"{max(xs) - min(xs):.0f}") == 1
    assert words.count(f"{max(ys) - min(ys):.0f}") == 1
    grid = checked.project.grids[0]
    columns = [grid.origin[0] + x.offset for x in grid.lines if x.runs == "y"]
    assert f"{min(abs(min(xs) - c) for c in columns):.0f}" in words


def test_a_section_is_drawn_turned_moved_and_taken_away() -> None:
    project, key = add_section(house(), (0.0, 3000.0), (9000.0, 3000.0))
    assert key == "A"
    other, second = add_section(project, (3000.0, 0.0), (3000.0, 9000.0))
    assert second == "B"
    turned = turn_section(other, "A").paper.sections[0]
    assert (turned.start, turned.end) == ((9000.0, 3000.0), (0.0, 3000.0))
    assert [s.id for s in drop_row(other, "sections", "A").paper.sections] == ["B"]
    for wrong in (
        lambda: add_section(project, (0.0, 0.0), (0.0, 0.0)),
        lambda: drop_row(project, "sections", "Q"),
    ):
        with pytest.raises(EditError):
            wrong()
    shallow = set_row(other, "sections", "A", depth=500.0)
    keys = {v.key: v for s in sheets_of(work_out(shallow), (), "") for v in s.views}
    all_of_it = {v.key: v for s in sheets_of(work_out(other), (), "") for v in s.views}
    assert len(keys["section:A"].drawing) < len(all_of_it["section:A"].drawing)


def test_the_tool_draws_a_section_and_its_slip_changes_it() -> None:
    desk = Desk(Building(house()), THINGS)
    desk.start("Section")
    assert desk.run is not None
    for place in ((0.0, 3000.0), (9000.0, 3000.0)):
        desk.run.click(place, snap_field(desk.project, desk.base), 1.0)
    desk.leave_tool()
    (line,) = desk.project.paper.sections
    desk.select(ThingName("section", line.id))
    assert type_into(field_of(rows_of(desk), "begins, north"), "10'", lambda: desk.said) is None
    assert desk.project.paper.sections[0].start[1] == pytest.approx(10 * FOOT)
    assert (
        type_into(field_of(rows_of(desk), "shows behind it"), "-4", lambda: desk.said) is not None
    )
    desk.undo()
    desk.undo()
    assert not desk.project.paper.sections


def test_title_block_notes_and_revisions_stand_on_the_sheets() -> None:
    project = set_block(house(), firm="Timber and Stone", client="The bakehouse", job="27-04")
    project = set_note(project, 0, "All nails are hot-dip galvanized.")
    project = add_revision(project, "A", "2027-01-15", "stair moved")
    assert from_text(to_text(project)) == project
    sheets = sheets_of(work_out(project), (), "2027-01-15")
    for sheet in sheets:
        words = [m.text for m in sheet.block if isinstance(m, Label)]
        assert "Timber and Stone" in words
        assert any("stair moved" in w for w in words)
        assert any("job 27-04" in w for w in words)
    first = [m.text for m in sheets[0].block if isinstance(m, Label)]
    assert any("galvanized" in w for w in first)
    assert set_note(project, 0, "").paper.general == ()
    with pytest.raises(EditError):
        add_revision(project, "", "", "")


def test_the_page_of_the_set_is_typed() -> None:
    desk = Desk(Building(house()), THINGS)
    desk.select(page("sheets"))
    size = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "paper")
    size.choose("A1")
    assert desk.project.paper.size == "A1"
    assert type_into(field_of(rows_of(desk), "firm"), "Timber and Stone", lambda: desk.said) is None
    assert desk.project.paper.block.firm == "Timber and Stone"
    refused = type_into(field_of(rows_of(desk), "one more"), "A stair", lambda: desk.said)
    assert refused is not None
    assert "mark, date, words" in refused.why
    assert (
        type_into(field_of(rows_of(desk), "one more note"), "Glue the decks.", lambda: desk.said)
        is None
    )
    assert desk.project.paper.general == ("Glue the decks.",)


def test_tables_are_split_where_a_sheet_is_full() -> None:
    rows = tuple((f"{n}", "row") for n in range(100))
    whole = Table("All", ("n", "is"), rows)
    parts = split(whole, 200.0)
    assert tuple(r for t in parts for r in t.rows) == rows
    assert all(size_of(t)[1] <= 200.0 for t in parts)


def test_an_empty_building_has_an_index_alone() -> None:
    empty = replace(house(), walls=(), runs=(), floors=(), roofs=(), grids=())
    sheets = sheets_of(work_out(empty), (), "2026-01-01")
    assert sheets[0].title == "Index and general notes"


def test_small_paper_takes_smaller_scales_and_more_sheets() -> None:
    project = house(storeys=2)
    large = sheets_of(work_out(set_paper(project, size="ARCH D")), (), "")
    small = sheets_of(work_out(set_paper(project, size="ANSI B")), (), "")
    assert len(small) >= len(large)

    def scale(found: tuple[Sheet, ...], key: str) -> float:
        return next(v.scale for s in found for v in s.views if v.key == key)

    floor = HostName("floor", project.floors[0].id)
    assert scale(small, f"plan:{floor}") >= scale(large, f"plan:{floor}")


def test_a_framed_house_shows_its_studs_in_space() -> None:
    done = work_out(frame_walls(house(), is_masonry))
    view = next(v for s in sheets_of(done, (), "") for v in s.views if v.key == "space")
    keys = {m.key for m in view.drawing if isinstance(m, Stroke)}
    studs = {m.id for m in done.structure.of(kinds.WALL_STUD)}
    assert len(keys & studs) > len(studs) / 2
    assert not [m for m in view.drawing if isinstance(m, Disc)]


def place_of_view(found: tuple[Sheet, ...], key: str) -> Placed:
    return next(v for s in found for v in s.views if v.key == key)


def test_a_view_is_moved_and_scaled_by_hand_and_stays_on_its_paper() -> None:
    project = house()
    key = f"plan:floor:{project.floors[0].id}"
    before = place_of_view(sheets_of(work_out(project), (), ""), key)
    moved = lay_view(project, key, by=(20.0, -5.0))
    after = place_of_view(sheets_of(work_out(moved), (), ""), key)
    assert after.origin[0] - before.origin[0] == pytest.approx(20.0, abs=0.01)
    far = sheets_of(work_out(lay_view(project, key, by=(5000.0, 0.0))), (), "")
    sheet = next(s for s in far for v in s.views if v.key == key)
    assert place_of_view(far, key).box[2] < sheet.width
    small = place_of_view(sheets_of(work_out(lay_view(project, key, scale=96.0)), (), ""), key)
    assert (small.scale, small.scale_text) == (96.0, '1/8" = 1\'-0"')
    assert lay_again(moved, key) == project
    assert from_text(to_text(moved)) == moved


def test_a_note_is_written_on_a_plan_and_stands_on_its_sheet() -> None:
    desk = Desk(Building(house()), THINGS)
    desk.start("Note")
    assert desk.run is not None
    field = snap_field(desk.project, desk.base)
    desk.run.click((3000.0, 3000.0), field, 1.0)
    desk.run.click((4000.0, 5000.0), field, 1.0)
    for letter in "hold this":
        desk.run.key("", letter)
    desk.run.key("enter", "")
    desk.leave_tool()
    (note,) = desk.project.paper.notes
    assert (note.words, note.at, note.to) == ("hold this", (4000.0, 5000.0), (3000.0, 3000.0))
    view = place_of_view(sheets_of(desk.checked, (), ""), note.view)
    assert "hold this" in [m.text for m in words_of(view)]
    desk.select(ThingName("note", note.id))
    assert type_into(field_of(rows_of(desk), "words"), "let it go", lambda: desk.said) is None
    assert desk.project.paper.notes[0].words == "let it go"
    take = THINGS["note"].take_away
    assert take is not None
    take(desk, ThingName("note", note.id))
    assert not desk.project.paper.notes


def test_the_slip_of_a_view_changes_its_scale() -> None:
    desk = Desk(Building(house()), THINGS)
    key = f"plan:floor:{desk.project.floors[0].id}"
    desk.select(ThingName("view", key))
    scale = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "scale")
    scale.choose(96.0)
    assert desk.project.paper.views == (LaidView(key, scale=96.0),)
    assert type_into(field_of(rows_of(desk), "moved up, mm"), "12", lambda: desk.said) is None
    assert desk.project.paper.views[0].by == (0.0, 12.0)


class Counting(Recall):
    """Counts the upright views that are drawn."""

    def __init__(self) -> None:
        super().__init__()
        self.drawn = 0

    def keep(self, key: Any, made: Any) -> None:
        self.drawn += key[0].__name__ == "drawn_upright"
        super().keep(key, made)


def test_an_edit_draws_only_the_upright_views_it_touches() -> None:
    """A note on a plan: none of elevations, sections and details is drawn again. A joist over the stair gone:
    those that have it, and not the steps of footings."""
    project, recall = shown_demo(), Counting()
    with remembering(recall):
        sheets_of(work_out(project), (), "")
        whole = recall.drawn
        assert whole >= 10
        noted = add_sheet_note(project, "plan:walls:L1", "here", (0.0, 0.0))[0]
        sheets_of(work_out(noted), (), "")
        assert recall.drawn == whole
        joist = next(m for m in work_out(project).structure.of(kinds.JOIST) if m.host.key == "F2")
        sheets_of(work_out(remove_member(project, joist.id)), (), "")
        assert whole < recall.drawn < 2 * whole


def test_a_jogged_section_cuts_each_leg_where_it_lies() -> None:
    """A line along a house at its middle that steps 2 m ahead half way: the left half of the view is that of
    the straight section, the right half that of one 2 m ahead; the plan shows its two corners."""
    project = house()
    start, end = (-1000.0, 3000.0), (12000.0, 3000.0)
    project, key = add_section(project, start, end)
    desk = Desk(Building(project), THINGS)
    desk.select(ThingName("section", key))
    field = field_of(rows_of(desk), "steps aside")
    assert type_into(field, "21'-4\", 6'-6 3/4\"", lambda: desk.said) is None
    (line,) = desk.project.paper.sections
    assert [j.ahead for j in line.jogs] == pytest.approx([2000.0], abs=1.0)
    done = work_out(desk.project)
    jog = start[0] + line.jogs[0].at

    def cut(done: Checked, key: str) -> list[tuple[float, float]]:
        view = next(v for s in sheets_of(done, (), "") for v in s.views if v.key == key)
        return [p for m in view.drawing if isinstance(m, Patch) and m.pen == "cut" for p in m.ring]

    mine = cut(done, f"section:{key}")
    ahead, other = add_section(
        project, (start[0], 3000.0 + line.jogs[0].ahead), (12000.0, 3000.0 + line.jogs[0].ahead)
    )
    straight = cut(work_out(ahead), f"section:{key}")
    far = cut(work_out(ahead), f"section:{other}")

    def rounded(places: list[tuple[float, float]], low: float, high: float) -> set[tuple[int, int]]:
        return {(round(x), round(z)) for x, z in places if low + 5 < x < high - 5}

    assert rounded(mine, -1e6, jog) == rounded(straight, -1e6, jog)
    assert rounded(mine, jog, 1e6) == rounded(far, jog, 1e6)
    assert len(corners_of(line)) == 2


def test_a_jogged_section_turned_cuts_the_same_places() -> None:
    project, key = add_section(house(), (0.0, 3000.0), (9000.0, 3000.0))
    jogs = (Jog(2000.0, 500.0), Jog(6000.0, -300.0))
    project = set_row(project, "sections", key, jogs=jogs)
    turned = turn_section(project, key)
    a, b = (corners_of(p.paper.sections[0]) for p in (project, turned))
    assert sorted(a) == [pytest.approx(p) for p in sorted(b)]
    back = turn_section(turned, key).paper.sections[0]
    assert back.start == pytest.approx((0.0, 3000.0))
    assert [(j.at, j.ahead) for j in back.jogs] == [(j.at, j.ahead) for j in jogs]


def test_steps_of_a_section_that_cannot_be_are_refused() -> None:
    project, key = add_section(house(), (0.0, 3000.0), (9000.0, 3000.0))
    desk = Desk(Building(project), THINGS)
    desk.select(ThingName("section", key))
    for text, says in (("12'", "how far ahead"), ("99', 3'", "between the ends"), ("x, y", "")):
        said = type_into(field_of(rows_of(desk), "steps aside"), text, lambda: desk.said)
        assert said is not None
        assert says in said.why
    assert desk.project.paper.sections[0].jogs == ()


def test_a_plan_larger_than_its_paper_goes_on_over_match_lines() -> None:
    """A house of 150 ft by 60 ft on ANSI B at 1/8 in: no plan is smaller; each part names the sheets it goes
    on on, and its windows stand on one part each."""
    project = set_paper(house(150 * FOOT, 60 * FOOT), size="ANSI B")
    for n in range(6):
        hole = Opening("", "window", (10 + 20 * n) * FOOT, 3 * FOOT, 4 * FOOT, 3 * FOOT)
        project = add_opening(project, project.walls[0].id, hole)
    done = work_out(project)
    found = sheets_of(done, (), "")
    plans = [(s, v) for s in found for v in s.views if v.key.startswith("plan:")]
    assert max(v.scale for _, v in plans) <= 96.0
    walls = next(t for t in tiers(done) if t.kind == "walls")
    parts = [(s, v) for s, v in plans if v.key.partition("#")[0] == f"plan:{walls.id}"]
    assert len(parts) > 1
    numbers = {s.number for s, _ in parts}
    for sheet, view in parts:
        words = [m.text for m in words_of(view) if m.text.startswith("match line")]
        assert words
        for text in words:
            assert text.rpartition(" ")[2] in numbers - {sheet.number}
        x0, y0, x1, y1 = view.box
        assert x0 >= 0
        assert y0 >= 0
        assert x1 <= sheet.width
        assert y1 <= sheet.height
    texts = [m.text for _, v in parts for m in words_of(v)]
    openings = [o.id for w in project.walls if w.base == walls.walls_on for o in w.openings]
    assert len(openings) == 6
    assert all(texts.count(o) == 1 for o in openings)


def test_a_scale_typed_for_one_view_leaves_the_others_at_theirs() -> None:
    project = house()
    key = f"plan:floor:{project.floors[0].id}"
    before = {v.key: v.scale for s in sheets_of(work_out(project), (), "") for v in s.views}
    large = lay_view(project, key, scale=8.0)
    after = {v.key: v.scale for s in sheets_of(work_out(large), (), "") for v in s.views}
    assert after[key] == 8.0
    assert {k: v for k, v in after.items() if key not in k} == {
        k: v for k, v in before.items() if k != key
    }
    assert any(k.startswith(f"{key}#") for k in after), "it goes on over other sheets"
