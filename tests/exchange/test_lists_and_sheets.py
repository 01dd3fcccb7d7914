"""Cutting list, report, sheets and commands."""

import csv
import io
import json
import re
from pathlib import Path

import msgspec
import pytest
from click.testing import CliRunner
from msgspec.structs import replace

from balken.cli import main
from balken.drawing.marks import Label
from balken.drawing.paper.compose import sheets_of
from balken.drawing.paper.sizes import PAPERS, SCALES, USUAL
from balken.drawing.tiers import tiers
from balken.exchange.cutlist_csv import cutting_list_csv
from balken.exchange.files import FileError
from balken.exchange.issue import file_stem, issue
from balken.exchange.native import load, save
from balken.exchange.pdf import pdf
from balken.exchange.report import for_people, report
from balken.fit.findings import findings
from balken.framing import kinds
from balken.model.catalogue import catalogue_of
from balken.model.edits import set_floor
from balken.model.paper import Paper
from balken.model.project import FORMAT, Project
from balken.session.building import DEMO
from balken.takeoff.cutting import cutting_list
from balken.units import FOOT
from balken.works.building import Checked, work_out
from buildings import house, misfits
from named import the


def test_every_piece_of_lumber_is_on_the_list_once(demo_checked: Checked) -> None:
    lines = cutting_list(demo_checked)
    marks = [m for line in lines for m in line.marks]
    lumber = [
        m.mark
        for m in demo_checked.structure.members
        if m.kind not in (kinds.FOOTING, kinds.STEM, kinds.SUBFLOOR)
    ]
    # What carries nothing is joined of lengths that are sold, and stands in a line for each.
    assert sorted(set(marks)) == sorted(lumber)
    assert sum(line.count for line in lines) >= len(lumber)
    joined = {m for m in marks if marks.count(m) > 1}
    longest = catalogue_of("us").stock[-1]
    by_mark = {m.mark: m for m in demo_checked.structure.members}
    assert all(by_mark[m].blank > longest and not by_mark[m].kind.spans for m in joined)


def test_what_is_bought_is_at_least_what_is_cut(demo_checked: Checked) -> None:
    for line in cutting_list(demo_checked):
        assert line.bought >= line.count * line.length - 0.5 or not line.bought


def test_the_csv_reads_back(demo_checked: Checked) -> None:
    rows = list(csv.DictReader(io.StringIO(cutting_list_csv(demo_checked))))
    assert len(rows) == len(cutting_list(demo_checked))
    joist = next(r for r in rows if r["use"] == "joist")
    assert float(joist["length_mm"]) > 3000
    assert int(joist["count"]) > 10


def test_a_name_cannot_smuggle_a_formula_into_a_spreadsheet(demo_checked: Checked) -> None:
    from balken.exchange.cutlist_csv import plain_cell

    assert plain_cell("=1+1") == "'=1+1"
    assert plain_cell("2x10") == "2x10"


def test_the_report_says_all_it_promises(demo_checked: Checked) -> None:
    document = report(demo_checked, findings(demo_checked))
    json.dumps(document, allow_nan=False)
    promised = {
        "levels",
        "grid_lines",
        "walls",
        "members",
        "concrete",
        "findings",
        "loads",
        "unread",
    }
    assert promised <= set(document)
    assert set(document["walls"][0]["openings"][0]) >= {"width_mm", "height_mm", "sill_mm", "at_mm"}
    member = next(m for m in document["members"] if m["role"] == "joist" and m["utilisation"])
    assert {
        "id",
        "role",
        "host",
        "section",
        "material",
        "start_mm",
        "end_mm",
        "length_mm",
        "volume_mm3",
        "cuts",
    } <= set(member)
    assert 0 < member["utilisation"] <= 1
    assert member["governing"] in (
        "Bending",
        "Shear",
        "Live deflection",
        "Total deflection",
        "Bearing",
    )
    loads = document["loads"]
    for case, force in loads["applied_N"].items():
        assert loads["soil_reaction_N"][case] == pytest.approx(force)
    walls = {w["id"]: w for w in document["walls"]}
    assert len(walls) == 10
    assert all(len(w) == 22 for w in walls), "walls are named by the architect's GlobalId"


