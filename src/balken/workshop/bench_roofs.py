"""The bench of roofs: planes over an outline of a hundred sides, a thousand trusses against
PyNiteFEA, a pitch dragged."""

import math
import random
from collections.abc import Callable

import numpy as np

from balken.design.truss_forces import ChordLoads, chord_forces
from balken.framing import kinds
from balken.framing.trusses.shapes import Truss, truss_of
from balken.geometry.plane import Ring
from balken.geometry.roof_front import Side
from balken.geometry.roof_planes import roof_planes

Timing = tuple[float, float, float]
TRUSSES = 1000
SAMPLE = 2
"""So many of them are put to the other library; its time is taken as if it had all."""
CASES = (
    ChordLoads(1.0, 1.0, 0.3),
    ChordLoads(bottom=0.5),
    ChordLoads(1.2, 1.2),
    ChordLoads(2.0, 2.0),
    ChordLoads(1.5, 0.5),
    ChordLoads(-1.4, -0.8),
)
"""Dead, attic, roof live, snow, unbalanced snow, uplift."""
COMBINATIONS = (
    (1, 0, 0, 0, 0, 0),
    (1, 1, 0, 0, 0, 0),
    (1, 0, 1, 0, 0, 0),
    (1, 0, 0, 1, 0, 0),
    (1, 0, 0, 0, 1, 0),
    (1, 0.75, 0.75, 0, 0, 0),
    (1, 0.75, 0, 0.75, 0, 0),
    (0.6, 0, 0, 0, 0, 1),
)


def hundred_sides() -> Ring:
    """A jagged outline round a middle."""
    chance = random.Random(1)
    reach = [9000 + chance.uniform(-2500, 2500) for _ in range(100)]
    return tuple(
        (r * math.cos(2 * math.pi * k / 100), r * math.sin(2 * math.pi * k / 100))
        for k, r in enumerate(reach)
    )


def planes(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare a hundred contours of a roof by mitred offsets with the roof itself."""
    from shapely import Polygon

    ring = hundred_sides()
    shape = Polygon(ring)
    roof = roof_planes([ring], [[Side(0.5)] * 100])
    heights = [roof.top * k / 100 for k in range(1, 100)]

    def contours() -> None:
        for z in heights:
            shape.buffer(-z / 0.5, join_style="mitre", mitre_limit=1e6)

    return compare(contours, lambda: roof_planes([ring], [[Side(0.5)] * 100]), rounds)


def trusses(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare PyNiteFEA with the batch on a thousand trusses under eight combinations."""
    many = [truss_of("Fink", 6000.0 + 6 * k, 1500.0 + k) for k in range(TRUSSES)]
    pieces = len(many[0].pieces)
    ea, ei = np.full((TRUSSES, pieces), 5e7), np.full((TRUSSES, pieces), 1e11)
    factors = np.array(COMBINATIONS)

    def batch() -> None:
        found = chord_forces(many, ea, ei, CASES)
        for values in (found.axial, found.moment, found.sag, found.reactions):
            np.tensordot(factors, values, 1)

    whole, own, ratio = compare(
        lambda: [_by_others(t) for t in many[:SAMPLE]], batch, max(1, rounds // 3)
    )
    return whole * TRUSSES / SAMPLE, own, ratio * TRUSSES / SAMPLE


def _by_others(truss: Truss) -> float:
    """Solve one truss with PyNiteFEA; return its greatest axial force."""
    from Pynite import FEModel3D

    model = FEModel3D()
    model.add_material("m", 1.0, 1.0, 0.3, 0.0)
    model.add_section("s", 5e7, 1e11, 1e11, 1e15)
    apex = max(truss.joints, key=lambda p: p[1])
    heels = {truss.joints[i] for i in truss.bearings}
    for i, (x, y) in enumerate(truss.joints):
        model.add_node(f"N{i}", x, y, 0)
        model.def_support(
            f"N{i}",
            i == truss.bearings[0],
            i in truss.bearings,
            True,
            True,
            True,
            (x, y) in heels | {apex},
        )
    for m, piece in enumerate(truss.pieces):
        model.add_member(f"M{m}", f"N{piece.start}", f"N{piece.end}", "m", "s")
        a, b = truss.joints[piece.start], truss.joints[piece.end]
        breaks = heels | {apex} if piece.kind is kinds.TOP_CHORD else heels
        web = piece.kind is kinds.WEB
        model.def_releases(f"M{m}", Rzi=web or a in breaks, Rzj=web or b in breaks)
        for c, case in enumerate(CASES):
            q = {"web": 0.0, "bottom chord": case.bottom}.get(
                piece.role, case.left if (a[0] + b[0]) / 2 < apex[0] else case.right
            )
            if q:
                w = -q * abs(b[0] - a[0]) / math.dist(a, b)
                model.add_member_dist_load(f"M{m}", "FY", w, w, case=str(c))
    for k, factors in enumerate(COMBINATIONS):
        model.add_load_combo(f"K{k}", {str(c): f for c, f in enumerate(factors) if f})
    model.analyze_linear()
    forces = [
        member.axial(0.0, f"K{k}")
        for member in model.members.values()
        for k in range(len(COMBINATIONS))
    ]
    return float(max(map(abs, forces)))


def pitch(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare the bakehouse from nothing with one step of a drag of its main roof's pitch: roofs,
    gables, loads, checks."""
    from balken.model.edits.roofs import set_roof
    from balken.recall import Recall
    from balken.session.demo import shown_demo
    from balken.works.building import work_out

    project, recall = shown_demo(), Recall()
    work_out(project, recall)
    at = iter(6.0 + 0.01 * k for k in range(1, 100_000))

    def step() -> None:
        work_out(set_roof(project, "R1", rise=next(at)), recall)

    return compare(lambda: work_out(project), step, rounds)
