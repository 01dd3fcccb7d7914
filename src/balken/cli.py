"""The commands without a window."""

import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

import click

from balken import __version__
from balken.exchange.files import FileError

if TYPE_CHECKING:
    from balken.exchange.ifc_writer import Schema
    from balken.session.building import Building

FINE, FINDINGS, UNREADABLE = 0, 1, 2


def _stop(text: str) -> NoReturn:
    click.echo(f"balken: {text}", err=True)
    sys.exit(UNREADABLE)


@click.group(context_settings={"help_option_names": ["-h", "--help"], "max_content_width": 100})
@click.version_option(__version__, prog_name="balken")
def main() -> None:
    """Structure between building levels: from an architect's walls to a cutting list."""


def _show(file: Path | None, *, demo: str = "") -> None:
    from balken.desk.app import run

    sys.exit(run(file, demo=demo))


@main.command()
@click.option(
    "--hall", is_flag=True, help="The second demo building, the ferry hall: metric, on posts."
)
def demo(hall: bool) -> None:
    """Open the window with a demo building: the bakehouse, or the ferry hall."""
    _show(None, demo="ferry hall" if hall else "bakehouse")


@main.command(name="open")
@click.argument("file", type=click.Path(path_type=Path), required=False)
def open_(file: Path | None) -> None:
    """Open a project, or an architect's IFC file, in the window."""
    _show(file)


@main.command()
@click.argument("architect", type=click.Path(path_type=Path))
@click.option(
    "--to", "target", type=click.Path(path_type=Path), required=True, help="Project file to write."
)
@click.option(
    "--walls-only", is_flag=True, help="Take levels, grids and walls; propose no structure."
)
@click.option(
    "--building", default="", help="Name of the building to read, where the file holds several."
)
@click.option(
    "--template",
    type=click.Path(path_type=Path),
    help="A project to take build-ups, products, prices, paper and site of.",
)
def take(
    architect: Path, target: Path, walls_only: bool, building: str, template: Path | None
) -> None:
    """Begin a project from an architect's IFC file."""
    from balken.exchange.native import load, save
    from balken.session.building import begin

    try:
        project, said = begin(
            architect,
            structure=not walls_only,
            building=building,
            template=None if template is None else load(template),
        )
        save(project, target)
    except FileError as error:
        _stop(str(error))
    openings = sum(len(w.openings) for w in project.walls)
    lines = sum(len(g.lines) for g in project.grids)
    click.echo(
        f"{target}: {len(project.levels)} levels, {lines} grid lines, {len(project.walls)} walls,"
        f" {openings} openings."
    )
    for note in project.notes:
        click.echo(f"  not read: {note.what} {note.source}: {note.why}")
    for sentence in said:
        click.echo(f"  {sentence}")


@main.command()
@click.argument("template", type=click.Path(path_type=Path))
@click.option(
    "--to", "target", type=click.Path(path_type=Path), required=True, help="Project file to write."
)
@click.option("--name", default="New building", help="Of the new project.")
def new(template: Path, target: Path, name: str) -> None:
    """Begin a project with what a template, or any project, has beside its structure."""
    from balken.exchange.native import load, save
    from balken.model.kept import begun_from

    try:
        save(begun_from(load(template), name), target)
    except FileError as error:
        _stop(str(error))
    click.echo(f"{target}: {name}")


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--take", "taken", type=click.Path(path_type=Path), help="Take this catalogue in.")
@click.option("--to", "target", type=click.Path(path_type=Path), help="Write the catalogue here.")
@click.option(
    "--part", default="", help="Write one part as CSV: products, prices, build_ups, wall_build_ups."
)
def catalogue(file: Path, taken: Path | None, target: Path | None, part: str) -> None:
    """Take a catalogue (JSON, CSV) into a project, or write the project's to a file."""
    from balken.errors import BalkenError
    from balken.exchange.catalogue_files import (
        PARTS,
        catalogue_csv,
        catalogue_json,
        read_catalogue,
    )
    from balken.exchange.files import write_atomic
    from balken.exchange.native import load, save
    from balken.model.edits.catalogue import came_beside, take_catalogue
    from balken.model.kept import WORDS, catalogue_of_project

    if part and part not in PARTS:
        _stop(f"“{part}” is no part of a catalogue; there are {', '.join(PARTS)}.")
    try:
        project = load(file)
        beside: tuple[str, ...] = ()
        if taken is not None:
            before, found = project, read_catalogue(taken)
            project = take_catalogue(before, found)
            beside = came_beside(before, project, found)
            save(project, file)
        kept = catalogue_of_project(project)
        if target is not None:
            text = catalogue_csv(kept, part) if part else catalogue_json(kept)
            write_atomic(target, text.encode())
    except BalkenError as error:
        _stop(str(error))
    click.echo(", ".join(f"{len(getattr(kept, p))} {words}" for p, words in WORDS.items()))
    if beside:
        click.echo(f"As {', '.join(beside)} came what is called like build-ups in use.")


