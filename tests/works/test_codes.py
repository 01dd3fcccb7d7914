"""The code of a project and the measure it is drawn in are two things."""

import pytest
from msgspec.structs import replace

from balken.design.codes import ground_by
from balken.framing import kinds
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.works.building import checks_of, work_out

SAID = {"us": ("ACI", "IRC", "ASCE", "NDS", "IBC", "AISC", "TMS"), "eu": ("EN ",)}


@pytest.mark.parametrize("code", ["us", "eu"])
@pytest.mark.parametrize("building", [shown_demo, ferry_hall])
def test_concrete_in_the_ground_is_held_to_the_projects_code(building, code) -> None:
    """In feet and inches as in millimetres, and to no clause of the other."""
    checked = work_out(replace(building(), code=code))
    found = [
        c
        for m in checked.structure.of(kinds.FOOTING, kinds.EDGE, kinds.PAD, kinds.PIER)
        for c in checks_of(checked, m)
    ]
    assert len(found) > 8
    own, other = SAID[code], SAID["eu" if code == "us" else "us"]
    for check in found:
        if check.name == "Uplift":  # a typed force is held by dead load as ASCE 7 has it
            continue
        clauses = [check.clause, *(s.clause for s in check.lines)]
        assert any(word in check.clause for word in own), check.name
        for clause in clauses:
            assert not any(clause.startswith(word) for word in other), (check.name, clause)


def test_the_codes_ask_different_things_of_one_footing() -> None:
    """EN 1992-1-1 12.9.3 and ACI 318-19 14.5.2 of a strip 600 wide and 300 thick under a wall of
    200, 0.2 N/mm², C25: 0.200 × √(3 × 0.2 / 0.957) / (0.85 × 0.3) by hand, and Mu / φ 5√f'c S with
    two inches less."""
    from balken.model.foundations import Site

    site = Site(strength=25.0)
    eu = ground_by("eu", "A").strips.bending(0.2, 200.0, 300.0, "", site)
    us = ground_by("us", "A").strips.bending(0.2, 200.0, 300.0, "", site)
    assert eu.ratio == pytest.approx(200 * (3 * 0.2 / 0.9575) ** 0.5 / (0.85 * 300), rel=1e-3)
    moment, depth = 0.2 * 200**2 / 2, 300 - 50.8
    held = 0.6 * 5 * (25 / 0.006894757) ** 0.5 * 0.006894757
    assert us.ratio == pytest.approx(moment / (held * depth**2 / 6), rel=1e-6)
