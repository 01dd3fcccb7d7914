"""Nails, screws and bolts between pieces of wood, and what of a building asks for them."""

import math

import pytest
from msgspec.structs import replace

from balken.design.codes import timber_by
from balken.design.codes.eu.ec5 import joints as eu
from balken.design.codes.eu.ec5.values import timber
from balken.design.codes.timber import Lap
from balken.design.codes.us.nds.joints import group_action
from balken.fit.findings import findings
from balken.model.edits.common import EditError
from balken.model.edits.fasteners import choose_dowels, choose_fastener, set_fastener
from balken.model.fasteners import Dowels
from balken.model.floors import FloorEdge
from balken.model.project import Project
from balken.session.building import Building, demo_project
from balken.session.desk import Desk, page
from balken.session.ferry_hall import ferry_hall
from balken.session.rows import Checks, Fact, Options, field_of, type_into
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.units import INCH, LB
from balken.works.building import work_out
from balken.works.fasteners import demands_of

US, EU = timber_by("us"), timber_by("eu")
SPF = Lap(1.5 * INCH, 1.5 * INCH, "SPF", "No.2", 0.0, 1.4e6 * 0.00689 * 38.1 * 139.7 * 1e3)
C24 = Lap(38.0, 38.0, "softwood", "C24", 0.0, 1e8)


@pytest.mark.parametrize(
    ("diameter", "length", "species", "pounds"),
    [
        (0.162, 3.5, "SPF", 120),
        (0.148, 3.0, "SPF", 100),
        (0.162, 3.5, "DF-L", 141),
        (0.148, 3.0, "DF-L", 118),
    ],
)
def test_common_nails_by_the_table(
    diameter: float, length: float, species: str, pounds: float
) -> None:
    """NDS-2018 table 12N, side member 1 1/2 in, from memory; 10d nails reach 10 D in."""
    nail = Dowels("nails", diameter * INCH, length * INCH)
    found = US.joined(nail, SPF._replace(species=species, main=3.5 * INCH))
    assert found.held / LB == pytest.approx(pounds, rel=0.03)
    four = US.joined(replace(nail, count=4), SPF._replace(species=species, main=3.5 * INCH))
    assert four.held == pytest.approx(4 * found.held)
    storm = US.joined(nail, SPF._replace(species=species, main=3.5 * INCH, duration=1.6))
    assert storm.held == pytest.approx(1.6 * found.held)


def test_half_inch_bolts_by_the_table() -> None:
    """NDS-2018 table 12A, both members 1 1/2 in of G 0.50: 480 lb along the grain, from memory."""
    bolt = Dowels("bolts", 0.5 * INCH, 4 * INCH)
    found = US.joined(bolt, SPF._replace(species="DF-L"))
    assert found.held / LB == pytest.approx(480, rel=0.01)
    assert US.joined(bolt, SPF._replace(species="DF-L", angle=90.0)).held < 0.7 * found.held


def test_nails_just_too_short_hold_nothing() -> None:
    """NDS-2018 12.1.6.4: 6 D into the main member; EN 1995-1-1 8.3.1.2(1): 8 d."""
    d = 0.162 * INCH
    short = Dowels("nails", d, SPF.side + 6 * d - 0.1)
    assert US.joined(short, SPF).held == 0.0
    assert "second piece" in US.joined(short, SPF).why
    assert US.joined(replace(short, length=short.length + 0.2), SPF).held > 0
    metric = Dowels("nails", 3.4, 38.0 + 8 * 3.4 - 0.1, 2)
    assert EU.joined(metric, C24).held == 0.0
    assert EU.joined(replace(metric, length=metric.length + 0.2), C24).held > 0


def test_nails_in_thin_timber_want_boring() -> None:
    """EN 1995-1-1 8.18 with ρk 350: 7 d of a 4 mm nail is 28 mm."""
    nail = Dowels("nails", 4.0, 90.0, 2)
    assert EU.joined(nail, C24._replace(side=28.0)).held > 0
    assert "without boring" in EU.joined(nail, C24._replace(side=27.9)).why


def test_a_nail_by_hand_in_european_codes() -> None:
    """3.4 mm in C24 38 mm and deep enough: f_h,k 0.082 · 350 · 3.4^-0.3, M_y,Rk 0.3 · 600 · 3.4^2.6;
    two hinges govern: 1.15 √(2 M f d), 880 N; times kmod 0.8 over 1.3."""
    bearing = 0.082 * 350 * 3.4**-0.3
    bends = 180 * 3.4**2.6
    whole = 1.15 * math.sqrt(2 * bends * bearing * 3.4)
    assert whole == pytest.approx(881, rel=0.01)
    assert eu.single_shear((bearing, bearing), (38.0, 38.0), 3.4, bends) == pytest.approx(whole)
    found = EU.joined(Dowels("nails", 3.4, 90.0, 3), C24._replace(duration=0.8))
    assert found.held == pytest.approx(3 * whole * 0.8 / 1.3)


def test_thin_pieces_govern_by_what_they_bear() -> None:
    """EN 1995-1-1 8.6 a: f_h t d where a stout bolt cannot bend in thin timber: mode c of two equal
    pieces is (√2 − 1) of it."""
    whole = 20.0 * 30.0 * 30.0
    found = eu.single_shear((20.0, 20.0), (30.0, 30.0), 30.0, 1e12)
    assert found == pytest.approx((math.sqrt(2) - 1) * whole, rel=1e-6)


