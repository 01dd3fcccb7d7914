"""Truss shapes and their pinned forces, by the method of joints; the push of rafters against their tie."""

import math
import random

import numpy as np
import pytest

from balken.design.truss_forces import pinned_forces, tie_force
from balken.framing.truss_shapes import KINDS, Kind, Truss, truss_of


def pulls(truss: Truss, joint: int, forces: np.ndarray) -> tuple[float, float]:  # type: ignore[type-arg]
    """Return the sum of what the pieces at a joint pull it by."""
    x = y = 0.0
    for piece, force in zip(truss.pieces, forces):
        if joint in (piece.start, piece.end):
            other = piece.end if joint == piece.start else piece.start
            dx, dy = (b - a for a, b in zip(truss.joints[joint], truss.joints[other]))
            x += force * dx / math.hypot(dx, dy)
            y += force * dy / math.hypot(dx, dy)
    return x, y


@pytest.mark.parametrize("kind", KINDS)
def test_every_shape_is_just_stiff(kind: Kind) -> None:
    truss = truss_of(kind, 7200.0, 2078.0)
    assert len(truss.pieces) == 2 * len(truss.joints) - 3  # Maxwell's count of a plane truss on two bearings
    assert len(set(truss.joints)) == len(truss.joints)
    assert max(y for _, y in truss.joints) == pytest.approx(2078.0)
    assert {truss.joints[i] for i in truss.bearings} == {(0.0, 0.0), (7200.0, 0.0)}


@pytest.mark.parametrize("kind", KINDS)
def test_every_joint_is_in_balance(kind: Kind) -> None:
    chance = random.Random(kind)
    shapes = [
        truss_of(
            kind,
            chance.uniform(5000, 12000),
            chance.uniform(1500, 4000),
            chance.uniform(0.3, 0.7),
            chance.uniform(0, 700),
        )
        for _ in range(20)
    ]
    down = [[chance.uniform(-500, 5000) for _ in t.joints] for t in shapes]
    found = pinned_forces(shapes, down)
    for truss, loads, forces, reactions in zip(shapes, down, found.pieces, found.reactions):
        assert sum(reactions) == pytest.approx(sum(loads), rel=1e-9)
        moment = sum(p * x for p, (x, _) in zip(loads, truss.joints))
        assert reactions[1] * truss.joints[truss.bearings[1]][0] == pytest.approx(moment, rel=1e-9, abs=1.0)
        for i, load in enumerate(loads):
            x, y = pulls(truss, i, forces)
            up = dict(zip(truss.bearings, reactions)).get(i, 0.0)
            assert x == pytest.approx(0.0, abs=1e-6 * 5000)
            assert y + up - load == pytest.approx(0.0, abs=1e-6 * 5000)


def test_a_fink_under_even_loads_by_sections() -> None:
    # 12 m, rise 3 m, 5 kN at the three inner joints of the top chord. Cut through the middle: T = M / h at the apex.
    truss = truss_of("Fink", 12000.0, 3000.0)
    tops = [p.end for p in truss.chord("top chord")][:-1]
    down = [5e3 if i in tops else 0.0 for i in range(len(truss.joints))]
    forces = dict(zip(truss.pieces, pinned_forces([truss], [down]).pieces[0]))
    middle = truss.chord("bottom chord")[1]
    assert forces[middle] == pytest.approx((7.5e3 * 6000 - 5e3 * 3000) / 3000)
    outer = truss.chord("top chord")[0]
    assert forces[outer] == pytest.approx(-7.5e3 / math.sin(math.atan(0.5)))


def test_scissors_pull_harder_than_a_level_tie() -> None:
    level, scissors = truss_of("king post", 8000.0, 2400.0), truss_of("king post", 8000.0, 2400.0, bottom_rise=800.0)
    down = [[0.0, 8e3, 0.0, 0.0]] * 2
    found = pinned_forces([level, scissors], down).pieces
    tie = level.pieces.index(level.chord("bottom chord")[0])
    # About the apex: the lever of the bottom chord is 2400 of a level tie; of scissors the distance of the apex from it.
    assert found[0, tie] == pytest.approx(4e3 * 4000 / 2400)
    lever = (2400 - 800) * math.cos(math.atan(800 / 4000))
    assert found[1, tie] == pytest.approx(4e3 * 4000 / lever)


@pytest.mark.parametrize(
    ("span", "rise", "apex", "bottom", "words"),
    [
        (0.0, 2000.0, 0.5, 0.0, "no shape"), (8000.0, 0.0, 0.5, 0.0, "no shape"), (8000.0, 2000.0, 0.0, 0.0, "between 0.05"),
        (8000.0, 2000.0, 0.5, 1900.0, "leaves no depth"),
    ],
)  # fmt: skip
def test_what_is_no_truss_is_refused(span: float, rise: float, apex: float, bottom: float, words: str) -> None:
    with pytest.raises(ValueError, match=words):
        truss_of("Howe", span, rise, apex, bottom)


def test_a_tie_half_way_up_is_pulled_twice_as_hard() -> None:
    # w L² / 8 h at the plates: 30 psf, 24 ft, 8 ft: 270 lb a foot; twice that half way up.
    assert tie_force(30.0, 24.0, 8.0) == pytest.approx(270.0)
    assert tie_force(30.0, 24.0, 8.0, 4.0) == pytest.approx(540.0)
    with pytest.raises(ValueError, match="set it lower"):
        tie_force(30.0, 24.0, 8.0, 8.0)
