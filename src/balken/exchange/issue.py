"""Issuing a building: everything others need, into one folder."""

import hashlib
import json
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import Final

from balken.drawing.book.book import calculation_book
from balken.drawing.book.cutting import cutting_pages
from balken.drawing.paper.compose import sheets_of
from balken.drawing.paper.records import Sheet
from balken.exchange.analysis_csv import analysis_csv
from balken.exchange.concrete_csv import concrete_csv
from balken.exchange.cutlist_csv import cutting_list_csv
from balken.exchange.files import make_folder, write_all
from balken.exchange.gltf import structure_gltf
from balken.exchange.ifc_out import structure_ifc
from balken.exchange.ifc_writer import Schema
from balken.exchange.lifts_csv import lifts_csv
from balken.exchange.lists_csv import listing_csv
from balken.exchange.lists_xlsx import lists_xlsx
from balken.exchange.native import SUFFIX, to_text
from balken.exchange.pdf import pdf
from balken.exchange.plans_dxf import plans_dxf
from balken.exchange.sheet_dxf import sheets_dxf
from balken.exchange.sheet_png import sheet_png
from balken.exchange.sheet_svg import sheet_svg
from balken.exchange.sheets_csv import sheets_csv
from balken.fit.finding import Finding
from balken.processes import side_by_side
from balken.progress import Tell, unheard
from balken.recall import remembering
from balken.takeoff.lists import LISTS, boards_list, order_list
from balken.works.analysis_model import analysis_model
from balken.works.building import Checked


def issue(
    checked: Checked,
    findings: tuple[Finding, ...],
    folder: Path,
    *,
    date: str = "",
    when: str = "",
    tell: Tell = unheard,
    also: tuple[str, ...] = (),
    each: bool = False,
    only: tuple[str, ...] = (),
    schema: Schema = "IFC4",
) -> list[Path]:
    """Write plan sheets, the calculation book, cutting list, concrete list, structure and a copy of
    the project into a folder.

    The copy says in its name that it is one: a project being worked on in the same folder is not
    touched. No file is written before everything is made.

    Args:
        checked: the building, worked out.
        findings: what does not fit in it.
        folder: where to; made where it is not there.
        date: of the sheets.
        when: of the structure file.
        tell: takes in how far it is; what it raises ends the work.
        also: other forms the sheets are written in: those of :data:`FORMS`.
        each: a PDF for each sheet besides the one of all.
        only: write no more than these: those of :data:`PARTS`; those of :data:`USUAL` where empty.
        schema: of the structure file.

    Returns:
        The files written.

    Raises:
        FileError: a file cannot be written, or a link stands in its place; what was there before
            is whole as it was.
    """
    make_folder(folder)
    with remembering():  # what several lists are made of is worked out once
        files = _made(
            checked, findings, date, when, tell, also, each=each, only=only, schema=schema
        )
    tell(f"Writing {len(files)} files into {folder} …")
    write_all(folder, files)
    return [folder / name for name in files]


def _made(
    checked: Checked,
    findings: tuple[Finding, ...],
    date: str,
    when: str,
    tell: Tell,
    also: tuple[str, ...],
    *,
    each: bool,
    only: tuple[str, ...],
    schema: Schema,
) -> dict[str, bytes]:
    """All files of a set by their names; what does not hang on one another side by side."""
    project, wanted = checked.project, only or USUAL
    stem = file_stem(project.name)
    parts: dict[str, Callable[[], dict[str, bytes]]] = {
        "pdf": lambda: _sheets(checked, findings, date, tell, also, each=each, wanted=wanted),
        "book": lambda: _book(checked, findings, date, tell),
        "cutting": lambda: _cutting(checked, date),
        "lists": lambda: _lists(checked, wanted, tell),
        "ifc": lambda: {f"{stem}-structure.ifc": structure_ifc(checked, when, schema).encode()},
        "gltf": lambda: {f"{stem}-structure.glb": structure_gltf(checked)},
        "plans": lambda: _each_of(f"{stem}-plan", plans_dxf(checked), ".dxf"),
        "analysis": lambda: _each_of(
            f"{stem}-analysis", analysis_csv(analysis_model(checked)), ".csv"
        ),
        "project": lambda: {f"{stem}-as-issued{SUFFIX}": to_text(project)},
    }
    asked = {*wanted}
    asked |= {"pdf"} if also or each else set()
    asked |= {"lists"} if asked & {"csv", "xlsx"} else set()
    files: dict[str, bytes] = {}
    for made in side_by_side([make for part, make in parts.items() if part in asked]):
        files |= made
    files[f"{stem}-manifest.json"] = manifest(project.name, date, files)
    return files


