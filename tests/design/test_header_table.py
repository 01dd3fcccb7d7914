"""The header table R602.7(1) of the IRC of 2015, from memory: what is written against the bending it was
reckoned from, some cells, and just outside each condition."""

import math
from itertools import pairwise
from statistics import median

import pytest

from balken.design.codes.us.irc_headers import (
    SPANS,
    WIDTHS,
    Borne,
    Header,
    cells_of,
    header_span,
)
from balken.errors import BalkenError
from balken.units import FOOT, INCH, PSF

ASKED = Header("2-2x10", "SPF", "No.2", "a roof", 28 * FOOT, 30 * PSF)
SIZE_FACTOR = {4: 1.5, 6: 1.3, 8: 1.2, 10: 1.1, 12: 1.0}
"""C_F of No. 2 in bending (NDS supplement table 4A)."""
DEPTH = {4: 3.5, 6: 5.5, 8: 7.25, 10: 9.25, 12: 11.25}


def strength(section: str) -> float:
    """S C_F of the pieces together, with a tenth for two of them and 0.15 for more."""
    plies, depth = (int(x) for x in section.split("-2x"))
    share = 1.10 if plies == 2 else 1.15
    return plies * 1.5 * DEPTH[depth] ** 2 / 6 * SIZE_FACTOR[depth] * share


def columns() -> list[tuple[Borne, int, int]]:
    """Each column of the table: what is borne, the snow, the width."""
    return [
        (borne, snow, width)
        for borne, snows in SPANS.items()
        for snow in range(len(snows))
        for width in range(len(WIDTHS))
    ]


@pytest.mark.parametrize(("borne", "snow", "width"), columns())
def test_spans_of_a_column_follow_from_one_bending_stress(
    borne: Borne, snow: int, width: int
) -> None:
    """Within what the printed inch lets them; none is longer, some are shorter for their sag (3 and 4 pieces
    of light loads)."""
    of_root = {
        section: cells_of(row)[width].span / math.sqrt(strength(section))
        for section, row in SPANS[borne][snow].items()
    }
    middle = median(of_root.values())
    for section, value in of_root.items():
        assert value < 1.025 * middle, section
        if not (borne == "a roof" and width == 0) and section != "4-2x8":
            assert value > 0.975 * middle, section


def test_wider_buildings_more_snow_and_more_floors_carry_less_far() -> None:
    for borne, snows in SPANS.items():
        for column in snows:
            for row in column.values():
                spans = [c.span for c in cells_of(row)]
                assert spans == sorted(spans, reverse=True), (borne, row)
        for light, heavy in pairwise(snows):
            for section, row in heavy.items():
                assert all(
                    h.span <= s.span for h, s in zip(cells_of(row), cells_of(light[section]))
                )
    order = list(SPANS.values())
    for section in SPANS["a roof and two floors of one span"][0]:
        spans = [cells_of(columns[0][section])[0].span for columns in order]
        assert spans == sorted(spans, reverse=True), section


def test_a_roof_alone_by_the_width_that_bears() -> None:
    """Half of the width and an overhang of 2 ft bear on each wall: (28 + 4) / (20 + 4) of the load, and the
    root of it of the span."""
    twenty, twenty_eight, _ = cells_of(SPANS["a roof"][0]["2-2x12"])
    assert twenty.span / twenty_eight.span == pytest.approx(math.sqrt(32 / 24), rel=0.01)


@pytest.mark.parametrize(
    ("section", "width", "feet", "jacks"),
    [("2-2x10", 28, 7 + 3 / 12, 2), ("2-2x6", 20, 5 + 5 / 12, 1), ("2-2x6", 12, 5 + 5 / 12, 1)],
)
def test_cells(section: str, width: float, feet: float, jacks: int) -> None:
    found = header_span(ASKED._replace(section=section, width=width * FOOT))
    assert found.span == pytest.approx(feet * FOOT)
    assert found.jacks == jacks


def test_between_two_widths_in_proportion_with_the_more_jacks() -> None:
    found = header_span(ASKED._replace(section="2-2x8", width=24 * FOOT))
    assert found.span == pytest.approx((82 + 71) / 2 * INCH)
    assert found.jacks == 2


@pytest.mark.parametrize(
    "outside",
    [
        {"species": "SP"},
        {"grade": "No.3"},
        {"section": "3-LVL 1-3/4x14"},
        {"section": "2-2x14"},
        {"width": 36.1 * FOOT},
        {"snow": 50.1 * PSF},
        {"borne": "a roof and two floors of one span", "snow": 31 * PSF},
    ],
)
def test_outside_the_table_there_is_no_answer(outside: dict[str, object]) -> None:
    with pytest.raises(BalkenError):
        header_span(ASKED._replace(**outside))  # type: ignore[arg-type]
