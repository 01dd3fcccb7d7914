"""The cutting list: equal pieces together, with stock length and material cost."""

import msgspec

from balken.design.building import Checked
from balken.framing.member import CONCRETE_ROLES
from balken.model.catalogue import catalogue_of, price_per_mm, sections_of, stock_length

SAME = 0.5
"""Pieces whose length differs by less are cut alike, mm."""


class CutLine(msgspec.Struct, frozen=True):
    """Equal pieces. Lengths mm; ``stock`` is the shortest length sold they come from, None where none is long enough."""

    section: str
    material: str
    role: str
    host: str
    count: int
    length: float
    blank: float
    stock: float | None
    cuts: tuple[str, ...]
    cost: float
    marks: tuple[str, ...]


def cutting_list(checked: Checked) -> tuple[CutLine, ...]:
    """Return all lumber, grouped by section, material, length and cuts, longest first within a section."""
    catalogue = catalogue_of(checked.project.system)
    sections = sections_of(checked.project.system, checked.project.products)
    groups: dict[tuple[object, ...], list[int]] = {}
    lumber = [
        m for m in checked.structure.members if m.role not in (*CONCRETE_ROLES, "subfloor") and m.section in sections
    ]
    for i, m in enumerate(lumber):
        key = (m.section, m.material, m.role, m.host, round(m.length / SAME), round(m.blank / SAME), m.cuts)
        groups.setdefault(key, []).append(i)
    found = []
    for places in groups.values():
        m = lumber[places[0]]
        section = sections[m.section]
        # Lumber is sold in lengths; glued beams and steel are made to length.
        stock = stock_length(catalogue, m.blank) if section.product is None else m.blank
        price = price_per_mm(section, m.material.partition(" ")[2])
        cost = len(places) * (stock or m.blank) * price
        marks = tuple(lumber[i].mark for i in places)
        found.append(
            CutLine(m.section, m.material, m.role, m.host, len(places), m.length, m.blank, stock, m.cuts, cost, marks)
        )
    return tuple(sorted(found, key=lambda c: (c.section, c.material, -c.length, c.host, c.role)))
