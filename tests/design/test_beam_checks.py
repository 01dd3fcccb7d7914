"""Checks of beams: pattern loads and limits by hand, steel against the manual, products by
capacity."""

import pytest

from balken.design.beam_checks import Asked, explain_answer, judge
from balken.design.codes import timber_by
from balken.design.codes.us import aisc
from balken.design.codes.us.nds import columns
from balken.design.codes.us.strengths import RULES, WOOD, strength_of
from balken.design.effects import Loaded, diagram_of, effects_of
from balken.design.seats import seats_of
from balken.design.strength import Strength
from balken.design.under import UNKNOWN
from balken.framing import kinds
from balken.framing.member import Member, Support
from balken.framing.pieces import Cut, level_piece
from balken.loads.parcels import Parcel
from balken.model.cases import NOTHING, Cases
from balken.model.catalogue import sections_of
from balken.model.sections import Product, section_of
from balken.units import FOOT, INCH, LB, PSI
from named import the

KIP = 1000 * LB

SUMS = timber_by("us").sums(1, "A")
SOFT = Strength(RULES, WOOD, 1e9, 1e9, 1e12, breadth=100.0, depth=300.0)


def beam(length: float, at: tuple[float, ...], line: tuple[float, float, float, float]) -> Member:
    rests = tuple(
        Support(x, 100.0, the(f"support:C{i}/post:1"), (x, 0.0)) for i, x in enumerate(at)
    )
    piece = Cut("x", "", 100.0)
    return level_piece(
        "b",
        "B",
        kinds.BEAM,
        the("beam:B"),
        "L",
        piece,
        (0.0, 0.0),
        (length, 0.0),
        0.0,
        300.0,
        rests,
        line=line,
    )


def test_live_load_stands_where_it_is_worst() -> None:
    # Two equal spans: dead on both, live on both for the middle, on one for the field (AWC Design
    # Aid 6, cases 29, 31).
    w, length = 2.0, 4000.0
    (effects,) = effects_of(
        [
            Loaded(
                beam(2 * length, (0.0, length, 2 * length), Cases(1.0, w, 0.0, 0.0)),
                NOTHING,
                (),
                SUMS,
            )
        ],
    )
    assert effects is not None
    k = next(i for i, c in enumerate(effects.combinations) if c.name == "D + L")
    assert effects.hogging[k] == pytest.approx([(1.0 + w) * length**2 / 8] * 2)
    # Dead on both and live on one: M(x) = R x - q x²/2 with R = 3/8 g L + 7/16 w L.
    reaction = 0.375 * length + 7 / 16 * w * length
    assert effects.sagging[k] == pytest.approx([reaction**2 / (2 * (1.0 + w))] * 2, rel=1e-9)
    # The far end lifts under live load on the other span alone: 3/8 g L - w L / 16.
    assert effects.lifting[2] == pytest.approx(0.375 * length - w * length / 16)


def test_a_cantilever_may_sag_twice_as_much_for_its_length() -> None:
    span, out, w = 4000.0, 1000.0, 3.0
    member = beam(span + out, (0.0, span), Cases(0.0, w, 0.0, 0.0))
    (effects,) = effects_of([Loaded(member, NOTHING, (), SUMS)])
    assert effects is not None
    assert effects.cantilever.tolist() == [False, True]
    assert effects.spans.tolist() == [span, out]
    # With the span loaded alone the tip rises by w L³ a / 24 EI, more than it sinks under its own
    # load.
    rise, sink = w * span**3 * out / 24, w * out**3 * (4 * span + 3 * out) / 24
    assert rise > sink
    assert effects.live[-1, 1] == pytest.approx(rise, rel=1e-6)
    answer = judge(Asked(Loaded(member, NOTHING, (), SUMS), SOFT, 360.0, 240.0), effects)
    in_span = float(effects.live[-1, 0]) / 1e12 * 360 / span
    assert answer.ratios[2] == pytest.approx(max(in_span, rise / 1e12 * 360 / (2 * out)))


def test_camber_takes_from_the_total_and_not_from_the_live_load() -> None:
    member = beam(6000.0, (0.0, 6000.0), Cases(2.0, 3.0, 0.0, 0.0))
    (effects,) = effects_of([Loaded(member, NOTHING, (), SUMS)])
    assert effects is not None
    plain = judge(Asked(Loaded(member, NOTHING, (), SUMS), SOFT, 360.0, 240.0), effects)
    raised = judge(
        Asked(Loaded(member, NOTHING, (), SUMS), SOFT, 360.0, 240.0, camber=10.0), effects
    )
    assert raised.ratios[2] == plain.ratios[2]
    assert plain.ratios[3] - raised.ratios[3] == pytest.approx(10.0 * 240 / 6000)


