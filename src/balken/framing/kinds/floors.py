"""Kinds of what floors are made of."""

from typing import Final

import balken.framing.kinds.ifc as ifc
from balken.framing.kinds.kind import MemberKind

JOIST: Final = MemberKind(
    "joist",
    ifc.beam("JOIST"),
    spans=True,
    in_floor=True,
    carries_posts=6,
    held_all_along=True,
    holds_sideways=True,
    movable=True,
    by_row=True,
    removable=True,
)
CEILING_JOIST: Final = MemberKind(
    "ceiling joist",
    ifc.beam("JOIST"),
    spans=True,
    holds_sideways=True,
    movable=True,
    by_row=True,
    removable=True,
)
TRIMMER: Final = MemberKind(
    "trimmer",
    ifc.beam("USERDEFINED", "TRIMMER"),
    carries=True,
    in_floor=True,
    carries_posts=4,
    at_one_place=True,
    held_all_along=True,
    holds_sideways=True,
    movable=True,
    by_row=True,
    removable=True,
)
HEADER: Final = MemberKind(
    "header",
    ifc.beam("USERDEFINED", "HEADER"),
    carries=True,
    in_floor=True,
    carries_posts=5,
    at_one_place=True,
    held_all_along=True,
    holds_sideways=True,
    movable=True,
    removable=True,
    part="headers",
)
RIM: Final = MemberKind(
    "rim",
    ifc.beam("USERDEFINED", "RIM JOIST"),
    why_no_check="it lies on the plate all along",
    movable=True,
    removable=True,
)
LEDGER: Final = MemberKind(
    "ledger",
    ifc.beam("USERDEFINED", "LEDGER"),
    carries=True,
    holds_sideways=True,
    movable=True,
    removable=True,
)
BLOCKING: Final = MemberKind(
    "blocking",
    ifc.member("USERDEFINED", "BLOCKING"),
    why_no_check="it holds joists in place",
    movable=True,
    removable=True,
)
BRIDGING: Final = MemberKind(
    "bridging",
    ifc.member("BRACE"),
    why_no_check="it holds joists upright",
    removable=True,
)
SQUASH_BLOCK: Final = MemberKind(
    "squash block",
    ifc.member("USERDEFINED", "SQUASH BLOCK"),
    why_no_check="it fills what is between a post and the plate under it",
    movable=True,
    removable=True,
)
SPLICE: Final = MemberKind(
    "splice",
    ifc.member("USERDEFINED", "SPLICE"),
    why_no_check="it is nailed to the joists it joins",
    movable=True,
    removable=True,
)
SUBFLOOR: Final = MemberKind(
    "subfloor",
    ifc.plate("SHEET"),
    why_no_check="it lies on joists all along",
)
FLOOR_SLAB: Final = MemberKind(
    "floor slab",
    ifc.slab("FLOOR"),
    concrete=10,
    under_posts=True,
    carries_posts=3,
    hard=True,
    holds_sideways=True,
    removable=True,
)
