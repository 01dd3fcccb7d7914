"""The structure file whole: grids, walls, roofs and trusses made of their pieces, openings and what fills
them, types, the analysis model, in both schemas; and read back."""

from collections import Counter
from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.util.element
import numpy as np
import pytest
from ifcopenshell.validate import json_logger, validate

from balken.exchange.files import FileError
from balken.exchange.ifc_in import take
from balken.exchange.ifc_issued import read_issued
from balken.exchange.ifc_out import structure_ifc
from balken.exchange.ifc_writer import SCHEMAS, Schema
from balken.exchange.step_text import StepText
from balken.framing.trusses.placing import PlacedTruss
from balken.model.cases import CASE_NAMES
from balken.model.catalogue import sections_of
from balken.model.grids import grid_ends
from balken.model.project import Project
from balken.model.sections import STEEL
from balken.session.building import DEMO
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.issued import Issued, issued_of, since_issued
from balken.works.analysis_model import analysis_model
from balken.works.building import Checked, work_out

WHEN = "2026-01-01T00:00:00"


@pytest.fixture(scope="module")
def bakehouse() -> Checked:
    return work_out(shown_demo())


@pytest.fixture(scope="module")
def model(bakehouse: Checked) -> Any:
    return ifcopenshell.file.from_string(structure_ifc(bakehouse, WHEN))


# The library leaves its own file of rules open.
@pytest.mark.filterwarnings("ignore::pytest.PytestUnraisableExceptionWarning")
@pytest.mark.parametrize("schema", SCHEMAS)
def test_no_rule_of_the_schema_is_broken(demo_checked: Checked, schema: Schema) -> None:
    """IfcOpenShell's validator with all where rules of the EXPRESS schema, on the first structure."""
    logger = json_logger()
    text = structure_ifc(demo_checked, WHEN, schema)
    validate(ifcopenshell.file.from_string(text), logger, express_rules=True)
    assert logger.statements == []


@pytest.mark.parametrize("schema", SCHEMAS)
@pytest.mark.parametrize("which", ["bakehouse", "ferry hall"])
def test_the_schema_accepts_both_demos_whole(schema: Schema, which: str) -> None:
    checked = work_out(shown_demo() if which == "bakehouse" else ferry_hall())
    logger = json_logger()
    text = structure_ifc(checked, WHEN, schema)
    validate(ifcopenshell.file.from_string(text), logger, express_rules=False)
    assert logger.statements == []


def test_grid_lines_are_there_by_their_labels(model: Any, bakehouse: Checked) -> None:
    lines = [line for grid in bakehouse.project.grids for line in grid.lines]
    axes = [a for g in model.by_type("IfcGrid") for a in (*g.UAxes, *g.VAxes)]
    assert Counter(a.AxisTag for a in axes) == Counter(x.label for x in lines)


def test_the_grid_is_read_back_where_it_lies(bakehouse: Checked, tmp_path: Path) -> None:
    """By the reader of architects' files."""
    path = tmp_path / "s.ifc"
    path.write_text(structure_ifc(bakehouse, WHEN))

    def ends(project: Project) -> dict[str, set[tuple[float, float]]]:
        return {
            line.label: {(round(x), round(y)) for x, y in grid_ends(grid, line)}
            for grid in project.grids
            for line in grid.lines
        }

    assert ends(take(path)) == ends(bakehouse.project)


def test_trusses_are_made_of_their_pieces(model: Any, bakehouse: Checked) -> None:
    placed: list[PlacedTruss] = [t for roof in bakehouse.trusses.values() for t in roof.placed]
    made = [a for a in model.by_type("IfcElementAssembly") if a.PredefinedType == "TRUSS"]
    assert len(made) >= len(placed) > 0
    pieces = {p.Description for a in made for r in a.IsDecomposedBy for p in r.RelatedObjects}
    assert pieces == {str(m.id) for m in bakehouse.structure.members if m.kind.of_truss}


