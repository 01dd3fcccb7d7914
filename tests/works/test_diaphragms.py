"""Floors and roofs as beams on their side, by statics and SDPWS-2015 tables 4.2A, 4.2C (from memory) and EN
1995-1-1 9.2.3.2."""

import pytest
from msgspec.structs import replace

from balken.design.codes import timber_by
from balken.design.codes.timber import Decking
from balken.fit.findings import findings
from balken.loads.sideways import Span
from balken.model.edits import set_site
from balken.model.edits.wall_frames import frame_walls
from balken.model.fasteners import Dowels, Fastener
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.wind import Wind
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Checks, Options
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH, LB, MPH
from balken.works.building import work_out
from balken.works.diaphragms import decks_of, worst_decks
from balken.works.fasteners import demands_of, used_by
from buildings import house

US, EU = timber_by("us"), timber_by("eu")
PLF = LB / FOOT


def decking(**more: object) -> Decking:
    made = Decking(15 / 32 * INCH, False, "DF-L", "No.2", 36 * FOOT, 26 * FOOT)
    return made._replace(**more)  # type: ignore[arg-type]


def blown(storeys: int = 1) -> Project:
    project = frame_walls(house(storeys=storeys), is_masonry)
    return set_site(project, wind=Wind(115 * MPH, "B"))


def test_panels_hold_what_the_tables_say() -> None:
    """15/32 in, 8d: 505 plf unblocked and 755 blocked against wind, 360 and 540 against earthquake, over 2
    and over 0.6 or 0.7."""
    assert US.decked(decking()).held == pytest.approx(505 / 2 / 0.6 * PLF)
    assert US.decked(decking(blocked=True)).held == pytest.approx(755 / 2 / 0.6 * PLF)
    assert US.decked(decking(quake=True)).held == pytest.approx(360 / 2 / 0.7 * PLF)
    softer = US.decked(decking(species="SPF")).held
    assert softer == pytest.approx(505 / 2 / 0.6 * 0.92 * PLF), "1 - (0.5 - 0.42)"


def test_long_floors_and_thin_panels_hold_nothing() -> None:
    """3 to 1 without blocking, 4 to 1 with it (SDPWS table 4.2.4)."""
    assert US.decked(decking(length=77.9 * FOOT)).held > 0
    assert US.decked(decking(length=78.1 * FOOT)).why
    assert US.decked(decking(length=103.9 * FOOT, blocked=True)).held > 0
    assert US.decked(decking(length=104.1 * FOOT, blocked=True)).why
    assert US.decked(decking(thick=0.25 * INCH)).why


def test_a_european_floor_by_its_nails() -> None:
    """F_f,Rd 1.2 / 150 mm, where all edges are joined (9.2.3.1(2), 9.2.3.2(4)); at most six times as long
    as wide."""
    asked = decking(thick=15.0, species="softwood", grade="C24", blocked=True)
    found = EU.decked(asked)
    one = next(x.value for x in found.lines if x.symbol == "Ff,Rk")
    assert found.held == pytest.approx(one * 1.2 * 1.1 / 1.3 / 150 / 1.5)
    assert EU.decked(asked._replace(blocked=False)).why
    assert EU.decked(asked._replace(length=6.01 * asked.depth)).why
    assert EU.decked(asked._replace(quake=True)).why


def test_a_span_by_statics() -> None:
    """12 kN evenly and 3 kN at a third: 6 + 2 at the near end; w l²/8 and P a b / l."""
    span = Span(0.0, 9000.0, "both", 6000.0, 12e3, 0.0, ((3000.0, 3e3, 0.0),))
    assert span.shear(quake=False) == pytest.approx(8e3)
    assert span.moment(quake=False) == pytest.approx(12e3 * 9000 / 8 + 3e3 * 3000 * 6000 / 9000)
    past = Span(0.0, 2000.0, "low", 6000.0, 4e3, 0.0, ((1500.0, 1e3, 0.0),))
    assert past.shear(quake=False) == pytest.approx(5e3)
    assert past.moment(quake=False) == pytest.approx(4e3 * 1000 + 1e3 * 1500)


def test_a_plain_roof_on_its_side() -> None:
    """Half of what comes to the roof over the depth of the house; W L / 8 over it along the edge, 0.6 W."""
    done = work_out(blown())
    top = max(s.top for s in done.sideways)
    for storey in (s for s in done.sideways if s.top == top):
        (deck,) = [d for d in decks_of(done) if d.storey == storey]
        assert deck.unit == pytest.approx(storey.wind / 2 / deck.span.depth, rel=0.02)
        wide = deck.span.high - deck.span.low
        assert deck.chord == pytest.approx(0.6 * storey.wind * wide / 8 / deck.span.depth, rel=0.02)
        across = abs(storey.way[0]) < 0.5
        assert deck.span.depth == pytest.approx((26 if across else 36) * FOOT, rel=0.01)
        assert [c.name for c in deck.checks] == ["Wind, shear of panels", "Pull along its edge"]


def test_lines_that_end_above_a_floor_are_carried_by_it() -> None:
    """What an upper line brings that stands on none below goes through the floor."""
    done = work_out(blown(2))
    lower = [s for s in done.sideways if s.top < max(x.top for x in done.sideways)]
    assert all(not sp.brought for s in lower for sp in s.spans), "walls stand over one another"
    project = blown(2)
    upper = [w for w in project.walls if w.base != project.walls[0].base]
    short = max(upper, key=lambda w: (w.start[0] + w.end[0], w.id))
    ends = [(x - 9 * FOOT, y) for x, y in (short.start, short.end)]
    moved = replace(short, start=ends[0], end=ends[1], braces=True)
    walls = tuple(moved if w.id == short.id else w for w in project.walls)
    stepped = work_out(replace(project, walls=walls))
    brought = [b for s in stepped.sideways for sp in s.spans for b in sp.brought]
    assert brought
    assert sum(w for _, w, _ in brought) > 0


def test_what_is_not_enough_is_told_with_its_mend() -> None:
    """A long narrow house in a storm: unblocked it is more than 3 to 1; blocked it is not."""
    project = frame_walls(house(84 * FOOT, 26 * FOOT), is_masonry)
    project = set_site(project, wind=Wind(115 * MPH, "B"))
    told = [
        f for f in findings(work_out(project)) if "pushed" in f.text and "not checked" in f.text
    ]
    assert told
    assert told[0].mend is not None
    after = findings(work_out(told[0].mend.apply(project)))
    assert not [f for f in after if "times as long as deep" in f.text]


def test_laps_of_plates_are_asked_and_nailed() -> None:
    done = work_out(blown())
    laps = [d for d in demands_of(done) if d.use == "plate lap"]
    assert laps
    chords = {round(d.chord, 3) for d in decks_of(done)}
    assert {round(d.force, 3) for d in laps} <= chords
    nails = Fastener("plate lap", "16d", dowels=Dowels("nails", 0.162 * INCH, 3.5 * INCH, 8))
    assert used_by(done, nails, laps[0]).check.ratio > 0


def test_edges_are_chosen_on_the_page_of_the_site() -> None:
    desk = Desk(Building(blown()), THINGS)
    desk.select(HostName("run", desk.project.runs[0].id))
    row = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "edges of panels")
    before = next(d.used for d in worst_decks(desk.checked).values())
    row.choose(True)
    assert desk.project.site.blocked
    after = next(d.used for d in worst_decks(desk.checked).values())
    assert after < before
    assert any(isinstance(r, Checks) for r in rows_of(desk))
