"""Box headers: flanges of lumber that pull and push, panels nailed to their edges that take the shear.

The flanges by NDS-2018 4.3, the nailed panels by the unit shears of SDPWS-2015 table 4.3A without the
duration of wind that stands in them. The upper flange is held sideways by the panels of the wall and the
plates over it. Loads at one place need an upright under them, which is told where one comes down.
"""

from typing import Final

from balken.design.boxes import BoxStrength, with_shear
from balken.design.codes.us.nds.dowels import GRAVITY
from balken.design.codes.us.nds.factors import adjusted
from balken.design.codes.us.nds.values import NoValueError, reference
from balken.design.codes.us.panels import EDGES, PLF, TABLE
from balken.design.codes.us.sdpws import ALLOWABLE, KIP_PER_INCH, species_factor
from balken.design.lines import Line
from balken.model.sections import Section

PANEL: Final = ("7/16", "8d")
APART: Final = EDGES.index(3)
"""Nails 3 in apart along the flanges."""
OF_WIND: Final = 1.6
"""C_D that stands in the unit shears of panels (NDS-2018 table 2.3.2)."""


def box_strength(section: Section, species: str, grade: str, span: float) -> BoxStrength | None:
    """What a box header resists; None where there are no values for its wood.

    Args:
        section: with its box.
        species: of its flanges.
        grade: of them.
        span: mm.
    """
    box = section.box
    assert box is not None, f"{section.name} is no box"
    gravity = GRAVITY.get(species)
    try:
        value = adjusted(reference(species, grade, box.nominal), species, grade, box.nominal)
    except NoValueError:
        return None
    if gravity is None:
        return None
    arm = section.depth - box.thick
    axial = min(value.ft, value.fc)
    row, factor = TABLE[PANEL], species_factor(gravity)
    unit = row.seismic[APART] * PLF / ALLOWABLE / OF_WIND * factor * box.faces
    ga = row.stiff[APART] * KIP_PER_INCH * arm * box.faces
    bends = value.e * 2 * box.area * (arm / 2) ** 2
    table = value.reference.table
    return BoxStrength(
        axial * box.area * arm,
        unit * arm,
        with_shear(bends, ga, span),
        value.fc_perp * box.width,
        (
            Line("Ft′" if value.ft <= value.fc else "Fc′", axial, "stress", table),
            Line("A", box.area, "steel", how="of one flange"),
            Line("arm", arm, "run", how="between the middles of the flanges"),
        ),
        (
            Line("v", unit, "line load", "SDPWS table 4.3A", "7/16 in, 8d, 3 in, over 2 and 1.6"),
            Line("faces", box.faces, "factor"),
            Line("arm", arm, "run"),
        ),
        (
            Line("E", value.e, "stress", table),
            Line("I", 2 * box.area * (arm / 2) ** 2, "inertia", how="of the flanges"),
            Line("GA", ga, "force", "SDPWS table 4.3A", "Ga × arm × faces"),
        ),
        (
            Line("Fc perp", value.fc_perp, "stress", table),
            Line("b", box.width, "run", how="of the flange"),
        ),
    )
