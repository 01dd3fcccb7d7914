"""What leaves the program of the concrete: volumes counted once in list and IFC, formwork by face
against closed form."""

import csv
import io
import math

import ifcopenshell
import numpy as np
import pytest
from msgspec.structs import replace

from balken.exchange.concrete_csv import concrete_csv, poured
from balken.exchange.ifc_out import structure_ifc
from balken.exchange.report import report
from balken.model.edits.foundations import place_foundation
from balken.model.foundations import Chosen
from balken.session.demo import shown_demo
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from buildings import house, union_volume


@pytest.fixture(scope="module")
def bakery() -> Checked:
    return work_out(shown_demo())


def test_list_report_and_ifc_agree_with_the_union(bakery: Checked) -> None:
    """Three roads out, one volume: the union of all bodies by manifold3d."""
    union = union_volume(bakery.structure) / 1e9
    rows = list(csv.DictReader(io.StringIO(concrete_csv(bakery))))
    assert math.fsum(float(r["volume_m3"]) for r in rows) == pytest.approx(
        union, abs=5e-5 * len(rows)
    )
    model = ifcopenshell.file.from_string(structure_ifc(bakery))
    total = 0.0
    for rel in model.by_type("IfcRelDefinesByProperties"):
        item = rel.RelatingPropertyDefinition
        for product in rel.RelatedObjects:
            if item.is_a("IfcElementQuantity") and product.is_a() in (
                "IfcFooting",
                "IfcWall",
                "IfcSlab",
            ):
                volumes = (q.VolumeValue for q in item.Quantities if q.is_a("IfcQuantityVolume"))
                total += next(volumes)
    assert total == pytest.approx(union, rel=1e-6)
    told = report(bakery, ())["concrete"]
    assert math.fsum(c["volume_mm3"] for c in told) / 1e9 == pytest.approx(union, rel=1e-6)


def test_a_body_that_gave_way_is_written_as_its_faces(bakery: Checked) -> None:
    """The volume inside the triangles of the file, by the divergence theorem, is the net volume."""
    model = ifcopenshell.file.from_string(structure_ifc(bakery))
    found = 0
    for item in model.by_type("IfcTriangulatedFaceSet"):
        points = np.array(item.Coordinates.CoordList)
        corners = points[np.array(item.CoordIndex) - 1]
        inside = (
            float(
                np.einsum("ij,ij->i", corners[:, 0], np.cross(corners[:, 1], corners[:, 2])).sum()
            )
            / 6
        )
        (shape,) = model.get_inverse(item)
        (definition,) = [x for x in model.get_inverse(shape) if x.is_a("IfcProductDefinitionShape")]
        (product,) = [x for x in model.get_inverse(definition) if x.is_a("IfcProduct")]
        member = next(m for m in bakery.structure.members if str(m.id) == product.Description)
        assert inside == pytest.approx(bakery.structure.volume(member), rel=1e-5)
        found += 1
    assert found == len(bakery.structure.concrete.meshes)


def test_formwork_of_a_straight_wall_by_closed_form() -> None:
    """20 ft of wall, 8 in thick, on a 20 × 10 in footing: sides and ends; no bottom, no top,
    nothing where they touch."""
    plain = replace(house(), runs=(), floors=(), roofs=())
    chosen = Chosen((20 * INCH, 10 * INCH), 8 * INCH, sill="")
    project = place_foundation(plain, "strip", chosen, path=[(60 * FOOT, 0.0), (80 * FOOT, 0.0)])
    z = {x.role: x.elevation / INCH for x in project.levels}
    high = z["foundation_top"] - z["footing_top"]
    forms = {p.role: dict(p.forms) for p in poured(work_out(project))}
    footing = {face: area / INCH**2 for face, area in forms["footing"].items()}
    stem = {face: area / INCH**2 for face, area in forms["stem"].items()}
    assert sum(footing.values()) == pytest.approx(2 * 240 * 10 + 2 * 20 * 10)
    assert footing["end"] == pytest.approx(2 * 20 * 10)
    assert stem["end"] == pytest.approx(2 * 8 * high)
    assert sum(stem.values()) == pytest.approx(2 * 240 * high + 2 * 8 * high)


def test_faces_of_a_house_are_told_outer_from_inner(plain: object) -> None:
    """The outer face of the stem ring of 36 by 26 ft is its perimeter times its height; the inner
    one is less."""
    project = house()
    z = {x.role: x.elevation for x in project.levels}
    high = z["foundation_top"] - z["footing_top"]
    outer = math.fsum(
        dict(p.forms).get("outer", 0.0) for p in poured(work_out(project)) if p.role == "stem"
    )
    inner = math.fsum(
        dict(p.forms).get("inner", 0.0) for p in poured(work_out(project)) if p.role == "stem"
    )
    assert outer == pytest.approx(2 * (36 + 26) * FOOT * high, rel=1e-6)
    assert 0 < inner < outer


def test_the_schema_accepts_every_kind_of_foundation(bakery: Checked) -> None:
    from ifcopenshell.validate import json_logger, validate

    logger = json_logger()
    validate(ifcopenshell.file.from_string(structure_ifc(bakery)), logger, express_rules=False)
    assert logger.statements == []
