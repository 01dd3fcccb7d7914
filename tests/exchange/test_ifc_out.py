"""The structure as IFC4: valid, and read back by a geometry kernel to the same volumes and
places."""

from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.util.element
import ifcopenshell.util.placement
import numpy as np
import pytest

from balken.exchange.ifc_out import structure_ifc
from balken.model.catalogue import catalogue_of
from balken.model.edits import set_roof
from balken.model.project import Project
from balken.works.building import Checked, checks_of, work_out


@pytest.fixture(scope="module")
def model(demo_checked: Checked, tmp_path_factory: pytest.TempPathFactory) -> Any:
    path = tmp_path_factory.mktemp("ifc") / "s.ifc"
    path.write_text(structure_ifc(demo_checked, "2026-01-01T00:00:00"))
    return ifcopenshell.open(str(path))


def test_the_schema_accepts_it(model: Any) -> None:
    from ifcopenshell.validate import json_logger, validate

    logger = json_logger()
    validate(model, logger, express_rules=False)
    assert logger.statements == []


def test_every_member_is_there_with_its_kind(model: Any, demo_checked: Checked) -> None:
    kinds = {
        "footing": ("IfcFooting", "STRIP_FOOTING"),
        "stem": ("IfcWall", "SOLIDWALL"),
        "sill": ("IfcMember", "PLATE"),
        "joist": ("IfcBeam", "JOIST"),
        "ceiling joist": ("IfcBeam", "JOIST"),
        "rafter": ("IfcMember", "RAFTER"),
        "rim": ("IfcBeam", "USERDEFINED"),
        "ridge": ("IfcBeam", "USERDEFINED"),
        "subfloor": ("IfcPlate", "SHEET"),
    }
    pieces = [p for p in model.by_type("IfcBuildingElement") if "/" in (p.Description or "")]
    by_name = {p.Description: p for p in pieces if not p.IsDecomposedBy}
    assert len(by_name) == len(demo_checked.structure.members)
    for m in demo_checked.structure.members:
        product = by_name[str(m.id)]
        assert (product.is_a(), product.PredefinedType) == kinds[m.role], m.id
        assert product.Name == m.mark


def test_volumes_and_places_read_back(model: Any, demo_checked: Checked) -> None:
    """Triangulated by the hybrid kernel of ifcopenshell, which is not ours."""
    settings = ifcopenshell.geom.settings()
    settings.set("use-world-coords", True)
    by_name = {p.Description: p for p in model.by_type("IfcBuildingElement")}
    for m in demo_checked.structure.members[::7]:
        shape = ifcopenshell.geom.create_shape(settings, by_name[str(m.id)])
        points = np.array(shape.geometry.verts).reshape(-1, 3) * 1000
        faces = np.array(shape.geometry.faces).reshape(-1, 3)
        a, b, c = (points[faces[:, i]] - points.mean(axis=0) for i in range(3))
        volume = abs(np.einsum("ij,ij->i", a, np.cross(b, c)).sum()) / 6
        assert volume == pytest.approx(m.solid.volume, rel=1e-6), m.id
        low, high = m.solid.bounds()
        assert points.min(axis=0) == pytest.approx(low, abs=0.01), m.id
        assert points.max(axis=0) == pytest.approx(high, abs=0.01), m.id


def test_material_profile_and_quantities(model: Any, demo_checked: Checked) -> None:
    joist = next(p for p in model.by_type("IfcBeam") if p.PredefinedType == "JOIST")
    usage = ifcopenshell.util.element.get_material(joist)
    assert usage.is_a("IfcMaterialProfileSetUsage")
    profile = usage.ForProfileSet.MaterialProfiles[0]
    member = next(m for m in demo_checked.structure.members if str(m.id) == joist.Description)
    assert profile.Material.Name == member.material
    section = catalogue_of("us").sections[member.section]
    assert (profile.Profile.XDim, profile.Profile.YDim) == pytest.approx(
        (section.breadth, section.depth)
    )
    assert profile.Profile.ProfileName == member.section
    found = ifcopenshell.util.element.get_psets(joist)["Qto_BeamBaseQuantities"]
    assert found["Length"] == pytest.approx(member.length)
    assert found["NetVolume"] == pytest.approx(member.solid.volume / 1e9)


def test_storeys_stand_at_their_levels(model: Any, demo: Project) -> None:
    heights = {s.Name: s.Elevation for s in model.by_type("IfcBuildingStorey")}
    for level in demo.levels:
        if level.name in heights:
            assert heights[level.name] == pytest.approx(level.elevation)
    assert {"Floor 1", "Floor 2"} <= set(heights)
    for storey in model.by_type("IfcBuildingStorey"):
        z = ifcopenshell.util.placement.get_local_placement(storey.ObjectPlacement)[2, 3]
        assert z == pytest.approx(storey.Elevation)


@pytest.mark.forgetful
def test_the_same_building_gives_the_same_file(demo: Project) -> None:
    a, b = (structure_ifc(work_out(demo), "2026-01-01T00:00:00") for _ in range(2))
    assert a == b


def test_identities_last_through_a_change(demo: Project) -> None:
    def ids(project: Project) -> dict[str, str]:
        model = ifcopenshell.file.from_string(
            structure_ifc(work_out(project), "2026-01-01T00:00:00")
        )
        return {p.Description: p.GlobalId for p in model.by_type("IfcMember")}

    before, after = ids(demo), ids(set_roof(demo, "R1", rise=9.0, section="2x10", spacing=609.6))
    common = set(before) & set(after)
    assert len(common) > 10
    assert all(before[k] == after[k] for k in common)


def test_no_paths_or_people_in_the_header(demo_checked: Checked) -> None:
    head = structure_ifc(demo_checked).split("DATA;")[0]
    assert "/" not in head.split("FILE_NAME")[1].split("FILE_SCHEMA")[0].replace(
        "ViewDefinition", ""
    )
    assert str(Path.home()) not in head


def test_alike_pieces_have_one_shape(model: Any, demo_checked: Checked) -> None:
    """Joists cut alike share what shows them; each stands in a frame of its own."""
    joists = [p for p in model.by_type("IfcBeam") if p.PredefinedType == "JOIST"]
    shapes = {p.Representation.id() for p in joists}
    places = {p.ObjectPlacement.id() for p in joists}
    assert len(shapes) < len(joists) / 2
    assert len(places) == len(joists)


def test_how_far_a_piece_is_used_stands_in_the_file(model: Any, demo_checked: Checked) -> None:
    by_name = {p.Description: p for p in model.by_type("IfcBuildingElement")}
    for m in demo_checked.structure.members:
        told = ifcopenshell.util.element.get_psets(by_name[str(m.id)])["Structural checks"]
        used = demo_checked.used.get(m.id)
        assert told["ChangedByHand"] == m.touched
        if used is not None:
            assert told["Utilisation"] == pytest.approx(used[0], abs=1e-4)
            assert told["GoverningCheck"] == used[1]
            checks = checks_of(demo_checked, m)
            clauses = {c.clause for c in checks if c.name.lower() in used[1].lower()}
            assert told.get("GoverningClause", "") in (clauses or {""}), m.id
