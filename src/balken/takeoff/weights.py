"""What pieces weigh, and what they belong to is called, in lists."""

from typing import Final

from balken.framing.member import Member
from balken.model.catalogue import box_area, weight_of
from balken.model.sections import STEEL, Section
from balken.model.walls import Wall, called
from balken.works.building import Checked

CONCRETE_WEIGHT: Final = 24.0e-6
"""Reinforced, N/mm³ (EN 1991-1-1 table A.1: 25 kN/m³ with its steel; 150 lb/ft³ is 23.6)."""


def called_host(record: object, key: str) -> str:
    """What a host is called: a wall with the word before its name, else its name, else its key."""
    return called(record) if isinstance(record, Wall) else str(getattr(record, "name", "") or key)


def net_volume(checked: Checked, m: Member, sections: dict[str, Section]) -> float:
    """What is in a piece, mm³: concrete counted once, rolled sections and boxes by what they are made of."""
    section = sections.get(m.section)
    if section is not None and section.family in STEEL:
        return section.area * m.length
    if section is not None and section.box is not None:
        return box_area(section.box, section.depth) * m.length
    return checked.structure.volume(m)


def weight_of_member(checked: Checked, m: Member, sections: dict[str, Section]) -> float | None:
    """What a piece weighs, N; None of what is made of neither wood, steel nor concrete."""
    if m.kind.concrete:
        return checked.structure.volume(m) * CONCRETE_WEIGHT
    section = sections.get(m.section)
    return None if section is None else weight_of(section) * m.length