def test_several_bolts_in_a_row_hold_less_than_each_alone() -> None:
    """NDS-2018 table 11.3.6A, from memory: A_s/A_m 1, A_s 5 in², E 1.4e6 psi, 1 in bolts 4 in apart,
    4 in a row: 0.91; EN 1995-1-1 8.34 with 5 d: n^0.9 (5/13)^0.25."""
    ea = 1.4e6 * 5 * LB
    assert group_action(1, 4 * INCH, INCH, (ea, ea)) == 1.0
    assert group_action(4, 4 * INCH, INCH, (ea, ea)) == pytest.approx(0.91, abs=0.01)
    assert group_action(4, 4 * INCH, 0.24 * INCH, (ea, ea)) == 1.0
    assert eu.in_row(1) == pytest.approx((5 / 13) ** 0.25)
    assert eu.in_row(4) == pytest.approx(4**0.9 * (5 / 13) ** 0.25)


def test_wood_without_values_is_told() -> None:
    assert "specific gravity" in US.joined(Dowels("nails", 4.0, 90.0), C24).why
    assert EU.joined(Dowels("nails", 4.0, 90.0, 2), SPF).why
    assert timber("C24").density == 350.0


# In a building, and at the desk.


def with_ledger(project: Project) -> Project:
    floor = project.floors[0]
    edges = (FloorEdge(floor.walls[0], ledger=True), FloorEdge(floor.walls[2], ledger=True))
    return replace(project, floors=(replace(floor, edges=edges), *project.floors[1:]))


def typed(desk: Desk, name: str, text: str) -> str:
    refused = type_into(field_of(rows_of(desk), name), text, lambda: desk.said)
    return "" if refused is None else refused.why


def test_a_ledger_asks_for_what_hangs_on_it_along_it() -> None:
    done = work_out(with_ledger(demo_project()))
    found = [d for d in demands_of(done) if d.use == "ledger"]
    assert found
    for d in found:
        m = next(x for x in done.structure.members if x.id == d.what)
        hangs = sum(p.forces.dead + p.forces.live for p in done.path.carried[d.what])
        assert d.force * m.length >= hangs * 0.98  # a stretch with the most on it
        assert d.force * m.length <= hangs * 1.8


def test_ledgers_are_told_until_their_fasteners_are_chosen() -> None:
    project = with_ledger(demo_project())
    told = [f for f in findings(work_out(project)) if "page of fasteners" in f.text]
    assert told
    d = next(x for x in demands_of(work_out(project)) if x.use == "ledger")
    strong = choose_fastener(project, "ledger", "anchor", d.force * 400 * 1.001)
    after = findings(work_out(strong))
    assert not any("page of fasteners" in f.text or f.text.startswith("Ledgers") for f in after)
    weak = set_fastener(strong, "ledger", apart=800.0)
    (over,) = [f for f in findings(work_out(weak)) if f.text.startswith("Ledgers")]
    assert over.amount == pytest.approx(2 / 1.001, rel=1e-3)


def test_heels_are_nailed_and_read_back_at_the_desk() -> None:
    desk = Desk(Building(demo_project()), THINGS)
    desk.select(page("fasteners"))
    most = max(d.force for d in demands_of(desk.checked) if d.use == "heel")
    made = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "made of")
    made.choose("nails")
    (check,) = next(r for r in rows_of(desk) if isinstance(r, Checks)).checks
    by_symbol = {line.symbol: line.value for line in check.lines}
    assert by_symbol["F"] == pytest.approx(most)
    assert check.ratio == pytest.approx(most / by_symbol["holds"])
    least = next(
        int(r.text) for r in rows_of(desk) if isinstance(r, Fact) and r.name == "least that hold it"
    )
    assert least == math.ceil(most / (by_symbol["holds"] / by_symbol["n"]))
    assert typed(desk, "heel: how many", f"{least}") == ""
    assert not any(f.text.startswith("Heel") for f in findings(desk.checked))
    assert typed(desk, "heel: how many", f"{least - 1}") == ""
    assert any(f.text.startswith("Heel") and f.kind == "over" for f in findings(desk.checked))
    assert typed(desk, "heel: length", '2"') == ""
    assert any("cannot be reckoned" in f.text for f in findings(desk.checked))
    assert "at most" in typed(desk, "heel: diameter", "3")


def test_plies_ask_for_what_hangs_at_their_side() -> None:
    """Of n plies (n − 1) / n comes into the others."""
    done = work_out(ferry_hall())
    found = [d for d in demands_of(done) if d.use == "plies"]
    for d in found:
        m = next(x for x in done.structure.members if x.id == d.what)
        assert m.section[:2] in ("2-", "3-", "4-")
    nailed = choose_dowels(ferry_hall(), "plies", "nails", Dowels("nails", 3.4, 70.0, 2))
    assert nailed.fasteners[0].dowels is not None


def test_straps_are_no_nails() -> None:
    with pytest.raises(EditError, match="maker"):
        choose_dowels(demo_project(), "strap", "nails", Dowels("nails", 4.0, 90.0))
