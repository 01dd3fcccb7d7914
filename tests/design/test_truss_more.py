"""Drawn loads and heaped snow on trusses: as even loads where they are even, by statics where not."""

import numpy as np
import pytest
from msgspec.structs import replace

from balken.design.codes import timber_by
from balken.design.truss_checks import TrussLoads, TrussTask, check_trusses
from balken.design.truss_more import CASES, More, on_chords
from balken.fit.findings import findings
from balken.framing import kinds
from balken.model.cases import Cases
from balken.model.drawn_loads import DrawnLoad
from balken.session.ferry_hall import ferry_hall
from balken.units import FOOT, INCH, KPA, PSF
from balken.works.building import work_out
from trusses import LUMBER, TASK, stands

WIDE = 24 * INCH


def loads(snow: float) -> TrussTask:
    even = TrussLoads(10 * PSF, 0.0, snow, 5 * PSF, 0.0)
    return TrussTask(timber_by("us"), 2, even, (240.0, 180.0), 3.5 * INCH)


def even_snow(amount: float, pieces: int = 2_000) -> More:
    """Snow over the whole of a truss with its tails, in fine pieces."""
    low, high = -2 * FOOT, 26 * FOOT
    each = (high - low) / pieces
    return tuple((low + (i + 0.5) * each, Cases(snow=amount * WIDE * each)) for i in range(pieces))


def test_snow_drawn_all_over_is_as_snow_that_lies_evenly() -> None:
    truss = stands()
    assert LUMBER is not None
    (with_more,) = check_trusses([truss], LUMBER, loads(20 * PSF), {truss.row: even_snow(10 * PSF)})
    (lying,) = check_trusses([truss], LUMBER, loads(30 * PSF))
    even = [i for i, c in enumerate(lying.cases) if c.strong.snow[0] == c.strong.snow[1]]
    same = [i for i, c in enumerate(with_more.cases) if c.strong.snow[0] == c.strong.snow[1]]
    assert np.allclose(lying.ratios[even], with_more.ratios[same], rtol=2e-3)
    assert np.allclose(lying.forces.reactions[even], with_more.forces.reactions[same], rtol=1e-3)


def test_a_force_at_one_place_comes_into_the_bearings_by_its_lever() -> None:
    """Statics: P (L - x) / L on the left, P x / L on the right."""
    truss, force = stands(), 3_000.0
    assert LUMBER is not None
    at = 7 * FOOT
    more = {truss.row: ((at, Cases(dead=force)),)}
    (bare,) = check_trusses([truss], LUMBER, TASK)
    (laden,) = check_trusses([truss], LUMBER, TASK, more)
    first, last = (truss.truss.joints[n][0] for n in truss.truss.bearings)
    added = laden.forces.reactions[0, 0] - bare.forces.reactions[0, 0]
    share = (last - at) / (last - first)
    assert added == pytest.approx([force * share, force * (1 - share)], rel=1e-6)
    assert laden.worst[0] > bare.worst[0]


def test_a_force_in_the_middle_of_a_panel_bends_it_more_than_if_it_were_spread() -> None:
    """P L / 4 against P L / 8 of as much spread evenly; nothing more at a joint."""
    truss = stands().truss
    top = next(m for m, p in enumerate(truss.pieces) if p.kind is kinds.TOP_CHORD and p.start)
    a, b = (truss.joints[j][0] for j in (truss.pieces[top].start, truss.pieces[top].end))
    found = on_chords([truss], [(((a + b) / 2, Cases(snow=1_000.0)),)])
    assert found.bends[CASES.index("snow"), 0, top] == pytest.approx(1_000.0 * abs(b - a) / 8)
    assert found.lying[CASES.index("snow"), 0, top] == pytest.approx([1_000 / abs(b - a)] * 2)
    at_joint = on_chords([truss], [((a, Cases(snow=1_000.0)),)])
    assert at_joint.bends.max() == pytest.approx(0.0, abs=1e-6)


def test_a_tank_on_a_roof_of_trusses_is_in_their_checks() -> None:
    """Nothing is told as left out any more, and the trusses under it are used more."""
    hall = ferry_hall()
    roof = hall.roofs[0]
    before = work_out(hall)
    row = next(t for t in before.trusses.values()).placed[8].row
    truss = next(t for r in before.trusses.values() for t in r.placed if t.row == row)
    middle = tuple(
        s + w * (truss.bears[0] + truss.bears[1]) / 2 for s, w in zip(truss.start, truss.way)
    )
    tank = DrawnLoad("T", "tank", "point", roof.plate, (middle,), "dead", 12_000.0)  # type: ignore[arg-type]
    after = work_out(replace(hall, loads=(*hall.loads, tank)))
    chords = [n for n in after.used if n.row == row and n.host.kind == "roof"]
    assert any(after.used[n][0] > before.used[n][0] * 1.2 for n in chords)
    others = [n for n in after.used if n.host.kind == "roof" and n.row not in (row, "")]
    assert sum(after.used[n][0] > before.used[n][0] * 1.2 for n in others) < len(others) / 4
    assert not any("leave out" in f.text for f in findings(after))
    assert after.path.soil_total.dead - before.path.soil_total.dead == pytest.approx(12_000.0)


def test_snow_drawn_over_a_roof_reaches_its_girders_through_what_hangs_on_them() -> None:
    hall = ferry_hall()
    roof = hall.roofs[0]
    ring = tuple(before_ring(hall))
    heavy = DrawnLoad("S", "snow", "area", roof.plate, ring, "snow", 1.0 * KPA)
    plain, laden = work_out(hall), work_out(replace(hall, loads=(*hall.loads, heavy)))
    girders = [t.row for r in plain.trusses.values() for t in r.placed if t.row.startswith("G")]
    assert girders
    for row in girders:
        mine = [n for n in laden.used if n.row == row and n.family == "bottom chord"]
        assert any(laden.used[n][0] > plain.used[n][0] * 1.1 for n in mine), row


def before_ring(project: object) -> list[tuple[float, float]]:
    shape = next(iter(work_out(project).structure.roofs.values()))  # type: ignore[arg-type]
    return list(shape.eaves)
