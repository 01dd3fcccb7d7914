"""Kinds of pieces of a rafter roof: which are there, and what each is cut from."""

from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.model.names import MemberName
from balken.model.roofs import RafterPart, RoofArea
from balken.model.sections import Section


def part_of(name: MemberName, kind: MemberKind) -> RafterPart | None:
    """Among which pieces of its roof it is, jacks told by their name; None of a common rafter."""
    return "jacks" if name.family.endswith(" jack") else kind.part


def is_there(roof: RoofArea, m: Member) -> bool:
    """Whether a piece is of a kind that is not left out."""
    return part_of(m.id, m.kind) not in roof.rafters.left_out


def cut_from(
    roof: RoofArea, part: RafterPart | None, usual: Section, sections: dict[str, Section]
) -> Section:
    """What pieces of a kind are cut from: what is typed, else what is usual for them."""
    typed = dict(roof.rafters.sections).get(part) if part else None
    return sections.get(typed, usual) if typed else usual
