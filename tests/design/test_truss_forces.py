"""Truss shapes and their pinned forces, by the method of joints; the push of rafters against their
tie."""

import math
import random
from collections.abc import Callable, Sequence

import numpy as np
import pytest
from Pynite import FEModel3D

from balken.design.truss_forces import (
    ChordLoads,
    TrussForces,
    chord_forces,
    pinned_forces,
    tie_force,
)
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.trusses.lines import Asked, Cut, Profile, truss_under
from balken.framing.trusses.shapes import KINDS, Kind, Piece, Truss, truss_of


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


STIFF = [k for k in KINDS if k != "attic"]
"""An attic truss is stiff by its chords, not by triangles."""


@pytest.mark.parametrize("kind", STIFF)
def test_every_shape_is_just_stiff(kind: Kind) -> None:
    truss = truss_of(kind, 7200.0, 2078.0)
    assert (
        len(truss.pieces) == 2 * len(truss.joints) - 3
    )  # Maxwell's count of a plane truss on two bearings
    assert len(set(truss.joints)) == len(truss.joints)
    assert max(y for _, y in truss.joints) == pytest.approx(2078.0)
    assert {truss.joints[i] for i in truss.bearings} == {(0.0, 0.0), (7200.0, 0.0)}


@pytest.mark.parametrize("kind", STIFF)
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
        assert reactions[1] * truss.joints[truss.bearings[1]][0] == pytest.approx(
            moment, rel=1e-9, abs=1.0
        )
        for i, load in enumerate(loads):
            x, y = pulls(truss, i, forces)
            up = dict(zip(truss.bearings, reactions)).get(i, 0.0)
            assert x == pytest.approx(0.0, abs=1e-6 * 5000)
            assert y + up - load == pytest.approx(0.0, abs=1e-6 * 5000)


def test_a_fink_under_even_loads_by_sections() -> None:
    # 12 m, rise 3 m, 5 kN at the three inner joints of the top chord. Cut through the middle: T = M
    # / h at the apex.
    truss = truss_of("Fink", 12000.0, 3000.0)
    tops = [p.end for p in truss.chord(kinds.TOP_CHORD)][:-1]
    down = [5e3 if i in tops else 0.0 for i in range(len(truss.joints))]
    forces = dict(zip(truss.pieces, pinned_forces([truss], [down]).pieces[0]))
    middle = truss.chord(kinds.BOTTOM_CHORD)[1]
    assert forces[middle] == pytest.approx((7.5e3 * 6000 - 5e3 * 3000) / 3000)
    outer = truss.chord(kinds.TOP_CHORD)[0]
    assert forces[outer] == pytest.approx(-7.5e3 / math.sin(math.atan(0.5)))


def test_scissors_pull_harder_than_a_level_tie() -> None:
    level, scissors = (
        truss_of("king post", 8000.0, 2400.0),
        truss_of("king post", 8000.0, 2400.0, bottom_rise=800.0),
    )
    down = [[0.0, 8e3, 0.0, 0.0]] * 2
    found = pinned_forces([level, scissors], down).pieces
    tie = level.pieces.index(level.chord(kinds.BOTTOM_CHORD)[0])
    # About the apex: the lever of the bottom chord is 2400 of a level tie; of scissors the distance
    # of the apex from it.
    assert found[0, tie] == pytest.approx(4e3 * 4000 / 2400)
    lever = (2400 - 800) * math.cos(math.atan(800 / 4000))
    assert found[1, tie] == pytest.approx(4e3 * 4000 / lever)


@pytest.mark.parametrize(
    ("span", "rise", "apex", "bottom", "words"),
    [
        (0.0, 2000.0, 0.5, 0.0, "no shape"),
        (8000.0, 0.0, 0.5, 0.0, "no shape"),
        (8000.0, 2000.0, 0.0, 0.0, "between 0.05"),
        (8000.0, 2000.0, 0.5, 1900.0, "leaves no depth"),
    ],
)
def test_what_is_no_truss_is_refused(
    span: float, rise: float, apex: float, bottom: float, words: str
) -> None:
    with pytest.raises(BalkenError, match=words):
        truss_of("Howe", span, rise, apex, bottom)


def test_a_tie_half_way_up_is_pulled_twice_as_hard() -> None:
    # w L² / 8 h at the plates: 30 psf, 24 ft, 8 ft: 270 lb a foot; twice that half way up.
    assert tie_force(30.0, 24.0, 8.0) == pytest.approx(270.0)
    assert tie_force(30.0, 24.0, 8.0, 4.0) == pytest.approx(540.0)
    with pytest.raises(BalkenError, match="set it lower"):
        tie_force(30.0, 24.0, 8.0, 8.0)


