"""Beams on many supports, against closed forms and PyNiteFEA."""

import math
import random
from itertools import pairwise

import numpy as np
import pytest
from oracle import model_of

from balken.analysis.beams import UnstableError, greatest_moment, greatest_sag, greatest_shear
from balken.analysis.one_beam import Beam, LineLoad, PointLoad, Rest, Worked, at_places, work

EI = 2.0e12


def one(beam: Beam, cases: int = 1) -> Worked:
    (found,) = work([beam], cases)
    return found


def uniform(length: float, w: float = 5.0) -> LineLoad:
    return LineLoad(0, 0.0, length, w, w)


# Closed forms: any text on statics (AWC Design Aid 6), lengths in mm, loads in N/mm.


def test_a_fixed_beam_has_its_moments_at_its_ends() -> None:
    beam = Beam(6000.0, EI, (Rest(0.0, "fix"), Rest(6000.0, "fix")), (uniform(6000.0),))
    found = one(beam)
    assert greatest_moment(found.drawn)[0, 0] == pytest.approx(5 * 6000**2 / 24)
    assert greatest_moment(found.drawn, -1)[0, 0] == pytest.approx(5 * 6000**2 / 12)
    assert greatest_sag(found.drawn)[0, 0] == pytest.approx(5 * 6000**4 / 384 / EI)
    assert found.solved.fixing[0, 0].tolist() == pytest.approx([-15e6, 15e6])


def test_a_propped_cantilever() -> None:
    beam = Beam(4000.0, EI, (Rest(0.0, "fix"), Rest(4000.0)), (uniform(4000.0),))
    found = one(beam)
    assert found.solved.reaction[0, 0].tolist() == pytest.approx(
        [5 * 5 * 4000 / 8, 3 * 5 * 4000 / 8]
    )
    assert greatest_moment(found.drawn)[0, 0] == pytest.approx(9 * 5 * 4000**2 / 128)
    assert greatest_sag(found.drawn)[0, 0] == pytest.approx(5 * 4000**4 / (184.646 * EI), rel=1e-4)


def test_a_gerber_beam_folds_at_its_hinge() -> None:
    # The end span hangs on the cantilever at the hinge: w (L - a) / 2 there, hogging over the
    # support by hand.
    beam = Beam(
        9000.0, EI, (Rest(0.0), Rest(5000.0), Rest(9000.0)), (uniform(9000.0),), hinges=(6000.0,)
    )
    found = one(beam)
    on_hinge = 5 * 3000 / 2
    assert found.solved.reaction[0, 0, -1] == pytest.approx(on_hinge)
    assert greatest_moment(found.drawn, -1)[0, 0] == pytest.approx(
        on_hinge * 1000 + 5 * 1000**2 / 2
    )
    at = at_places(found, np.array([[6000.0]]))
    assert at.moment[0][0, 0, 0] == pytest.approx(0.0, abs=1e-3)


def test_a_support_that_settles_bends_the_beam_it_carries() -> None:
    # Two equal spans, middle support down by d: M = 3 E I d / L² sagging over it.
    beam = Beam(8000.0, EI, (Rest(0.0), Rest(4000.0, settled=10.0), Rest(8000.0)))
    found = one(beam)
    assert greatest_moment(found.drawn)[0, 0] == pytest.approx(3 * EI * 10 / 4000**2)
    assert found.solved.sag[0, 0, 1] == 10.0


def test_equal_spans_have_the_moments_of_the_tables() -> None:
    beam = Beam(12000.0, EI, tuple(Rest(4000.0 * k) for k in range(4)), (uniform(12000.0),))
    found = one(beam)
    w_l = 5 * 4000
    assert found.solved.reaction[0, 0].tolist() == pytest.approx(
        [0.4 * w_l, 1.1 * w_l, 1.1 * w_l, 0.4 * w_l]
    )
    assert greatest_moment(found.drawn, -1)[0, 0] == pytest.approx(0.1 * w_l * 4000)
    assert greatest_shear(found.drawn)[0, 0] == pytest.approx(0.6 * w_l)


def test_an_end_moment_turns_the_beam_the_way_it_says() -> None:
    beam = Beam(3000.0, EI, (Rest(0.0), Rest(3000.0)), points=(PointLoad(0, 0.0, 0.0, 6e6),))
    found = one(beam)
    assert found.solved.reaction[0, 0].tolist() == pytest.approx([-2000.0, 2000.0])
    assert greatest_moment(found.drawn)[0, 0] == pytest.approx(6e6)
    assert greatest_sag(found.drawn)[0, 0] == pytest.approx(6e6 * 3000**2 / (9 * math.sqrt(3) * EI))


@pytest.mark.parametrize(
    "beam",
    [
        Beam(3000.0, EI, (Rest(0.0),), (uniform(3000.0),)),
        Beam(3000.0, EI, (Rest(0.0), Rest(3000.0)), (uniform(3000.0),), hinges=(1500.0,)),
        Beam(3000.0, EI, (), (uniform(3000.0),)),
    ],
)
def test_what_cannot_stand_is_refused(beam: Beam) -> None:
    with pytest.raises(UnstableError, match="too few supports"):
        one(beam)


