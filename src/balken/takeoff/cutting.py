"""The cutting list: equal pieces together, with their share of the boards they are cut from and its cost; and
the boards."""

import math
from collections.abc import Mapping
from typing import Final, NamedTuple

import msgspec

from balken.framing import kinds
from balken.framing.beams.fitting import ply_pieces
from balken.framing.member import Member
from balken.model.catalogue import catalogue_of, price_per_mm, sections_of
from balken.model.names import HostName, MemberName
from balken.model.sections import Box, Section
from balken.model.stock import StockRule
from balken.progress import Tell, unheard
from balken.recall import remembered
from balken.takeoff.boards import Board, Cut, Plan, Saw, cutting_plan, refined
from balken.works.building import Checked

SAME = 0.5
"""Pieces whose length differs by less are cut alike, mm."""


class CutLine(msgspec.Struct, frozen=True):
    """Equal pieces. Lengths mm; ``bought`` is their share of the boards they come from; nothing where no
    board is long enough."""

    section: str
    material: str
    role: str
    host: HostName
    count: int
    length: float
    blank: float
    bought: float
    cuts: tuple[str, ...]
    cost: float
    marks: tuple[str, ...]
    names: tuple[MemberName, ...] = ()


class SectionPlan(NamedTuple):
    """The boards of one section and material."""

    section: str
    material: str
    saw: Saw
    plan: Plan
    price: float
    """Of a mm."""
    to_length: bool
    """Glued wood and steel are made as long as they are wanted."""


class Piece(NamedTuple):
    """One piece to be cut: the member it belongs to, its section and its lengths, mm."""

    member: Member
    section: str
    length: float
    blank: float


def lumber_of(checked: Checked) -> list[Piece]:
    """All pieces to be cut: members, plies, flanges; in the order of the structure."""
    sections = _sections(checked)
    longest = catalogue_of(checked.project.system).stock[-1]
    return [
        piece
        for m in checked.structure.members
        if m.kind is not kinds.SUBFLOOR and not m.kind.concrete and m.section in sections
        for piece in pieces_of(m, sections, longest)
    ]


def _sections(checked: Checked) -> dict[str, Section]:
    system = checked.project.system
    return {**catalogue_of(system).boards, **sections_of(system, checked.project.products)}


def section_plans(checked: Checked, tell: Tell = unheard) -> tuple[SectionPlan, ...]:
    """A cutting plan for each section and material: as it is there at once, or refined where the project asks
    for that.

    Args:
        checked: the building.
        tell: takes in how far it is; what it raises ends the work.
    """
    groups: dict[tuple[str, str], list[Cut]] = {}
    for piece in lumber_of(checked):
        key = (piece.section, piece.member.material)
        groups.setdefault(key, []).append(Cut(round(piece.blank, 3), piece.member.mark))
    sections = _sections(checked)
    rule, sold = checked.project.stock, catalogue_of(checked.project.system).stock
    found = []
    for (section, material), cuts in sorted(groups.items()):
        tell(f"Boards of {section} {material} …")
        found.append(_plan(rule, sold, sections[section], material, tuple(cuts)))
    return tuple(found)


def cut_from_lengths(checked: Checked, tell: Tell = unheard) -> list[SectionPlan]:
    """The plans of what is bought in lengths."""
    return [p for p in section_plans(checked, tell) if not p.to_length and p.plan.boards]


@remembered
def _plan(
    rule: StockRule,
    sold: tuple[float, ...],
    section: Section,
    material: str,
    cuts: tuple[Cut, ...],
) -> SectionPlan:
    price = price_per_mm(section, material.partition(" ")[2])
    if section.product is not None:
        boards = tuple(Board(c.length, (c,)) for c in cuts)
        saw = Saw(tuple(sorted({c.length for c in cuts})))
        plan = Plan(boards, (), sum(c.length for c in cuts))
        return SectionPlan(section.name, material, saw, plan, price, to_length=True)
    saw = saw_of(rule, sold, section.name)
    mine = [o for o in rule.offcuts if (o.section, o.material) == (section.name, material)]
    plan = cutting_plan(cuts, saw, [o.length for o in mine for _ in range(o.count)])
    if rule.refined:
        plan = refined(plan, saw, LONGEST)
    return SectionPlan(section.name, material, saw, plan, price, to_length=False)


