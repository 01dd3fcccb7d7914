"""Pieces of trusses: a truss is one carrier, which its first bottom chord brings."""

from typing import Final

import balken.framing.kinds.ifc as ifc
from balken.framing.kinds.kind import MemberKind

TOP_CHORD: Final = MemberKind(
    "top chord",
    ifc.member("CHORD"),
    letter="T",
    of_truss=True,
)
BOTTOM_CHORD: Final = MemberKind(
    "bottom chord",
    ifc.member("CHORD"),
    letter="B",
    of_truss=True,
    holds_sideways=True,
    removable=True,
)
WEB: Final = MemberKind(
    "web",
    ifc.member("STRUT"),
    letter="W",
    of_truss=True,
)
STUD: Final = MemberKind(
    "stud",
    ifc.member("STUD"),
    why_no_check="it carries the sheathing of a gable, none of the roof",
)

OF_TRUSS: Final = (TOP_CHORD, BOTTOM_CHORD, WEB)
"""In the order of a truss's sections."""