def test_an_i_joist_is_checked_by_what_its_maker_publishes() -> None:
    item = Product(
        "I 302", "i-joist", 59.0, 302.0, moment=6.0e6, shear=8.0e3, reaction=5.0e3, stiffness=6.0e11
    )
    strength = strength_of(section_of(item), "", "", 4000.0)
    assert strength is not None
    member = beam(4000.0, (0.0, 4000.0), Cases(0.5, 1.0, 0.0, 0.0))
    (effects,) = effects_of([Loaded(member, NOTHING, (), SUMS)])
    assert effects is not None
    seats = seats_of(timber_by("us"), member, section_of(item), strength, (UNKNOWN, UNKNOWN))
    answer = judge(
        Asked(Loaded(member, NOTHING, (), SUMS), strength, 480.0, 240.0, seats=seats), effects
    )
    assert answer.ratios[0] == pytest.approx(1.5 * 4000**2 / 8 / 6.0e6)
    assert answer.ratios[1] == pytest.approx(3000 / 8.0e3)
    assert answer.ratios[4] == pytest.approx(3000 / 5.0e3)
    assert {c.name for c in explain_answer(answer)} == {
        "Bending",
        "Shear",
        "Live deflection",
        "Total deflection",
        "Bearing",
    }


def test_point_loads_show_as_steps_of_the_diagram() -> None:
    member = beam(4000.0, (0.0, 4000.0), NOTHING)
    loaded = Loaded(
        member, NOTHING, (Parcel(1000.0, 0.0, Cases(8000.0, 0.0, 0.0, 0.0), "j"),), SUMS
    )
    diagram = diagram_of(loaded, SOFT.ei)
    assert diagram is not None
    there = [v for x, v in zip(diagram.x, diagram.shear) if abs(x - 1000.0) < 1e-6]
    assert there[0][1] == pytest.approx(6000.0)
    assert there[-1][0] == pytest.approx(-2000.0)
    assert max(m for _, m in diagram.moment) == pytest.approx(6.0e6)


# AISC Steel Construction Manual, tables 3-2 and 4-1, from memory: W12x26 of 50 ksi steel.


def test_a_rolled_beam_has_the_strength_of_the_manual() -> None:
    section = sections_of("us")["W12x26"]
    held, _ = aisc.moment(section, 0.0)
    assert held / (KIP * FOOT) == pytest.approx(92.8, rel=0.01)
    shear, _ = aisc.shear(section)
    assert shear / KIP == pytest.approx(56.1, rel=0.01)
    free, steps = aisc.moment(section, 20 * FOOT)
    by_symbol = {s.symbol: s.value for s in steps}
    assert by_symbol["Lp"] / FOOT == pytest.approx(5.33, rel=0.01)
    assert by_symbol["Lr"] / FOOT == pytest.approx(14.9, rel=0.03)
    assert free < 0.5 * held


def test_a_flange_that_is_not_compact_takes_from_the_moment() -> None:
    # W8x10 of 50 ksi: Mpx/Ω = 21.9 kip-ft (AISC table 3-2, footnote for a noncompact flange; from
    # memory).
    moment, steps = aisc.moment(sections_of("us")["W8x10"], 0.0)
    assert moment / (KIP * FOOT) == pytest.approx(21.9, rel=0.015)
    assert any(s.symbol == "Mn, local" for s in steps)


def test_a_steel_column_buckles_by_euler_when_it_is_slender() -> None:
    # Far beyond 4.71 sqrt(E/Fy) the curve is 0.877 of Euler's (AISC 360 E3-3).
    section = sections_of("us")["HSS 4x1/4"]
    load, _ = aisc.compression(section, 30 * FOOT)
    euler = 3.14159265**2 * aisc.E * section.inertia / (30 * FOOT) ** 2
    assert load == pytest.approx(0.877 * euler / 1.67, rel=1e-6)


def test_a_nailed_column_slips_about_its_weak_axis_alone() -> None:
    fc, e_min = 1350 * PSI, 0.58e6 * PSI
    tall = (8 * FOOT, 0.0)
    solid, _ = columns.allowable(4.5 * INCH, 5.5 * INCH, fc, e_min, tall, plies=1)
    nailed, _ = columns.allowable(4.5 * INCH, 5.5 * INCH, fc, e_min, tall, plies=3)
    assert solid == nailed
    both = (8 * FOOT, 8 * FOOT)
    assert columns.allowable(4.5 * INCH, 5.5 * INCH, fc, e_min, both, plies=3)[0] < 0.7 * solid


def test_overhangs_at_either_end_are_told_apart_in_one_batch() -> None:
    """A cantilever may sag as a span of twice its length: which span that is follows from each
    member, not from its batch."""

    def piece(name: str, ends: tuple[float, float]) -> Loaded:
        rests = tuple(
            Support(x, 90.0, the(f"wall:{name}{k}"), (x, 0.0)) for k, x in enumerate(ends)
        )
        made = level_piece(
            the(f"beam:{name}/beam:1"),
            name,
            kinds.BEAM,
            the(f"beam:{name}"),
            "L1",
            Cut("38x235", "SPF No.2", 38.0),
            (0.0, 0.0),
            (5000.0, 0.0),
            0.0,
            235.0,
            rests,
            line=Cases(1.0, 2.0, 0.0, 0.0),
        )
        return Loaded(made, NOTHING, (), SUMS)

    both = [piece("A", (1000.0, 4955.0)), piece("B", (45.0, 4000.0))]
    together = effects_of(both)
    for one, found in zip(both, together):
        (alone,) = effects_of([one])
        assert found is not None
        assert alone is not None
        assert found.cantilever.tolist() == alone.cantilever.tolist()
    assert together[0].cantilever.tolist() == [True, False]  # type: ignore[union-attr]
    assert together[1].cantilever.tolist() == [False, True]  # type: ignore[union-attr]