def test_the_report_of_a_building_with_nothing_in_it() -> None:
    empty = Project(FORMAT, "Empty", "metric", "eu")
    checked = work_out(empty)
    document = report(checked, findings(checked))
    assert document["members"] == []
    assert document["loads"]["applied_N"] == {"D": 0.0, "L": 0.0, "Lr": 0.0, "S": 0.0}
    assert "Everything fits" in for_people(checked, ())


def test_sheets_fit_their_paper(demo_checked: Checked) -> None:
    """All of one paper, the smallest usual one that its plans fill well; scales are standard."""
    sheets = sheets_of(demo_checked, (), "2026-01-01")
    (paper,) = {s.paper for s in sheets}
    assert paper in USUAL["us"]
    assert {(s.width, s.height) for s in sheets} == {PAPERS[paper][1:]}
    standard = {s.ratio for s in SCALES["us"]}
    assert {v.scale for s in sheets for v in s.views} <= standard


def test_a_large_building_gets_a_larger_paper_or_a_smaller_scale() -> None:
    small, large = work_out(house()), work_out(house(250 * FOOT, 60 * FOOT))
    plans = [next(s for s in sheets_of(c, (), "") if s.views) for c in (small, large)]
    assert plans[1].width > plans[0].width
    assert plans[1].views[0].scale >= plans[0].views[0].scale


def test_paper_is_typed(demo_checked: Checked) -> None:
    """ISO A and ANSI sheets at their sizes (ISO 216; ANSI/ASME Y14.1)."""
    for name, size in (("A2", (594.0, 420.0)), ("ANSI D", (34 * 25.4, 22 * 25.4))):
        project = replace(demo_checked.project, paper=Paper(size=name))  # type: ignore[arg-type]
        sheets = sheets_of(replace(demo_checked, project=project), (), "")
        assert {(s.width, s.height) for s in sheets} == {size}


def test_dimensions_on_the_plan_are_the_building(demo_checked: Checked) -> None:
    floor = next(t for t in tiers(demo_checked) if t.id == the("floor:F1"))
    views = [v for s in sheets_of(demo_checked, (), "") for v in s.views]
    view = next(v for v in views if v.key == f"plan:{floor.id}")
    words = {m.text for m in view.drawing if isinstance(m, Label)}
    assert {
        "36'-0\" overall",
        "26'-0\" overall",
        "13'-4\"",
        "10'-8\"",
        "12'-0\"",
        "13'-0\"",
    } <= words


def test_the_pdf_is_vector_with_words_that_can_be_searched(demo_checked: Checked) -> None:
    data = pdf(sheets_of(demo_checked, findings(demo_checked), "2026-01-01"), "Bakehouse")
    assert data.startswith(b"%PDF-")
    assert b"/ToUnicode" in data
    assert b"/Subtype /Image" not in data
    boxes = set(re.findall(rb"/MediaBox \[ 0 0 ([\d.]+) ([\d.]+) \]", data))
    sheets = sheets_of(demo_checked, findings(demo_checked), "2026-01-01")
    assert len(boxes) == 1, "all of one size"
    assert data.count(b"/Type /Page\n") + data.count(b"/Type /Page ") == len(sheets)
    assert data.count(b"/Title") >= len(sheets), "a bookmark a sheet"
    assert b"Barlow" in data


def test_issue_writes_everything(demo_checked: Checked, tmp_path: Path) -> None:
    files = issue(demo_checked, findings(demo_checked), tmp_path / "a" / "b")
    stem = f"{file_stem(demo_checked.project.name)}-"
    names = {p.name.removeprefix(stem) for p in files}
    assert names >= {
        "sheets.pdf",
        "calculation.pdf",
        "cutting.pdf",
        "cutting-list.csv",
        "boards.csv",
        "order.csv",
        "concrete.csv",
        "lists.xlsx",
        "structure.ifc",
        "as-issued.balken",
        "manifest.json",
    }
    assert load(next(p for p in files if p.suffix == ".balken")) == demo_checked.project


