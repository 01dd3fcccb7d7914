"""Bars that checks chose: counts, lengths and weights by hand, masses of handbook tables, what is ordered."""

import math

import pytest
from msgspec.structs import replace

from balken.design.concrete.bars import BARS
from balken.framing import kinds
from balken.model.fasteners import Dowels, Fastener
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.bars import SOLD, BarLine, bar_plans, bars_of, bend_of
from balken.takeoff.cost import amounts_of
from balken.takeoff.fasteners import IN_BAG, fasteners_to_order
from balken.takeoff.lists import LISTS
from balken.takeoff.sheets import deck_panels
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out

GRAVITY = 9.80665


@pytest.fixture(scope="module")
def bakehouse() -> Checked:
    return work_out(shown_demo())


@pytest.fixture(scope="module")
def hall() -> Checked:
    return work_out(ferry_hall())


@pytest.mark.parametrize(
    ("system", "name", "mass"),
    # ASTM A615 table 1, lb/ft; EN 10080 table 6, kg/m (from memory).
    [
        ("us", "#4", 0.668),
        ("us", "#5", 1.043),
        ("us", "#8", 2.670),
        ("metric", "ø10", 0.617),
        ("metric", "ø16", 1.58),
        ("metric", "ø25", 3.85),
    ],
)
def test_a_bar_weighs_what_its_table_says(
    hall: Checked, system: str, name: str, mass: float
) -> None:
    bar = next(b for b in BARS[system] if b.name == name)
    per, one = (FOOT, 4.44822) if system == "us" else (1000.0, GRAVITY)
    line = BarLine(hall.structure.members[0], bar, "straight", 1, per)
    assert line.weight / one == pytest.approx(mass, rel=0.02), "its area is rounded to 0.01 in²"


def test_hooked_bars_of_a_pad_by_hand(bakehouse: Checked) -> None:
    """A 36 in pad, 3 in cover, #4: 30 in between the covers; a hook takes 4 db of it (3 db inside radius and
    the bar) and gives π/2 · 3.5 db + 12 db."""
    pad = next(m for m in bakehouse.structure.of(kinds.PAD))
    (line,) = [x for x in bars_of(bakehouse) if x.member.id == pad.id]
    assert pad.solid.bounds()[1][0] - pad.solid.bounds()[0][0] == pytest.approx(36 * INCH)
    flat = 30.0 - 2 * 4 * 0.5
    by_hand = flat + 2 * (math.pi / 2 * 3.5 * 0.5 + 12 * 0.5)
    assert line.shape == "hooked"
    assert line.length / INCH == pytest.approx(by_hand)
    assert line.number == 2 * 4, "four each way"


def test_straight_bars_of_a_pad_and_a_slab_by_hand(hall: Checked) -> None:
    for pad in hall.structure.of(kinds.PAD):
        (line,) = [x for x in bars_of(hall) if x.member.id == pad.id]
        side = pad.solid.bounds()[1][0] - pad.solid.bounds()[0][0]
        turned = max(side, pad.solid.bounds()[1][1] - pad.solid.bounds()[0][1])
        assert line.length <= turned - 2 * 50
        assert line.number % 2 == 0
    slab = hall.structure.of(kinds.FLOOR_SLAB)[0]
    lines = [x for x in bars_of(hall) if x.member.id == slab.id]
    area = hall.structure.volume(slab) / slab.solid.depth
    for x in lines:
        # 400 mm apart, each way: area over spacing, give or take an edge.
        assert x.number * x.length == pytest.approx(area / 400.0, rel=0.12)


@pytest.mark.parametrize(("name", "times"), [("#4", 3.5), ("#8", 3.5), ("#9", 4.5)])
def test_bends_of_aci_318_25_3_1(name: str, times: float) -> None:
    bar = next(b for b in BARS["us"] if b.name == name)
    assert bend_of("us", bar) == pytest.approx((times * bar.diameter, 12 * bar.diameter))


@pytest.mark.parametrize(("name", "times"), [("ø16", 2.5), ("ø20", 4.0)])
def test_bends_of_ec2_table_8_1(name: str, times: float) -> None:
    bar = next(b for b in BARS["metric"] if b.name == name)
    assert bend_of("eu", bar) == pytest.approx((times * bar.diameter, 5 * bar.diameter))


def test_what_is_ordered_is_no_shorter_than_the_bars(hall: Checked) -> None:
    for bar, plan in bar_plans(hall):
        whole = sum(x.number * x.length for x in bars_of(hall) if x.bar == bar)
        assert plan.bought >= whole
        assert not plan.open
        assert {b.length for b in plan.boards} <= set(SOLD["metric"])


def test_decks_are_ordered_and_paid(bakehouse: Checked) -> None:
    decks = deck_panels(bakehouse)
    assert decks
    for d in decks:
        assert d.sheets * 32 * FOOT**2 >= d.area
    paid = [a for a in amounts_of(bakehouse) if a.items[0] == "subfloor"]
    assert sum(a.pieces for a in paid) == sum(d.sheets for d in decks)
    rows = {
        r.cells[1]: r.cells[3] for r in LISTS["order"](bakehouse).rows if r.cells[0] == "sheets"
    }
    assert rows["subfloor"] == sum(d.sheets for d in decks)


@pytest.mark.parametrize("which", ["bakehouse", "hall"])
def test_everything_that_is_built_is_in_the_cost(
    which: str, bakehouse: Checked, hall: Checked
) -> None:
    checked = bakehouse if which == "bakehouse" else hall
    paid = {n for a in amounts_of(checked) for n in a.names}
    assert {m.id for m in checked.structure.members} == paid


def chosen(project: Project, *fasteners: Fastener) -> Checked:
    return work_out(replace(project, fasteners=fasteners))


def test_nails_come_in_bags(bakehouse: Checked) -> None:
    nails = Fastener("heel", "16d", dowels=Dowels("nails", 4.1, 89.0, 5))
    heels = next(x for x in fasteners_to_order(bakehouse) if x.words.startswith("heel")).number
    ordered = next(
        x
        for x in fasteners_to_order(chosen(shown_demo(), nails))
        if x.words.startswith("heel: 16d")
    )
    assert ordered.number == 5 * heels
    assert ordered.bags == math.ceil(ordered.number / IN_BAG["nails"])


def test_hangers_come_by_the_piece() -> None:
    hangers = Fastener("hanger", "H1", holds=5000.0)
    found = [x for x in fasteners_to_order(chosen(shown_demo(), hangers)) if "hanger" in x.words]
    assert found[0].words == "hanger: H1"
    assert found[0].bags == 0