def _any_beam(seed: int) -> Beam:
    """An uneven beam with everything on it, the same for the same seed."""
    dice = random.Random(seed)
    spans = [dice.uniform(1500, 7000) for _ in range(dice.randint(1, 4))]
    length, first = sum(spans), dice.choice([0.0, 700.0])
    places = [first + sum(spans[:k]) for k in range(len(spans) + 1)]
    length = places[-1] + dice.choice([0.0, 900.0])
    rests = [Rest(x, settled=dice.choice([0.0, 4.0]), settled_case=1) for x in places]
    if dice.random() < 0.3 and first == 0.0:
        rests[0] = Rest(0.0, "fix")
    hinges = (places[1] + 0.3 * spans[1],) if len(spans) > 2 and dice.random() < 0.5 else ()
    lines = [uniform(length, dice.uniform(1, 5))]
    for _ in range(3):
        low = dice.uniform(0, length * 0.8)
        lines.append(
            LineLoad(
                dice.randint(0, 1),
                low,
                dice.uniform(low + 50, length),
                dice.uniform(0, 9),
                dice.uniform(0, 9),
            )
        )
    points = [
        PointLoad(
            dice.randint(0, 1),
            dice.uniform(1, length - 1),
            dice.uniform(100, 9000),
            dice.uniform(-2e6, 2e6),
        )
        for _ in range(5)
    ]
    return Beam(length, EI, tuple(rests), tuple(lines), tuple(points), hinges)


BEAMS = [_any_beam(seed) for seed in range(40)]


def test_uneven_beams_agree_with_pynite() -> None:
    for worked in work(BEAMS, 2):
        for k, i in enumerate(worked.order):
            for case in range(2):
                model, places = model_of(BEAMS[i], case)
                theirs = [
                    next(iter(model.nodes[f"N{n}"].RxnFY.values())) for n in range(len(places))
                ]
                scale = sum(abs(p.force) for p in BEAMS[i].points) + 1e4
                assert worked.solved.reaction[case, k].tolist() == pytest.approx(
                    theirs, abs=1e-9 * scale
                )
                x = np.array([[a + 0.37 * (b - a) for a, b in pairwise(places)]])
                rows = np.repeat(x, len(worked.order), axis=0)
                drawn = at_places(worked, rows)
                for s, (a, place) in enumerate(zip(places, x[0])):
                    # Their moment is positive where it hogs, their shear where ours is.
                    member = model.members[f"M{s}"]
                    assert drawn.moment[0][case, k, s] == pytest.approx(
                        -member.moment("Mz", place - a), abs=1e-9 * 1e9
                    )
                    assert drawn.sag[case, k, s] == pytest.approx(
                        -member.deflection("dy", place - a), abs=1e-4
                    )


def test_a_batch_gives_what_single_beams_give() -> None:
    for worked in work(BEAMS, 2):
        for k, i in enumerate(worked.order):
            alone = one(BEAMS[i], 2)
            assert worked.solved.reaction[:, k] == pytest.approx(
                alone.solved.reaction[:, 0], rel=1e-9, abs=1e-6
            )
            assert greatest_moment(worked.drawn)[:, k] == pytest.approx(
                greatest_moment(alone.drawn)[:, 0], rel=1e-9
            )


def test_loads_and_reactions_balance_whatever_the_beam() -> None:
    for worked in work(BEAMS, 2):
        for k, i in enumerate(worked.order):
            beam = BEAMS[i]
            for case in range(2):
                down = sum(
                    (q.at_low + q.at_high) / 2 * (q.high - q.low)
                    for q in beam.lines
                    if q.case == case
                )
                down += sum(p.force for p in beam.points if p.case == case)
                assert worked.solved.reaction[case, k].sum() == pytest.approx(
                    down, rel=1e-9, abs=1e-5
                )


def test_what_comes_out_for_a_beam_does_not_depend_on_what_is_worked_out_beside_it() -> None:
    plain = Beam(4000.0, EI, (Rest(0.0), Rest(4000.0)), (uniform(4000.0),))
    laden = Beam(
        9000.0,
        EI,
        (Rest(0.0), Rest(9000.0)),
        (uniform(9000.0),),
        tuple(PointLoad(0, 300.0 * k, 900.0) for k in range(1, 30)),
    )
    alone = one(plain)
    (both,) = work([plain, laden], 1)
    i = both.order.index(0)
    stations = alone.drawn.x.shape[1]
    assert both.drawn.x[i, :stations].tolist() == alone.drawn.x[0].tolist()
    assert set(both.drawn.x[i, stations:].tolist()) == {4000.0}, "at its end it waits for the other"
    assert both.drawn.sag[0, i, :stations].tolist() == pytest.approx(
        alone.drawn.sag[0, 0].tolist(), rel=1e-12
    )
    assert greatest_sag(both.drawn)[0, i] == pytest.approx(5 * 5 * 4000**4 / 384 / EI)


def test_deflection_follows_the_moments_exactly_between_stations() -> None:
    # A load at a third: the deflection there is P a² b² / 3 E I L, and dy/dx of both sides agree
    # with the closed form.
    beam = Beam(6000.0, EI, (Rest(0.0), Rest(6000.0)), (), (PointLoad(0, 2000.0, 10e3),))
    at = at_places(one(beam), np.array([[2000.0, 3000.0]]))
    a, b, length = 2000.0, 4000.0, 6000.0
    assert at.sag[0, 0, 0] == pytest.approx(10e3 * a**2 * b**2 / (3 * EI * length), rel=1e-12)
    x = 3000.0  # from the far end: P a x (L² - a² - x²) / 6 E I L
    assert at.sag[0, 0, 1] == pytest.approx(
        10e3 * a * x * (length**2 - a**2 - x**2) / (6 * EI * length), rel=1e-12
    )
    assert at.slope[1][0, 0, 0] == pytest.approx(
        10e3 * a * b * (b - a) / (3 * EI * length), rel=1e-12
    ), "P a b (b - a) / 3 E I L under the load"
