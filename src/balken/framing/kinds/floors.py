"""Kinds of what floors are made of."""

from typing import Final

from balken.framing.kinds.kind import MemberKind, beam, member, plate, slab

JOIST: Final = MemberKind(
    "joist",
    beam("JOIST"),
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
    beam("JOIST"),
    spans=True,
    holds_sideways=True,
    movable=True,
    by_row=True,
    removable=True,
)
TRIMMER: Final = MemberKind(
    "trimmer",
    beam("USERDEFINED", "TRIMMER"),
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
    beam("USERDEFINED", "HEADER"),
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
    beam("USERDEFINED", "RIM JOIST"),
    why_no_check="it lies on the plate all along",
    movable=True,
    removable=True,
)
LEDGER: Final = MemberKind(
    "ledger",
    beam("USERDEFINED", "LEDGER"),
    carries=True,
    holds_sideways=True,
    movable=True,
    removable=True,
)
BLOCKING: Final = MemberKind(
    "blocking",
    member("USERDEFINED", "BLOCKING"),
    why_no_check="it holds joists in place",
    movable=True,
    removable=True,
)
SQUASH_BLOCK: Final = MemberKind(
    "squash block",
    member("USERDEFINED", "SQUASH BLOCK"),
    why_no_check="it fills what is between a post and the plate under it",
    movable=True,
    removable=True,
)
SPLICE: Final = MemberKind(
    "splice",
    member("USERDEFINED", "SPLICE"),
    why_no_check="it is nailed to the joists it joins",
    movable=True,
    removable=True,
)
SUBFLOOR: Final = MemberKind(
    "subfloor",
    plate("SHEET"),
    why_no_check="it lies on joists all along",
)
FLOOR_SLAB: Final = MemberKind(
    "floor slab",
    slab("FLOOR"),
    concrete=10,
    under_posts=True,
    carries_posts=3,
    hard=True,
    holds_sideways=True,
    removable=True,
)
