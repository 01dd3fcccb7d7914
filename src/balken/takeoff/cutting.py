"""The cutting list: equal pieces together, with stock length and material cost."""

import math
from collections.abc import Mapping
from typing import NamedTuple

import msgspec

from balken.framing import kinds
from balken.framing.beams.fitting import ply_pieces
from balken.framing.member import Member
from balken.model.catalogue import catalogue_of, price_per_mm, sections_of, stock_length
from balken.model.names import HostName
from balken.model.sections import Box, Section
from balken.works.building import Checked

"""Pieces of trusses: plies of a girder are trusses side by side, each whole."""
SAME = 0.5
"""Pieces whose length differs by less are cut alike, mm."""


class CutLine(msgspec.Struct, frozen=True):
    """Equal pieces. Lengths mm; ``stock`` is the shortest length sold they come from, None where
    none is long enough."""

    section: str
    material: str
    role: str
    host: HostName
    count: int
    length: float
    blank: float
    stock: float | None
    cuts: tuple[str, ...]
    cost: float
    marks: tuple[str, ...]


def cutting_list(checked: Checked) -> tuple[CutLine, ...]:
    """All lumber, grouped by section, material, length and cuts, longest first within a
    section."""
    catalogue = catalogue_of(checked.project.system)
    sections = {
        **catalogue.boards,
        **sections_of(checked.project.system, checked.project.products),
    }
    groups: dict[tuple[object, ...], list[Piece]] = {}
    lumber = [
        m
        for m in checked.structure.members
        if m.kind is not kinds.SUBFLOOR and not m.kind.concrete and m.section in sections
    ]
    for m in lumber:
        for piece in pieces_of(m, sections, catalogue.stock[-1]):
            key = (
                piece.section,
                m.material,
                m.role,
                m.host,
                round(piece.length / SAME),
                round(piece.blank / SAME),
                m.cuts,
            )
            groups.setdefault(key, []).append(piece)
    found = []
    for pieces in groups.values():
        first = pieces[0]
        m, section = first.member, sections[first.section]
        # Lumber is sold in lengths; glued beams and steel are made to length.
        stock = stock_length(catalogue, first.blank) if section.product is None else first.blank
        price = price_per_mm(section, m.material.partition(" ")[2])
        cost = len(pieces) * (stock or first.blank) * price
        marks = tuple(dict.fromkeys(p.member.mark for p in pieces))
        found.append(
            CutLine(
                first.section,
                m.material,
                m.role,
                m.host,
                len(pieces),
                first.length,
                first.blank,
                stock,
                m.cuts,
                cost,
                marks,
            )
        )
    return tuple(sorted(found, key=lambda c: (c.section, c.material, -c.length, c.host, c.role)))


class Piece(NamedTuple):
    """One piece to be cut: the member it belongs to, its section and its lengths, mm."""

    member: Member
    section: str
    length: float
    blank: float


UPRIGHTS_APART = 406.4
"""Between the uprights of a box header, mm (16 in)."""


def _of_box(m: Member, box: Box, depth: float) -> list[Piece]:
    """Two flanges, and uprights between them at both ends and between."""
    high = depth - 2 * box.thick
    count = max(2, 1 + math.ceil(m.length / UPRIGHTS_APART - SAME / UPRIGHTS_APART))
    flanges = [Piece(m, box.flange, m.length, m.blank)] * 2
    return flanges + [Piece(m, box.flange, high, high)] * count


def pieces_of(m: Member, sections: Mapping[str, Section], longest: float) -> list[Piece]:
    """What a member is cut from: itself, or its plies with their splices over supports."""
    section = sections[m.section]
    if section.box is not None:
        return _of_box(m, section.box, section.depth)
    if section.plies == 1:
        return [Piece(m, m.section, m.length, m.blank)]
    one = m.section.split("-", 1)[1]
    if m.kind.of_truss:
        return [Piece(m, one, m.length, m.blank)] * section.plies
    stock = longest if section.product is None else m.length
    return [
        Piece(m, one, hi - lo, hi - lo)
        for ply in ply_pieces(m, section.plies, stock)
        for lo, hi in ply
    ]
