"""Kinds of what stands in the ground: footings, walls, slabs, pads and piers, and the sill on them."""

from typing import Final

import balken.framing.kinds.ifc as ifc
from balken.framing.kinds.kind import MemberKind

FOOTING: Final = MemberKind(
    "footing",
    ifc.footing("STRIP_FOOTING"),
    letter="F",
    concrete=5,
    strip=True,
    on_soil=True,
    under_posts=True,
    holds_posts=True,
    hard=True,
    removable=True,
)
LINK: Final = MemberKind(
    "link",
    ifc.footing("USERDEFINED", "STEP LINK"),
    letter="L",
    concrete=6,
    why_no_check="it lies between two footings on the soil",
    removable=True,
)
STEM: Final = MemberKind(
    "stem",
    ifc.wall("SOLIDWALL"),
    letter="S",
    concrete=1,
    under_walls=True,
    under_posts=True,
    holds_posts=True,
    hard=True,
    removable=True,
)
CORBEL: Final = MemberKind(
    "corbel",
    ifc.member("USERDEFINED", "CORBEL"),
    letter="K",
    concrete=2,
    hard=True,
    removable=True,
)
SLAB: Final = MemberKind(
    "slab",
    ifc.slab("BASESLAB"),
    letter="D",
    concrete=9,
    on_soil=True,
    under_posts=True,
    holds_posts=True,
    hard=True,
    removable=True,
)
EDGE: Final = MemberKind(
    "edge",
    ifc.footing("USERDEFINED", "THICKENED EDGE"),
    letter="E",
    concrete=8,
    strip=True,
    on_soil=True,
    under_walls=True,
    under_posts=True,
    holds_posts=True,
    hard=True,
    removable=True,
)
GRADE_BEAM: Final = MemberKind(
    "grade beam",
    ifc.footing("FOOTING_BEAM"),
    letter="B",
    concrete=7,
    strip=True,
    on_soil=True,
    under_walls=True,
    under_posts=True,
    at_one_place=True,
    hard=True,
    removable=True,
)
BLINDING: Final = MemberKind(
    "blinding",
    ifc.slab("USERDEFINED", "BLINDING"),
    letter="Z",
    concrete=11,
    why_no_check="it lies on the soil all along",
    removable=True,
)
SILL: Final = MemberKind(
    "sill",
    ifc.member("PLATE"),
    letter="P",
    why_no_check="it lies on the foundation all along",
    under_posts=True,
    removable=True,
)
PAD: Final = MemberKind(
    "pad",
    ifc.footing("PAD_FOOTING"),
    concrete=4,
    on_soil=True,
    under_posts=True,
    holds_posts=True,
    hard=True,
    removable=True,
)
PIER: Final = MemberKind(
    "pier",
    ifc.column("USERDEFINED", "PIER"),
    concrete=3,
    under_posts=True,
    holds_posts=True,
    upright=True,
    anywhere=True,
    at_one_place=True,
    hard=True,
    removable=True,
)
