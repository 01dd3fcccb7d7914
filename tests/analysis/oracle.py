"""The same beams and frames put to PyNiteFEA, an independent finite-element library."""

from itertools import pairwise

from Pynite import FEModel3D

from balken.analysis.one_beam import Beam

BIG = 1e9


def model_of(beam: Beam, case: int) -> tuple[FEModel3D, list[float]]:
    """Return a model of one beam (x along, y up) with nodes at rests, hinges and ends, analysed for
    one case."""
    model = FEModel3D()
    model.add_material("m", 1.0, 1.0, 0.3, 0.0)
    model.add_section("s", BIG, beam.ei, beam.ei, BIG)
    places = sorted({0.0, beam.length, *(r.at for r in beam.rests), *beam.hinges})
    for i, x in enumerate(places):
        model.add_node(f"N{i}", x, 0, 0)
    for i in range(len(places) - 1):
        model.add_member(f"M{i}", f"N{i}", f"N{i + 1}", "m", "s")
        if places[i] in beam.hinges:
            model.def_releases(f"M{i}", Rzi=True)
    for i, x in enumerate(places):
        rest = next((r for r in beam.rests if r.at == x), None)
        hold = rest.hold if rest else "free"
        model.def_support(f"N{i}", i == 0, hold != "free", True, True, True, hold == "fix")
        if rest and rest.settled and rest.settled_case == case:
            model.def_node_disp(f"N{i}", "DY", -rest.settled)
    for line in beam.lines:
        if line.case != case:
            continue
        for i, (a, b) in enumerate(pairwise(places)):
            low, high = max(a, line.low), min(b, line.high)
            if high > low:
                grow = (line.at_high - line.at_low) / (line.high - line.low)
                w = [-(line.at_low + grow * (x - line.low)) for x in (low, high)]
                model.add_member_dist_load(f"M{i}", "Fy", w[0], w[1], low - a, high - a)
    for point in beam.forces():
        if point.case == case:
            i = max(k for k, x in enumerate(places[:-1]) if x <= point.at)
            if point.force:
                model.add_member_pt_load(f"M{i}", "Fy", -point.force, point.at - places[i])
            if point.moment:
                model.add_member_pt_load(f"M{i}", "Mz", -point.moment, point.at - places[i])
    model.analyze_linear()
    return model, places
