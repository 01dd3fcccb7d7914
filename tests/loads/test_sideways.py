"""Wind and earthquake on whole buildings: by hand beside each, from ASCE 7-16 and EN 1991-1-4."""

import math

import pytest
from msgspec.structs import replace

from balken.fit.findings import findings
from balken.framing import kinds
from balken.loads.codes.us import wind_frame as us
from balken.loads.codes.us.wind import exposure_factor, velocity_pressure
from balken.loads.roof_wind import ground_height
from balken.loads.sideways import earthquake_at, redundancy
from balken.loads.wind import WIND
from balken.model.cases import PRESSING, Cases
from balken.model.edits import set_site
from balken.model.edits.roofs import set_roof
from balken.model.edits.walls import set_walls
from balken.model.project import Project, wall_top
from balken.model.roofs import RoofSide
from balken.model.wind import Earthquake, Wind
from balken.session.building import demo_project
from balken.session.ferry_hall import ferry_hall
from balken.units import FOOT, KPA, LB, MPH, PSF
from balken.works.building import Checked, checks_of, work_out
from balken.works.held_down import lifted_off, net_uplift
from buildings import house

GALE = Wind(115 * MPH, exposure="B")


def blown(project: Project, wind: Wind = GALE) -> Checked:
    return work_out(set_site(project, wind=wind))


def test_what_lifts_a_roof_is_that_of_the_figure() -> None:
    """ASCE 7-16 figure 27.3-1, h/L up to a half: along the ridge 0.9 G + 0.18; with openings 0.55;
    past the wall 0.9 G + 0.8 G. At h/L 1 the suction is 1.3."""
    qh = 20 * PSF
    assert us.roof_uplift(qh, 20.0, 0.3, enclosed=True) / PSF == pytest.approx(
        20 * (0.85 * 0.9 + 0.18)
    )
    assert us.roof_uplift(qh, 20.0, 0.3, enclosed=False) / PSF == pytest.approx(
        20 * (0.85 * 0.9 + 0.55)
    )
    assert us.overhang_uplift(qh, 20.0, 0.3) / PSF == pytest.approx(20 * 0.85 * 1.7)
    assert us.roof_lift(20.0, 1.0) == pytest.approx(1.3)
    assert us.roof_lift(20.0, 0.75) == pytest.approx(1.1)


def test_what_pushes_walls_is_no_less_than_sixteen_pounds() -> None:
    """27.3-1 with 0.8 and 0.5 (L/B up to 1) or 0.3 (at 2); 27.1.5."""
    assert us.wall_push(20 * PSF, 0, 10.0, 10.0) / PSF == pytest.approx(20 * 0.85 * 1.3)
    assert us.wall_push(20 * PSF, 0, 20.0, 10.0) / PSF == pytest.approx(20 * 0.85 * 1.1)
    assert us.wall_push(5 * PSF, 0, 10.0, 10.0) / PSF == pytest.approx(16.0)
    assert us.roof_side_push(1 * PSF, 30.0, 0.3) / PSF == pytest.approx(8.0)


def test_walls_to_windward_and_leeward_are_not_pressed_at_once_by_en_1991() -> None:
    """EN 1991-1-4 table 7.1 at h/d = 1: 0.8 + 0.5, and 0.85 of both (7.2.2(3))."""
    push = WIND["eu"].wall_push
    assert push(0.6 * KPA, 8000.0, 8000.0, 1.0) == pytest.approx(0.6 * KPA * 0.85 * 1.3)
    assert push(0.6 * KPA, 2000.0, 8000.0, 1.0) == pytest.approx(0.6 * KPA * 0.85 * 1.0)


def test_a_roof_without_overhang_is_lifted_as_it_stands() -> None:
    project = set_roof(house(), "R1", overhang=0.0, rake=0.0)
    found = blown(project)
    roof = found.built.roofs[0]
    half = 26 * FOOT / 2
    plate = max(wall_top(project, w) for w in project.walls)
    height = plate - ground_height(project.levels) + half * (roof.rise / 12) / 2
    qh = velocity_pressure(115 * MPH, exposure_factor(height, "B"))
    assert roof.uplift == pytest.approx(qh * (0.85 * 0.9 + 0.18), rel=1e-4)
    assert found.project.roofs[0].uplift is None, "the project keeps what was decided"
    typed = blown(set_roof(project, "R1", uplift=30 * PSF))
    assert typed.built.roofs[0].uplift == pytest.approx(30 * PSF)