def _opened(file: Path) -> "Building":
    from balken.session.building import open_building

    try:
        return open_building(file)
    except FileError as error:
        _stop(str(error))


def _worked(file: Path) -> tuple[Any, Any]:
    building = _opened(file)
    return building.checked, building.findings


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="The report for machines (docs/report.md).")
def check(file: Path, as_json: bool) -> None:
    """Check a project. Exit code 0: everything fits; 1: there are findings; 2: it cannot be
    read."""
    from balken.exchange.report import for_people, report

    checked, found = _worked(file)
    if as_json:
        click.echo(
            json.dumps(report(checked, found), ensure_ascii=False, indent=1, allow_nan=False)
        )
    else:
        click.echo(for_people(checked, found), nl=False)
    sys.exit(FINDINGS if found else FINE)


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option(
    "--to", "target", type=click.Path(path_type=Path), required=True, help="Project file to write."
)
def size(file: Path, target: Path) -> None:
    """Size a whole building, roof to footing, and say what changed. Exit code 1: some of it is still
    over."""
    from balken.exchange.native import save
    from balken.fit.whole_sizing import size_whole
    from balken.model.names import in_words
    from balken.works.told_sizes import sizes_told

    checked, _ = _worked(file)
    whole = size_whole(checked.project, sizes_told(checked))
    try:
        save(whole.project, target)
    except FileError as error:
        _stop(str(error))
    for change in whole.changes:
        why = f"  ({change.why})" if change.why else ""
        click.echo(f"{in_words(change.host)} {change.what}: {change.was} → {change.now}{why}")
    click.echo(f"{len(whole.changes)} sizes changed in {whole.rounds} rounds.")
    for finding in whole.left:
        click.echo(f"  still over: {finding.text}")
    sys.exit(FINDINGS if whole.left else FINE)


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
def variants(file: Path) -> None:
    """Size the whole building as it is and in other ways, and print what each costs."""
    from balken.fit.variants import compare

    checked, _ = _worked(file)
    for x in compare(checked, lambda words: click.echo(words, err=True)):
        over = f", {x.over} over" if x.over else ""
        over += f", {x.carbon:,.0f} kg carbon" if x.carbon else ""
        click.echo(
            f"{x.words}: cost {x.cost:,.0f}, wood {x.timber / 1e9:.2f} m³, concrete"
            f" {x.concrete / 1e9:.2f} m³, {x.pieces} pieces{over}"
        )


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option(
    "--to", "folder", type=click.Path(path_type=Path), required=True, help="Folder to write into."
)
@click.option(
    "--also",
    multiple=True,
    type=click.Choice(["svg", "dxf", "png"]),
    help="Write the sheets in this form too; may be given several times.",
)
@click.option("--each", is_flag=True, help="A PDF for each sheet besides the one of all.")
@click.option(
    "--only",
    default="",
    help="No more than these, with commas between: pdf, book, cutting, csv, xlsx, ifc, project; and"
    " analysis (bars, supports and loads as CSV), gltf, plans (DXF), which are written on request only.",
)
@click.option(
    "--ifc",
    "schema",
    default="IFC4",
    type=click.Choice(["IFC4", "IFC2X3"], case_sensitive=False),
    help="Schema of the structure file.",
)
def issue(
    file: Path, folder: Path, also: tuple[str, ...], each: bool, only: str, schema: "Schema"
) -> None:
    """Write sheets and calculation (PDF), lists (CSV, XLSX), structure (IFC), project and a manifest into a
    folder."""
    from datetime import datetime

    from balken.exchange.issue import PARTS
    from balken.exchange.issue import issue as write
    from balken.processes import on_all_cores
    from balken.recall import remembering

    parts = tuple(x.strip() for x in only.split(",") if x.strip())
    if unknown := [x for x in parts if x not in PARTS]:
        _stop(f"“{unknown[0]}” is no part of a set; there are {', '.join(PARTS)}.")
    building = _opened(file)
    checked, found = building.checked, building.findings
    now = datetime.now()
    try:
        # What was worked out for the checks is not once more.
        with remembering(building.recall), on_all_cores():
            files = write(
                checked,
                found,
                folder,
                date=now.strftime("%Y-%m-%d"),
                when=now.strftime("%Y-%m-%dT%H:%M:%S"),
                also=also,
                each=each,
                only=parts,
                schema=schema,
            )
    except FileError as error:
        _stop(str(error))
    for path in files:
        click.echo(str(path))
    if found:
        click.echo(f"{len(found)} open points: see ./balken check {file}", err=True)


