"""The reserve map: bars as long as pieces are used, numbers, and what is over told apart."""

import pytest
from msgspec.structs import replace

from balken.drawing.marks import Label, Patch
from balken.drawing.plan import plan_notes
from balken.drawing.reserve import reserve_marks, reserve_notes
from balken.drawing.tiers import tiers
from balken.framing import kinds
from balken.geometry.plane import distance
from balken.model.names import HostName
from balken.session.demo import shown_demo
from balken.units import format_force
from balken.works.bracing import braced_lines
from balken.works.building import Checked, work_out


@pytest.fixture(scope="module")
def checked() -> Checked:
    return work_out(shown_demo())


def test_a_bar_is_as_long_as_its_piece_is_used(checked: Checked) -> None:
    bars = {
        m.key: m for t in tiers(checked) for m in reserve_marks(checked, t) if isinstance(m, Patch)
    }
    joists = [m for m in checked.structure.of(kinds.JOIST) if m.id in checked.used]
    assert joists
    for joist in joists:
        ring = bars[joist.id].ring
        share = distance(ring[0], ring[1]) / distance(joist.start[:2], joist.end[:2])
        assert share == pytest.approx(min(1.0, checked.used[joist.id][0]))


def test_every_piece_that_is_checked_has_a_bar_in_some_tier(checked: Checked) -> None:
    shown = {m.key for t in tiers(checked) for m in reserve_marks(checked, t)}
    assert set(checked.used) <= shown


def test_what_is_over_is_told_apart_and_has_its_number(checked: Checked) -> None:
    joist = next(m for m in checked.structure.of(kinds.JOIST) if m.id in checked.used)
    worse = replace(checked, used={**checked.used, joist.id: (1.37, "Bending")})
    tier = next(t for t in tiers(worse) if t.holds(joist.host))
    bar = next(m for m in reserve_marks(worse, tier) if m.key == joist.id)
    assert isinstance(bar, Patch)
    assert (bar.fill, bar.pen) == ("mark", "mark")
    texts = [m.text for m in reserve_notes(worse, tier) if isinstance(m, Label)]
    assert "1.37" in texts
    placed = plan_notes(worse, tier, 100.0, reserve=True)
    assert "1.37" in [m.text for m in placed if isinstance(m, Label)]


def test_the_worst_of_each_kind_has_its_number(checked: Checked) -> None:
    for tier in tiers(checked):
        members = [
            m for m in checked.structure.members if m.id in checked.used and tier.holds(m.host)
        ]
        texts = {m.text for m in reserve_notes(checked, tier) if isinstance(m, Label)}
        for role in {m.role for m in members}:
            worst = max(checked.used[m.id][0] for m in members if m.role == role)
            assert f"{worst:.2f}" in texts, (tier.name, role)


def test_walls_have_what_wind_and_earthquake_ask_of_their_lines(checked: Checked) -> None:
    tier = next(t for t in tiers(checked) if t.kind == "walls")
    lines = [x for s in checked.sideways for x in s.lines]
    texts = [m.text for m in reserve_notes(checked, tier) if isinstance(m, Label)]
    south = next(x for x in lines if "W101" in x.walls)
    wind, quake = format_force(south.wind, "us"), format_force(south.quake, "us")
    used = next(b.used for b in braced_lines(checked) if b.line == south)
    assert f"wind {wind}, earthquake {quake}, used to {used:.2f}" in texts
    arrows = {m.key for m in reserve_marks(checked, tier)}
    assert HostName("wall", "W101") in arrows
    assert HostName("wall", "W105") not in arrows, "an inside wall braces nothing"