@pytest.mark.parametrize("kind", ["Fink", "Howe", "king post with struts", "double Fink", "mono"])
def test_continuous_chords_agree_with_pynite(kind: Kind) -> None:
    # Oracle: PyNiteFEA, the same truss with the same releases.
    chance = random.Random(kind)
    truss = truss_of(kind, 8400.0, 2600.0, 0.45, 300.0)
    pieces = len(truss.pieces)
    ea = np.array([[chance.uniform(3e7, 9e7) for _ in range(pieces)]])
    ei = np.array([[chance.uniform(2e10, 2e11) for _ in range(pieces)]])
    case = ChordLoads(1.8, 0.7, 0.4)
    found = chord_forces([truss], ea, ei, [ChordLoads(), case])
    assert np.abs(found.axial[0]).max() == 0.0
    agrees(truss, ea[0], ei[0], case, found, 1, _hinged)


def agrees(
    truss: Truss,
    ea: np.ndarray,
    ei: np.ndarray,
    case: ChordLoads,
    found: TrussForces,
    k: int,  # type: ignore[type-arg]
    hinged: Callable[[Truss, Piece, int], bool],
) -> None:
    """Hold case ``k`` against PyNiteFEA: axial forces, moments and how far the joints move."""
    model = FEModel3D()
    model.add_material("m", 1.0, 1.0, 0.3, 0.0)
    for i, (x, y) in enumerate(truss.joints):
        model.add_node(f"N{i}", x, y, 0)
        mine = [p for p in truss.pieces if i in (p.start, p.end)]
        loose = all(hinged(truss, p, i) for p in mine)
        model.def_support(
            f"N{i}", i == truss.bearings[0], i in truss.bearings, True, True, True, loose
        )
    apex_x = max(truss.joints, key=lambda p: p[1])[0]
    for m, piece in enumerate(truss.pieces):
        model.add_section(f"s{m}", ea[m], ei[m], ei[m], 1e15)
        model.add_member(f"M{m}", f"N{piece.start}", f"N{piece.end}", "m", f"s{m}")
        model.def_releases(
            f"M{m}", Rzi=hinged(truss, piece, piece.start), Rzj=hinged(truss, piece, piece.end)
        )
        (ax, ay), (bx, by) = truss.joints[piece.start], truss.joints[piece.end]
        top = case.left if (ax + bx) / 2 < apex_x else case.right
        down = {"web": 0.0, "bottom chord": case.bottom, "top chord": top}
        w = -down[piece.role] * abs(bx - ax) / math.hypot(bx - ax, by - ay)
        model.add_member_dist_load(f"M{m}", "FY", w, w)
    model.analyze_linear()
    for m in range(len(truss.pieces)):
        theirs = model.members[f"M{m}"]
        far = theirs.L()
        pull = [-theirs.axial(x) for x in (0.0, far)]
        assert found.axial[k, 0, m].tolist() == pytest.approx(pull, rel=1e-9, abs=1e-3), m
        assert abs(found.moment[k, 0, m, 0]) == pytest.approx(
            abs(theirs.moment("Mz", 0.0)), rel=1e-9, abs=1.0
        ), m
        most = max(abs(theirs.max_moment("Mz")), abs(theirs.min_moment("Mz")))
        assert np.abs(found.moment[k, 0, m]).max() == pytest.approx(most, rel=2e-3, abs=10.0), m
    for i in range(len(truss.joints)):
        assert found.sag[k, 0, i] == pytest.approx(
            -model.nodes[f"N{i}"].DY["Combo 1"], rel=1e-9, abs=1e-9
        )


HEEL = 106.0
LINES = {
    "overhangs": (((-600.0, HEEL - 300), (3600.0, HEEL + 1800), (7800.0, HEEL - 300)), "Fink"),
    "raised heel": (((-600.0, 200.0), (3600.0, 2300.0), (7800.0, 200.0)), "Howe"),
    "step-down": (
        ((-600.0, HEEL - 300), (2400.0, HEEL + 1200), (4800.0, HEEL + 1200), (7800.0, HEEL - 300)),
        "Fink",
    ),
    "room in the roof": (
        ((-600.0, HEEL - 600), (3600.0, HEEL + 3600), (7800.0, HEEL - 600)),
        "attic",
    ),
    "unequal": (((-500.0, HEEL - 400), (2000.0, HEEL + 1600), (7700.0, HEEL - 225)), "king post"),
}


@pytest.mark.parametrize("name", LINES)
def test_trusses_under_a_roof_agree_with_pynite(name: str) -> None:
    """With tails that run on over the bearings, chords that are cut where they bend, heels on
    posts."""
    points, kind = LINES[name]
    agrees_under_a_roof(truss_under(Profile(points, 7200.0), kind, Cut(88.9, 88.9, 88.9)), points)


