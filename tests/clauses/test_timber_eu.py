"""European timber inside and just outside the conditions of its clauses: EN 1995-1-1:2004 with A1 and
A2, EN 338:2016, EN 1990, worked by hand here."""

import math

import pytest

from balken.analysis.simple import moment
from balken.design.codes import timber_by
from balken.design.codes.eu import ec3, strengths
from balken.design.codes.eu.ec5 import bearing, bending, columns, factors, shear
from balken.design.codes.eu.ec5.combinations import elastic, sums
from balken.design.codes.eu.ec5.values import NoClassError, timber
from balken.design.strength import Cut
from balken.framing import kinds
from balken.model.cases import Cases
from balken.model.catalogue import sections_of
from balken.model.new import new_building
from balken.model.sections import section_of
from balken.site.proposals import propose_structure
from balken.works.building import checks_of, work_out
from named import the

EU = timber_by("eu")
C24, GL24 = timber("C24"), timber("GL24h")


def test_a_combination_has_kmod_of_its_shortest_load() -> None:
    """EN 1990 6.10 with table A1.1; EN 1995-1-1 3.1.3(2), tables 2.2 and 3.1."""
    by_name = {c.name: c for c in sums(1).every}
    both = by_name["1.35G + 1.5L + 0.75S"]
    assert list(both.factors) == pytest.approx(list(Cases(1.35, 1.5, snow=0.75)))
    assert both.duration == 0.9, "snow is short, live load medium"
    assert by_name["1.35G + 1.5L"].duration == 0.8
    assert by_name["1.35G"].duration == 0.6
    assert {c.duration for c in sums(3).every} == {0.5, 0.65, 0.7, 0.9}
    # Roofs' live load of category H stands alone beside what leads: ψ0 is 0.
    assert not any(c.factors.snow and c.factors.roof_live for c in sums(1).every)


def test_creep_raises_what_stays() -> None:
    """EN 1995-1-1 2.2.3(5): G (1 + kdef), Q1 (1 + ψ2 kdef), Qi (ψ0 + ψ2 kdef)."""
    whole = next(c for c in sums(2).every if c.name == "1.35G + 1.5L + 0.75S")
    assert list(whole.first_sag) == pytest.approx(list(Cases(1.0, 1.0, snow=0.5)))
    assert list(whole.second_sag) == pytest.approx(list(Cases(1.8, 1 + 0.3 * 0.8, snow=0.5)))
    steel = next(c for c in elastic().every if c.name == whole.name)
    assert list(steel.second_sag) == list(steel.first_sag), "steel does not creep"


def test_what_holds_down_is_not_raised() -> None:
    """EN 1990 table A1.2(A): 0.9 of what is permanent where it helps."""
    assert min(c.factors.dead for c in sums(1).every if c.factors.live) == 0.9


@pytest.mark.parametrize(
    ("of", "size", "expected"),
    [
        (C24, 150.0, 1.0),
        (C24, 200.0, 1.0),
        (C24, 100.0, (150 / 100) ** 0.2),
        (C24, 30.0, 1.3),
        (GL24, 600.0, 1.0),
        (GL24, 300.0, (600 / 300) ** 0.1),
        (GL24, 200.0, 1.1),
    ],
)
def test_shallow_pieces_are_stronger_up_to_a_limit(
    of: object, size: float, expected: float
) -> None:
    """EN 1995-1-1 3.2(3), 3.3(3)."""
    assert factors.kh(of, size) == pytest.approx(expected)  # type: ignore[arg-type]


def test_members_share_load_in_rows_only() -> None:
    """EN 1995-1-1 6.6: several, equally spaced, joined by what spreads load."""
    assert EU.shared(3, 45.0, 600.0) == 1.1
    assert EU.shared(2, 45.0, 600.0) == 1.0
    assert EU.shared(3, 45.0, 1300.0) == 1.0
    assert EU.shared(4, 45.0, 0.0) == 1.0, "plies nailed together are no such row"


def test_kc90_asks_for_room_between_support_and_load() -> None:
    """EN 1995-1-1 6.1.5(3), (4) as amended."""
    assert bearing.kc90("solid timber", "discrete", 200.0, 100.0, 400.0) == 1.5
    assert bearing.kc90("solid timber", "discrete", 200.0, 100.0, 399.0) == 1.0
    assert bearing.kc90("glulam", "discrete", 200.0, 400.0, 1e4) == 1.75
    assert bearing.kc90("glulam", "discrete", 200.0, 401.0, 1e4) == 1.0
    assert bearing.kc90("lvl", "discrete", 200.0, 100.0, 1e4) == 1.0


def test_contact_grows_by_no_more_than_there_is_wood() -> None:
    """EN 1995-1-1 6.1.5(1): 30 mm, a, ℓ or ℓ1/2, the least, each side."""
    assert bearing.contact_length(100.0, (0.0, 1e4), 1e4) == 130.0
    assert bearing.contact_length(20.0, (50.0, 50.0), 1e4) == 60.0
    assert bearing.contact_length(100.0, (50.0, 50.0), 20.0) == 120.0


