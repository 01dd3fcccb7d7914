"""Kinds of what walls of studs are made of."""

from typing import Final

import balken.framing.kinds.ifc as ifc
from balken.framing.kinds.kind import MemberKind

WALL_STUD: Final = MemberKind(
    "wall stud", ifc.member("STUD"), of_wall=True, removable=True, slides=True
)
KING: Final = MemberKind("king stud", ifc.member("STUD"), of_wall=True, removable=True)
JACK: Final = MemberKind("jack stud", ifc.member("STUD"), of_wall=True, removable=True)
CRIPPLE: Final = MemberKind(
    "cripple",
    ifc.member("STUD"),
    of_wall=True,
    why_no_check="it is shorter than a stud and carries no more",
    removable=True,
    slides=True,
)
BOTTOM_PLATE: Final = MemberKind(
    "bottom plate",
    ifc.member("PLATE"),
    of_wall=True,
    why_no_check="it lies all along; what presses it is checked of the studs",
    removable=True,
    slides=True,
)
TOP_PLATE: Final = MemberKind(
    "top plate",
    ifc.member("PLATE"),
    of_wall=True,
    why_no_check="it lies on the studs; what bears between two of them is told of the wall",
    removable=True,
    slides=True,
)
WALL_HEADER: Final = MemberKind(
    "wall header",
    ifc.beam("LINTEL"),
    of_wall=True,
    carries=True,
    at_one_place=True,
    held_all_along=True,
    removable=True,
)
LINTEL: Final = MemberKind(
    "lintel",
    ifc.beam("LINTEL"),
    concrete=12,
    of_wall=True,
    carries=True,
    at_one_place=True,
    hard=True,
    removable=True,
)
ROUGH_SILL: Final = MemberKind(
    "rough sill",
    ifc.member("PLATE"),
    of_wall=True,
    why_no_check="it carries the window alone",
    removable=True,
)
WALL_BLOCKING: Final = MemberKind(
    "wall blocking",
    ifc.member("USERDEFINED", "BLOCKING"),
    of_wall=True,
    why_no_check="it holds studs in place and stops fire",
    removable=True,
    slides=True,
)
GABLE_PLATE: Final = MemberKind(
    "gable plate",
    ifc.member("PLATE"),
    of_wall=True,
    why_no_check="it lies on the plate of the wall below all along",
    removable=True,
)
RAKE_PLATE: Final = MemberKind(
    "rake plate",
    ifc.member("PLATE"),
    of_wall=True,
    why_no_check="it lies on the studs of the gable; rafters carry the roof",
    removable=True,
)
GABLE_STUD: Final = MemberKind("gable stud", ifc.member("STUD"), of_wall=True, removable=True)
