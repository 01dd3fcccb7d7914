"""Box headers: flanges, nailed panels and their sag by hand, cut lists, loads at one place, at the desk."""

import math
from typing import Literal

import pytest
from msgspec.structs import replace

from balken.design.boxes import with_shear
from balken.design.codes.eu import box_headers as european
from balken.design.codes.us import box_headers as american
from balken.fit.findings import findings
from balken.framing import kinds
from balken.model.catalogue import box_area, sections_of
from balken.model.edits import set_roof
from balken.model.edits.wall_frames import frame_walls, rule_studs_of
from balken.model.project import Project
from balken.model.roofs import Rafters
from balken.model.sections import Product, faults_of_product
from balken.model.walls import Opening
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Options
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.takeoff.cutting import cutting_list
from balken.units import FOOT, INCH, LB, PSI
from balken.works.building import Checked, checks_of, work_out
from balken.works.costs import volumes_of
from buildings import house
from named import the

LB_IN = LB * INCH


def opened(
    key: str, at: float, wide: float = 3 * FOOT, *, ridge: Literal["board", "beam"] = "board"
) -> Project:
    """A house with one window in one of its walls, all headers boxes."""
    project = set_roof(house(), "R1", rafters=Rafters(ridge=ridge))
    hole = Opening("O1", "window", at - wide / 2, wide, 4 * FOOT, 30 * INCH)
    walls = tuple(replace(w, openings=(hole,) if w.id == key else ()) for w in project.walls)
    framed = frame_walls(replace(project, walls=walls), is_masonry)
    return rule_studs_of(framed, [w.id for w in walls], header="box", header_section="")


def test_two_flanges_of_two_by_four_and_panels_on_both_sides() -> None:
    """By hand: SPF No.2, Ft 450 psi × CF 1.5 (NDS Supplement table 4A); 7/16 in panels with 8d at 3 in,
    900 plf nominal (SDPWS-2015 table 4.3A), over 2 and 1.6, × 1 − (0.5 − 0.42)."""
    section = sections_of("us")["Box 2x4x15"]
    found = american.box_strength(section, "SPF", "No.2", 6 * FOOT)
    assert found is not None
    arm = 15 - 1.5
    assert found.moment / LB_IN == pytest.approx(450 * 1.5 * 5.25 * arm)
    assert found.shear / LB == pytest.approx(900 / 2 / 1.6 * 0.92 / 12 * 2 * arm)
    assert found.bearing / (LB / INCH) == pytest.approx(425 * 3.5)
    # Sag under a uniform load, bending and panels with nails (SDPWS 4.3.2: Ga 28 kip/in a face).
    w, span = 10.0 * LB / INCH, 72.0 * INCH
    bends = 1.4e6 * PSI * 2 * 5.25 * INCH**2 * (arm / 2 * INCH) ** 2
    slides = 2 * 28_000 * LB / INCH * arm * INCH
    sag = 5 * w * span**4 / (384 * bends) + w * span**2 / (8 * slides)
    assert 5 * w * span**4 / (384 * found.ei) == pytest.approx(sag)


def test_one_side_has_half_the_shear_and_all_of_the_flanges() -> None:
    sections = sections_of("us")
    both = american.box_strength(sections["Box 2x6x11-1/4"], "DF-L", "No.2", 4 * FOOT)
    one = american.box_strength(sections["Box 2x6x11-1/4 one side"], "DF-L", "No.2", 4 * FOOT)
    assert both is not None
    assert one is not None
    assert one.shear == pytest.approx(both.shear / 2)
    assert one.moment == pytest.approx(both.moment)
    assert american.box_strength(sections["Box 2x4x15"], "oak", "No.2", 4 * FOOT) is None


def test_flanges_and_nails_by_european_codes() -> None:
    """By hand: C24, ft,0,k 14.5 × kh of 89 mm (EN 338, EN 1995-1-1 3.1), γM 1.3; a 2.8 × 65 nail in
    OSB 12 (8.22, 8.15, 8.6 f at the most)."""
    section = sections_of("metric")["Box 38x89x286"]
    found = european.box_strength(section, "softwood", "C24", 1500.0)
    assert found is not None
    arm = 286 - 38
    pulled = 14.5 * min((150 / 89) ** 0.2, 1.3) / 1.3
    assert found.moment == pytest.approx(pulled * 38 * 89 * arm)
    board, wood = 65 * 2.8**-0.7 * 12**0.1, 0.082 * 350 * 2.8**-0.3
    bends = 0.3 * 600 * 2.8**2.6
    beta = wood / board
    most = 1.15 * math.sqrt(2 * beta / (1 + beta)) * math.sqrt(2 * bends * board * 2.8)
    assert found.shear <= most / 1.3 / 75 * arm * 2 + 1e-9
    assert found.shear == pytest.approx(most / 1.3 / 75 * arm * 2, rel=0.25)
    assert european.slip_modulus(420, 2.8) == pytest.approx(420**1.5 * 2.8**0.8 / 30)


