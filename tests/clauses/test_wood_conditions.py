"""Clauses on wood have conditions: each is tried just inside and just outside of them. The
standards from memory."""

import math
from functools import partial

import pytest
from msgspec.structs import replace
from small_projects import Raw, check_of, one, ratio, told, worked

from balken.design.codes.us.nds.bending import repetitive
from balken.design.codes.us.nds.factors import depth_factor, effective_length
from balken.design.codes.us.nds.values import reference
from balken.framing import kinds
from balken.loads.codes.us.snow import drift_on
from balken.model.project import Wall
from balken.units import FOOT, INCH, PCF, PSF, PSI
from balken.works.building import work_out
from buildings import house
from named import the


def section(name: str):  # type: ignore[no-untyped-def]
    """Give the beam another section."""

    def change(raw: Raw) -> None:
        raw["beams"][0]["kind"]["section"] = name

    return change


def test_a_balanced_layup_bends_over_a_support_as_it_does_in_the_span() -> None:
    """NDS Supplement table 5A: 24F-V8 has Fbx 2,400 psi on both sides, 24F-1.8E 1,450 psi where it
    hogs."""
    unbalanced, balanced = (
        worked("01-glulam-hogging"),
        worked("01-glulam-hogging", section("GL 5-1/8x18 24F-V8")),
    )
    assert ratio(unbalanced, "beam") > 1.25
    assert 0.55 < ratio(balanced, "beam") / ratio(unbalanced, "beam") < 0.75, (
        "about 1450 / 2400, less what C_V takes"
    )


def test_load_is_not_shared_where_the_clause_does_not_let_it() -> None:
    """NDS 4.3.9: three or more, 24 in apart at most, dimension lumber of 2 to 4 in."""
    assert repetitive(3, 1.5 * INCH, 24 * INCH) == 1.15
    assert repetitive(2, 1.5 * INCH, 16 * INCH) == 1.0
    assert repetitive(3, 1.5 * INCH, 24.1 * INCH) == 1.0
    assert repetitive(3, 3.5 * INCH, 16 * INCH) == 1.15
    assert repetitive(3, 5.5 * INCH, 16 * INCH) == 1.0, "a timber"


def test_stud_grade_eight_inches_and_wider_is_no_3() -> None:
    """NDS Supplement table 4A, size factors: Stud grade 8 in and wider takes No.3's values and
    factors."""
    wide, plain = reference("DF-L", "Stud", (2, 8)), reference("DF-L", "No.3", (2, 8))
    assert (wide.fb, wide.ft, wide.fc, wide.e) == (plain.fb, plain.ft, plain.fc, plain.e)
    assert reference("DF-L", "Stud", (2, 6)).fb == pytest.approx(700 * PSI)


def test_a_post_of_no_known_values_is_told_and_with_them_checked() -> None:
    silent = worked("03-silent-post")
    post = one(silent, "post")
    assert post.id not in silent.used
    assert any(post.id in f.members for f in told(silent, "unchecked"))

    def known(raw: Raw) -> None:
        raw["point_supports"][1].update(species="DF-L", grade="No.1")

    assert ratio(worked("03-silent-post", known), "post") > 2.0, "120 kip on a 6x6"


@pytest.mark.parametrize(("inches", "allowed"), [(174.0, True), (176.0, False)])
def test_a_post_more_slender_than_fifty_is_refused(inches: float, allowed: bool) -> None:
    """NDS 3.7.1.4: ℓe / d no more than 50; 50 × 3.5 in = 175 in."""

    def high(raw: Raw) -> None:
        top = next(x for x in raw["levels"] if x["id"] == raw["point_supports"][1]["top"])
        foot = next(x for x in raw["levels"] if x["id"] == raw["point_supports"][1]["base"])
        top["elevation"] = foot["elevation"] + inches * INCH

    found = worked("06-slender-post", high)
    assert (check_of(found, "post", "Slenderness") is None) == allowed
    assert any("slenderness" in f.text for f in told(found, "over")) != allowed


def test_a_wall_on_a_beam_does_not_hold_it_sideways_but_what_is_typed_does() -> None:
    """NDS 3.3.3, AISC F1: a brace keeps the edge in compression from moving sideways; a wall's
    weight does not."""

    def held(raw: Raw) -> None:
        raw["beams"][0]["kind"]["braced"] = 24 * INCH

    assert ratio(worked("08-wall-no-brace"), "beam") > 2 * ratio(
        worked("08-wall-no-brace", held), "beam"
    )