@main.command(name="list")
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("which", default="members")
@click.option("--where", default="", help='Rows that hold, as "role=joist length>10ft used>0.9".')
@click.option("--by", default="", help="Put in order by a column.")
@click.option("--csv", "as_csv", is_flag=True, help="As CSV, with lengths in mm too.")
def list_(file: Path, which: str, where: str, by: str, as_csv: bool) -> None:
    """Print a list of a building: members, lumber, boards, order, concrete and more."""
    from balken.errors import BalkenError
    from balken.exchange.lists_csv import listing_csv
    from balken.takeoff.listing import filtered, in_columns, ordered
    from balken.takeoff.lists import LISTS

    if which not in LISTS:
        _stop(f"There is no list “{which}”; there are {', '.join(LISTS)}.")
    checked, _ = _worked(file)
    system = checked.project.system
    try:
        listing = filtered(LISTS[which](checked), where, system)
        listing = ordered(listing, by) if by else listing
    except BalkenError as error:
        _stop(str(error))
    text = listing_csv(listing, system) if as_csv else in_columns(listing, system)
    click.echo(text, nl=False)


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--to", "target", type=click.Path(path_type=Path), help="Write what it tells there.")
def saw(file: Path, target: Path | None) -> None:
    """Send a project, or a list of cuts (CSV), to the simulated saw, and tell what was cut. Exit code 1: some
    is open."""
    from balken.exchange.files import read_bytes, write_all
    from balken.exchange.saw_csv import LARGEST, read_orders, saw_list, told_csv
    from balken.takeoff.cutting import section_plans
    from balken.workshop.saw import saw as cut
    from balken.workshop.saw import summed

    try:
        if file.suffix.lower() == ".csv":
            text = read_bytes(file, LARGEST).decode("utf-8-sig", "replace")
        else:
            text = saw_list(section_plans(_worked(file)[0]))
        sawn = cut(read_orders(text))
        if target is not None:
            write_all(target.parent, {target.name: told_csv(sawn.done).encode()})
    except FileError as error:
        _stop(str(error))
    click.echo(summed(sawn))
    for x in sawn.done:
        if x.state == "open":
            click.echo(f"  open: {x.mark}, {x.length:.1f} mm of {x.section}: {x.why}")
    sys.exit(FINDINGS if any(x.state == "open" for x in sawn.done) else FINE)


@main.command()
@click.argument("before", type=click.Path(path_type=Path))
@click.argument("after", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="For machines.")
def compare(before: Path, after: Path, as_json: bool) -> None:
    """Compare two versions of a project, piece by piece; the earlier may be a structure file that was issued
    (IFC). Exit code 0: they are the same; 1: they differ."""
    from balken.exchange.compared_json import compared_json
    from balken.takeoff.compared import differences_list, items_of, sums_of
    from balken.takeoff.listing import in_columns

    if before.suffix.lower() == ".ifc":
        _since_issued(before, after, as_json)
    old, new = _worked(before)[0], _worked(after)[0]
    items, listing = items_of(old.project, new.project), differences_list(old, new)
    if as_json:
        click.echo(json.dumps(compared_json(old, new), ensure_ascii=False, indent=1))
    else:
        for s in sums_of(old, new):
            click.echo(f"{s.words}: {s.before:,.2f} → {s.after:,.2f}")
        for item in items:
            what = f": {item.words}" if item.words else ""
            click.echo(f"{item.state} {item.field} {item.key}{what}")
        if listing.rows:
            click.echo(in_columns(listing, new.project.system), nl=False)
    sys.exit(FINDINGS if items or listing.rows else FINE)


