"""Bars that hold, lap and are bent: against ACI 318-19 chapter 25 and EN 1992-1-1 8.4 and 8.7, and as
they are drawn."""

import math

import pytest

from balken.design.codes import ground_by
from balken.design.concrete.bars import BARS
from balken.drawing.bars import beam_across
from balken.drawing.figure import figure
from balken.drawing.marks import Disc, Label, Stroke
from balken.fit.findings import findings
from balken.framing import kinds
from balken.model.edits import set_site
from balken.model.edits.supports import set_supports
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.units import INCH, PSI
from balken.works.building import checks_of, work_out

NO_5, D12 = BARS["us"][2], BARS["metric"][2]
US, EU = ground_by("us", "A").details, ground_by("eu", "A").details


def test_straight_bars_and_laps() -> None:
    """ld of #5: 60,000 / (25 √3000) · 0.625 = 27.4 in; a class B lap 1.3 of it; half the steel needed,
    half of it, but no less than 12 in (25.4.2.1, 25.4.10)."""
    fc, fy = 3000 * PSI, 60_000 * PSI
    whole = 60_000 / (25 * math.sqrt(3000)) * 0.625
    assert US.straight(NO_5, fc, fy, 1.0) / INCH == pytest.approx(whole)
    assert US.straight(NO_5, fc, fy, 0.5) / INCH == pytest.approx(whole / 2)
    assert US.straight(NO_5, fc, fy, 0.1) / INCH == pytest.approx(12.0)
    assert US.lap(NO_5, fc, fy) / INCH == pytest.approx(1.3 * whole)


def test_european_bars_by_bond() -> None:
    """ø12 in C25 and B500: 12 / 4 · 434.8 / 2.69 = 484 mm; laps 1.5 of it; bent ones 0.7."""
    whole = EU.straight(D12, 25.0, 500.0, 1.0)
    assert whole == pytest.approx(484, abs=1.5)
    assert EU.lap(D12, 25.0, 500.0) == pytest.approx(1.5 * whole, rel=1e-3)
    assert EU.hook(D12, 25.0, 500.0, 1.0, True) == pytest.approx(0.7 * whole)
    assert EU.hook(D12, 25.0, 500.0, 1.0, False) == pytest.approx(whole)
    assert EU.straight(D12, 25.0, 500.0, 0.01) == pytest.approx(0.3 * whole)


def test_hooks_with_little_cover_are_twice_as_long() -> None:
    """ψr ψo = 2 where bars lie nearer than six diameters (ACI 318-19 table 25.4.3.2); hooks are not
    less by more steel (25.4.10.2)."""
    fc, fy = 3000 * PSI, 60_000 * PSI
    roomy, tight = (US.hook(NO_5, fc, fy, 1.0, r) for r in (True, False))
    assert tight == pytest.approx(2 * roomy)
    assert US.hook(NO_5, fc, fy, 0.2, True) == pytest.approx(roomy)


def test_a_pad_whose_bars_cannot_hold_is_over_and_a_wider_one_is_offered() -> None:
    hall = ferry_hall()
    pad = next(s for s in hall.point_supports if s.kind == "pad")
    small = set_supports(hall, [pad.id], size=(700.0, 700.0), thickness=900.0)
    done = work_out(small)
    member = next(m for m in done.structure.of(kinds.PAD) if m.host.key == pad.id)
    anchored = next(c for c in checks_of(done, member) if c.name == "Anchorage of bars")
    lines = {x.symbol: x.value for x in anchored.lines}
    assert anchored.ratio == pytest.approx(lines["needed"] / lines["there is"])
    told = [f for f in findings(done) if f.kind == "over" and member.id in f.members]
    assert told
    mended = told[0].mend.apply(small) if told[0].mend else None
    assert mended is not None
    after = work_out(mended)
    assert after.used[member.id][0] <= 1 + 1e-9


def test_a_wall_that_needs_bars_has_dowels_lapped_and_hooked_and_drawn() -> None:
    """Backfill three times as heavy as usual asks for bars."""
    done = work_out(set_site(shown_demo(), fluid=shown_demo().site.fluid * 3))
    walls = [(m, checks_of(done, m)) for m in done.structure.of(kinds.STEM)]
    barred = [(m, cs) for m, cs in walls if any(x.symbol == "hook" for c in cs for x in c.lines)]
    assert barred
    member, checks = barred[0]
    lines = {x.symbol: x for c in checks for x in c.lines}
    assert lines["lap"].clause.startswith("ACI 318-19 25.5")
    drawn = figure(done, member)
    words = {x.text for x in drawn if isinstance(x, Label)}
    assert lines["bars"].how in words
    assert any(w.startswith("lap ") for w in words)
    assert any(isinstance(x, Stroke) and len(x.points) == 3 and x.pen == "cut" for x in drawn)


def test_a_slab_is_drawn_with_its_bars() -> None:
    done = work_out(ferry_hall())
    slab = done.structure.of(kinds.FLOOR_SLAB)[0]
    bars = next(x.how for c in checks_of(done, slab) for x in c.lines if x.symbol == "bars")
    drawn = figure(done, slab)
    assert bars in {x.text for x in drawn if isinstance(x, Label)}
    assert sum(isinstance(x, Disc) for x in drawn) > 8


def test_a_beam_without_checks_is_drawn_without_bars() -> None:
    drawn = beam_across((300.0, 600.0), (), "metric")
    assert not any(isinstance(x, Disc) for x in drawn)