def test_rafters_on_a_ridge_beam_do_not_push() -> None:
    """NDS 3.9.2 is asked of rafters that lean on one another: under a ridge beam there is no thrust
    (IRC R802.3)."""
    board = worked("09-rafter-thrust")

    def beam(raw: Raw) -> None:
        raw["roofs"][0]["rafters"]["ridge"] = "beam"

    assert check_of(board, "rafter", "Thrust and bending") is not None
    assert check_of(worked("09-rafter-thrust", beam), "rafter", "Thrust and bending") is None


@pytest.mark.parametrize(("overhang", "most"), [(12 * INCH, 1.0), (72 * INCH, math.inf)])
def test_tails_are_cantilevers(overhang: float, most: float) -> None:
    """NDS 3.3: moment at the plate w a² / 2; a foot of overhang is nothing, six feet of 2x8 is too
    much."""

    def out(raw: Raw) -> None:
        raw["roofs"][0]["overhang"] = overhang

    tail = check_of(worked("10-rafter-tail", out), "rafter", "Tail")
    assert tail is not None
    assert tail.ratio < most
    assert (tail.ratio > 1.0) == (overhang > 1000.0)


def test_the_depth_factor_of_lvl_is_the_makers() -> None:
    """NDS 8.3.6: C_V by the exponent of the maker; none up to 12 in. (12 / 18)^0.136 = 0.946."""
    assert depth_factor(18 * INCH, 0.136) == pytest.approx(0.9463, abs=1e-4)
    assert depth_factor(12 * INCH, 0.136) == 1.0
    assert depth_factor(9.5 * INCH, 0.136) == 1.0


def test_effective_lengths_have_the_rows_of_their_table() -> None:
    """NDS table 3.3.3 with its footnote 1."""
    d, lu = 10.0, 100.0
    assert effective_length(lu, d, "uniform") == pytest.approx(1.63 * lu + 3 * d)
    assert effective_length(lu, d, "middle") == pytest.approx(1.37 * lu + 3 * d)
    assert effective_length(lu, d, "held 1") == pytest.approx(1.11 * lu)
    assert effective_length(lu, d, "end moments") == pytest.approx(1.84 * lu)
    assert effective_length(6.9 * d, d, "uniform") == pytest.approx(2.06 * 6.9 * d)
    assert effective_length(14.2 * d, d, "other") == pytest.approx(1.63 * 142 + 30)
    assert effective_length(14.4 * d, d, "other") == pytest.approx(1.84 * 144), (
        "over 14.3: longer than by its row"
    )


def test_drifted_snow_lies_behind_the_ridge() -> None:
    """ASCE 7-16 7.6.1 by hand: ps 28 psf of pg 40, 6 in 12, 28 ft from eave to ridge: hd = 0.43 ∛28
    ⁴√50 − 1.5 = 1.972 ft, γ = 0.13 × 40 + 14 = 19.2 pcf, √S = √2: 26.8 psf over 7.44 ft."""
    found = drift_on(28 * PSF, 0.5, 28 * FOOT)
    assert found is not None
    high = 0.43 * 28 ** (1 / 3) * 50**0.25 - 1.5
    assert high == pytest.approx(1.972, abs=0.002)
    assert found.load == pytest.approx(high * FOOT * 19.2 * PCF / math.sqrt(2), rel=1e-6)
    assert found.reach == pytest.approx(8 / 3 * high * FOOT * math.sqrt(2), rel=1e-6)
    assert found.load / PSF == pytest.approx(26.8, abs=0.1)


def test_narrow_roofs_count_as_twenty_feet_wide_and_flat_or_steep_ones_have_no_drift() -> None:
    """ASCE 7-16 7.6.1: ℓu no less than 20 ft; none under ½ in 12 nor over 7 in 12 (30.2°)."""
    narrow, twenty = drift_on(28 * PSF, 0.5, 12 * FOOT), drift_on(28 * PSF, 0.5, 20 * FOOT)
    assert narrow is not None
    assert twenty is not None
    assert narrow.load == twenty.load
    assert drift_on(28 * PSF, 0.4 / 12, 20 * FOOT) is None
    assert drift_on(28 * PSF, 0.5 / 12, 20 * FOOT) is not None
    assert drift_on(28 * PSF, 7 / 12, 20 * FOOT) is not None
    assert drift_on(28 * PSF, 7.2 / 12, 20 * FOOT) is None


