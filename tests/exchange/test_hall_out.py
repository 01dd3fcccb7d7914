"""The ferry hall written out: valid IFC of the bodies there are, a cutting list that adds up, and a
project file."""

from functools import cache

import ifcopenshell
import pytest
from ifcopenshell.validate import json_logger, validate

from balken.exchange.ifc_out import structure_ifc
from balken.exchange.native import from_text, to_text
from balken.framing import kinds
from balken.framing.beams.fitting import ply_pieces
from balken.model.edits.beams import set_beams
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.cutting import cutting_list
from balken.works.building import Checked, work_out
from named import the


@cache
def hall() -> Checked:
    return work_out(ferry_hall())


def test_the_schema_accepts_beams_slabs_and_blocks() -> None:
    logger = json_logger()
    model = ifcopenshell.file.from_string(structure_ifc(hall()))
    validate(model, logger, express_rules=False)
    assert logger.statements == []
    names = {e.Name for e in model.by_type("IfcBeam")}
    assert {"B6", "Y2-3", "F1-HO1n"} <= names
    assert [s.PredefinedType for s in model.by_type("IfcSlab") if not s.IsDecomposedBy] == ["FLOOR"]


def test_a_subfloor_is_written_with_its_opening() -> None:
    checked = hall()
    (panel,) = [m for m in checked.structure.members if m.kind is kinds.SUBFLOOR]
    hole = 1050.0 * 2900.0 * 19.0
    assert checked.structure.volume(panel) == pytest.approx(panel.solid.volume - hole, rel=1e-9)


def test_the_slab_is_poured_with_its_round_edge() -> None:
    checked = hall()
    (slab,) = [m for m in checked.structure.members if m.kind is kinds.FLOOR_SLAB]
    straight = (24600.0 + 70.0 - 19800.0) * (10800.0 + 140.0) * 250.0
    assert straight * 1.1 < checked.structure.volume(slab) < straight * 1.35


def test_a_built_up_beam_is_cut_as_its_plies() -> None:
    project = set_beams(
        ferry_hall(), [the("beam:B1")], section="3-38x286", species="SPF", grade="No.2"
    )
    checked = work_out(project)
    (beam,) = [m for m in checked.structure.members if m.host == the("beam:B1")]
    lines = [c for c in cutting_list(checked) if c.host == the("beam:B1")]
    assert sum(c.count * c.length for c in lines) == pytest.approx(3 * beam.length)
    assert {c.section for c in lines} == {"38x286"}
    assert len(ply_pieces(beam, 3, 7200.0)) == 3


def test_the_project_file_keeps_floors_beams_and_bays_to_the_byte() -> None:
    project = ferry_hall()
    assert from_text(to_text(project)) == project
    assert to_text(from_text(to_text(project))) == to_text(project)
