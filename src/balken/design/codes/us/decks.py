"""Floors and roofs of wood structural panels as diaphragms by SDPWS-2015 tables 4.2A (blocked) and 4.2C
(not), nominal unit shears; panels of sheathing grade on framing 2 in wide, nails 6 in apart at all
supported edges, the lesser of all layouts of panels; from memory."""

from typing import Final, NamedTuple

from balken.design.codes.timber import Decked, Decking
from balken.design.codes.us.nds.dowels import GRAVITY
from balken.design.codes.us.panels import PLF, QUAKE, WIND
from balken.design.codes.us.sdpws import ALLOWABLE, species_factor
from balken.design.lines import Line
from balken.units import INCH


class Row(NamedTuple):
    """A panel with its nails: seismic and wind, plf."""

    panel: str
    thick: float
    """in."""
    nail: str
    blocked: tuple[int, int]
    bare: tuple[int, int]


ROWS: Final = (
    Row("3/8", 0.375, "8d", (480, 670), (320, 450)),
    Row("7/16", 0.4375, "8d", (510, 715), (340, 475)),
    Row("15/32", 0.46875, "8d", (540, 755), (360, 505)),
    Row("19/32", 0.59375, "10d", (640, 895), (430, 600)),
)
"""The thinnest first; thicker panels count as the thickest of them."""
LONGEST: Final = {True: 4.0, False: 3.0}
"""Length over depth, blocked or not (SDPWS-2015 table 4.2.4)."""


def decked(asked: Decking) -> Decked:
    """What a diaphragm holds, N/mm, in allowable terms over the factor on the load."""
    row = next((r for r in reversed(ROWS) if asked.thick >= r.thick * INCH - 0.3), None)
    if row is None:
        return Decked(why=f"SDPWS table 4.2A begins with panels of {ROWS[0].panel} in")
    gravity = GRAVITY.get(asked.species)
    if gravity is None:
        return Decked(why=f"there is no specific gravity for {asked.species}")
    limit = LONGEST[asked.blocked]
    if asked.length / asked.depth > limit + 1e-9:
        bare = "" if asked.blocked else " without blocking"
        return Decked(
            why=f"it is more than {limit:g} times as long as deep{bare} (SDPWS table 4.2.4)"
        )
    table = "4.2A" if asked.blocked else "4.2C"
    nominal = (row.blocked if asked.blocked else row.bare)[0 if asked.quake else 1] * PLF
    species = species_factor(gravity)
    allowed = nominal / ALLOWABLE * species
    counts = QUAKE if asked.quake else WIND
    lines = (
        Line(
            "v", nominal, "line load", f"SDPWS table {table}", f"{row.panel} in, {row.nail}, 6 in"
        ),
        Line("1 − (0.5 − G)", species, "factor", f"SDPWS table {table}, note 2"),
        Line("v allowed", allowed, "line load", "SDPWS 4.2.3"),
    )
    return Decked(allowed / counts, lines, "SDPWS 4.2.3", counts=counts)