def test_the_side_that_reaches_farthest_out_is_lifted_most() -> None:
    """27.3.3 adds to what reaches past the walls, on whichever side: the roof is taken as lifted by
    the worst of them."""
    plain = set_roof(house(), "R1", overhang=300.0, rake=300.0)
    wider = set_roof(plain, "R1", sides=(RoofSide("W11", overhang=900.0),))
    rake = set_roof(plain, "R1", rake=900.0)
    lifts = [blown(p).built.roofs[0].uplift for p in (plain, wider, rake)]
    assert None not in lifts
    assert lifts[1] == lifts[2]
    assert lifts[1] > lifts[0]  # type: ignore[operator]


def test_all_that_lifts_comes_down_to_the_soil_and_no_other_case_changes() -> None:
    still, gale = work_out(set_site(demo_project(), wind=None)), blown(demo_project())
    assert gale.path.soil_total.uplift == pytest.approx(gale.path.applied.uplift, rel=1e-9)
    assert gale.path.applied.uplift < 0
    before, after = still.path.soil_total, gale.path.soil_total
    assert after.wind == pytest.approx(gale.path.applied.wind, rel=1e-9)
    for case in PRESSING:
        assert getattr(after, case) == pytest.approx(getattr(before, case)), case
    assert all(gale.used[n][0] >= ratio - 1e-9 for n, (ratio, _) in still.used.items())


@pytest.mark.parametrize(
    ("code", "forces", "expected"),
    [
        ("us", Cases(1000.0, 500.0, 0.0, 800.0, 700.0, -1500.0), 300.0),
        ("us", Cases(1500.0, uplift=-1500.0), 0.0),
        ("us", Cases(1499.0, uplift=-1500.0), 0.6),
        ("eu", Cases(1000.0, uplift=-1000.0), 600.0),
        ("eu", Cases(1000.0, uplift=-600.0), 0.0),
        ("eu", Cases(1000.0, uplift=-601.0), 1.5),
    ],
)
def test_only_dead_load_holds_down(code: str, forces: Cases, expected: float) -> None:
    """ASCE 7-16 2.4.1 no. 7; EN 1990 table A1.2(A): 0.9 G + 1.5 W."""
    assert net_uplift(forces, WIND[code]) == pytest.approx(expected)  # type: ignore[arg-type]


def test_a_strap_of_a_rafter_is_what_its_end_lifts() -> None:
    found = blown(house(), Wind(150 * MPH, exposure="D"))
    rafters = [s for s in found.straps if getattr(s.what, "family", "") == "rafter"]
    assert rafters
    strap = rafters[0]
    ends = found.path.reactions[strap.what]  # type: ignore[index]
    assert strap.force == pytest.approx(max(-0.6 * (e.dead + e.uplift) for e in ends))


def test_what_no_dead_load_holds_is_told_with_its_place_and_force() -> None:
    hall = ferry_hall()
    assert not list(lifted_off(WIND["eu"], work_out(set_site(hall, wind=None)).path))
    storm = blown(hall, Wind(40_000.0, terrain="0"))
    lifted = dict(lifted_off(WIND["eu"], storm.path))
    told = [f for f in findings(storm) if f.kind == "wind" and f.members]
    assert {f.members[0] for f in told} == set(lifted)
    assert all(f.amount == pytest.approx(lifted[f.members[0]]) for f in told)
    assert all("kN" in f.text and f.at is not None for f in told)


def test_each_storey_gets_what_the_wind_meets() -> None:
    """A plain gabled house, wind on its long side: half the storey's height of wall, and the roof;
    half to each gable wall."""
    project = set_roof(
        house(),
        "R1",
        overhang=0.0,
        rake=0.0,
        sides=(RoofSide("W12", "gable"), RoofSide("W14", "gable")),
    )
    found = blown(project)
    across = next(s for s in found.sideways if abs(s.way[1]) > 0.99)
    shape = next(iter(found.structure.roofs.values()))
    walls = [w for w in project.walls if w.id in ("W11", "W13")]
    ground = ground_height(project.levels)
    plate, ridge = wall_top(project, walls[0]), shape.roof.top
    height = max((plate - shape.heel + ridge + shape.heel) / 2, plate) - ground
    qh = velocity_pressure(115 * MPH, exposure_factor(height, "B"))
    length = 36 * FOOT
    on_walls = max(16 * PSF, qh * 0.85 * (0.8 + 0.5))
    foot = max(ground, across.base)
    expected = on_walls * length * (plate - foot) / 2
    pitch = math.degrees(math.atan(project.roofs[0].rise / 12))
    expected += us.roof_side_push(qh, pitch, height / (26 * FOOT)) * length * (ridge - plate)
    assert across.wind == pytest.approx(expected, rel=0.03)
    assert [len(x.walls) for x in across.lines] == [1, 1]
    assert math.fsum(x.wind for x in across.lines) == pytest.approx(across.wind, rel=1e-6)
    assert across.lines[0].wind == pytest.approx(across.lines[1].wind, rel=0.02)