def test_what_sags_without_shear_is_as_stiff_as_its_flanges() -> None:
    assert with_shear(1e12, math.inf, 1000.0) == pytest.approx(1e12)
    assert with_shear(1e12, 1e6, 1000.0) < 1e12


def test_no_box_is_typed_as_a_product() -> None:
    assert "cannot be typed" in faults_of_product(Product("B", "box", 89.0, 300.0))


@pytest.fixture(scope="module")
def spread() -> Checked:
    """The window in a wall under rafters."""
    return work_out(opened("W11", 10 * FOOT))


def test_a_box_is_chosen_checked_and_cut(spread: Checked) -> None:
    (header,) = spread.structure.of(kinds.WALL_HEADER)
    assert header.section.startswith("Box 2x6x")
    names = {c.name for c in checks_of(spread, header)}
    assert {"Bending", "Shear", "Bearing", "Live deflection", "Total deflection"} <= names
    cut = [c for c in cutting_list(spread) if header.mark in c.marks]
    assert {c.section for c in cut} == {"2x6"}
    flanges, uprights = sorted(cut, key=lambda c: -c.length)
    assert (flanges.count, flanges.length) == (2, pytest.approx(header.length))
    deep = header.solid.bounds()
    assert uprights.length == pytest.approx(deep[1][2] - deep[0][2] - 2 * 1.5 * INCH)
    assert uprights.count == 1 + math.ceil(header.length / (16 * INCH))
    assert not [f for f in findings(spread) if "at one place" in f.text]


def test_a_box_counts_as_what_it_is_made_of(spread: Checked) -> None:
    """Two plates of 2x6 and uprights, 7/16 in panels on its faces: not a block of wood."""
    (header,) = spread.structure.of(kinds.WALL_HEADER)
    section = sections_of("us")[header.section]
    plates = 2 * 1.5 * INCH * 5.5 * INCH
    assert section.box is not None
    panels = section.box.faces * 7 / 16 * INCH * section.depth
    made = box_area(section.box, section.depth)
    assert plates + panels < made < plates * 1.5 + panels < section.breadth * section.depth
    solids = [m for m in spread.structure.members if m.section and not m.kind.concrete]
    whole = sum(m.solid.volume for m in solids)
    amounts = volumes_of(spread)
    less = whole - amounts.timber - amounts.glued
    assert less == pytest.approx(header.solid.volume - made * header.length)


def test_a_beam_that_comes_down_on_a_box_is_told_and_mended() -> None:
    done = work_out(opened("W12", 13 * FOOT, ridge="beam"))
    told = [f for f in findings(done) if "at one place" in f.text]
    assert [f.kind for f in told] == ["unchecked"]
    assert told[0].mend is not None
    mended = work_out(told[0].mend.apply(done.project))
    assert not [f for f in findings(mended) if "at one place" in f.text]
    beside = work_out(opened("W12", 7 * FOOT, ridge="beam"))
    assert not [f for f in findings(beside) if "at one place" in f.text]


def test_boxes_are_chosen_in_the_slip_of_a_wall(spread: Checked) -> None:
    desk = Desk(Building(rule_studs_of(spread.project, ["W11"], header="built up")), THINGS)
    desk.select(the("wall:W11"))
    row = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "headers")
    row.choose("box")
    (header,) = desk.checked.structure.of(kinds.WALL_HEADER)
    assert header.section.startswith("Box ")
    cut = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "header cut from")
    cut.choose("Box 2x6x9-1/4")
    (header,) = desk.checked.structure.of(kinds.WALL_HEADER)
    assert header.section == "Box 2x6x9-1/4"
    desk.undo()
    desk.undo()
    assert not desk.checked.structure.of(kinds.WALL_HEADER)[0].section.startswith("Box ")
