"""The files for analysis elsewhere: read by a script into PyNiteFEA, an independent library, which finds the
reactions of the load path."""

import csv
import io
from collections import defaultdict

import pytest
from Pynite import FEModel3D

from balken.exchange.analysis_csv import analysis_csv
from balken.framing.member import apart
from balken.model.cases import CASE_NAMES
from balken.session.ferry_hall import ferry_hall
from balken.works.analysis_model import analysis_model
from balken.works.building import Checked, work_out

Rows = list[dict[str, str]]
Tables = dict[str, Rows]

STIFF = 1e6
"""Bars over more than two supports are made so much stiffer along than they are: in the load path they are
not squeezed."""


def read(files: dict[str, str]) -> Tables:
    return {name: list(csv.DictReader(io.StringIO(text))) for name, text in files.items()}


def by_bar(rows: Rows) -> dict[str, Rows]:
    found: dict[str, Rows] = defaultdict(list)
    for row in rows:
        found[row["bar"]].append(row)
    return found


def reactions(bar: dict[str, str], nodes: Rows, held: Rows, loads: Rows) -> list[dict[str, float]]:
    """What the supports of one bar take in each case, N up, as PyNiteFEA finds it. Its plane is turned to
    x and y."""
    model = FEModel3D()
    first, last = nodes[0], nodes[-1]
    x0, y0, z0 = (float(first[c]) for c in ("x_mm", "y_mm", "z_mm"))
    run = lambda n: ((float(n["x_mm"]) - x0) ** 2 + (float(n["y_mm"]) - y0) ** 2) ** 0.5  # noqa: E731
    for n in nodes:
        model.add_node(n["node"], run(n), float(n["z_mm"]) - z0, 0.0)
        if n not in (first, last):
            continue
        # Nothing turns about its axis or leaves its plane.
        model.def_support(n["node"], support_DZ=True, support_RX=True, support_RY=True)
    inertia, area = float(bar["I_mm4"] or 1e8), float(bar["A_mm2"] or 1e4)
    e = float(bar["E_N_mm2"] or 1e4)
    model.add_material("m", e, e, 0.3, 1e-6)
    model.add_section("s", area * (STIFF if len(held) > 2 else 1.0), inertia, inertia, inertia)
    model.add_member("b", first["node"], last["node"], "m", "s")
    for h in held:
        ends = h["node"] in (first["node"], last["node"])
        model.def_support(
            h["node"],
            support_DX=h["held_along"] == "1",
            support_DY=h["held_up"] == "1",
            support_DZ=True,
            support_RX=ends,
            support_RY=ends,
        )
    for case in CASE_NAMES:
        model.add_load_combo(case, {case: 1.0})
    for x in loads:
        low, high = float(x["from_mm"]), float(x["to_mm"])
        if x["N"]:
            model.add_member_pt_load("b", "FY", -float(x["N"]), low, case=x["case"])
        else:
            q = -float(x["N_per_mm"])
            model.add_member_dist_load("b", "FY", q, q, low, high, case=x["case"])
    model.analyze(check_statics=False)
    return [{c: model.nodes[h["node"]].RxnFY[c] for c in CASE_NAMES} for h in held]


def hold_against(checked: Checked, every: int) -> int:
    """Hold reactions of some of all bars against the load path; how many were held."""
    tables = read(analysis_csv(analysis_model(checked)))
    nodes, held, loads = (by_bar(tables[name]) for name in ("nodes", "supports", "loads"))
    members = {str(m.id): m for m in checked.structure.members}
    count = 0
    plain = [b for b in tables["bars"] if b["shared"] in ("by stiffness", "leaning")]
    many = [b for b in plain if len(held[b["bar"]]) > 2 or b["hinges"]]
    for bar in [*many, *plain[::every]]:
        name = bar["bar"]
        if bar["hinges"]:
            continue
        member = members[name]
        found = reactions(bar, nodes[name], held[name], loads[name])
        kept = [
            r
            for s, r in zip(member.carrier.supports, checked.path.reactions[member.id])
            if s in apart(member.carrier.supports)
        ]
        most = max(abs(f) for r in kept for f in r) or 1.0
        for mine, theirs in zip(kept, found):
            for case, force in zip(CASE_NAMES, mine):
                assert theirs[case] == pytest.approx(force, abs=1e-6 * most), (name, case)
        count += 1
    return count


def test_pynite_finds_the_reactions_of_the_bakehouse(demo_checked: Checked) -> None:
    assert hold_against(demo_checked, 9) > 15


def test_pynite_finds_the_reactions_of_the_ferry_hall() -> None:
    assert hold_against(work_out(ferry_hall()), 29) > 10


def test_every_bar_has_nodes_in_order_and_every_load_lies_on_its_bar(demo_checked: Checked) -> None:
    tables = read(analysis_csv(analysis_model(demo_checked)))
    nodes = by_bar(tables["nodes"])
    lengths = {}
    for bar in tables["bars"]:
        mine = nodes[bar["bar"]]
        assert [n["node"] for n in mine] == bar["nodes"].split()
        first, last = mine[0], mine[-1]
        lengths[bar["bar"]] = (
            sum((float(last[c]) - float(first[c])) ** 2 for c in ("x_mm", "y_mm", "z_mm")) ** 0.5
        )
    for load in tables["loads"]:
        assert (
            -1e-6 <= float(load["from_mm"]) <= float(load["to_mm"]) <= lengths[load["bar"]] + 1e-3
        )
        assert bool(load["N"]) != bool(load["N_per_mm"])


def test_what_is_spread_and_stands_comes_to_what_is_handed_on(demo_checked: Checked) -> None:
    """The sum of the loads on each bar is the sum of what its supports take."""
    model = analysis_model(demo_checked)
    sums: dict[object, float] = defaultdict(float)
    for x in model.loads:
        sums[x.bar] += x.amount * ((x.high - x.low) if x.low < x.high else 1.0)
    for bar in model.bars:
        if bar.sharing != "upright":
            taken = sum(f for r in demo_checked.path.reactions[bar.name] for f in r)
            assert sums[bar.name] == pytest.approx(taken, rel=1e-6, abs=1e-3), bar.name
