"""The span tables beside the calculation (IRC 2021 R502.3.1(2), R802.4.1, R802.5.1)."""

import pytest

from balken.model.edits import set_floor
from balken.model.edits.roofs import set_roof
from balken.model.names import HostName
from balken.session.building import demo_project
from balken.session.ferry_hall import ferry_hall
from balken.units import FOOT, INCH, PSF
from balken.works.building import work_out
from balken.works.second_opinion import opinion_of

F2 = HostName("floor", "F2")


def test_a_joist_of_the_table() -> None:
    """2x10 DF-L No.2 at 16 in, 40 and 10 psf: 15 ft 7 in (IRC 2021 table R502.3.1(2))."""
    project = set_floor(
        demo_project(), "F2", section="2x10", spacing=16 * INCH, live=40 * PSF, dead=10 * PSF
    )
    found = opinion_of(work_out(project), F2)
    assert found is not None
    assert found.allowed == pytest.approx(15 * FOOT + 7 * INCH, abs=INCH)
    assert found.words.startswith("IRC 2021 R502.3.1(2)")
    assert found.by_calculation is not None
    assert found.by_calculation == pytest.approx(found.allowed, abs=2 * INCH)


def test_loads_between_are_held_against_the_heavier_table() -> None:
    project = set_floor(demo_project(), "F2", section="2x10", spacing=16 * INCH, dead=12 * PSF)
    found = opinion_of(work_out(project), F2)
    assert found is not None
    assert found.words.endswith("40 psf live and 20 psf dead")
    assert found.allowed is not None
    assert found.allowed < found.by_calculation  # type: ignore[operator]


@pytest.mark.parametrize(
    ("fields", "words"),
    [({"live": 100 * PSF}, "heavy"), ({"spacing": 450.0, "section": "2x10"}, "spacing")],
)
def test_why_no_table_applies(fields: dict[str, object], words: str) -> None:
    found = opinion_of(work_out(set_floor(demo_project(), "F2", **fields)), F2)
    assert found is not None
    assert found.allowed is None
    assert words in found.words


def test_rafters_by_snow_and_none_in_europe() -> None:
    project = set_roof(demo_project(), "R1", section="2x8", spacing=16 * INCH, snow=30 * PSF)
    found = opinion_of(work_out(project), HostName("roof", "R1"))
    assert found is not None
    assert "R802.4.1(3)" in found.words
    hall = work_out(ferry_hall())
    assert all(opinion_of(hall, host) is None for host in hall.sizes)
