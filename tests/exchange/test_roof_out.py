"""Roofs written out: valid IFC with true bevels, a cutting list that holds every piece, sheets of
trusses."""

import re
from functools import cache

import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.util.shape
import pytest
from ifcopenshell.validate import json_logger, validate

from balken.drawing.marks import Label
from balken.drawing.paper.compose import sheets_of
from balken.exchange.ifc_out import structure_ifc
from balken.exchange.native import from_text, to_text
from balken.session.demo import shown_demo
from balken.takeoff.cutting import cutting_list
from balken.takeoff.trusses import truss_kinds
from balken.works.building import Checked, work_out


@cache
def bakehouse() -> Checked:
    return work_out(shown_demo())


@cache
def model() -> ifcopenshell.file:
    return ifcopenshell.file.from_string(structure_ifc(bakehouse()))


def test_the_schema_accepts_hips_jacks_and_trusses() -> None:
    logger = json_logger()
    validate(model(), logger, express_rules=False)
    assert logger.statements == []
    kinds = {e.ObjectType or e.PredefinedType for e in model().by_type("IfcMember")}
    assert {"HIP RAFTER", "RAFTER", "CHORD", "STRUT", "BARGE RAFTER"} <= kinds


@pytest.mark.parametrize(
    "word", ["/hip:W201", "/hip jack:W202.03", "/header:S1a", "/web:04.2", "/bottom chord:04"]
)
def test_another_reader_finds_the_same_volume(word: str) -> None:
    """Oracle: IfcOpenShell's geometry kernel."""
    member = next(m for m in bakehouse().structure.members if word in str(m.id))
    product = next(e for e in model().by_type("IfcElement") if e.Description == str(member.id))
    shape = ifcopenshell.geom.create_shape(ifcopenshell.geom.settings(), product)
    volume = ifcopenshell.util.shape.get_volume(shape.geometry) * 1e9
    assert volume == pytest.approx(member.solid.volume, rel=1e-3)


def test_every_piece_of_the_roofs_is_on_the_cutting_list() -> None:
    checked = bakehouse()
    on_roofs = [m for m in checked.structure.members if str(m.host).startswith("roof:")]
    lines = [x for x in cutting_list(checked) if str(x.host).startswith("roof:")]
    from balken.model.catalogue import sections_of

    plies = {n: s.plies for n, s in sections_of("us", ()).items()}
    assert sum(x.count for x in lines) >= sum(1 for m in on_roofs if plies[m.section] == 1)
    cuts = {c for x in lines for c in x.cuts}
    assert any("side cut 45.0°" in c for c in cuts)


def test_each_kind_of_truss_is_drawn_once_with_joints_and_pieces() -> None:
    checked = bakehouse()
    sheets = [
        s for s in sheets_of(checked, (), "") if any(v.key.startswith("truss:") for v in s.views)
    ]
    views = [v for s in sheets for v in s.views if v.key.startswith("truss:")]
    assert len(views) == len(truss_kinds(checked)) == 2
    assert "9 alike" in views[1].title
    words = [m.text for s in sheets for m in s.block if isinstance(m, Label)]
    assert "Pieces" in words
    # What a line has no room for goes on in the next; a number stays with its unit.
    joints = [w for w in words if re.match(r"\s+\d+: ", w)]
    assert len([w for w in words if "\u00a0in²" in w]) == len(joints) > 10
    assert not any(w.strip().startswith("in²") for w in words)
    drawn = [m.text for m in views[1].drawing if isinstance(m, Label)]
    assert "6 in 12" in drawn
    assert any(w.startswith("heel") for w in drawn)


def test_the_project_with_its_roofs_is_read_as_it_was_written() -> None:
    project = shown_demo()
    assert from_text(to_text(project)) == project
