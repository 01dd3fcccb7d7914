"""Kinds of what rafter roofs are made of."""

from typing import Final

import balken.framing.kinds.ifc as ifc
from balken.framing.kinds.kind import MemberKind

RAFTER: Final = MemberKind(
    "rafter",
    ifc.member("RAFTER"),
    spans=True,
    held_all_along=True,
    holds_sideways=True,
    by_row=True,
    removable=True,
)
RIDGE: Final = MemberKind(
    "ridge",
    ifc.beam("USERDEFINED", "RIDGE BOARD"),
    part="ridge",
)
RIDGE_BEAM: Final = MemberKind(
    "ridge beam",
    ifc.beam("BEAM"),
    carries=True,
    at_one_place=True,
    holds_sideways=True,
    part="ridge",
)
HIP: Final = MemberKind(
    "hip",
    ifc.member("USERDEFINED", "HIP RAFTER"),
    carries=True,
    at_one_place=True,
    held_all_along=True,
    holds_sideways=True,
    removable=True,
    part="hips",
)
VALLEY: Final = MemberKind(
    "valley",
    ifc.member("USERDEFINED", "VALLEY RAFTER"),
    carries=True,
    at_one_place=True,
    held_all_along=True,
    holds_sideways=True,
    removable=True,
    part="valleys",
)
PURLIN: Final = MemberKind(
    "purlin",
    ifc.member("PURLIN"),
    carries=True,
    at_one_place=True,
    holds_sideways=True,
    part="purlins",
)
STRUT: Final = MemberKind(
    "strut",
    ifc.member("STRUT"),
    at_one_place=True,
    part="struts",
)
BARGE_RAFTER: Final = MemberKind(
    "barge rafter",
    ifc.member("USERDEFINED", "BARGE RAFTER"),
    part="barge rafters",
)
LOOKOUT: Final = MemberKind(
    "lookout",
    ifc.member("USERDEFINED", "LOOKOUT"),
    part="lookouts",
)
COLLAR_TIE: Final = MemberKind(
    "collar tie",
    ifc.member("BRACE"),
    why_no_check="it holds a pair together against wind, which is not followed yet",
    part="collar ties",
)
TIE: Final = MemberKind(
    "tie",
    ifc.member("BRACE"),
    part="ties",
)
FASCIA: Final = MemberKind(
    "fascia",
    ifc.member("USERDEFINED", "FASCIA"),
    why_no_check="it hangs on the ends of rafters and carries nothing",
    part="fascia",
)
VALLEY_PLATE: Final = MemberKind(
    "valley plate",
    ifc.member("PLATE"),
    why_no_check="it lies on the roof below all along",
    part="valleys",
)