ASKED = {
    "bearings inside": (Asked(bears=(950.0, 6500.0)), None),
    "one bearing inside": (Asked(bears=(45.0, 5900.0)), None),
    "top chord bearing": (Asked(bears=(45.0, 7155.0)), 400.0),
    "panels by count": (Asked(panels=3, bears=(45.0, 7155.0)), None),
    "joints moved": (Asked(moved=((2, 250.0), (6, -300.0))), None),
}


@pytest.mark.parametrize("name", ASKED)
@pytest.mark.parametrize("kind", ["Fink", "Howe", "queen post"])
def test_trusses_that_bear_elsewhere_agree_with_pynite(name: str, kind: str) -> None:
    """On bearings under a panel of the bottom chord, on the top chord, with panels that are not the
    shape's."""
    asked, hang = ASKED[name]
    points = LINES["overhangs"][0]
    truss = truss_under(Profile(points, 7200.0, hang=hang), kind, Cut(88.9, 88.9, 88.9), 0.0, asked)
    if asked.bears:
        heels = {truss.chord(kinds.BOTTOM_CHORD)[0].start, truss.chord(kinds.BOTTOM_CHORD)[-1].end}
        for end, at in enumerate(asked.bears):
            here = truss.bearings[end]
            assert here in heels or truss.joints[here][0] == pytest.approx(at)
    agrees_under_a_roof(truss, points)


def agrees_under_a_roof(truss: Truss, points: Sequence[tuple[float, float]]) -> None:
    size = (1, len(truss.pieces))
    ea, ei = np.full(size, 3.7e7), np.full(size, 2.4e10)
    case = ChordLoads(1.6, 0.9, 0.5)
    found = chord_forces([truss], ea, ei, [case])
    agrees(truss, ea[0], ei[0], case, found, 0, _cut_there)
    low, high = points[0][0], points[-1][0]
    apex = truss.joints[truss.apex][0]
    low_chord = truss.chord(kinds.BOTTOM_CHORD)
    feet = [truss.joints[low_chord[0].start][0], truss.joints[low_chord[-1].end][0]]
    whole = 1.6 * (apex - low) + 0.9 * (high - apex) + 0.5 * (feet[1] - feet[0])
    assert found.reactions[0, 0].sum() == pytest.approx(whole, rel=0.2), (
        "the steps of a flat top count as a whole"
    )


def _cut_there(truss: Truss, piece: Piece, joint: int) -> bool:
    """Tell whether a piece is hinged at a joint: webs, chords at their own ends and where they
    bend; not where a tail runs on."""
    if piece.kind is kinds.WEB:
        return True
    mine = [p for p in truss.chord(piece.kind) if joint in (p.start, p.end)]
    if len(mine) == 2:
        ways = [np.subtract(truss.joints[p.end], truss.joints[p.start]) for p in mine]
        return abs(float(np.cross(np.append(ways[0], 0), np.append(ways[1], 0))[2])) > 1.0
    x = truss.joints[joint][0]
    return (
        piece.kind is kinds.BOTTOM_CHORD
        or truss.joints[truss.bearings[0]][0] - 1 <= x <= truss.joints[truss.bearings[1]][0] + 1
    )


def _hinged(truss: Truss, piece: Piece, joint: int) -> bool:
    apex = max(range(len(truss.joints)), key=lambda i: truss.joints[i][1])
    ends = {
        truss.chord(kinds.TOP_CHORD)[0].start,
        truss.chord(kinds.TOP_CHORD)[-1].end,
        *truss.bearings,
    }
    return (
        piece.kind is kinds.WEB
        or joint in ends
        or (piece.kind is kinds.TOP_CHORD and joint == apex)
    )


def test_a_thousand_trusses_are_solved_as_each_alone() -> None:
    trusses = [truss_of("Fink", 6000.0 + 6 * k, 1500.0 + k) for k in range(1000)]
    shape = (1000, len(trusses[0].pieces))
    ea, ei = np.full(shape, 5e7), np.full(shape, 1e11)
    cases = [ChordLoads(1.0, 1.0, 0.3), ChordLoads(1.5, 0.0), ChordLoads(0.0, 1.5)]
    together = chord_forces(trusses, ea, ei, cases)
    for k in (0, 500, 999):
        alone = chord_forces([trusses[k]], ea[:1], ei[:1], cases)
        assert together.axial[:, k] == pytest.approx(alone.axial[:, 0], rel=1e-9, abs=1e-6)
    whole = sum(q.left + q.right for q in cases[:1]) / 2 * 6000.0 + 0.3 * 6000.0
    assert together.reactions[0, 0].sum() == pytest.approx(whole)
    # Snow on one side alone: the far bearing takes a quarter of it.
    assert together.reactions[1, 0].tolist() == pytest.approx(
        [1.5 * 3000 * 0.75, 1.5 * 3000 * 0.25]
    )
