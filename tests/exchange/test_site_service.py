"""The site sheet: what a place asks for, and what is said where the service fails or answers nonsense."""

import pytest

from balken.exchange.site_service import MadeUpService, SiteError, ask, taken_in
from balken.model.edits.common import checked
from balken.session.building import demo_project
from balken.units import PSF


def test_a_place_it_knows() -> None:
    sheet = ask(MadeUpService(), " Baker's Hill ")
    assert sheet.ground_snow == pytest.approx(35 * PSF)
    project = demo_project()
    after = checked(project, site=taken_in(project.site, sheet))
    assert after.site.place == "Baker's Hill"
    assert after.site.snow is not None
    assert after.site.snow.ground == pytest.approx(35 * PSF)
    assert after.site.frost_depth == sheet.frost_depth
    assert after.roofs == project.roofs, "roofs go on with what was typed"


def test_a_place_it_does_not_know_names_those_it_does() -> None:
    with pytest.raises(SiteError, match="ferry quay"):
        ask(MadeUpService(), "Nowhere")


def test_it_says_where_it_does_not_answer() -> None:
    with pytest.raises(SiteError, match="does not answer"):
        ask(MadeUpService("nothing"), "high moor")


def test_nonsense_is_not_taken() -> None:
    with pytest.raises(SiteError, match=r"heavy.*snow on the ground"):
        ask(MadeUpService("nonsense"), "high moor")


@pytest.mark.parametrize("value", [-1.0, 1e9, float("nan"), True, None, "3"])
def test_what_cannot_be_meant_is_told(value: object) -> None:
    class Odd:
        def sheet(self, place: str) -> dict[str, object]:
            return {"frost_depth": value, "soil_bearing": 0.1, "ground_snow": 0.001}

    with pytest.raises(SiteError, match="frost depth"):
        ask(Odd(), "x")