def _since_issued(issued: Path, file: Path, as_json: bool) -> NoReturn:
    """What came, went and changed since a structure file was issued."""
    from balken.exchange.compared_json import listing_json
    from balken.exchange.ifc_issued import read_issued
    from balken.takeoff.issued import since_issued
    from balken.takeoff.listing import in_columns

    try:
        before = read_issued(issued)
    except FileError as error:
        _stop(str(error))
    checked, _ = _worked(file)
    listing = since_issued(before, checked)
    if as_json:
        click.echo(json.dumps(listing_json(listing), ensure_ascii=False, indent=1))
    elif listing.rows:
        click.echo(in_columns(listing, checked.project.system), nl=False)
    sys.exit(FINDINGS if listing.rows else FINE)


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
def plot(file: Path) -> None:
    """Send a PDF to the simulated plotter of one colour, and tell what paper would lose. Exit code 1:
    something is lost."""
    from balken.workshop.plotter import plot as read
    from balken.workshop.plotter import told

    try:
        plotted = read(file.read_bytes())
    except (OSError, ValueError) as error:
        _stop(f"{file} cannot be plotted: {error}")
    click.echo(told(plotted))
    if plotted.losses:
        raise SystemExit(1)


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option(
    "--to",
    "target",
    type=click.Path(path_type=Path),
    required=True,
    help="CSV file of heights to write.",
)
@click.option(
    "--error",
    "spread",
    default=5.0,
    show_default=True,
    help="Spread of the instrument's error, mm.",
)
@click.option("--step", default=3000.0, show_default=True, help="Farthest between two places, mm.")
@click.option("--seed", default=1, show_default=True, help="The same seed reads the same.")
def survey(file: Path, target: Path, spread: float, step: float, seed: int) -> None:
    """Walk round a building with a simulated survey instrument and write the heights of the
    ground."""
    from balken.exchange.files import write_atomic
    from balken.exchange.instrument import MadeUpGround, SimulatedInstrument
    from balken.exchange.instrument import survey as walk
    from balken.exchange.spots_csv import spots_csv
    from balken.model.project import column
    from balken.site.bodies import storey_outline, storey_walls

    if not (0 <= spread <= 1000 and 100 <= step <= 1e5):
        _stop("The error lies between 0 and 1000 mm, the step between 100 mm and 100 m.")
    checked, _ = _worked(file)
    outlines = [
        storey_outline(storey_walls(checked.project, x.id)) for x in column(checked.project)
    ]
    outline = next((o for o in outlines if o), None)
    if outline is None:
        _stop(f"The walls of {file.name} enclose nothing, so there is no outline to walk round.")
    ground = next((x.elevation for x in checked.project.levels if x.role == "ground"), -600.0)
    instrument = SimulatedInstrument(MadeUpGround(height=ground - 150.0), spread, seed)
    spots = walk(instrument, outline, step)
    try:
        write_atomic(target, spots_csv(spots).encode())
    except FileError as error:
        _stop(str(error))
    click.echo(f"{target}: {len(spots)} heights")


@main.command()
@click.option(
    "--member",
    type=click.Choice(["joist", "ceiling-joist", "rafter"]),
    default="joist",
    show_default=True,
)
@click.option(
    "--species", default="DF-L", show_default=True, help="DF-L, HF, SPF, SP, DF-L(N) or SPF-S."
)
@click.option("--grade", default="2", show_default=True, help="SS, 1, 2, 3, 1&Btr, Stud ...")
@click.option("--size", help="Such as 2x10 or 38x235; all usual sizes when left out.")
@click.option("--spacing", help="Such as 16in or 400mm; all usual spacings when left out.")
@click.option("--live", help="Live load, such as 40psf or 1.9kPa; roof live load for rafters.")
@click.option("--snow", help="Snow load on a rafter, instead of roof live load.")
@click.option("--dead", help="Dead load, such as 10psf.")
@click.option("--limit", type=float, help="Live deflection limit, the n of span / n.")
@click.option("--total-limit", type=float, help="Total deflection limit; 0 for none.")
@click.option("--wet", is_flag=True, help="Wet service.")
@click.option("--incised", is_flag=True, help="Incised for treatment.")
@click.option(
    "--units", type=click.Choice(["us", "metric"]), help="Taken from the size when left out."
)
@click.option("--json", "as_json", is_flag=True, help="The answer for machines.")
def span(**asked: Any) -> None:
    """How far does it reach? The engineered span with its steps, and the span of the tables beside
    it."""
    from balken.exchange.span_text import SpanError, answer

    try:
        click.echo(answer(**asked))
    except SpanError as error:
        _stop(str(error))


@main.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.argument("phrase", nargs=-1, required=True)
def find(file: Path, phrase: tuple[str, ...]) -> None:
    """Print what search-and-do would offer for a phrase, best first, with what each would do. Exit
    code 1: nothing says quite that, and only the nearest is told."""
    from balken.exchange.files import FileError
    from balken.session.building import open_building
    from balken.session.desk import Desk
    from balken.session.search.told import told
    from balken.session.things.register import THINGS

    try:
        building = open_building(file)
    except FileError as error:
        raise click.ClickException(str(error)) from error
    lines, meant = told(Desk(building, THINGS), " ".join(phrase))
    click.echo("\n".join(lines))
    sys.exit(0 if meant else 1)


@main.command()
@click.option(
    "--rounds", default=7, show_default=True, help="Rounds per figure; medians are printed."
)
def bench(rounds: int) -> None:
    """Print how fast it is, as ratios measured within one run."""
    from balken.workshop.bench import run

    sys.exit(run(rounds))


@main.command()
def shots() -> None:
    """Make every picture in docs/screenshots again, from the demo, with no one at the screen."""
    from balken.workshop.shots import run

    sys.exit(run())


@main.command(context_settings={"ignore_unknown_options": True})
@click.argument("args", nargs=-1, type=click.UNPROCESSED)
def test(args: tuple[str, ...]) -> None:
    """Run every check: format, lint, types, layers, tests. Arguments go to pytest alone."""
    from balken.workshop.selftest import run

    sys.exit(run(args))
