"""Clauses on what stands in the ground: each is tried just inside and just outside of its
conditions."""

import json

import pytest
from small_projects import PROJECTS, Raw, check_of, one, ratio, told, worked

from balken.design.codes.eu.ec2_pads import anchorage, punching
from balken.design.codes.us.aci_bars import development
from balken.design.codes.us.aci_pads import band_factor
from balken.design.codes.us.irc_soil import SOIL_CLASSES, width_2021
from balken.design.concrete.bars import Bar
from balken.design.lines import Check
from balken.exchange.native import from_text
from balken.framing import kinds
from balken.model.walls import Layer
from balken.site.wall_weights import known_material, wall_dead, weight_of_layer
from balken.units import FOOT, INCH, PCF, PSF, PSI
from balken.works.building import Checked, checks_of
from named import the


def test_walls_weigh_what_their_layers_do_unless_a_weight_is_typed() -> None:
    """ASCE 7-16 C3.1: a wythe of clay brick 4 in thick 39 psf, a framed wall some 8 to 12. Older
    files wrote the usual 12 psf out: that is taken as not typed, any other value as typed."""
    raw = json.loads((PROJECTS / "02-wall-weight.balken").read_text())
    assert raw["format"] == 5
    project = from_text(json.dumps(raw).encode())
    assert project.site.wall_dead is None
    brick = wall_dead(project, project.walls[0]) / PSF
    assert 39 < brick < 55
    raw["site"]["wall_dead"] = 15 * PSF
    typed = from_text(json.dumps(raw).encode())
    assert wall_dead(typed, typed.walls[0]) == pytest.approx(15 * PSF)


def test_an_unknown_layer_is_taken_as_heavy() -> None:
    layer = Layer("mycelium", 100.0, "core")
    assert not known_material(layer)
    assert weight_of_layer(layer) >= 140 * PCF


def test_soils_bear_and_press_in_pairs() -> None:
    """IRC 2021 tables R401.4.1 and R404.1.2: silt and clay both bear 1,500 psf; silt presses as 45
    pcf, clay as 60."""
    silt, clay = SOIL_CLASSES["silt, sandy silt"], SOIL_CLASSES["clay, sandy or silty clay"]
    assert silt.bearing == clay.bearing == 1500 * PSF
    assert (silt.fluid, clay.fluid) == (45 * PCF, 60 * PCF)


@pytest.mark.parametrize(
    ("storeys", "below", "psf", "inches"),
    [
        (1, "basement", 1500, 18),
        (1, "basement", 1999, 18),
        (1, "basement", 2000, 14),
        (1, "slab on grade", 1500, 12),
        (2, "basement", 1500, 22),
        (1, "basement", 1499, None),
        (4, "basement", 1500, None),
    ],
)
def test_footings_are_as_wide_as_the_table_of_2021(
    storeys: int, below: str, psf: float, inches: float | None
) -> None:
    """IRC 2021 table R403.1(1), 20 psf of roof live load: between two columns the weaker soil
    counts; else nothing."""
    found = width_2021(storeys, below, psf * PSF, 20 * PSF)  # type: ignore[arg-type]
    assert found is None if inches is None else found == pytest.approx(inches * INCH)


def test_what_presses_at_one_place_does_not_lie_on_the_whole_footing() -> None:
    """1:1 through stem and footing: a post of 30 kip on a strip of 36 ft, twice as high where it
    stands alone."""
    found = worked("04-point-load")
    assert ratio(found, "footing") > 1.5
    footing = one(found, "footing")
    assert footing.length > 30 * FOOT, "as a mean over the piece it would be 0.6"


def test_laps_of_steps_bear_once() -> None:
    found = worked("15-lap")
    pieces = [m for m in found.structure.members if m.kind is kinds.FOOTING]
    used = {m.id: found.used[m.id][0] for m in pieces if m.id in found.used}
    assert len(used) == len(pieces) > 1
    assert max(used.values()) < 1.35 * min(used.values()), (
        "an even load presses about evenly, steps or not"
    )


def test_an_unpropped_basement_wall_must_stand_and_a_propped_one_be_held() -> None:
    """Turning over about the toe and sliding are asked of the wall no floor props; the push at the
    top of the one that is propped goes into its bolts (NDS 12.3.1)."""
    alone, held = worked("19-overturning"), worked("19-top-of-wall")
    names = {c.name for c in _checks(alone)}
    assert {"Turning over", "Sliding"} <= names
    assert "Top into bolts" not in names
    names = {c.name for c in _checks(held)}
    assert "Top into bolts" in names
    assert not {"Turning over", "Sliding"} & names


def test_joists_along_a_wall_do_not_prop_it() -> None:
    held = worked("19-top-of-wall")
    stems = {str(m.id).split(":")[-1]: m for m in held.structure.members if m.kind is kinds.STEM}
    across, along = ({c.name for c in checks_of(held, stems[w])} for w in ("W1", "W2"))
    assert "Top into bolts" in across, "joists end on it"
    assert "Turning over" in along, (
        "joists run along it, with no blocking that would lead its push on"
    )


