"""Sheets as PDF, SVG, DXF and PNG, read back with other libraries; and the simulated plotter, which must tell
what paper would lose."""

import io
import xml.etree.ElementTree as ET
from pathlib import Path

import ezdxf
import pytest
from click.testing import CliRunner
from PIL import Image

from balken.cli import main
from balken.drawing.marks import Label, Stroke
from balken.drawing.paper.compose import sheets_of
from balken.drawing.paper.records import Placed, Sheet
from balken.exchange.inks import ONE_COLOUR
from balken.exchange.native import to_text
from balken.exchange.pdf import pdf
from balken.exchange.sheet_dxf import sheets_dxf
from balken.exchange.sheet_png import sheet_png
from balken.exchange.sheet_svg import sheet_svg
from balken.fit.findings import findings
from balken.model.edits.paper import add_sheet_note
from balken.model.names import ThingName
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.desk import Desk
from balken.session.ferry_hall import ferry_hall
from balken.session.rows import Options
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.units import INCH, parse_length
from balken.works.building import work_out
from balken.workshop.plotter import plot, told

SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture(scope="module")
def sheets() -> tuple[Sheet, ...]:
    return sheets_of(work_out(shown_demo()), (), "2026-01-01")


def words(sheet: Sheet) -> list[str]:
    marks = [*sheet.block, *(m for v in sheet.views for m in v.drawing)]
    return [m.text for m in marks if isinstance(m, Label) and m.text]


def test_svg_has_every_word_at_its_place(sheets: tuple[Sheet, ...]) -> None:
    sheet = next(s for s in sheets if s.views)
    root = ET.fromstring(sheet_svg(sheet))
    assert root.get("width") == f"{sheet.width:.2f}mm"
    texts = [t.text for t in root.iter(f"{SVG}text")]
    assert sorted(t for t in texts if t) == sorted(words(sheet))
    for t in root.iter(f"{SVG}text"):
        assert 0.0 <= float(t.get("x", "0")) <= sheet.width
        assert 0.0 <= float(t.get("y", "0")) <= sheet.height
    groups = {g.get("id") for g in root.iter(f"{SVG}g")}
    assert {v.key for v in sheet.views} <= groups


def test_dxf_is_clean_true_to_size_and_has_a_layout_a_sheet(sheets: tuple[Sheet, ...]) -> None:
    few = sheets[:4]
    text = sheets_dxf(few)
    assert text == sheets_dxf(few), "the same input gives the same text"
    doc = ezdxf.read(io.StringIO(text))  # type: ignore[attr-defined]
    audit = doc.audit()
    assert not audit.errors
    assert not audit.fixes
    names = [n for n in doc.layout_names() if n.startswith("S")]
    assert len(names) == len(few)
    plan = next(v for s in few for v in s.views if v.key == "plan:floor:F1")
    sheet = next(s for s in few if plan in s.views)
    block = doc.blocks.get(f"{sheet.number}-{plan.number}")
    xs = [p[0] for e in block.query("LWPOLYLINE") for p in e.get_points()]
    strokes = [m for m in plan.drawing if isinstance(m, Stroke) and not m.of_string]
    drawn = [p[0] for m in strokes for p in m.points]
    assert min(xs) <= min(drawn) + 1e-6, "blocks are as large as the building"
    assert max(xs) >= max(drawn) - 1e-6
    assert {layer.dxf.name[:2] for layer in doc.layers if layer.dxf.name[0] == "S"} == {"S-"}
    texts = {e.dxf.text for e in block.query("TEXT")}
    words = [m for m in plan.drawing if isinstance(m, Label) and m.text]
    assert {m.text for m in words if m.measures is None} == texts


def test_strings_are_dimensions_that_measure_what_they_say(sheets: tuple[Sheet, ...]) -> None:
    """Each figure of a string is one dimension of the file, from place to place at true size."""
    few = [s for s in sheets if any(v.key.startswith(("plan:", "truss:")) for v in s.views)]
    doc = ezdxf.read(io.StringIO(sheets_dxf(tuple(few))))  # type: ignore[attr-defined]
    assert not doc.audit().errors
    count = 0
    for sheet in few:
        for view in sheet.views:
            block = doc.blocks.get(f"{sheet.number}-{view.number}")
            told = [m for m in view.drawing if isinstance(m, Label) and m.measures]
            found = list(block.query("DIMENSION"))
            assert len(found) == len(told)
            for mark, dim in zip(told, found):
                assert dim.dxf.text == mark.text
                words = mark.text.removesuffix(" overall").removesuffix(" over the eaves")
                words = words.rpartition(" = ")[2]
                assert dim.get_measurement() == pytest.approx(
                    parse_length(words, "us"), abs=INCH / 16
                )
                count += 1
    assert count > 60


def test_png_is_a_picture_of_the_paper(sheets: tuple[Sheet, ...]) -> None:
    data = sheet_png(sheets[1], 50)
    assert data == sheet_png(sheets[1], 50)
    picture = Image.open(io.BytesIO(data))
    assert picture.size == pytest.approx(
        (sheets[1].width / 25.4 * 50, sheets[1].height / 25.4 * 50), abs=2
    )
    dark = sum(picture.histogram()[:128]) / (picture.width * picture.height)
    assert 0.001 < dark < 0.3


