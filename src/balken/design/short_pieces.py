"""Pieces of truss roofs that span by themselves: the bottom chords of jacks, and the rafters of
frames set on another roof."""

import math
from typing import Final

import numpy as np

from balken.design.lines import Check
from balken.design.service import service_class
from balken.design.sizing import LEAST_BEARING
from balken.design.spanning import Batch
from balken.design.terms import Terms
from balken.framing import kinds
from balken.framing.member import Member
from balken.loads.parcels import rows_of
from balken.loads.path import area_loads
from balken.model.cases import Cases
from balken.model.roofs import RoofArea

CEILING_LIMITS: Final = (240.0, 180.0)
"""Span over live and total deflection of the bottom chord of a jack, as of a ceiling joist (IRC
2021 table R301.7)."""
ROW: Final = 3
"""Jacks and frames stand in rows of more than two, or are taken as if they did not help one
another."""


def is_jack_tie(m: Member) -> bool:
    """Whether a piece is the bottom chord of a jack, which spans from its wall to the girder."""
    return m.kind is kinds.BOTTOM_CHORD and m.id.family == "bottom-chord"


def is_valley_rafter(m: Member) -> bool:
    """Whether a piece is a rafter of a frame set on another roof."""
    return m.kind is kinds.TOP_CHORD and m.id.row.startswith("V")


def short_checks(
    terms: Terms, roof: RoofArea, m: Member, spacing: float, count: int
) -> tuple[Check, ...]:
    """Checks of a piece between its two ends under its strip of roof or ceiling; none where its
    wood has no values.

    Args:
        terms: of the building.
        roof: its roof.
        m: the piece.
        spacing: between it and the next ones, mm.
        count: how many of its kind there are.
    """
    section = terms.sections.get(m.section)
    if section is None:
        return ()
    species, _, grade = m.material.partition(" ")
    timber = terms.timber
    value = timber.worth(species, grade, section)
    if value is None:
        return ()
    slope = abs(m.end[2] - m.start[2]) / m.run if m.run > 0 else 0.0
    if is_jack_tie(m):
        loads = Cases(roof.trusses.bottom_dead, roof.trusses.bottom_live)
        limits, slope = CEILING_LIMITS, 0.0
    else:
        loads = area_loads(roof, slope)
        limits = (roof.live_limit, roof.total_limit)
    if m.run <= 0 or not loads:
        return ()
    one = np.ones(1)
    line = rows_of([loads]).T * spacing
    together = timber.shared(count, section.breadth, spacing)
    batch = Batch(
        (section,),
        (value,),
        together * one,
        m.run * one,
        line,
        line * m.run / 2,
        LEAST_BEARING * one,
        limits[0] * one,
        limits[1] * one,
        slope * one,
        timber.sums(service_class(roof), terms.on_floors).under(loads),
    )
    # How its ends are held is not known here, so that bearing is left to who details it.
    return tuple(
        c
        for c in timber.spans.explain(batch, timber.spans.check(batch), 0)
        if c.name != "Bearing" and not math.isnan(c.ratio)
    )