def test_each_piece_is_held_once_and_reaches_the_project(model: Any) -> None:
    for p in model.by_type("IfcBuildingElement"):
        assert len(p.Decomposes) + len(p.ContainedInStructure) == 1, p
        assert ifcopenshell.util.element.get_container(p) is not None


def test_openings_of_framed_walls_are_voids_that_doors_and_windows_fill(
    model: Any, bakehouse: Checked
) -> None:
    walls = {w.id: w for w in bakehouse.built.walls}
    whole = {p.Tag: p for p in model.by_type("IfcWall") if p.IsDecomposedBy}
    assert whole
    for key, product in whole.items():
        wall = walls[key]
        voids = [r.RelatedOpeningElement for r in product.HasOpenings]
        assert len(voids) == len(wall.openings)
        filled = [f.RelatedBuildingElement for v in voids for f in v.HasFillings]
        assert len(filled) == sum(o.kind != "opening" for o in wall.openings)
        sizes = [
            o.unit if all(o.unit) else (o.width, o.height)
            for o in wall.openings
            if o.kind != "opening"
        ]
        assert sorted(f.OverallWidth for f in filled) == pytest.approx(sorted(w for w, _ in sizes))
        assert sorted(f.OverallHeight for f in filled) == pytest.approx(sorted(h for _, h in sizes))


def test_types_say_what_pieces_are_cut_from(model: Any, bakehouse: Checked) -> None:
    by_name = {p.Description: p for p in model.by_type("IfcBuildingElement")}
    for m in bakehouse.structure.members[::13]:
        kind = ifcopenshell.util.element.get_type(by_name[str(m.id)])
        assert kind.is_a() == f"{m.kind.ifc.entity}Type"
        assert m.material in kind.Name
        assert ifcopenshell.util.element.get_psets(by_name[str(m.id)])["Making"]["Host"] == str(
            m.host
        )


def test_the_analysis_model_has_every_bar_support_and_load(model: Any, bakehouse: Checked) -> None:
    ours = analysis_model(bakehouse)
    assert len(model.by_type("IfcStructuralCurveMember")) == len(ours.bars)
    assert len(model.by_type("IfcStructuralPointConnection")) == len(ours.held)
    assert len(model.by_type("IfcStructuralActivity")) == len(ours.loads)
    (whole,) = model.by_type("IfcStructuralAnalysisModel")
    cases = {c.Name: c for c in whole.LoadedBy}
    assert len(cases) == len({x.case for x in ours.loads}) <= len(CASE_NAMES)
    for c in whole.LoadedBy:
        assert c.IsGroupedBy[0].RelatedObjects


def test_the_loads_of_the_file_come_to_what_is_handed_on(model: Any, bakehouse: Checked) -> None:
    """N down, by walking the file: lines by their edge, N/m, and what stands at a place."""
    total = 0.0
    for a in model.by_type("IfcStructuralCurveAction"):
        edge = a.Representation.Representations[0].Items[0]
        p, q = (v.VertexGeometry.Coordinates for v in (edge.EdgeStart, edge.EdgeEnd))
        length = sum((s - t) ** 2 for s, t in zip(p, q)) ** 0.5
        total -= a.AppliedLoad.LinearForceZ * length / 1e3
    total -= sum(a.AppliedLoad.ForceZ for a in model.by_type("IfcStructuralPointAction"))
    bars = analysis_model(bakehouse)
    posts = {b.name for b in bars.bars if b.sharing == "upright"}
    taken = sum(f for name, r in bakehouse.path.reactions.items() for c in r for f in c)
    taken += sum(x.amount for x in bars.loads if x.bar in posts)
    assert total == pytest.approx(taken, rel=1e-6)


@pytest.mark.parametrize("schema", SCHEMAS)
@pytest.mark.parametrize("which", ["bakehouse", "ferry hall"])
def test_our_own_file_gives_the_same_pieces(tmp_path: Path, schema: Schema, which: str) -> None:
    checked = work_out(shown_demo() if which == "bakehouse" else ferry_hall())
    path = tmp_path / "s.ifc"
    path.write_text(structure_ifc(checked, WHEN, schema))
    found = {x.name: x for x in read_issued(path)}
    wanted = {x.name: x for x in issued_of(checked)}
    assert found.keys() == wanted.keys()
    for name, x in found.items():
        _same(x, wanted[name])
    assert since_issued(list(found.values()), checked).rows == ()