LONGEST: Final = 20.0
"""A section's plan is refined no longer, s: what is usual takes one or two."""


def saw_of(rule: StockRule, sold: tuple[float, ...], section: str) -> Saw:
    """What a section is cut from: lengths of its own, else those of the project, else those sold."""
    own = next((x.lengths for x in rule.of_sections if x.section == section), ())
    return Saw(tuple(sorted(own or rule.lengths or sold)), rule.kerf, rule.trim)


def cutting_list(checked: Checked) -> tuple[CutLine, ...]:
    """All lumber, grouped by section, material, length and cuts, longest first within a
    section."""
    groups: dict[tuple[object, ...], list[Piece]] = {}
    for piece in lumber_of(checked):
        m = piece.member
        size = (round(piece.length / SAME), round(piece.blank / SAME))
        key = (piece.section, m.material, m.role, m.host, size, m.cuts)
        groups.setdefault(key, []).append(piece)
    plans = {(p.section, p.material): p for p in section_plans(checked)}
    shares = {key: _shares(p.plan) for key, p in plans.items()}
    found = []
    for pieces in groups.values():
        first = pieces[0]
        m = first.member
        of = (first.section, m.material)
        mine = {(p.member.mark, round(p.blank, 3)) for p in pieces}
        bought = sum(shares[of].get(key, 0.0) for key in sorted(mine))
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
                bought,
                m.cuts,
                # What cannot be cut from anything sold has at least the price of its own length.
                (bought or len(pieces) * first.blank) * plans[of].price,
                marks,
                tuple(dict.fromkeys(p.member.id for p in pieces)),
            )
        )
    return tuple(sorted(found, key=lambda c: (c.section, c.material, -c.length, c.host, c.role)))


def _shares(plan: Plan) -> dict[tuple[str, float], float]:
    """How much of the boards that are bought goes to the pieces of each mark and length, mm."""
    found: dict[tuple[str, float], float] = {}
    for board in plan.boards:
        whole = sum(c.length for c in board.cuts)
        bought = 0.0 if board.at_hand else board.length
        for c in board.cuts:
            key = (c.mark, c.length)
            found[key] = found.get(key, 0.0) + bought * c.length / whole
    return found


UPRIGHTS_APART = 406.4
"""Between the uprights of a box header, mm (16 in)."""


def _of_box(m: Member, box: Box, depth: float) -> list[Piece]:
    """Two flanges, and uprights between them at both ends and between."""
    high = depth - 2 * box.thick
    count = max(2, 1 + math.ceil(m.length / UPRIGHTS_APART - SAME / UPRIGHTS_APART))
    flanges = [Piece(m, box.flange, m.length, m.blank)] * 2
    return flanges + [Piece(m, box.flange, high, high)] * count


def pieces_of(m: Member, sections: Mapping[str, Section], longest: float) -> list[Piece]:
    """What a member is cut from: itself, or its plies with their splices over supports; what carries nothing
    between its ends is joined of lengths that are sold."""
    section = sections[m.section]
    if section.box is not None:
        return _of_box(m, section.box, section.depth)
    if section.plies == 1:
        if section.product is None and not m.kind.spans and m.blank > longest + SAME:
            return [Piece(m, m.section, x, x) for x in _in_lengths(m.length, longest)]
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


LEAST_REST: Final = 1219.2
"""The last of several lengths is no shorter, mm (4 ft; common practice, no source)."""


def _in_lengths(length: float, longest: float) -> list[float]:
    """A long piece in as few lengths as it takes, the last no stub."""
    count = math.ceil((length - SAME) / longest)
    last = length - (count - 1) * longest
    if last >= LEAST_REST or count == 1:
        return [longest] * (count - 1) + [last]
    return [longest] * (count - 2) + [longest + last - LEAST_REST, LEAST_REST]
