"""The ground as a surface: heights on planes known by hand, contours that keep their height."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.errors import BalkenError
from balken.exchange.instrument import MadeUpGround, SimulatedInstrument, stations, survey
from balken.fit.findings import findings
from balken.framing import kinds
from balken.model.edits import set_run
from balken.model.edits.others import add_spot, set_spots
from balken.model.project import Project, Spot, level
from balken.site.ground import contour_step, contours, height_at, surface_of
from balken.works.building import work_out

SLOPE = tuple(
    Spot((x, y), 0.02 * x - 0.01 * y + 50.0)
    for x in (0.0, 5000.0, 11000.0)
    for y in (0.0, 4000.0, 9000.0)
)
"""A plane, measured at uneven places."""


@pytest.mark.parametrize("p", [(0.0, 0.0), (2500.0, 2000.0), (7123.0, 8011.0), (11000.0, 9000.0)])
def test_a_plane_is_met_everywhere(p: tuple[float, float]) -> None:
    assert height_at(surface_of(SLOPE), p) == pytest.approx(0.02 * p[0] - 0.01 * p[1] + 50.0)


def test_outside_the_nearest_counts() -> None:
    assert height_at(surface_of(SLOPE), (-5000.0, -100.0)) == pytest.approx(50.0)


def test_few_or_straight_places_are_still_heights() -> None:
    line = tuple(Spot((x, 2 * x), x) for x in (0.0, 100.0, 200.0))
    surface = surface_of(line)
    assert len(surface.triangles) == 0
    assert height_at(surface, (90.0, 200.0)) == 100.0
    with pytest.raises(BalkenError, match="No heights"):
        height_at(surface_of(()), (0.0, 0.0))
    twice = surface_of((*SLOPE, Spot((0.0, 0.0), 999.0)))
    assert height_at(twice, (0.0, 0.0)) == 999.0, "of one place the later height counts"


def test_survey_coordinates_lose_nothing() -> None:
    far = tuple(Spot((s.at[0] + 4e8, s.at[1] + 6e8), s.height) for s in SLOPE)
    assert height_at(surface_of(far), (4e8 + 2500.0, 6e8 + 2000.0)) == pytest.approx(80.0, abs=1e-3)


def test_contours_of_a_plane_are_straight_and_at_their_height() -> None:
    found = contours(SLOPE, 50.0)
    assert [h for h, _ in found] == [0.0, 50.0, 100.0, 150.0, 200.0, 250.0]
    for height, lines in found:
        assert len(lines) == 1, "joined from edge to edge"
        for x, y in lines[0]:
            assert 0.02 * x - 0.01 * y + 50.0 == pytest.approx(height, abs=1e-2)


@settings(max_examples=30)
@given(
    st.lists(
        st.tuples(st.integers(0, 40), st.integers(0, 40), st.integers(-2000, 2000)),
        min_size=4,
        max_size=40,
    )
)
def test_every_point_of_a_contour_has_its_height(raw: list[tuple[int, int, int]]) -> None:
    spots = tuple(Spot((500.0 * x, 500.0 * y), float(z)) for x, y, z in raw)
    surface = surface_of(spots)
    for height, lines in contours(spots, contour_step(spots, "metric")):
        for line in lines:
            for p in line:
                # On a long thin triangle, rounding in plan moves the height by some.
                assert height_at(surface, p) == pytest.approx(height, abs=2.0)


@pytest.mark.parametrize("system", ["us", "metric"])
def test_about_a_dozen_contours(system: str) -> None:
    for spread in (1.0, 300.0, 2500.0, 40_000.0):
        spots = (Spot((0.0, 0.0), 0.0), Spot((1.0, 1.0), spread))
        assert 1 <= max(1.0, spread / contour_step(spots, system)) <= 13  # type: ignore[arg-type]


def test_the_simulated_instrument_errs_as_much_as_it_says() -> None:
    ground = MadeUpGround()
    outline = [(0.0, 0.0), (12000.0, 0.0), (12000.0, 8000.0), (0.0, 8000.0)]
    spots = survey(SimulatedInstrument(ground, 5.0, 7), outline, 100.0)
    off = [s.height - ground(s.at) for s in spots]
    assert len(off) > 500
    spread = (sum(v * v for v in off) / len(off)) ** 0.5
    assert 4.4 < spread < 5.6
    assert abs(sum(off) / len(off)) < 0.8
    assert survey(SimulatedInstrument(ground, 5.0, 7), outline, 100.0) == spots, (
        "the same seed reads the same"
    )
    exact = survey(SimulatedInstrument(ground, 0.0), outline)
    assert all(abs(s.height - ground(s.at)) <= 0.06 for s in exact)


def test_it_walks_the_outline_and_outside_it() -> None:
    places = list(
        stations([(0.0, 0.0), (6000.0, 0.0), (6000.0, 4000.0), (0.0, 4000.0)], 3000.0, 1000.0)
    )
    assert places[:4] == [(0.0, 0.0), (0.0, -1000.0), (3000.0, 0.0), (3000.0, -1000.0)]
    assert len(places) == 2 * (2 + 2 + 2 + 2)


def test_frost_and_clearance_go_by_the_measured_ground(demo: Project) -> None:
    """The ground falls to one corner: a level footing there lies too shallow by just so much, and
    it is said where."""
    demo = set_run(demo, "G1", follow="level")
    ground = next(x for x in demo.levels if x.role == "ground")
    bottom = level(demo, demo.runs[0].bottom).elevation
    corners = [(-500.0, -500.0), (12000.0, -500.0), (12000.0, 9000.0), (-500.0, 9000.0)]
    spots = [Spot(p, ground.elevation) for p in corners]
    assert not [
        f for f in findings(work_out(set_spots(demo, spots))) if f.kind in ("frost", "clearance")
    ]
    falls = set_spots(demo, [*spots[:3], Spot(corners[3], ground.elevation - 600.0)])
    frost = next(f for f in findings(work_out(falls)) if f.kind == "frost")
    low = min(
        height_at(surface_of(falls.spots), p)
        for m in work_out(falls).structure.members
        if m.kind is kinds.FOOTING
        for p in m.solid.plan()
    )
    assert frost.amount == pytest.approx(bottom - (low - demo.site.frost_depth), abs=0.1)
    assert "C/1" in frost.place
    rises = set_spots(demo, [*spots[:2], Spot(corners[2], 200.0), spots[3]])
    clear = next(f for f in findings(work_out(rises)) if f.kind == "clearance")
    assert "C/4" in clear.place


def test_one_height_more(demo: Project) -> None:
    assert add_spot(demo, (1.0, 2.0), -3.0).spots == (Spot((1.0, 2.0), -3.0),)