@pytest.mark.parametrize("demo", [shown_demo, ferry_hall])
def test_both_demos_pass_the_plotter(demo: object) -> None:
    project = demo()  # type: ignore[operator]
    checked = work_out(project)
    sheets = sheets_of(checked, findings(checked), "2026-01-01")
    data = pdf(sheets, project.name)
    assert data == pdf(sheets, project.name), "the same input gives the same bytes"
    plotted = plot(data)
    assert len(plotted.pages) == len(sheets)
    for page, sheet in zip(plotted.pages, sheets):
        assert page == pytest.approx((sheet.width, sheet.height), abs=0.1)
    assert plotted.losses == (), told(plotted)


def one(*marks: object) -> bytes:
    view = Placed("v", "1", "V", 1.0, "1 : 1", (0.0, 0.0), marks)  # type: ignore[arg-type]
    return pdf((Sheet("S1", "Test", "A4", 297.0, 210.0, (view,), ()),), "Test")


@pytest.mark.forgetful
def test_the_plotter_tells_what_is_lost(monkeypatch: pytest.MonkeyPatch) -> None:
    """A word of 2 mm, a line that runs out of the page, a line of 0.05 mm."""
    small = plot(one(Label("tiny", (100.0, 100.0), 2.0)))
    assert [x.what for x in small.losses] == ["words too small"]
    assert small.losses[0].worst == pytest.approx(1.4, abs=0.01)
    out = plot(one(Stroke(((100.0, 100.0), (296.0, 100.0)), "seen")))
    assert [x.what for x in out.losses] == ["outside the margin"]
    assert out.losses[0].worst == pytest.approx(1.0, abs=0.01)
    assert plot(one(Stroke(((100.0, 100.0), (200.0, 100.0)), "seen"))).losses == ()
    monkeypatch.setattr("balken.exchange.pdf.PEN_WIDTH", {"seen": 0.05})
    thin = plot(one(Stroke(((100.0, 100.0), (200.0, 100.0)), "seen")))
    assert [x.what for x in thin.losses] == ["lines too thin"]
    pale = ONE_COLOUR._replace(quiet=(0.9, 0.9, 0.9))
    monkeypatch.setattr("balken.exchange.inks.ONE_COLOUR", pale)
    light = plot(one(Label("pale", (100.0, 100.0), 5.0, quiet=True)))
    assert [x.what for x in light.losses] == ["words too light"]


def test_what_is_no_pdf_is_refused(tmp_path: Path) -> None:
    with pytest.raises(ValueError, match="no PDF"):
        plot(b"GIF89a")
    file = tmp_path / "x.pdf"
    file.write_bytes(b"GIF89a")
    result = CliRunner().invoke(main, ["plot", str(file)])
    assert result.exit_code != 0
    assert "cannot be plotted" in result.output


def test_the_command_writes_the_forms_that_are_asked_for(tmp_path: Path) -> None:
    file, out = tmp_path / "b.balken", tmp_path / "out"
    file.write_bytes(to_text(shown_demo()))
    asked = ["issue", str(file), "--to", str(out), "--also", "svg", "--also", "dxf", "--each"]
    result = CliRunner().invoke(main, asked)
    assert result.exit_code == 0, result.output
    names = {p.name for p in out.iterdir()}
    assert {"bakehouse-s1.svg", "bakehouse-s1.pdf", "bakehouse-sheets.dxf"} <= names
    assert not any(n.endswith(".png") for n in names)
    plotted = CliRunner().invoke(main, ["plot", str(out / "bakehouse-sheets.pdf")])
    assert plotted.exit_code == 0, plotted.output
    assert "Nothing is lost" in plotted.output


def test_colours_of_materials_are_asked_for_on_the_page_of_the_set() -> None:
    """Typed on the slip; then PDF, SVG and PNG have colours, and none without."""
    desk = Desk(Building(shown_demo()), THINGS)
    one = sheets_of(desk.checked, (), "")[2]
    desk.select(ThingName("page", "sheets"))
    row = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "printed in")
    row.choose(True)
    many = sheets_of(desk.checked, (), "")[2]
    fills = {m.get("fill") for m in ET.fromstring(sheet_svg(many)).iter(f"{SVG}polygon")}
    assert any(f and f.startswith("#") and len({f[1:3], f[3:5], f[5:]}) > 1 for f in fills)
    grey = {m.get("fill") for m in ET.fromstring(sheet_svg(one)).iter(f"{SVG}polygon")}
    assert all(f == "none" or len({f[1:3], f[3:5], f[5:]}) == 1 for f in grey if f)
    assert Image.open(io.BytesIO(sheet_png(many, 40))).mode == "RGB"
    assert Image.open(io.BytesIO(sheet_png(one, 40))).mode == "L"
    assert pdf((many,), "x") != pdf((one,), "x")


@pytest.mark.forgetful
def test_the_same_project_gives_the_same_bytes_and_an_edit_changes_its_sheets_alone() -> None:
    """A note on the walls of Floor 1: its plan's sheet is another, details and trusses are the same."""
    project = shown_demo()
    first = sheets_of(work_out(project), (), "2026-01-01")
    again = sheets_of(work_out(project), (), "2026-01-01")
    assert [pdf((s,), "x") for s in first] == [pdf((s,), "x") for s in again]
    noted = add_sheet_note(project, "plan:walls:L1", "hold this", (3000.0, 3000.0))[0]
    after = sheets_of(work_out(noted), (), "2026-01-01")
    changed = [b.title for a, b in zip(first, after) if pdf((a,), "x") != pdf((b,), "x")]
    assert changed == ["Floor 1 walls plan"]
