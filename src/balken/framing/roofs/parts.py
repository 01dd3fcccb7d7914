"""Kinds of pieces of a rafter roof: which are there, and what each is cut from."""

from typing import Final

from balken.framing.member import Member
from balken.model.names import MemberName
from balken.model.roofs import RafterPart, RoofArea
from balken.model.sections import Section

PART_OF: Final[dict[str, RafterPart]] = {
    "ridge": "ridge",
    "ridge beam": "ridge",
    "hip": "hips",
    "valley": "valleys",
    "purlin": "purlins",
    "strut": "struts",
    "barge rafter": "barge rafters",
    "lookout": "lookouts",
    "collar tie": "collar ties",
    "tie": "ties",
    "fascia": "fascia",
    "header": "headers",
    "valley plate": "valleys",
}
"""By the role of a member; jacks are told by their name."""


def part_of(name: MemberName, role: str) -> RafterPart | None:
    """The kind of a piece by its name and role; None of a common rafter."""
    return "jacks" if name.family.endswith(" jack") else PART_OF.get(role)


def is_there(roof: RoofArea, m: Member) -> bool:
    """Whether a piece is of a kind that is not left out."""
    return part_of(m.id, m.role) not in roof.rafters.left_out


def cut_from(
    roof: RoofArea, part: RafterPart | None, usual: Section, sections: dict[str, Section]
) -> Section:
    """What pieces of a kind are cut from: what is typed, else what is usual for them."""
    typed = dict(roof.rafters.sections).get(part) if part else None
    return sections.get(typed, usual) if typed else usual
