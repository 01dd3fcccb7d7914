"""Catalogues and templates: out and in again whole, and what is said of faults."""

from pathlib import Path

import pytest
from click.testing import CliRunner
from msgspec.structs import replace

from balken.cli import main
from balken.exchange.catalogue_files import (
    PARTS,
    catalogue_csv,
    catalogue_json,
    read_catalogue,
)
from balken.exchange.files import FileError
from balken.exchange.native import load, save
from balken.model.edits.catalogue import came_beside, take_catalogue
from balken.model.edits.common import EditError
from balken.model.edits.prices import take_prices
from balken.model.edits.products import add_product, first_product
from balken.model.kept import begun_from, catalogue_of_project, template_of
from balken.model.new import new_building
from balken.model.paper import TitleBlock
from balken.model.prices import Price
from balken.model.project import Project
from balken.model.sections import Product
from balken.session.building import DEMO
from balken.session.demo import shown_demo
from balken.works.building import work_out


@pytest.fixture
def full() -> Project:
    """The bakehouse with a product and prices of its own."""
    project = add_product(shown_demo(), first_product(shown_demo(), "i-joist"))
    prices = (Price("2x10 DF-L No.2", "m", 4.4, 0.05, "2026-01-05"), Price("=cmd", "m3", 1.0))
    project = take_prices(project, prices)
    return replace(project, paper=replace(project.paper, block=TitleBlock(firm="Nobody & Co")))


def test_all_of_it_comes_back_as_json(full: Project, tmp_path: Path) -> None:
    path = tmp_path / "c.json"
    path.write_text(catalogue_json(catalogue_of_project(full)))
    assert read_catalogue(path) == catalogue_of_project(full)


@pytest.mark.parametrize("part", PARTS)
def test_each_part_comes_back_as_a_table(full: Project, tmp_path: Path, part: str) -> None:
    kept = catalogue_of_project(full)
    path = tmp_path / "c.csv"
    path.write_text(catalogue_csv(kept, part))
    assert getattr(kept, part), "there is something to write"
    assert getattr(read_catalogue(path), part) == getattr(kept, part)


def test_no_cell_can_be_run_as_a_formula(full: Project) -> None:
    assert "\nprices,'=cmd," in catalogue_csv(catalogue_of_project(full), "prices").replace(
        "\r", ""
    )


def test_what_is_taken_replaces_what_has_its_name(full: Project) -> None:
    other = new_building("Other", 9000.0, 7000.0, 1, "us")
    kept = catalogue_of_project(full)
    once = take_catalogue(other, kept)
    assert {p.id for p in once.products} == {p.id for p in kept.products}
    twice = take_catalogue(once, kept)
    assert twice == once
    dearer = replace(kept, prices=(replace(kept.prices[0], price=9.0),))
    again = take_catalogue(once, dearer)
    assert len(again.estimate.prices) == len(kept.prices)
    assert max(p.price for p in again.estimate.prices) == 9.0


def test_a_build_up_in_use_is_not_changed_by_a_catalogue(full: Project) -> None:
    """Another office's X1 is another wall: it comes beside ours."""
    kept = catalogue_of_project(full)
    mine = next(b for b in full.wall_build_ups if any(w.build_up == b.id for w in full.walls))
    layers = (replace(mine.layers[0], thickness=mine.layers[0].thickness + 20.0), *mine.layers[1:])
    theirs = replace(kept, wall_build_ups=(replace(mine, layers=layers),))
    after = take_catalogue(full, theirs)
    assert after.walls == full.walls
    assert next(b for b in after.wall_build_ups if b.id == mine.id) == mine
    assert len(after.wall_build_ups) == len(full.wall_build_ups) + 1
    (told,) = came_beside(full, after, theirs)
    assert told not in {b.id for b in full.wall_build_ups}
    assert next(b for b in after.wall_build_ups if b.id == told).layers == layers
    assert take_catalogue(after, theirs) == after, "and no second time"
    assert take_catalogue(full, kept) == full