def test_lvl_is_bored_only_where_its_maker_says_so() -> None:
    """IRC R502.8.2: cuts, notches and holes in engineered wood only as its maker allows."""
    assert told(worked("25-hole-in-lvl"), "bored")

    def sawn(raw: Raw, share: float) -> None:
        raw["beams"][0]["kind"].update(section="3-2x14", species="DF-L", grade="No.2")
        raw["bores"][0]["size"] = share * 13.25 * INCH

    assert told(worked("25-hole-in-lvl", partial(sawn, share=0.33)), "bored") == [], (
        "a third of the depth of sawn lumber"
    )
    assert told(worked("25-hole-in-lvl", partial(sawn, share=0.34)), "bored"), (
        "and no more (R502.8.1)"
    )


@pytest.mark.parametrize(("inches", "told_of"), [(2.9, True), (3.0, False)])
def test_wood_lies_three_inches_on_concrete(inches: float, told_of: bool) -> None:
    """IRC R502.6: 1½ in on wood or metal, 3 in on masonry or concrete."""

    def reaching(raw: Raw) -> None:
        raw["beams"][0]["out"] = [inches * INCH - 4 * INCH] * 2  # from the middle of a wall of 8 in

    assert bool(told(worked("27-on-concrete", reaching), "bearing")) == told_of


def test_the_end_post_takes_the_pattern_that_loads_it_most() -> None:
    """ASCE 7-16 4.3.3: live load on the near span alone. Two spans of ℓ: 3/8 w ℓ of dead load, 7/16
    w ℓ of live; at 100 and 600 lb/ft and 16 ft 600 and 4,200 lb; and what lies on the half post
    beyond its middle."""
    found = worked("14-pattern")
    post = next(m for m in found.structure.members if m.kind is kinds.POST and m.start[0] < 1.0)
    most = found.path.onto_most(post.id)
    assert most is not None
    dead, live = most.dead / 4.4482216, most.live / 4.4482216
    past = 3.75 / 12
    assert live == pytest.approx(7 / 16 * 600 * 16 + 600 * past, rel=0.005)
    typed = 3 / 8 * 100 * 16 + 100 * past
    assert typed < dead < 1.35 * typed, "and the beam itself, some 23 lb/ft, and the post"
    even = found.path.onto[post.id].live / 4.4482216
    assert even == pytest.approx(3 / 8 * 600 * 16 + 600 * past, rel=0.01), (
        "the way of loads itself carries even load"
    )


def test_a_partition_is_carried_by_the_joists_under_it() -> None:
    """By hand: 8 ft 1 1/8 in of an unknown framed wall, 12 psf, across joists at 24 in: P = 12 ×
    8.09 × 2 = 194 lb at 2 m of a span of 3.8 m, beside the floor's load; the greatest moment of
    both together."""
    plain = house()
    wall = Wall("X1", "partition", (2000.0, 2000.0), (6000.0, 2000.0), 114.3, "centre", "L1", "P1")
    without, with_it = work_out(plain), work_out(replace(plain, walls=(*plain.walls, wall)))
    name = the("floor:F1/joist:05a")
    joist = next(m for m in with_it.structure.members if m.id == name)
    first, last = joist.carrier.supports[0], joist.carrier.supports[-1]
    span = last.at - first.at
    (load,) = {
        p.source: sum(q.forces.dead for q in with_it.path.carried[name])
        for p in with_it.path.carried[name]
    }.values()
    spacing = without.sizes[the("floor:F1")].size.spacing
    assert spacing == pytest.approx(24 * INCH)
    assert load == pytest.approx(194 * 4.448, rel=0.05)
    at = 2000.0 - joist.start[1] - first.at
    floor = plain.floors[0]
    line = (floor.dead + floor.live) * spacing
    even = line * span**2 / 8
    both = max(
        line * x * (span - x) / 2 + load * min((span - at) * x, at * (span - x)) / span
        for x in range(0, int(span), 10)
    )
    assert with_it.used[name][0] / without.used[name][0] == pytest.approx(both / even, rel=0.06)
