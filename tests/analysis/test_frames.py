"""Plane frames and trusses, against closed forms and PyNiteFEA."""

import random

import numpy as np
import pytest
from Pynite import FEModel3D

from balken.analysis.beams import UnstableError
from balken.analysis.frames import Form, Frames, solve_frames

PIN, ROLL, FREE, FIX = (
    (True, True, False),
    (False, True, False),
    (False, False, False),
    (True, True, True),
)
RIGID, HINGED = (False, False), (True, True)


def batch(
    form: Form, nodes: list[list[tuple[float, float]]], on_nodes: object, on_members: object
) -> Frames:
    shape = (len(nodes), len(form.members))
    loads = np.broadcast_to(np.array(on_members, dtype=float), (1, *shape, 2, 2))
    forces = np.broadcast_to(np.array(on_nodes, dtype=float), (1, len(nodes), len(form.held), 3))
    return Frames(
        form,
        np.array(nodes, dtype=float),
        np.full(shape, 2.0e9),
        np.full(shape, 3.0e13),
        forces,
        loads,
    )


def test_a_king_post_by_the_method_of_joints() -> None:
    # Half span 3 m, rise 2 m, 10 kN on the ridge: rafters -P/2 / sin, tie P/2 cot, king post
    # nothing.
    form = Form(((0, 1), (1, 2), (0, 3), (3, 2), (1, 3)), (HINGED,) * 5, (PIN, FREE, ROLL, FREE))
    frames = batch(
        form,
        [[(0, 0), (3000, 2000), (6000, 0), (3000, 0)]],
        [[0, 0, 0], [0, -10e3, 0], [0, 0, 0], [0, 0, 0]],
        0.0,
    )
    bent = solve_frames(frames)
    pulled = bent.ends[0, 0, :, 3]
    rafter, tie = -5e3 * 13**0.5 / 2, 5e3 * 1.5
    assert pulled.tolist() == pytest.approx([rafter, rafter, tie, tie, 0.0], abs=1e-6)
    assert bent.reactions[0, 0, :, 1].tolist() == pytest.approx([5e3, 0.0, 5e3, 0.0], abs=1e-6)


def test_a_portal_frame_sways() -> None:
    # Two-hinged portal under a side force: each foot H/2, uplift and push H h / l (antisymmetry).
    form = Form(((0, 1), (1, 2), (2, 3)), (RIGID,) * 3, (PIN, FREE, FREE, PIN))
    nodes = [[(0, 0), (0, 3000), (5000, 3000), (5000, 0)]]
    frames = batch(form, nodes, [[0, 0, 0], [4e3, 0, 0], [4e3, 0, 0], [0, 0, 0]], 0.0)
    bent = solve_frames(frames)
    assert bent.reactions[0, 0, 0, 0] == pytest.approx(-4e3)
    assert bent.reactions[0, 0, :, 1].tolist() == pytest.approx(
        [-8e3 * 3 / 5, 0, 0, 8e3 * 3 / 5], abs=1e-6
    )


@pytest.mark.parametrize(
    ("pinned", "held"),
    [((HINGED,) * 3, (PIN, FREE, FREE, PIN)), ((RIGID,) * 3, (ROLL, FREE, FREE, ROLL))],
)
def test_what_cannot_stand_is_refused(
    pinned: tuple[tuple[bool, bool], ...], held: tuple[tuple[bool, bool, bool], ...]
) -> None:
    form = Form(((0, 1), (1, 2), (2, 3)), pinned, held)
    with pytest.raises(UnstableError, match="too few supports or members"):
        solve_frames(
            batch(form, [[(0, 0), (0, 3000), (5000, 3000), (5000, 0)]], np.zeros((4, 3)), 0.0)
        )


def test_uneven_frames_agree_with_pynite() -> None:
    dice = random.Random(4)
    form = Form(
        ((0, 1), (1, 2), (2, 3), (3, 4), (1, 3)),
        (RIGID, (False, True), RIGID, RIGID, HINGED),
        (FIX, FREE, FREE, FREE, PIN),
    )
    nodes = [
        [
            (0, 0),
            (dice.uniform(-200, 200), 3000),
            (dice.uniform(2000, 3500), 4800),
            (6000, dice.uniform(2500, 3300)),
            (6200, 0),
        ]
        for _ in range(5)
    ]
    on_nodes = [
        [dice.uniform(-5e3, 5e3), dice.uniform(-9e3, 0), dice.uniform(-1e6, 1e6)] for _ in range(5)
    ]
    on_members = [[[dice.uniform(-2, 2), dice.uniform(-6, 0)] for _ in range(2)] for _ in range(5)]
    frames = batch(form, nodes, on_nodes, [on_members])
    bent = solve_frames(frames)
    for f, places in enumerate(nodes):
        model = FEModel3D()
        model.add_material("m", 1.0, 1.0, 0.3, 0.0)
        model.add_section("s", 2.0e9, 3.0e13, 3.0e13, 1e15)
        for i, (x, y) in enumerate(places):
            model.add_node(f"N{i}", x, y, 0)
            hx, hy, hz = form.held[i]
            model.def_support(f"N{i}", hx, hy, True, True, True, hz)
            for way, value in zip(("FX", "FY", "MZ"), on_nodes[i]):
                model.add_node_load(f"N{i}", way, value)
        for m, ((a, b), (pin_a, pin_b)) in enumerate(zip(form.members, form.pinned)):
            model.add_member(f"M{m}", f"N{a}", f"N{b}", "m", "s")
            model.def_releases(f"M{m}", Rzi=pin_a, Rzj=pin_b)
            (ax, ay), (bx, by) = on_members[m]
            model.add_member_dist_load(f"M{m}", "FX", ax, bx)
            model.add_member_dist_load(f"M{m}", "FY", ay, by)
        model.analyze_linear()
        for i in range(5):
            theirs = model.nodes[f"N{i}"]
            for k, way in enumerate(("RxnFX", "RxnFY", "RxnMZ")):
                value = next(iter(getattr(theirs, way).values()))
                assert bent.reactions[0, f, i, k] == pytest.approx(
                    value, abs=1e-9 * (1e9 if k == 2 else 1e5)
                )
            assert bent.moved[0, f, i, 1] == pytest.approx(
                next(iter(theirs.DY.values())), rel=1e-9, abs=1e-9
            )