def test_a_build_up_that_nothing_uses_is_replaced(full: Project) -> None:
    spare = replace(full.wall_build_ups[0], id="X99")
    full = replace(full, wall_build_ups=(*full.wall_build_ups, spare))
    layers = (
        replace(spare.layers[0], thickness=spare.layers[0].thickness + 20.0),
        *spare.layers[1:],
    )
    theirs = replace(catalogue_of_project(full), wall_build_ups=(replace(spare, layers=layers),))
    after = take_catalogue(full, theirs)
    assert len(after.wall_build_ups) == len(full.wall_build_ups)
    assert next(b for b in after.wall_build_ups if b.id == "X99").layers == layers


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "no table of a catalogue"),
        ("item,unit,price\nx,m,1\n", "no table of a catalogue"),
        ("catalogue,item\nnails,x\n", "no part of a catalogue"),
        ("catalogue,item,colour\nprices,x,red\n", "have no “colour”"),
        (
            "catalogue,item,unit,price\nprices,x,m,cheap\n",
            "row 2: its price “cheap” cannot be taken",
        ),
        ("catalogue,item,unit,price\nprices,x,m,-1\n", "row 2"),
        ("catalogue,item,unit,price\nprices,x,m,1\nprices,x,m,2\n", "row 3: “x” stands there"),
        ("catalogue,item,unit,price\nprices,x,m,1\nproducts,y,m,2\n", "row 3: a table holds one"),
        ("catalogue,id,layers\nwall_build_ups,X1,[oops\n", "row 2"),
    ],
)
def test_a_table_with_a_fault_says_which_row(tmp_path: Path, text: str, said: str) -> None:
    path = tmp_path / "c.csv"
    path.write_text(text)
    with pytest.raises(FileError, match=said):
        read_catalogue(path)


@pytest.mark.parametrize(
    "text", ["", "[]", "{}", '{"balken_catalogue": 99, "catalogue": {}}', "[" * 100_000]
)
def test_what_is_no_catalogue_is_said(tmp_path: Path, text: str) -> None:
    path = tmp_path / "c.json"
    path.write_text(text)
    with pytest.raises(FileError, match="Nothing was taken"):
        read_catalogue(path)


def test_a_product_without_its_values_is_not_taken(full: Project) -> None:
    kept = replace(catalogue_of_project(full), products=(Product("bare", "lvl", 45.0, 300.0),))
    with pytest.raises(EditError, match="bending stress"):
        take_catalogue(full, kept)


def test_a_template_has_no_structure_and_makes_a_building(full: Project) -> None:
    made = begun_from(full, "Another")
    assert made.name == "Another"
    assert made.levels == full.levels
    assert made.paper.block.firm == "Nobody & Co"
    kept = (made.walls, made.floors, made.runs, made.roofs, made.grids, made.changes)
    assert not any(kept)
    assert template_of(made) == made
    assert work_out(made).structure.members == ()


def test_an_architects_file_is_begun_with_a_template(full: Project, tmp_path: Path) -> None:
    template, target = tmp_path / "t.balken", tmp_path / "p.balken"
    save(template_of(full), template)
    told = CliRunner().invoke(
        main, ["take", str(DEMO), "--to", str(target), "--template", str(template)]
    )
    assert told.exit_code == 0, told.output
    made = load(target)
    assert made.estimate == full.estimate
    assert {p.id for p in made.products} == {p.id for p in full.products}
    assert made.paper.block == full.paper.block
    assert made.walls
    assert made.floors


def test_a_template_of_other_units_is_refused(tmp_path: Path) -> None:
    template = tmp_path / "t.balken"
    save(template_of(new_building("M", 9000.0, 7000.0, 1, "metric")), template)
    told = CliRunner().invoke(
        main, ["take", str(DEMO), "--to", str(tmp_path / "p.balken"), "--template", str(template)]
    )
    assert told.exit_code == 2
    assert "in millimetres" in told.output
    assert not (tmp_path / "p.balken").exists()


def test_new_and_catalogue_by_command(full: Project, tmp_path: Path) -> None:
    first, second, file = tmp_path / "a.balken", tmp_path / "b.balken", tmp_path / "c.json"
    save(full, first)
    run = CliRunner().invoke
    assert run(main, ["new", str(first), "--to", str(second), "--name", "B"]).exit_code == 0
    assert run(main, ["catalogue", str(first), "--to", str(file)]).exit_code == 0
    bare = tmp_path / "d.balken"
    save(new_building("D", 9000.0, 7000.0, 1, "us"), bare)
    told = run(main, ["catalogue", str(bare), "--take", str(file)])
    assert told.exit_code == 0, told.output
    assert load(bare).products == full.products
    table = tmp_path / "p.csv"
    run(main, ["catalogue", str(bare), "--to", str(table), "--part", "products"])
    assert read_catalogue(table).products == full.products
    assert run(main, ["catalogue", str(bare), "--part", "nails"]).exit_code == 2