@pytest.mark.parametrize("spread", ["by areas", "stiff"])
def test_lines_take_all_that_pushes_a_storey(spread: str) -> None:
    found = work_out(set_site(demo_project(), diaphragms=spread))
    for storey in found.sideways:
        given = math.fsum(x.wind for x in storey.lines)
        if spread == "by areas":
            assert given == pytest.approx(storey.wind, rel=1e-6)
        else:
            assert given >= storey.wind * (1 - 1e-6), "turning adds, and relieves nobody"


def test_a_stiff_floor_shares_by_length_of_wall() -> None:
    """Two lines alike under a push in their middle take half each; one as long again takes two
    thirds but for the turning."""
    project = set_site(house(), wind=GALE, diaphragms="stiff")
    across = next(s for s in work_out(project).sideways if abs(s.way[1]) > 0.99)
    assert across.lines[0].wind == pytest.approx(across.wind / 2, rel=0.03)


def test_an_inside_wall_braces_only_where_a_person_says_so() -> None:
    project = demo_project()
    inner = next(w for w in project.walls if w.id == "W205")
    lines = {k for s in work_out(project).sideways for x in s.lines for k in x.walls}
    assert inner.id not in lines
    said = work_out(set_walls(project, (inner.id,), braces=True))
    assert inner.id in {k for s in said.sideways for x in s.lines for k in x.walls}
    none = set_walls(project, [w.id for w in project.walls], braces=False)
    told = [f for f in findings(work_out(none)) if "no wall stands" in f.text]
    assert len(told) == 4, "two storeys, two ways"


def test_earthquake_by_hand() -> None:
    """ASCE 7-16 12.8: two floors of 40 and 20 kip at 10 and 20 ft, SDS 0.4, SD1 0.15, R 6.5: Cs =
    0.4/6.5, under SD1/(T R) = 0.12; k = 1, so that both floors get half."""
    shake = Earthquake(sds=0.4, sd1=0.15)
    forces = earthquake_at(shake, [20 * FOOT, 10 * FOOT], [20_000 * LB, 40_000 * LB])
    shear = 0.4 / 6.5 * 60_000 * LB
    assert forces == pytest.approx([shear / 2, shear / 2])
    assert redundancy(0.49, 0.19) == 1.0
    assert redundancy(0.5, 0.19) == redundancy(0.49, 0.2) == 1.3


def test_nothing_typed_gives_nothing_and_is_told() -> None:
    project = house()
    found = work_out(project)
    assert found.sideways == found.straps == ()
    assert any("Wind on 1 roof is not counted" in f.text for f in findings(found))
    bare = replace(project, roofs=())
    assert not any("Wind" in f.text for f in findings(work_out(bare)))


def test_rafters_that_lift_are_bent_the_other_way() -> None:
    """0.6 W − 0.6 D over the plan, w ℓ²/8 at most, C_D 1.6, and the lower edge held at its ends
    alone (NDS 3.3.3, table 2.3.2)."""
    project = set_roof(house(), "R1", section="2x10", spacing=609.6)
    found = blown(project, Wind(160 * MPH, exposure="D"))
    rafters = [
        m for m in found.structure.members if m.kind is kinds.RAFTER and m.id in found.lifted
    ]
    assert rafters
    rafter = max((m for m in rafters if m.id.piece.isdigit()), key=lambda m: m.run)
    roof = found.built.roofs[0]
    assert roof.uplift is not None
    net = 0.6 * roof.uplift - 0.6 * roof.dead * math.hypot(1, rafter.slope)
    span = rafter.carrier.supports[-1].at - rafter.carrier.supports[0].at
    bending = next(c for c in checks_of(found, rafter) if c.name == "Lifted, bending")
    moment = next(x.value for x in bending.lines if x.symbol == "M")
    assert 0.7 < moment / (net * 609.6 * span**2 / 8) <= 1.02
    lines = {x.symbol: x.value for x in bending.lines}
    assert lines["CD"] == 1.6
    assert lines["CL"] < 0.9, "a slender edge that nothing holds"
    assert not work_out(set_site(project, wind=None)).lifted


def test_what_dead_load_holds_is_not_bent_the_other_way() -> None:
    heavy = set_roof(house(), "R1", dead=60 * PSF)
    assert blown(heavy).lifted == {}