def test_issuing_touches_neither_a_project_in_the_folder_nor_what_a_link_leads_to(
    demo_checked: Checked, tmp_path: Path
) -> None:
    mine = tmp_path / f"{file_stem(demo_checked.project.name)}.balken"
    mine.write_text("being worked on")
    issue(demo_checked, (), tmp_path)
    assert mine.read_text() == "being worked on"
    far, folder = tmp_path / "far.csv", tmp_path / "out"
    far.write_text("of another")
    folder.mkdir()
    (folder / f"{file_stem(demo_checked.project.name)}-concrete.csv").symlink_to(far)
    with pytest.raises(FileError, match="is a link to another file"):
        issue(demo_checked, (), folder)
    assert far.read_text() == "of another"


def test_a_files_name_is_made_of_what_names_can_hold() -> None:
    assert file_stem("Œuvre / ../x") == "œuvre------x"
    assert file_stem("///") == "building"


def run(*args: str) -> tuple[int, str]:
    result = CliRunner().invoke(main, list(args))
    assert result.exception is None or isinstance(result.exception, SystemExit), result.exception
    return result.exit_code, result.output


def test_from_an_architects_file_to_a_cutting_list(tmp_path: Path) -> None:
    project = tmp_path / "p.balken"
    code, text = run("take", str(DEMO), "--to", str(project))
    assert (code, "10 walls, 15 openings" in text) == (0, True)
    code, text = run("check", str(project))
    assert code == 1
    assert "Gap" in text
    code, text = run("check", str(project), "--json")
    assert code == 1
    assert json.loads(text)["findings"][0]["kind"] == "gap"
    code, text = run("issue", str(project), "--to", str(tmp_path / "out"))
    assert code == 0
    assert len(list((tmp_path / "out").iterdir())) >= 11


def test_exit_codes(tmp_path: Path, plain: Project) -> None:
    weak = tmp_path / "weak.balken"
    save(set_floor(plain, "F1", section="2x6", spacing=609.6), weak)
    code, text = run("check", str(weak))
    assert code == 1
    assert "Over" in text
    bad = tmp_path / "bad.balken"
    bad.write_bytes(b"\x89PNG")
    code, text = run("check", str(bad))
    assert code == 2
    assert text.count("\n") == 1
    code, text = run("check", str(tmp_path / "none.balken"), "--json")
    assert code == 2
    code, text = run("take", str(bad), "--to", str(tmp_path / "x.balken"))
    assert code == 2
    assert not (tmp_path / "x.balken").exists()


def test_everything_fits_gives_zero(tmp_path: Path, plain: Project) -> None:
    """Zero where nothing is told; one where a check is lacking, as of the walls of a house."""
    path = tmp_path / "p.balken"
    save(msgspec.structs.replace(plain, walls=(), runs=(), floors=(), roofs=()), path)
    assert run("check", str(path))[0] == 0
    assert misfits(findings(work_out(plain))) == []
    save(plain, path)
    code, text = run("check", str(path))
    assert (code, "Not checked" in text) == (1, True)


def test_walls_only(tmp_path: Path) -> None:
    project = tmp_path / "p.balken"
    assert run("take", str(DEMO), "--to", str(project), "--walls-only")[0] == 0
    assert load(project).floors == ()
    assert run("check", str(project))[0] == 1, "walls whose weight nothing carries"


def test_span_command() -> None:
    code, text = run(
        "span",
        "--member",
        "joist",
        "--species",
        "DF-L",
        "--grade",
        "2",
        "--size",
        "2x10",
        "--spacing",
        "16in",
        "--live",
        "40psf",
        "--dead",
        "10psf",
    )
    assert code == 0
    assert "15'-7 1/4\"" in text
    assert "R502.3.1(2)" in text
    code, text = run("span", "--size", "2x10", "--spacing", "16in", "--json")
    assert json.loads(text)["table_span_mm"] == pytest.approx(187 * 25.4)
    code, text = run("span", "--member", "rafter", "--snow", "30psf")
    assert code == 0
    assert text.count("2x") >= 5
    code, text = run("span", "--size", "oak")
    assert code == 2
    assert "no size" in text


def test_help_lists_every_command() -> None:
    code, text = run("--help")
    assert code == 0
    for word in ("demo", "open", "take", "check", "issue", "span", "bench", "shots", "test"):
        assert f"  {word} " in text
