"""What a carpenter marks on the board: against the figures stamped on a framing square."""

import math
from itertools import pairwise

import pytest

from balken.drawing.layout_figure import layout_figure, lying
from balken.drawing.marks import Label
from balken.framing import kinds
from balken.geometry.framing_square import jack_difference
from balken.model.edits.roofs import set_roof
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from buildings import house
from named import the


@pytest.fixture(scope="module")
def hipped() -> Checked:
    """A house of 36 by 26 ft, all hips, 6 in 12, rafters at 24 in, tails of a foot."""
    return work_out(
        set_roof(house(), "R1", sides=(), section="2x8", spacing=24 * INCH, rise=6.0, overhang=FOOT)
    )


def words(drawing: tuple[object, ...]) -> list[str]:
    return [x.text for x in drawing if isinstance(x, Label)]


def test_a_common_rafter_lies_with_its_tail_and_its_seat_measured_along_the_top(
    hipped: Checked,
) -> None:
    m = next(m for m in hipped.structure.of(kinds.RAFTER) if "/rafter:" in str(m.id))
    board = lying(m)
    assert board is not None
    # Framing square, 6 in 12: 13.42 in of length per foot of run.
    (notch,) = board.notches
    assert board.over(notch.inner)[0] == pytest.approx(13.4164 * INCH, abs=0.1), (
        "a foot of overhang"
    )
    assert board.head == pytest.approx(m.length, abs=0.1)
    assert board.depth == pytest.approx(7.25 * INCH, abs=0.1)
    plumb = math.dist(board.over(notch.inner), notch.inner)
    assert plumb == pytest.approx(hipped.structure.roofs[the("roof:R1")].heel, abs=0.1)
    said = words(layout_figure(m, "us"))
    assert {"12", "6", "plumb cut", 'seat 3 1/2", 1 9/16" deep'} <= set(said)
    assert any("tail 1'-1 7/16\"" in text for text in said)
    assert {"1000", "500"} <= set(words(layout_figure(m, "metric")))


def test_jacks_differ_by_what_the_square_says(hipped: Checked) -> None:
    """Framing square, third line: at 24 in and 6 in 12 jacks differ by 26.83 in."""
    jacks = sorted(
        (m for m in hipped.structure.of(kinds.RAFTER) if "hip jack" in str(m.id)),
        key=lambda m: m.length,
    )
    heads = sorted({round(lying(m).head, 1) for m in jacks})  # type: ignore[union-attr]
    gaps = [b - a for a, b in pairwise(heads) if b - a > 300]
    assert gaps
    assert jack_difference(0.5, 24 * INCH) == pytest.approx(26.83 * INCH, abs=0.1)
    assert any(g == pytest.approx(26.83 * INCH, abs=0.5) for g in gaps)


def test_a_hip_counts_on_seventeen(hipped: Checked) -> None:
    hip = hipped.structure.of(kinds.HIP)[0]
    assert {"17", "6"} <= set(words(layout_figure(hip, "us")))
    board = lying(hip)
    assert board is not None
    # Framing square, second line: 18 in of hip per foot of common run at 6 in 12.
    assert board.over(board.notches[0].inner)[0] == pytest.approx(18.0 * INCH, abs=0.5)


def test_level_pieces_are_not_laid_out(hipped: Checked) -> None:
    assert layout_figure(hipped.structure.of(kinds.JOIST)[0], "us") == ()
    assert layout_figure(hipped.structure.of(kinds.RIDGE)[0], "us") == ()
