"""Nails of heel joints: the table of the code, which was typed from memory, against the statics it
was made by."""

import math

import pytest

from balken.design.codes.us.heel_joints import NAILS, SLOPES, SNOW, SPACINGS, SPANS, heel_nails
from balken.design.truss_forces import tie_force
from balken.units import FOOT, INCH, PSF
from balken.units.quantity import LB


@pytest.mark.parametrize("slope", SLOPES)
def test_the_table_follows_the_push_of_the_rafters(slope: int) -> None:
    """The push of a pair under snow with 15 psf of roof and ceiling, over one nail of 136 lb, at a
    duration of 1.15 for snow.

    The figures of nail and dead load are no source's: they were found so that the rows for 3 in 12
    come out, and the other rows must follow by statics alone (IRC R802.5.2 and the table as
    remembered).
    """
    for i, spacing in enumerate(SPACINGS):
        for j, snow in enumerate(SNOW):
            for k, span in enumerate(SPANS):
                load = (snow + 15) * PSF * spacing * INCH
                push = tie_force(load, span * FOOT, span * FOOT / 2 * slope / 12) / LB
                nails = push / 136 / (1.15 if snow > 20 else 1.0)
                asked = NAILS[slope, SPACINGS[i]][j][k]
                # The column for 20 psf, of live load, is up to a nail above the statics throughout.
                assert asked == pytest.approx(max(3, nails), abs=1.1 if snow > 20 else 1.25), (
                    spacing,
                    snow,
                    span,
                )


def test_what_lies_between_counts_as_the_worse_and_what_lies_outside_has_none() -> None:
    assert heel_nails(3 / 12, 12 * INCH, 20 * PSF, 12 * FOOT) == 4
    assert heel_nails(6 / 12, 19.2 * INCH, 25 * PSF, 26 * FOOT) == NAILS[5, 24][1][2] == 10
    for outside in (
        (2 / 12, 16, 20, 12),
        (4 / 12, 32, 20, 12),
        (4 / 12, 16, 80, 12),
        (4 / 12, 16, 20, 37),
    ):
        slope, spacing, snow, span = outside
        assert heel_nails(slope, spacing * INCH, snow * PSF, span * FOOT) is None
    assert math.isclose(heel_nails(1.5, 16 * INCH, 70 * PSF, 36 * FOOT) or 0, 7), (
        "steeper than the table: its steepest"
    )