def test_bolts_set_closer_carry_the_top() -> None:
    def closer(raw: Raw) -> None:
        raw["runs"][0]["bolts_apart"] = 10 * INCH

    raw = json.loads((PROJECTS / "19-top-of-wall.balken").read_text())
    assert "bolts_apart" not in raw["runs"][0], "by the rule 6 ft apart (IRC R403.1.6)"
    wide = _top_of_w1(worked("19-top-of-wall"))
    close = _top_of_w1(worked("19-top-of-wall", lambda r: (r.update(format=6), _six(r), closer(r))))
    assert wide.ratio > 1.0
    assert close.ratio < wide.ratio / 4


def _top_of_w1(found: Checked) -> Check:
    """What the top of the wall that joists end on pushes into its bolts."""
    stem = next(m for m in found.structure.members if m.id == the("run:G1/stem:W1"))
    return next(c for c in checks_of(found, stem) if c.name == "Top into bolts")


def test_a_typed_moment_stands_with_the_load_it_came_with() -> None:
    """ASCE 7-16 2.4.1: dead load alone with its moment is a case too; the least load turns a pad
    over first."""
    assert told(worked("24-pad-turns"), "over")

    def none(raw: Raw) -> None:
        raw["point_supports"][0]["moments"] = [0.0, 0.0]

    assert told(worked("24-pad-turns", none), "over") == []


def test_bars_hold_by_the_concrete_they_lie_in() -> None:
    """EN 1992-1-1 8.4: C20/25, fctd = 0.7 × 0.30 × 20^(2/3) / 1.5 = 1.03, f_bd 2.32, ø fyd / (4
    f_bd) = 46.9 ø; C30/37 35.8 ø. ACI 318-19 25.4.2.3: #4 of 60 ksi in 3,000 psi 60,000 / (25
    √3000) = 43.8 ø; in 4,000 psi 37.9 ø."""
    sixteen = Bar("16", 16.0, 201.0)
    assert anchorage(sixteen, 20.0, 500.0) / 16.0 == pytest.approx(46.8, abs=0.3)
    assert anchorage(sixteen, 30.0, 500.0) / 16.0 == pytest.approx(35.7, abs=0.3)
    three, four = Bar("#3", 0.375 * INCH, 0.11 * INCH**2), Bar("#4", 0.5 * INCH, 0.2 * INCH**2)
    assert development(four, 3000 * PSI, 60_000 * PSI) / four.diameter == pytest.approx(
        43.8, abs=0.1
    )
    assert development(four, 4000 * PSI, 60_000 * PSI) / four.diameter == pytest.approx(
        37.9, abs=0.1
    )
    assert development(three, 9000 * PSI, 60_000 * PSI) == 12 * INCH, "no less than a foot"


def test_a_long_pad_has_more_bars_in_its_middle_band() -> None:
    """ACI 318-19 13.3.3.3: 2 / (β + 1) of them within the short side; β = 2 at one spacing: 2 × 2 /
    3 = 1.33 of the need."""
    assert band_factor(1000.0, 2000.0) == pytest.approx(4 / 3)
    assert band_factor(1000.0, 1000.0) == pytest.approx(1.0)
    assert band_factor(2000.0, 1000.0) == pytest.approx(1.0), "along the long side they are even"


def test_a_post_near_an_edge_punches_sooner() -> None:
    """EN 1992-1-1 6.4.2(4): the perimeter runs out to the edge where that is shorter."""
    at = (400_000.0, (2000.0, 2000.0), (300.0, 300.0), 400.0, 0.002, 25.0)
    middle, edge, corner = (
        punching(*at, off=off) for off in ((0.0, 0.0), (850.0, 0.0), (850.0, 850.0))
    )
    used = [force / held for force, held in (middle, edge, corner)]
    assert used[0] < used[1] < used[2]


def test_metric_soil_is_held_against_characteristic_loads() -> None:
    """EN 1990 6.14b: one leads whole, the other with ψ0, 0.7 for floors - not the 0.75 (L + S) of
    ASCE 7."""
    found = worked("30-metric-soil")
    bearing = check_of(found, "pad", "Soil pressure")
    assert bearing is not None
    assert bearing.combination == "G + 0.7L + S"


def test_the_middle_wall_under_a_slab_takes_the_share_of_a_continuous_one() -> None:
    """ACI 318-19 6.5: 1.25 w ℓ at the middle of two spans, where the nearer halves of both would be
    1.0 w ℓ. The loads themselves go by the halves, so that their sum is right; the quarter comes
    besides."""
    found = worked("31-slab-share")
    even, most = found.path.onto[the("wall:W2")], found.path.onto_most(the("wall:W2"))
    assert most is not None
    assert most.live == pytest.approx(1.25 * even.live)
    assert found.path.onto_most(the("wall:W1")) == found.path.onto[the("wall:W1")], (
        "an outer wall takes no more"
    )


def _checks(found: Checked, role: str = "stem") -> tuple[Check, ...]:
    return checks_of(found, one(found, role))


def _six(raw: Raw) -> None:
    raw["site"]["wall_dead"] = None