def _same(a: Issued, b: Issued) -> None:
    assert (a.mark, a.role, a.host, a.section, a.material, a.cuts) == (
        b.mark,
        b.role,
        b.host,
        b.section,
        b.material,
        b.cuts,
    )
    if a.length is not None:
        assert a.length == pytest.approx(b.length, abs=1e-3)
    assert a.volume == pytest.approx(b.volume, rel=1e-6)
    assert a.cut_from == pytest.approx(b.cut_from, abs=1e-2)
    assert (*a.low, *a.high) == pytest.approx((*b.low, *b.high), abs=0.01)


def test_rolled_steel_has_its_own_body(tmp_path: Path) -> None:
    """The kernel of IfcOpenShell finds the area of the section times the length, in the box of the piece."""
    checked = work_out(ferry_hall())
    model = ifcopenshell.file.from_string(structure_ifc(checked, WHEN))
    by_name = {p.Description: p for p in model.by_type("IfcBuildingElement")}
    sections = sections_of("metric", checked.project.products)
    settings = ifcopenshell.geom.settings()
    settings.set("use-world-coords", True)
    steel = [
        m
        for m in checked.structure.members
        if m.section in sections and sections[m.section].family in STEEL
    ]
    assert {sections[m.section].family for m in steel} == {"steel i"}
    for m in steel:
        shape = ifcopenshell.geom.create_shape(settings, by_name[str(m.id)])
        points = np.array(shape.geometry.verts).reshape(-1, 3) * 1000
        triangles = points[np.array(shape.geometry.faces).reshape(-1, 3)] - points.mean(axis=0)
        volume = abs(np.linalg.det(triangles).sum()) / 6
        # Fillets are round there in few steps.
        assert volume == pytest.approx(sections[m.section].area * m.length, rel=0.01), m.id
        low, high = m.solid.bounds()
        assert points.min(axis=0) == pytest.approx(low, abs=0.5), m.id
        assert points.max(axis=0) == pytest.approx(high, abs=0.5), m.id
        told = ifcopenshell.util.element.get_psets(by_name[str(m.id)])
        quantities = next(v for k, v in told.items() if k.startswith("Qto_"))
        assert quantities["NetVolume"] * 1e9 == pytest.approx(
            sections[m.section].area * m.length, rel=1e-6
        )


def test_a_file_without_pieces_of_ours_is_said(tmp_path: Path) -> None:
    with pytest.raises(FileError, match="no pieces"):
        read_issued(DEMO)
    other = tmp_path / "x.ifc"
    other.write_text("no IFC")
    with pytest.raises(FileError, match="cannot be read"):
        read_issued(other)


def test_letters_and_numbers_are_read_back_by_the_library() -> None:
    """Names that STEP has to write otherwise: apostrophes, back strokes, letters beyond ASCII and the first
    plane, line ends (ISO 10303-21)."""
    step = StepText("IFC4")
    words = ("it's 3'-4½\"", "a\\b", "Flügel ⌀ 12", "\U0001f3e0", "two\nlines")
    for word in words:
        step.add("IfcMaterial", Name=word)
    step.add("IfcCartesianPoint", (1e-7, 12345678.5, -0.0))
    model = ifcopenshell.file.from_string(step.text("x", WHEN, "y"))
    assert [m.Name for m in model.by_type("IfcMaterial")] == list(words)
    assert model.by_type("IfcCartesianPoint")[0].Coordinates == (1e-7, 12345678.5, 0.0)


def test_what_is_no_number_is_not_written() -> None:
    with pytest.raises(ValueError, match="number"):
        StepText("IFC4").add("IfcCartesianPoint", (float("nan"), 0.0))