def test_kcrit_has_three_branches() -> None:
    """EN 1995-1-1 6.34 at a relative slenderness just under 0.75, at 1 and at 2."""

    def at(relative: float) -> float:
        critical = 24.0 / relative**2
        length = 0.78 * 45.0**2 * 7400.0 / (220.0 * critical)
        return bending.kcrit(45.0, 220.0, length, 24.0, 7400.0)

    assert at(0.7499) == 1.0
    assert at(1.0) == pytest.approx(1.56 - 0.75)
    assert at(2.0) == pytest.approx(0.25)
    assert bending.kcrit(45.0, 220.0, 0.0, 24.0, 7400.0) == 1.0, "held all along"


def test_stocky_pieces_do_not_buckle() -> None:
    """EN 1995-1-1 6.3.2(2): up to a relative slenderness of 0.3."""
    slender = 0.3 * math.pi * math.sqrt(C24.e_05 / C24.fc)
    assert columns.kc(slender * 0.999, C24) == 1.0
    assert columns.kc(slender * 1.2, C24) < 1.0
    assert columns.with_bending(0.5, (0.4, 0.0), (10.0, 10.0), C24) == pytest.approx(0.25 + 0.4)


def test_a_notch_at_a_support_costs_more_than_its_depth() -> None:
    """EN 1995-1-1 6.5.2; away from supports the net section counts."""
    piece = strengths.strength_of(
        sections_of("metric")["38x184"], "softwood", "C24", 4000.0, 0.0, in_row=False
    )
    assert piece is not None
    near = strengths.net_shear(piece, Cut(notch=True, size=46.0, to_support=60.0, depth=184.0))
    kv = shear.notch_factor("solid timber", 184.0, 138.0, 60.0)
    assert near == pytest.approx(0.75 * kv)
    assert kv < 1.0
    far = strengths.net_shear(piece, Cut(notch=True, size=46.0, to_support=185.0, depth=184.0))
    assert far == pytest.approx(0.75)
    assert shear.notch_factor("solid timber", 184.0, 184.0, 0.0) == 1.0, "no notch"
    tapered = shear.notch_factor("solid timber", 184.0, 138.0, 60.0, taper=3.0)
    assert tapered > kv


def test_unknown_classes_are_refused_in_words() -> None:
    with pytest.raises(NoClassError, match="C14 to C50"):
        timber("D70x")
    section = sections_of("metric")["38x184"]
    assert EU.worth("softwood", "C99", section) is None
    assert EU.worth("DF-L", "No.2", section) is None


def test_a_joist_of_a_house_by_hand() -> None:
    """Bending, shear, both deflections and bearing of a joist, from its loads up."""
    checked = work_out(propose_structure(new_building("House", 9000.0, 8000.0, 2, "metric"))[0])
    joist = next(
        m
        for m in checked.structure.of(kinds.JOIST)
        if m.host == the("floor:F2") and m.id in checked.used and m.id not in checked.carrying
    )
    found = {c.name: c for c in checks_of(checked, joist)}
    floor = next(f for f in checked.built.floors if f.id == "F2")
    section = sections_of("metric")[joist.section]
    span = next(x.value for x in found["Bending"].lines if x.symbol == "ℓ")
    wide = joist.carrier.area / (joist.carrier.carries[1] - joist.carrier.carries[0])
    dead, live = floor.dead * wide, floor.live * wide
    design = 1.35 * dead + 1.5 * live
    fm = 24.0 * max(1.0, min(1.3, (150 / section.depth) ** 0.2)) * 1.1 * 0.8 / 1.3
    assert found["Bending"].ratio == pytest.approx(
        moment(design, span) / section.modulus / fm, rel=1e-9
    )
    sheared = 1.5 * design * span / 2 / (0.67 * section.area) / (4.0 * 0.8 / 1.3)
    assert found["Shear"].ratio == pytest.approx(sheared, rel=1e-9)

    def sag(load: float) -> float:
        return 5 * load * span**4 / (384 * 11_000 * section.inertia)

    at_once = sag(dead + live) * floor.live_limit / span
    assert found["Deflection at once"].ratio == pytest.approx(at_once, rel=1e-9)
    final = sag(dead * 1.6 + live * (1 + 0.3 * 0.6)) * floor.total_limit / span
    assert found["Final deflection"].ratio == pytest.approx(final, rel=1e-9)


def test_classes_of_rolled_sections() -> None:
    """EN 1993-1-1 table 5.2: of S235 an IPE 300 is of class 1 in bending and 2 in compression, a thin
    hollow section of class 4, which has no values here."""
    there = sections_of("metric")
    assert ec3.class_in_bending(there["IPE 300"]) == 1
    assert ec3.class_in_compression(there["IPE 300"]) == 2
    thin = there["SHS 160x8"].product
    assert thin is not None
    from msgspec.structs import replace

    sheet = section_of(replace(thin, id="SHS 160x3", web=3.0))
    assert ec3.class_in_compression(sheet) == 4
    assert "class 4" in EU.posts.missing("SHS 160x3", sheet)


def test_a_rolled_beam_held_all_along_has_its_plastic_moment() -> None:
    """EN 1993-1-1 6.2.5: W_pl of an IPE 240 is 366.6 cm³ (EN 10365, from memory), fy 235."""
    rolled = ec3.rolled(sections_of("metric")["IPE 240"])
    assert rolled is not None
    assert rolled.allowable(0.0) / 1e6 == pytest.approx(366.6e3 * 235 / 1e6, rel=0.01)
    assert rolled.allowable(6000.0) < 0.6 * rolled.allowable(0.0)
    assert rolled.shear() / 1e3 == pytest.approx(19.14e2 * 235 / math.sqrt(3) / 1e3, rel=0.02)
