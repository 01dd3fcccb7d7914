"""Kinds of what rafter roofs are made of."""

from typing import Final

from balken.framing.kinds.kind import MemberKind, beam, member

RAFTER: Final = MemberKind(
    "rafter",
    member("RAFTER"),
    spans=True,
    held_all_along=True,
    holds_sideways=True,
    by_row=True,
    removable=True,
)
RIDGE: Final = MemberKind(
    "ridge",
    beam("USERDEFINED", "RIDGE BOARD"),
    part="ridge",
)
RIDGE_BEAM: Final = MemberKind(
    "ridge beam",
    beam("BEAM"),
    carries=True,
    at_one_place=True,
    holds_sideways=True,
    part="ridge",
)
HIP: Final = MemberKind(
    "hip",
    member("USERDEFINED", "HIP RAFTER"),
    carries=True,
    at_one_place=True,
    held_all_along=True,
    holds_sideways=True,
    removable=True,
    part="hips",
)
VALLEY: Final = MemberKind(
    "valley",
    member("USERDEFINED", "VALLEY RAFTER"),
    carries=True,
    at_one_place=True,
    held_all_along=True,
    holds_sideways=True,
    removable=True,
    part="valleys",
)
PURLIN: Final = MemberKind(
    "purlin",
    member("PURLIN"),
    carries=True,
    at_one_place=True,
    holds_sideways=True,
    part="purlins",
)
STRUT: Final = MemberKind(
    "strut",
    member("STRUT"),
    at_one_place=True,
    part="struts",
)
BARGE_RAFTER: Final = MemberKind(
    "barge rafter",
    member("USERDEFINED", "BARGE RAFTER"),
    part="barge rafters",
)
LOOKOUT: Final = MemberKind(
    "lookout",
    member("USERDEFINED", "LOOKOUT"),
    part="lookouts",
)
COLLAR_TIE: Final = MemberKind(
    "collar tie",
    member("BRACE"),
    why_no_check="it holds a pair together against wind, which is not followed yet",
    part="collar ties",
)
TIE: Final = MemberKind(
    "tie",
    member("BRACE"),
    part="ties",
)
FASCIA: Final = MemberKind(
    "fascia",
    member("USERDEFINED", "FASCIA"),
    why_no_check="it hangs on the ends of rafters and carries nothing",
    part="fascia",
)
VALLEY_PLATE: Final = MemberKind(
    "valley plate",
    member("PLATE"),
    why_no_check="it lies on the roof below all along",
    part="valleys",
)
