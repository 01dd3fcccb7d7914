"""Crossed bridging between joists: IRC 2021 R502.7.1."""

from itertools import pairwise

import ifcopenshell
import pytest
from msgspec.structs import replace

from balken.drawing.plan import plan
from balken.drawing.tiers import tiers
from balken.exchange.ifc_out import structure_ifc
from balken.fit.findings import findings
from balken.framing import kinds
from balken.framing.floors.bridging import places_along
from balken.framing.member import Member, apart
from balken.model.edits import set_floor
from balken.model.edits.floors import build_floor_otherwise
from balken.model.project import Project
from balken.takeoff.cutting import cutting_list
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from buildings import house


def with_joists(section: str, *, bridging: str = "none", width: float = 30 * FOOT) -> Project:
    """A house whose first floor has joists of a section at 16 in."""
    project = set_floor(house(width, 20 * FOOT, 1), "F1", section=section, spacing=16 * INCH)
    return build_floor_otherwise(project, "F1", bridging=bridging)


def told(checked: Checked) -> list[str]:
    return [f.text for f in findings(checked) if "R502.7.1" in f.text]


def pieces(checked: Checked) -> list[Member]:
    return checked.structure.of(kinds.BRIDGING)


def test_rows_lie_evenly_and_no_more_than_8_ft_apart() -> None:
    checked = work_out(with_joists("2x14", bridging="crossed"))
    spans = 0
    for m in checked.structure.of(kinds.JOIST):
        rests = [s.at for s in apart(m.carrier.supports)]
        stops = sorted([*rests, *places_along(m)])
        assert all(b - a <= 8 * FOOT + 1e-6 for a, b in pairwise(stops))
        spans += len(rests) > 1 and rests[-1] - rests[0] > 8 * FOOT
    assert spans > 10
    assert len(pieces(checked)) > 2 * spans / 2


def test_a_pair_fills_the_gap_and_crosses_in_its_middle() -> None:
    checked = work_out(with_joists("2x14", bridging="crossed"))
    by_pair: dict[str, list[Member]] = {}
    for m in pieces(checked):
        by_pair.setdefault(str(m.id)[:-1], []).append(m)
    joist = checked.structure.of(kinds.JOIST)[0]
    low, high = joist.solid.bounds()
    for pair in by_pair.values():
        rising, falling = sorted(pair, key=lambda m: -m.slope)
        assert rising.slope == pytest.approx(-falling.slope)
        assert rising.solid.top() == pytest.approx(high[2])
        assert rising.solid.bounds()[0][2] == pytest.approx(low[2])
        # 16 in from middle to middle less the joist's own 1½; 2½ in measured square to its slope
        assert rising.run <= 16 * INCH - 1.5 * INCH + 1e-6
        assert rising.solid.volume == pytest.approx(rising.length * 2.5 * 0.75 * INCH**2, rel=1e-6)
        assert rising.length <= rising.blank + 1e-6
    assert all(len(pair) == 2 for pair in by_pair.values())


@pytest.mark.parametrize(("section", "asked"), [("2x12", False), ("2x14", True), ("2x10", False)])
def test_it_is_asked_for_where_joists_are_deeper_than_2x12(section: str, asked: bool) -> None:
    """R502.7.1: joists exceeding a nominal 2 by 12; just at it nothing is asked."""
    assert bool(told(work_out(with_joists(section)))) == asked


def test_bridging_answers_and_so_do_blocks_near_enough() -> None:
    assert not told(work_out(with_joists("2x14", bridging="crossed")))
    wide = with_joists("2x14")
    blocked = build_floor_otherwise(wide, "F1", blocking="bearings and middle")
    span = max(m.length for m in work_out(wide).structure.of(kinds.JOIST))
    assert bool(told(work_out(blocked))) == (span / 2 > 8 * FOOT)


def test_a_span_of_8_ft_needs_none() -> None:
    short = set_floor(house(30 * FOOT, 8 * FOOT, 1), "F1", section="2x14", spacing=16 * INCH)
    assert not told(work_out(short))


def test_the_eurocodes_do_not_ask_it() -> None:
    assert not told(work_out(replace(with_joists("2x14"), code="eu")))


def test_the_mend_puts_it_in_and_only_there() -> None:
    project = with_joists("2x14")
    (finding,) = [f for f in findings(work_out(project)) if "R502.7.1" in f.text]
    assert finding.mend is not None
    mended = finding.mend.apply(project)
    after = work_out(mended)
    assert not told(after)
    assert {m.host.key for m in pieces(after)} == {"F1"}


def test_it_is_counted_drawn_and_written() -> None:
    checked = work_out(with_joists("2x14", bridging="crossed"))
    mine = pieces(checked)
    lines = [line for line in cutting_list(checked) if line.role == "bridging"]
    assert sum(line.count for line in lines) == len(mine)
    assert {line.section for line in lines} == {"1x3"}
    floor = next(t for t in tiers(checked) if t.kind == "floor")
    drawn = {mark.key for mark in plan(checked, floor) if getattr(mark, "key", None)}
    assert {m.id for m in mine} <= drawn
    written = [
        p
        for p in ifcopenshell.file.from_string(structure_ifc(checked)).by_type("IfcMember")
        if p.Name == mine[0].mark
    ]
    assert [p.PredefinedType for p in written] == ["BRACE"]


def test_metric_boards_are_19_by_64() -> None:
    from test_nothing_silent import ORDINARY

    two = next(make for make in ORDINARY if make.__name__ == "two_storeys")()
    checked = work_out(build_floor_otherwise(two, "F1", bridging="crossed"))
    assert {m.section for m in pieces(checked)} == {"19x64"}


def test_no_bay_is_left_out_beside_the_joist_on_the_wall() -> None:
    """The end joist lies on its wall all along, and still holds the one beside it."""
    checked = work_out(with_joists("2x14", bridging="crossed"))
    low = min(m.solid.bounds()[0][0] for m in checked.structure.of(kinds.JOIST))
    high = max(m.solid.bounds()[1][0] for m in checked.structure.of(kinds.JOIST))
    for row in {round(m.start[1], -2) for m in pieces(checked)}:
        mine = [m for m in pieces(checked) if round(m.start[1], -2) == row]
        spans = sorted((min(m.start[0], m.end[0]), max(m.start[0], m.end[0])) for m in mine)
        assert spans[0][0] - low < 2 * INCH
        assert high - max(b for _, b in spans) < 2 * INCH
        assert all(c - b < 2 * INCH for (_, b), (c, _) in pairwise(spans))
