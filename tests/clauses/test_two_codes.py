"""One code a building: nothing of the other is used anywhere, and changing it says what it changes."""

import re

import pytest
from msgspec.structs import replace

from balken.design.codes import timber_by
from balken.fit.findings import findings
from balken.model.catalogue import GRADES_OF
from balken.model.edits.code import change_code, changed_by, foreign, with_wood_of_code
from balken.model.new import new_building
from balken.model.project import Project
from balken.session.building import demo_project
from balken.session.ferry_hall import ferry_hall
from balken.site.proposals import propose_structure
from balken.works.building import checks_of, work_out
from balken.works.settling import settle
from balken.works.terms import terms_of

OF_US = re.compile(r"NDS|AISC|ACI|IRC|ASCE|TMS|IBC|SDPWS")
OF_EU = re.compile(r"\bEN \d")


def metric_house() -> Project:
    return settle(propose_structure(new_building("House", 9000.0, 8000.0, 2, "metric"))[0])


BUILDINGS = {
    "hall": (ferry_hall, OF_US),
    "metric house": (metric_house, OF_US),
    "bakehouse": (demo_project, OF_EU),
    "bakehouse by Eurocodes": (lambda: change_code(demo_project(), "eu"), OF_US),
    "metric house by US codes": (lambda: change_code(metric_house(), "us"), OF_EU),
}


@pytest.mark.parametrize("name", BUILDINGS)
def test_no_clause_of_the_other_codes_is_used(name: str) -> None:
    make, other = BUILDINGS[name]
    checked = work_out(make())
    carrying = 0
    for member in checked.structure.members:
        for check in checks_of(checked, member):
            carrying += 1
            for where in (check.clause, *(line.clause for line in check.lines)):
                assert not other.search(where), (member.id, check.name, where)
    assert carrying > 100
    for finding in findings(checked):
        assert not other.search(finding.text), finding.text


def test_every_species_of_a_code_has_values_by_it_and_by_no_other() -> None:
    from balken.model.catalogue import sections_of

    section = sections_of("metric")["38x184"]
    for code, names in GRADES_OF.items():
        for species, grades in names.items():
            for grade in grades:
                by = {
                    c
                    for c in ("us", "eu")
                    if timber_by(c).worth(species, grade, section) is not None
                }
                too_wide = grade in ("Construction", "Standard", "Utility")
                assert by == (set() if too_wide else {code}), (species, grade)


def test_changing_the_code_says_what_changes_and_keeps_loads() -> None:
    bakehouse = demo_project()
    words = " ".join(changed_by(bakehouse, "eu"))
    assert "EN 1990" in words
    assert "roof" in words
    assert "softwood C24" in words
    there = change_code(bakehouse, "eu")
    assert [f.live for f in there.floors] == [f.live for f in bakehouse.floors]
    assert {b.grade for b in there.build_ups} == {"C24"}
    back = change_code(there, "us")
    assert {b.grade for b in back.build_ups} == {"No.2"}


def test_wood_of_the_other_code_is_told_and_mended() -> None:
    from msgspec.structs import replace

    house = metric_house()
    mixed = replace(
        house, build_ups=tuple(replace(b, species="SPF", grade="No.2") for b in house.build_ups)
    )
    checked = work_out(mixed)
    assert checked.structure.unframed == (), "it is framed, though not checked"
    told = [f for f in findings(checked) if f.kind == "unchecked" and "SPF" in f.text]
    assert told
    mend = told[0].mend
    assert mend is not None
    mended = mend.apply(mixed)
    assert not any(foreign("eu", b) for b in mended.build_ups)
    assert mended == with_wood_of_code(mixed)
    assert not [f for f in findings(work_out(mended)) if f.kind == "unchecked" and "SPF" in f.text]


@pytest.mark.parametrize(("use", "beside"), [("rooms", 0.7), ("shop", 0.7), ("storage", 1.0)])
def test_soil_gets_what_floors_are_used_for(use: str, beside: float) -> None:
    """EN 1990 table A1.1: ψ0 is 0.7 for categories A to D and 1.0 for storage (E)."""
    hall = ferry_hall()
    floors = tuple(replace(f, use=use) for f in hall.floors)
    terms = terms_of(replace(hall, floors=floors))
    snowy = [
        c
        for c in terms.ground.service
        if c.factors.snow == 1.0 and c.factors.live and not c.factors.wind
    ]
    assert [c.factors.live for c in snowy] == [beside]
    strong = [c for c in terms.ground.strength if c.factors.snow == 1.5 and not c.factors.wind]
    assert [c.factors.live for c in strong] == [pytest.approx(1.5 * beside)]
