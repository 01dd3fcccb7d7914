"""Walls of wood structural panels against wind and earthquake by SDPWS-2015 table 4.3A: nominal unit
shears and apparent stiffness, blocked, one face; from memory, held against check values."""

from typing import Final, NamedTuple

from balken.design.codes.timber import Racked, Racking
from balken.design.codes.us.nds.dowels import GRAVITY
from balken.design.codes.us.sdpws import (
    ALLOWABLE,
    KIP_PER_INCH,
    SLENDEREST,
    slenderness_factor,
    species_factor,
)
from balken.design.lines import Line
from balken.units import FOOT, INCH, LB

PLF: Final = LB / FOOT


class Row(NamedTuple):
    """A panel and its nails: by edge spacing 6, 4, 3 and 2 in, plf and kip/in (oriented strand)."""

    seismic: tuple[int, int, int, int]
    wind: tuple[int, int, int, int]
    stiff: tuple[int, int, int, int]


EDGES: Final = (6, 4, 3, 2)
TABLE: Final[dict[tuple[str, str], Row]] = {
    ("3/8", "6d"): Row((400, 600, 780, 1020), (560, 840, 1090, 1430), (13, 18, 24, 37)),
    ("3/8", "8d"): Row((440, 640, 820, 1060), (615, 895, 1150, 1485), (17, 25, 31, 45)),
    ("7/16", "8d"): Row((480, 700, 900, 1170), (670, 980, 1260, 1640), (15, 22, 28, 42)),
    ("15/32", "8d"): Row((520, 760, 980, 1280), (730, 1065, 1370, 1790), (13, 19, 25, 39)),
    ("15/32", "10d"): Row((620, 920, 1200, 1540), (870, 1290, 1680, 2155), (22, 30, 37, 52)),
    ("19/32", "10d"): Row((680, 1020, 1330, 1740), (950, 1430, 1860, 2435), (19, 26, 33, 48)),
}
"""Sheathing grade on framing of G 0.5 and over."""
WIND: Final = 0.6
QUAKE: Final = 0.7
"""What of them allowable stress design holds (ASCE 7-16 2.4.1, 2.4.5)."""


def racked(asked: Racking) -> Racked:
    """What a stretch of wall holds along it, N, in allowable terms over the factor on the load: so that
    it is held against wind or earthquake as they are."""
    row = TABLE.get((asked.panel, asked.nail))
    inches = asked.edges / INCH
    place = next((i for i, e in enumerate(EDGES) if abs(e - inches) < 0.1), None)
    if row is None or place is None:
        return Racked(
            why=f"SDPWS table 4.3A has no {asked.panel} panels with {asked.nail} nails so"
        )
    gravity = GRAVITY.get(asked.species)
    if gravity is None:
        return Racked(why=f"there is no specific gravity for {asked.species}")
    if asked.height / asked.length > SLENDEREST + 1e-9:
        return Racked(why=f"it is more than {SLENDEREST:g} times as high as long")
    nominal = (row.seismic if asked.quake else row.wind)[place] * PLF
    species = species_factor(gravity)
    slender = slenderness_factor(asked.height, asked.length)
    allowed = nominal / ALLOWABLE * species * slender * asked.faces
    counts = QUAKE if asked.quake else WIND
    words = f"{asked.panel} in, {asked.nail}, {inches:.0f} in"
    lines = (
        Line("v", nominal, "line load", "SDPWS table 4.3A", words),
        Line("1 − (0.5 − G)", species, "factor", "SDPWS table 4.3A, note 3"),
        Line("h / b", asked.height / asked.length, "factor", "SDPWS 4.3.4"),
        Line("faces", asked.faces, "factor", "SDPWS 4.3.3.3"),
        Line("v allowed", allowed, "line load", "SDPWS 4.3.3"),
    )
    stiff = row.stiff[place] * KIP_PER_INCH * asked.faces
    return Racked(allowed * asked.length / counts, lines, "SDPWS 4.3.3", stiff=stiff, counts=counts)
