"""Box headers: flanges of timber that pull and push, boards nailed to their edges that take the shear.

Flanges by EN 1995-1-1 6.1.2 and 6.1.4, webs by 9.1.1(7), nails by 8.2.2; that the nails slip makes the
header softer (table 7.1). The upper flange is held sideways by the boards of the wall and the plates over
it. Loads at one place need an upright under them, which is told where one comes down.
"""

import math
from typing import Final

from balken.design.boxes import BoxStrength, with_shear
from balken.design.codes.eu.ec5.panels import edge_nails
from balken.design.codes.eu.ec5.worth import design_timber, timber_of
from balken.design.lines import Line
from balken.model.left_open import RECOMMENDED, LeftOpen
from balken.model.sections import Section

NAIL: Final = (2.8, 65.0)
"""Diameter and length, mm."""
APART: Final = 75.0
"""Between nails along the flanges, mm."""
GAMMA: Final = 1.30
"""γ_M of connections, and of boards at the least (EN 1995-1-1 table 2.3)."""
BOARD_SHEAR: Final = 6.8
BOARD_G: Final = 1080.0
"""f_v,k and G of OSB/3 over 10 mm, N/mm² (EN 12369-1, from memory)."""


CREEPS: Final = (1 + 2 * 0.8) / (1 + 0.8)
"""How much softer nails are taken, since they creep twice as much as timber (EN 1995-1-1 2.3.2.2(3)),
so that the sag at last is not too small."""


def slip_modulus(density: float, diameter: float) -> float:
    """K_ser of a nail whose hole is not bored, N/mm: ρ_m^1.5 d^0.8 / 30 (EN 1995-1-1 table 7.1)."""
    return math.pow(density, 1.5) * math.pow(diameter, 0.8) / 30


def box_strength(
    section: Section, species: str, grade: str, span: float, by: LeftOpen = RECOMMENDED
) -> BoxStrength | None:
    """What a box header resists without kmod; None where there are no values for its timber.

    Args:
        section: with its box.
        species: of its flanges.
        grade: of them, a strength class.
        span: mm.
        by: the values of a country.
    """
    box = section.box
    assert box is not None, f"{section.name} is no box"
    flange = Section(box.flange, box.nominal, box.thick, box.width)
    timber = timber_of(species, grade, flange)
    if timber is None:
        return None
    value = design_timber(timber, flange, by)
    arm = section.depth - box.thick
    axial = min(value.ft, value.fc)
    diameter, length = NAIL
    one, _ = edge_nails(box.panel, diameter, length, timber, 1.0)
    by_nails = one / GAMMA / APART * arm * box.faces
    high = section.depth - 2 * box.thick
    by_board = box.faces * box.panel * high * (1 + box.thick / high) * BOARD_SHEAR / GAMMA
    slips = slip_modulus(timber.mean_density, diameter) / APART
    soft = CREEPS * 2 / (box.faces * slips * arm**2) + 1 / (box.faces * BOARD_G * box.panel * arm)
    bends = value.e * 2 * box.area * (arm / 2) ** 2
    return BoxStrength(
        axial * box.area * arm,
        min(by_nails, by_board),
        with_shear(bends, 1 / soft, span),
        value.fc_perp * box.width,
        (
            Line("ft,0,d" if value.ft <= value.fc else "fc,0,d", axial, "stress", timber.table),
            Line("A", box.area, "steel", how="of one flange"),
            Line("arm", arm, "run", how="between the middles of the flanges"),
        ),
        (
            Line("Fv,Rk", one, "force", "EN 1995-1-1 8.2.2", f"{diameter:g} × {length:g} nail"),
            Line("s", APART, "run"),
            Line("V nails", by_nails, "force", how="Fv,Rk / γM / s × arm × faces"),
            Line("V boards", by_board, "force", "EN 1995-1-1 9.9"),
        ),
        (
            Line("E0,mean", value.e, "stress", timber.table),
            Line("I", 2 * box.area * (arm / 2) ** 2, "inertia", how="of the flanges"),
            Line(
                "GA", 1 / soft, "force", "EN 1995-1-1 table 7.1", "slip of the nails, G of boards"
            ),
        ),
        (
            Line("fc,90,d", value.fc_perp, "stress", timber.table),
            Line("b", box.width, "run", how="of the flange"),
        ),
    )
