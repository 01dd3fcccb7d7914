"""Beams and the posts under them."""

from typing import Final

import balken.framing.kinds.ifc as ifc
from balken.framing.kinds.kind import MemberKind

BEAM: Final = MemberKind(
    "beam",
    ifc.beam("BEAM"),
    carries=True,
    under_posts=True,
    carries_posts=1,
    at_one_place=True,
    holds_sideways=True,
    movable=True,
    removable=True,
)
POST: Final = MemberKind(
    "post",
    ifc.column("COLUMN"),
    carries_posts=2,
    upright=True,
    anywhere=True,
    at_one_place=True,
)
