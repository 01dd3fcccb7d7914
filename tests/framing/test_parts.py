"""Members in parts: what an edit does not touch is the very same object, and what follows from it
is asked for once."""

import pytest

from balken.framing import kinds
from balken.framing.floors.bands import ROWS, in_bands
from balken.framing.layout import Layout, rows
from balken.framing.member import Part
from balken.framing.pieces import near_spots
from balken.loads.handing import handed_on
from balken.model.cases import Cases
from balken.model.edits import change_member, set_floor
from balken.model.edits.floors import add_opening
from balken.model.project import Project
from balken.recall import Recall
from balken.works.building import Checked, work_out
from buildings import two_storeys as house
from named import the


def bands(checked: Checked) -> list[Part]:
    return [
        p
        for p in checked.structure.parts
        if p.members and p.members[0].host == the("floor:F2") and p.members[0].kind is kinds.JOIST
    ]


def wide(joists: float = 150.0) -> Project:
    """A house whose Floor 2 has several bands of joists."""
    return set_floor(house(), "F2", spacing=joists)


def test_rows_at_one_place_stay_in_one_band_and_none_is_lost() -> None:
    ring = ((0.0, 0.0), (9000.0, 0.0), (9000.0, 4800.0), (0.0, 4800.0))
    hole = ((3000.0, 1000.0), (3000.0, 3000.0), (5000.0, 3000.0), (5000.0, 1000.0))
    layout = Layout(38.0, 150.0)
    found = in_bands((ring, hole), layout, (), frozenset())
    assert [row for band in found for row in band] == rows((ring, hole), layout, {}, frozenset())
    assert all(len(band) >= ROWS for band in found[:-1])
    ends = [band[-1].x for band in found[:-1]]
    assert all(next_.x > end for end, (next_, *_) in zip(ends, found[1:])), (
        "a row cut by the opening is not torn apart"
    )


def test_a_joist_changed_by_hand_re_makes_its_band_alone() -> None:
    project, recall = wide(), Recall()
    before = bands(work_out(project, recall))
    assert len(before) > 2
    joist = before[1].members[5].id
    after = bands(work_out(change_member(project, joist, along=40.0), recall))
    assert [a is b for a, b in zip(before, after)] == [i != 1 for i in range(len(before))]


def test_an_opening_re_makes_the_bands_it_lies_in() -> None:
    project, recall = wide(), Recall()
    before = work_out(project, recall)
    cut, _ = add_opening(project, "F2", "shaft", at=(8300.0, 2400.0), size=(500.0, 500.0))
    after = work_out(cut, recall)
    first, *_, last = bands(before)
    assert {m.id for m in first.members} == {m.id for m in bands(after)[0].members}
    assert {m.id for m in last.members} != {m.id for m in bands(after)[-1].members}
    assert len(after.structure.of(kinds.HEADER)) == 2


def test_members_by_kind_are_all_of_them_once() -> None:
    structure = work_out(house()).structure
    there = dict.fromkeys(m.kind for m in structure.members)
    assert sorted(m.id for m in structure.of(*there)) == sorted(m.id for m in structure.members)
    assert structure.of(kinds.JOIST) == [m for m in structure.members if m.kind is kinds.JOIST]
    assert structure.of(kinds.BEAM, kinds.POST) == []


def test_what_a_band_hands_on_is_its_area_times_the_load() -> None:
    (band, *_) = bands(work_out(wide()))
    area = Cases(0.0006, 0.0019)
    handed = handed_on(band, area)
    assert handed.plain
    for case in (0, 1):
        total = sum(list(p.forces)[case] for _, parcels in handed.onto for p in parcels)
        assert total == pytest.approx(list(area)[case] * sum(m.carrier.area for m in band.members))
    assert {p.source for _, parcels in handed.onto for p in parcels} == handed.names
    assert handed.ends == ()


def test_a_band_with_a_hung_tail_is_not_handed_on_as_one() -> None:
    cut, _ = add_opening(wide(), "F2", "shaft", at=(1200.0, 2400.0), size=(500.0, 500.0))
    checked = work_out(cut)
    hung = [
        p
        for p in checked.structure.parts
        if any(s.hung for m in p.members if m.kind is kinds.JOIST for s in m.carrier.supports)
    ]
    assert hung
    assert not any(handed_on(p, Cases(0.001)).plain for p in hung)


def test_what_lies_near_a_place_is_found_in_any_height() -> None:
    footings = work_out(house()).structure.of(kinds.FOOTING)
    assert footings
    corners = [m.solid.plan()[0] for m in footings]
    near = near_spots([(x - 20.0, y - 20.0) for x, y in corners], footings, 30.0)
    assert all(m in here for m, here in zip(footings, near)), "28 mm off the corner"
    assert near_spots([(1e6, 1e6)], footings, 30.0) == [[]]
    assert near_spots([], footings, 30.0) == []