def _sheets(
    checked: Checked,
    findings: tuple[Finding, ...],
    date: str,
    tell: Tell,
    also: tuple[str, ...],
    *,
    each: bool,
    wanted: Sequence[str],
) -> dict[str, bytes]:
    """The sheets as one PDF, one by one, and in other forms."""
    name, stem = checked.project.name, file_stem(checked.project.name)
    sheets = sheets_of(checked, findings, date, tell)
    files: dict[str, bytes] = {}
    if "pdf" in wanted:
        tell(f"Printing {len(sheets)} sheets …")
        files[f"{stem}-sheets.pdf"] = pdf(sheets, name)
    return files | _other_forms(checked, sheets, stem, also, tell, each=each)


def _book(
    checked: Checked, findings: tuple[Finding, ...], date: str, tell: Tell
) -> dict[str, bytes]:
    name = checked.project.name
    pages = calculation_book(checked, findings, date, tell)
    return {f"{file_stem(name)}-calculation.pdf": pdf(pages, f"{name}: calculation")}


def _cutting(checked: Checked, date: str) -> dict[str, bytes]:
    name, boards = checked.project.name, cutting_pages(checked, date)
    return {f"{file_stem(name)}-cutting.pdf": pdf(boards, f"{name}: cutting")} if boards else {}


def _each_of(stem: str, texts: Mapping[str, str], suffix: str) -> dict[str, bytes]:
    """A file for each of some texts, by its name."""
    return {f"{stem}-{key.lower()}{suffix}": text.encode() for key, text in texts.items()}


USUAL: Final = ("pdf", "book", "cutting", "csv", "xlsx", "ifc", "project")
"""What a set is made of: sheets, calculation, boards to cut, lists in two forms, structure, a copy of the
project."""
PARTS: Final = (*USUAL, "gltf", "plans", "analysis")
"""And what is written where it is asked for: the structure to be looked at, plans by layer to be laid into
others' drawings, and bars, supports and loads for analysis elsewhere."""


def _lists(checked: Checked, wanted: Sequence[str], tell: Tell) -> dict[str, bytes]:
    """The lists as CSV and as one workbook; of what there is none of, none."""
    tell("Lists …")
    found: dict[str, bytes] = {}
    system, stem = checked.project.system, file_stem(checked.project.name)
    if "csv" in wanted:
        found[f"{stem}-cutting-list.csv"] = cutting_list_csv(checked).encode()
        found[f"{stem}-concrete.csv"] = concrete_csv(checked).encode()
        found[f"{stem}-boards.csv"] = listing_csv(boards_list(checked), system).encode()
        found[f"{stem}-order.csv"] = listing_csv(order_list(checked), system).encode()
        lists = {"wall-panels": lifts_csv(checked), "wall-sheets": sheets_csv(checked)}
        # Of walls that are framed in place, or not at all, there is nothing to list.
        found |= {f"{stem}-{k}.csv": v.encode() for k, v in lists.items() if v.count("\n") > 1}
    if "xlsx" in wanted:
        listings = [make(checked) for make in LISTS.values()]
        found[f"{stem}-lists.xlsx"] = lists_xlsx([x for x in listings if x.rows], system)
    return found


def manifest(name: str, date: str, files: Mapping[str, bytes]) -> bytes:
    """What was issued: each file with its size and digest (SHA-256), so that who has it can tell whether it
    is whole and the same."""
    listed = [
        {"name": n, "bytes": len(data), "sha256": hashlib.sha256(data).hexdigest()}
        for n, data in files.items()
    ]
    text = {"project": name, "issued": date, "files": listed}
    return (json.dumps(text, ensure_ascii=False, indent=1) + "\n").encode()


FORMS: Final = ("svg", "dxf", "png")
"""In which sheets are written besides PDF."""


def _other_forms(
    checked: Checked,
    sheets: tuple[Sheet, ...],
    stem: str,
    also: tuple[str, ...],
    tell: Tell,
    *,
    each: bool,
) -> dict[str, bytes]:
    """Sheets one by one, or in other forms than PDF."""
    found: dict[str, bytes] = {}
    for sheet in sheets:
        name = f"{stem}-{sheet.number.lower()}"
        if each:
            found[f"{name}.pdf"] = pdf((sheet,), f"{checked.project.name} {sheet.number}")
        if "svg" in also:
            found[f"{name}.svg"] = sheet_svg(sheet).encode()
        if "png" in also:
            tell(f"Picture of {sheet.number} …")
            found[f"{name}.png"] = sheet_png(sheet)
    if "dxf" in also:
        tell("Sheets as DXF …")
        found[f"{stem}-sheets.dxf"] = sheets_dxf(sheets).encode()
    return found


def file_stem(name: str) -> str:
    """A file name made of a project's name."""
    kept = "".join(c if c.isalnum() else "-" for c in name.lower()).strip("-")
    return kept[:60] or "building"
